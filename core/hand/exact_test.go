package hand

import (
	"context"
	"math"
	"math/rand/v2"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/load"
	"ornamen/core/neck"
	"ornamen/core/testline"
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
		case 5:
			t.Bent = true
		case 4:
			if i > 0 {
				before := events[i-1].Touches[0].Place
				t.Place.String = before.String
				t.Slur = []lick.Slur{lick.Hammer, lick.Pull, lick.Slide, lick.Shift}[rng.IntN(4)]
				if t.Slur == lick.Hammer && t.Place.Fret <= before.Fret ||
					t.Slur == lick.Pull && t.Place.Fret >= before.Fret ||
					before.Fret == 0 {
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
			second := Touch{Place: neck.Place{String: 4, Fret: base + rng.IntN(3)}, Barre: rng.IntN(2) == 0}
			events[i].Touches[0].Barre = second.Barre
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
	easy   bool // only frames without strain
}

// effortOf is the effort of a move, written out from the table of moves.
func (x *exhaustive) effortOf(from []Touch, p posture, to []Touch, q posture, viaOpen bool) (need, sum float64) {
	need, kind, _ := x.m.transition(from, p, to, q, viaOpen)
	a, b := x.m.stances[p.stance], x.m.stances[q.stance]
	ms := need*x.m.Hand.Speed + spreadOf(b.frame) + flatOf(to, q)
	if a.frame != b.frame {
		ms += frameChange
	}
	switch kind {
	case Jump:
		ms += jumpAgain
	case Guided:
		ms += guidedAgain
	}
	return need, math.Pow(ms/100, 4)
}

// flatOf is what fingers laid flat over several strings add to an effort, bends by others than the ring finger, and
// slides by the middle finger.
func flatOf(touches []Touch, q posture) (ms float64) {
	for i, t := range touches {
		if t.Slur == lick.Slide && q.fingers[i] == 1 {
			ms += slideByMiddle
		}
		switch {
		case !t.Bent:
		case q.fingers[i] == 0:
			ms += bendByIndex
		case q.fingers[i] == 1:
			ms += bendByMiddle
		case q.fingers[i] == 3:
			ms += bendByLittle
		}
	}
	for f := range int8(4) {
		n := 0
		for _, g := range q.fingers {
			if g == f {
				n++
			}
		}
		if n > 1 {
			ms += barreEffort
			if f >= 2 {
				ms += barreHigh
			}
		}
	}
	return ms
}

// spreadOf is what open and closed gaps of a frame add to an effort.
func spreadOf(f Frame) (ms float64) {
	for _, gap := range []int{f[1] - f[0], f[2] - f[1], f[3] - f[2]} {
		switch gap {
		case 0:
			ms += closedGap
		case 2:
			ms += openGap
		case 3:
			ms += 2 * openGap
		}
	}
	return ms
}

func (x *exhaustive) try(i, last, first int, held posture, start posture, worst, sum float64, standing bool) {
	if worst > x.limit || worst >= x.bound && sum >= x.sum {
		return
	}
	if i == len(x.events) {
		if x.loop && last >= 0 {
			e := x.events[first]
			need, more := x.effortOf(x.events[last].Touches, held, e.Touches, start,
				first > 0 || last < len(x.events)-1)
			worst, sum = max(worst, need/e.Have), sum+more
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
		b := x.m.stances[q.stance]
		if x.easy && b.strain > load.Strain {
			continue
		}
		begin := math.Pow((b.standing+spreadOf(b.frame)+flatOf(e.Touches, q))/100, 4)
		switch {
		case last >= 0:
			need, more := x.effortOf(x.events[last].Touches, held, e.Touches, q, i > last+1)
			if load := need / e.Have; load < never {
				x.try(i+1, i, first, q, start, max(worst, load), sum+more, true)
			}
		case x.loop:
			x.try(i+1, i, i, q, q, worst, sum, false)
		case i == 0:
			x.try(i+1, i, i, q, q, worst, sum+begin, false)
		default:
			need := placeFinger + b.standing
			x.try(i+1, i, i, q, q, max(worst, need/e.Have),
				sum+math.Pow((need+spreadOf(b.frame)+flatOf(e.Touches, q))/100, 4), true)
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
	}{{short, testline.Nightly(800), 3}, {short, testline.Nightly(40), 4}, {neck.Standard(), testline.Nightly(40), 3}} {
		m := NewModel(Medium(), c.g)
		rng := rand.New(rand.NewPCG(3, 5))
		for checked := 0; checked < c.lines; {
			checked += checkExact(t, m, randomEvents(rng, 2+rng.IntN(c.notes-1), c.g.Frets), rng.IntN(4) == 0)
		}
	}
}

// solveByMoves is the hand for a line by its moves alone, without the figures and cells that a sum over moves does not
// see.
func solveByMoves(m *Model, events []Event, loop bool) Path {
	ctx := context.Background()
	c := m.newChain(ctx, events, loop)
	p := Path{Steps: make([]Step, len(events)), Bound: c.bound(ctx)}
	var picks []int
	if len(c.nodes) > 0 {
		_, picks = c.byMoves(ctx, p.Bound*load.Slack, p.Bound*load.Slack*FigureSlack)
	}
	c.describe(&p, events, loop, picks)
	return p
}

// checkExact compares one line; it counts 1 if any hand can play it.
func checkExact(t *testing.T, m *Model, events []Event, loop bool) int {
	t.Helper()
	p := solveByMoves(m, events, loop)
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
	least := func(easy bool, slack float64) float64 {
		y := &exhaustive{m: m, events: events, loop: loop, bound: -1, sum: never, easy: easy,
			limit: p.Bound * slack * (1 + 1e-9)}
		y.try(0, -1, 0, posture{}, posture{}, 0, 0, false)
		return y.sum
	}
	// Without strain where there is a way near the bound.
	want := least(least(true, load.Slack) < never, load.Slack*FigureSlack)
	if got := sumOf(m, events, p, loop); math.Abs(got-want) > 1e-9*(1+want) {
		t.Fatalf("%v loop %v: sum %v, exhaustive %v", events, loop, got, want)
	}
	return 1
}

// sumOf adds up the effort along a path, that of its first frame included.
func sumOf(m *Model, events []Event, p Path, loop bool) float64 {
	x := &exhaustive{m: m}
	stand := func(i int) posture {
		for _, q := range m.mayStand(events[i].Touches) {
			same := m.stances[q.stance].frame == p.Steps[i].Frame
			for k, f := range p.Steps[i].Fingers {
				same = same && (q.fingers[k] == noFinger || q.fingers[k] == int8(f-lick.Index))
			}
			if same {
				return q
			}
		}
		panic("the path stands where no hand can")
	}
	sum, last, first := 0.0, -1, -1
	for i, e := range events {
		if !e.fretted() {
			continue
		}
		q := stand(i)
		b := m.stances[q.stance]
		switch {
		case last >= 0:
			_, more := x.effortOf(events[last].Touches, stand(last), e.Touches, q, i > last+1)
			sum += more
		case !loop && i == 0:
			sum += math.Pow((b.standing+spreadOf(b.frame)+flatOf(e.Touches, q))/100, 4)
		case !loop:
			sum += math.Pow((placeFinger+b.standing+spreadOf(b.frame)+flatOf(e.Touches, q))/100, 4)
		}
		if last = i; first < 0 {
			first = i
		}
	}
	if loop && last >= 0 {
		_, more := x.effortOf(events[last].Touches, stand(last), events[first].Touches, stand(first),
			first > 0 || last < len(events)-1)
		sum += more
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
		events := []Event{
			{Touches: []Touch{{Place: neck.Place{String: 2, Fret: 1}, Finger: f}}, Have: 200},
			{Touches: []Touch{{Place: neck.Place{String: 1, Fret: 1}, Finger: f}}, Have: 200},
		}
		p := m.Solve(context.Background(), events, false, 1)
		if !p.Possible() || p.Steps[0].Frame[f-lick.Index] != 1 {
			t.Errorf("finger %s: %+v", f, p.Steps)
		}
	}
	open := m.Solve(context.Background(),
		[]Event{{Touches: []Touch{{Place: neck.Place{String: 2, Fret: 1}}}, Have: 200}}, false, 1)
	if open.Steps[0].Frame[0] < 1 {
		t.Errorf("a hand that may choose stands behind the first fret: %v", open.Steps[0].Frame)
	}
}
