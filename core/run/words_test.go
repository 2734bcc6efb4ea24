package run_test

import (
	"strings"
	"testing"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/phrase"
	"ornamen/core/player"
	"ornamen/core/run"
)

// The short form says scale, shape, cell and moves in one line.
func TestShortForm(t *testing.T) {
	for _, c := range []struct{ recipe, want string }{
		{`--key "C# natural minor" --layout 3nps --at 6:9 --cell "3 2 1 4" --times 8`,
			"C♯ natural minor three a string, one cell of 4 steps, moved up one tone: 8 cells"},
		{`--key "A minor pentatonic" --layout box --at 6:5 --cell "strings: a1 a2 b1 | a2 a1 b2" --times 2`,
			"A minor pentatonic in a box, 2 cells taking turns, moved up one string over: 2 cells"},
		{`--key "A minor pentatonic" --at 6:5 --cell "1 2" --move stay --times 2`, "one cell of 2 steps, played twice"},
		{`--key "Eb mixolydian" --layout pairs:3,1:6 --at 3:6 --cell "1 2" --times 1`,
			"sixths on strings 3 and 1, one cell of 2 steps, moved up one tone: 1 cell"},
		{`--key "A minor pentatonic" --at 6:5 --cell "1 2 3" --move octave --dir down --layout box`,
			"moved down an octave on"},
	} {
		r, err := run.Parse(c.recipe)
		if err != nil {
			t.Fatal(err)
		}
		if got := r.Short(grow(t, c.recipe)); !strings.Contains(got, c.want) {
			t.Errorf("%s: %q, want %q", c.recipe, got, c.want)
		}
	}
}

// Every word of the notation has words that a player would say.
func TestWordsForEverything(t *testing.T) {
	for _, w := range run.CountWords {
		if n := run.CountName(w); n == "" || strings.ContainsAny(n, "0123456789") {
			t.Errorf("count %s is called %q", w, n)
		}
	}
	if got := run.CountName("8,16"); got != "eighths and sixteenths" {
		t.Errorf("mixed counts are called %q", got)
	}
	for move, want := range map[string]string{"": "one tone", "1": "one tone", "3": "3 tones",
		"string": "one string over", "string:2": "2 strings over", "octave": "an octave on",
		"position": "to the next position",
		"chord":    "to the next chord", "scale": "to the next scale", "stay": "nowhere"} {
		if got := run.MoveName(move, phrase.Tones); got != want {
			t.Errorf("move %q is called %q", move, got)
		}
	}
	if got := run.MoveName("", phrase.Chord); got != "to the next chord" {
		t.Errorf("chord cells move %q", got)
	}
	for layout, want := range map[string]string{"box": "in a box", "3nps": "three a string",
		"counts:4,3": "4 3 a string", "string:2": "on string 2", "strings:3,2": "on strings 3 and 2",
		"frets:5-9": "on frets 5 to 9", "arp": "as an arpeggio", "spread": "spread", "joined": "joined by slides",
		"pairs:3,1:3": "thirds on strings 3 and 1", "places:6:5": "your own places"} {
		if got := run.LayoutName(layout); got != want {
			t.Errorf("layout %s is called %q, want %q", layout, got, want)
		}
	}
	for _, dir := range []string{"", "up", "down", "updown", "downup"} {
		if run.DirName(dir) == "" {
			t.Errorf("direction %q has no name", dir)
		}
	}
}

// Arguments are set and read one by one; what is none is refused.
func TestRecipeArguments(t *testing.T) {
	values := map[string]string{
		"key":   "A blues",
		"times": "4",
		"tempo": "92.5",
		"cell":  "1 2",
		"bars":  "",
		"turn":  "twice",
	}
	var r run.Recipe
	for name, v := range values {
		if err := r.Set(name, v); err != nil {
			t.Errorf("%s: %v", name, err)
		}
		if got := r.Get(name); got != v {
			t.Errorf("%s is %q, set to %q", name, got, v)
		}
	}
	for name, v := range map[string]string{"times": "four", "tempo": "fast", "colour": "red"} {
		if err := r.Set(name, v); err == nil {
			t.Errorf("--%s %s passes", name, v)
		}
	}
	if err := r.Set("times", ""); err != nil || r.Times != 0 {
		t.Error("an argument cannot be taken away")
	}
	for _, name := range run.Names() {
		if r.Get(name) != "" && !strings.Contains(r.String(), "--"+name) {
			t.Errorf("%s is not written", name)
		}
	}
	for _, c := range []struct{ line, key string }{{`--key "A blues"  --cell 1`, "A blues"},
		{`--key 'A blues' --cell 1`, "A blues"}, {`--key=A\ blues`, ""}} {
		r, err := run.Parse(c.line)
		if c.key != "" && (err != nil || r.Key != c.key) {
			t.Errorf("%s: %q, %v", c.line, r.Key, err)
		}
		if c.key == "" && err == nil {
			t.Errorf("%s passes", c.line)
		}
	}
}

// An odd number of strokes on a string becomes an even one when the cell is
// played twice; a run that is played so already, or has no room, has no such way.
func TestEvened(t *testing.T) {
	e := judge.NewEngine(player.Default())
	g := neck.Standard()
	r := run.Recipe{Key: "A natural minor", Layout: "3nps", At: "6:5", Cell: "strings: a1 a2 a3", Times: 4}
	grown, err := run.Grow(r, g)
	if err != nil {
		t.Fatal(err)
	}
	w, ok, _ := run.Evened(t.Context(), e, grown.Lick, r, g)
	// The first string once, the later ones twice, beginning down.
	if !ok || len(w.Lick.Notes) != 21 || w.Name != run.EvenedName || w.Lick.Notes[0].Stroke != lick.Down {
		t.Fatalf("%v %q %d notes", ok, w.Name, len(w.Lick.Notes))
	}
	if w.Report.StringChanges.Inside > 0 || w.Report.StringChanges.Outside != 3 {
		t.Errorf("the changes are %+v", w.Report.StringChanges)
	}
	again, err := run.Parse(w.Lick.Recipe)
	if err != nil || !again.Even {
		t.Fatalf("%s: %v", w.Lick.Recipe, err)
	}
	if back, err := run.Grow(again, g); err != nil || len(back.Lick.Notes) != 21 {
		t.Errorf("its recipe gives %v notes: %v", back, err)
	}
	// Six strokes a string: every change leaves on the same stroke.
	if w.Report.Exits == "mixed" {
		t.Errorf("with even counts the exits are %s", w.Report.Exits)
	}
	r.Repeat = 2
	if _, ok, _ := run.Evened(t.Context(), e, grown.Lick, r, g); ok {
		t.Error("a run of repeats is evened again")
	}
	r.Repeat, r.Cell = 0, "strings: a1 a2"
	if even, err := run.Grow(r, g); err != nil {
		t.Fatal(err)
	} else if _, ok, _ := run.Evened(t.Context(), e, even.Lick, r, g); ok {
		t.Error("a run of even counts is evened")
	}
}

// Chord cells go down the neck too, and stay or climb by octaves.
func TestChordWalks(t *testing.T) {
	for _, c := range []struct{ recipe, want string }{
		{`--key "C major" --at 5:3 --cell "chord@5,4: 1 5" --dir down --times 3`, "5:14 4:15 | 5:12 4:14 | 5:10 4:12"},
		{`--key "C major" --at 5:3 --cell "chord: 1 3 5" --move stay --times 2`, "5:3 4:2 5 | 5:3 4:2 5"},
		{`--key "C major" --at 5:3 --cell "chord@5,4: 1 5" --move octave`, "5:3 4:5 | 3:5 2:8"},
		{`--key "C major" --at 5:3 --cell "chord@5,4: 1 5" --chords "1 4 5 1"`,
			"5:3 4:5 | 5:8 4:10 | 5:10 4:12 | 5:15 4:17"},
	} {
		r, err := run.Parse(c.recipe)
		if err != nil {
			t.Fatal(err)
		}
		grown, err := run.Grow(r, neck.Standard())
		if err != nil {
			t.Errorf("%s: %v", c.recipe, err)
			continue
		}
		got := written(grown)
		if got != c.want {
			t.Errorf("%s: %s, want %s", c.recipe, got, c.want)
		}
	}
}
