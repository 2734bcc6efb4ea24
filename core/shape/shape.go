// Package shape lays chosen tones on the neck: which string and fret each tone
// takes, the finger that plays it, and the bends it offers.
package shape

import (
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/bend"
	"ornamen/core/hand"
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// Placed is one tone on the neck.
type Placed struct {
	Place  neck.Place
	Pitch  music.Pitch
	Tone   music.Tone
	Finger lick.Finger // for the shape played up; NoFinger beyond reach
	Bends  []Bend
}

// Layout is how many tones each string takes, from the starting string toward
// the thin ones. Boxes and three notes a string are cases of it.
type Layout struct {
	Name   string
	counts []int // empty: the same number on every string
	each   int
	box    bool
}

// ParseLayout reads box, 3nps or counts:3,1,3.
func ParseLayout(s string) (Layout, error) {
	switch {
	case s == "box":
		return Layout{Name: s, each: 2, box: true}, nil
	case s == "3nps":
		return Layout{Name: s, each: 3}, nil
	case strings.HasPrefix(s, "counts:"):
		l := Layout{Name: s}
		for _, w := range strings.Split(strings.TrimPrefix(s, "counts:"), ",") {
			n, err := strconv.Atoi(strings.TrimSpace(w))
			if err != nil || n < 0 || n > 12 {
				return Layout{}, fmt.Errorf("layout %q: %q is not a number of tones for a string, 0 to 12", s, w)
			}
			l.counts = append(l.counts, n)
		}
		return l, nil
	}
	return Layout{}, fmt.Errorf("layout %q is none: use box, 3nps or counts:3,2,3", s)
}

// Default is the usual layout for a scale: boxes for up to six tones, three
// notes a string for seven and more.
func Default(s music.Scale) Layout {
	if len(s.Degrees) <= 6 {
		return Layout{Name: "box", each: 2, box: true}
	}
	return Layout{Name: "3nps", each: 3}
}

// LowestRoot is the lowest root on a string, the default place to start.
func LowestRoot(g neck.Guitar, p music.Palette, str int) neck.Place {
	fret := (p.Tonic.Class() - g.Tuning[str-1].Class() + 12) % 12
	return neck.Place{String: str, Fret: fret}
}

// Lay puts the palette on the neck from the lowest tone at a place. The counts
// run over the scale's tones; then each colour pitch is added once: inside the
// frets of the shape if it can be, else one fret below, else one above.
func Lay(g neck.Guitar, p music.Palette, layout Layout, at neck.Place) ([]Placed, error) {
	if !g.Has(at) {
		return nil, fmt.Errorf("%s is not on this neck: it has %d strings and %d frets", at.Notation(), len(g.Tuning), g.Frets)
	}
	ladder := ladderOf(p, layout)
	if layout.box && len(ladder) > 6 {
		return nil, fmt.Errorf("boxes hold pentatonic and blues scales; for the %d tones of %s use 3nps or counts", len(ladder), p.Scale.Name)
	}
	if ladder[g.Pitch(at).Class()] == nil {
		return nil, fmt.Errorf("%s is %s, no tone of %s; on string %d they lie at %s", at.Notation(), p.At(g.Pitch(at)).Name.Pretty(), p.Pretty(), at.String, fretsOf(g, ladder, at.String))
	}
	placed, err := layScale(g, ladder, layout, at)
	if err != nil {
		return nil, err
	}
	placed = addColours(g, p, ladder, placed)
	if len(placed) == 0 {
		return nil, errors.New("this layout holds no tone")
	}
	slices.SortFunc(placed, func(a, b Placed) int {
		if a.Pitch != b.Pitch {
			return int(a.Pitch - b.Pitch)
		}
		return b.Place.String - a.Place.String
	})
	return placed, nil
}

// ladderOf is the scale's tones by pitch class. In a box the blue note of a
// blues scale is a colour in its pentatonic, as players see it.
func ladderOf(p music.Palette, layout Layout) map[int]*music.Tone {
	ladder := map[int]*music.Tone{}
	for i, t := range p.Tones {
		if t.Role != music.Colour && !(layout.box && blueNote(p, t)) {
			ladder[t.Name.Class()] = &p.Tones[i]
		}
	}
	return ladder
}

func blueNote(p music.Palette, t music.Tone) bool {
	switch p.Scale.Name {
	case "blues":
		return t.Degree.Semitones() == 6
	case "major blues":
		return t.Degree.Semitones() == 3
	}
	return false
}

func fretsOf(g neck.Guitar, ladder map[int]*music.Tone, str int) string {
	var out []string
	for f := 0; f <= g.Frets; f++ {
		if ladder[g.Pitch(neck.Place{String: str, Fret: f}).Class()] != nil {
			out = append(out, strconv.Itoa(f))
		}
	}
	return strings.Join(out, " ")
}

func layScale(g neck.Guitar, ladder map[int]*music.Tone, layout Layout, at neck.Place) ([]Placed, error) {
	var out []Placed
	pitch := g.Pitch(at)
	if n := len(layout.counts); n > at.String {
		return nil, fmt.Errorf("there are %d strings from string %d on, but %d counts", at.String, at.String, n)
	}
	for s := at.String; s >= 1; s-- {
		n := layout.each
		if layout.counts != nil {
			if at.String-s >= len(layout.counts) {
				break
			}
			n = layout.counts[at.String-s]
		}
		for range n {
			place := neck.Place{String: s, Fret: int(pitch - g.Tuning[s-1])}
			if !g.Has(place) {
				return nil, fmt.Errorf("laid out from %s, string %d would need fret %d; this neck has 0 to %d", at.Notation(), s, place.Fret, g.Frets)
			}
			out = append(out, Placed{Place: place, Pitch: pitch, Tone: *ladder[pitch.Class()]})
			for pitch++; ladder[pitch.Class()] == nil; pitch++ {
			}
		}
	}
	return out, nil
}

func addColours(g neck.Guitar, p music.Palette, ladder map[int]*music.Tone, scale []Placed) []Placed {
	if len(scale) == 0 {
		return nil
	}
	box := boundsOf(scale)
	taken := map[music.Pitch]bool{}
	lowestRoot := music.Pitch(-1)
	for _, t := range scale {
		taken[t.Pitch] = true
		if t.Tone.Role == music.Root && (lowestRoot < 0 || t.Pitch < lowestRoot) {
			lowestRoot = t.Pitch
		}
	}
	out := slices.Clone(scale)
	for pitch := music.Pitch(0); pitch <= music.MaxPitch; pitch++ {
		t := p.At(pitch)
		if t.Role == music.Outside || ladder[pitch.Class()] != nil || taken[pitch] || !holds(t.Hold, pitch, lowestRoot) {
			continue
		}
		if place, ok := box.colourPlace(g, pitch); ok {
			t.Role = music.Colour
			out = append(out, Placed{Place: place, Pitch: pitch, Tone: t})
		}
	}
	return out
}

// holds says whether a tone that is held to a part of the line may stand at the
// pitch. Up and down are for the line to keep; the place is shown.
func holds(h music.Hold, pitch, lowestRoot music.Pitch) bool {
	switch {
	case lowestRoot < 0:
		return h.Octave == 0 && h.Only != "below"
	case h.Only == "below":
		return pitch < lowestRoot
	case h.Octave > 0:
		return pitch >= lowestRoot && int(pitch-lowestRoot)/12+1 == h.Octave
	}
	return true
}

// bounds are the frets and strings of a shape, and each string's own frets.
type bounds struct {
	lo, hi, thin, thick int
	string              map[int][2]int
}

func boundsOf(scale []Placed) bounds {
	b := bounds{lo: neck.MaxFrets + 1, thin: neck.MaxStrings + 1, string: map[int][2]int{}}
	for _, t := range scale {
		f, s := t.Place.Fret, t.Place.String
		b.lo, b.hi, b.thin, b.thick = min(b.lo, f), max(b.hi, f), min(b.thin, s), max(b.thick, s)
		r, ok := b.string[s]
		if !ok {
			r = [2]int{f, f}
		}
		b.string[s] = [2]int{min(r[0], f), max(r[1], f)}
	}
	return b
}

// colourPlace chooses the place of a colour pitch: inside the shape's frets,
// else one fret below, else one above. Where two places serve alike, the one
// between its string's own tones is taken, then the lower fret.
func (b bounds) colourPlace(g neck.Guitar, pitch music.Pitch) (neck.Place, bool) {
	best, bestRank := neck.Place{}, 1<<30
	for _, p := range g.Places(pitch) {
		if p.String < b.thin || p.String > b.thick {
			continue
		}
		rank := 0
		switch {
		case p.Fret == b.lo-1:
			rank = 1000
		case p.Fret == b.hi+1:
			rank = 2000
		case p.Fret < b.lo || p.Fret > b.hi:
			continue
		}
		if own, ok := b.string[p.String]; !ok || p.Fret < own[0] || p.Fret > own[1] {
			rank += 100
		}
		if rank += p.Fret; rank < bestRank {
			best, bestRank = p, rank
		}
	}
	return best, bestRank < 1<<30
}

// evenTime spaces a shape's tones for fingering, in ms; only ratios matter.
const evenTime = 150

// Finger gives the shape its fingers, played up once.
func Finger(m *hand.Model, placed []Placed) {
	events := make([]hand.Event, len(placed))
	for i, t := range placed {
		events[i] = hand.Event{Touches: []hand.Touch{{Place: t.Place}}, Have: evenTime}
	}
	for i, s := range m.Solve(events, false, hand.Slack).Steps {
		placed[i].Finger = s.Fingers[0]
	}
}

// Bend is one bend that a place offers.
type Bend struct {
	To        music.Tone
	Pitch     music.Pitch
	Semitones int
	Push      bend.Push
	Fingers   int
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
	Hard    Rating = "hard"
	OffEdge Rating = "off the edge"
)

// maxBend is the largest bend offered, in half steps.
const maxBend = 4

// AddBends finds every bend of the shape to a tone of the palette.
func AddBends(g neck.Guitar, s bend.Strength, p music.Palette, placed []Placed) {
	for i := range placed {
		placed[i].Bends = bendsOf(g, s, p, placed, i)
	}
}

func bendsOf(g neck.Guitar, strength bend.Strength, p music.Palette, placed []Placed, i int) []Bend {
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
		b.Rating = rate(placed, i, b)
		helpers := max(0, int(t.Finger)-1)
		if !t.Finger.Fretting() {
			helpers = 0
		}
		b.Fingers = fingersFor(strength, int(t.Finger), helpers, b)
		if push.Force > strength.Of(int(t.Finger), helpers) {
			b.Rating = Hard
		}
		if push.Way+bend.EdgeSpare > room {
			b.Rating = OffEdge
		}
		for _, h := range []neck.Place{{String: t.Place.String, Fret: t.Place.Fret + semi}, {String: t.Place.String - 1, Fret: hearNext(g, t.Place.String-1, b.Pitch)}} {
			if g.Has(h) {
				b.Hear = append(b.Hear, h)
			}
		}
		out = append(out, b)
	}
	return out
}

func hearNext(g neck.Guitar, str int, pitch music.Pitch) int {
	if str < 1 {
		return -1
	}
	return int(pitch - g.Tuning[str-1])
}

// rate is common for a full step from the upper of two tones on a string and
// for a half step to the next scale tone (common practice), else usable.
func rate(placed []Placed, i int, b Bend) Rating {
	t := placed[i]
	if b.Semitones == 1 && t.Tone.Role != music.Colour && b.To.Role != music.Colour {
		return Common
	}
	if b.Semitones != 2 || t.Tone.Role == music.Colour {
		return Usable
	}
	below := 0
	for _, o := range placed {
		if o.Place.String == t.Place.String && o.Tone.Role != music.Colour {
			if o.Place.Fret > t.Place.Fret {
				return Usable
			}
			if o.Place.Fret < t.Place.Fret {
				below++
			}
		}
	}
	if below == 1 {
		return Common
	}
	return Usable
}

// fingersFor is how many fingers push: one for a half step, helpers behind it
// for more, as many as the force asks for (common practice).
func fingersFor(s bend.Strength, finger, helpers int, b Bend) int {
	n := 0
	if b.Semitones >= 2 {
		n = min(1, helpers)
	}
	for n < min(helpers, 2) && b.Push.Force > s.Of(finger, n) {
		n++
	}
	return n + 1
}

// Nearest finds the place of a pitch class nearest to a place: the fewest half
// steps away, then the nearest fret, then the nearest string. ok is false where
// the tone does not lie on the neck.
func Nearest(g neck.Guitar, class int, from neck.Place) (best neck.Place, ok bool) {
	least := 1 << 30
	for s := 1; s <= len(g.Tuning); s++ {
		for f := 0; f <= g.Frets; f++ {
			p := neck.Place{String: s, Fret: f}
			if g.Pitch(p).Class() != class {
				continue
			}
			away := 1000*abs(int(g.Pitch(p)-g.Pitch(from))) + 10*abs(f-from.Fret) + abs(s-from.String)
			if away < least {
				best, least, ok = p, away, true
			}
		}
	}
	return best, ok
}

func abs(n int) int {
	if n < 0 {
		return -n
	}
	return n
}
