package e2e

import (
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
)

// A player chooses tones, compares, reads a bend, moves the shape, and takes the
// palette to a lick.
func TestTones(t *testing.T) {
	t.Parallel()
	p := demoApp(t).open("/tones?tonic=A&scale=minor+pentatonic&at=6:5")
	p.wait(`document.querySelector('#tones .neck')`)
	p.click(`.railtone[aria-label="9 B: add 9"]`)
	p.wait(`document.querySelector('h1').innerText.includes('with 9')`)
	if s := p.text(".reasons"); !strings.Contains(s, "dorian and natural minor") {
		t.Errorf("why the 9 fits: %q", s)
	}
	// Beside Dorian the 6 makes the difference.
	set(p, `[name=beside]`, "dorian")
	p.wait(`document.querySelector('.rail.beside .differs')`)
	if s := p.text(".rail.beside .differs"); !strings.HasPrefix(s, "6") {
		t.Errorf("the difference is %q", s)
	}
	// Bends: string 3, fret 7 goes a full step to the 5.
	p.click(`.card-plain a[href*="bends=half"]`)
	p.wait(`document.querySelector('.tablebox')?.innerText.includes('9 → ♭3')`)
	p.click(`.card-plain a[href*="bends=full"]`)
	p.wait(`document.querySelector('.tablebox')?.innerText.includes('4 → 5')`)
	row := eval[string](p,
		`[...document.querySelectorAll('.tablebox tbody tr')].find(r => r.innerText.startsWith('G 7')).innerText`)
	if !strings.Contains(row, "common") || !strings.Contains(row, "7.2 N") || !strings.Contains(row, "4 + 3") {
		t.Errorf("the bend at G 7: %q", row)
	}
	// One box up, and back by the browser's own way.
	p.click(`.whereline a[href*="at=6%3A8"]`)
	p.wait(
		`document.querySelector('.whereline').innerText.includes('box 2 from the minor root, 1 from the major root')`,
	)
	p.click(`.layouts a[href*="joined"]`)
	p.wait(`document.querySelector('.whereline').innerText.includes('Slide finger')`)
	// What is not possible is said and changes nothing.
	set(p, `.tones-form [name=scale]`, "dorain")
	p.wait(`document.querySelector('#notice').innerText.includes('nearest are dorian')`)
	p.go_("/tones?tonic=A&scale=minor+pentatonic&add=9&at=6:5")
	p.click(`.tones-head .btn-primary`)
	p.wait(`document.querySelector('#bench')`)
	p.ready()
	if s := p.text("#tones-pill"); !strings.Contains(s, "A minor pentatonic with 9") {
		t.Errorf("the new lick has %q", s)
	}
}

// set types into a field and leaves it.
func set(p *tab, sel, value string) {
	p.t.Helper()
	p.do(chromedp.SetValue(chromedp.CSS(sel), value))
	eval[bool](p, `document.querySelector('`+sel+`').dispatchEvent(new Event('change', {bubbles: true}))`)
}

// A lick is recoloured: seen before and after, taken as one edit, undone.
func TestRecolourALick(t *testing.T) {
	t.Parallel()
	p := demoApp(t).open("/tones?tonic=C%23&scale=dorian")
	p.click(`.tones-head .dropdown:nth-of-type(2) [data-bs-toggle]`)
	p.wait(`document.querySelector('.recolour-menu.show')`)
	eval[bool](
		p,
		`[...document.querySelectorAll('.recolour-menu button')].find(b => b.innerText == 'Quarry steps').click() `+
			`?? true`,
	)
	p.wait(`document.querySelector('.recolour')`)
	if s := p.text(".recolour h2:last-of-type"); s == "" {
		t.Error("nothing is said of the change")
	}
	changed := eval[int](p, `document.querySelectorAll('.changes .changed').length`)
	if changed == 0 {
		t.Error("no note is marked as changed")
	}
	p.click(`.choose .btn-primary`)
	p.wait(`document.querySelector('#bench')`)
	p.ready()
	if s := p.text("#tones-pill"); s != "C♯ dorian" {
		t.Errorf("recoloured to %q", s)
	}
	p.ctrl("z")
	p.wait(`document.querySelector('#tones-pill').innerText == 'C♯ natural minor'`)
}

// Tones are saved by name, found again, and forgotten.
func TestSavedTones(t *testing.T) {
	t.Parallel()
	p := demoApp(t).open("/tones?tonic=F%23&scale=1+9+b3+4+b5+5+b7")
	p.click(`.tones-head .dropdown:first-of-type [data-bs-toggle]`)
	p.wait(`document.querySelector('.saved-menu.show')`)
	p.do(chromedp.SendKeys(chromedp.CSS(`.saved-menu [name=name]`), "Barn set\r"))
	p.wait(`document.querySelector('.saved')`)
	p.go_("/tones")
	p.click(`.tones-head .dropdown:first-of-type [data-bs-toggle]`)
	p.wait(`document.querySelector('.saved-menu.show')`)
	p.click(`.saved a`)
	p.wait(`document.querySelector('h1').innerText.includes('F♯ 1 9 b3 4 b5 5 b7')`)
}
