package pick

import (
	"math"
	"slices"

	"ornamen/core/layers"
	"ornamen/core/lick"
	"ornamen/core/load"
)

// Solve finds the strokes of a line: the way is kept where the player's strokes allow it, then, with the largest load
// within slack times the least possible, the effort is least: the sum of (need/100)⁴, which does not depend on the time
// there is, and with it a downstroke wherever the line starts on a beat. Ties start on a downstroke. With angle Either
// one angle is taken for the whole line: of those within slack of the better one, that of less effort. What is allowed
// does not depend on the tempo, so that neither do the strokes.
func (pl Hand) Solve(events []Event, loop bool, way Way, slack float64) Path {
	if len(events) == 0 {
		return Path{Steps: []Step{}, Angle: LeavesDown}
	}
	angles := []Angle{pl.Angle}
	if pl.Angle != LeavesDown && pl.Angle != LeavesUp {
		angles = []Angle{LeavesDown, LeavesUp}
	}
	var list []*search
	fewest, bound := math.MaxInt, math.Inf(1)
	for _, angle := range angles {
		s := pl.newSearch(events, loop, way, angle)
		list = append(list, s)
		if s.fewest < fewest {
			fewest, bound = s.fewest, s.bound
		} else if s.fewest == fewest {
			bound = min(bound, s.bound)
		}
	}
	// All are held to the better one's bound.
	limit := bound * slack * (1 + 1e-9)
	var best Path
	least := math.Inf(1)
	for _, s := range list {
		if s.fewest > fewest || s.bound > limit {
			continue
		}
		if p, sum := s.path(limit); best.Steps == nil || sum < least*(1-slightly) {
			best, least = p, sum
		}
	}
	best.Bound, best.Breaches = bound, fewest
	return best
}

// upStart is the penalty, in effort, where the line starts on a beat with an upstroke (model default).
const upStart = 50.0

// A step that leaves the way counts less at a loop's seam than inside the line: a loop of
// an odd number of strokes repeats one where it turns, and nowhere else.
const (
	SeamBreach  = 1
	InnerBreach = 2
)

// slightly is the rounding that two equal sums may differ by.
const slightly = 1e-12

// search is a line of strokes as it is searched. What leaves the way comes before load and load before effort: the
// fewest breaches are found first, then only such moves are left as lie on a path with no more of them. That is exact,
// since a path of moves that each lie on a path with the fewest has the fewest itself.
type search struct {
	hand   Hand
	events []Event
	states [][]state
	loop   bool
	way    Way
	angle  Angle
	firsts []first

	fewest int     // breaches of the way, as they count
	bound  float64 // least possible largest load with no more of them
}

// first is the line begun with one state of the first event: there are few, and a loop ends in the one
// that it began in.
type first struct {
	line     *layers.Line
	breaches int
	begins   float64 // effort of the first stroke
}

// newSearch weighs the moves and keeps those with the fewest breaches.
func (pl Hand) newSearch(events []Event, loop bool, way Way, angle Angle) *search {
	s := &search{hand: pl, events: events, loop: loop, way: way, angle: angle, fewest: math.MaxInt, bound: math.Inf(1)}
	for _, e := range events {
		s.states = append(s.states, options(e))
	}
	var moves, breaches []layers.Table
	for i := 1; i < len(events); i++ {
		m, b := s.moves(i-1, i)
		moves, breaches = append(moves, m), append(breaches, b)
	}
	if loop {
		m, b := s.moves(len(events)-1, 0)
		moves, breaches = append(moves, m), append(breaches, b)
	}
	for f := range s.states[0] {
		counting := layers.Least(math.Inf(1))
		count := s.line(f, breaches)
		come, rest := count.Ends(counting)
		least := rest[0][f]
		few := make([]layers.Table, len(moves))
		for i := range moves {
			after := make([]float64, len(s.states[0])) // of the turn
			if i+1 < len(events) {
				after = rest[i+1]
			}
			few[i] = within(moves[i], breaches[i], come[i], after, least)
		}
		x := first{s.line(f, few), int(math.Round(least)), s.begin(0, f)}
		s.firsts = append(s.firsts, x)
		if x.breaches > s.fewest {
			continue
		}
		bound := x.line.Value(layers.Largest(math.Inf(1)))
		if x.breaches < s.fewest {
			s.bound = bound
		}
		s.fewest, s.bound = x.breaches, min(s.bound, bound)
	}
	return s
}

// path is the path of least effort with no load above a limit, of those with the fewest breaches, and its effort.
func (s *search) path(limit float64) (path Path, least float64) {
	path = Path{Steps: make([]Step, len(s.events)), Angle: s.angle}
	picks, least := []int(nil), math.Inf(1)
	for _, x := range s.firsts {
		if x.breaches != s.fewest {
			continue
		}
		p, sum, err := x.line.Best(layers.Least(limit))
		if sum += x.begins; err == nil && (picks == nil || sum < least*(1-slightly)) {
			picks, least = p, sum
		}
	}
	if picks == nil { // no stroke can be in time
		picks = make([]int, len(s.events))
	}
	for i := range s.events {
		q := s.states[i][picks[i]]
		path.Steps[i] = Step{Strokes: q}
		if from := s.before(i); from >= 0 {
			path.Steps[i] = s.hand.move(s.events[from], s.states[from][picks[from]], s.into(i), q, s.angle)
		}
	}
	return path, least
}

// line is the line of moves that begins in a state.
func (s *search) line(first int, moves []layers.Table) *layers.Line {
	l := &layers.Line{}
	for i, st := range s.states {
		states := make([]int, len(st))
		for k := range states {
			states[k] = k
		}
		if i == 0 {
			states = []int{first}
		}
		l.Widths, l.States = append(l.Widths, len(st)), append(l.States, states)
	}
	for i := range len(s.events) - 1 {
		l.Moves = append(l.Moves, moves[i])
	}
	if s.loop {
		l.Turn = moves[len(moves)-1]
	}
	return l
}

// moves weighs those from event i to event j, and counts what leaves the way.
func (s *search) moves(i, j int) (moves, breaches layers.Table) {
	x, y := s.events[i], s.into(j)
	for _, p := range s.states[i] {
		loads, efforts := make([]float64, len(s.states[j])), make([]float64, len(s.states[j]))
		count := make([]float64, len(s.states[j]))
		for l, q := range s.states[j] {
			st := s.hand.move(x, p, y, q, s.angle)
			need := st.Need
			if s.hand.Speed > 0 {
				need *= s.hand.Speed
			}
			loads[l], efforts[l] = st.Load, load.Effort(need+fingerEffort(x, p, y, q))
			if j > 0 {
				efforts[l] += s.begin(j, l)
			}
			if !y.Begins && s.way.breaches(x, p, y, q) {
				if count[l] = SeamBreach; j > 0 {
					count[l] = InnerBreach
				}
			}
		}
		moves.Load, moves.Effort = append(moves.Load, loads), append(moves.Effort, efforts)
		breaches.Load, breaches.Effort = append(breaches.Load, make([]float64, len(count))),
			append(breaches.Effort, count)
	}
	return moves, breaches
}

// within are the moves that lie on a path with no more breaches than the fewest; come and rest count
// those on the way to a state and from there on.
func within(moves, breaches layers.Table, come, rest []float64, fewest float64) layers.Table {
	out := layers.Table{Load: make([][]float64, len(moves.Load)), Effort: moves.Effort}
	for i, loads := range moves.Load {
		out.Load[i] = slices.Clone(loads)
		for j := range loads {
			if come[i]+breaches.Effort[i][j]+rest[j] > fewest+0.5 {
				out.Load[i][j] = layers.Never
			}
		}
	}
	return out
}

// before is the index of the event before event i, −1 for none; in a loop the last one stands before the first.
func (s *search) before(i int) int {
	if i == 0 && s.loop {
		return len(s.events) - 1
	}
	return i - 1
}

// into is event i as it is reached from the one before: a loop turns without a new start.
func (s *search) into(i int) Event {
	e := s.events[i]
	e.Begins = e.Begins && i > 0
	return e
}

// begin is the penalty of a stroke where the line starts on a beat.
func (s *search) begin(i, k int) float64 {
	if stroke, ok := s.states[i][k].pick(); ok && s.events[i].Begins && stroke == lick.Up {
		return upStart
	}
	return 0
}

// breaches says whether the second stroke leaves the way although the player has not set both.
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
	return !slices.ContainsFunc(e.Notes, func(n Note) bool { return n.Stroke == "" })
}

// options lists the ways to pick an event around what is set, a downstroke first. Strings that touch take one stroke.
// Those that do not take the pick on the thickest, going down, and fingers on the others (hybrid; common practice).
// What the player has set for one note of a group holds for the others that the same stroke crosses; where nothing is
// left open there is one way.
func options(e Event) []state {
	if slices.ContainsFunc(e.Notes, func(n Note) bool { return n.Line }) {
		return byFingers(e)
	}
	hybrid := !Touching(e.Notes)
	strokes := []lick.Stroke{lick.Down, lick.Up}
	if k := slices.IndexFunc(e.Notes, func(n Note) bool { return isPick(n.Stroke) }); k >= 0 {
		strokes = []lick.Stroke{e.Notes[k].Stroke}
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
	s, some := make(state, len(e.Notes)), false
	for i, n := range e.Notes {
		switch {
		case n.Stroke != "":
			s[i] = n.Stroke
		case n.Finger != "":
			s[i], some = n.Finger, true
		default:
			return nil, false
		}
	}
	return s, some
}

// hybridFingers play the thinner strings beside the pick, in turn (common practice).
var hybridFingers = [...]lick.Stroke{lick.PMid, lick.PRing}
