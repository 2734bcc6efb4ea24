package hand

import (
	"cmp"
	"math"
	"slices"
)

// A loop's path ends in the posture that it began in. For a first posture that is given it is the
// search of a line, so that trying every first posture is exact, but takes as many searches as
// there are postures. Two searches spare nearly all of that work (branch and bound; Land and Doig
// 1960, from memory):
//
//   - The search that may end in another posture than it began in (free), and the same from the
//     other end, give a lower bound for every posture of every node: what the cheapest way through
//     it costs, closed or not.
//   - Only postures whose bound is not above a limit are gone round. If the best round among them
//     is not above the limit either, it is the best of all, since whatever goes through another
//     posture costs more; else the limit is raised and it is tried again.

// closed picks the first posture of a loop and gives the costs to go after it; free are the costs
// to go to any end, and total what each first posture costs with them.
func (c *chain) closed(k cost, extra, free [][]float64, total []float64) (pick int, value float64, rest [][]float64) {
	least := slices.Min(total)
	if least == never || c.ctx.Err() != nil {
		return c.nodes[0].allowed[0], never, free
	}
	if !k.sum {
		return c.closedMinimax(k, free, total)
	}
	come := c.toCome(k, extra)
	value = never
	for room := firstRoom; c.ctx.Err() == nil; room *= 4 {
		limit := min(least+room, value)
		narrow, all := c.through(k, come, free, limit)
		if f, v := narrow.rounds(k, extra).best(value); v < value {
			pick, value = f, v
		}
		switch {
		case value <= limit*(1+slight):
			return pick, value, narrow.toGo(k, narrow.ends(k, pick, extra), extra)
		case all && value == never:
			return c.nodes[0].allowed[0], never, free
		}
	}
	return c.nodes[0].allowed[0], never, free
}

// triedFirst is how many first postures are tried one by one for the largest load.
const triedFirst = 6

// closedMinimax is closed for the largest load. Of those many are alike, so that one of the first
// postures that are tried mostly closes at its own lower bound; else the least limit is looked for
// under which some round is left.
func (c *chain) closedMinimax(k cost, free [][]float64, total []float64) (pick int, value float64, rest [][]float64) {
	order := slices.Clone(c.nodes[0].allowed)
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(total[a], total[b]) })
	least := total[order[0]]
	pick, value, rest = order[0], never, free
	for tried, f := range order {
		if total[f] >= value || c.ctx.Err() != nil {
			return pick, value, rest
		}
		if tried == triedFirst {
			break
		}
		r := c.toGo(k, c.ends(k, f, nil), nil)
		if v := r[0][f]; v < value {
			pick, value, rest = f, v, r
		}
	}
	if value <= least {
		return pick, value, rest
	}
	narrow, _ := c.through(k, c.toCome(k, nil), free, value)
	if f, v := narrow.rounds(k, nil).under(least, value); v < value && c.ctx.Err() == nil {
		pick, value = f, v
		rest = narrow.toGo(k, narrow.ends(k, pick, nil), nil)
	}
	return pick, value, rest
}

// firstRoom is by how much effort above what an open end costs a round is looked for first. It
// decides how long the search takes, not what it finds.
const firstRoom = 1.0

// rounds are the moves among the postures that are left, laid out to be gone round quickly.
type rounds struct {
	allowed [][]int
	moves   [][]float64 // of each link and then of the turn, row by row
	rest    [][]float64 // see around
}

// rounds lays the moves out.
func (c *chain) rounds(k cost, extra [][]float64) *rounds {
	out := &rounds{rest: make([][]float64, len(c.nodes)+1)}
	for a := range c.nodes {
		out.allowed = append(out.allowed, c.nodes[a].allowed)
	}
	for a := range c.nodes {
		w, to := c.close.weighed(), 0
		if a < len(c.links) {
			w, to = c.links[a].weighed(), a+1
		}
		departs := of(extra, to)
		moves := make([]float64, 0, len(out.allowed[a])*len(out.allowed[to]))
		for _, i := range out.allowed[a] {
			toil := w.toilRow(i)
			for _, j := range out.allowed[to] {
				v := w.load(i, j)
				switch {
				case !(v <= k.limit) || v == never:
					v = never
				case k.sum:
					v = effort(toil.ms(j))
					if departs != nil {
						v += departs[j]
					}
				}
				moves = append(moves, v)
			}
		}
		out.moves = append(out.moves, moves)
	}
	return out
}

// cut is the node where a round is cut open: the one with the fewest postures left, often only
// one, as far from its ends a line goes the same way wherever it began.
func (r *rounds) cut() (cut int) {
	for a := range r.allowed {
		if len(r.allowed[a]) < len(r.allowed[cut]) {
			cut = a
		}
	}
	return cut
}

// best is the first node's posture on the round of least effort, and what that asks; a round that
// asks value or more is none.
func (r *rounds) best(value float64) (first int, least float64) {
	cut := r.cut()
	least = value
	for at := range r.allowed[cut] {
		if v := r.around(cut, at); v < least {
			least, first = v, r.allowed[0][r.trace(cut, at)]
		}
	}
	return first, least
}

// around is the least effort of a round that begins and ends in posture at of node cut. rest has
// the costs to go, for each node in the order of the round.
func (r *rounds) around(cut, at int) float64 {
	n := len(r.allowed)
	r.rest[n] = filled(len(r.allowed[cut]))
	r.rest[n][at] = 0
	for t := n - 1; t >= 0; t-- {
		rest, width := r.rest[t+1], len(r.allowed[(cut+t+1)%n])
		rows := r.moves[(cut+t)%n]
		if t == 0 { // where it begins is given
			rows = rows[at*width : (at+1)*width]
		}
		next := r.rest[t][:0]
		for ; len(rows) > 0; rows = rows[width:] {
			best := never
			for j, v := range rows[:width] {
				best = min(best, v+rest[j])
			}
			next = append(next, best)
		}
		r.rest[t] = next
	}
	return r.rest[0][0]
}

// trace is which of its postures the first node takes on the round that around has found.
func (r *rounds) trace(cut, at int) int {
	n := len(r.allowed)
	for t := 0; (cut+t)%n != 0; t++ {
		width := len(r.allowed[(cut+t+1)%n])
		row := r.moves[(cut+t)%n][at*width : (at+1)*width]
		best := never
		for j, v := range row {
			if v += r.rest[t+1][j]; v < best {
				best, at = v, j
			}
		}
	}
	return at
}

// fewLoads is how many loads are sorted at once.
const fewLoads = 4096

// under is the first node's posture on a round whose largest load is the least, and that load,
// which is from least to below value; value where there is none. The loads that moves have are
// halved until the least one is found under which a round is left.
func (r *rounds) under(least, value float64) (first int, load float64) {
	cut := r.cut()
	if f, ok := r.left(least, cut); ok {
		return f, least
	}
	low, high := least, value
	loads := r.loads(low, high)
	for tries := 0; len(loads) > fewLoads && tries < 20; tries++ {
		middle := (low + high) / 2
		if _, ok := r.left(middle, cut); ok {
			high = math.Nextafter(middle, never)
		} else {
			low = middle
		}
		loads = r.loads(low, high)
	}
	slices.Sort(loads)
	at, _ := slices.BinarySearchFunc(loads, true, func(load float64, _ bool) int {
		if _, ok := r.left(load, cut); ok {
			return 0
		}
		return -1
	})
	if at == len(loads) {
		return 0, value
	}
	first, _ = r.left(loads[at], cut)
	return first, loads[at]
}

// loads are the loads of moves above low and below high.
func (r *rounds) loads(low, high float64) (out []float64) {
	for _, moves := range r.moves {
		for _, v := range moves {
			if v > low && v < high {
				out = append(out, v)
			}
		}
	}
	return out
}

// left says whether a round is left of the moves with no load above a limit, and which posture of
// the first node it takes. It goes back from node cut with a set of its postures for each posture
// on the way: those that can be reached from it.
func (r *rounds) left(limit float64, cut int) (first int, ok bool) {
	n := len(r.allowed)
	words := (len(r.allowed[cut]) + 63) / 64
	reach := make([][]uint64, n+1) // by the order of the round; a set a posture
	reach[n] = make([]uint64, words*len(r.allowed[cut]))
	for at := range r.allowed[cut] {
		reach[n][at*words+at/64] = 1 << (at % 64)
	}
	for t := n - 1; t >= 0; t-- {
		width, next := len(r.allowed[(cut+t+1)%n]), reach[t+1]
		moves := r.moves[(cut+t)%n]
		sets := make([]uint64, words*len(r.allowed[(cut+t)%n]))
		for i := 0; i*width < len(moves); i++ {
			set := sets[i*words : (i+1)*words]
			for j, v := range moves[i*width : (i+1)*width] {
				if v <= limit {
					for w, s := range next[j*words : (j+1)*words] {
						set[w] |= s
					}
				}
			}
		}
		reach[t] = sets
	}
	has := func(sets []uint64, i, at int) bool { return sets[i*words+at/64]>>(at%64)&1 == 1 }
	for at := range r.allowed[cut] {
		if !has(reach[0], at, at) {
			continue
		}
		i := at
		for t := 0; (cut+t)%n != 0; t++ {
			width := len(r.allowed[(cut+t+1)%n])
			row := r.moves[(cut+t)%n][i*width : (i+1)*width]
			for j, v := range row {
				if v <= limit && has(reach[t+1], j, at) {
					i = j
					break
				}
			}
		}
		return r.allowed[0][i], true
	}
	return 0, false
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

// through is the chain with those postures alone through which a path may cost no more than a
// limit; all says that these are all of them that any path goes through.
func (c *chain) through(k cost, come, rest [][]float64, limit float64) (narrow *chain, all bool) {
	out := *c
	out.known = 0
	out.nodes = slices.Clone(c.nodes)
	limit *= 1 + slight // two sums of the same moves may differ by rounding
	all = true
	for a := range out.nodes {
		n := &out.nodes[a]
		kept := make([]int, 0, len(n.allowed))
		for _, p := range n.allowed {
			way := come[a][p] + rest[a][p]
			if !k.sum {
				way = max(come[a][p], rest[a][p])
			}
			switch {
			case way <= limit:
				kept = append(kept, p)
			case way < never:
				all = false
			}
		}
		n.allowed = kept
	}
	return &out, all
}
