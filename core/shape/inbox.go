package shape

import (
	"slices"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// BoxSpan is a stretch of notes [From, To), counted from 0, that lies in one box of a key of five or six tones.
type BoxSpan struct {
	From, To int
	Box      int // counted from the minor root
	Major    int // the same box counted from the major root
	Fret     int // its lowest
}

// BoxSpans says in which box each note of a line lies: in one as long as the line stays there, then in the one that
// holds it longest from there on, the nearest of those that hold it as long. Tones outside the key go with what they
// stand beside. A line without a key, or in one of seven tones, has none, and neither has one on a single note.
//
// As an example, 6:5 6:8 5:5 5:7 5:10 4:7 4:10 in A minor pentatonic is in box 1 for four notes, then in box 2.
func BoxSpans(g neck.Guitar, l lick.Lick) (out []BoxSpan) {
	g = g.WithTuning(l.Tuning)
	type held struct {
		BoxSpan
		places map[neck.Place]bool
	}
	var of lick.Key
	var boxes []held
	for i := 0; i < len(l.Notes); {
		at := l.Notes[i].At
		p, ok := l.PaletteAt(at)
		if !ok || len(p.Scale.Degrees) >= 7 {
			i++
			continue
		}
		if k := l.KeyAt(at); boxes == nil || k.Tonic != of.Tonic || k.Scale != of.Scale {
			of, boxes = k, nil
			for f := range g.Frets + 1 {
				start := neck.Place{String: len(g.Tuning), Fret: f}
				placed, err := Lay(g, p, box{}, start)
				if err != nil {
					continue
				}
				if pos := PositionOf(g, p, box{}, placed); pos.Minor > 0 {
					b := held{BoxSpan{Box: pos.Minor, Major: pos.Major, Fret: boundsOf(placed).lo}, map[neck.Place]bool{}}
					for _, t := range placed {
						b.places[t.Place] = true
					}
					boxes = append(boxes, b)
				}
			}
		}
		// A note that is outside the key or in no box at all is passed over.
		inKey := func(k int) bool { return p.At(l.Pitch(k)).Role != music.Outside && l.Notes[k].Fret > 0 }
		best, reach, start := held{}, i, false
		for _, b := range boxes {
			to, some := i, false
			for ; to < len(l.Notes); to++ {
				if q, ok := l.PaletteAt(l.Notes[to].At); !ok || q.Tonic != p.Tonic || q.Scale.Name != p.Scale.Name {
					break
				}
				if inKey(to) && !b.places[l.Notes[to].Place()] {
					break
				}
				some = some || inKey(to)
			}
			near := len(out) > 0 && start && abs(b.Fret-out[len(out)-1].Fret) < abs(best.Fret-out[len(out)-1].Fret)
			if some && (to > reach || to == reach && near) {
				best, reach, start = b, to, true
			}
		}
		if reach == i {
			i++
			continue
		}
		best.From, best.To = i, reach
		if k := len(out) - 1; k >= 0 && out[k].Box == best.Box && out[k].Fret == best.Fret {
			out[k].To = reach
		} else {
			out = append(out, best.BoxSpan)
		}
		i = reach
	}
	return slices.Clip(out)
}
