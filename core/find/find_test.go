package find_test

import (
	"strings"
	"testing"

	"ornamen/core/find"
	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/run"
	"ornamen/core/testline"
)

// Lines entered by hand, which run never made (common practice and our own): the
// recipe gives them back, or the part that it covers.
var handEntered = []struct {
	key, text string
	covers    int // notes, 0: all
}{
	{"A minor pentatonic", "6:5 8 5:5 6:8 5:5 7 5 7 4:5 5:7 4:5 7 5 7 3:5 4:7 3:5 7", 0},
	{"A minor pentatonic", "1:8 5 2:8 1:5 2:8 5 8 5 3:7 2:5 3:7 5", 0},
	{"A minor pentatonic", "6:5 8 5:5 7 4:5 7 3:5 7 2:5 8 1:5 8 5 2:8 5 3:7 5 4:7 5 5:7 5 6:8 5", 0},
	{"C# natural minor", "6:12 11 9 5:9 9 6:12 11 5:11 11 9 6:12 5:12 12 11 9 4:9", 0},
	{"C# natural minor", "6:9 11 12 5:9 6:11 12 5:9 11 6:12 5:9 11 12", 0},
	{"A natural minor", "6:5 8 7 5:5 6:8 5:7 5 8 5:7 4:5 5:8 4:7 5 9 4:7 3:5", 16},
	{"A minor pentatonic", "6:5 8h 5:5 7h 4:5 7h 3:5 7h 2:5 8h 1:5 8h", 0},
	{"A minor pentatonic", "1:8 5p 2:8 5p 3:7 5p 4:7 5p", 0},
	{"A minor pentatonic", "6:5 8h 5:5 7 5p 6:8 5:5 7h 4:5 7 5p 5:7 4:5 7h 3:5 7 5p 4:7", 0},
	{"A minor pentatonic", "6:5 5:5 6:8 5:7 5 4:5 5:7 4:7 5 3:5 4:7 3:7", 0},
	{"E minor pentatonic", "6:12 15 12 15 12 15 12 15", 0},
	{"E minor pentatonic", "1:15 12p 2:15 1:15 12p 2:15 1:15 12p 2:15", 0},
	{"G major", "6:3 5 7 5:3 5 7 4:4 5 7 3:4 5 7 2:5 7 8 1:5 7 8", 0},
	{"G major", "6:3 5:3 6:5 5:5 6:7 5:7", 0},
	{"D dorian", "5:5 7 8 7 4:5 7 9 7 3:5 7 9 7", 12},
	{"A minor pentatonic", "6:5 8 5:5 4:7 10 3:7 2:10 13 1:10", 0},
	{"A minor pentatonic", "6:5 8 5:5 7 6:8 10 5:7 10 6:10 12 5:10 12", 0},
	{"C major", "5:3 4:5 2:5 5:5 4:7 2:6 5:7 4:9 2:8 5:8 4:10 2:10", 0},
	{"C major", "5:3 4:5 2:5 5:8 4:10 2:10 5:10 4:12 2:12", 0},
	{"Eb mixolydian", "3:6+1:6 3:8+1:8 3:10+1:9 3:12+1:11", 0},
	{"Eb mixolydian", "3:6+1:6 3:8+1:8 3:8+1:8 3:10+1:9 3:10+1:9 3:12+1:11", 0},
	{"B natural minor", "2:0 2 2 3 3 5 5 7 7 8", 0},
	{"B natural minor", "2:12 10 8 10 8 7 8 7 5 7 5 3", 0},
	{"A blues", "6:5 8 5:5 6 6:8 5:5 6 7 5:5 6 7 4:5", 0},
	{"F# minor pentatonic", "1:17 14 2:17 14 1:14 2:17 14 3:16 2:17 14 3:16 14", 0},
	{"C minor", "6:8 - 10 - 11 - 5:8 - 10 - 11 -", 0},
	{"C minor", "6:8 10 11 . 10 11 5:8 . 6:11 5:8 10 .", 0},
	// A broken last cell: it is the tail, or lies outside the part.
	{"A minor pentatonic", "6:5 8 5:5 6:8 5:5 7 5 7 4:5 5:7 4:5 7 5 2:8", 0},
	{"A minor pentatonic", "6:5 8 5:5 6:8 5:5 7 5 7 4:5 1:8*1/4", 9},
	{"A minor pentatonic", "1:5 3:7 6:5 8 5:5 6:8 5:5 7 5 7 4:5 5:7 4:5 7", 12},
	{"", "6:5 8 5:5 6:8 5:5 7 5:5 7 4:5", 0},
	{"A natural minor", "6:5 7h 8h 10s 5:7 8h 10h 7 8h 10h 12s 4:9 10h 12h", 14},
	{"C# minor pentatonic", "6:9 12 5:9 11 4:9 11 3:9 11 2:9 12 1:9 12 9*1/4", 0},
	// Overlapping shapes.
	{"F# minor pentatonic", "1:9 3:11 2:14 10 10 4:11 3:14 9 9 5:12 4:14 9 9 6:12 5:14 9", 0},
	{"A minor pentatonic", "6:5 10 5:7 10 5 5 10 4:7 10 5 5 10 3:7 9 5 5 9 2:8 10 5", 0},
	// One cell up, another down.
	{"A minor pentatonic", "6:5 8 5:5 6:8 5:5 7 5 7 4:5 5:7 4:5 7 4:5 5:7 4:5 5:7 5 7 5 6:8 5:5 6:8 6:5 6:8", 0},
	{"C major", "6:8 10 12 5:8 10 12 4:9 10 12 3:9 10 12 12 9 10 4:12 9 10 5:12 8 10 6:12 8 10", 0},
	// Loops and cells that come back.
	{"A minor pentatonic", "3:5 7h 5p 4:7 3:5 7h 5p 4:7 3:5 7h 5p 4:7", 0},
	{"E minor pentatonic", "2:15 1:12 15 12 2:15 12 2:15 1:12 15 12 2:15 12", 0},
	{"G major", "6:3 5 7 5 5:3 5 7 5 4:4 5 7 5 3:4 5 7 5", 0},
	{"A natural minor", "3:5 7h 9s 7 9h 7s 5 7h 9s 7 9h 7s", 0},
	{"A natural minor", "4:5 7h 9s 3:7 9 4:7 9h 7s 3:5 7", 0},
	// One statement of a cell.
	{"A minor pentatonic", "3:5 7 2:5 8 1:5 8 5", 0},
	{"A natural minor", "5:7 8 5 4:7 5 3:5 7 4", 0},
	{"C# minor pentatonic", "3:11 1:9 2:12 9 3:11 9 4:11", 0},
	// Three places of one cell along two strings, each reached by a silent shift.
	{"A minor pentatonic", "2:5 8 1:5 8 5 2:8 5 8S 10 1:8 10 8 2:10 8 10S 13 1:10 12 10 2:13 10", 0},
	{"A natural minor", "2:5 6 8 1:5 7 5 2:8 6 5 6S 8 10 1:7 8 7 2:10 8 6 8S 10 12 1:8 10 8 2:12 10 8", 0},
	// Cells that are answered by their mirror.
	{"A natural minor", "6:5 7 8s 7 8 7s 7 8 5:5 6:5 7 5:3", 0},
	{"A natural minor", "5:5 7h 8s 7p 7 8h 7s 5p 7 8h 4:5 5:8 5:5 7h 4:3 5:7", 0},
	// Joined: the longer part.
	{"A minor pentatonic", "6:5 8 5:5 6:8 5:5 7 5 7 4:5 5:7 4:5 7 1:8 5 2:8 5", 12},
	{"A minor pentatonic", "1:8 2:8 3:7 6:5 8 5:5 6:8 5:5 7 5 7 4:5 5:7 4:5 7", 12},
}

func TestFindHandEntered(t *testing.T) {
	if len(handEntered) < 45 {
		t.Fatalf("only %d lines", len(handEntered))
	}
	g := neck.Standard()
	for _, c := range handEntered {
		l := testline.Read(t, c.key, c.text)
		f, ok, _ := find.Find(t.Context(), g, l)
		want := c.covers
		if want == 0 {
			want = len(l.Notes)
		}
		if !ok || f.To-f.From+1 < want {
			t.Errorf("%s %s: found %v (%d to %d) %s", c.key, c.text, ok, f.From, f.To, f.Recipe.String())
			continue
		}
		t.Logf("%-62s %d-%d %s", c.text, f.From, f.To, f.Recipe)
		run, err := run.Grow(f.Recipe, g)
		if err != nil {
			t.Errorf("%s: %v", f.Recipe, err)
			continue
		}
		for i, n := range run.Lick.Notes {
			if w := l.Notes[f.From-1+i]; n.Place() != w.Place() || n.Slur != w.Slur && i > 0 {
				t.Errorf("%s: note %d is %v, written %v", f.Recipe, i+1, n.Place(), w.Place())
			}
		}
	}
}

func TestFindNothing(t *testing.T) {
	g := neck.Standard()
	for _, text := range []string{"6:5", "6:5 1:17 3:2 5:11 2:9"} {
		if f, ok, _ := find.Find(t.Context(), g, testline.Read(t, "A minor", text)); ok && f.To-f.From+1 > 3 {
			t.Errorf("%s: %s", text, f.Recipe)
		}
	}
	if _, ok, _ := find.Find(t.Context(), g, lick.New()); ok {
		t.Error("an empty line has a recipe")
	}
}

// A line of 64 notes.
func BenchmarkFind64(b *testing.B) {
	g := neck.Standard()
	r, err := run.Parse(`--key "C natural minor" --at 6:8 --cell "1 2 3 4"`)
	if err != nil {
		b.Fatal(err)
	}
	run, err := run.Grow(r, g)
	if err != nil {
		b.Fatal(err)
	}
	l := run.Lick
	l.Notes = l.Notes[:60]
	for i, s := range []int{3, 2, 3, 1} { // a broken end
		n := l.Notes[59]
		n.At, n.Fret = n.At.Add(n.Len.Times(int64(i+1))), n.Fret-s
		l.Notes = append(l.Notes, n)
	}
	for b.Loop() {
		if _, _, err := find.Find(b.Context(), g, l); err != nil {
			b.Fatal(err)
		}
	}
}

// A recipe found in another tuning names it and gives the same frets back.
func TestRecipeKnowsTheTuning(t *testing.T) {
	dadgad, err := neck.ParseTuning("D4 A3 G3 D3 A2 D2")
	if err != nil {
		t.Fatal(err)
	}
	g := neck.Standard().WithTuning(dadgad)
	grown, err := run.Grow(run.Recipe{Key: "D minor pentatonic", At: "6:12", Cell: "1 2 3", Times: 6}, g)
	if err != nil {
		t.Fatal(err)
	}
	l := grown.Lick
	l.Recipe = ""
	found, ok, err := find.Find(t.Context(), neck.Standard(), l)
	if err != nil || !ok || found.To != len(l.Notes) || !strings.Contains(found.Recipe.String(), "--tuning") {
		t.Fatalf("%v %v %s", ok, err, found.Recipe)
	}
	again, err := run.Parse(found.Recipe.String())
	if err != nil {
		t.Fatal(err)
	}
	back, err := run.Grow(again, neck.Standard())
	if err != nil {
		t.Fatal(err)
	}
	for i, n := range back.Lick.Notes {
		if n.Place() != l.Notes[i].Place() {
			t.Fatalf("note %d lies at %s, not at %s", i+1, n.Place().Notation(), l.Notes[i].Place().Notation())
		}
	}
}

// Two notes that lie hours apart have no recipe, and that is known at once.
func TestSilenceHasNoRecipe(t *testing.T) {
	l := lick.New()
	l.Key = lick.Key{Tonic: "A", Scale: "minor pentatonic"}
	for _, at := range []int64{0, 5000} {
		l.Notes = append(l.Notes, lick.Note{At: lick.NewTime(at, 1), Len: lick.NewTime(1, 16), String: 1, Fret: 5})
	}
	allocated := testing.Benchmark(func(b *testing.B) {
		for b.Loop() {
			if _, ok, err := find.Find(b.Context(), neck.Standard(), l); ok || err != nil {
				b.Fatal(ok, err)
			}
		}
	}).AllocedBytesPerOp()
	if allocated > 20<<20 {
		t.Errorf("it takes %d MB", allocated>>20)
	}
}

// Overlapping shapes: two strings that hold one pitch each keep their place.
func TestOverlappingShapes(t *testing.T) {
	g := neck.Standard()
	for _, c := range []struct{ recipe, line string }{
		{`--key "E minor pentatonic" --layout frets:7-12 --cell "strings: a2 b1 b3 a1 b2"`,
			"6:10 5:7 12 6:7 5:10 10 4:7 12 5:7 4:9 9 3:7 12 4:7 3:9 9 2:8 12 3:7 2:10 10 1:7 12 2:8 1:10"},
		{`--key "F# minor pentatonic" --layout frets:9-14 --cell "strings: a1 c2 b3 b1" --dir down`,
			"1:9 3:11 2:14 10 10 4:11 3:14 9 9 5:12 4:14 9 9 6:12 5:14 9"},
		{`--key "A minor pentatonic" --layout boxes:1+2 --cell "strings: a1 a3 b2 b3 b1"`,
			"6:5 10 5:7 10 5 5 10 4:7 10 5 5 10 3:7 9 5 5 9 2:8 10 5 5 10 1:8 10 5"},
	} {
		r, err := run.Parse(c.recipe)
		if err != nil {
			t.Fatal(err)
		}
		grown, err := run.Grow(r, g)
		if err != nil {
			t.Errorf("%s: %v", c.recipe, err)
			continue
		}
		want := testline.Read(t, r.Key, c.line)
		if len(grown.Lick.Notes) != len(want.Notes) {
			t.Errorf("%s: %d notes, want %d", c.recipe, len(grown.Lick.Notes), len(want.Notes))
			continue
		}
		for i, n := range grown.Lick.Notes {
			if n.Place() != want.Notes[i].Place() {
				t.Errorf("%s: note %d at %v, want %v", c.recipe, i+1, n.Place(), want.Notes[i].Place())
				break
			}
		}
		if f, ok, _ := find.Find(t.Context(), g, want); !ok || f.From != 1 || f.To != len(want.Notes) {
			t.Errorf("%s is found as %d-%d %s", c.recipe, f.From, f.To, f.Recipe)
		} else {
			t.Logf("%s", f.Recipe)
		}
	}
}

// A line that is joined of two runs is found as both.
func TestFindParts(t *testing.T) {
	l := testline.Read(t, "A minor pentatonic",
		"6:5 8 5:5 6:8 5:5 7 5 7 4:5 5:7 4:5 7 1:8 5 2:8 1:5 2:8 5 8 5 3:7 2:5 3:7 5")
	parts, err := find.Parts(t.Context(), neck.Standard(), l)
	if err != nil || len(parts) != 2 || parts[0].From != 1 || parts[0].To != 12 || parts[1].From != 13 ||
		parts[1].To != 24 {
		t.Errorf("%v: %+v", err, parts)
	}
}

// Parts that follow each other are one recipe, from which the line grows again: what a run of several
// parts wrote, and a line by hand with a rest between two runs. Notes between the parts leave it two.
func TestTogether(t *testing.T) {
	g := neck.Standard()
	var lines []lick.Lick
	for _, text := range []string{
		`--key "A minor pentatonic" --cell "1 2 3" --times 4 --then --cell "3 2 1" --dir down --times 4`,
		`--key "A minor pentatonic" --cell "1 2 3" --times 4 --then --dir down --count 8 --times 3 --then --cell "1 2 4" --times 3 --move 2`,
		`--key "A minor pentatonic" --cell "1 2 3" --times 4 --then --key "D dorian" --layout 3nps --cell "4 3 2 1" --times 3`,
	} {
		r, err := run.Parse(text)
		if err != nil {
			t.Fatal(err)
		}
		x, err := run.Grow(r, g)
		if err != nil {
			t.Fatal(err)
		}
		lines = append(lines, x.Lick)
	}
	lines = append(lines, testline.Read(t, "A minor pentatonic",
		"6:5 8 5:5 6:8 5:5 7 5 7 4:5 5:7 4:5 7 . . 1:8 5 2:8 1:5 2:8 5 8 5 3:7 2:5 3:7 5"))
	for _, l := range lines {
		parts, err := find.Parts(t.Context(), g, l)
		if err != nil || len(parts) < 2 {
			t.Errorf("%s: %v %v", l.Recipe, err, parts)
			continue
		}
		whole, ok := find.Together(t.Context(), g, l, parts)
		if !ok || whole.From != 1 || whole.To != len(l.Notes) {
			t.Errorf("%s: %v %+v", l.Recipe, ok, parts)
			continue
		}
		x, err := run.Grow(whole.Recipe, g)
		if err != nil {
			t.Fatal(err)
		}
		for i, n := range x.Lick.Notes {
			if w := l.Notes[i]; n.Place() != w.Place() || n.At.Cmp(w.At) != 0 {
				t.Errorf("%s: note %d is %v at %v", whole.Recipe, i+1, n.Place(), n.At)
			}
		}
	}
	l := testline.Read(t, "A minor pentatonic", "1:8 2:8 3:7 6:5 8 5:5 6:8 5:5 7 5 7 4:5 5:7 4:5 7")
	parts, _ := find.Parts(t.Context(), g, l)
	if whole, ok := find.Together(t.Context(), g, l, parts); ok {
		t.Errorf("with notes left out: %s", whole.Recipe)
	}
}

// All the lines entered by hand, one after the other.
func BenchmarkFindHandEntered(b *testing.B) {
	g := neck.Standard()
	var lines []lick.Lick
	for _, c := range handEntered {
		lines = append(lines, testline.Read(b, c.key, c.text))
	}
	for b.Loop() {
		for _, l := range lines {
			find.Find(b.Context(), g, l)
		}
	}
}
