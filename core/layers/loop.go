package layers

import (
	"cmp"
	"math"
	"slices"
)

// A loop's path ends in the state that it began in. For a first state that is given it is the search of
// a line, so that trying every first state is exact, but takes as many searches as there are states.
// Two searches spare nearly all of that work (branch and bound; Land and Doig 1960, from memory):
//
//   - The search that may end in another state than it began in (free), and the same from the other
//     end, give a lower bound for every state of every layer: what the cheapest way through it costs,
//     closed or not.
//   - Only states whose bound is not above a limit are gone round. If the best round among them is not
//     above the limit either, it is the best of all, since whatever goes through another state costs
//     more; else the limit is raised and it is tried again.
//
// Where places are free a layer has thousands of states and its moves go back only (Line.Tries): there first states are
// tried one by one. Closing those loops by the two searches too was tried and took forty times as long, so that both
// ways stay.

// firstStatesTried is how many first states are tried one by one: of a few, all of them.
const firstStatesTried = 6

// firstRoom is by how much effort above what an open end costs a round is looked for first. It
// decides how long the search takes, not what it finds.
const firstRoom = 1.0

// closeLoop picks the first state of a loop and gives the costs to go after it; free are the costs to go
// to any end, and total what each first state costs with them.
func (l *Line) closeLoop(k Cost, free [][]float64, total []float64) (pick int, value float64, rest [][]float64) {
	order := slices.Clone(l.States[0])
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(total[a], total[b]) })
	if l.Tries != 0 {
		return l.tryFirstStates(k, free, total, order)
	}
	least := total[order[0]]
	pick, value, rest = order[0], Never, free
	if least == Never || l.stopped() != nil {
		return pick, value, rest
	}
	// Many largest loads are alike, so that one of the first states mostly closes at its own bound.
	if !k.Sum || len(order) <= firstStatesTried {
		for tried, f := range order {
			if total[f] >= value || l.stopped() != nil {
				return pick, value, rest
			}
			if tried == firstStatesTried {
				break
			}
			r := l.costToGo(k, l.end(k, f))
			if v := r[0][f]; v < value {
				pick, value, rest = f, v, r
			}
		}
		if value <= least || len(order) <= firstStatesTried {
			return pick, value, rest
		}
		narrow, _ := l.pruned(k, l.costToCome(k, l.begin(k)), free, value)
		if f, v := narrow.newLoopSearch(k).bottleneckCycle(least, value); v < value && l.stopped() == nil {
			pick, value = f, v
			rest = narrow.costToGo(k, narrow.end(k, pick))
		}
		return pick, value, rest
	}
	come := l.costToCome(k, l.begin(k))
	for room := firstRoom; l.stopped() == nil; room *= 4 {
		limit := min(least+room, value)
		narrow, all := l.pruned(k, come, free, limit)
		if f, v := narrow.newLoopSearch(k).best(value); v < value {
			pick, value = f, v
		}
		switch {
		case value <= limit*(1+Slight):
			return pick, value, narrow.costToGo(k, narrow.end(k, pick))
		case all && value == Never:
			return order[0], Never, free
		}
	}
	return order[0], Never, free
}

// tryFirstStates is closed by trying the first states in an order. What they promise is the cost of going on to
// any end; once one has not kept it, the others promise what an end of their own class costs, as a loop
// may have many that promise what none of them keeps.
func (l *Line) tryFirstStates(k Cost, free [][]float64, total []float64, order []int) (pick int, value float64,
	rest [][]float64) {
	pick, value, rest = order[0], Never, free
	apart := l.Class == nil
	for n := range order {
		f := order[n]
		if total[f] >= value || l.stopped() != nil || k.Sum && n >= l.Tries && value < Never {
			break
		}
		r := l.costToGo(k, l.end(k, f))
		if v := r[0][f]; v < value {
			pick, value, rest = f, v, r
		}
		if !apart && value > total[f]*(1+Slight) {
			l.refineBounds(k, total, order[n+1:])
			apart = true
		}
	}
	return pick, value, rest
}

// refineBounds raises what first states promise to what an end of their own class costs, and orders them anew.
func (l *Line) refineBounds(k Cost, total []float64, order []int) {
	classes := map[int][]int{}
	for _, f := range l.States[0] {
		classes[l.Class(f)] = append(classes[l.Class(f)], f)
	}
	promised := map[int][]float64{}
	for _, f := range order {
		c := l.Class(f)
		if promised[c] == nil {
			promised[c] = l.costToGo(k, l.end(k, classes[c]...))[0]
		}
		total[f] = max(total[f], promised[c][f])
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(total[a], total[b]) })
}

// pruned is the line with those states alone through which a path may cost no more than a limit; all
// says that these are all of them that any path goes through.
func (l *Line) pruned(k Cost, come, rest [][]float64, limit float64) (narrow *Line, all bool) {
	out := *l
	out.States = make([][]int, len(l.States))
	limit *= 1 + Slight // two sums of the same moves may differ by rounding
	all = true
	for a, states := range l.States {
		kept := make([]int, 0, len(states))
		for _, p := range states {
			switch way := k.joinBoth(come[a][p], rest[a][p]); {
			case way <= limit:
				kept = append(kept, p)
			case way < Never:
				all = false
			}
		}
		out.States[a] = kept
	}
	return &out, all
}

// loopSearch are the moves among the states that are left, laid out to be gone round quickly.
type loopSearch struct {
	states [][]int
	moves  [][]float64 // of each layer to the next and then of the turn, row by row
	rest   [][]float64 // the costs to go of the round looked at last, see cycleCost
}

// newLoopSearch lays the moves out.
func (l *Line) newLoopSearch(k Cost) *loopSearch {
	out := &loopSearch{states: l.States, rest: make([][]float64, len(l.States)+1)}
	for a := range l.States {
		moves, to := l.Turn, 0
		if a < len(l.Moves) {
			moves, to = l.Moves[a], a+1
		}
		width := len(l.States[to])
		all := make([]float64, len(l.States[a])*width)
		for n, i := range l.States[a] {
			moves.Row(k, i, l.States[to], l.stateCost(k, to), all[n*width:(n+1)*width])
		}
		out.moves = append(out.moves, all)
	}
	return out
}

// cutLayer is the layer where a round is cut open: the one with the fewest states left, often only one, as
// far from its ends a line goes the same way wherever it began.
func (r *loopSearch) cutLayer() (cut int) {
	for a := range r.states {
		if len(r.states[a]) < len(r.states[cut]) {
			cut = a
		}
	}
	return cut
}

// best is the first layer's state on the round of least effort, and what that asks; a round that asks
// value or more is none.
func (r *loopSearch) best(value float64) (first int, least float64) {
	cut := r.cutLayer()
	least = value
	for at := range r.states[cut] {
		if v := r.cycleCost(cut, at); v < least {
			least, first = v, r.states[0][r.trace(cut, at)]
		}
	}
	return first, least
}

// cycleCost is the least effort of a round that begins and ends in state at of layer cut. rest has the
// costs to go, for each layer in the order of the round.
func (r *loopSearch) cycleCost(cut, at int) float64 {
	n := len(r.states)
	r.rest[n] = Unreached(len(r.states[cut]))
	r.rest[n][at] = 0
	for t := n - 1; t >= 0; t-- {
		rest, width := r.rest[t+1], len(r.states[(cut+t+1)%n])
		rows := r.moves[(cut+t)%n]
		if t == 0 { // where it begins is given
			rows = rows[at*width : (at+1)*width]
		}
		next := r.rest[t][:0]
		for ; len(rows) > 0; rows = rows[width:] {
			best := Never
			for j, v := range rows[:width] {
				best = min(best, v+rest[j])
			}
			next = append(next, best)
		}
		r.rest[t] = next
	}
	return r.rest[0][0]
}

// trace is which of its states the first layer takes on the round that cycleCost has found.
func (r *loopSearch) trace(cut, at int) int {
	n := len(r.states)
	for t := 0; (cut+t)%n != 0; t++ {
		width := len(r.states[(cut+t+1)%n])
		row := r.moves[(cut+t)%n][at*width : (at+1)*width]
		best := Never
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

// bottleneckCycle is the first layer's state on a round whose largest load is the least, and that load, which is
// from least to below value; value where there is none. The loads that moves have are halved until
// the least one is found under which a round is left.
func (r *loopSearch) bottleneckCycle(least, value float64) (first int, load float64) {
	cut := r.cutLayer()
	if f, ok := r.hasCycle(least, cut); ok {
		return f, least
	}
	low, high := least, value
	loads := r.loadsBetween(low, high)
	for tries := 0; len(loads) > fewLoads && tries < 20; tries++ {
		middle := (low + high) / 2
		if _, ok := r.hasCycle(middle, cut); ok {
			high = math.Nextafter(middle, Never)
		} else {
			low = middle
		}
		loads = r.loadsBetween(low, high)
	}
	slices.Sort(loads)
	at, _ := slices.BinarySearchFunc(loads, true, func(load float64, _ bool) int {
		if _, ok := r.hasCycle(load, cut); ok {
			return 0
		}
		return -1
	})
	if at == len(loads) {
		return 0, value
	}
	first, _ = r.hasCycle(loads[at], cut)
	return first, loads[at]
}

// loadsBetween are the loads of moves above low and below high.
func (r *loopSearch) loadsBetween(low, high float64) (out []float64) {
	for _, moves := range r.moves {
		for _, v := range moves {
			if v > low && v < high {
				out = append(out, v)
			}
		}
	}
	return out
}

// hasCycle says whether a round is left of the moves with no load above a limit, and which state of the
// first layer it takes. It goes back from layer cut with a set of its states for each state on the
// way: those that can be reached from it.
func (r *loopSearch) hasCycle(limit float64, cut int) (first int, ok bool) {
	n := len(r.states)
	words := (len(r.states[cut]) + 63) / 64
	reach := make([][]uint64, n+1) // by the order of the round; a set a state
	reach[n] = make([]uint64, words*len(r.states[cut]))
	for at := range r.states[cut] {
		reach[n][at*words+at/64] = 1 << (at % 64)
	}
	for t := n - 1; t >= 0; t-- {
		width, next := len(r.states[(cut+t+1)%n]), reach[t+1]
		moves := r.moves[(cut+t)%n]
		sets := make([]uint64, words*len(r.states[(cut+t)%n]))
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
	for at := range r.states[cut] {
		if !has(reach[0], at, at) {
			continue
		}
		i := at
		for t := 0; (cut+t)%n != 0; t++ {
			width := len(r.states[(cut+t+1)%n])
			row := r.moves[(cut+t)%n][i*width : (i+1)*width]
			for j, v := range row {
				if v <= limit && has(reach[t+1], j, at) {
					i = j
					break
				}
			}
		}
		return r.states[0][i], true
	}
	return 0, false
}
