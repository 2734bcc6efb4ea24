package pick

import (
	"math"
	"slices"

	"ornamen/core/lick"
	"ornamen/core/load"
)

// Solve finds the strokes of a line: the way is kept where the player's strokes
// allow it, then, with the largest load within slack times the least possible, the
// effort is least: the sum of (need/100)⁴, which does not depend on the time there
// is, and with it a downstroke wherever the line starts on a beat. Ties start on a
// downstroke. With angle Either one angle is taken for the whole line: of those
// within slack of the better one, that of less effort.
func (pl Player) Solve(events []Event, loop bool, way Way, slack float64) Path {
	if pl.Angle == LeavesDown || pl.Angle == LeavesUp {
		p, _ := pl.solve(events, loop, way, slack, pl.Angle, math.Inf(1))
		return p
	}
	down, dv := pl.solve(events, loop, way, slack, LeavesDown, math.Inf(1))
	up, uv := pl.solve(events, loop, way, slack, LeavesUp, math.Inf(1))
	bound := min(down.Bound, up.Bound)
	if dv.breaches == uv.breaches {
		// Both are held to the better one's bound.
		limit := load.Limit(bound, slack) * (1 + 1e-9)
		down, dv = pl.solve(events, loop, way, slack, LeavesDown, limit)
		up, uv = pl.solve(events, loop, way, slack, LeavesUp, limit)
	}
	better := down
	if uv.less(dv) {
		better = up
	}
	if dv.breaches == uv.breaches {
		better.Bound = bound
	}
	return better
}

// effort of a stroke of so many ms: (ms/100)⁴.
func effort(ms float64) float64 {
	ms *= 0.01
	ms *= ms
	return ms * ms
}

// upStart is what a teacher minds, in effort, where the line starts on a beat with an
// upstroke (model default).
const upStart = 50.0

// A step that leaves the way counts less at a loop's seam than inside the line: a loop of
// an odd number of strokes repeats one where it turns, and nowhere else.
const (
	SeamBreach  = 1
	InnerBreach = 2
)

// value orders picking: fewest breaches of the way as they count, least largest load, least sum.
type value struct {
	breaches int
	load     float64
	sum      float64
}

// slightly is the rounding that two equal sums may differ by.
const slightly = 1e-12

// less compares in order: breaches, largest load, effort.
func (v value) less(w value) bool {
	switch {
	case v.breaches != w.breaches:
		return v.breaches < w.breaches
	case v.load < w.load*(1-slightly):
		return true
	case v.load > w.load*(1+slightly):
		return false
	}
	return v.sum < w.sum*(1-slightly)
}

// solve finds the strokes at one angle. A limit below infinity is one that the angle
// may not reach; its value then has no sum.
func (pl Player) solve(events []Event, loop bool, way Way, slack float64, angle Angle, limit float64) (Path, value) {
	path := Path{Steps: make([]Step, len(events)), Angle: angle}
	if len(events) == 0 {
		return path, value{}
	}
	s := search{pl: pl, events: events, loop: loop, way: way, angle: angle, limit: math.Inf(1)}
	for _, e := range events {
		s.states = append(s.states, options(e))
	}
	_, best := s.run()
	path.Bound, path.Breaches = best.load, best.breaches
	// Second pass: the largest load may rise a little, the sum decides.
	s.limit, s.bySum = load.Limit(best.load, slack)*(1+1e-9), true
	if limit < math.Inf(1) {
		if best.load > limit {
			best.sum = math.Inf(1)
		}
		s.limit, best.load = max(s.limit, limit), 0
	}
	picks, found := s.run()
	best.sum += found.sum
	for i := range events {
		q := s.states[i][picks[i]]
		path.Steps[i] = Step{Strokes: q}
		if from := s.before(i); from >= 0 {
			path.Steps[i] = pl.move(events[from], s.states[from][picks[from]], s.into(i), q, angle)
		}
	}
	return path, best
}

// search walks the events once for every first state, keeping for each state of an event
// the best value to reach it (Viterbi 1967, from memory): events · states² steps, where an
// event has at most three states. The value is ordered, not weighed: breaches before load
// before sum. It stays exact because each part only grows along the line.
type search struct {
	pl     Player
	events []Event
	states [][]state
	loop   bool
	way    Way
	angle  Angle
	limit  float64
	bySum  bool
}

// before is the index of the event before event i, −1 for none; in a loop the last one
// stands before the first.
func (s *search) before(i int) int {
	if i == 0 && s.loop {
		return len(s.events) - 1
	}
	return i - 1
}

// into is event i as it is reached from the one before: a loop turns without a new start.
func (s *search) into(i int) Event {
	e := s.events[i]
	e.Fresh = e.Fresh && i > 0
	return e
}

// run finds the best picks; in a loop every first stroke is tried.
func (s *search) run() ([]int, value) {
	var bestPicks []int
	var best value
	for first := range s.states[0] {
		picks, v, ok := s.from(first)
		if ok && (bestPicks == nil || s.better(v, best)) {
			bestPicks, best = picks, v
		}
	}
	return bestPicks, best
}

// better says whether v is to be taken over w: the least load is looked for, or the least
// effort below a limit.
func (s *search) better(v, w value) bool {
	if s.bySum {
		v.load, w.load = 0, 0
	}
	return v.less(w)
}

// from searches with the first event's state given, keeping the best value and
// where it came from for every state.
//
// This is a Viterbi search, from the beginning on: now[k] is the best value of all ways that
// end at event i in state k, and came remembers by which state it was reached. A loop is closed
// by a last step back to the given first state; the caller tries each first state there is, so
// that the whole is exact. Worked example: on one string with downstroke and upstroke as the
// states of four sixteenths, D U D U has no turn of the wrist too many and wins over D D U U.
//
// Cost: events · states², with two to four states an event.
func (s *search) from(first int) ([]int, value, bool) {
	n := len(s.events)
	width := 0
	for _, st := range s.states {
		width = max(width, len(st))
	}
	came := make([]int, n*width)
	values, lives := make([]value, 2*width), make([]bool, 2*width)
	now, next, alive, ok := values[:width], values[width:], lives[:width], lives[width:]
	alive[first] = true
	now[first].sum = s.begin(0, first)
	for i := 1; i < n; i++ {
		from := came[i*width:]
		for j := range s.states[i] {
			ok[j] = false
			for k := range s.states[i-1] {
				if !alive[k] {
					continue
				}
				if v, can := s.step(now[k], i-1, k, i, j); can && (!ok[j] || s.better(v, next[j])) {
					next[j], ok[j], from[j] = v, true, k
				}
			}
		}
		now, next, alive, ok = next, now, ok, alive
	}
	end, found := 0, false
	var best value
	for k := range s.states[n-1] {
		if !alive[k] {
			continue
		}
		v, can := now[k], true
		if s.loop {
			v, can = s.step(v, n-1, k, 0, first)
		}
		if can && (!found || s.better(v, best)) {
			end, best, found = k, v, true
		}
	}
	picks := make([]int, n)
	for i := n - 1; i > 0; i-- {
		picks[i], end = end, came[i*width+end]
	}
	picks[0] = first
	return picks, best, found
}

// step is the value of a path that goes on with state l at event i; ok is false where a
// load would lie above the limit.
func (s *search) step(v value, i, k, j, l int) (value, bool) {
	x, p, y, q := s.events[i], s.states[i][k], s.into(j), s.states[j][l]
	st := s.pl.move(x, p, y, q, s.angle)
	if st.Load > s.limit {
		return v, false
	}
	v.load = max(v.load, st.Load)
	need := st.Need
	if s.pl.Speed > 0 {
		need *= s.pl.Speed
	}
	v.sum += effort(need + fingerToil(x, p, y, q))
	if j > 0 {
		v.sum += s.begin(j, l)
	}
	if !y.Fresh && s.way.breaches(x, p, y, q) {
		v.breaches += SeamBreach
		if j > 0 {
			v.breaches += InnerBreach - SeamBreach
		}
	}
	return v, true
}

// begin is what a stroke minds where the line starts on a beat.
func (s *search) begin(i, k int) float64 {
	if stroke, ok := s.states[i][k].pick(); ok && s.events[i].Fresh && stroke == lick.Up {
		return upStart
	}
	return 0
}

// breaches says whether the second stroke leaves the way although the player
// has not set both.
func (w Way) breaches(x Event, p state, y Event, q state) bool {
	before, okA := p.pick()
	after, okB := q.pick()
	if !okA || !okB || (fixed(x) && fixed(y)) {
		return false
	}
	switch w {
	case Alternate:
		return before == after
	case Economy:
		from, to := leave(x, p, before), enter(y, q, after)
		with := to < from && before == lick.Down || to > from && before == lick.Up
		return with != (before == after)
	}
	return false
}

// fixed says whether the strokes of an event are all decided.
func fixed(e Event) bool {
	for _, n := range e.Notes {
		if n.Stroke == "" {
			return false
		}
	}
	return true
}

// options lists the ways to pick an event around what is set, a downstroke
// first. Strings that touch take one stroke. Those that do not take the pick on the
// thickest, going down, and fingers on the others (hybrid; common practice). What the player
// has set for one note of a group holds for the others that the same stroke crosses; where
// nothing is left open there is one way.
func options(e Event) []state {
	if slices.ContainsFunc(e.Notes, func(n Note) bool { return n.Line }) {
		return byFingers(e)
	}
	hybrid := !Touching(e.Notes)
	strokes := []lick.Stroke{lick.Down, lick.Up}
	for _, n := range e.Notes {
		if n.Stroke == lick.Down || n.Stroke == lick.Up {
			strokes = []lick.Stroke{n.Stroke}
			break
		}
	}
	if hybrid {
		strokes = strokes[:1]
	}
	var out []state
	for _, k := range strokes {
		s := make(state, len(e.Notes))
		used, differs := 0, false
		for i, n := range e.Notes {
			switch {
			case n.Stroke != "":
				s[i] = n.Stroke
			case hybrid && i > 0:
				s[i] = hybridFingers[min(used, len(hybridFingers)-1)]
				used++
			default:
				s[i], differs = k, true
			}
		}
		out = append(out, s)
		if !differs {
			break
		}
	}
	if s, ok := fingered(e); ok {
		out = append(out, s)
	}
	return out
}

// fingered is the event played by the fingers it was written for.
func fingered(e Event) (state, bool) {
	s, any := make(state, len(e.Notes)), false
	for i, n := range e.Notes {
		switch {
		case n.Stroke != "":
			s[i] = n.Stroke
		case n.Finger != "":
			s[i], any = n.Finger, true
		default:
			return nil, false
		}
	}
	return s, any
}

// hybridFingers play the thinner strings beside the pick, in turn (common practice).
var hybridFingers = [...]lick.Stroke{lick.PMid, lick.PRing}
