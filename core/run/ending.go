package run

import (
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/phrase"
	"ornamen/core/shape"
)

// tailCell plays the tail where the last cell was; one of another kind begins at the last note, over the chord whose
// degree the last note is. A tail that does not fit is refused rather than cut: it was named to be played whole.
func (b *builder) tailCell() error {
	if b.tail == nil || len(b.lick.Notes) == 0 {
		return nil
	}
	st, err := b.last, error(nil)
	if b.tail.Kind != b.phrase.Kind || b.pivot != nil {
		if st, err = b.tailStation(b.lick.Notes[len(b.lick.Notes)-1].Place()); err != nil {
			return err
		}
	}
	kind := b.phrase.Kind
	b.phrase.Kind = b.tail.Kind
	defer func() { b.phrase.Kind = kind }()
	for _, cell := range b.tail.Cells {
		ok, err := fits(st, cell)
		if w, in := st.(within); in {
			st = w.station
		}
		if r, on := st.(rung); on && !ok && err == nil {
			st = past{b.plan, r} // it may leave the layout that it ends
			ok, err = fits(st, cell)
		}
		switch {
		case err != nil:
			return err
		case !ok:
			return phrase.Wrong(phrase.CellText(b.tail.Kind, cell), "the tail does not fit where the run ends")
		}
		if err := b.play(st, cell, true); err != nil {
			return err
		}
	}
	return nil
}

// tailStation is where a tail of another kind than the cell is played: over the chord that the run's last note belongs
// to, on the last note's string, or with the last note as tone 1.
func (b *builder) tailStation(last neck.Place) (station, error) {
	if b.tail.Kind == phrase.Chord {
		degree := phrase.Tone{Degree: music.Degree{Number: 1}}
		if b.pivot != nil {
			degree = *b.pivot
		}
		return b.pivotStation(last, degree)
	}
	l, err := shape.NewLadder(b.guitar, b.palette, b.layout, b.at0(), b.down)
	if err != nil {
		return nil, err
	}
	if b.tail.Kind == phrase.Strings {
		for i, on := range l.ByString {
			if on[0].Place.String == last.String {
				return window{l, i, b.down}, nil
			}
		}
		return nil, phrase.Wrong(b.Tail, "the run ends on a string that the layout does not hold")
	}
	// Tone 1 of the tail is the run's last tone.
	return rung{l, l.IndexOf(b.guitar.Pitch(last))}, nil
}

// at0 is where the layout begins.
func (b *builder) at0() neck.Place { return b.plan.at }

// pivotStation is the chord over whose root the last note is a degree: every tone of the key is
// tried as a root, in the order of the scale, until the degree over it is the last note. As an
// example, in C a run that ends on E with the pivot 3 goes on over C; with the pivot 5 over A.
//
// A degree of the major scale, n3, is that many half steps whatever the key gives.
func (b *builder) pivotStation(last neck.Place, d phrase.Tone) (station, error) {
	for _, t := range b.palette.Tones {
		semitones := d.Degree.Semitones()
		if !d.Plain {
			var err error
			if semitones, err = b.overRoot(t.Name, d.Degree); err != nil {
				continue
			}
		}
		pitch := b.guitar.Pitch(last) - music.Pitch(semitones)
		if pitch.Class() != t.Name.Class() {
			continue
		}
		best, ok := b.guitar.Best(pitch, func(at neck.Place) int {
			if at.Fret == 0 {
				return neck.OutOfReach
			}
			return neck.Apart(at, last)
		})
		if ok {
			return over{plan: b.plan, root: best, name: t.Name, chord: lineChord{}, strings: b.tail.Strings}, nil
		}
	}
	return nil, phrase.Wrong(d.Text(phrase.Chord), "the run's last note is that degree of no chord of the key")
}
