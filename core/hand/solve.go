package hand

import (
	"context"
	"math"
	"slices"

	"ornamen/core/lick"
	"ornamen/core/load"
	"ornamen/core/neck"
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

func (m *Model) solve(ctx context.Context, events []Event, loop bool, slack float64, figures bool) Path {
	c := m.newChain(ctx, events, loop)
	path := Path{Steps: make([]Step, len(events)), Bound: c.bound()}
	var picks []int
	if len(c.nodes) > 0 && figures {
		picks = c.inEvenTime(events, loop, path.Bound, slack)
	}
	if len(c.nodes) > 0 && picks == nil {
		picks = c.teacher(load.Limit(path.Bound, slack), figures)
	}
	c.describe(&path, events, loop, picks)
	return path
}

// evenSlack is how much more than slack the fingers of the line in even time may cost
// it where its time is uneven (model default).
const evenSlack = 1.3

// inEvenTime is the path of the same line with its notes evenly spaced, where uneven
// time can still be played so: a line has one fingering, straight or swung. It is nil
// for a line that is even anyway, and where the time does not allow it.
func (c *chain) inEvenTime(events []Event, loop bool, bound, slack float64) []int {
	even, same := slices.Clone(events), true
	for i := range even {
		if i > 1 && even[i].Have != even[1].Have {
			same = false
		}
	}
	if same {
		return nil
	}
	for i := range even {
		even[i].Have = 1
	}
	e := c.m.newChain(c.ctx, even, loop)
	if len(e.nodes) != len(c.nodes) || c.ctx.Err() != nil {
		return nil
	}
	// In even time the load is the need: a limit of one does not matter to it.
	picks := e.teacher(e.bound()*slack, true)
	if c.heaviest(picks) > load.Limit(bound, slack*evenSlack)*(1+1e-9) {
		return nil
	}
	return picks
}

// heaviest is the largest load of a path.
func (c *chain) heaviest(picks []int) float64 {
	worst := c.opens
	if c.leadIn > 0 {
		s := &c.m.stances[c.nodes[0].stand[picks[0]].stance]
		worst = max(worst, (c.m.scale(c.leadIn)+c.m.scale(s.standing))/c.leadBy)
	}
	for a := range c.links {
		worst = max(worst, c.links[a].weighed().load(picks[a], picks[a+1]))
	}
	if c.close != nil {
		worst = max(worst, c.close.weighed().load(picks[len(picks)-1], picks[0]))
	}
	return worst
}

// maxRounds bounds how often the usual fingers are looked for.
const maxRounds = 6

// teacher picks the path of least effort with no load above the limit: without
// strain where there is such a path, and with one fingering for every place.
func (c *chain) teacher(limit float64, figures bool) []int {
	if easy, ok := c.unstrained(); ok {
		if picks, found := easy.best(limit, nil); found {
			return easy.settled(picks, limit, figures)
		}
	}
	picks, _ := c.best(limit, nil)
	return c.settled(picks, limit, figures)
}

// settled repeats the search with what the path before makes dearer: the fingers that
// hop over a string, and those that are not its places' usual ones.
func (c *chain) settled(picks []int, limit float64, figures bool) []int {
	if !figures {
		return picks
	}
	if far := c.hops(picks); far != nil {
		if next, found := c.best(limit, far); found {
			picks = next
		}
	}
	for range maxRounds {
		if c.ctx.Err() != nil {
			break
		}
		next, found := c.best(limit, c.departures(c.usual(picks), c.hops(picks)))
		if !found || slices.Equal(next, picks) {
			break
		}
		picks = next
	}
	return picks
}

// unstrained is the chain with its unstrained postures alone; ok is false where an
// event has none.
func (c *chain) unstrained() (*chain, bool) {
	easy := *c
	easy.nodes = slices.Clone(c.nodes)
	for k := range easy.nodes {
		n := &easy.nodes[k]
		kept := make([]int, 0, len(n.allowed))
		for _, j := range n.allowed {
			if !c.m.stances[n.stand[j].stance].strained() {
				kept = append(kept, j)
			}
		}
		if len(kept) == 0 {
			return nil, false
		}
		n.allowed = kept
	}
	return &easy, true
}

// Bound is the least possible largest load of the line; ok is false where some
// step of it cannot be done at any tempo. For the context see Solve.
func (m *Model) Bound(ctx context.Context, events []Event, loop bool) (bound float64, ok bool) {
	c := m.newChain(ctx, events, loop)
	ok = !slices.ContainsFunc(c.nodes, func(n node) bool { return n.broken }) && !c.lost
	return c.bound(), ok
}

// cost is what the search adds up along a chain: the largest load, or the sum of
// effort where no load may lie above the limit.
type cost struct {
	sum   bool
	limit float64
}

func minimax() cost { return cost{limit: never} }

func leastEffort(limit float64) cost { return cost{sum: true, limit: limit*(1+1e-9) + 1e-12} }

// add is the cost of a move, with its load and its effort in ms, and of what comes
// after it.
func (k cost) add(load, ms, rest float64) float64 {
	if k.sum {
		return effort(ms) + rest
	}
	return max(load, rest)
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

func of(extra [][]float64, k int) []float64 {
	if extra == nil {
		return nil
	}
	return extra[k]
}

// relax finds for each posture i the cheapest way on. It is where the search
// spends its time: the cheapest ends are tried first, so that a row ends as soon
// as what lies after a move alone costs more than the best so far.
func (w weighed) relax(k cost, from, to []int, rest, extra, out []float64) {
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
			for _, e := range ends {
				if e.rest >= best {
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

// nothing is what most lines' postures pay.
var nothing = make([]float64, 512)

func zeros(n int) []float64 {
	if n <= len(nothing) {
		return nothing[:n]
	}
	return make([]float64, n)
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
	flat := barEffort * float64(bars(c.nodes[0].touches, q))
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
		return k.add(load, c.leadIn+s.standing+s.spread+flat, departs)
	case sum:
		return effort(s.standing+s.spread+flat) + departs
	}
	return 0
}

// first picks the first node's posture and gives the costs to go after it. In a
// loop every first posture is tried on its own, most promising first, until no
// other can be better.
func (c *chain) first(k cost, sum bool, extra [][]float64) (pick int, value float64, rest [][]float64) {
	free := c.toGo(k, c.ends(k, -1, extra), extra)
	order := slices.Clone(c.nodes[0].allowed)
	total := filled(len(c.nodes[0].stand))
	for _, f := range order {
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
	slices.SortStableFunc(order, func(a, b int) int { return compare(total[a], total[b]) })
	pick, value, rest = order[0], never, free
	for _, f := range order {
		if total[f] >= value || c.ctx.Err() != nil {
			break
		}
		r := c.toGo(k, c.ends(k, f, extra), extra)
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
	_, value, _ := c.first(Minimax(c.sketch()), false, nil)
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
	_, value, _ := few.first(minimax(), false, nil)
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
