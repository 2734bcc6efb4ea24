package e2e

import (
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
)

// A player opens the proposals with one key, asks for another way, takes one for
// a selection, and undoes it.
func TestProposeHands(t *testing.T) {
	t.Parallel()
	p := demoApp(t).open("/licks/15")
	p.ready()
	before := p.fingers()
	p.keys(kb.Home, "h")
	p.wait(`document.querySelectorAll('.offer').length > 1`)
	if s := p.text(".offer .because"); !strings.HasPrefix(s, "Recommended") {
		t.Errorf("the first offer says %q", s)
	}
	p.wait(`getComputedStyle(document.querySelector('#hands')).opacity == 1`)
	p.click(`[data-ask-way=economy]`)
	p.wait(
		`document.querySelector('[data-ask-way=economy].on') && document.querySelector('.offer ` +
			`.because').innerText.includes('economy')`,
	)
	strokes := p.strokes()
	p.click(`.offer [data-take]`)
	p.wait(`!document.querySelector('#hands.show')`)
	p.wait(
		`[...document.querySelectorAll('svg.ledger path.stroke')].map(e => ` +
			`e.getAttribute('d').includes('l')).join('') != '` + strokes + `'`,
	)
	p.ctrl("z")
	p.wait(
		`[...document.querySelectorAll('svg.ledger path.stroke')].map(e => ` +
			`e.getAttribute('d').includes('l')).join('') == '` + strokes + `'`,
	)
	if got := p.fingers(); got != before {
		t.Errorf("after undo the fingers are %s, not %s", got, before)
	}
	// For a selection only.
	p.keys(kb.Home)
	for range 3 {
		p.do(chromedp.KeyEvent(kb.ArrowRight, chromedp.KeyModifiers(chromedp.ModifierShift)))
	}
	p.wait(`document.querySelector('.chosen-range')`)
	p.keys("h")
	p.wait(`document.querySelector('#hands-title')?.innerText == 'Other ways to play notes 1 to 4'`)
}

// strokes are the strokes that the ledger draws, true for up.
func (t *tab) strokes() string {
	t.t.Helper()
	return eval[string](t,
		`[...document.querySelectorAll('svg.ledger path.stroke')].map(e => e.getAttribute('d').includes('l')).join('')`)
}
