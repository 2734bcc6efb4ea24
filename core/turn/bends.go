package turn

import (
	"cmp"
	"fmt"
	"slices"

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

// OtherBends lists what else the bend of note i (counted from 0) could be in the same frame: another amount, or the
// bend of another tone on the same or a neighbouring string. Usual targets come first: full steps before halves before
// one and a half, root, fourth and fifth before the others, then the colours that neighbouring scales offer; any other
// tone outside is offered from the same place, as the colour it brings. The bend changes wherever the line repeats it.
// Nothing is listed where the note is not bent or the lick has no tones.
//
// A frame is the place itself, the frets next to it and the strings next to it: nine places with three sizes each.
func OtherBends(g neck.Guitar, l lick.Lick, i int) []Changed {
	if i < 0 || i >= len(l.Notes) || l.Notes[i].Bend == nil {
		return nil
	}
	p, ok := l.PaletteAt(l.Notes[i].At)
	if !ok {
		return nil
	}
	g = g.WithTuning(l.Tuning)
	n := l.Notes[i]
	type ranked struct {
		Changed
		rank int
	}
	var list []ranked
	for ds := -1; ds <= 1; ds++ {
		for df := -bendFrets; df <= bendFrets; df++ {
			at := neck.Place{String: n.String + ds, Fret: n.Fret + df}
			if !g.Has(at) || at.Fret < 1 || p.At(g.Pitch(at)).Role == music.Outside {
				continue
			}
			for _, semitones := range []int{1, 2, 3} {
				target := p.At(g.Pitch(at) + music.Pitch(semitones))
				outside := target.Role == music.Outside
				if outside && at != n.Place() && !neighbouring(p, target) ||
					at == n.Place() && float64(semitones) == n.Bend.Semitones {
					continue
				}
				changed, ok := rebent(l, i, at, semitones)
				if !ok {
					continue
				}
				words := bentWords(n, p.At(g.Pitch(at)), target, at, semitones)
				if outside {
					words += ", a colour from outside"
				}
				list = append(list, ranked{Changed{words, changed}, bendRank(p, n, target, at, semitones)})
			}
		}
	}
	slices.SortStableFunc(list, func(a, b ranked) int { return cmp.Compare(a.rank, b.rank) })
	out := make([]Changed, len(list))
	for k, x := range list {
		out[k] = x.Changed
	}
	return out
}

// neighbouring says whether a tone outside is a colour that the scales next to a key of five or six tones offer: the 9,
// the 6 and the major third over a minor one, the ♭3, the 4 and the ♭7 over a major one (common practice).
func neighbouring(p music.Palette, t music.Tone) bool {
	colours := []int{3, 5, 10}
	if p.Minor() {
		colours = []int{2, 4, 9}
	}
	return t.Role == music.Outside && len(p.Scale.Degrees) < 7 && slices.Contains(colours, t.Degree.Semitones())
}

// bendRank orders other bends, the usual ones first (common practice).
func bendRank(p music.Palette, n lick.Note, target music.Tone, at neck.Place, semitones int) int {
	rank := [...]int{0, 10, 0, 40}[semitones]
	switch {
	case neighbouring(p, target):
		rank += 60
	case target.Role == music.Outside:
		rank += 100
	case !slices.Contains([]int{1, 4, 5}, target.Degree.Number):
		rank += 4
	}
	if at != n.Place() {
		rank += 2 * neck.Apart(at, n.Place())
	}
	return rank
}

// rebent moves and bends the note, its hands left open, and with it every note that repeats
// it; ok is false where another note is in the way.
func rebent(l lick.Lick, i int, at neck.Place, semitones int) (lick.Lick, bool) {
	out := l.Clone()
	was := l.Notes[i]
	for k := range out.Notes {
		n := &out.Notes[k]
		if n.Place() != was.Place() || n.Bend == nil || n.Bend.Semitones != was.Bend.Semitones ||
			n.Bend.Shape != was.Bend.Shape {
			continue
		}
		if n.Place() != at {
			n.String, n.Fret, n.Slur = at.String, at.Fret, ""
			n.Finger, n.Bend.Push, n.Bend.With = lick.NoFinger, "", nil
		}
		n.Bend.Semitones = float64(semitones)
		n.Lock = lick.LockSet{lick.FieldBend}
	}
	out.ForgetRecipes()
	out.Sort()
	out.FitSlurs()
	return out, out.Validate() == nil
}

// bentWords says what the other bend is: from which tone, how far, to which one.
func bentWords(n lick.Note, from, to music.Tone, at neck.Place, semitones int) string {
	amount := [...]string{"", "half", "full", "one and a half"}[semitones]
	if at == n.Place() {
		return fmt.Sprintf("A %s bend to the %s", amount, to.Degree.Pretty())
	}
	return fmt.Sprintf("The %s at fret %d on string %d, bent %s to the %s", from.Degree.Pretty(), at.Fret, at.String,
		amount, to.Degree.Pretty())
}
