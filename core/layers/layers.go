// Package layers finds the best path through a line of layers: one state of each, with a move
// between every two. Both hands, and places with them, are such lines: a layer is an event, a state
// a way to stand in it or to strike it, a move has a load and an effort.
//
// # Two questions
//
// What is the least largest load of any path? And of the paths with no load above a limit, which one
// asks the least effort? Largest and sum both only grow along the way, which is what makes a best
// path of best paths (the principle of optimality; Bellman 1957, from memory): after a layer every
// state holds the best of all paths to it, so that the cost is layers times moves.
//
// # Loops, locks, windows
//
// A loop ends in the state that it began in; see loop.go for how that stays cheap. A lock leaves a
// layer fewer states. A line of which few layers have changed is joined to what is known of the rest
// (Span). What a search is worth when it was stopped is nothing: it answers with an error.
//
// The package knows neither hands nor notes. It is proved against every path tried, and against a
// general graph library, on lines of random numbers.
package layers

import (
	"errors"
	"math"
	"slices"
)

// Never is the load of a move that cannot be made, and the cost where there is no path.
var Never = math.Inf(1)

// Slight is the rounding that two equal costs may differ by.
const Slight = 1e-9

// ErrNone says that no path leads through the line.
var ErrNone = errors.New("no path leads through the line")

// Cost is what a search looks for: the least largest load, or the least sum of effort of paths with
// no load above a limit.
type Cost struct {
	Sum   bool
	Limit float64
	// Floor is a load that some move has on every path: of the largest loads below it none has to be told from another.
	Floor float64
}

// Largest looks for the least largest load up to a limit.
func Largest(limit float64) Cost { return Cost{Limit: withTolerance(limit)} }

// Least looks for the least effort with no load above a limit.
func Least(limit float64) Cost { return Cost{Sum: true, Limit: withTolerance(limit)} }

// withTolerance is a limit with a hair's breadth of room, so that the path which set it still fits.
func withTolerance(limit float64) float64 { return limit*(1+1e-9) + 1e-12 }

// Join is the cost of a move and of what comes after it; Never over the limit.
func (k Cost) Join(load, effort, rest float64) float64 {
	switch {
	case load > k.Limit || load == Never || rest == Never:
		return Never
	case k.Sum:
		return effort + rest
	}
	return max(load, rest)
}

// joinBoth is the cost of two parts of a path.
func (k Cost) joinBoth(a, b float64) float64 {
	if k.Sum {
		return a + b
	}
	return max(a, b)
}

// Moves are those from the states of one layer to those of the next. from and to list the states that
// are looked at, rising; rows of costs are indexed by state. stateCost is what states of the next layer ask
// in effort beside, or nil; it counts in sums alone.
type Moves interface {
	// Backward lowers out[i], for i of from, to the least cost of a move to some j of to and of rest[j].
	// Of a largest load below the floor any value up to it may come out.
	Backward(k Cost, from, to []int, rest, stateCost, out []float64)
	// Row writes into out[n] the cost of the move from i to to[n] alone, Never over the limit.
	Row(k Cost, i int, to []int, stateCost, out []float64)
}

// Forwarder are moves that know a quicker way forward than row by row.
type Forwarder interface {
	// Forward lowers out[j], for j of to, to the least cost of come[i] and a move from i to j.
	Forward(k Cost, from, to []int, come, stateCost, out []float64)
}

// forward lowers out[j], for j of to, to the least cost of come[i] and a move from i to j.
func forward(m Moves, k Cost, from, to []int, come, stateCost, out []float64) {
	if f, ok := m.(Forwarder); ok {
		f.Forward(k, from, to, come, stateCost, out)
		return
	}
	row := make([]float64, len(to))
	for _, i := range from {
		if come[i] == Never {
			continue
		}
		m.Row(k, i, to, stateCost, row)
		for n, j := range to {
			out[j] = min(out[j], k.joinBoth(come[i], row[n]))
		}
	}
}

// Line is what is searched. Widths are the numbers of states of the layers; a state's number is below its layer's.
type Line struct {
	Widths    []int
	States    [][]int     // of each layer, those that may be taken, rising
	Moves     []Moves     // from each layer to the next
	Turn      Moves       // from the last layer to the first, in a loop; nil where the line ends
	StateCost [][]float64 // what states ask in effort beside, or nil
	// Start is what it costs to begin in a state of the first layer, where the line does not loop.
	Start func(k Cost, state int) float64
	// Lower says which of two states is taken where two paths cost the same; nil is the first.
	Lower func(layer, a, b int) bool
	// Tries, where it is not 0, closes a loop by trying first states one by one, the most promising
	// first: as many as it takes for the largest load, so many for a sum. It is for moves that go
	// back only. Class tells apart first states that the end of a loop can do with.
	Tries int
	Class func(first int) int
	// Stopped ends the search when it is not nil: what comes out then means nothing.
	Stopped func() error
}

// stopped is why the search is given up, or nil.
func (l *Line) stopped() error {
	if l.Stopped == nil {
		return nil
	}
	return l.Stopped()
}

// stateCost is what the states of a layer ask beside.
func (l *Line) stateCost(k Cost, layer int) []float64 {
	if l.StateCost == nil || !k.Sum {
		return nil
	}
	return l.StateCost[layer]
}

// Unreached is a row of costs that nothing has lowered yet.
func Unreached(n int) []float64 {
	s := make([]float64, n)
	for i := range s {
		s[i] = Never
	}
	return s
}

// costToGo is, for every state of every layer, the least cost of the rest of the line, after the cost end
// of the last layer's states.
func (l *Line) costToGo(k Cost, end []float64) [][]float64 {
	n := len(l.Widths)
	rest := make([][]float64, n)
	rest[n-1] = end
	for a := n - 2; a >= 0; a-- {
		rest[a] = Unreached(l.Widths[a])
		if l.stopped() != nil {
			continue
		}
		l.Moves[a].Backward(k, l.States[a], l.States[a+1], rest[a+1], l.stateCost(k, a+1), rest[a])
	}
	return rest
}

// costToCome is, for every state of every layer, the least cost of the way to it from the first layer,
// whose states cost begin.
func (l *Line) costToCome(k Cost, begin []float64) [][]float64 {
	come := make([][]float64, len(l.Widths))
	come[0] = begin
	for a := 1; a < len(come); a++ {
		come[a] = Unreached(l.Widths[a])
		if l.stopped() == nil {
			forward(l.Moves[a-1], k, l.States[a-1], l.States[a], come[a-1], l.stateCost(k, a), come[a])
		}
	}
	return come
}

// begin is the cost of each first state.
func (l *Line) begin(k Cost) []float64 {
	out := Unreached(l.Widths[0])
	for _, f := range l.States[0] {
		out[f] = 0
		if l.Turn == nil && l.Start != nil {
			out[f] = l.Start(k, f)
		}
		if p := l.stateCost(k, 0); l.Turn == nil && p != nil {
			out[f] += p[f]
		}
	}
	return out
}

// end is the cost after the last layer: nothing, or in a loop the turn back to the cheapest of some
// states of the first layer.
func (l *Line) end(k Cost, to ...int) []float64 {
	last := len(l.Widths) - 1
	end := Unreached(l.Widths[last])
	if l.Turn == nil {
		for _, i := range l.States[last] {
			end[i] = 0
		}
		return end
	}
	l.Turn.Backward(k, l.States[last], to, make([]float64, l.Widths[0]), l.stateCost(k, 0), end)
	return end
}

// first picks the first state and gives the costs to go after it.
func (l *Line) first(k Cost) (pick int, value float64, rest [][]float64) {
	free := l.costToGo(k, l.end(k, l.States[0]...))
	total := l.begin(k)
	for _, f := range l.States[0] {
		if total[f] < Never {
			total[f] = k.joinBoth(total[f], free[0][f])
		}
	}
	if l.Turn == nil {
		pick = l.lowest(0, l.States[0], func(n int) float64 { return total[l.States[0][n]] })
		return pick, total[pick], free
	}
	return l.closeLoop(k, free, total)
}

// locked says whether some layer has no state that may be taken.
func (l *Line) locked() bool {
	return slices.ContainsFunc(l.States, func(states []int) bool { return len(states) == 0 })
}

// Value is the least cost of any path, Never where there is none.
func (l *Line) Value(k Cost) float64 {
	if l.locked() {
		return Never
	}
	_, value, _ := l.first(k)
	return value
}

// Best is the best path, a state a layer, and its cost. The error is ErrNone, with some row of states
// that is none where every layer has one, or why the search was stopped.
func (l *Line) Best(k Cost) (picks []int, value float64, err error) {
	if l.locked() {
		return nil, Never, ErrNone
	}
	pick, value, rest := l.first(k)
	picks = []int{pick}
	var row []float64
	for a := range l.Moves {
		to := l.States[a+1]
		if cap(row) < len(to) {
			row = make([]float64, len(to))
		}
		row = row[:len(to)]
		l.Moves[a].Row(k, pick, to, l.stateCost(k, a+1), row)
		pick = l.lowest(a+1, to, func(n int) float64 { return k.joinBoth(row[n], rest[a+1][to[n]]) })
		picks = append(picks, pick)
	}
	if err := l.stopped(); err != nil {
		return picks, value, err
	}
	if value == Never {
		return picks, value, ErrNone
	}
	return picks, value, nil
}

// lowest is the state of a layer that costs least, rounding aside.
func (l *Line) lowest(layer int, states []int, cost func(n int) float64) int {
	least := Never
	for n := range states {
		least = min(least, cost(n))
	}
	pick := -1
	for n, s := range states {
		if cost(n) <= least*(1+1e-12) && (pick < 0 || l.Lower != nil && l.Lower(layer, s, pick)) {
			pick = s
		}
	}
	return pick
}

// Span is the least cost of a path through the line between what is known: come is the cost of the way
// to the first layer's states, nil where the line begins there; rest that of the way on from the last
// layer's, nil where it ends there. It is that of the whole line if the rest of it is unchanged.
func (l *Line) Span(k Cost, come, rest []float64) float64 {
	if come == nil {
		come = l.begin(k)
	}
	last := len(l.Widths) - 1
	at := l.costToCome(k, come)[last]
	value := Never
	for _, j := range l.States[last] {
		r := 0.0
		if rest != nil {
			r = rest[j]
		}
		value = min(value, k.joinBoth(at[j], r))
	}
	return value
}

// Ends are the costs of a line from both of its ends: come[a][s] of the least costly way to state s of
// layer a, rest[a][s] of the way on from there; of a loop with its ends open.
func (l *Line) Ends(k Cost) (come, rest [][]float64) {
	return l.costToCome(k, l.begin(k)), l.costToGo(k, l.end(k, l.States[0]...))
}
