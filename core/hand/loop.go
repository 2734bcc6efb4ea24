package hand

import (
	"cmp"
	"slices"
)

// A loop's path ends in the posture that it began in. For a first posture that is given it is the
// search of a line, so that trying every first posture is exact, but takes as many searches as
// there are postures. Most of that work is spared by bounds (branch and bound; Land and Doig 1960,
// from memory):
//
//   - The search that may end in another posture than it began in (free) gives a lower bound for
//     every first posture, and together with the same search from the other end one for every
//     posture of every node: what the cheapest way through it costs.
//   - First postures are tried with the least bound first. Once one of them is closed, its cost is
//     an upper bound: what lies through a posture whose bound is not below it can be left out, and
//     so can every first posture whose bound is not.
//
// What is left out cannot be part of a better loop, so that the result is the same as without.

// closed picks the first posture of a loop and gives the costs to go after it; free are the costs
// to go to any end, and total what each first posture costs with them.
func (c *chain) closed(k cost, extra, free [][]float64, total []float64) (pick int, value float64, rest [][]float64) {
	order := slices.Clone(c.nodes[0].allowed)
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(total[a], total[b]) })
	pick, value, rest = order[0], never, free
	var come [][]float64
	narrow := c
	for _, f := range order {
		if total[f] >= value || c.ctx.Err() != nil {
			break
		}
		if value < never {
			if come == nil {
				come = c.toCome(k, extra)
			}
			narrow = narrow.through(k, come, free, value)
		}
		r := narrow.toGo(k, narrow.ends(k, f, extra), extra)
		if v := r[0][f]; v < value {
			pick, value, rest = f, v, r
		}
	}
	return pick, value, rest
}

// toCome is, for every posture of every node, the least cost of the way to it from any first
// posture: toGo from the other end.
func (c *chain) toCome(k cost, extra [][]float64) [][]float64 {
	come := make([][]float64, len(c.nodes))
	come[0] = filled(len(c.nodes[0].stand))
	for _, f := range c.nodes[0].allowed {
		come[0][f] = 0
	}
	for a := 1; a < len(c.nodes); a++ {
		if c.ctx.Err() != nil {
			come[a] = filled(len(c.nodes[a].stand))
			continue
		}
		w := c.links[a-1].weighed()
		from, to := c.nodes[a-1].allowed, c.nodes[a].allowed
		if k.sum {
			come[a] = w.pushSum(k.limit, come[a-1], from, to, of(extra, a))
		} else {
			come[a] = w.push(come[a-1], from, to)
		}
	}
	return come
}

// pushSum is the least effort of reaching each posture with no load above the limit, given that
// of the postures before.
func (w weighed) pushSum(limit float64, before []float64, from, to []int, extra []float64) []float64 {
	out := filled(len(w.to))
	inverse := 1 / w.have
	least := w.rowLeast()
	for _, i := range from {
		at := before[i]
		if at == never || least[i]*inverse > limit {
			continue
		}
		toil := w.toilRow(i)
		for _, j := range to {
			if at < out[j] && toil.need[j]*inverse <= limit {
				out[j] = min(out[j], at+effort(toil.ms(j)))
			}
		}
	}
	if extra != nil {
		for _, j := range to {
			out[j] += extra[j]
		}
	}
	return out
}

// through is the chain with those postures alone through which a path may cost less than value.
func (c *chain) through(k cost, come, rest [][]float64, value float64) *chain {
	out := *c
	out.nodes = slices.Clone(c.nodes)
	value *= 1 + slight // two sums of the same moves may differ by rounding
	for a := range out.nodes {
		n := &out.nodes[a]
		kept := make([]int, 0, len(n.allowed))
		for _, p := range n.allowed {
			way := come[a][p] + rest[a][p]
			if !k.sum {
				way = max(come[a][p], rest[a][p])
			}
			if way < value {
				kept = append(kept, p)
			}
		}
		n.allowed = kept
	}
	return &out
}
