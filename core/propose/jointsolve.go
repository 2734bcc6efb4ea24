package propose

import (
	"context"
	"math"
	"slices"

	"ornamen/core/layers"
	"ornamen/core/load"
	"ornamen/core/neck"
	"ornamen/core/pick"
)

// jointResult is the best of all places.
type jointResult struct {
	bound    float64      // least possible largest load of both hands
	leastSum []neck.Place // a place a note: least sum of load⁴ near the bound
	least    []neck.Place // the same at the bound itself
}

// turnTries is how many states a loop may begin in when the least sum is looked
// for; the bound tries as many as it takes to be exact.
const turnTries = 8

// solve finds the least largest load over places, hands and strokes, with the fewest breaches of the way first, and the
// places that reach it. upper is the load at the given places (+Inf if they cannot be played) with breaches breaches.
// ok is false where no places can be played.
func (j *joint) solve(ctx context.Context, upper float64, breaches int) (res jointResult, ok bool) {
	for _, y := range j.layers {
		if len(y.options) == 0 {
			return res, false
		}
	}
	angles := []pick.Angle{j.pick.Angle}
	if j.pick.Angle == pick.Either || j.pick.Angle == "" {
		angles = []pick.Angle{pick.LeavesDown, pick.LeavesUp}
	}
	for j.within = 0; j.within <= breaches && !j.stopped(ctx); j.within++ {
		j.addCells(ctx)
		limit := math.Inf(1)
		if j.within == breaches {
			limit = upper
		}
		bound := math.Inf(1)
		for _, angle := range angles {
			j.angle = angle
			v, _ := j.search(ctx, layers.Largest(min(limit, bound)))
			bound = min(bound, v)
		}
		if math.IsInf(bound, 1) || j.stopped(ctx) {
			continue
		}
		res.bound = bound
		res.leastSum = j.leastSum(ctx, load.Limit(bound, load.Slack), angles)
		res.least = j.leastSum(ctx, bound, angles)
		return res, true
	}
	return res, false
}

// leastSum are the places of least effort with no load above the limit, of both pick
// angles the better one; nil where there is no such path or the search was stopped.
func (j *joint) leastSum(ctx context.Context, limit float64, angles []pick.Angle) []neck.Place {
	least, options := math.Inf(1), []int(nil)
	for _, angle := range angles {
		j.angle = angle
		if v, o := j.search(ctx, layers.Least(limit)); v < least*(1-1e-12) {
			least, options = v, o
		}
	}
	if options == nil {
		return nil
	}
	j.found = least
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
func infinite(n int) []float64 { return layers.Unreached(n) }

// finite says whether something has.
func finite(s []float64) bool {
	return slices.ContainsFunc(s, func(x float64) bool { return !math.IsInf(x, 1) })
}

// search finds the least cost and an option a layer; no options where there is no path or the search
// is stopped. A state is a cell and a posture in it, numbered cell by cell.
func (j *joint) search(ctx context.Context, k layers.Cost) (float64, []int) {
	line := j.searched(ctx)
	picks, value, err := line.Best(k)
	if err != nil {
		return math.Inf(1), nil
	}
	options := make([]int, len(picks))
	for l, s := range picks {
		y := &j.layers[l]
		options[l] = y.cells[y.cellOf(s)].option
	}
	return value, options
}

// searched is the joint line with its states laid out.
func (j *joint) searched(ctx context.Context) *layers.Line {
	given := func() error { return j.given(ctx) }
	stopped := func() bool { return j.given(ctx) != nil }
	line := &layers.Line{Tries: turnTries, Stopped: given, Start: j.start, Class: func(f int) int {
		y := &j.layers[0]
		return y.cells[y.cellOf(f)].memo
	}}
	loop := j.line.Written.Loop
	for l := range j.layers {
		y := &j.layers[l]
		y.at = make([]int, len(y.cells)+1)
		var states []int
		for c, d := range y.cells {
			grip := y.options[d.option].grip
			y.at[c+1] = y.at[c] + j.hand.Size(grip)
			for _, h := range j.hand.Allowed(grip, l > 0 || loop) {
				states = append(states, y.at[c]+h)
			}
			if l > 0 && !loop && grip.Open() {
				for _, h := range j.hand.Allowed(grip, false) {
					states = append(states, y.at[c]+h) // the hand has not come down yet
				}
			}
		}
		slices.Sort(states)
		line.Widths, line.States = append(line.Widths, y.at[len(y.cells)]), append(line.States, states)
		if l > 0 {
			line.Moves = append(line.Moves, jointMoves{joint: j, x: &j.layers[l-1], y: y, stopped: stopped})
		}
	}
	if loop {
		line.Turn = jointMoves{joint: j, x: &j.layers[len(j.layers)-1], y: &j.layers[0], turn: true, stopped: stopped}
	}
	return line
}

// given is why the search is given up, or nil.
func (j *joint) given(ctx context.Context) error {
	if j.work > maxWork {
		return ErrTooFree
	}
	return ctx.Err()
}

// start is what it takes to begin in a state of the first layer.
func (j *joint) start(k layers.Cost, s int) float64 {
	if !k.Sum {
		return 0
	}
	y := &j.layers[0]
	c := y.cellOf(s)
	return j.begun(y, y.cells[c]) + j.hand.Begin(y.options[y.cells[c].option].grip, s-y.at[c])
}

// cellOf is the cell that a state of the layer belongs to.
func (y *layer) cellOf(s int) int {
	c, found := slices.BinarySearch(y.at, s)
	if !found {
		c--
	}
	for y.at[c+1] == y.at[c] {
		c++ // a cell without postures
	}
	return c
}

// byCell is a row of costs cut into the cells' parts.
func (y *layer) byCell(row []float64) [][]float64 {
	out := make([][]float64, len(y.cells))
	for c := range out {
		out[c] = row[y.at[c]:y.at[c+1]]
	}
	return out
}

// jointMoves are those from the states of layer x to those of layer y.
type jointMoves struct {
	*joint
	x, y    *layer
	turn    bool // round the loop
	stopped func() bool
}

// steps says whether cell c can come before cell d.
func (m jointMoves) steps(c, d cell) bool {
	if m.turn {
		return m.closes(c, d)
	}
	return m.joint.steps(c, d, m.y)
}

// Backward implements layers.Moves.
func (m jointMoves) Backward(k layers.Cost, _, to []int, rest, _, out []float64) {
	if m.turn { // a loop may end in some states alone
		only := infinite(len(rest))
		for _, s := range to {
			only[s] = rest[s]
		}
		rest = only
	}
	m.relax(m.stopped, k, m.x, m.y, m.y.layerTimes, m.y.byCell(rest), m.x.byCell(out), m.steps)
}

// Row implements layers.Moves.
func (m jointMoves) Row(k layers.Cost, i int, to []int, _, out []float64) {
	x, y := m.x, m.y
	a := x.cellOf(i)
	c := x.cells[a]
	all := infinite(y.at[len(y.cells)])
	for b, d := range y.cells {
		if !m.steps(c, d) || !m.follows(x, c.option, y, d.option) {
			continue
		}
		p := m.pickLoad(c, d, y, y.pickHave)
		beside := m.beside(k, c, d, y) + load.Effort(m.pickMS(p, y.pickHave))
		row := all[y.at[b]:y.at[b+1]]
		m.hand.Costs(k, x.options[c.option].grip, y.options[d.option].grip, y.have, i-x.at[a], row)
		for h, v := range row {
			if v < layers.Never {
				row[h] = k.Join(p, beside, v)
			}
		}
	}
	for n, s := range to {
		out[n] = all[s]
	}
}

// closes says whether a loop may go from its last layer's cell c to its first layer's cell d.
func (j *joint) closes(c, d cell) bool {
	count := c.breaches
	if j.layers[0].picked() && j.leaves(c.memo, d.memo) {
		count += pick.SeamBreach
	}
	return count <= j.within
}
