package shape

import (
	"cmp"
	"fmt"
	"slices"
	"sort"
	"strings"

	"ornamen/core/bend"
	"ornamen/core/hand"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/text"
)

// Spot is one place where a shape could lie, with what it asks there. Spots are compared by
// Score alone; the other numbers say why.
type Spot struct {
	At      neck.Place
	Key     music.Name
	Degree  music.Degree
	Force   neck.Newtons // hardest common full bend, 0 where the shape has none
	Reach   neck.MM      // widest distance between two tones of one string
	Narrow  neck.MM      // narrowest cell between neighbouring frets in use
	Score   float64      // 0 is effortless; the parts below added up
	Reasons []string     // what makes it hard, in words
}

// Weights of a spot's score (model defaults): a full bend as hard as three fingers hold counts 1, a reach at the limit
// of fingers 1 and 4 counts 1 more than a comfortable one, a cell half as wide as a fingertip counts 1.
const (
	heavyFrom   = 14.0 // N: half way from what two fingers hold to what three do
	crowdedHalf = 0.5
)

// Spots ranks the places of a layout, the best first: in this key every position along the neck, or with every key the
// one shape that starts at a place, moved through all keys with its palette. Each place is laid out anew and measured
// by itself, about a fret's count of layouts for one key and as many for all, as a shape has one key at a fret.
func Spots(g neck.Guitar, h hand.Hand, s bend.Strength, p music.Palette, layout Layout, at neck.Place,
	everyKey bool) []Spot {
	keys := []music.Name{p.Tonic}
	if everyKey {
		keys = nil
		for class := range 12 {
			keys = append(keys, keyName(p.Tonic, class))
		}
	}
	var out []Spot
	start, degree := at.String, p.At(g.Pitch(at)).Degree.Semitones()
	for _, key := range keys {
		q, err := music.NewPalette(key.String(), scaleText(p.Scale), holdTexts(p), dropTexts(p))
		if err != nil {
			continue
		}
		for f := 0; f <= g.Frets; f++ {
			at := neck.Place{String: start, Fret: f}
			t := q.At(g.Pitch(at))
			if t.Role == music.Outside || everyKey && (t.Degree.Semitones() != degree || f == 0) {
				continue
			}
			placed, err := Lay(g, q, layout, at)
			if err != nil {
				continue
			}
			if Long(layout) {
				// What goes on along the neck is judged by what lies under the hand.
				if f+longArea > g.Frets {
					continue
				}
				placed = slices.DeleteFunc(placed, func(t Placed) bool { return t.Place.Fret > f+longArea })
			}
			out = append(out, judgeSpot(g, h, s, q, placed, at))
		}
	}
	sort.SliceStable(out, func(i, j int) bool { return out[i].Score < out[j].Score })
	return out
}

// Spread chooses of ranked spots, the best first, so many that lie all over the neck: the best of every stretch of
// it before any second one, and the one that is chosen now always among them, last if it is no better.
func Spread(ranked []Spot, most int, now func(Spot) bool) []Spot {
	var out []Spot
	taken := map[int]int{}
	for round := 0; len(out) < most && round < most; round++ {
		for _, s := range ranked {
			zone := s.At.Fret / zoneFrets
			if taken[zone] == round && len(out) < most &&
				!slices.ContainsFunc(out, func(o Spot) bool { return o.At == s.At && o.Key == s.Key }) {
				taken[zone]++
				out = append(out, s)
			}
		}
	}
	slices.SortStableFunc(out, func(a, b Spot) int { return cmp.Compare(a.Score, b.Score) })
	return WithNow(out, ranked, most, now)
}

// zoneFrets is how long a stretch of the neck is.
const zoneFrets = 4

// WithNow are the first spots of a list, with the one that is chosen now in place of the last if it is not among them.
func WithNow(list, ranked []Spot, most int, now func(Spot) bool) []Spot {
	out := slices.Clone(list[:min(most, len(list))])
	if slices.ContainsFunc(out, now) {
		return out
	}
	if k := slices.IndexFunc(ranked, now); k >= 0 {
		out = append(out[:min(len(out), most-1)], ranked[k])
	}
	return out
}

// keyName spells a key as players would: the tonic itself, else with flats on the black keys that usually have them.
func keyName(tonic music.Name, class int) music.Name {
	if tonic.Class() == class {
		return tonic
	}
	usual := [12]string{"C", "C#", "D", "Eb", "E", "F", "F#", "G", "Ab", "A", "Bb", "B"}
	n, err := music.ParseName(usual[class])
	if err != nil {
		panic(err) // the table is ours
	}
	return n
}

// scaleText writes a scale as its degrees.
func scaleText(s music.Scale) string {
	return text.Join(s.Degrees, " ", music.Degree.String)
}

// holdTexts writes the added tones with where they are held to.
func holdTexts(p music.Palette) []string {
	var out []string
	for _, t := range p.Tones {
		if t.Role == music.Colour {
			out = append(out, t.Text())
		}
	}
	return out
}

// dropTexts writes the degrees that the palette leaves out of its scale.
func dropTexts(p music.Palette) []string {
	var out []string
	for _, d := range p.Scale.Degrees {
		if !p.Has(d) {
			out = append(out, d.String())
		}
	}
	return out
}

// Reach is the widest hold of a shape: between tones of one string, as across strings a hand can turn.
func Reach(g neck.Guitar, placed []Placed) (reach neck.MM) {
	for _, t := range placed {
		for _, o := range placed {
			if o.Place.String == t.Place.String && o.Place.Fret > 0 && t.Place.Fret > 0 {
				reach = max(reach, g.Press(t.Place.Fret)-g.Press(o.Place.Fret))
			}
		}
	}
	return reach
}

// HardestBend is the force of the hardest common full bend of a shape that AddBends has looked at, 0 where it has none.
func HardestBend(placed []Placed) (force neck.Newtons) {
	for _, t := range placed {
		for _, b := range t.Bends {
			if b.Semitones == 2 && b.Rating == Common {
				force = max(force, b.Push.Force)
			}
		}
	}
	return force
}

// judgeSpot measures what a shape asks at one place; see the weights above.
//
// Four things make a place hard, each 0 where it is no trouble and 1 where it is at its limit:
// the heaviest full bend that is common there, the widest stretch on a string, fingertips in
// cells narrower than themselves, a bend that runs off the edge. Low on the neck the first two
// weigh most, high up the third, so that the best places lie in between (common practice).
func judgeSpot(g neck.Guitar, h hand.Hand, s bend.Strength, p music.Palette, placed []Placed, at neck.Place) Spot {
	spot := Spot{At: at, Key: p.Tonic, Degree: p.At(g.Pitch(at)).Degree, Narrow: neck.MM(1e9)}
	edge := false
	spot.Reach = Reach(g, placed)
	for i, t := range placed {
		if t.Place.Fret > 0 {
			spot.Narrow = min(spot.Narrow, g.Cell(t.Place.Fret))
		}
		b := Bend{Semitones: 2, To: p.At(t.Pitch + 2)}
		if b.To.Role == music.Outside || rate(g, placed, i, b) != Common {
			continue
		}
		if push, ok := bend.Solve(g, t.Place, 2); ok {
			spot.Force = max(spot.Force, push.Force)
			thick := 2*t.Place.String <= len(g.Tuning)
			edge = edge || push.Way+bend.EdgeSpare > g.Room(t.Place.String, g.Press(t.Place.Fret), thick)
		}
	}
	add := func(score float64, reason string) {
		if score > 0 {
			spot.Score += score
			spot.Reasons = append(spot.Reasons, reason)
		}
	}
	force := float64(spot.Force)
	add((force-heavyFrom)/(float64(s.Three)-heavyFrom), "heavy bends")
	add(float64((spot.Reach-h.Comfort[hand.P14])/(h.Limit[hand.P14]-h.Comfort[hand.P14])), "a stretch")
	add((1-float64(spot.Narrow/hand.Fingertip))/crowdedHalf, "narrow frets")
	if edge {
		add(1, "a bend runs off the edge")
	}
	// Among easy places the lighter bends and the shorter reach go first.
	spot.Score += force/1000 + float64(spot.Reach)/10000
	return spot
}

// Words says in a phrase what a spot asks.
func (s Spot) Words() string {
	if len(s.Reasons) == 0 {
		return "easy"
	}
	return strings.Join(s.Reasons, ", ")
}

// ForceAlong is the force of a full bend at every fret of a string, from fret 1.
// In newtons at the fingertip; 0 where no full bend can be made.
func ForceAlong(g neck.Guitar, str int) []neck.Newtons {
	out := make([]neck.Newtons, 0, g.Frets)
	for f := 1; f <= g.Frets; f++ {
		push, _ := bend.Solve(g, neck.Place{String: str, Fret: f}, 2)
		out = append(out, push.Force)
	}
	return out
}

// String is for tests and logs.
func (s Spot) String() string {
	return fmt.Sprintf("%s %s %.1f N %.0f mm %.2f (%s)", s.At.Notation(), s.Key, s.Force, s.Reach, s.Score, s.Words())
}
