package hand

import (
	"slices"

	"ornamen/core/lick"
)

// Along one string a hand goes by positions: it stays for as many notes as it reaches and
// then shifts, rather than creep with two fingers, although the shifts are longer and cost
// more (common practice).
const (
	alongSlack = 1.4
	alongLeast = 5  // notes of a stretch
	alongSpan  = 4  // frets from a position's lowest to its highest: one finger stretches
	alongTries = 64 // ways to cut a stretch into positions
)

// byPosition picks the hand for a line that goes along one string for a while in one
// direction: each such stretch is cut into the fewest positions that hold it, and of the
// ways to cut it the one of least effort is taken. It is nothing where the line has no
// such stretch or a load would lie above the limit.
func (c *chain) byPosition(limit float64) []int {
	work := *c
	work.known = 0
	work.nodes = slices.Clone(c.nodes)
	found := false
	for from := 0; from < len(c.nodes); {
		to := c.along(from)
		if to-from < alongLeast {
			from = max(from+1, to-1)
			continue
		}
		best := work.cutBest(from, to, limit)
		if best == nil {
			best = work.cutBest(from+1, to, limit) // the note of the turn stays where it was
		}
		if best != nil {
			work.nodes, found = best, true
		}
		from = to - 1
	}
	if !found {
		return nil
	}
	return work.teacher(limit, true)
}

// cutBest are the chain's nodes with [from, to) held to positions, of all ways to cut it the
// one of least effort; nil where there is none within the limit.
func (c *chain) cutBest(from, to int, limit float64) (best []node) {
	least := never
	for _, cuts := range c.positions(from, to) {
		tried := *c
		tried.known = 0
		tried.nodes = slices.Clone(c.nodes)
		for i, k := range cuts[:len(cuts)-1] {
			if !tried.stay(k, cuts[i+1]) {
				panic("a position that was found is none") // positions proved it, of these very nodes
			}
		}
		if p, ok := tried.best(limit, nil); ok {
			if sum := tried.effortOf(p); sum < least {
				least, best = sum, tried.nodes
			}
		}
	}
	return best
}

// along is the end of the stretch of single picked notes that begins with node from and
// goes on along its string in one direction.
func (c *chain) along(from int) int {
	to := from + 1
	for way := 0; to < len(c.nodes); to++ {
		x, y := &c.nodes[to-1], &c.nodes[to]
		if len(x.touches) != 1 || len(y.touches) != 1 || y.event != x.event+1 || y.broken || x.broken {
			break
		}
		a, b := x.touches[0], y.touches[0]
		d := b.Place.Fret - a.Place.Fret
		if a.Place.String != b.Place.String || d == 0 || d*way < 0 || b.Bent || b.Held || b.Slur == lick.Slide ||
			b.Slur == lick.Shift {
			break
		}
		way = d
	}
	return to
}

// positions are the ways to cut nodes [from, to) into the fewest stretches that one frame
// holds each: the nodes where each begins, and the end. Nothing where one frame holds all.
func (c *chain) positions(from, to int) [][]int {
	fewest := c.fewest(from, to)
	if fewest[0] < 2 || fewest[0] >= to-from {
		return nil
	}
	var out [][]int
	var cut func(at int, cuts []int)
	cut = func(at int, cuts []int) {
		cuts = append(slices.Clone(cuts), at)
		if at == to {
			out = append(out, cuts)
			return
		}
		for next := to; next > at && len(out) < alongTries; next-- {
			if rest := fewest[next-from]; rest+1 == fewest[at-from] && c.together(at, next) != nil {
				cut(next, cuts)
			}
		}
	}
	cut(from, nil)
	return out
}

// fewest is, for every node of [from, to] on, how many positions hold the rest.
func (c *chain) fewest(from, to int) []int {
	out := make([]int, to-from+1)
	for at := to - 1; at >= from; at-- {
		out[at-from] = to - from + 1
		for next := at + 1; next <= to && c.together(at, next) != nil; next++ {
			out[at-from] = min(out[at-from], 1+out[next-from])
		}
	}
	return out
}

// together are the stances in which every node of [from, to) can be played: without strain,
// the index over the lowest fret, and of those the ones with the fewest gaps, a finger a
// fret where that reaches.
func (c *chain) together(from, to int) []int {
	low := c.nodes[from].touches[0].Place.Fret
	high := low
	for _, n := range c.nodes[from:to] {
		low, high = min(low, n.touches[0].Place.Fret), max(high, n.touches[0].Place.Fret)
	}
	if high-low > alongSpan {
		return nil
	}
	var out []int
	for k := from; k < to; k++ {
		var in []int
		for _, j := range c.nodes[k].allowed {
			at := c.nodes[k].stand[j].stance
			s := &c.m.stances[at]
			if k == from && s.frame[0] == low && !s.strained() || k > from && slices.Contains(out, at) {
				in = append(in, at)
			}
		}
		if out = in; out == nil {
			return nil
		}
	}
	least := never
	for _, at := range out {
		least = min(least, c.m.stances[at].spread)
	}
	return slices.DeleteFunc(out, func(at int) bool { return c.m.stances[at].spread > least })
}

// stay lets nodes [from, to) be played only in stances that they share.
func (c *chain) stay(from, to int) bool {
	shared := c.together(from, to)
	for k := from; k < to; k++ {
		n := &c.nodes[k]
		n.allowed = slices.DeleteFunc(slices.Clone(n.allowed),
			func(j int) bool { return !slices.Contains(shared, n.stand[j].stance) })
	}
	return shared != nil
}

// effortOf is the sum of effort of a path.
func (c *chain) effortOf(picks []int) (sum float64) {
	for a := range c.links {
		row := c.links[a].weighed().toilRow(picks[a])
		sum += effort(row.ms(picks[a+1]))
	}
	return sum
}
