package shape

import (
	"slices"

	"ornamen/core/bend"
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/player"
)

// Bend is one bend that a place offers.
type Bend struct {
	To        music.Tone
	Pitch     music.Pitch
	Semitones int
	Push      bend.Push
	Finger    lick.Finger   // that bends, as the player does
	With      []lick.Finger // behind it, the nearest first
	Rating    Rating
	ToThick   bool
	Hear      []neck.Place // where to hear the target first
}

// Rating is how good a bend is.
type Rating string

// The ratings. Hard and off the edge overrule.
const (
	Common  Rating = "common"
	Usable  Rating = "usable"
	Wide    Rating = "wide" // a step and a half or two, where the fingers hold it
	Hard    Rating = "hard"
	OffEdge Rating = "off the edge"
)

// maxBend is the largest bend offered, in half steps.
const maxBend = 4

// AddBends finds every bend of the shape to a tone of the palette. Fingers must be there already, as what a finger
// holds depends on those behind it. Each bend of each tone costs a solution of the push, sixty steps of a bisection.
func AddBends(g neck.Guitar, pl player.Player, p music.Palette, placed []Placed) {
	for i := range placed {
		placed[i].Bends = bendsOf(g, pl, p, placed, i)
	}
}

// bendsOf finds the bends of tone i, by rising size: the push that each takes, how usual it is,
// whose fingers, where its target is heard. What the fingers cannot hold is hard, what runs
// over the edge off it, whatever it would be by its target.
func bendsOf(g neck.Guitar, pl player.Player, p music.Palette, placed []Placed, i int) []Bend {
	t := placed[i]
	var out []Bend
	for semi := 1; semi <= maxBend; semi++ {
		target := p.At(t.Pitch + music.Pitch(semi))
		push, ok := bend.Solve(g, t.Place, float64(semi))
		if target.Role == music.Outside || !ok {
			continue
		}
		b := Bend{To: target, Pitch: t.Pitch + music.Pitch(semi), Semitones: semi, Push: push}
		b.ToThick = 2*t.Place.String <= len(g.Tuning)
		room := g.Room(t.Place.String, g.Press(t.Place.Fret), b.ToThick)
		b.Finger, b.With = pl.BendsWith(t.Finger, float64(semi), t.Place.Fret, push)
		b.Rating = rate(g, placed, i, b)
		if push.Force > pl.Bends.Of(int(b.Finger), len(b.With)) {
			b.Rating = Hard
		}
		if push.Way+bend.EdgeSpare > room {
			b.Rating = OffEdge
		}
		for _, h := range []neck.Place{{String: t.Place.String, Fret: t.Place.Fret + semi}, {String: t.Place.String - 1,
			Fret: hearNext(g, t.Place.String-1, b.Pitch)}} {
			if g.Has(h) {
				b.Hear = append(b.Hear, h)
			}
		}
		out = append(out, b)
	}
	return out
}

// hearNext is the fret of a pitch on a string, −1 where there is no such string.
func hearNext(g neck.Guitar, str int, pitch music.Pitch) int {
	if str < 1 {
		return -1
	}
	return int(pitch - g.Tuning[str-1])
}

// rate says how usual a bend is (common practice), forces aside. Common are bends of a plain string by a finger that
// has others behind it: a half step to the next tone of the scale or to a colour note, a full step from the upper of
// two tones on a string, and one to root, fourth or fifth from any but the lowest tone where there are more. What
// reaches farther is wide, whatever its target; the rest is usable.
func rate(g neck.Guitar, placed []Placed, i int, b Bend) Rating {
	t := placed[i]
	switch {
	case b.Semitones > 2:
		return Wide
	case g.Strings[t.Place.String-1].Wound || b.Finger == lick.Index || t.Tone.Role == music.Colour:
		return Usable
	case b.Semitones == 1:
		return Common
	case b.To.Role == music.Colour:
		return Usable
	}
	below, above := 0, 0
	for _, o := range placed {
		if o.Place.String == t.Place.String && o.Tone.Role != music.Colour {
			if o.Place.Fret > t.Place.Fret {
				above++
			} else if o.Place.Fret < t.Place.Fret {
				below++
			}
		}
	}
	if below == 1 && above == 0 || below > 0 && slices.Contains([]int{1, 4, 5}, b.To.Degree.Number) {
		return Common
	}
	return Usable
}
