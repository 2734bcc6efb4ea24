package e2e

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
)

// tabTo presses Tab until the element that has the keyboard fits a selector.
func tabTo(p *tab, sel string) {
	p.t.Helper()
	for range 80 {
		if eval[bool](p, `document.activeElement.matches('`+sel+`')`) {
			return
		}
		p.keys(kb.Tab)
	}
	p.t.Fatalf("Tab never comes to %s", sel)
}

// write replaces the text of the field that has the keyboard.
func write(p *tab, text string) {
	p.t.Helper()
	p.ctrl("a")
	p.do(chromedp.KeyEvent(text))
	p.keys(kb.Enter)
}

// With the keyboard alone a player says another cell, mistypes it, takes a way to
// play it by its digit, sends it to the bench, and proposes hands there.
func TestRunsByKeyboardAlone(t *testing.T) {
	t.Parallel()
	p := demoApp(t).open("/runs")
	p.wait(`document.querySelector('svg.run')`)
	tabTo(p, `[data-word="cell"]`)
	p.keys(kb.Enter)
	p.wait(`document.querySelector('.word-menu.show [data-run="cell"]')`)
	tabTo(p, `[data-run="cell"]`)
	write(p, "1 2 oops")
	p.wait(`document.querySelector('#notice').innerText.includes('oops')`)
	tabTo(p, `[data-word="cell"]`)
	p.keys(kb.Enter)
	p.wait(`document.querySelector('.word-menu.show [data-run="cell"]')`)
	tabTo(p, `[data-run="cell"]`)
	write(p, "1 3 2 1")
	p.wait(
		`document.querySelector('[data-word="cell"]').innerText == '1 3 2 1' && ` +
			`!document.querySelector('.word-menu.show')`,
	)
	p.keys("3")
	p.wait(`document.querySelector('.waystable tr.on kbd').innerText == '3'`)
	tabTo(p, `.runactions .btn-primary`)
	p.keys(kb.Enter)
	p.wait(`document.querySelector('#bench')`)
	p.ready()
	p.keys("h")
	p.wait(`document.querySelector('.offer') && getComputedStyle(document.querySelector('#hands')).opacity == 1`)
	p.keys(kb.Escape)
	p.wait(`!document.querySelector('#hands.show')`)
	if !eval[bool](p, `document.activeElement.id == 'ledger'`) {
		t.Error("the ledger does not have the keyboard again")
	}
}

// A bend and the fingers that help it, and a mistake, by keys alone: the mistake is said
// in a sentence and nothing changes.
func TestBendByKeyboard(t *testing.T) {
	t.Parallel()
	p := demoApp(t).open("/licks/14")
	p.ready()
	p.keys(kb.Home)
	shown := func() bool {
		return eval[bool](p, `document.querySelector('.lanekeys[data-lane=bend]')?.hidden === false`)
	}
	for k := 0; k < 20 && !shown(); k++ {
		p.keys(kb.ArrowDown)
	}
	p.wait(
		`document.querySelector('.lanekeys[data-lane=bend]:not([hidden]) ` +
			`[data-digit=W]')?.innerText.includes('any free')`,
	)
	p.keys("w")
	p.wait(`document.querySelector('.lanekeys[data-lane=bend] [data-digit=W]').innerText == 'W helped by 2'`)
	p.keys("w")
	p.wait(`document.querySelector('.lanekeys[data-lane=bend] [data-digit=W]').innerText == 'W helped by 2 and 1'`)
	p.keys("w")
	p.wait(`document.querySelector('.lanekeys[data-lane=bend] [data-digit=W]').innerText.includes('any free')`)
	// Note 2 is not bent: a release of nothing is refused.
	rev := eval[string](p, `document.querySelector('#state').dataset.rev`)
	p.keys(kb.ArrowRight, "6")
	p.wait(`document.querySelector('#notice').innerText.includes('Bend the note first')`)
	if got := eval[string](p, `document.querySelector('#state').dataset.rev`); got != rev {
		t.Errorf("a mistake made revision %s", got)
	}
}
