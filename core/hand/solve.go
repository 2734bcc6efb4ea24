package hand

import (
	"context"
	"math"
	"slices"

	"ornamen/core/lick"
	"ornamen/core/load"
	"ornamen/core/neck"
)

// Solve finds the hand for a line: with the largest load within slack times the
// least possible, the path of least sum of load⁴ (minimax before sum, compare
// Hori and Sagayama, ISMIR 2016; path search over fingerings after Sayegh,
// Computer Music Journal 13(3), 1989; both from memory). Ties go to the lower
// frame, then the lower finger. Touches with a Finger keep it. A slack of 1
// gives the exact bound. When the context ends, the search stops at once and what
// it gives means nothing: the caller looks at the context.
func (m *Model) Solve(ctx context.Context, events []Event, loop bool, slack float64) Path {
	c := m.newChain(ctx, events, loop)
	path := Path{Steps: make([]Step, len(events)), Bound: c.bound()}
	var picks []int
	if len(c.nodes) > 0 {
		picks = c.best(load.Limit(path.Bound, slack))
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

// cost is what the search adds up along a chain: the largest load, or the sum of
// load⁴ where no load may lie above the limit.
type cost struct {
	sum   bool
	limit float64
}

func minimax() cost { return cost{limit: never} }

func fourth(limit float64) cost { return cost{sum: true, limit: limit*(1+1e-9) + 1e-12} }

// add is the cost of a move and of what comes after it.
func (k cost) add(load, rest float64) float64 {
	if k.sum {
		load *= load
		return load*load + rest
	}
	return max(load, rest)
}

// toGo is, for every posture of every node, the least cost of the rest of the
// chain, after the cost end of the last node's postures.
func (c *chain) toGo(k cost, end []float64) [][]float64 {
	n := len(c.nodes)
	rest := make([][]float64, n)
	rest[n-1] = end
	for a := n - 2; a >= 0; a-- {
		rest[a] = filled(len(c.nodes[a].stand))
		if c.ctx.Err() != nil {
			continue
		}
		c.links[a].weighed().relax(k, c.nodes[a].allowed, c.nodes[a+1].allowed, rest[a+1], rest[a])
	}
	return rest
}

// relax finds for each posture i the cheapest way on. It is where the search
// spends its time: the cheapest ends are tried first, so that a row ends as soon
// as what lies after a move alone costs more than the best so far.
func (w weighed) relax(k cost, from, to []int, rest, out []float64) {
	ends := make([]ended, 0, len(to))
	for _, j := range to {
		if r := rest[j]; k.sum && r < never || r <= k.limit && r < never {
			ends = append(ends, ended{r, j})
		}
	}
	slices.SortFunc(ends, func(a, b ended) int { return compare(a.rest, b.rest) })
	inverse, width := 1/w.have, len(w.to)
	if len(ends) == 0 {
		return
	}
	least := w.rowLeast()
	for _, i := range from {
		bar := least[i] * inverse // no move from i weighs less
		if bar > k.limit {
			continue
		}
		row := w.need[i*width : (i+1)*width]
		best := out[i]
		if k.sum {
			for _, e := range ends {
				if e.rest >= best {
					break
				}
				if load := row[e.at] * inverse; load <= k.limit {
					load *= load
					best = min(best, load*load+e.rest)
				}
			}
			out[i] = best
			continue
		}
		for _, e := range ends {
			if max(e.rest, bar) >= best {
				break
			}
			if c := max(row[e.at]*inverse, e.rest); c < best && c <= k.limit {
				best = c
			}
		}
		out[i] = best
	}
}

// ended is what lies after a posture.
type ended struct {
	rest float64
	at   int
}

func filled(n int) []float64 {
	s := make([]float64, n)
	for i := range s {
		s[i] = never
	}
	return s
}

// ends is the cost after the last node: nothing, or in a loop the turn back to
// the first node's posture f (f < 0: to the cheapest one).
func (c *chain) ends(k cost, f int) []float64 {
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
	c.close.weighed().relax(k, last.allowed, to, make([]float64, len(c.nodes[0].stand)), end)
	return end
}

// start is the cost of the first node's posture before anything moves: the move
// from an open string, and in the sum its standing cost.
func (c *chain) start(k cost, f int, sum bool) float64 {
	standing := c.m.scale(c.m.stances[c.nodes[0].stand[f].stance].standing)
	switch {
	case c.close != nil:
		return 0
	case c.leadIn > 0:
		load := (c.m.scale(c.leadIn) + standing) / c.leadBy
		if load > k.limit {
			return never
		}
		return k.add(load, 0)
	case sum && len(c.links) > 0:
		return k.add(standing/c.links[0].have, 0)
	case sum:
		return standing
	}
	return 0
}

// first picks the first node's posture and gives the costs to go after it. In a
// loop every first posture is tried on its own, most promising first, until no
// other can be better.
func (c *chain) first(k cost, sum bool) (pick int, value float64, rest [][]float64) {
	free := c.toGo(k, c.ends(k, -1))
	order := slices.Clone(c.nodes[0].allowed)
	total := filled(len(c.nodes[0].stand))
	for _, f := range order {
		if s := c.start(k, f, sum); s < never && free[0][f] < never {
			if sum {
				total[f] = s + free[0][f]
			} else {
				total[f] = max(s, free[0][f])
			}
		}
	}
	if c.close == nil {
		pick = lowest(total, order)
		return pick, total[pick], free
	}
	slices.SortStableFunc(order, func(a, b int) int { return compare(total[a], total[b]) })
	pick, value, rest = order[0], never, free
	for _, f := range order {
		if total[f] >= value || c.ctx.Err() != nil {
			break
		}
		r := c.toGo(k, c.ends(k, f))
		if v := r[0][f]; v < value {
			pick, value, rest = f, v, r
		}
	}
	return pick, value, rest
}

// bound is the least possible largest load.
func (c *chain) bound() float64 {
	if len(c.nodes) == 0 {
		return c.opens
	}
	_, value, _ := c.first(Minimax(c.sketch()), false)
	return max(value, c.opens)
}

// sketched is how many postures a finger a quick first look takes.
const sketched = 6

// sketch is an upper bound of the bound, +Inf when it finds none: the same search
// among the few postures of an event that cost least to stand in.
func (c *chain) sketch() float64 {
	few := chain{ctx: c.ctx, m: c.m, nodes: slices.Clone(c.nodes), links: c.links, close: c.close, leadIn: c.leadIn, leadBy: c.leadBy}
	for k := range few.nodes {
		n := &few.nodes[k]
		if len(n.allowed) > 4*sketched {
			n.allowed = c.m.easiest(n.touches, n.stand, n.allowed)
		}
	}
	_, value, _ := few.first(minimax(), false)
	return value
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

// best picks a posture a node: least sum of load⁴ with no load above limit.
func (c *chain) best(limit float64) []int {
	k := fourth(limit)
	pick, _, rest := c.first(k, true)
	picks := []int{pick}
	for a := range c.links {
		l, next := c.links[a].weighed(), &c.nodes[a+1]
		value := filled(len(next.stand))
		for _, j := range next.allowed {
			if load := l.load(pick, j); load <= k.limit && load < never {
				value[j] = k.add(load, rest[a+1][j])
			}
		}
		pick = lowest(value, next.allowed)
		picks = append(picks, pick)
	}
	return picks
}

// lowest is the first of the allowed whose value is least, rounding aside.
func lowest(value []float64, allowed []int) int {
	least := never
	for _, i := range allowed {
		least = min(least, value[i])
	}
	for _, i := range allowed {
		if value[i] <= least*(1+1e-12) {
			return i
		}
	}
	return allowed[0]
}

func compare(a, b float64) int {
	switch {
	case a < b:
		return -1
	case a > b:
		return 1
	}
	return 0
}

// describe fills in the steps of the picked path.
func (c *chain) describe(path *Path, events []Event, loop bool, picks []int) {
	at := make([]int, len(events)) // node of an event, plus one
	for k := range c.nodes {
		at[c.nodes[k].event] = k + 1
	}
	var frame Frame
	for i, e := range events {
		s := &path.Steps[i]
		s.Possible, s.Kind = true, Start
		s.Fingers = make([]lick.Finger, len(e.Touches))
		if at[i] == 0 {
			c.describeOpen(s, e, i > 0 || loop)
			s.Frame = frame
			continue
		}
		k := at[i] - 1
		c.describeNode(s, k, picks)
		frame = s.Frame
	}
	if loop && len(c.nodes) > 0 {
		// The hand comes back to leading open strings from the end.
		for i := 0; i < c.nodes[0].event; i++ {
			path.Steps[i].Frame = frame
		}
	}
}

func (c *chain) describeOpen(s *Step, e Event, moves bool) {
	for j, t := range e.Touches {
		switch {
		case t.Finger == lick.Thumb:
			s.Fingers[j] = lick.Thumb
		case t.Place.Fret == 0:
			s.Fingers[j] = lick.Open
		default:
			s.Possible = false // no stance reaches it
		}
		if moves {
			s.Kind, s.Need = ToOpen, max(s.Need, c.m.scale(c.m.toOpen(t)))
		}
	}
	if moves {
		s.Load = s.Need / e.Have
	}
}

func (c *chain) describeNode(s *Step, k int, picks []int) {
	n := &c.nodes[k]
	q := n.stand[picks[k]]
	b := &c.m.stances[q.stance]
	s.Frame, s.Strain, s.Possible = b.frame, b.strain, !n.broken
	for j, t := range n.touches {
		switch {
		case t.fretted():
			s.Fingers[j] = lick.Index + lick.Finger(q.fingers[j])
		case t.Place.Fret == 0:
			s.Fingers[j] = lick.Open
		case t.Finger == lick.Thumb && !n.broken:
			s.Fingers[j] = lick.Thumb
		}
	}
	l, from := c.into(k)
	if l == nil {
		if k == 0 && c.leadIn > 0 {
			s.Kind, s.Need = Move, c.m.scale(c.leadIn)+c.m.scale(b.standing)
			s.Load = s.Need / c.leadBy
		}
		s.Reach = c.m.reach(nil, posture{}, n.touches, q)
		return
	}
	a := &c.nodes[from]
	p := a.stand[picks[from]]
	s.Need, s.Kind, s.Part = c.m.transition(a.touches, p, l.touches, q, l.viaOpen)
	s.Load = s.Need / l.have
	s.Way = neck.MM(math.Abs(float64(b.centre - c.m.stances[p.stance].centre)))
	if l.viaOpen {
		s.Reach = c.m.reach(nil, p, n.touches, q)
	} else {
		s.Reach = c.m.reach(a.touches, p, n.touches, q)
	}
}

// into is the link that leads into node k and the node it comes from.
func (c *chain) into(k int) (*link, int) {
	if k > 0 {
		return &c.links[k-1], k - 1
	}
	return c.close, len(c.nodes) - 1
}

// reach is the widest distance between two fingers that are in use at once:
// those of one event, and those still standing from the event before it.
func (m *Model) reach(x []Touch, p posture, y []Touch, q posture) neck.MM {
	lo, hi := neck.MM(never), neck.MM(0)
	span := func(t Touch) {
		lo, hi = min(lo, m.Guitar.Press(t.Place.Fret)), max(hi, m.Guitar.Press(t.Place.Fret))
	}
	for _, t := range y {
		if t.fretted() {
			span(t)
		}
	}
	for i, t := range x {
		if f := p.fingers[i]; f != noFinger && m.stances[q.stance].frame[f] == t.Place.Fret {
			span(t)
		}
	}
	return max(0, hi-lo)
}
