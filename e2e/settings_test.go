package e2e

import (
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
)

// A player sets up hand and guitar, sees every verdict follow, is told what is
// impossible, taps a tempo, and goes back.
func TestPlayerSettings(t *testing.T) {
	t.Parallel()
	a := demoApp(t)
	p := a.open("/player")
	p.wait(`document.querySelector('.judgedlicks li') && document.body.dataset.heard`)
	if s := p.text("#player-line"); !strings.HasPrefix(s, "Medium hand") {
		t.Errorf("the header says %q", s)
	}
	set(p, `[name=size]`, "small")
	p.wait(`document.querySelector('#player-line').innerText.startsWith('Small hand')`)
	p.wait(`document.querySelector('.judgedlicks li.on .was')`)
	if s := p.text("#player-form"); !strings.Contains(s, "94 mm with ease, 119 at most") {
		t.Errorf("a small hand's reach is not said: %q", s)
	}
	// Impossible: one sentence, nothing changed.
	set(p, `[name=frets]`, "3")
	p.wait(`document.querySelector('#notice').innerText.includes('12 to 36 frets, not 3')`)
	p.go_("/player")
	if v := eval[string](p, `document.querySelector('[name=frets]').value`); v != "22" {
		t.Errorf("frets are %s after a refusal", v)
	}
	// Tapping the beat at 100 a minute.
	p.do(chromedp.ScrollIntoView(chromedp.CSS(`[data-tap=sixteenths]`)))
	p.until(`document.querySelector('#player-form').innerText.includes('A stroke takes 1')`, func() {
		for range 6 {
			eval[bool](
				p,
				`document.querySelector('[data-tap=sixteenths]').dispatchEvent(new PointerEvent('pointerdown', `+
					`{bubbles: true}))`,
			)
			time.Sleep(600 * time.Millisecond)
		}
	})
	if v := eval[float64](p, `+document.querySelector('[name=sixteenths]').value`); v < 40 || v > 105 {
		t.Errorf("tapped %v, every 600 ms and a little", v)
	}
	// The bench follows: a left-handed neck has its nut at the right.
	p.click(`[name=left]`)
	p.wait(
		`document.querySelector('[name=left]').defaultChecked && ` + // as the server answers
			`!document.querySelector('[data-setting="/player/undo"]').disabled`,
	)
	p.go_("/licks/17")
	p.ready()
	if !eval[bool](
		p,
		`(() => { const n = [...document.querySelectorAll('.neck .fretno')].map(t => [+t.textContent, `+
			`+t.getAttribute('x')]); return n[0][1] > n.at(-1)[1] == n[0][0] < n.at(-1)[0]; })()`,
	) {
		t.Error("the bench draws a right-handed neck")
	}
	p.go_("/player")
	if d := os.Getenv("ORNAMEN_LOOK"); d != "" {
		p.shot(filepath.Join(d, "player-changed.png"))
	}
	p.wait(`document.body.dataset.heard`) // a click before that is not heard
	p.click(`[data-setting="/player/undo"]`)
	p.wait(`!document.querySelector('[name=left]').checked`)
	p.click(`[data-setting="/player/reset"]`)
	p.wait(
		`document.querySelector('#player-line').innerText.startsWith('Medium hand') && ` +
			`document.querySelector('[name=sixteenths]').value == ''`,
	)
}
