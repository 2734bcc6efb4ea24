package hand

import (
	"cmp"
	"context"
	"slices"

	"ornamen/core/load"
)

// Solve finds the hand for a line: of the paths whose largest load is within slack
// times the least possible, those without a strained frame where there are any, the
// one of least effort (minimax before sum, compare Hori and Sagayama, ISMIR 2016;
// path search over fingerings after Sayegh, Computer Music Journal 13(3), 1989; both
// from memory). A place that comes back takes the finger it has most often: the
// search is repeated with what departs from it made dearer, until nothing changes.
// Ties go to the lower finger, then the lower frame. Touches with a Finger keep it.
// A slack of 1 gives the exact bound. When the context ends, the search stops at once
// and what it gives means nothing: the caller looks at the context.
func (m *Model) Solve(ctx context.Context, events []Event, loop bool, slack float64) Path {
	return m.solve(ctx, events, loop, slack, true)
}

// Frames finds the frames of a line whose fingers are all decided: a path without a
// strained frame is taken where its largest load flows, else one of the least load.
// The path's Bound is the least possible of all frames in either case.
func (m *Model) Frames(ctx context.Context, events []Event, loop bool) Path {
	c := m.newChain(ctx, events, loop)
	path := Path{Steps: make([]Step, len(events)), Bound: c.bound()}
	var picks []int
	if len(c.nodes) > 0 {
		limit := path.Bound
		if easy, ok := c.unstrained(); ok {
			if bound := easy.bound(); bound <= load.Tight {
				picks, _ = easy.best(max(bound, limit), nil)
			}
		}
		if picks == nil {
			picks, _ = c.best(limit, nil)
		}
	}
	c.describe(&path, events, loop, picks)
	return path
}

// solve is Solve; figures asks for the same fingers wherever a figure comes back.
func (m *Model) solve(ctx context.Context, events []Event, loop bool, slack float64, figures bool) Path {
	c := m.newChain(ctx, events, loop)
	path := Path{Steps: make([]Step, len(events)), Bound: c.bound()}
	var picks []int
	if len(c.nodes) > 0 {
		picks = c.teacher(path.Bound, slack, figures)
	}
	c.describe(&path, events, loop, picks)
	return path
}

// Bound is the least possible largest load of the line; ok is false where some
// step of it cannot be done at any tempo. For the context see Solve.
func (m *Model) Bound(ctx context.Context, events []Event, loop bool) (bound float64, ok bool) {
	c := m.newChain(ctx, events, loop)
	ok = !slices.ContainsFunc(c.nodes, func(n node) bool { return n.broken }) && !c.lost
	return c.bound(), ok
}

// toGo is, for every posture of every node, the least cost of the rest of the
// chain, after the cost end of the last node's postures. extra is what each posture
// pays in effort beside, or nil.
func (c *chain) toGo(k cost, end []float64, extra [][]float64) [][]float64 {
	n := len(c.nodes)
	rest := make([][]float64, n)
	rest[n-1] = end
	for a := n - 2; a >= 0; a-- {
		rest[a] = filled(len(c.nodes[a].stand))
		if c.ctx.Err() != nil {
			continue
		}
		c.links[a].weighed().relax(k, c.nodes[a].allowed, c.nodes[a+1].allowed, rest[a+1], of(extra, a+1), rest[a])
	}
	return rest
}

// relax finds for each posture i the cheapest way on. It is where the search
// spends its time: the cheapest ends are tried first, so that a row ends as soon
// as what lies after a move alone costs more than the best so far.
//
// Invariant: rest[j] is the least cost after posture j; afterwards out[i] is the least
// cost from posture i on, +Inf where every way on has a load above the limit. Cost: at
// most |from|·|to| moves. For the largest load a row also ends at its own least need,
// below which no end can bring it, and at the floor, below which no path comes; then out[i]
// may be any load up to the floor.
func (w weighed) relax(k cost, from, to []int, rest, extra, out []float64) {
	ends := make([]ended, 0, len(to))
	for _, j := range to {
		if r := rest[j]; k.sum && r < never || r <= k.limit && r < never {
			ends = append(ends, ended{r, j})
		}
	}
	slices.SortFunc(ends, func(a, b ended) int { return cmp.Compare(a.rest, b.rest) })
	inverse, width := 1/w.have, len(w.to)
	if len(ends) == 0 {
		return
	}
	least := w.rowLeast()
	if k.sum && extra == nil {
		extra = zeros(width)
	}
	for _, i := range from {
		bar := least[i] * inverse // no move from i weighs less
		if bar > k.limit {
			continue
		}
		row := w.need[i*width : (i+1)*width]
		best := out[i]
		if k.sum {
			toil := w.toilRow(i)
			floor := effort(least[i]*toil.speed + toil.floor) // no move from i asks less
			for _, e := range ends {
				if e.rest+floor >= best {
					break
				}
				if row[e.at]*inverse <= k.limit {
					best = min(best, effort(toil.ms(e.at))+extra[e.at]+e.rest)
				}
			}
			out[i] = best
			continue
		}
		for _, e := range ends {
			if max(e.rest, bar) >= best || best <= k.floor {
				break
			}
			if c := max(row[e.at]*inverse, e.rest); c < best && c <= k.limit {
				best = c
			}
		}
		out[i] = best
	}
}

// ends is the cost after the last node: nothing, or in a loop the turn back to
// the first node's posture f (f < 0: to the cheapest one).
func (c *chain) ends(k cost, f int, extra [][]float64) []float64 {
	last := &c.nodes[len(c.nodes)-1]
	end := filled(len(last.stand))
	if c.close == nil {
		for _, i := range last.allowed {
			end[i] = 0
		}
		return end
	}
	to := c.nodes[0].allowed
	if f >= 0 {
		to = []int{f}
	}
	c.close.weighed().relax(k, last.allowed, to, make([]float64, len(c.nodes[0].stand)), of(extra, 0), end)
	return end
}

// start is the cost of the first node's posture before anything moves: the move
// from an open string, and in the sum what it takes to stand there.
func (c *chain) start(k cost, f int, sum bool, extra [][]float64) float64 {
	q := c.nodes[0].stand[f]
	s := &c.m.stances[q.stance]
	asked := c.m.asks(c.nodes[0].touches, q)
	departs := 0.0
	if extra != nil {
		departs = extra[0][f]
	}
	switch {
	case c.close != nil:
		return 0
	case c.leadIn > 0:
		load := (c.m.scale(c.leadIn) + c.m.scale(s.standing)) / c.leadBy
		if load > k.limit {
			return never
		}
		return k.add(load, c.leadIn+s.standing+s.spread+asked, departs)
	case sum:
		return effort(s.standing+s.spread+asked) + departs
	}
	return 0
}

// first picks the first node's posture and gives the costs to go after it; of a loop's see
// closed.
func (c *chain) first(k cost, sum bool, extra [][]float64) (pick int, value float64, rest [][]float64) {
	free := c.toGo(k, c.ends(k, -1, extra), extra)
	total := filled(len(c.nodes[0].stand))
	for _, f := range c.nodes[0].allowed {
		if s := c.start(k, f, sum, extra); s < never && free[0][f] < never {
			if sum {
				total[f] = s + free[0][f]
			} else {
				total[f] = max(s, free[0][f])
			}
		}
	}
	if c.close == nil {
		pick = c.lowest(0, total)
		return pick, total[pick], free
	}
	return c.closed(k, extra, free, total)
}

// bound is the least possible largest load.
func (c *chain) bound() float64 {
	if len(c.nodes) == 0 {
		return c.opens
	}
	if c.known > 0 {
		return c.known
	}
	floor := c.floor()
	value, whole := c.sketch(floor)
	if !whole {
		k := Minimax(value)
		k.floor = floor
		_, value, _ = c.first(k, false, nil)
	}
	c.known = max(value, c.opens, floor)
	return c.known
}

// floor is a lower bound of the bound: the largest of the least loads that the moves of each
// link have.
func (c *chain) floor() (floor float64) {
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
func (c *chain) sketch(floor float64) (value float64, whole bool) {
	whole = true
	few := chain{
		ctx:    c.ctx,
		m:      c.m,
		nodes:  slices.Clone(c.nodes),
		links:  c.links,
		close:  c.close,
		leadIn: c.leadIn,
		leadBy: c.leadBy,
	}
	for k := range few.nodes {
		n := &few.nodes[k]
		if len(n.allowed) > 4*sketched {
			n.allowed, whole = c.m.easiest(n.touches, n.stand, n.allowed), false
		}
	}
	k := minimax()
	k.floor = floor
	_, value, _ = few.first(k, false, nil)
	return value, whole
}

// easiest keeps, for each finger on the first fretted touch, the postures that
// cost least to stand in.
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

// best picks a posture a node: the least effort with no load above the limit; found
// is false where there is no such path. extra is what postures pay beside.
func (c *chain) best(limit float64, extra [][]float64) (picks []int, found bool) {
	k := leastEffort(limit)
	pick, value, rest := c.first(k, true, extra)
	picks = []int{pick}
	for a := range c.links {
		l, next := c.links[a].weighed(), &c.nodes[a+1]
		toil := l.toilRow(pick)
		cost := filled(len(next.stand))
		departs := of(extra, a+1)
		for _, j := range next.allowed {
			if load := l.load(pick, j); load <= k.limit && load < never {
				cost[j] = k.add(load, toil.ms(j), rest[a+1][j])
				if departs != nil {
					cost[j] += departs[j]
				}
			}
		}
		pick = c.lowest(a+1, cost)
		picks = append(picks, pick)
	}
	return picks, value < never
}

// lowest is the posture of node k whose value is least, rounding aside: ties go to
// the lower finger, then the lower frame.
func (c *chain) lowest(k int, value []float64) int {
	n := &c.nodes[k]
	least := never
	for _, i := range n.allowed {
		least = min(least, value[i])
	}
	pick := -1
	for _, i := range n.allowed {
		// With open strings between, the hand waits where it is lowest.
		if value[i] <= least*(1+1e-12) && (pick < 0 || !c.waits && lowerFingers(n.stand[i], n.stand[pick])) {
			pick = i
		}
	}
	return pick
}

// lowerFingers says whether a posture takes lower fingers than another.
func lowerFingers(a, b posture) bool { return slices.Compare(a.fingers[:], b.fingers[:]) < 0 }
