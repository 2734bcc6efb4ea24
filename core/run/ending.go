package run

import (
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/phrase"
	"ornamen/core/shape"
)

// tailCell plays the tail where the last cell was; one of another kind begins at
// the last note, over the chord whose degree the last note is.
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
		if ok, err := fits(st, cell); err != nil {
			return err
		} else if !ok {
			return phrase.Wrong(phrase.CellText(b.tail.Kind, cell), "the tail does not fit where the run ends")
		}
		if err := b.play(st, cell, true); err != nil {
			return err
		}
	}
	return nil
}

func (b *builder) tailStation(last neck.Place) (station, error) {
	if b.tail.Kind == phrase.Chord {
		degree := music.Degree{Number: 1}
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

// pivotStation is the chord over whose root the last note is a degree.
func (b *builder) pivotStation(last neck.Place, d music.Degree) (station, error) {
	for _, t := range b.palette.Tones {
		semitones, err := b.overRoot(t.Name, d)
		if err != nil {
			continue
		}
		pitch := b.guitar.Pitch(last) - music.Pitch(semitones)
		if pitch.Class() != t.Name.Class() {
			continue
		}
		best, ok := neck.Place{}, false
		for _, at := range b.guitar.Places(pitch) {
			if at.Fret > 0 && (!ok || neck.Apart(at, last) < neck.Apart(best, last)) {
				best, ok = at, true
			}
		}
		if ok {
			return over{b.plan, best, t.Name, b.tail.Strings}, nil
		}
	}
	return nil, phrase.Wrong(d.String(), "the run's last note is that degree of no chord of the key")
}

// landing adds the note that the run ends on; what lies before its bar becomes
// the pick-up.
func (b *builder) landing() error {
	if b.land == nil || len(b.lick.Notes) == 0 {
		return nil
	}
	last := b.lick.Notes[len(b.lick.Notes)-1].Place()
	to, ok := b.landingPlace(last)
	if !ok {
		return phrase.Wrong(b.Land, "that degree does not lie on this neck")
	}
	b.lick.Notes = append(b.lick.Notes,
		lick.Note{At: b.at, Len: lick.NewTime(1, int64(b.lick.Meter.Unit)), String: to.String, Fret: to.Fret})
	b.run.Landing = len(b.lick.Notes)
	if b.land.beat > 0 {
		beat := lick.NewTime(int64(b.land.beat-1), int64(b.lick.Meter.Unit))
		// Modulo the bar, so that the landing falls on its beat of a later bar.
		bars, rest := b.at.Sub(beat).Div(b.lick.Meter.Bar())
		if rest.Before(lick.Time{}) || bars < 0 {
			rest = rest.Add(b.lick.Meter.Bar())
			_, rest = rest.Div(b.lick.Meter.Bar())
		}
		b.lick.Pickup = rest
	}
	return nil
}

// landingPlace is the degree nearest to the last note, in the layout if it has it
// there.
func (b *builder) landingPlace(last neck.Place) (neck.Place, bool) {
	class := b.land.degree.Over(b.palette.Tonic).Class()
	away := func(p music.Pitch) music.Pitch {
		d := p - b.guitar.Pitch(last)
		return max(d, -d)
	}
	var best *shape.Placed
	if placed, err := shape.Lay(b.guitar, b.palette, b.layout, b.at0()); err == nil && b.phrase.Kind != phrase.Chord &&
		b.move.kind != "position" &&
		b.move.kind != "octave" {
		for i, t := range placed {
			if t.Pitch.Class() != class {
				continue
			}
			if best == nil || away(t.Pitch) < away(best.Pitch) {
				best = &placed[i]
			}
		}
	}
	nearest, ok := shape.Nearest(b.guitar, class, last)
	if best != nil && away(best.Pitch) <= away(b.guitar.Pitch(nearest)) {
		return best.Place, true
	}
	return nearest, ok
}
