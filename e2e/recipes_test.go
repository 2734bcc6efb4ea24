package e2e

import (
	"fmt"
	"math/rand/v2"
	"net/url"
	"os"
	"slices"
	"strconv"
	"testing"

	"ornamen/core/neck"
	"ornamen/core/run"
)

// Random recipes are the same by command and by the sentence, typed word by word in the browser: what the address then
// says grows the line that the command prints. By day a few, in the night's run two hundred.
func TestSentenceSaysRecipes(t *testing.T) {
	t.Parallel()
	n := 1
	if os.Getenv("ORNAMEN_EXHAUSTIVE") != "" {
		n = 200
	}
	one := os.Getenv("ORNAMEN_RECIPE") // to say this one alone
	if one != "" {
		n = 1
	}
	from, _ := strconv.Atoi(os.Getenv("ORNAMEN_RECIPES_FROM")) // to go on where a run ended
	a := start(t, t.TempDir()+"/own.db")
	var p *tab
	g := neck.Standard()
	rng := rand.New(rand.NewPCG(35, uint64(n)))
	for k := range n {
		var r run.Recipe
		if one == "" {
			r = aRecipe(rng, g)
		} else if r, _ = run.Parse(one); r.Cell == "" {
			t.Fatalf("%s is no recipe", one)
		}
		if k < from {
			continue
		}
		if p == nil || k%10 == 0 { // a tab is open for some minutes at most
			p = a.open("/runs")
		}
		t.Logf("recipe %d of %d: %s", k, n, r)
		byCommand, err := run.Parse(r.String())
		if err != nil {
			t.Fatalf("%s: %v", r, err)
		}
		want, err := run.Grow(byCommand, g)
		if err != nil {
			t.Fatalf("%s: %v", r, err)
		}
		p.go_("/runs?key=A+natural+minor&cell=1+2+3&tempo=100")
		p.wait(`document.querySelector('svg.run')`)
		// A word that gave way to a later one is said again, as a player would.
		var said run.Recipe
		for range 3 {
			typed := 0
			for _, arg := range run.Names() {
				said = recipeOf(p)
				if value := r.Get(arg); said.Get(arg) != value && arg != "tempo" {
					sayWord(p, arg, value)
					typed++
				}
			}
			if typed == 0 {
				break
			}
		}
		said = recipeOf(p)
		got, err := run.Grow(said, g)
		if err != nil {
			t.Fatalf("the sentence says %s: %v", said, err)
		}
		if string(bare(got)) != string(bare(want)) {
			t.Errorf("by command %s\nby the sentence %s", r, said)
		}
	}
}

// bare is a run as far as it is heard.
func bare(r *run.Run) []byte {
	l := r.Lick
	l.Recipe, l.Title, l.Parts = "", "", nil
	return l.Encode()
}

// aRecipe is a key, a cell and a few words besides, each of those that it can have there.
func aRecipe(rng *rand.Rand, g neck.Guitar) run.Recipe {
	keys := []string{"A minor pentatonic", "C# natural minor", "Eb major", "F# dorian", "G mixolydian", "Bb blues"}
	cells := []string{"1 2 3", "3 2 1 4", "1 2 3 4", "strings: a1 a2", "strings: a2 pa1 b1", "chord: 1 3 5 1'"}
	r := run.Recipe{Key: keys[rng.IntN(len(keys))], Cell: cells[rng.IntN(len(cells))]}
	if _, err := run.Grow(r, g); err != nil {
		r.Key = "G major"
	}
	for range 6 {
		arg := run.Names()[rng.IntN(len(run.Names()))]
		choices := r.Choices(0, arg, g)
		if slices.Contains([]string{"key", "cell", "tuning", "tempo"}, arg) || len(choices) == 0 {
			continue
		}
		if out, _, err := r.Put(0, arg, choices[rng.IntN(len(choices))].Value, g); err == nil {
			r = out
		}
	}
	if len(run.Unused(r, g)) > 0 {
		return aRecipe(rng, g) // a word without effect is said by command, and not offered by the sentence
	}
	return r
}

// recipeOf is the recipe that the address of the page says.
func recipeOf(p *tab) run.Recipe {
	p.t.Helper()
	q, err := url.ParseQuery(eval[string](p, `location.search.slice(1)`))
	if err != nil {
		p.t.Fatal(err)
	}
	var r run.Recipe
	for _, name := range run.Names() {
		if err := r.Set(name, q.Get(name)); err != nil {
			p.t.Fatal(err)
		}
	}
	return r
}

// sayWord types a word of the sentence; one that it does not have yet is first asked for under "say more". A word that
// there is no place for yet is left for the next round.
func sayWord(p *tab, arg, value string) {
	p.t.Helper()
	has := fmt.Sprintf(`!!document.querySelector('.sentence [data-word=%q]')`, arg)
	if !eval[bool](p, has) {
		p.click(".sentence .more[data-bs-toggle]")
		p.wait(`document.querySelector('.more-menu.show[data-listed]')`)
		if !eval[bool](p, fmt.Sprintf(`!!document.querySelector('[data-offer=%q]')`, arg)) {
			p.keys("\x1b")
			p.wait(`!document.querySelector('.word-menu.show')`)
			return
		}
		p.click(fmt.Sprintf("[data-offer=%q]", arg))
		p.wait(fmt.Sprintf(`document.querySelector('.sentence [data-word=%q]')`, arg))
	}
	word(p, arg, value)
}
