package e2e

import (
	"errors"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"ornamen/core/testline"
	"ornamen/internal/demo"
	"ornamen/internal/store"
)

// A player practises a part with two keys: three clean rounds go up a step, two that were not
// come down, the note that was missed is one key more; the line is heard at the ladder's tempo;
// "it hurts" stops, and the plan changes.
func TestPractice(t *testing.T) {
	t.Parallel()
	a := demoApp(t)
	p := a.open("/practice?lick=17&part=&minutes=45")
	p.wait(`document.querySelector('.stand')`)
	tempo := func() float64 { return eval[float64](p, `+document.querySelector('.stand-tempo .big').innerText`) }
	pips := func(n int) { p.wait(`document.querySelectorAll('.pip.on').length == ` + strconv.Itoa(n)) }
	start := tempo()
	pips(0)
	p.keys(kb.PageDown)
	pips(1)
	p.keys(kb.PageDown)
	pips(2)
	p.keys(kb.PageDown)
	p.wait(`+document.querySelector('.stand-tempo .big').innerText > ` + strconv.FormatFloat(start, 'f', -1, 64))
	up := tempo()
	p.keys(" ")
	p.wait(`listening.on && listening.log.length > 1`)
	if round := eval[[]float64](p, `listening.rounds[0]`); round[1]-round[0] < 60/up*3.9 ||
		round[1]-round[0] > 60/up*4.3 {
		t.Errorf("a bar at %g sounds for %.2f s", up, round[1]-round[0])
	}
	p.keys(kb.PageUp)
	p.wait(`!listening.on && document.querySelector('.asknote')`)
	p.keys("3")
	p.wait(`!document.querySelector('.asknote') && ` +
		`document.querySelector('.lastword').innerText.includes('missed note 3')`)
	p.keys(kb.PageUp)
	p.wait(`+document.querySelector('.stand-tempo .big').innerText == ` + strconv.FormatFloat(start, 'f', -1, 64))
	p.wait(`document.querySelector('.stand-tempo').innerText.includes('a step down')`)
	p.keys("u")
	p.wait(`+document.querySelector('.stand-tempo .big').innerText == ` + strconv.FormatFloat(up, 'f', -1, 64))
	p.keys("h")
	p.wait(`document.querySelector('.care')?.innerText.includes('Stop here and rest')`)
	if after := p.text(".today ol"); strings.Contains(after, "bends") {
		t.Errorf("it hurts, and the plan is %q", after)
	}
	p.go_("/practice/log")
	p.wait(`document.querySelectorAll('.curvecard svg .curve').length > 3`)
	if s := p.text(".log-cols aside"); !strings.Contains(s, "fretting") || !strings.Contains(s, "slower") {
		t.Errorf("the player's own numbers are %q", s)
	}
	// On the music stand, upright: the line and the two keys are there without scrolling.
	p.do(chromedp.EmulateViewport(390, 844))
	p.go_("/practice?lick=16&part=bottleneck%2C+11+to+16")
	p.wait(`document.querySelector('.stand') && document.fonts.status == 'loaded'`)
	if ok := eval[bool](p, `(() => { const k = document.querySelector('[data-say=clean]').getBoundingClientRect(); `+
		`return k.bottom <= innerHeight && document.documentElement.scrollWidth <= innerWidth })()`); !ok {
		t.Error("the keys are not within reach on a phone")
	}
}

// A player who fails goes below where the ladder began, sets the tempo by key and by touch, practises a warm-up that
// moves no ladder, and on the day of "well" finds nothing heavy, bent or new on the plan.
func TestPracticeSlowly(t *testing.T) {
	t.Parallel()
	p := demoApp(t).open("/practice?lick=17&part=&minutes=45")
	p.wait(`document.body.dataset.heard && document.querySelector('.stand')`)
	tempo := func() float64 { return eval[float64](p, `+document.querySelector('.stand-tempo .big').innerText`) }
	start := tempo()
	for k := range 4 {
		p.keys(kb.PageUp)
		p.wait(`document.querySelector('.asknote')`)
		if k%2 == 1 {
			p.wait(
				`+document.querySelector('.stand-tempo .big').innerText < ` + strconv.FormatFloat(start, 'f', -1, 64),
			)
		}
	}
	p.wait(`+document.querySelector('.stand-tempo .big').innerText <= ` + strconv.FormatFloat(start-3, 'f', -1, 64))
	low := tempo()
	p.keys("]")
	p.wait(`+document.querySelector('.stand-tempo .big').innerText > ` + strconv.FormatFloat(low, 'f', -1, 64))
	up := tempo()
	p.click(`[data-faster="-1"]`)
	p.wait(`+document.querySelector('.stand-tempo .big').innerText < ` + strconv.FormatFloat(up, 'f', -1, 64))
	set := tempo()
	p.keys(kb.PageDown)
	p.wait(
		`document.querySelector('.lastword').innerText.includes('clean at ` + strconv.FormatFloat(set, 'f', -1,
			64) + `')`,
	)
	// A warm-up of the same part leaves it where it is.
	p.go_("/practice?lick=17&part=&minutes=45&kind=warm-up")
	p.wait(
		`document.body.dataset.heard && document.querySelector('.stand-tempo').innerText.includes('moves no ladder')`,
	)
	for range 4 {
		p.keys(kb.PageDown)
	}
	p.wait(`document.querySelector('.lastword').innerText.includes('clean at')`)
	p.go_("/practice?lick=17&part=&minutes=45")
	p.wait(`document.body.dataset.heard && document.querySelector('.pips')`)
	if got := tempo(); got != set {
		t.Errorf("after a warm-up the ladder stands at %g, not at %g", got, set)
	}
	p.keys("h")
	p.wait(`document.querySelector('.care')`)
	p.click(`[data-say=well]`)
	p.wait(`!document.querySelector('.care')`)
	if s := p.text(".today ol"); strings.Contains(s, "bends against") || strings.Contains(s, "new:") {
		t.Errorf("on the day of well the plan is %q", s)
	}
}

// On any day, at any hour and in any time zone the demo opens on a plan of that day, a round that
// is played is that day's on the stand and in the log, and while it hurts no bend is planned.
func TestPracticeAnyDay(t *testing.T) {
	t.Parallel()
	for i, at := range testline.Moments(t, false) {
		if !testline.Night() && i%3 != 0 {
			continue // all of them are planned for without a browser, in internal/demo
		}
		// A test of its own each, so that its browser is given up before the next one.
		t.Run(at.Format("2006-01-02 15:04 MST"), func(t *testing.T) { anyDay(t, at) })
	}
}

// anyDay is the practice of one day.
func anyDay(t *testing.T, at time.Time) {
	path := filepath.Join(t.TempDir(), "demo.db")
	s, err := store.Open(path, func() time.Time { return at })
	if err != nil {
		t.Fatal(err)
	}
	if err := errors.Join(demo.Fill(t.Context(), s), s.Close()); err != nil {
		t.Fatal(err)
	}
	a := startAt(t, path, func() time.Time { return at })
	p := a.open("/practice?minutes=45")
	p.wait(`document.querySelector('.stand')`)
	if day := p.text(".practice-head h1"); day != at.Weekday().String() {
		t.Errorf("%s: the plan is of %s", at, day)
	}
	plan := p.text(".today ol")
	if !strings.Contains(plan, "Warm-up") ||
		!strings.Contains(plan, "last on ") && !strings.Contains(plan, "last time") {
		t.Errorf("%s: the plan is %q", at, plan)
	}
	p.keys(kb.PageDown)
	p.wait(`document.querySelector('.lastword')?.innerText.includes('clean at') && ` +
		`document.querySelector('.today li.done')`)
	p.keys("h")
	p.wait(`document.querySelector('.care')?.innerText.includes('Stop here and rest')`)
	if hurt := p.text(".today ol"); strings.Contains(hurt, "bends") {
		t.Errorf("%s: it hurts, and the plan is %q", at, hurt)
	}
	p.go_("/practice/log")
	p.wait(`document.querySelector('.curvecard svg .curve')`)
	days := eval[string](p, `[...document.querySelectorAll('svg.progress text')].map(t => t.textContent).join(' ')`)
	if !strings.Contains(days, at.Format("2 Jan")) {
		t.Errorf("%s: the log ends otherwise: %s", at, days)
	}
	a.stop()
}

// The same key stops on the log, in capitals too.
func TestHurtsOnTheLog(t *testing.T) {
	t.Parallel()
	p := demoApp(t).open("/practice/log")
	p.wait(`document.querySelector('.hurts')`)
	p.do(chromedp.KeyEvent("H"))
	p.wait(`document.querySelector('.care')?.innerText.includes('Stop here and rest')`)
}

// A bend is checked with the simulated guitar: it misses by what it is told, the page says so and
// draws its course.
func TestBendByEar(t *testing.T) {
	t.Parallel()
	p := demoApp(t).open("/practice?lick=14&part=")
	p.wait(`document.querySelector('.bends-ear')`)
	p.do(chromedp.Evaluate[chromedp.Void](`document.querySelector('#simulate-cents').value = '-35'`))
	p.click(".bends-ear [data-simulate]")
	p.wait(`document.querySelector('.bendheard')?.innerText.includes('Flat by')`)
	p.do(chromedp.Evaluate[chromedp.Void](`document.querySelector('#simulate-cents').value = '0'`))
	p.click(".bends-ear [data-simulate]")
	p.wait(
		`document.querySelector('.bendheard.intune .course') && ` +
			`document.querySelector('.bendheard').innerText.includes('In tune')`,
	)
	p.click(".bends-ear [data-hearat]")
	p.wait(`listening.on && listening.rounds.length`)
}
