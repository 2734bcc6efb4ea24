package runs

import (
	"slices"
	"strings"
	"testing"

	"ornamen/core/neck"
	"ornamen/core/run"
)

// Every argument of a recipe is a word of the sentence, or is offered as one, and its menu lists all that the table of
// its terms has for such a run.
func TestEveryArgumentIsAWord(t *testing.T) {
	for _, arg := range run.Names() {
		said := slices.ContainsFunc(sayings, func(s saying) bool { return s.field == arg })
		if !said && !isExtra(arg) && arg != "then" {
			t.Errorf("%s is no word of the sentence", arg)
		}
	}
	f := runsForm{Recipe: run.Recipe{Key: "A natural minor", Layout: "3nps", At: "6:5", Cell: "1 2 3", Dir: "updown"}}
	g := neck.Standard()
	for _, arg := range []string{"move", "layout", "dir", "count", "pick", "slurs", "feel"} {
		m, err := f.words(arg, "", g)
		if err != nil {
			t.Fatal(err)
		}
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
				found := false
				for _, c := range m.Choices {
					found = found || c.Name == name
				}
				if !found {
					t.Errorf("the menu of %s does not list %q", arg, name)
				}
			}
		}
	}
}

// A menu leaves out what does not answer to what is typed, and offers what was typed as it is.
func TestWordsFilter(t *testing.T) {
	f := runsForm{Recipe: run.Recipe{Key: "A natural minor", Cell: "1 2 3"}}
	g := neck.Standard()
	for _, c := range []struct {
		field, typed, first string
		asTyped             bool
	}{
		{field: "key", typed: "jazz minor", first: "A melodic minor", asTyped: true},
		{field: "key", typed: "Dm dorian", first: "D dorian", asTyped: true},
		{field: "move", typed: "string", first: "one string over", asTyped: true},
		{field: "count", typed: "triplets", first: "triplets"},
		{field: "cell", typed: "1 5 2", asTyped: true},
	} {
		m, err := f.words(c.field, c.typed, g)
		if err != nil {
			t.Fatal(err)
		}
		first := ""
		if len(m.Choices) > 0 {
			first = m.Choices[0].Name
		}
		if !strings.HasPrefix(strings.NewReplacer("♯", "#").Replace(first), c.first) || c.first == "" && first != "" {
			t.Errorf("%s %q lists %q first, want %q", c.field, c.typed, first, c.first)
		}
		if (m.Typed.Name != "") != c.asTyped {
			t.Errorf("%s %q: as typed is %q", c.field, c.typed, m.Typed.Name)
		}
	}
	if _, err := f.words("colour", "", g); err == nil {
		t.Error("a word that is none has a menu")
	}
	if _, err := f.words("9.more", "", g); err == nil {
		t.Error("a part that is none has a menu")
	}
}

// What is offered makes another run.
func TestOffersMakeAnotherRun(t *testing.T) {
	f := runsForm{
		Recipe: run.Recipe{Key: "A natural minor", Layout: "3nps", At: "6:5", Cell: "1 2 3", Dir: "updown", Times: 6},
	}
	g := neck.Standard()
	heard, err := run.Grow(f.Recipe, g)
	if err != nil {
		t.Fatal(err)
	}
	m, err := f.words("more", "", g)
	if err != nil || len(m.Offers) < 10 {
		t.Fatalf("%d offers, %v", len(m.Offers), err)
	}
	for _, o := range m.Offers {
		value, ok := f.offered(0, o.Field, g)
		out, _, err := f.Recipe.Put(0, o.Field, value, g)
		if !ok || err != nil {
			t.Errorf("%s %q is offered: %v", o.Field, value, err)
			continue
		}
		if other, err := run.Grow(out, g); err != nil || string(line(other)) == string(line(heard)) {
			t.Errorf("%s %q makes the same run (%v)", o.Field, value, err)
		}
	}
}
