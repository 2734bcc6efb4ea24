package turn

import (
	"fmt"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// Changed is a lick with one of its bends, or its tail, changed.
type Changed struct {
	What string // "a half step to the ♭5", "on string 2"
	Lick lick.Lick
}

// bendFrets is how far along the neck a bend may move to stay in its hand frame.
const bendFrets = 1

// OtherBends lists what else the bend of note i (counted from 0) could be in the
// same frame: another amount that leads to a chosen tone, or the bend of another
// tone on the same or a neighbouring string. Nothing is listed where the note is
// not bent or the lick has no tones.
func OtherBends(g neck.Guitar, l lick.Lick, i int) []Changed {
	if i < 0 || i >= len(l.Notes) || l.Notes[i].Bend == nil {
		return nil
	}
	p, ok := l.Palette()
	if !ok {
		return nil
	}
	g = g.WithTuning(l.Tuning)
	n := l.Notes[i]
	var out []Changed
	for ds := -1; ds <= 1; ds++ {
		for df := -bendFrets; df <= bendFrets; df++ {
			at := neck.Place{String: n.String + ds, Fret: n.Fret + df}
			if !g.Has(at) || at.Fret < 1 || p.At(g.Pitch(at)).Role == music.Outside {
				continue
			}
			for _, semitones := range []int{1, 2, 3} {
				target := p.At(g.Pitch(at) + music.Pitch(semitones))
				if target.Role == music.Outside || at == n.Place() && float64(semitones) == n.Bend.Semitones {
					continue
				}
				if changed, ok := rebent(l, i, at, semitones); ok {
					out = append(out, Changed{bentWords(n, p.At(g.Pitch(at)), target, at, semitones), changed})
				}
			}
		}
	}
	return out
}

// rebent moves and bends the note, its hands left open; ok is false where another
// note is in the way.
func rebent(l lick.Lick, i int, at neck.Place, semitones int) (lick.Lick, bool) {
	out := l.Clone()
	n := &out.Notes[i]
	if n.Place() != at {
		n.String, n.Fret, n.Slur = at.String, at.Fret, ""
		n.Finger, n.Bend.Push, n.Bend.With = lick.NoFinger, "", nil
	}
	n.Bend.Semitones = float64(semitones)
	n.Lock = []string{"bend"}
	out.Recipe = ""
	out.Sort()
	for k := range out.Notes {
		if j := out.Before(k); out.Notes[k].Slur != "" && j >= 0 {
			out.Notes[k].Slur = out.Notes[k].Slur.Between(out.Notes[j].Fret, out.Notes[k].Fret)
		} else if j < 0 && !out.Loop {
			out.Notes[k].Slur = ""
		}
	}
	return out, out.Validate() == nil
}

func bentWords(n lick.Note, from, to music.Tone, at neck.Place, semitones int) string {
	amount := [...]string{"", "half", "full", "one and a half"}[semitones]
	if at == n.Place() {
		return fmt.Sprintf("A %s bend to the %s", amount, to.Degree.Pretty())
	}
	return fmt.Sprintf("The %s at fret %d on string %d, bent %s to the %s", from.Degree.Pretty(), at.Fret, at.String,
		amount, to.Degree.Pretty())
}
