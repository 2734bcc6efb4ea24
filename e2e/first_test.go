package e2e

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
)

// The first minutes: three steps, once; a lick that is ready to be typed, heard note by note until that is turned
// off; a longer name than the line has room for stands whole; another root moves the notes where that is asked.
func TestFirstMinutes(t *testing.T) {
	t.Parallel()
	p := start(t, filepath.Join(t.TempDir(), "first.db")).open("/")
	if n := eval[int](p, `document.querySelectorAll('.steps li').length`); n != 3 {
		t.Fatalf("%d steps on the first visit", n)
	}
	p.keys(kb.Enter) // New lick has the keyboard
	p.ready()
	p.keys("5")
	p.waitNotes(1)
	p.wait(`listening.tasted == 1`)
	p.keys("8")
	p.waitNotes(2)
	p.wait(`listening.tasted == 2`)
	eval[bool](p, `document.querySelector('[data-entry]').click() ?? true`)
	p.keys("k")
	p.wait(`document.activeElement.dataset.edit == 'tonic'`)
	eval[bool](p, `(document.querySelector('[data-along]').value = 'yes', true)`)
	set(p, `[data-edit=tonic]`, "C")
	p.wait(`[...document.querySelectorAll('svg.ledger .fret')].map(e => e.textContent).join(' ') == '8 11'`)
	p.keys(kb.Escape)
	p.ctrl("z")
	p.wait(`[...document.querySelectorAll('svg.ledger .fret')].map(e => e.textContent).join(' ') == '5 8'`)
	eval[bool](p, `(document.querySelector('[data-along]').value = '', true)`)
	set(p, `[data-edit=tonic]`, "C")
	p.wait(
		`document.querySelector('#tones-pill').innerText.startsWith('C') && !document.querySelector('#bench').dataset.busy`,
	)
	if got := p.frets(); got != "5 8" {
		t.Errorf("a root that only names the tones anew leaves %s", got)
	}
	const name = "The long way home along the frozen river, second ending, for two guitars"
	set(p, `.title`, name)
	p.wait(`document.querySelector('.title.long')`)
	if eval[bool](
		p,
		`(() => { const e = document.querySelector('.title'); return e.scrollWidth > e.clientWidth || e.scrollHeight > e.clientHeight + 2 })()`,
	) {
		t.Error("the title is cut")
	}
	if n := eval[int](p, `listening.tasted`); n != 2 {
		t.Errorf("%d notes were heard after it was turned off", n-2)
	}
	p.go_("/")
	p.wait(`document.querySelector('.lickrow') && !document.querySelector('.steps')`)
	p.go_("/?steps=true")
	p.wait(`document.querySelectorAll('.steps li').length == 3`)
}

// A word explains itself to the keyboard and the pointer; a changed verdict is told; the light is chosen and kept.
func TestWordsAndLight(t *testing.T) {
	t.Parallel()
	p := demoApp(t).open("/licks/17")
	p.ready()
	p.wait(`document.querySelector('.verdict .term')`)
	eval[bool](p, `document.querySelector('.verdict .term').focus() ?? true`)
	p.wait(`document.querySelector('.tooltip')?.innerText.startsWith('The ceiling')`)
	if eval[bool](p,
		`document.activeElement.getAttribute('aria-describedby') != document.querySelector('.tooltip').id`) {
		t.Error("the word is not described by what is said of it")
	}
	p.keys(kb.Escape)
	p.wait(`!document.querySelector('.tooltip')`)
	word := p.text(".verdict .word")
	set(p, `[data-edit=tempo]`, "40")
	p.wait(`document.querySelector('.verdict .word').innerText != '` + word + `'`)
	p.wait(`document.querySelector('#says').textContent.includes('Flows at 40')`)
	dark := func() bool { return eval[bool](p, `document.documentElement.dataset.bsTheme == 'dark'`) }
	if dark() {
		t.Fatal("the tests' system has no dark light")
	}
	p.click("[data-nextlight]")
	p.go_("/player")
	if !dark() || !strings.Contains(eval[string](p, `document.querySelector('.lightline .on').innerText`), "stage") {
		t.Error("stage light is not kept")
	}
	p.click("[data-setlight=system]")
	if dark() {
		t.Error("the system's light does not come back")
	}
}

// A tab from a mail is pasted, seen as it will stand with what was not understood beside it, and taken in; several
// files at once are listed.
func TestPasteATab(t *testing.T) {
	t.Parallel()
	p := demoApp(t).open("/")
	p.click(".import [data-bs-toggle]")
	p.wait(`document.querySelector('.import-menu.show')`)
	eval[bool](p, `(document.querySelector('.import [name=text]').value = `+"`"+`> The sluice gate
> by a friend
>      Am
> e|-------5-8-5-----|
> B|---5-8-------8-5-|
> G|-7---------------|
> D|-----------------|
> A|-----------------|
> E|-----------------|
`+"`"+`, true)`)
	p.click(".import .btn-primary")
	p.wait(`document.querySelector('.understood svg')`)
	if s := p.text("main"); !strings.Contains(s, `"by a friend" is not read`) ||
		!strings.Contains(s, "every time is an eighth") {
		t.Errorf("the preview says %q", s)
	}
	p.click(".takein .btn-primary")
	p.ready()
	p.waitNotes(8)
	if got := p.frets(); got != "7 5 8 5 8 5 8 5" {
		t.Errorf("the bench holds %s", got)
	}
	p.wait(`document.querySelector('.title').value == 'The sluice gate'`)
	if s := p.text("#tones-pill"); !strings.HasPrefix(s, "A minor") {
		t.Errorf("its key is %s", s)
	}
	// On the bench a tab stands after the caret.
	p.click("#goon")
	p.wait(`document.querySelector('.goon-menu.show')`)
	eval[bool](
		p,
		`(() => { const f = document.querySelector('[data-edit=paste]'); f.value = 'e|--12--|\nB|------|\nG|------|\nD|------|\nA|------|\nE|------|'; `+
			`f.dispatchEvent(new Event('change', {bubbles: true})); return true })()`,
	)
	p.waitNotes(9)
}

// The simulated guitar plays a lick in: it is shown before it is taken, with its tempo, and its notes are those that
// were played.
func TestPlayALineIn(t *testing.T) {
	t.Parallel()
	p := demoApp(t).open("/licks/12")
	p.ready()
	before := eval[int](p, `+document.querySelector('#state').dataset.total`)
	p.click("#goon")
	p.wait(`document.querySelector('.goon-menu.show')`)
	p.click("[data-playsim]")
	p.wait(`document.querySelector('.understood svg') && document.querySelector('[name=tempo]')`)
	if s := p.text("main"); !strings.Contains(s, "notes written down at 88 quarters a minute") {
		t.Errorf("the preview says %q", s)
	}
	p.click(".takein .btn-primary")
	p.ready()
	p.waitNotes(before)
	// Without a microphone that is said, and nothing is recorded.
	p.go_("/")
	p.click(".import [data-bs-toggle]")
	p.wait(`document.querySelector('.import-menu.show')`)
	eval[bool](p,
		`document.querySelector('[data-playin]').dispatchEvent(new PointerEvent('pointerdown', {bubbles: true}))`)
	p.wait(
		`document.querySelector('#notice').innerText.includes('microphone') || document.body.classList.contains('playing-in')`,
	)
}

// A page that was handed out plays by itself from the file alone: at three speeds, round and round, its notes marked
// as they sound.
func TestThePageThatPlays(t *testing.T) {
	t.Parallel()
	a := demoApp(t)
	p := a.open("/")
	eval[bool](p, `(fetch('/licks/17/export/page').then(r => r.text()).then(t => { window.page = t }), true)`)
	p.wait(`window.page`)
	html := eval[string](p, `window.page`)
	own := strings.NewReplacer("http://www.w3.org/2000/svg", "", "http-equiv", "")
	if strings.Contains(own.Replace(html), "http") {
		t.Error("the page asks for something elsewhere")
	}
	file := filepath.Join(t.TempDir(), "lick.html")
	if err := os.WriteFile(file, []byte(html), 0o600); err != nil {
		t.Fatal(err)
	}
	p.do(chromedp.Navigate("file://" + file))
	p.wait(`document.querySelector('[data-play]')`)
	p.click(`[data-speed="50"]`)
	p.click(`[data-loop]`)
	p.click(`[data-play]`)
	p.wait(`document.querySelector('[data-play]').textContent == 'Stop' && document.querySelector('.now')`)
	first := eval[string](p, `document.querySelector('.now').dataset.col`)
	p.wait(`document.querySelector('.now')?.dataset.col > ` + first)
	p.click(`[data-speed="100"]`)
	p.wait(`document.querySelector('.now')`)
	p.click(`[data-play]`)
	p.wait(`!document.querySelector('.now') && document.querySelector('[data-play]').textContent == 'Play'`)
}
