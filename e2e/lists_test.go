package e2e

import (
	"testing"

	"github.com/chromedp/chromedp/kb"
)

// A field with a list opens all of it where it is entered, filters while one types, takes what the arrow keys stand on,
// and takes a key that is typed where the scale stands.
func TestLists(t *testing.T) {
	t.Parallel()
	p := demoApp(t).open("/tones?tonic=A&scale=minor+pentatonic")
	p.wait(`document.body.dataset.heard`)
	const scale = ".tones-form [name=scale]:not([type=hidden])"
	p.click(scale)
	p.wait(
		`document.querySelectorAll('.combolist li').length > 30 && document.querySelector('.combolist .now').innerText == 'minor pentatonic'`,
	)
	p.ctrl("a")
	p.keys("jazz")
	p.wait(
		`document.querySelectorAll('.combolist li').length == 1 && document.querySelector('.combolist li').innerText == 'melodic minor'`,
	)
	p.keys(kb.ArrowDown, kb.Enter)
	p.wait(`document.querySelector('h1').innerText.includes('A melodic minor') && !document.querySelector('.combolist')`)
	// Escape leaves what was there.
	p.click(scale)
	p.wait(`document.querySelector('.combolist li')`)
	p.keys(kb.Escape)
	p.wait(`!document.querySelector('.combolist')`)
	p.ctrl("a")
	p.keys("Dm dorian", kb.Enter)
	p.wait(`document.querySelector('h1').innerText.includes('D dorian')`)
	// From these tones a run, by one press.
	p.click(`.tones-head a[href^="/runs"]`)
	p.wait(`document.querySelector('.sentence')?.innerText.includes('D dorian')`)
	if at := p.text("#notice"); at != "" {
		t.Errorf("the run says %q", at)
	}
}
