package e2e

import (
	"strconv"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"ornamen/internal/demo"
)

// word types a word of the recipe's sentence: its menu opens with the field ready, Enter says what is in it.
func word(p *tab, field, value string) {
	p.t.Helper()
	p.wait(`document.body.dataset.heard`)
	typed := `document.activeElement?.matches('.word-menu.show .wordfield[data-run="` + field + `"]')`
	p.until(typed, func() { p.click(`.sentence [data-word="` + field + `"]`) })
	p.ctrl("a")
	if value == "" {
		p.keys(kb.Delete)
	} else {
		p.keys(value)
	}
	p.keys(kb.Enter)
	p.wait(`!document.querySelector('.word-menu.show') && !document.querySelector('.htmx-request')`)
}

// A run goes on with another part, whose words are changed as the first one's; it goes to the bench
// whole and comes back as one sentence.
func TestRunsAndThen(t *testing.T) {
	t.Parallel()
	p := demoApp(t).open("/runs?key=A+minor+pentatonic&cell=1+2+3&times=4&tempo=100")
	p.wait(`document.querySelectorAll('.bracketname').length == 4`)
	p.keys("a")
	p.wait(`document.querySelectorAll('.bracketname').length == 7`)
	word(p, "2.cell", "3 2 1 4")
	p.wait(`document.querySelector('.runfoot').innerText.startsWith('24 notes')`)
	word(p, "2.cell", "zz")
	p.wait(`document.querySelector('#notice').innerText.includes('"zz"')`)
	p.click(`.runactions .btn-primary`)
	p.wait(`document.querySelector('#bench')`)
	p.ready()
	p.waitNotes(24)
	p.ways("turned")
	p.click(`[data-findrecipe]`)
	p.wait(`document.querySelector('#notice a')?.innerText == 'Change the recipe'`)
	p.click(`#notice a`)
	p.wait(`document.querySelector('.sentence')?.innerText.includes('And then the cell 3 2 1 4')`)
	p.click(`[aria-label="Leave part 2 out"]`)
	p.wait(`document.querySelectorAll('.bracketname').length == 4`)
}

// A player says a run as a sentence, is told what does not fit, chooses a way to
// play it, sends it to the bench, changes the recipe and grows it again.
func TestRuns(t *testing.T) {
	t.Parallel()
	p := demoApp(t).open("/runs")
	p.wait(`document.querySelector('svg.run')`)
	if s := p.text(".runfoot"); !strings.HasPrefix(s, "33 notes") {
		t.Errorf("the first run says %q", s)
	}
	word(p, "cell", "1 2 3")
	p.wait(`document.querySelectorAll('.bracketname').length == 9`)
	// Impossible: the word and why, and nothing changed.
	word(p, "cell", "1 2 x")
	p.wait(`document.querySelector('#notice').innerText.includes('"x"')`)
	if n := eval[int](p, `document.querySelectorAll('.bracketname').length`); n != 9 {
		t.Errorf("a mistake changed the run: %d brackets", n)
	}
	word(p, "times", "99")
	p.wait(`document.querySelector('#notice').innerText.includes('room for')`)
	// Another way to play it.
	p.do(chromedp.ScrollIntoView(chromedp.CSS(`.waystable`)))
	eval[bool](
		p,
		`[...document.querySelectorAll('.waystable tr')].find(r => r.innerText.includes('Economy, from `+
			`down')).querySelector('a').click() ?? true`,
	)
	p.wait(`document.querySelector('.waystable tr.on').innerText.includes('Economy, from down')`)
	p.keys("1")
	p.wait(`document.querySelector('.waystable tr.on kbd').innerText == '1'`)
	// Backwards, side by side, and away again.
	p.click(`.runactions a[href*="show=backwards"]`)
	p.wait(`document.querySelectorAll('.comparing .hands').length == 2`)
	p.click(`.runactions a.on`)
	p.wait(`document.querySelector('.waystable tr.on')`)
	p.click(`.runactions .btn-primary`)
	p.wait(`document.querySelector('#bench')`)
	p.ready()
	p.waitNotes(25)
	// Its recipe is known, can be changed, and the line grows again.
	p.ways("turned")
	p.click(`[data-findrecipe]`)
	p.wait(`document.querySelector('#notice a')?.innerText == 'Change the recipe'`)
	p.click(`#notice a`)
	p.wait(`document.querySelector('.runactions .btn-primary')?.innerText.startsWith('Grow')`)
	word(p, "times", "4")
	p.wait(`document.querySelectorAll('.bracketname').length == 5`)
	p.click(`.runactions .btn-primary`)
	p.wait(`document.querySelector('#bench')`)
	p.ready()
	p.waitNotes(13)
	p.ctrl("z")
	p.waitNotes(25)
}

// Each kind of run of the demo goes through the ways table to the bench.
func TestRecipesOfTheDemo(t *testing.T) {
	t.Parallel()
	p := demoApp(t).open("/runs")
	p.click("[data-recipes]")
	p.wait(`document.querySelector('.recipes-menu.show')`)
	paths := eval[[]string](p,
		`[...document.querySelectorAll('.recipes-menu .saved a')].map(a => a.getAttribute('href'))`)
	if len(paths) != len(demo.Recipes) {
		t.Fatalf("%d recipes in the menu, want %d", len(paths), len(demo.Recipes))
	}
	for i, path := range []string{paths[0], paths[4], paths[len(paths)-1]} {
		if i == 0 {
			p.click(".recipes-menu .saved a")
		} else {
			p.go_(path)
		}
		p.wait(`document.querySelectorAll('.waystable tbody tr').length > 0 && location.search.includes('cell=')`)
		eval[bool](p, `[...document.querySelectorAll('.useit')].at(-1)?.click() ?? true`)
		p.wait(`document.querySelector('.waystable tr.on')`)
		p.click(`.runactions .btn-primary`)
		p.wait(`document.querySelector('#bench')`)
		p.ready()
		if eval[int](p, `+document.querySelector('#state').dataset.total`) < 5 {
			t.Errorf("%s has hardly a note", path)
		}
	}
}

// ways opens the sheet of other ways at one kind of them.
func (t *tab) ways(kind string) {
	t.t.Helper()
	t.click(`[data-hands]`)
	t.wait(`document.querySelector('.offer') && getComputedStyle(document.querySelector('#hands')).opacity == 1`)
	t.click(`[data-kind=` + kind + `]`)
	t.wait(`document.querySelector('[data-kind=` + kind + `].on') && document.querySelectorAll('.offer').length > 1`)
}

// A written line is turned in part, seen beside what it was, and its recipe found.
func TestTurnOnTheBench(t *testing.T) {
	t.Parallel()
	p := demoApp(t).open("/licks/15")
	p.ready()
	before := p.frets()
	p.ways("turned")
	p.click(`[data-useturn=backwards]`)
	p.wait(`!document.querySelector('#hands.show')`)
	p.wait(`[...document.querySelectorAll('svg.ledger .fret')].map(e => e.textContent).join(' ') != '` + before + `'`)
	p.ctrl("z")
	p.wait(`[...document.querySelectorAll('svg.ledger .fret')].map(e => e.textContent).join(' ') == '` + before + `'`)
	p.ways("turned")
	p.click(`[data-findrecipe]`)
	p.wait(`document.querySelector('#notice').innerText.includes('--cell')`)
	// Another bend in the same frame.
	p.go_("/licks/14?note=1&lane=bend")
	p.ready()
	p.ways("bend")
	was := p.text("svg.ledger g.col .bendword")
	p.click(`[data-useturn]`)
	p.wait(
		`!document.querySelector('#hands.show') && document.querySelector('svg.ledger g.col .bendword').textContent ` +
			`!= '` + was + `'`,
	)
}

// By letters alone: another cell for the way down and a tail in the sentence, the run to the
// bench, there another end from a note and a cell to go on with.
func TestRunsByLetters(t *testing.T) {
	t.Parallel()
	p := demoApp(t).open("/runs?key=A+minor+pentatonic&at=6:5&cell=1+2+3&dir=updown&times=8")
	p.wait(`document.querySelectorAll('.bracketname').length == 8`)
	say := func(letter, field, value, said string) {
		p.keys(letter)
		p.wait(`document.activeElement?.dataset?.run == '` + field + `'`)
		write(p, value)
		p.wait(`document.querySelector('.sentence [data-word="` + field + `"]')?.innerText == '` + said + `'`)
	}
	say("d", "down-cell", "2 1", "Coming down, the cell 2 1")
	say("t", "tail", "1 0", "With the tail 1 0")
	p.wait(`document.querySelectorAll('.bracketname').length == 9`)
	p.keys("b")
	p.wait(`document.querySelector('#bench')`)
	p.ready()
	before := eval[int](p, `+document.querySelector('#state').dataset.total`)
	if before != 5*3+3*2+2 {
		t.Fatalf("%d notes on the bench", before)
	}
	p.keys("a")
	p.wait(`document.activeElement?.dataset?.edit == 'append'`)
	write(p, "1 2 3")
	p.wait(`+document.querySelector('#state').dataset.total != ` + strconv.Itoa(before))
	p.ready()
	p.keys("e")
	p.wait(`document.querySelectorAll('#hands.show .offer').length > 1`)
	rev := eval[string](p, `document.querySelector('#state').dataset.rev`)
	p.keys("2")
	p.wait(`document.querySelector('#state').dataset.rev != '` + rev + `'`)
	p.wait(`!document.querySelector('.modal.show')`)
}
