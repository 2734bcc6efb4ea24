package hand

import (
	"context"
	"math"
	"math/rand/v2"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/load"
	"ornamen/core/neck"
)

// randomEvents makes a short line with slurs, open strings, pairs, bars, held
// notes and locks.
func randomEvents(rng *rand.Rand, n, frets int) []Event {
	base := 1 + rng.IntN(frets-5)
	events := make([]Event, n)
	for i := range events {
		t := Touch{Place: neck.Place{String: 1 + rng.IntN(3), Fret: base + rng.IntN(5)}}
		switch rng.IntN(8) {
		case 0:
			t.Place.Fret = 0
		case 1, 2, 3:
			t.Finger = lick.Index + lick.Finger(rng.IntN(4))
		case 4:
			if i > 0 {
				before := events[i-1].Touches[0].Place
				t.Place.String = before.String
				t.Slur = []lick.Slur{lick.Hammer, lick.Pull, lick.Slide, lick.Shift}[rng.IntN(4)]
				if t.Slur == lick.Hammer && t.Place.Fret <= before.Fret || t.Slur == lick.Pull && t.Place.Fret >= before.Fret || before.Fret == 0 {
					t.Slur = ""
				}
			}
		}
		events[i] = Event{Touches: []Touch{t}, Have: 80 + 150*rng.Float64()}
		switch {
		case i > 0 && len(events[i-1].Touches) == 2 && rng.IntN(2) == 0:
			held := events[i-1].Touches[1]
			held.Held, held.Slur = true, ""
			events[i].Touches = append(events[i].Touches, held)
		case rng.IntN(6) == 0:
			second := Touch{Place: neck.Place{String: 4, Fret: base + rng.IntN(3)}, Bar: rng.IntN(2) == 0}
			events[i].Touches[0].Bar = second.Bar
			events[i].Touches = append(events[i].Touches, second)
		}
	}
	return events
}

// exhaustive tries every posture of every event. It walks the events themselves,
// open strings included, and knows nothing of the search.
type exhaustive struct {
	m      *Model
	events []Event
	loop   bool
	bound  float64
	sum    float64
	limit  float64
}

func (x *exhaustive) try(i, last, first int, held posture, start posture, worst, sum float64, standing bool) {
	if worst > x.limit || worst >= x.bound && sum >= x.sum {
		return
	}
	if i == len(x.events) {
		if x.loop && last >= 0 {
			e := x.events[first]
			need, _, _ := x.m.transition(x.events[last].Touches, held, e.Touches, start, first > 0 || last < len(x.events)-1)
			load := need / e.Have
			worst, sum = max(worst, load), sum+math.Pow(load, 4)
			if worst > x.limit {
				return
			}
		}
		x.bound, x.sum = min(x.bound, worst), min(x.sum, sum)
		return
	}
	e := x.events[i]
	if !e.fretted() {
		if i > 0 || x.loop {
			worst = max(worst, x.m.toOpen(e.Touches[0])/e.Have)
		}
		x.try(i+1, last, first, held, start, worst, sum, standing)
		return
	}
	for _, q := range x.m.mayStand(e.Touches) {
		b := x.m.stances[q.stance].standing
		switch {
		case last >= 0:
			need, _, _ := x.m.transition(x.events[last].Touches, held, e.Touches, q, i > last+1)
			load := need / e.Have
			more := math.Pow(load, 4)
			if !x.loop && !standing {
				more += math.Pow(x.m.stances[start.stance].standing/e.Have, 4)
			}
			if load < never {
				x.try(i+1, i, first, q, start, max(worst, load), sum+more, true)
			}
		case x.loop || i == 0:
			x.try(i+1, i, i, q, q, worst, sum, false)
		default:
			need := placeFinger + b
			load := need / e.Have
			x.try(i+1, i, i, q, q, max(worst, load), sum+math.Pow(load, 4), true)
		}
	}
}

// The search equals trying every row of postures: the least largest load, and
// the least sum under it. A guitar of seven frets has few enough frames to try
// thousands of lines; the whole neck is tried on some.
func TestExact(t *testing.T) {
	short := neck.Standard()
	short.Frets = 7
	for _, c := range []struct {
		g            neck.Guitar
		lines, notes int
	}{{short, 2000, 3}, {short, 60, 4}, {neck.Standard(), 60, 3}} {
		m := NewModel(Medium(), c.g)
		rng := rand.New(rand.NewPCG(3, 5))
		for checked := 0; checked < c.lines; {
			checked += checkExact(t, m, randomEvents(rng, 2+rng.IntN(c.notes-1), c.g.Frets), rng.IntN(4) == 0)
		}
	}
}

// checkExact compares one line; it counts 1 if any hand can play it.
func checkExact(t *testing.T, m *Model, events []Event, loop bool) int {
	t.Helper()
	p := m.Solve(context.Background(), events, loop, load.Slack)
	x := &exhaustive{m: m, events: events, loop: loop, bound: never, sum: never, limit: never}
	x.try(0, -1, 0, posture{}, posture{}, 0, 0, false)
	if x.bound == never {
		if p.Possible() {
			t.Fatalf("%v loop %v: the search found a way, there is none", events, loop)
		}
		return 0
	}
	if !p.Possible() || math.Abs(p.Bound-x.bound) > 1e-9 {
		t.Fatalf("%v loop %v: bound %v (possible %v), exhaustive %v", events, loop, p.Bound, p.Possible(), x.bound)
	}
	y := &exhaustive{m: m, events: events, loop: loop, bound: -1, sum: never, limit: load.Limit(p.Bound, load.Slack) * (1 + 1e-9)}
	y.try(0, -1, 0, posture{}, posture{}, 0, 0, false)
	if got := sumOf(m, events, p, loop); math.Abs(got-y.sum) > 1e-9*(1+y.sum) {
		t.Fatalf("%v loop %v: sum %v, exhaustive %v", events, loop, got, y.sum)
	}
	return 1
}

// sumOf adds up load⁴ along a path, the first frame's standing cost included.
func sumOf(m *Model, events []Event, p Path, loop bool) float64 {
	sum, moved, first := 0.0, false, -1
	for i, s := range p.Steps {
		if !events[i].fretted() {
			continue
		}
		if first < 0 {
			first = i
		}
		if s.Need > 0 || i > first {
			if !loop && !moved && i > first && first == 0 {
				for k := range m.stances {
					if m.stances[k].frame == p.Steps[first].Frame {
						sum += math.Pow(m.stances[k].standing/events[i].Have, 4)
					}
				}
			}
			moved = true
			sum += math.Pow(s.Load, 4)
		}
	}
	return sum
}

// mayStand lists the postures that keep what is set, fingers behind the first fret
// only where there are no others.
func (m *Model) mayStand(touches []Touch) (out []posture) {
	for _, q := range m.stand(touches) {
		if !allows(touches, q) {
			continue
		}
		if back := m.stances[q.stance].frame[0] < 1; len(out) > 0 && back != (m.stances[out[0].stance].frame[0] < 1) {
			if back {
				continue
			}
			out = nil
		}
		out = append(out, q)
	}
	return out
}

// A note that the player gives the ring or the little finger at the first fret can
// be played: the others hover before the fret (common practice).
func TestFirstFret(t *testing.T) {
	m := NewModel(Medium(), neck.Standard())
	for f := lick.Index; f <= lick.Little; f++ {
		events := []Event{{Touches: []Touch{{Place: neck.Place{String: 2, Fret: 1}, Finger: f}}, Have: 200}, {Touches: []Touch{{Place: neck.Place{String: 1, Fret: 1}, Finger: f}}, Have: 200}}
		p := m.Solve(context.Background(), events, false, 1)
		if !p.Possible() || p.Steps[0].Frame[f-lick.Index] != 1 {
			t.Errorf("finger %s: %+v", f, p.Steps)
		}
	}
	open := m.Solve(context.Background(), []Event{{Touches: []Touch{{Place: neck.Place{String: 2, Fret: 1}}}, Have: 200}}, false, 1)
	if open.Steps[0].Frame[0] < 1 {
		t.Errorf("a hand that may choose stands behind the first fret: %v", open.Steps[0].Frame)
	}
}
