package shape

import (
	"fmt"
	"strings"
	"testing"

	"ornamen/core/bend"
	"ornamen/core/hand"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/player"
)

func lay(t *testing.T, key, layout, at string, add ...string) []Placed {
	t.Helper()
	p, err := music.ParseKey(key, add, nil)
	if err != nil {
		t.Fatal(err)
	}
	l, err := ParseLayout(layout)
	if err != nil {
		t.Fatal(err)
	}
	var place neck.Place
	fmt.Sscanf(at, "%d:%d", &place.String, &place.Fret)
	out, err := Lay(neck.Standard(), p, l, place)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

func draw(placed []Placed) string {
	rows := map[int][]string{}
	for _, t := range placed {
		f := fmt.Sprint(t.Place.Fret)
		if t.Tone.Role == music.Colour {
			f += "*"
		}
		rows[t.Place.String] = append(rows[t.Place.String], f)
	}
	var out []string
	for s := 9; s > 0; s-- {
		if rows[s] != nil {
			out = append(out, strings.Join(rows[s], " "))
		}
	}
	return strings.Join(out, ", ")
}

// Common practice: the shapes every player knows, in standard tuning.
func TestUsualShapes(t *testing.T) {
	for _, c := range []struct{ key, layout, at, want string }{
		{key: "A minor pentatonic", layout: "box", at: "6:5", want: "5 8, 5 7, 5 7, 5 7, 5 8, 5 8"},
		{key: "A minor pentatonic", layout: "box", at: "6:8", want: "8 10, 7 10, 7 10, 7 9, 8 10, 8 10"},
		{key: "A minor pentatonic", layout: "box", at: "6:10", want: "10 12, 10 12, 10 12, 9 12, 10 13, 10 12"},
		{key: "A minor pentatonic", layout: "box", at: "6:12", want: "12 15, 12 15, 12 14, 12 14, 13 15, 12 15"},
		{key: "A minor pentatonic", layout: "box", at: "6:3", want: "3 5, 3 5, 2 5, 2 5, 3 5, 3 5"},
		{key: "C major pentatonic", layout: "box", at: "6:8", want: "8 10, 7 10, 7 10, 7 9, 8 10, 8 10"},
		{key: "A natural minor", layout: "3nps", at: "6:5", want: "5 7 8, 5 7 8, 5 7 9, 5 7 9, 6 8 10, 7 8 10"},
		{key: "G major", layout: "3nps", at: "6:3", want: "3 5 7, 3 5 7, 4 5 7, 4 5 7, 5 7 8, 5 7 8"},
		{key: "A blues", layout: "box", at: "6:5", want: "5 8, 5 6* 7, 5 7, 5 7 8*, 5 8, 5 8"},
	} {
		if got := draw(lay(t, c.key, c.layout, c.at)); got != c.want {
			t.Errorf("%s %s at %s: %s, want %s", c.key, c.layout, c.at, got, c.want)
		}
	}
}

func TestColours(t *testing.T) {
	got := draw(lay(t, "C# minor pentatonic", "box", "6:9", "9", "b5"))
	if want := "9 11* 12, 9 10* 11, 9 11, 8* 9 11 12*, 9 12, 9 11* 12"; got != want {
		t.Errorf("%s, want %s", got, want)
	}
	got = draw(lay(t, "A minor pentatonic", "box", "6:5", "7@below"))
	if !strings.HasPrefix(got, "4* 5 8, 5 7, 5 7, 5 7") || strings.Count(got, "*") != 1 {
		t.Errorf("7 below the lowest root: %s", got)
	}
	got = draw(lay(t, "A minor pentatonic", "box", "6:5", "3@2"))
	if got != "5 8, 5 7, 5 7, 5 6* 7, 5 8, 5 8" {
		t.Errorf("3 in the second octave: %s", got)
	}
}

func TestBends(t *testing.T) {
	placed := lay(t, "C# minor pentatonic", "box", "6:9")
	g := neck.Standard()
	Finger(hand.NewModel(hand.Medium(), g), placed)
	p, _ := music.ParseKey("C# minor pentatonic", nil, nil)
	AddBends(g, player.Default(), p, placed)
	for _, x := range placed {
		if x.Place != (neck.Place{String: 3, Fret: 11}) {
			continue
		}
		if x.Finger.String() != "3" || len(x.Bends) == 0 {
			t.Fatalf("3:11 has finger %s and %d bends", x.Finger, len(x.Bends))
		}
		b := x.Bends[0]
		if b.To.Degree.String() != "5" || b.Semitones != 2 || b.Rating != Common || len(b.With) != 2 || !b.ToThick {
			t.Errorf("3:11 %+v", b)
		}
		if want := []neck.Place{{String: 3, Fret: 13}, {String: 2, Fret: 9}}; fmt.Sprint(b.Hear) != fmt.Sprint(want) {
			t.Errorf("heard at %v, want %v", b.Hear, want)
		}
		return
	}
	t.Error("3:11 is missing")
}

func TestRefusals(t *testing.T) {
	p, _ := music.ParseKey("A minor pentatonic", nil, nil)
	box, _ := ParseLayout("box")
	for _, at := range []neck.Place{{String: 6, Fret: 6}, {String: 7, Fret: 5}, {String: 6, Fret: 22}} {
		if _, err := Lay(neck.Standard(), p, box, at); err == nil {
			t.Errorf("a box at %v was laid", at)
		}
	}
	for _, s := range []string{"", "boxes", "counts:", "counts:3,x", "counts:-1"} {
		if _, err := ParseLayout(s); err == nil {
			t.Errorf("layout %q was taken", s)
		}
	}
}

// Common practice, from the keys in which the shapes are learnt: boxes of both
// pentatonics, the areas of the major scale around the five chord shapes, three
// notes a string from every degree, in standard tuning. Each is the row of frets
// from string 6 to string 1.
var standardShapes = []struct {
	key, layout string
	rows        []string
}{
	{
		"A minor pentatonic",
		"box",
		[]string{"5 8, 5 7, 5 7, 5 7, 5 8, 5 8", "8 10, 7 10, 7 10, 7 9, 8 10, 8 10",
			"10 12, 10 12, 10 12, 9 12, 10 13, 10 12", "12 15, 12 15, 12 14, 12 14, 13 15, 12 15",
			"15 17, 15 17, 14 17, 14 17, 15 17, 15 17"},
	},
	{
		"C major pentatonic",
		"box",
		[]string{"8 10, 7 10, 7 10, 7 9, 8 10, 8 10", "10 12, 10 12, 10 12, 9 12, 10 13, 10 12",
			"12 15, 12 15, 12 14, 12 14, 13 15, 12 15", "15 17, 15 17, 14 17, 14 17, 15 17, 15 17",
			"5 8, 5 7, 5 7, 5 7, 5 8, 5 8"},
	},
	{
		"C major",
		"box",
		[]string{"7 8 10, 7 8 10, 7 9 10, 7 9 10, 8 10, 7 8 10",
			"10 12 13, 10 12, 9 10 12, 9 10 12, 10 12 13, 10 12 13",
			"12 13 15, 12 14 15, 12 14 15, 12 14, 12 13 15, 12 13 15", "5 7 8, 5 7 8, 5 7, 4 5 7, 5 6 8, 5 7 8"},
	},
	{
		"C major",
		"3nps",
		[]string{"8 10 12, 8 10 12, 9 10 12, 9 10 12, 10 12 13, 10 12 13",
			"10 12 13, 10 12 14, 10 12 14, 10 12 14, 12 13 15, 12 13 15",
			"12 13 15, 12 14 15, 12 14 15, 12 14 16, 13 15 17, 13 15 17", "1 3 5, 2 3 5, 2 3 5, 2 4 5, 3 5 6, 3 5 7",
			"3 5 7, 3 5 7, 3 5 7, 4 5 7, 5 6 8, 5 7 8", "5 7 8, 5 7 8, 5 7 9, 5 7 9, 6 8 10, 7 8 10",
			"7 8 10, 7 8 10, 7 9 10, 7 9 10, 8 10 12, 8 10 12"},
	},
	{"A natural minor", "3nps", []string{"5 7 8, 5 7 8, 5 7 9, 5 7 9, 6 8 10, 7 8 10"}},
}

// Every school's shape in all twelve keys: the shape as learnt, moved.
func TestShapesInAllKeys(t *testing.T) {
	g := neck.Standard()
	g.Frets = neck.MaxFrets
	for _, c := range standardShapes {
		from, err := music.ParseKey(c.key, nil, nil)
		if err != nil {
			t.Fatal(err)
		}
		layout, _ := ParseLayout(c.layout)
		for _, row := range c.rows {
			for _, tonic := range []string{"C", "Db", "D", "Eb", "E", "F", "F#", "G", "Ab", "A", "Bb", "B"} {
				p, err := music.NewPalette(tonic, from.Scale.Name, nil, nil)
				if err != nil {
					t.Fatal(err)
				}
				move := (p.Tonic.Class() - from.Tonic.Class() + 12) % 12
				want := moved(row, move)
				found := false
				for f := range 28 {
					placed, err := Lay(g, p, layout, neck.Place{String: 6, Fret: f})
					found = found || err == nil && draw(placed) == want
				}
				if !found {
					t.Errorf("%s %s %s: no position gives %s", tonic, from.Scale.Name, c.layout, want)
				}
			}
		}
	}
}

func moved(row string, by int) string {
	strs := strings.Split(row, ", ")
	for i, s := range strs {
		fs := strings.Fields(s)
		for k, f := range fs {
			n := 0
			fmt.Sscan(f, &n)
			fs[k] = fmt.Sprint(n + by)
		}
		strs[i] = strings.Join(fs, " ")
	}
	return strings.Join(strs, ", ")
}

// The next box starts where the last left off: its first tone on a string is the
// other one's second (common practice).
func TestBoxesJoin(t *testing.T) {
	a, b := lay(t, "A minor pentatonic", "box", "6:5"), lay(t, "A minor pentatonic", "box", "6:8")
	upper := map[int]int{}
	for _, x := range a {
		upper[x.Place.String] = max(upper[x.Place.String], x.Place.Fret)
	}
	lower := map[int]int{}
	for _, x := range b {
		if f, ok := lower[x.Place.String]; !ok || x.Place.Fret < f {
			lower[x.Place.String] = x.Place.Fret
		}
	}
	for s := 1; s <= 6; s++ {
		if upper[s] != lower[s] {
			t.Errorf("string %d: one box ends at %d, the next starts at %d", s, upper[s], lower[s])
		}
	}
}

func TestPositions(t *testing.T) {
	for _, c := range []struct {
		key, at      string
		minor, major int
		root         int
		shape        string
	}{
		{
			key:   "A minor pentatonic",
			at:    "6:5",
			minor: 1,
			major: 5,
			root:  6,
			shape: "E",
		}, {key: "A minor pentatonic", at: "6:8", minor: 2, major: 1, root: 4, shape: "D"}, {
			key:   "A minor pentatonic",
			at:    "6:10",
			minor: 3,
			major: 2,
			root:  5,
			shape: "C",
		}, {
			key:   "A minor pentatonic",
			at:    "6:12",
			minor: 4,
			major: 3,
			root:  5,
			shape: "A",
		}, {
			key:   "A minor pentatonic",
			at:    "6:15",
			minor: 5,
			major: 4,
			root:  6,
			shape: "G",
		},
		{
			key:   "C major pentatonic",
			at:    "6:8",
			minor: 2,
			major: 1,
			root:  6,
			shape: "E",
		}, {
			key:   "C major pentatonic",
			at:    "6:5",
			minor: 1,
			major: 5,
			root:  6,
			shape: "G",
		}, {
			key:   "A blues",
			at:    "6:5",
			minor: 1,
			major: 5,
			root:  6,
			shape: "E",
		}, {key: "C major", at: "6:8", minor: 2, major: 1, root: 6, shape: "E"},
	} {
		p, _ := music.ParseKey(c.key, nil, nil)
		got := PositionOf(neck.Standard(), p, box{}, lay(t, c.key, "box", c.at))
		if got.Minor != c.minor || got.Major != c.major || got.RootString != c.root || got.ChordShape != c.shape {
			t.Errorf("%s at %s: %+v, want %+v", c.key, c.at, got, c)
		}
	}
}

// A position of seven tones is named by the mode that begins on its lowest tone (common practice); pentatonics and
// scales that are no mode of a major scale have no such name.
func TestPositionsByMode(t *testing.T) {
	for _, c := range []struct{ key, at, degree, mode string }{
		{
			key:    "A natural minor",
			at:     "6:5",
			degree: "1",
			mode:   "aeolian",
		}, {key: "A natural minor", at: "6:8", degree: "♭3", mode: "ionian"},
		{
			key:    "A natural minor",
			at:     "6:7",
			degree: "2",
			mode:   "locrian",
		}, {key: "D dorian", at: "6:10", degree: "1", mode: "dorian"},
		{key: "G mixolydian", at: "6:8", degree: "4", mode: "ionian"},
		{
			key:    "C major",
			at:     "6:12",
			degree: "3",
			mode:   "phrygian",
		}, {key: "C lydian", at: "6:10", degree: "2", mode: "mixolydian"},
		{key: "A harmonic minor", at: "6:5", degree: "1"}, {key: "A minor pentatonic", at: "6:5", degree: "1"},
	} {
		p, _ := music.ParseKey(c.key, nil, nil)
		placed := lay(t, c.key, "3nps", c.at)
		layout, err := ParseLayout("3nps")
		if err != nil {
			t.Fatal(err)
		}
		if got := PositionOf(neck.Standard(), p, layout, placed); got.Degree != c.degree || got.Mode != c.mode {
			t.Errorf("%s at %s: %q from %s, not %q from %s", c.key, c.at, got.Mode, got.Degree, c.mode, c.degree)
		}
	}
}

func TestOtherLayouts(t *testing.T) {
	for _, c := range []struct{ key, layout, at, want string }{
		{key: "A minor pentatonic", layout: "string:3", at: "3:2", want: "2 5 7 9 12 14 17 19 21"},
		{key: "A minor pentatonic", layout: "frets:5-8", at: "6:5", want: "5 8, 5 7, 5 7, 5 7, 5 8, 5 8"},
		{key: "C major", layout: "frets:7-10", at: "6:7", want: "7 8 10, 7 8 10, 7 9 10, 7 9 10, 8 10, 7 8 10"},
		{key: "A minor triad", layout: "arp", at: "6:5", want: "5 8, 7, 7, 5, 5, 5 8"},
		{key: "A minor pentatonic", layout: "counts:3,1,3,1,2", at: "6:5", want: "5 8 10, 7, 5 7 10, 7, 5 8"},
		{key: "E mixolydian", layout: "pairs:3,1:6", at: "3:9", want: "9 11 13 14 16 18 19 21, 9 10 12 14 16 17 19 21"},
		{key: "C major triad", layout: "spread", at: "6:8", want: "8, 10, 9"},
		{key: "A minor pentatonic", layout: "places:6:5,4:7", at: "6:5", want: "5, 7"},
		{key: "A minor pentatonic", layout: "joined", at: "6:5", want: "5 8 10, 7 10, 7 10 12, 9 12, 10 13 15, 12 15"},
	} {
		if got := draw(lay(t, c.key, c.layout, c.at)); got != c.want {
			t.Errorf("%s %s at %s: %s, want %s", c.key, c.layout, c.at, got, c.want)
		}
	}
	// The leading tone below the root is the extra of an arpeggio.
	if got := draw(lay(t, "A minor triad", "arp", "6:5", "7@below")); !strings.HasPrefix(got, "4* 5 8, 7") {
		t.Errorf("with a leading tone: %s", got)
	}
	joins := Slides(lay(t, "A minor pentatonic", "joined", "6:5"))
	if len(joins) != 3 || joins[0].From.Fret != 8 || joins[0].To.Fret != 10 {
		t.Errorf("joins: %+v", joins)
	}
}

// Pairs are sixths of the scale, and names come back as they are read.
func TestPairsAndNames(t *testing.T) {
	placed := lay(t, "Eb mixolydian", "pairs:3,1:6", "3:8")
	for i := 0; i+1 < len(placed); i += 2 {
		if d := placed[i+1].Pitch - placed[i].Pitch; d != 8 && d != 9 || placed[i].Step != placed[i+1].Step {
			t.Errorf("pair %d spans %d half steps", i/2, d)
		}
	}
	for _, l := range layouts {
		layout, err := ParseLayout(l.form)
		if err != nil {
			t.Fatal(err)
		}
		again, err := ParseLayout(layout.Name())
		if err != nil || again.Name() != layout.Name() {
			t.Errorf("%s is written %s: %v", l.form, layout.Name(), err)
		}
	}
}

func TestSymmetry(t *testing.T) {
	for _, c := range []struct{ key, layout, at, want string }{
		{key: "C major", layout: "3nps", at: "6:8", want: "two strings at a time share a shape"},
		{key: "A minor pentatonic", layout: "joined", at: "6:5", want: "the same shape on each pair of strings"},
		{key: "A natural minor", layout: "3nps", at: "6:5"},
	} {
		if got := Symmetry(lay(t, c.key, c.layout, c.at)); got != c.want {
			t.Errorf("%s %s: %q, want %q", c.key, c.layout, got, c.want)
		}
	}
}

// Low on the neck a shape is hard for its bends and stretches, very high it is
// crowded; in between lies the sweet spot (common practice).
func TestSweetSpot(t *testing.T) {
	p, _ := music.ParseKey("A minor pentatonic", nil, nil)
	spots := Spots(neck.Standard(), hand.Medium(), bend.DefaultStrength(), p, box{}, neck.Place{String: 6, Fret: 5},
		true)
	if len(spots) < 12 {
		t.Fatalf("%d places", len(spots))
	}
	best, worst := spots[0], spots[len(spots)-1]
	if best.At.Fret < 7 || best.At.Fret > 15 {
		t.Errorf("the best place is %v", best)
	}
	if worst.At.Fret > 3 && worst.At.Fret < 18 {
		t.Errorf("the worst place is %v", worst)
	}
	force := ForceAlong(neck.Standard(), 1)
	least := 0
	for i, f := range force {
		if f < force[least] {
			least = i
		}
	}
	if least+1 < 10 || least+1 > 14 || force[0] < 1.9*force[least] {
		t.Errorf("least force at fret %d, %.1f N; at the first %.1f", least+1, force[least], force[0])
	}
}

// The ♭5 that is added to a natural minor box lies where the blues scale has it, under the fingers, not
// on the lowest fret of the stretch (common practice).
func TestAddedToneLiesUnderTheFingers(t *testing.T) {
	var at []string
	for _, x := range lay(t, "A natural minor", "box", "6:5", "b5") {
		if x.Tone.Degree.String() == "b5" {
			at = append(at, x.Place.Notation())
		}
	}
	if strings.Join(at, " ") != "5:6 3:8" {
		t.Errorf("the ♭5 lies on %v", at)
	}
}
