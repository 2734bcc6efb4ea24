package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
)

// peopleScript are the names of those who play, as Player lists them; who plays now has a field.
const peopleScript = `[...document.querySelectorAll('.person:not(.add)')].map(` +
	`li => (li.querySelector('[name=name]')?.value ?? li.querySelector('.linklike').innerText).trim()).join(', ')`

// waitPeople waits until the page lists them.
func waitPeople(p *tab, names string) {
	p.t.Helper()
	p.wait(
		fmt.Sprintf(`document.body.dataset.heard && document.querySelector('.people') && %s == %q`, peopleScript, names),
	)
}

// A player is added, named otherwise, copied, taken out and brought back, by the controls of the screen, on a desk and
// on a phone. What is pressed beside them does what it says.
func TestPeople(t *testing.T) {
	t.Parallel()
	for _, size := range []struct {
		name          string
		width, height int64
	}{
		{"desk", deskWidth, deskHeight},
		{"phone", phoneWidth, phoneHeight},
	} {
		t.Run(size.name, func(t *testing.T) {
			p := start(t, t.TempDir()+"/own.db").open("/player")
			p.do(chromedp.EmulateViewport(size.width, size.height))
			p.go_("/player")
			waitPeople(p, "Player 1")

			// The heading is no control.
			p.click("h1")
			p.click(".person.add [name=name]")
			p.keys("Tove Brandt")
			p.click(".person.add button")
			waitPeople(p, "Player 1, Tove Brandt")

			// Who comes plays, and is named otherwise where the name stands.
			p.click(".person.on [name=name]")
			p.ctrl("a")
			p.keys("Tove Lund", kb.Enter)
			waitPeople(p, "Player 1, Tove Lund")

			p.click(".person.on [data-bs-toggle]")
			p.click(".person.on .dropdown-menu.show li:first-child button")
			waitPeople(p, "Player 1, Tove Lund, Tove Lund, copy")

			// One who does not play now is taken out, and is back with one press.
			p.click(".person:nth-child(2) [data-bs-toggle]")
			p.click(".person:nth-child(2) .dropdown-menu.show li:last-child button")
			waitPeople(p, "Player 1, Tove Lund, copy")
			p.click(".notice [data-post]")
			waitPeople(p, "Player 1, Tove Lund, Tove Lund, copy")

			// Another goes on.
			p.click(".person:first-child .linklike")
			p.wait(`document.querySelector('.person.on [name=name]')?.value == 'Player 1'`)
			if s := p.text("#notice"); s != "" {
				t.Errorf("the page says %q", s)
			}
		})
	}
}
