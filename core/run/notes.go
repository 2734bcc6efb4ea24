package run

import (
	"fmt"
	"slices"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/phrase"
)

// taken says whether one of the places lies on the string.
func taken(places []neck.Place, str int) bool {
	return slices.ContainsFunc(places, func(p neck.Place) bool { return p.String == str })
}

// elsewhere finds the same pitch on a string that is free, near the tones that sound with it.
func (b *builder) elsewhere(at neck.Place, with []neck.Place) (neck.Place, bool) {
	return b.guitar.Best(b.guitar.Pitch(at), func(p neck.Place) int {
		for _, w := range with {
			if p.String == w.String || p.Fret-w.Fret > chordSpan || w.Fret-p.Fret > chordSpan {
				return neck.OutOfReach
			}
		}
		return neck.Apart(p, with[0])
	})
}

// slur sets how the note is reached from the one before it, where that sounds up to it on the
// same string at another fret; anywhere else the slur of the step is passed over, as the cell
// crosses a string there, and the note is picked. A hammer that would fall becomes a pull.
func (b *builder) slur(n *lick.Note, s phrase.Step, f sounded) {
	slur := s.Slur
	for _, i := range b.column {
		m := b.lick.Notes[i]
		if m.String != n.String || m.Fret == n.Fret || m.End().Cmp(n.At) != 0 {
			continue
		}
		switch {
		case slur == "" && f.slideFrom == m.Fret && f.slideFrom > 0 && n.Fret > 0:
			n.Slur = lick.Slide
		default:
			n.Slur = slur.Between(m.Fret, n.Fret)
		}
	}
	if n.Slur.Slurred() && n.Stroke != "" {
		n.Stroke, n.Lock = "", nil
	}
}

// bend gives the note the bend of its step: an amount, or the way to a tone that the station knows.
func (b *builder) bend(n *lick.Note, st station, s phrase.Step, index int, before []neck.Place) error {
	semitones := s.Bend.Semitones
	if semitones == 0 {
		to, err := st.find(s.Bend.To, index, before)
		if err != nil {
			return err
		}
		semitones = float64(b.guitar.Pitch(to[0].place) - b.guitar.Pitch(n.Place()))
	}
	word := s.Text(b.phrase.Kind)
	switch {
	case semitones < 0.5 || semitones > 4:
		return phrase.Wrong(word, fmt.Sprintf("a bend rises by up to 4 half steps, this one by %g", semitones))
	case n.Fret == 0:
		return phrase.Wrong(word, "it falls on an open string, which cannot be bent")
	}
	n.Bend = &lick.Bend{Semitones: semitones, Shape: lick.BendUp}
	if s.Bend.Release {
		n.Bend.Shape = lick.BendRelease
	}
	return nil
}
