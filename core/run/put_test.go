package run_test

import (
	"math/rand/v2"
	"strings"
	"testing"

	"ornamen/core/neck"
	"ornamen/core/phrase"
	"ornamen/core/run"
	"ornamen/core/testline"
)

// base is a run in which every word of the vocabulary can be tried.
func base() run.Recipe {
	return run.Recipe{Key: "A natural minor", Layout: "3nps", At: "6:5", Cell: "1 2 3", Dir: "updown", Chords: "1 4 5"}
}

// Every term of every argument is read from its value and from its name as the same value, has a name without its own
// digits where it has no number, and can be played in a run that it goes with, whatever was said before.
func TestVocabulary(t *testing.T) {
	g := neck.Standard()
	for _, arg := range run.Names() {
		seen := map[string]bool{}
		for _, term := range run.Terms(arg) {
			values := term.Try
			if values == nil {
				values = []string{term.Value}
			}
			for _, v := range values {
				if strings.ContainsAny(v, "#…") || v == "" {
					continue
				}
				name := run.NameOf(arg, v)
				if name == "" || seen[name] {
					t.Errorf("%s %s is called %q, as another is", arg, v, name)
				}
				seen[name] = true
				if got := run.ValueOf(arg, name); got != v {
					t.Errorf("%s: %q is read as %q, not %q", arg, name, got, v)
				}
				for _, also := range term.Also {
					if !strings.ContainsAny(also, "#…") && run.ValueOf(arg, strings.ToUpper(also)) != v {
						t.Errorf("%s: %q is not read as %q", arg, also, v)
					}
				}
				if arg == "start" || arg == "rotate" {
					continue
				}
				tryTerm(t, g, arg, v, term)
			}
		}
	}
}

// tryTerm says a value of an argument in a run of each kind of cell that it goes with.
func tryTerm(t *testing.T, g neck.Guitar, arg, value string, term run.Term) {
	t.Helper()
	cells := map[phrase.Kind]string{
		phrase.Tones:   "1 2",
		phrase.Strings: "strings: a1 a2",
		phrase.Chord:   "chord: 1 3 5",
	}
	kinds := term.Cells
	if kinds == nil {
		kinds = []phrase.Kind{phrase.Tones}
	}
	for _, kind := range kinds {
		r := base()
		r.Cell = cells[kind]
		out, _, err := r.Put(0, arg, value, g)
		if err != nil {
			t.Errorf("--%s %s with a cell of %s: %v", arg, value, kind, err)
			continue
		}
		if term.Needs != "" && out.Get(term.Needs) == "" {
			t.Errorf("--%s %s comes without %s", arg, value, term.Needs)
		}
	}
	for _, kind := range []phrase.Kind{phrase.Tones, phrase.Strings, phrase.Chord} {
		if len(term.Cells) == 0 || hasKind(term.Cells, kind) {
			continue
		}
		r := base()
		r.Cell = cells[kind]
		if _, _, err := r.Put(0, arg, value, g); err == nil {
			t.Errorf("--%s %s passes with a cell of %s", arg, value, kind)
		}
	}
}

func hasKind(kinds []phrase.Kind, kind phrase.Kind) bool {
	for _, k := range kinds {
		if k == kind {
			return true
		}
	}
	return false
}

// Every choice that is offered can be taken, and is then what the recipe says.
func TestChoicesWork(t *testing.T) {
	g := neck.Standard()
	recipes := []run.Recipe{
		base(),
		{Key: "C# natural minor", Layout: "3nps", At: "6:9", Cell: "3 2 1 4", Times: 8, Land: "4", Accent: 4},
		{Key: "A minor pentatonic", Cell: "strings: a2 pa1 b1", Dir: "updown"},
		{Key: "G major", Cell: "chord: 1 3 5 1'", Move: "chord", Chords: "1 4 5"},
		{Key: "Eb mixolydian", Layout: "pairs:3,1:6", At: "3:6", Cell: "1 2", Times: 3},
	}
	if !testline.Night() {
		recipes = recipes[2:] // by day one of each sort of cell
	}
	for _, r := range recipes {
		for _, arg := range run.Names() {
			if arg == "then" {
				continue
			}
			choices := r.Choices(0, arg, g)
			if len(choices) < 2 && !(arg == "start" && strings.HasPrefix(r.Cell, "chord")) && arg != "pivot" {
				t.Errorf("%s: %s has %d choices", r, arg, len(choices))
			}
			for i, c := range choices {
				if !testline.Night() && i%9 != 0 {
					continue
				}
				out, _, err := r.Put(0, arg, c.Value, g)
				if err != nil {
					t.Errorf("%s: %s %q is offered and refused: %v", r, arg, c.Value, err)
				} else if _, err := run.Grow(out, g); err != nil {
					t.Errorf("%s: %s %q does not grow: %v", r, arg, c.Value, err)
				}
			}
		}
	}
}

// What was said stands; what gives way to it is told.
func TestPutGivesWay(t *testing.T) {
	g := neck.Standard()
	for _, c := range []struct {
		recipe string
		arg    string
		text   string
		want   string // of the recipe that comes of it
		told   string // part of what is told, empty for nothing
	}{
		{
			recipe: `--key "C# natural minor" --layout 3nps --at 6:9 --cell "3 2 1 4" --times 12`,
			arg:    "cell",
			text:   "1 2 3 4 5 6 7 8 7 6",
			want:   `--key "C# natural minor" --layout 3nps --at 6:9 --cell "1 2 3 4 5 6 7 8 7 6"`,
			told:   "“12 times” gave way",
		},
		{
			recipe: `--key "A minor pentatonic" --at 6:4 --cell "1 2"`,
			arg:    "layout",
			text:   "two boxes 1 and 2",
			want:   "--layout boxes:1+2",
			told:   "It begins",
		},
		{
			recipe: `--key "G major" --cell "1 2 3" --move 2`,
			arg:    "cell",
			text:   "chord: 1 3 5",
			want:   `--cell "chord: 1 3 5"`,
			told:   "“2 tones” gave way",
		},
		{
			recipe: `--key "A natural minor" --cell "1 2 3"`,
			arg:    "move",
			text:   "over the strings, scale by scale",
			want:   `--move scale:string --scales "natural minor, dorian"`,
		},
		{recipe: `--key "D dorian" --cell "1 2 3"`, arg: "scales", text: "dorian, natural minor", want: `--move scale`},
		{
			recipe: `--key "A natural minor" --cell "1 2 3" --move scale --scales "natural minor, dorian"`,
			arg:    "move",
			text:   "one tone",
			want:   `--cell "1 2 3" --move 1`,
		},
		{recipe: `--key "A natural minor" --cell "1 2 3" --times 4`, arg: "bars", text: "two", want: "--bars 2"},
		{
			recipe: `--key "A natural minor" --cell "1 2 3" --dir updown --times 4`,
			arg:    "land",
			text:   "the root in bar 3",
			want:   "--land root@3:1",
		},
		{recipe: `--key "A natural minor" --cell "1 2 3"`, arg: "count", text: "triplets", want: "--count 8t"},
		{
			recipe: `--key "A natural minor" --cell "1 2 3"`,
			arg:    "count",
			text:   "eighths and sixteenths",
			want:   "--count 8,16",
		},
		{
			recipe: `--key "A natural minor" --cell "1 2 3"`,
			arg:    "chords",
			text:   "Bbm7b5 | Eb7 | Abm6",
			want:   `--chords "Bbm7b5 | Eb7 | Abm6"`,
		},
		{recipe: `--key "A natural minor" --cell "1 2 3"`, arg: "add", text: "♭5 going down, 9", want: "--drop"},
		{recipe: `--key "A natural minor" --cell "1 2 3"`, arg: "key", text: "Dm dorian", want: `--key "D dorian"`},
		{
			recipe: `--key "A natural minor" --cell "1 2 3"`,
			arg:    "pivot",
			text:   "3",
			want:   `--tail "chord: 3 5 3 1" --pivot 3`,
		},
	} {
		r, err := run.Parse(c.recipe)
		if err != nil {
			t.Fatal(err)
		}
		out, told, err := r.Put(0, c.arg, c.text, g)
		if c.arg == "add" {
			c.want = "--add" // which is the one case in which the word is written otherwise than it was said
		}
		if err != nil || !strings.Contains(out.String(), c.want) {
			t.Errorf("%s, %s %q: %s, %v; want %s", c.recipe, c.arg, c.text, out, err, c.want)
		}
		if all := strings.Join(told, " "); !strings.Contains(all, c.told) || c.told == "" && all != "" {
			t.Errorf("%s, %s %q: %q is told, want %q", c.recipe, c.arg, c.text, all, c.told)
		}
	}
	for _, c := range []struct{ arg, text, says string }{
		{"cell", "1 2 x", `"x"`},
		{"times", "99", "room for"},
		{"chords", "Am7 | Xm7", "Xm7"},
		{"count", "32", "triplets"},
		{"key", "A dorain", "dorian"},
		{"slurs", "all", "string, way"},
		{"land", "the third of the moon", "a landing"},
	} {
		r := run.Recipe{Key: "A natural minor", Layout: "3nps", At: "6:5", Cell: "1 2 3", Times: 4}
		out, _, err := r.Put(0, c.arg, c.text, g)
		if err == nil || !strings.Contains(err.Error(), c.says) {
			t.Errorf("%s %q: %v, want %q", c.arg, c.text, err, c.says)
		}
		if out != r {
			t.Errorf("%s %q is refused and leaves %s", c.arg, c.text, out)
		}
	}
}

// A new key in a later part keeps its shape and its move, as in the first.
func TestPutKeyOfALaterPart(t *testing.T) {
	g := neck.Standard()
	r, err := run.Parse(
		`--key "A natural minor" --layout 3nps --at 6:5 --cell "strings: a1 a2 a3" --move string:2 --times 2 ` +
			`--then --dir down --move string:2 --times 2`,
	)
	if err != nil {
		t.Fatal(err)
	}
	out, told, err := r.Put(1, "key", "C natural minor", g)
	if err != nil {
		t.Fatal(err)
	}
	parts, err := out.Parts()
	if err != nil || parts[1].Key != "C natural minor" || parts[1].Layout != "3nps" || parts[1].Move != "string:2" {
		t.Errorf("%s (%v, %v)", out, told, err)
	}
	// What follows takes the move and the chords along.
	last, err := run.Parse(`--key "A natural minor" --layout 3nps --at 6:5 --cell "1 2 3" --move string --times 4`)
	if err != nil {
		t.Fatal(err)
	}
	grown := grow(t, last.String())
	if more := run.Back(last, grown, g); more.Move != "string" {
		t.Errorf("and then: %s", more)
	}
}

// An option without effect is said.
func TestUnused(t *testing.T) {
	for recipe, want := range map[string]string{
		`--key "A natural minor" --cell "1 2 3" --scales "dorian, phrygian"`:    "--scales dorian, phrygian has no effect",
		`--key "A natural minor" --cell "1 2 3" --turn twice`:                   "--turn twice",
		`--key "A natural minor" --cell "1 2 3" --down-cell "3 2 1"`:            "never comes down",
		`--key "A natural minor" --cell "1 2 3" --follow chord`:                 "no chords",
		`--key "G major" --cell "chord: 1 3 5" --start 2`:                       "--start 2",
		`--key "A natural minor" --cell "1 2 3" --dir updown --turn twice`:      "",
		`--key "A natural minor" --cell "1 2 3" --move scale --scales "dorian"`: "",
	} {
		r, err := run.Parse(recipe)
		if err != nil {
			t.Fatal(err)
		}
		got := strings.Join(run.Unused(r, neck.Standard()), " ")
		if !strings.Contains(got, want) || want == "" && got != "" {
			t.Errorf("%s: %q, want %q", recipe, got, want)
		}
	}
	r, err := run.Parse(`--key "A minor pentatonic" --cell "strings: a1 a2" --start 11`)
	if err == nil {
		_, err = run.Grow(r, neck.Standard())
	}
	if err == nil || !strings.Contains(err.Error(), "6 strings") {
		t.Errorf("eleven of six strings: %v", err)
	}
}

// choiceRecipe is a recipe of some of the choices that there are, for tests that say it in other ways.
func choiceRecipe(rng *rand.Rand, g neck.Guitar) run.Recipe {
	keys := []string{"A minor pentatonic", "C# natural minor", "Eb major", "F# dorian", "G mixolydian", "Bb blues"}
	cells := []string{"1 2 3", "3 2 1 4", "1 2 3 4", "strings: a1 a2", "strings: a2 pa1 b1", "chord: 1 3 5 1'"}
	r := run.Recipe{Key: keys[rng.IntN(len(keys))], Cell: cells[rng.IntN(len(cells))]}
	for range 5 {
		arg := run.Names()[rng.IntN(len(run.Names()))]
		choices := r.Choices(0, arg, g)
		if arg == "key" || arg == "cell" || arg == "tuning" || len(choices) == 0 {
			continue
		}
		if out, _, err := r.Put(0, arg, choices[rng.IntN(len(choices))].Value, g); err == nil {
			r = out
		}
	}
	return r
}

// A recipe of random choices says itself: what is written is read as the same recipe and grows the same line.
func TestRandomRecipesRoundTrip(t *testing.T) {
	g := neck.Standard()
	rng := rand.New(rand.NewPCG(35, 1))
	for range testline.Nightly(4) {
		r := choiceRecipe(rng, g)
		again, err := run.Parse(r.String())
		if err != nil {
			t.Fatalf("%s: %v", r, err)
		}
		if again != r {
			t.Errorf("%s comes back as %s", r, again)
		}
		if _, err := run.Grow(r, g); err != nil {
			t.Errorf("%s: %v", r, err)
		}
	}
}
