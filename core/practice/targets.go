package practice

import (
	"slices"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/shape"
)

// Target is a bend to practise by ear: from a place, so many half steps, to a tone of the palette.
type Target struct {
	From      neck.Place
	Semitones int
	To        music.Tone
}

// Targets are bends that the tones of a part offer beside those it is written with: of each of half a step, a full step
// and a step and a half the first that the player's fingers hold and that is usual there (shape's rating), from the
// places of the line itself. At most three, by rising size.
func Targets(e *judge.Engine, l lick.Lick, p Part) (out []Target) {
	g := e.Guitar(l)
	var placed []shape.Placed
	for _, n := range l.Notes[p.From-1 : p.To] {
		palette, ok := l.PaletteAt(n.At)
		seen := slices.ContainsFunc(placed, func(o shape.Placed) bool { return o.Place == n.Place() })
		if !ok || n.Fret == 0 || n.Voice == lick.VoiceBass || seen {
			continue
		}
		pitch := g.Pitch(n.Place())
		placed = append(placed, shape.Placed{Place: n.Place(), Pitch: pitch, Tone: palette.At(pitch)})
	}
	palette, ok := l.Palette()
	if !ok || len(placed) == 0 {
		return nil
	}
	slices.SortFunc(placed, func(a, b shape.Placed) int { return int(a.Pitch - b.Pitch) })
	shape.Finger(e.Hand(g), placed)
	shape.AddBends(g, e.Player, palette, placed)
	for semitones := 1; semitones <= 3; semitones++ {
		best, rank := Target{}, 0
		for _, t := range placed {
			for _, b := range t.Bends {
				worth := map[shape.Rating]int{shape.Common: 3, shape.Usable: 2, shape.Wide: 2}[b.Rating]
				if b.Semitones == semitones && worth > rank && !written(l, p, t.Place, semitones) {
					best, rank = Target{t.Place, semitones, b.To}, worth
				}
			}
		}
		if rank > 0 {
			out = append(out, best)
		}
	}
	return out
}

// written says whether a part bends a place so far already.
func written(l lick.Lick, p Part, at neck.Place, semitones int) bool {
	return slices.ContainsFunc(l.Notes[p.From-1:p.To], func(n lick.Note) bool {
		return n.Bend != nil && n.Place() == at && n.Bend.Semitones == float64(semitones)
	})
}
