package hand

import (
	"cmp"
	"context"
	"slices"

	"ornamen/core/layers"
	"ornamen/core/load"
)

// Solve finds the hand that is taught for a line: of the paths whose largest load is within a limit, those without a
// strained frame where there are any, the one of least effort (minimax before sum, compare Hori and Sagayama, ISMIR
// 2016; path search over fingerings after Sayegh, Computer Music Journal 13(3), 1989; both from memory). A place that
// comes back takes the finger it has most often: the search is repeated with a penalty on what departs from it, until
// nothing changes; cells of a shape are tied to one fingering. Ties go to the lower finger, then the lower frame.
// Touches with a Finger keep it.
//
// The limit is a multiple of the least possible load, never cut at what the tempo allows: a hand is learned slowly and
// played fast. A slack of 1 gives the exact bound. When the context ends, the search stops at once and what it gives
// means nothing: the caller looks at the context.
func (m *Model) Solve(ctx context.Context, events []Event, loop bool, slack float64) Path {
	return m.solve(ctx, events, loop, 0, func(c *chain, bound float64) []int {
		if slack <= 1 {
			return c.least(ctx, bound, bound, false)
		}
		c.prepare(ctx)
		return c.taught(ctx, bound*slack)
	})
}

// Fast is the hand of least effort among those that are as fast as can be, or as the other hand, whose largest load is
// other; bound is the line's, as Solve has given it: a line that any hand can play in time is played in time by it. ok
// is false where the taught one is kept whatever the tempo: along one string a hand that creeps would be the fastest.
func (m *Model) Fast(ctx context.Context, events []Event, loop bool, bound, other float64) (p Path, ok bool) {
	p = m.solve(ctx, events, loop, bound, func(c *chain, bound float64) []int {
		limit := max(bound, other)
		ok = !c.goesAlong()
		return c.least(ctx, limit, limit, false)
	})
	return p, ok
}

// solve lays a line out and describes the path that pick takes, given the bound; known is the bound, or 0.
func (m *Model) solve(
	ctx context.Context, events []Event, loop bool, known float64, pick func(*chain, float64) []int,
) Path {
	c := m.newChain(ctx, events, loop)
	c.known = known
	path := Path{Steps: make([]Step, len(events)), Bound: c.bound(ctx), Load: c.opens}
	var picks []int
	if len(c.nodes) > 0 {
		picks = pick(c, path.Bound)
		if path.Load = c.heaviest(picks); path.Load > load.Breaks {
			path.Load = c.fingersBound(ctx, picks) // the frames were found for effort's sake
		}
	}
	c.describe(&path, events, loop, picks)
	return path
}

// Frames finds the frames of a line whose fingers are all decided: a path without a strained frame is taken where its
// largest load flows, else one of the least load. The path's Bound is the least possible of all frames in either case.
func (m *Model) Frames(ctx context.Context, events []Event, loop bool) Path {
	c := m.newChain(ctx, events, loop)
	path := Path{Steps: make([]Step, len(events)), Bound: c.bound(ctx)}
	var picks []int
	if len(c.nodes) > 0 {
		limit := path.Bound
		if easy, ok := c.unstrained(); ok {
			if bound := easy.bound(ctx); bound <= load.Tight {
				picks, _ = easy.best(ctx, max(bound, limit), nil)
			}
		}
		if picks == nil {
			picks, _ = c.best(ctx, limit, nil)
		}
	}
	c.describe(&path, events, loop, picks)
	return path
}

// Bound is the least possible largest load of the line; ok is false where some
// step of it cannot be done at any tempo. For the context see Solve.
func (m *Model) Bound(ctx context.Context, events []Event, loop bool) (bound float64, ok bool) {
	c := m.newChain(ctx, events, loop)
	ok = !slices.ContainsFunc(c.nodes, func(n node) bool { return n.broken }) && !c.lost
	return c.bound(ctx), ok
}

// line is the chain as it is searched; extra is what each posture pays in effort beside, or nil.
func (c *chain) line(ctx context.Context, extra [][]float64) *layers.Line {
	l := &layers.Line{
		Widths:    make([]int, len(c.nodes)),
		States:    make([][]int, len(c.nodes)),
		Moves:     make([]layers.Moves, len(c.links)),
		StateCost: extra,
		Start:     c.start,
		Stopped:   ctx.Err,
		// Ties go to the lower finger, then the lower frame; with open strings between, the hand waits
		// where it is lowest.
		Lower: func(k, a, b int) bool {
			return !c.waits && lowerFingers(c.nodes[k].stand[a], c.nodes[k].stand[b])
		},
	}
	for k := range c.nodes {
		l.Widths[k], l.States[k] = len(c.nodes[k].stand), c.nodes[k].allowed
	}
	for k := range c.links {
		l.Moves[k] = &c.links[k]
	}
	if c.close != nil {
		l.Turn = c.close
	}
	return l
}

// Backward implements layers.Moves.
func (l *link) Backward(k layers.Cost, from, to []int, rest, stateCost, out []float64) {
	l.weighed().relax(k, from, to, rest, stateCost, out)
}

// Forward implements layers.Forwarder.
func (l *link) Forward(k layers.Cost, from, to []int, come, stateCost, out []float64) {
	l.weighed().push(k, from, to, come, stateCost, out)
}

// Row implements layers.Moves.
func (l *link) Row(k layers.Cost, i int, to []int, stateCost, out []float64) {
	w := l.weighed()
	efforts := w.effortRow(i)
	for n, j := range to {
		v := w.load(i, j)
		switch {
		case !(v <= k.Limit) || v == never:
			v = never
		case k.Sum:
			if v = effort(efforts.ms(j)); stateCost != nil {
				v += stateCost[j]
			}
		}
		out[n] = v
	}
}

// ended is what lies after a posture.
type ended struct {
	rest float64
	at   int
}

// nothing is what most lines' postures cost.
var nothing = make([]float64, 512)

// zeros is a row that costs nothing.
func zeros(n int) []float64 {
	if n <= len(nothing) {
		return nothing[:n]
	}
	return make([]float64, n)
}

// relax finds for each posture i the cheapest way on. It is where the search spends its time: the cheapest ends are
// tried first, so that a row ends as soon as what lies after a move alone costs more than the best so far.
//
// Invariant: rest[j] is the least cost after posture j; afterwards out[i] is the least cost from posture i on, +Inf
// where every way on has a load above the limit. Cost: at most |from|·|to| moves. For the largest load a row also ends
// at its own least need, below which no end can bring it, and at the floor, below which no path comes; then out[i] may
// be any load up to the floor.
func (w weighed) relax(k layers.Cost, from, to []int, rest, extra, out []float64) {
	ends := make([]ended, 0, len(to))
	for _, j := range to {
		if r := rest[j]; k.Sum && r < never || r <= k.Limit && r < never {
			ends = append(ends, ended{r, j})
		}
	}
	slices.SortFunc(ends, func(a, b ended) int { return cmp.Compare(a.rest, b.rest) })
	inverse, width := 1/w.have, len(w.to)
	if len(ends) == 0 {
		return
	}
	least := w.rowLeast()
	if k.Sum && extra == nil {
		extra = zeros(width)
	}
	for _, i := range from {
		bar := least[i] * inverse // no move from i weighs less
		if bar > k.Limit {
			continue
		}
		row := w.need[i*width : (i+1)*width]
		best := out[i]
		if k.Sum {
			efforts := w.effortRow(i)
			floor := effort(least[i]*efforts.speed + efforts.floor) // no move from i asks less
			for _, e := range ends {
				if e.rest+floor >= best {
					break
				}
				if row[e.at]*inverse <= k.Limit {
					best = min(best, effort(efforts.ms(e.at))+extra[e.at]+e.rest)
				}
			}
			out[i] = best
			continue
		}
		for _, e := range ends {
			if max(e.rest, bar) >= best || best <= k.Floor {
				break
			}
			if c := max(row[e.at]*inverse, e.rest); c < best && c <= k.Limit {
				best = c
			}
		}
		out[i] = best
	}
}

// push finds the least cost of reaching each posture j, given that of the postures before: the other end of relax.
func (w weighed) push(k layers.Cost, from, to []int, come, extra, out []float64) {
	inverse, least := 1/w.have, w.rowLeast()
	for _, i := range from {
		at := come[i]
		if at == never || least[i]*inverse > k.Limit {
			continue
		}
		efforts := w.effortRow(i)
		for _, j := range to {
			load := efforts.need[j] * inverse
			switch {
			case at >= out[j] || load > k.Limit || load == never:
			case k.Sum:
				out[j] = min(out[j], at+effort(efforts.ms(j)))
			default:
				out[j] = min(out[j], max(at, load))
			}
		}
	}
	if k.Sum && extra != nil {
		for _, j := range to {
			out[j] += extra[j]
		}
	}
}

// start is the cost of the first node's posture before anything moves: the move from an open string,
// and in the sum what it takes to stand there.
func (c *chain) start(k layers.Cost, f int) float64 {
	q := c.nodes[0].stand[f]
	s := &c.m.stances[q.stance]
	asked := s.standing + s.spread + c.m.postureEffort(c.nodes[0].touches, q)
	switch {
	case c.leadIn > 0:
		load := (c.m.scale(c.leadIn) + c.m.scale(s.standing)) / c.leadBy
		return k.Join(load, effort(c.leadIn+asked), 0)
	case k.Sum:
		return effort(asked)
	}
	return 0
}

// bound is the least possible largest load.
func (c *chain) bound(ctx context.Context) float64 {
	if len(c.nodes) == 0 {
		return c.opens
	}
	if c.known > 0 {
		return c.known
	}
	floor := c.lowerBound()
	value, whole := c.sketch(ctx, floor)
	if !whole {
		k := layers.Largest(value)
		k.Floor = floor
		value = c.line(ctx, nil).Value(k)
	}
	c.known = max(value, c.opens, floor)
	return c.known
}

// lowerBound is a lower bound of the bound: the largest of the least loads that the moves of each link have.
func (c *chain) lowerBound() (floor float64) {
	for a := range c.links {
		w := c.links[a].weighed()
		rows, least := w.rowLeast(), never
		for _, i := range c.nodes[a].allowed {
			least = min(least, rows[i])
		}
		if least < never {
			floor = max(floor, least/w.have)
		}
	}
	return floor
}

// sketched is how many postures a finger a quick first look takes.
const sketched = 6

// sketch is an upper bound of the bound, +Inf when it finds none: the same search
// among the few postures of an event that cost least to stand in. It is the bound itself
// where no event has more than those, as when its finger is set: whole says so.
func (c *chain) sketch(ctx context.Context, floor float64) (value float64, whole bool) {
	whole = true
	few := chain{m: c.m, nodes: slices.Clone(c.nodes), links: c.links, close: c.close, leadIn: c.leadIn, leadBy: c.leadBy}
	for k := range few.nodes {
		n := &few.nodes[k]
		if len(n.allowed) > 4*sketched {
			n.allowed, whole = c.m.easiest(n.touches, n.stand, n.allowed), false
		}
	}
	k := layers.Largest(never)
	k.Floor = floor
	return few.line(ctx, nil).Value(k), whole
}

// easiest keeps, for each finger on the first fretted touch, the postures that cost least to stand in.
func (m *Model) easiest(touches []Touch, stand []posture, allowed []int) []int {
	first := slices.IndexFunc(touches, Touch.fretted)
	standing := func(i int) float64 { return m.stances[stand[i].stance].standing }
	var by [4][sketched]int // cheapest first
	var n [4]int
	for _, i := range allowed {
		f := stand[i].fingers[first]
		k := n[f]
		if k == sketched {
			if k--; standing(by[f][k]) <= standing(i) {
				continue
			}
		} else {
			n[f]++
		}
		for ; k > 0 && standing(by[f][k-1]) > standing(i); k-- {
			by[f][k] = by[f][k-1]
		}
		by[f][k] = i
	}
	out := make([]int, 0, 4*sketched)
	for f := range by {
		out = append(out, by[f][:n[f]]...)
	}
	return out
}

// best picks a posture a node: the least effort with no load above the limit; found is false where
// there is no such path. extra is the cost of postures beside their moves.
func (c *chain) best(ctx context.Context, limit float64, extra [][]float64) (picks []int, found bool) {
	picks, value, _ := c.line(ctx, extra).Best(layers.Least(limit))
	return picks, value < never
}

// lowerFingers says whether a posture takes lower fingers than another.
func lowerFingers(a, b posture) bool { return slices.Compare(a.fingers[:], b.fingers[:]) < 0 }
