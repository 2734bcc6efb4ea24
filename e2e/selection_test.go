package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
)

// drag presses the pointer at a point, moves it by a few steps and lets go.
func (t *tab) drag(x, y, toX, toY float64) {
	t.t.Helper()
	t.do(chromedp.MouseEvent(chromedp.MousePressed, x, y, chromedp.ButtonLeft, chromedp.ClickCount(1)))
	const steps = 6
	for k := 1; k <= steps; k++ {
		f := float64(k) / steps
		t.do(chromedp.MouseEvent(chromedp.MouseMoved, x+(toX-x)*f, y+(toY-y)*f, chromedp.ButtonLeft))
	}
	t.do(chromedp.MouseEvent(chromedp.MouseReleased, toX, toY, chromedp.ButtonLeft, chromedp.ClickCount(1)))
}

// shift presses a key with Shift.
func (t *tab) shift(key string) {
	t.t.Helper()
	t.do(chromedp.KeyEvent(key, chromedp.KeyModifiers(chromedp.ModifierShift)))
}

// at is the middle of an element on the page.
func (t *tab) at(js string) (x, y float64) {
	t.t.Helper()
	b := eval[[]float64](t,
		`(() => { const b = (`+js+`).getBoundingClientRect(); return [b.x + b.width / 2, b.y + b.height / 2] })()`)
	return b[0], b[1]
}

// column is a column of the ledger, counted from 1, at the height of a string's lane.
func (t *tab) column(k, str int) (x, y float64) {
	t.t.Helper()
	b := eval[[]float64](t, fmt.Sprintf(`(() => {
		const s = document.querySelector('svg.ledger'), b = s.getBoundingClientRect(), w = +s.dataset.width
		const l = s.dataset.lanes.split(' ').map(x => x.split(':')).find(x => x[0] == 'place' && x[1] == %d)
		return [b.x + (%d - .5) * w, b.y + +l[2] + +l[3] / 2]
	})()`, str, k))
	return b[0], b[1]
}

// selected waits until the server knows of a selection.
func (t *tab) selected(sel string) {
	t.t.Helper()
	t.wait(
		fmt.Sprintf(
			`document.querySelector('#state').dataset.sel == %q && !document.querySelector('#bench').dataset.busy`,
			sel,
		),
	)
}

// Notes are selected by keys, by their figure, by dragging, by Shift and a click, and by handles; a selection is
// deleted, doubled, moved, stretched, carried and copied into another lick; every step is undone again.
func TestSelection(t *testing.T) {
	t.Parallel()
	p := demoApp(t).open("/licks/9?note=1&lane=place")
	p.ready()
	before := p.frets()
	total := eval[int](p, `+document.querySelector('#state').dataset.total`)
	words := strings.Fields(before)
	undo := func() {
		t.Helper()
		p.wait(`!document.querySelector('[data-go=undo]').disabled`)
		p.ctrl("z")
		p.wait(
			fmt.Sprintf(`[...document.querySelectorAll('svg.ledger .fret')].map(e => e.textContent).join(' ') == %q`,
				before),
		)
		p.wait(`!document.querySelector('.htmx-request')`) // what is pressed while it is answered goes nowhere
	}

	// By keys: five notes, doubled, deleted.
	p.keys(kb.Home)
	for range 3 {
		p.shift(kb.ArrowRight)
	}
	p.selected("1-4")
	p.keys(kb.Enter)
	p.waitNotes(total + 4)
	p.selected("5-8")
	if got := strings.Fields(p.frets()); strings.Join(got[:8], " ") != strings.Join(words[:4], " ")+" "+strings.Join(
		words[:4],
		" ",
	) {
		t.Errorf("doubled: %v", got[:8])
	}
	p.keys("w")
	p.wait(`document.querySelectorAll('svg.ledger .palm').length == 4`)
	p.keys("-")
	p.waitNotes(total)
	p.selected("")
	if got := p.frets(); got != before {
		t.Errorf("doubled and deleted: %s", got)
	}

	// The figure under the caret, all that are like it, larger ones, and let go.
	p.keys(kb.Home, "s")
	p.wait(`document.querySelector('#state').dataset.sel.length > 2`)
	first := eval[string](p, `document.querySelector('#state').dataset.sel`)
	p.keys("s")
	p.wait(fmt.Sprintf(`document.querySelector('#state').dataset.sel != %q`, first))
	p.keys(kb.Escape)
	p.selected("")

	// By dragging; a digit moves it, undo brings it back.
	x, y := p.column(2, 1)
	toX, _ := p.column(5, 1)
	p.drag(x, y, toX, y)
	p.selected("2-5")
	p.keys("3")
	p.wait(fmt.Sprintf(`[...document.querySelectorAll('svg.ledger .fret')][1].textContent == %q`, plus(words[1], 1)))
	p.selected("2-5")
	undo()

	// By Shift and a click; twice as long, and the pointer on the key for it.
	p.keys(kb.Escape)
	x, y = p.column(3, 1)
	p.do(chromedp.MouseClickXY(x, y))
	x, y = p.column(6, 1)
	p.do(chromedp.MouseClickXY(x, y, chromedp.ButtonModifiers(chromedp.ModifierShift)))
	p.selected("3-6")
	p.click(`.lanekeys[data-lane=selection] [data-digit="9"]`)
	p.wait(`[...document.querySelectorAll('svg.ledger .length')].some(e => e.textContent == '1/8')`)
	undo()

	// A handle drags the end along.
	p.selected("3-6")
	hx, hy := p.at(`document.querySelector('.handle[data-end=upto]')`)
	toX, _ = p.column(8, 1)
	p.drag(hx, hy, toX, hy)
	p.selected("3-8")

	// The selection is dragged behind another note.
	x, y = p.column(4, 5)
	toX, _ = p.column(11, 5)
	p.drag(x, y, toX-30, y)
	p.wait(fmt.Sprintf(`[...document.querySelectorAll('svg.ledger .fret')][2].textContent == %q`, words[8]))
	undo()

	// A note of the neck is dragged to another fret, the deleting key of the foot takes it out.
	p.keys(kb.Escape, kb.Home)
	p.wait(`document.querySelector('#state').dataset.note == 1`)
	place := eval[string](
		p,
		`document.querySelector('svg.neck .here')?.closest('[data-at]')?.dataset.at ?? document.querySelector('svg.neck .played').dataset.at`,
	)
	x, y = p.at(fmt.Sprintf(`document.querySelector('svg.neck [data-place="%s"]')`, place))
	str, fret, _ := strings.Cut(place, ":")
	toX, toY := p.at(fmt.Sprintf(`document.querySelector('svg.neck [data-place="%s:%s"]')`, str, plus(fret, 1)))
	p.drag(x, y, toX, toY)
	p.wait(
		fmt.Sprintf(`[...document.querySelectorAll('svg.ledger .fret')].map(e => e.textContent).join(' ') != %q`,
			before),
	)
	undo()
	p.click(`[data-act=remove]`)
	p.waitNotes(total - 1)
	undo()

	// Copied here, pasted into another lick; tablature from a mail is pasted over a selection.
	p.keys(kb.Home)
	p.shift(kb.ArrowRight)
	p.selected("1-2")
	p.ctrl("c")
	p.wait(`document.querySelector('#bench').dataset.copied`)
	p.go_("/licks/14?note=1")
	p.ready()
	other := eval[int](p, `+document.querySelector('#state').dataset.total`)
	p.click(`[data-act=paste]`)
	p.waitNotes(other + 2)
	p.selected("2-3")
	if got := strings.Fields(p.frets()); strings.Join(got[1:3], " ") != strings.Join(words[:2], " ") {
		t.Errorf("pasted: %v, want %v", got[1:3], words[:2])
	}
	eval[bool](p, `(() => {
		const data = new DataTransfer()
		const rest = '|-----------|\n'
		data.setData('text/plain', 'e' + rest + 'B' + rest + 'G|--5--7--5--|\nD' + rest + 'A' + rest + 'E' + rest)
		return document.dispatchEvent(new ClipboardEvent('paste', {clipboardData: data, bubbles: true, cancelable: true}))
	})()`)
	p.waitNotes(other + 3)
	p.selected("2-4")
	eval[bool](p, `(() => {
		const data = new DataTransfer()
		data.setData('text/plain', 'dear pupil, practise slowly')
		return document.dispatchEvent(new ClipboardEvent('paste', {clipboardData: data, bubbles: true, cancelable: true}))
	})()`)
	p.wait(`document.querySelector('#notice').innerText.includes('cannot be pasted')`)
	p.waitNotes(other + 3)
	p.ctrl("x")
	p.waitNotes(other)
}

// plus is a fret so many higher.
func plus(fret string, n int) string {
	var f int
	fmt.Sscan(fret, &f)
	return fmt.Sprint(f + n)
}

// With touch alone, on a phone: the strip at the bottom sets fret, finger and length, puts a note in and takes it
// out, selects, and plays; nothing of it moves, and every target is 44 px high.
func TestBenchByTouch(t *testing.T) {
	t.Parallel()
	p := demoApp(t).open("/licks/9?note=2&lane=finger")
	p.do(chromedp.EmulateViewport(390, 844, chromedp.EmulateTouch))
	p.go_("/licks/9?note=2&lane=finger")
	p.ready()
	tap := func(sel string) {
		t.Helper()
		p.wait(fmt.Sprintf(`document.querySelector(%q) && !document.querySelector('#bench').dataset.busy`, sel))
		eval[bool](p,
			fmt.Sprintf(`(document.querySelector(%q).scrollIntoView({block: 'nearest', inline: 'center'}), true)`, sel))
		x, y := p.still(sel)
		p.do(chromedp.TapXY(x, y))
	}
	total := eval[int](p, `+document.querySelector('#state').dataset.total`)
	low := eval[[]string](
		p,
		`[...document.querySelectorAll('.foot button')].filter(b => b.offsetWidth && (b.offsetHeight < 43.5 || b.offsetWidth < 43.5)).map(b => b.outerHTML)`,
	)
	if len(low) > 0 {
		t.Errorf("too small to touch: %v", low)
	}
	top := eval[float64](p, `document.querySelector('.foot').getBoundingClientRect().top`)
	tap(`.lanekeys[data-lane=finger] [data-digit="4"]`)
	p.wait(`document.querySelectorAll('svg.ledger .col')[1].querySelector('.value').textContent == '4'`)
	tap(`[data-lanetab=place]`)
	tap(`.lanekeys[data-lane=place] .fret[data-value="12"]`)
	p.wait(`[...document.querySelectorAll('svg.ledger .fret')].some(e => e.textContent == '12')`)
	tap(`[data-lanetab=count]`)
	tap(`.lanekeys[data-lane=count] [data-value="1/8"]`)
	p.wait(`[...document.querySelectorAll('svg.ledger .length')].some(e => e.textContent == '1/8')`)
	tap(`[data-act=insert]`)
	p.waitNotes(total + 1)
	tap(`[data-act=remove]`)
	p.waitNotes(total)
	tap(`[data-act=select]`)
	p.wait(`document.querySelector('#state').dataset.sel.length > 2`)
	tap(`[data-act=unselect]`)
	p.selected("")
	tap(`[data-lanetab=chord]`)
	tap(`[data-act=chord]`)
	p.wait(`document.activeElement.matches('.chord-field')`)
	p.do(chromedp.KeyEvent("Fm7"))
	p.keys(kb.Enter)
	p.wait(`document.querySelector('svg.ledger .chordname')?.textContent.startsWith('Fm7')`)
	if now := eval[float64](p, `document.querySelector('.foot').getBoundingClientRect().top`); now != top {
		t.Errorf("the strip moves from %g to %g", top, now)
	}
	if wide := eval[float64](p, `document.documentElement.scrollWidth`); wide > 390 {
		t.Errorf("the page is %g px wide", wide)
	}
}
