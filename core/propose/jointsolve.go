package propose

import (
	"cmp"
	"math"
	"slices"

	"ornamen/core/hand"
	"ornamen/core/load"
	"ornamen/core/neck"
	"ornamen/core/pick"
)

// jointResult is the best of all places.
type jointResult struct {
	bound float64      // least possible largest load of both hands
	calm  []neck.Place // a place a note: least sum of load⁴ near the bound
	least []neck.Place // the same at the bound itself
}

// turnTries is how many states a loop may begin in when the least sum is looked
// for; the bound tries as many as it takes to be exact.
const turnTries = 8

// solve finds the least largest load over places, hands and strokes, with the
// fewest breaches of the way first, and the places that reach it. upper is the
// load at the given places (+Inf if they cannot be played) with breaches breaches.
// ok is false where no places can be played.
func (j *joint) solve(upper float64, breaches int) (res jointResult, ok bool) {
	for _, y := range j.layers {
		if len(y.options) == 0 {
			return res, false
		}
	}
	angles := []pick.Angle{j.pick.Angle}
	if j.pick.Angle == pick.Either || j.pick.Angle == "" {
		angles = []pick.Angle{pick.LeavesDown, pick.LeavesUp}
	}
	for j.within = 0; j.within <= breaches && !j.stopped(); j.within++ {
		j.addCells()
		limit := math.Inf(1)
		if j.within == breaches {
			limit = upper
		}
		bound := math.Inf(1)
		for _, j.angle = range angles {
			v, _ := j.search(hand.Minimax(min(limit, bound)), false)
			bound = min(bound, v)
		}
		if math.IsInf(bound, 1) || j.stopped() {
			continue
		}
		res.bound = bound
		res.calm = j.leastSum(load.Limit(bound, load.Slack), angles)
		res.least = j.leastSum(bound, angles)
		return res, true
	}
	return res, false
}

// leastSum are the places of least effort with no load above the limit, of both pick
// angles the better one; nil where the search was stopped.
func (j *joint) leastSum(limit float64, angles []pick.Angle) []neck.Place {
	least, options := math.Inf(1), []int(nil)
	for _, j.angle = range angles {
		if v, o := j.search(hand.LeastEffort(limit), true); v < least*(1-1e-12) {
			least, options = v, o
		}
	}
	if options == nil {
		return nil // the search was stopped
	}
	return j.placesOf(options)
}

// placesOf are the places of the options, one a note.
func (j *joint) placesOf(options []int) []neck.Place {
	places := make([]neck.Place, len(j.line.Written.Notes))
	for l, y := range j.layers {
		for k, i := range y.notes {
			places[i] = y.options[options[l]].places[k]
		}
	}
	return places
}

// infinite is a row of costs that nothing has reached.
func infinite(n int) []float64 {
	s := make([]float64, n)
	for i := range s {
		s[i] = math.Inf(1)
	}
	return s
}

// finite says whether something has.
func finite(s []float64) bool {
	return slices.ContainsFunc(s, func(x float64) bool { return !math.IsInf(x, 1) })
}

// state is a cell and a posture in it.
type state struct{ cell, posture int }

// search finds the least cost and, when asked by sum, an option a layer.
//
// toGo works from the end to the beginning: v[l][cell][posture] is the least cost of all that
// comes after this state, so the best start is known at once and tracing forward needs no
// memory of where a state came from. A line ends wherever it may; a loop ends where it began.
// For a loop the first pass lets every end go on to every beginning, which costs at most what
// the true loop does: a bound. The starts are then taken in the order of that bound, each with
// its own turn, and the search ends as soon as the next bound is no better than what was found.
// So the answer for a loop is exact although few of its starts are searched.
//
// Cost: layers · cells² · postures² in the worst case, for a loop once for each start tried.
func (j *joint) search(k hand.Cost, sum bool) (float64, []int) {
	first, last := &j.layers[0], &j.layers[len(j.layers)-1]
	loop := j.line.Written.Loop
	end := j.blank(last)
	if loop {
		rest := j.blank(first)
		for b, d := range first.cells {
			fill(rest[b], j.hand.Allowed(first.options[d.option].grip, true), 0)
		}
		j.relax(k, last, first, first.layerTimes, rest, end, j.closes)
	} else {
		for b, d := range last.cells {
			grip := last.options[d.option].grip
			fill(end[b], j.hand.Allowed(grip, true), 0)
			if grip.Open() {
				fill(end[b], j.hand.Allowed(grip, false), 0)
			}
		}
	}
	v := j.toGo(k, end)
	starts := j.starts(v[0], sum)
	if len(starts) == 0 {
		return math.Inf(1), nil
	}
	if !loop {
		s := starts[0]
		if !sum {
			return s.total, nil
		}
		return s.total, j.trace(k, v, s.state)
	}
	best, options, apart := math.Inf(1), []int(nil), false
	for n := range starts {
		s := starts[n]
		if s.total >= best || j.stopped() || sum && n >= turnTries && options != nil {
			break
		}
		v := j.toGo(k, j.turnTo(k, s.state))
		if c := v[0][s.cell][s.posture]; c < best {
			best = c
			if sum {
				options = j.trace(k, v, s.state)
			}
		}
		if !apart && best > s.total*(1+1e-9) {
			j.tellApart(k, starts[n+1:])
			apart = true
		}
	}
	return best, options
}

// tellApart raises what starts promise: so far each may close the loop in any state of
// the first layer, now only in one with its own strings and strokes. A loop with an
// odd number of strokes has many starts that promise what none of them keeps.
func (j *joint) tellApart(k hand.Cost, starts []start) {
	first, last := &j.layers[0], &j.layers[len(j.layers)-1]
	promised := map[int]costs{}
	for i := range starts {
		s := &starts[i]
		memo := first.cells[s.cell].memo
		v, known := promised[memo]
		if !known {
			rest, end := j.blank(first), j.blank(last)
			for b, d := range first.cells {
				if d.memo == memo {
					fill(rest[b], j.hand.Allowed(first.options[d.option].grip, true), 0)
				}
			}
			j.relax(k, last, first, first.layerTimes, rest, end, j.closes)
			v = j.toGo(k, end)
			promised[memo] = v
		}
		s.total = max(s.total, v[0][s.cell][s.posture])
	}
	sortStarts(starts)
}

// sortStarts puts the most promising start first; equals stay in order, so that the same
// line gives the same places again.
func sortStarts(s []start) {
	slices.SortStableFunc(s, func(a, b start) int { return cmp.Compare(a.total, b.total) })
}

// fill sets some entries of a row.
func fill(to []float64, at []int, x float64) {
	for _, i := range at {
		to[i] = x
	}
}

// closes says whether a loop may go from its last layer's cell c to its first
// layer's cell d.
func (j *joint) closes(c, d cell) bool {
	count := c.breaches
	if j.layers[0].picked() && j.leaves(c.memo, d.memo) {
		count += pick.SeamBreach
	}
	return count <= j.within
}

// turnTo is the cost of closing a loop at one state of the first layer.
func (j *joint) turnTo(k hand.Cost, s state) [][]float64 {
	first, last := &j.layers[0], &j.layers[len(j.layers)-1]
	rest, end := j.blank(first), j.blank(last)
	rest[s.cell][s.posture] = 0
	j.relax(k, last, first, first.layerTimes, rest, end, j.closes)
	return end
}

// start is a state that a loop may begin in, with the least that a way through it can
// cost.
type start struct {
	state
	total float64
}

// starts lists the first states that lead to an end, the most promising first.
func (j *joint) starts(v [][]float64, sum bool) []start {
	first := &j.layers[0]
	var out []start
	for c, d := range first.cells {
		grip := first.options[d.option].grip
		for _, i := range j.hand.Allowed(grip, j.line.Written.Loop) {
			total := v[c][i]
			if math.IsInf(total, 1) {
				continue
			}
			if sum && !j.line.Written.Loop {
				// To stand in the first frame takes its effort too.
				total += j.begun(first, d) + j.hand.Begin(grip, i)
			}
			out = append(out, start{state{c, i}, total})
		}
	}
	sortStarts(out)
	return out
}

// trace follows the least costs from a first state and names an option a layer.
func (j *joint) trace(k hand.Cost, v costs, s state) []int {
	options := []int{j.layers[0].cells[s.cell].option}
	for l := 1; l < len(j.layers); l++ {
		x, y := &j.layers[l-1], &j.layers[l]
		c := x.cells[s.cell]
		next, least := state{}, math.Inf(1)
		for b, d := range y.cells {
			if !j.steps(c, d, y) || !j.follows(x, c.option, y, d.option) {
				continue
			}
			p, cost := j.hand.Follow(k, x.options[c.option].grip, y.options[d.option].grip, y.have, s.posture, v[l][b])
			p2 := j.pickLoad(c, d, y, y.pickHave)
			if cost = k.Join(p2, j.pickMS(p2, y.pickHave), cost) + j.beside(k, c, d, y); cost < least*(1-1e-12) {
				next, least = state{b, p}, cost
			}
		}
		s = next
		options = append(options, y.cells[s.cell].option)
	}
	return options
}
