package e2e

import (
	"strconv"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
)

// A player writes changes, sees that the line lands early, takes the fix, moves the lick to
// every chord and hears it; undo leads back. By keyboard alone, but for the menu.
func TestChanges(t *testing.T) {
	t.Parallel()
	a := demoApp(t)
	p := a.open("/licks/1/versions")
	p.wait(`document.querySelector('.history')`)
	// The demo's blues was early once: its first version is taken back.
	p.go_("/licks/1/changes")
	p.wait(`document.querySelector('svg.changes')`)
	p.ctrl("z")
	p.wait(`document.querySelector('.landings h2').innerText == 'One landing misses'`)
	if s := p.text(".landings"); !strings.Contains(s, "lands early") || !strings.Contains(s, "third of D7") {
		t.Errorf("it says %q", s)
	}
	if n := eval[int](p, `document.querySelectorAll('.landing.early').length`); n != 1 {
		t.Errorf("%d early landings are drawn", n)
	}
	p.keys(".")
	p.wait(`document.querySelector('.landings h2').innerText == 'Every landing arrives'`)
	chords := func(text string) {
		p.keys("k")
		p.wait(`document.activeElement.id == 'chords'`)
		p.do(chromedp.Evaluate[chromedp.Void](`document.activeElement.select()`), chromedp.KeyEvent(text),
			chromedp.KeyEvent(kb.Enter))
	}
	chords("17 | 47")
	p.wait(`document.querySelector('#chords').value == 'A7 | D7'`)
	p.do(chromedp.Evaluate[chromedp.Void](`document.activeElement.blur()`))
	p.keys(kb.ArrowRight)
	p.wait(`document.querySelector('.overchord h2').innerText.startsWith('Over D7')`)
	notes := eval[int](p, `document.querySelectorAll('.over[data-note]').length`)
	p.click("#movemenu")
	p.click(`[data-useturn="over:each:degrees"]`)
	p.wait(`document.querySelectorAll('.over[data-note]').length < ` + strconv.Itoa(notes))
	if s := eval[string](p, `[...document.querySelectorAll('.over .deg')].slice(0, 5).map(e => `+
		`e.textContent).join(' ')`); s != "1 ♭3 3 5 ♭7" {
		t.Errorf("over A7 it plays %s", s)
	}
	if s := eval[string](p, `[...document.querySelectorAll('.over .deg')].slice(5, 10).map(e => `+
		`e.textContent).join(' ')`); s != "1 ♭3 3 5 ♭7" {
		t.Errorf("over D7 it plays %s", s)
	}
	p.keys("g", " ")
	p.wait(`listening.on && document.querySelector('.over.lit')`)
	p.keys(" ")
	p.wait(`!listening.on`)
	p.ctrl("z")
	p.wait(`document.querySelectorAll('.over[data-note]').length == ` + strconv.Itoa(notes))
	// A chord that is none is refused in a sentence and changes nothing.
	chords("H7 | A7")
	p.wait(`document.querySelector('#notice').innerText.includes('H7')`)
}

// A figure of a player's own over four chords in Roman numbers: moved whole, with an open-string bass under it; the
// screen says where it rests and how it arrives, and plays it. Chords alone are heard without a line.
func TestFigureOverNumerals(t *testing.T) {
	t.Parallel()
	p := demoApp(t).open("/runs?key=A+minor+pentatonic&at=4:5&layout=box&cell=1+2+3+4&times=1&start=5&count=4&tempo=90")
	p.wait(`document.querySelector('svg.run')`)
	p.click(`.runactions .btn-primary`)
	p.wait(`document.querySelector('#bench')`)
	p.ready()
	p.go_(eval[string](p, `location.pathname`) + "/changes")
	p.wait(`document.querySelector('#chords')`)
	p.keys("k")
	p.wait(`document.activeElement.id == 'chords'`)
	p.do(chromedp.Evaluate[chromedp.Void](`document.activeElement.select()`), chromedp.KeyEvent("i | v | iv | i"),
		chromedp.KeyEvent(kb.Enter))
	p.wait(`document.querySelector('#chords').value == 'Am | Em | Dm | Am'`)
	p.wait(`document.querySelector('.restlist li')?.innerText.includes('rests on the')`)
	for _, move := range []string{"each:shape", "bass:alternating"} {
		p.click("#movemenu")
		p.click(`[data-useturn="over:` + move + `"]`)
		p.wait(`!document.querySelector('.modal.show')`)
		p.wait(
			`document.querySelectorAll('.over[data-note]').length >= ` + map[string]string{"each:shape": "16",
				"bass:alternating": "24"}[move],
		)
	}
	if n := eval[int](p, `document.querySelectorAll('.over.outside').length`); n > 0 {
		t.Errorf("%d notes of a moved figure are outside", n)
	}
	p.wait(`document.querySelector('.onneck svg')`)
	p.keys(" ")
	p.wait(`listening.on && document.querySelector('.over.lit')`)
	p.keys(" ")
	p.wait(`!listening.on`)
	// The chords by themselves.
	p.click(`[aria-label^="Another lick"]`)
	p.click(`.licks-menu .alone`)
	p.wait(`document.querySelector('.changes-head h1').innerText == 'Chords alone'`)
	p.wait(`document.body.dataset.heard && document.querySelectorAll('.grips li').length > 3`)
	p.keys(" ")
	p.wait(`listening.on`)
	p.keys(" ")
	p.wait(`!listening.on`)
	p.keys("k")
	p.wait(`document.activeElement.id == 'chords'`)
	p.do(chromedp.Evaluate[chromedp.Void](`document.activeElement.select()`), chromedp.KeyEvent("ii7 | V7 | Imaj7"),
		chromedp.KeyEvent(kb.Enter))
	p.wait(`document.querySelector('#chords').value == 'Bm7 | E7 | Amaj7'`)
	p.click(`.changes-head form .btn-primary`)
	p.wait(`location.pathname.endsWith('/changes')`)
}

// On the bench a chord is typed in its lane, over the note at the caret, and let go again.
func TestChordLane(t *testing.T) {
	t.Parallel()
	p := demoApp(t).open("/licks/17")
	p.ready()
	p.keys(kb.Home)
	shown := func() bool {
		return eval[bool](p, `!!document.querySelector('.lanekeys[data-lane=chord]:not([hidden])')`)
	}
	for k := 0; k < 14 && !shown(); k++ {
		p.keys(kb.ArrowUp)
	}
	p.keys(kb.ArrowRight, kb.ArrowRight, kb.ArrowRight, kb.ArrowRight)
	p.wait(`document.querySelector('.foot h3').innerText.startsWith('Note 5')`)
	p.keys("4", "7")
	p.do(chromedp.KeyEvent(kb.Enter))
	p.wait(`[...document.querySelectorAll('.chordname')].map(e => e.textContent).join(' ') == 'C♯m7 F♯7'`)
	// The whole name is seen: none begins to the left of what is drawn.
	if cut := eval[float64](p, `Math.min(...[...document.querySelectorAll('.chordname')].map(e =>
		e.getBoundingClientRect().left - e.ownerSVGElement.getBoundingClientRect().left))`); cut < 0 {
		t.Errorf("a chord's name is cut by %.0f px at the left", -cut)
	}
	p.keys(kb.Delete)
	p.wait(`[...document.querySelectorAll('.chordname')].map(e => e.textContent).join(' ') == 'C♯m7'`)
}
