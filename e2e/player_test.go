package e2e

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"ornamen/core/lick"
)

// A player opens the demo, reads the break, mends it by its first fix with one
// key, and undoes it.
func TestMendTheDemosBreak(t *testing.T) {
	t.Parallel()
	p := demoApp(t).open("/")
	p.wait(`document.querySelector('.summary').innerText.includes('2 break')`)
	p.click(".lickrow.breaks h2 a")
	p.ready()
	p.wait(`document.querySelector('.fix')`)
	if s := p.text(".finding h3"); !strings.Contains(s, "the index jumps") || !strings.Contains(s, "12 → 13") {
		t.Errorf("the first finding is %q", s)
	}
	p.keys(".")
	p.wait(`document.querySelector('.verdict .word').innerText == 'Tight'`)
	p.ctrl("z")
	p.wait(`document.querySelector('.verdict .word').innerText == 'Breaks'`)
	p.ctrl("y")
	p.wait(`document.querySelector('.verdict .word').innerText == 'Tight'`)
}

// From nothing, by keyboard alone: a box line that flows, a lock that breaks it,
// mended by hand, undone, and still there after a restart.
func TestLickFromNothingByKeyboard(t *testing.T) {
	t.Parallel()
	db := filepath.Join(t.TempDir(), "own.db")
	a := start(t, db)
	p := a.open("/")
	if s := p.text("main h1"); s != "Your notebook is empty." {
		t.Errorf("a first visitor reads %q", s)
	}
	p.keys(kb.Enter) // the one button has the focus
	p.ready()
	p.wait(`document.activeElement.id == 'ledger'`)
	// String 1 first: 5 8, then down to string 2: 5 8.
	p.keys("5")
	p.waitNotes(1)
	p.keys("8")
	p.waitNotes(2)
	p.keys(kb.ArrowDown, "5")
	p.waitNotes(3)
	p.keys("8")
	p.waitNotes(4)
	if got := p.frets(); got != "5 8 5 8" {
		t.Fatalf("the ledger holds %s", got)
	}
	p.wait(`document.querySelector('.verdict .word').innerText == 'Flows'`)
	if got := p.fingers(); got != "1 4 1 4" {
		t.Errorf("proposed fingers %s", got)
	}
	// On to the fingers of note 2: climb down from string 2 past 6, degree.
	p.keys(kb.Home, kb.ArrowRight)
	p.keys(kb.ArrowDown, kb.ArrowDown, kb.ArrowDown, kb.ArrowDown, kb.ArrowDown, kb.ArrowDown, kb.ArrowDown)
	p.wait(`!document.querySelector('.lanekeys[data-lane=finger]').hidden`)
	p.keys("1")
	p.wait(`document.querySelectorAll('svg.ledger .lock').length == 1`)
	p.keys(kb.ArrowLeft, "4")
	p.wait(`document.querySelectorAll('svg.ledger .lock').length == 2`)
	if got := p.fingers(); !strings.HasPrefix(got, "4 1") {
		t.Errorf("after locking: %s", got)
	}
	// Faster: the crossed fingers break.
	p.click("#count-pill")
	eval[bool](
		p,
		`(() => { const i = document.querySelector('[data-edit=tempo]'); i.value = 240; i.dispatchEvent(new `+
			`Event('change', {bubbles: true})); return true })()`,
	)
	p.wait(`document.querySelector('.verdict .word').innerText == 'Breaks'`)
	p.keys(kb.Escape)
	p.do(chromedp.Focus(chromedp.CSS("#ledger")))
	// Leave both fingers open again.
	p.keys("0", kb.ArrowRight, "0")
	p.wait(`document.querySelectorAll('svg.ledger .lock').length == 0`)
	p.wait(`document.querySelector('.verdict .word').innerText != 'Breaks'`)
	for range 3 {
		p.ctrl("z")
	}
	p.wait(`document.querySelector('.verdict .at').innerText == 'at 100'`)

	// A new program on the same notebook finds it all.
	p.do(chromedp.Navigate("about:blank"))
	a.stop()
	b := start(t, db)
	q := b.open("/")
	q.click(".lickrow h2 a")
	q.wait(`document.querySelector('#state')`)
	if got := q.frets(); got != "5 8 5 8" {
		t.Errorf("after a restart: %s", got)
	}
}

// The pointer does what the keys do: places from the neck, together with Shift,
// tones from the rail, values from the foot.
func TestPointer(t *testing.T) {
	t.Parallel()
	p := start(t, filepath.Join(t.TempDir(), "own.db")).open("/")
	p.click(".first button")
	p.ready()
	place := func(where string, n int, mods ...chromedp.Modifier) {
		t.Helper()
		box := eval[[]float64](
			p,
			`(() => { const b = document.querySelector('[data-place="`+where+`"]').getBoundingClientRect(); return `+
				`[b.x + b.width / 2, b.y + b.height / 2] })()`,
		)
		p.do(chromedp.MouseClickXY(box[0], box[1], chromedp.ButtonModifiers(mods...)))
		p.waitNotes(n)
	}
	place("3:7", 1)
	place("3:5", 2)
	place("4:7", 3)
	// Back onto the last note by a click in the ledger, then together.
	p.keys(kb.ArrowLeft)
	place("3:7", 4, chromedp.ModifierShift)
	if got := p.frets(); got != "7 5 7 7" {
		t.Errorf("the ledger holds %s", got)
	}
	// Add the 9 from the rail.
	p.click("#tones-pill")
	p.click(`.railtone[data-value="9"]`)
	p.wait(`document.querySelector('.pill .added')?.innerText == 'with 9'`)
	p.click(`.railtone[data-value="9 off"]`)
	p.wait(`!document.querySelector('.pill .added')`)
	p.keys(kb.Escape)
	// A pull by the foot's button.
	eval[bool](
		p,
		`(() => { const s = document.querySelector('svg.ledger').getBoundingClientRect(); window.at = [s.x + 72, `+
			`s.y]; return true })()`,
	)
	y := eval[float64](
		p,
		`(() => { const l = document.querySelector('svg.ledger').dataset.lanes.split(' ').find(l => `+
			`l.startsWith('slur')).split(':'); return +l[2] + l[3] / 2 })()`,
	)
	at := eval[[]float64](p, `window.at`)
	p.do(chromedp.MouseClickXY(at[0], at[1]+y))
	p.wait(`!document.querySelector('.lanekeys[data-lane=slur]').hidden`)
	p.click(`.lanekeys[data-lane=slur] [data-digit="2"]`)
	p.wait(`document.querySelector('svg.ledger .arc')`)
}

// revision is the version that the bench shows.
func revision(p *tab) int {
	p.t.Helper()
	return eval[int](p, `+document.querySelector('#state').dataset.rev`)
}

// What is not possible is said in one sentence and changes nothing.
func TestMistakes(t *testing.T) {
	t.Parallel()
	p := demoApp(t).open("/licks/17")
	p.ready()
	before, rev := p.frets(), revision(p)
	p.click("#tones-pill")
	eval[bool](
		p,
		`(() => { const i = document.querySelector('[data-edit=scale]'); i.value = 'dorain'; i.dispatchEvent(new `+
			`Event('change', {bubbles: true})); return true })()`,
	)
	p.wait(`document.querySelector('#notice').innerText.includes('nearest are dorian')`)
	if got := p.frets(); got != before {
		t.Errorf("a mistake changed the line: %s", got)
	}
	if now := revision(p); now != rev {
		t.Errorf("a mistake made revision %d of %d", now, rev)
	}
}

// Two tabs: the second write on an old revision is refused, both are kept, and
// the player can still take the refused one.
func TestTwoTabs(t *testing.T) {
	t.Parallel()
	a := demoApp(t)
	p, q := a.open("/licks/17"), a.open("/licks/17")
	p.ready()
	q.ready()
	first := revision(p)
	p.keys("2")
	p.wait(fmt.Sprintf(`document.querySelector('#state').dataset.rev > %d`, first))
	q.keys("4")
	q.wait(`document.querySelector('#notice').innerText.includes('both versions are kept')`)
	q.click(`#notice [data-post]`)
	q.wait(fmt.Sprintf(`document.querySelector('#state')?.dataset.rev > %d`, first+2))
	q.ready()
	if got := strings.Fields(q.fingers())[12]; got != "4" {
		t.Errorf("the version taken has finger %s on note 13", got)
	}
	q.ctrl("z")
	q.wait(`[...document.querySelectorAll('svg.ledger .col')][12].querySelector('.value').textContent == '2'`)
}

// A lick file that goes out comes in again as it was; a broken one is refused
// in a sentence.
func TestImport(t *testing.T) {
	t.Parallel()
	a := demoApp(t)
	p := a.open("/")
	dir := t.TempDir()
	l := lick.New()
	l.Title = `<b>Barn</b> <script>alert(1)</script>`
	l, err := (lick.Insert{After: -1, Place: lick.Note{String: 2, Fret: 7}.Place(), Len: lick.NewTime(1, 8)}).Apply(l)
	if err != nil {
		t.Fatal(err)
	}
	good, bad := filepath.Join(dir, "barn.lick.json"), filepath.Join(dir, "cut.lick.json")
	data := l.Encode()
	for name, b := range map[string][]byte{good: data, bad: data[:len(data)/2]} {
		if err := os.WriteFile(name, b, 0o644); err != nil {
			t.Fatal(err)
		}
	}
	p.do(chromedp.SetUploadFiles(chromedp.CSS("input[type=file]"), []string{bad}))
	p.wait(`document.querySelector('main.message h1')?.innerText.includes('the file is cut off')`)
	p.go_("/")
	p.do(chromedp.SetUploadFiles(chromedp.CSS("input[type=file]"), []string{good}))
	p.wait(`document.querySelector('textarea.title')`)
	if got := eval[string](p, `document.querySelector('textarea.title').value`); got != l.Title {
		t.Errorf("the title came in as %q", got)
	}
	p.go_("/")
	if got := p.text(".lickrow h2"); got != l.Title {
		t.Errorf("the notebook shows %q", got)
	}
}
