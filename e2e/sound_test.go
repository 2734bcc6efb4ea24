package e2e

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"
)

// lights are the notes that were lit while a line sounded: when they were due and when it was
// done, by the audio clock.
type lights []struct{ Note, Due, Lit float64 }

// A player hears a line: it sounds, its notes light up in time, a loop goes round without a
// gap, goes on while the line is edited, slows down at the next round, and stops.
func TestListening(t *testing.T) {
	t.Parallel()
	p := demoApp(t).open("/licks/17")
	p.ready()
	p.keys("l", " ")
	p.wait(`listening.on && listening.log.length > 6`)
	p.wait(`document.querySelector('svg.ledger g.col.lit')`)
	// The middle one counts: a machine that stands still for a moment delays one light or two,
	// lights that go by another clock are all wrong.
	var late []float64
	for _, x := range eval[lights](p, `listening.log.map(x => ({Note: x.note, Due: x.due, Lit: x.lit}))`) {
		late = append(late, math.Abs(x.Lit-x.Due))
	}
	slices.Sort(late)
	if middle := late[len(late)/2]; !(middle <= 0.030) {
		t.Errorf("half of the notes are lit %.0f ms off and more", 1000*middle)
	}
	// An edit while it sounds: the next round has it.
	p.keys("2")
	p.wait(`listening.rounds.length > 1`)
	p.keys("[")
	p.wait(`(() => { const r = listening.rounds.at(-1); return r[1] - r[0] > 2.2 })()`)
	rounds := eval[[][]float64](p, `listening.rounds`)
	for i := 1; i < len(rounds); i++ {
		if gap := rounds[i][0] - rounds[i-1][1]; math.Abs(gap) > 1e-4 {
			t.Errorf("round %d begins %.1f ms after the one before it", i+1, 1000*gap)
		}
	}
	p.keys(" ")
	p.wait(`!listening.on && !document.querySelector('svg.ledger g.col.lit')`)
	if s := p.text("#transport [data-play]"); s != "Play" {
		t.Errorf("the button says %q", s)
	}
}

// A run is heard before it is a lick, and a turned line before it is taken.
func TestHeardBeforeTaken(t *testing.T) {
	t.Parallel()
	a := demoApp(t)
	p := a.open("/runs")
	p.wait(`document.querySelector('svg.run')`)
	p.keys(" ")
	p.wait(`listening.on && listening.log.length > 3`)
	p.click(`#transport [data-play]`)
	p.wait(`!listening.on`)
	p.go_("/licks/15")
	p.ready()
	before := p.frets()
	p.ways("turned")
	p.click(`[data-hear=backwards]`)
	p.wait(`listening.on && listening.log.length > 3`)
	if p.frets() != before {
		t.Error("hearing it took it")
	}
}

// Every band and every pickup is heard, and what a line sounds like is kept with that line.
func TestBandsAndPickups(t *testing.T) {
	t.Parallel()
	p := demoApp(t).open("/licks/1")
	p.ready()
	choose := func(name, value string) {
		eval[any](p, fmt.Sprintf(`(() => { const f = document.querySelector('[data-sound=%s]'); f.value = %q; `+
			`f.dispatchEvent(new Event('change', {bubbles: true})); })()`, name, value))
	}
	asked := func() string {
		return eval[string](p,
			`performance.getEntriesByType('resource').filter(e => e.name.includes('sound.wav')).at(-1)?.name ?? ''`)
	}
	eval[any](p, `document.querySelector('[data-sound=band]').click()`)
	for _, c := range []struct{ style, pickup, busy string }{{"rock", "neck", "1"}, {"shuffle", "", "2"},
		{"ballad", "neck", "3"},
		{"twelve-eight", "bridge", "4"}} {
		choose("style", c.style)
		choose("pickup", c.pickup)
		choose("busy", c.busy)
		p.click(`[data-play]`)
		p.wait(
			fmt.Sprintf(
				`listening.on && listening.log.length > 1 && performance.getEntriesByType('resource').some(e => `+
					`e.name.includes('sound.wav') && e.name.includes('style=%s'))`,
				c.style,
			),
		)
		p.click(`[data-play]`)
		p.wait(`!listening.on`)
	}
	if url := asked(); !strings.Contains(url, "pickup=bridge") || !strings.Contains(url, "style=twelve-eight") {
		t.Errorf("the last sound was %s", url)
	}
	p.go_("/licks/2")
	p.ready()
	p.go_("/licks/1")
	p.ready()
	if got := eval[string](p, `document.querySelector('[data-sound=pickup]').value + document.querySelector('[data-sound=busy]').value`); got != "bridge4" {
		t.Errorf("the line remembers %q", got)
	}
}
