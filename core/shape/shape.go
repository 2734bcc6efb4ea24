package shape

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/hand"
	"ornamen/core/lick"
	"ornamen/core/load"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// Placed is one tone on the neck, with what a layout and the fingering have found of it.
type Placed struct {
	Place  neck.Place
	Pitch  music.Pitch
	Tone   music.Tone
	Finger lick.Finger // for the shape played up; NoFinger beyond reach
	Step   int         // tones of one step sound together (pairs)
	Slide  int         // the fret this tone is slid to from, 0 for none (joined positions)
	Bends  []Bend
}

// board is what a layout is laid on.
type board struct {
	guitar  neck.Guitar
	palette music.Palette
	ladder  map[int]*music.Tone // the tones it runs over, by pitch class
	at      neck.Place
	short   *error // why the neck ends before the layout does, set by lay
}

// newBoard is a neck with the tones that a layout runs over.
func newBoard(g neck.Guitar, p music.Palette, layout Layout) board {
	b := board{guitar: g, palette: p, ladder: map[int]*music.Tone{}, short: new(error)}
	for i, t := range p.Tones {
		if layout.everyTone() || t.Role != music.Colour {
			b.ladder[t.Name.Class()] = &p.Tones[i]
		}
	}
	return b
}

// Layout is a way to lay tones on the neck: a school.
type Layout interface {
	// Name writes the layout as ParseLayout reads it.
	Name() string
	// ladder says whether the layout runs over every tone, colours too, or over
	// the scale's tones with the colours added after.
	everyTone() bool
	lay(b board) ([]Placed, error)
}

// layouts are the kinds of layout: a prefix, how it reads what follows the colon, and how it is written.
var layouts = []struct {
	prefix, form string
	read         func(rest string) (Layout, error)
}{
	{"box", "box", func(string) (Layout, error) { return box{}, nil }},
	{"boxes", "boxes:1+2", readBoxes},
	{"3nps", "3nps", func(string) (Layout, error) { return counts{each: 3}, nil }},
	{"counts", "counts:3,1,3", readCounts},
	{"string", "string:3", readString},
	{"strings", "strings:3,2", readStrings},
	{"frets", "frets:5-9", readFrets},
	{"arp", "arp", func(string) (Layout, error) { return arp{}, nil }},
	{"spread", "spread", func(string) (Layout, error) { return spread{}, nil }},
	{"joined", "joined", func(string) (Layout, error) { return joined{}, nil }},
	{"pairs", "pairs:3,1:6", readPairs},
	{"places", "places:6:9,5:7", readPlaces},
}

// ParseLayout reads a layout by name.
// The error lists how each kind is written. Whether it fits a neck is found when it is laid.
func ParseLayout(s string) (Layout, error) {
	name, rest, _ := strings.Cut(strings.TrimSpace(s), ":")
	var forms []string
	for _, l := range layouts {
		if l.prefix == name {
			if (rest == "") == strings.Contains(l.form, ":") {
				return nil, fmt.Errorf("layout %q is written %s", s, l.form)
			}
			out, err := l.read(rest)
			if err != nil {
				return nil, fmt.Errorf("layout %q: %w; it is written like %s", s, err, l.form)
			}
			return out, nil
		}
		forms = append(forms, l.form)
	}
	return nil, fmt.Errorf("layout %q is none: use %s", s, strings.Join(forms, ", "))
}

// Default is the usual layout for a scale: an arpeggio for a chord's tones, boxes for up
// to six tones, three notes a string for seven and more.
func Default(s music.Scale) Layout {
	if s.Arpeggio() {
		return arp{}
	}
	if len(s.Degrees) <= 6 {
		return box{}
	}
	return counts{each: 3}
}

// LowestRoot is the lowest root on a string, the default place to start.
func LowestRoot(g neck.Guitar, p music.Palette, str int) neck.Place {
	fret := (p.Tonic.Class() - g.Tuning[str-1].Class() + 12) % 12
	return neck.Place{String: str, Fret: fret}
}

// Start is where a layout begins when the player names no place. A layout with strings or frets of its own begins
// there; another on the lowest root of the thickest string from which it can be laid, or where it can be laid from no
// root, on the lowest such tone. In D A D G B E the box of D minor pentatonic lies at fret 12: from the open string its
// third tone would need a fret below the nut. Where nothing can be laid it is the lowest root, and Lay says why.
func Start(g neck.Guitar, p music.Palette, l Layout) neck.Place {
	if own, ok := l.(interface{ start(b board) neck.Place }); ok {
		return own.start(newBoard(g, p, l))
	}
	root := LowestRoot(g, p, len(g.Tuning))
	frets := []int{root.Fret, root.Fret + 12}
	for fret := range g.Frets + 1 {
		frets = append(frets, fret)
	}
	for _, fret := range frets {
		at := neck.Place{String: root.String, Fret: fret}
		if _, err := Lay(g, p, l, at); err == nil {
			return at
		}
	}
	return root
}

// Begin is where a layout begins that is looked at and not played: one on a single string on its lowest tone, the
// open string if that is one; another where a run begins.
func Begin(g neck.Guitar, p music.Palette, l Layout) neck.Place {
	if one, ok := l.(oneString); ok && one.str <= len(g.Tuning) {
		for f := range g.Frets + 1 {
			at := neck.Place{String: one.str, Fret: f}
			if p.At(g.Pitch(at)).Role != music.Outside {
				return at
			}
		}
	}
	return Start(g, p, l)
}

// NearestStart is the start on the string of a place, nearest to it in frets, from which a layout
// can be laid; of two as near, the one toward the nut. ok is false where the string has none. It
// tries each fret, a shape laid out for each: well under a millisecond.
func NearestStart(g neck.Guitar, p music.Palette, layout Layout, at neck.Place) (start neck.Place, ok bool) {
	if at.String < 1 || at.String > len(g.Tuning) {
		return at, false
	}
	for d := range max(at.Fret, g.Frets) + 1 {
		for _, fret := range []int{at.Fret - d, at.Fret + d} {
			if fret < 0 || fret > g.Frets {
				continue
			}
			start := neck.Place{String: at.String, Fret: fret}
			if _, err := Lay(g, p, layout, start); err == nil {
				return start, true
			}
		}
	}
	return at, false
}

// Lay puts the palette on the neck from the lowest tone at a place. Layouts that run over the scale's tones take each
// colour pitch once, after: inside the frets of the shape if it can be, else one fret below, else one above. The tones
// come in rising order, or as the layout plays them.
//
// The error is a sentence: the start is none of the tones, or the neck ends before the layout does. The cost is a few
// looks at each fret of each string, 16 µs for three a string on a guitar.
func Lay(g neck.Guitar, p music.Palette, layout Layout, at neck.Place) ([]Placed, error) {
	placed, short, err := layOut(g, p, layout, at)
	if err = cmp.Or(err, short); err != nil {
		return nil, err
	}
	return placed, nil
}

// layOut is Lay for those who can do with less: where the neck ends before the layout does
// it gives the strings that it holds, and why there are no more.
func layOut(g neck.Guitar, p music.Palette, layout Layout, at neck.Place) (placed []Placed, short, err error) {
	if !g.Has(at) {
		return nil, nil, fmt.Errorf("%s is not on this neck: it has %d strings and %d frets", at.Notation(),
			len(g.Tuning), g.Frets)
	}
	b := newBoard(g, p, layout)
	b.at = at
	placed, err = layout.lay(b)
	if err != nil {
		return nil, nil, err
	}
	if len(placed) == 0 {
		return nil, nil, cmp.Or(*b.short, errors.New("this layout holds no tone there"))
	}
	if keepsOrder(layout) {
		return placed, *b.short, nil
	}
	if !layout.everyTone() {
		placed = addColours(b, placed)
	}
	// Of two places of one pitch the first is the one that a ladder of tones takes: within a few frets the one where
	// the hand need not stretch, along the neck the one it comes from.
	along := 1
	if _, ok := layout.(alongStrings); ok {
		along = -1
	}
	slices.SortFunc(placed, func(a, b Placed) int {
		return cmp.Or(cmp.Compare(a.Pitch, b.Pitch), along*cmp.Compare(a.Place.String, b.Place.String))
	})
	for i := range placed {
		placed[i].Step = i
	}
	return placed, *b.short, nil
}

// keepsOrder says whether a layout plays its tones in an order of its own and takes no colours
// beside them: sorted by pitch, a spread chord would no longer be one.
func keepsOrder(l Layout) bool {
	switch l.(type) {
	case pairs, spread:
		return true
	}
	return false
}

// needTone refuses a start that is no tone of the ladder.
func (b board) needTone() error {
	if b.ladder[b.guitar.Pitch(b.at).Class()] != nil {
		return nil
	}
	return fmt.Errorf("%s is %s, no tone of %s; on string %d they lie at %s", b.at.Notation(),
		b.palette.At(b.guitar.Pitch(b.at)).Name.Pretty(), b.palette.Pretty(), b.at.String, b.frets(b.at.String))
}

// frets lists where the ladder's tones lie on a string.
func (b board) frets(str int) string {
	var out []string
	for f := 0; f <= b.guitar.Frets; f++ {
		if b.ladder[b.guitar.Pitch(neck.Place{String: str, Fret: f}).Class()] != nil {
			out = append(out, strconv.Itoa(f))
		}
	}
	return strings.Join(out, " ")
}

// tone is the placed tone at a place, if the ladder has one there.
func (b board) tone(p neck.Place) (Placed, bool) {
	pitch := b.guitar.Pitch(p)
	t := b.ladder[pitch.Class()]
	if t == nil {
		return Placed{}, false
	}
	return Placed{Place: p, Pitch: pitch, Tone: *t}, true
}

// next is the ladder's next tone above a pitch.
func (b board) next(pitch music.Pitch) music.Pitch {
	for pitch++; b.ladder[pitch.Class()] == nil; pitch++ {
	}
	return pitch
}

// evenTime spaces a shape's tones for fingering, in ms; only ratios matter, so it
// is long enough that no move comes near to breaking.
const evenTime = 1000

// Finger gives the shape its fingers, played up once: by pitch, or string by string where it has a pitch twice. The
// tempo is even and slow, so that the fingers are those of the shape and not of haste; pairs are fingered as pairs, and
// a slide keeps its finger. The fingers are written into placed; the path says what each step asks, in the order in
// which the shape was played.
func Finger(m *hand.Model, placed []Placed) hand.Path {
	var events []hand.Event
	order := make([]int, len(placed))
	twice := false
	for i := range placed {
		order[i] = i
		twice = twice || i > 0 && placed[i].Pitch == placed[i-1].Pitch
	}
	if twice {
		slices.SortStableFunc(order, func(a, b int) int {
			x, y := placed[a].Place, placed[b].Place
			return cmp.Or(cmp.Compare(y.String, x.String), cmp.Compare(x.Fret, y.Fret))
		})
	}
	for i, k := range order {
		t := placed[k]
		touch := hand.Touch{Place: t.Place}
		if t.Slide > 0 {
			touch.Slur = lick.Slide
		}
		if i > 0 && placed[order[i-1]].Step == t.Step {
			last := &events[len(events)-1]
			last.Touches = append(last.Touches, touch)
			continue
		}
		events = append(events, hand.Event{Touches: []hand.Touch{touch}, Have: evenTime})
	}
	path := m.Solve(context.Background(), events, false, load.Slack)
	i := 0
	for _, s := range path.Steps {
		for _, f := range s.Fingers {
			placed[order[i]].Finger = f
			i++
		}
	}
	return path
}
