package layers

import (
	"errors"
	"math"
	"math/rand/v2"
	"testing"

	"gonum.org/v1/gonum/graph/path"
	"gonum.org/v1/gonum/graph/simple"
)

// random is a line of a few layers, some of whose moves cannot be made and some of whose states are
// locked out.
func random(rng *rand.Rand, layers, width int, loop bool) *Line {
	l := &Line{StateCost: make([][]float64, layers)}
	for a := range layers {
		w := 1 + rng.IntN(width)
		l.Widths = append(l.Widths, w)
		var states []int
		for s := range w {
			if rng.IntN(5) > 0 {
				states = append(states, s)
			}
		}
		if states == nil {
			states = []int{rng.IntN(w)}
		}
		l.States = append(l.States, states)
		l.StateCost[a] = make([]float64, w)
		for s := range w {
			if rng.IntN(3) == 0 {
				l.StateCost[a][s] = 2 * rng.Float64()
			}
		}
	}
	table := func(from, to int) Table {
		t := Table{make([][]float64, from), make([][]float64, from)}
		for i := range from {
			for range to {
				load := math.Round(8*rng.Float64()) / 8 // loads are often alike
				if rng.IntN(6) == 0 {
					load = Never
				}
				t.Load[i], t.Effort[i] = append(t.Load[i], load), append(t.Effort[i], 3*rng.Float64())
			}
		}
		return t
	}
	for a := 1; a < layers; a++ {
		l.Moves = append(l.Moves, table(l.Widths[a-1], l.Widths[a]))
	}
	if loop {
		l.Turn = table(l.Widths[layers-1], l.Widths[0])
	} else {
		start := make([]float64, l.Widths[0])
		for s := range start {
			start[s] = rng.Float64()
		}
		l.Start = func(k Cost, s int) float64 { return k.Join(0, start[s], 0) }
	}
	return l
}

// every is the least cost of any path, each tried.
func every(l *Line, k Cost) float64 {
	least := Never
	n := len(l.Widths)
	var walk func(a int, first, at int, cost float64)
	walk = func(a, first, at int, cost float64) {
		if cost == Never {
			return
		}
		if a == n {
			if l.Turn != nil {
				cost = step(l, k, l.Turn.(Table), 0, at, first, cost)
			}
			least = min(least, cost)
			return
		}
		for _, s := range l.States[a] {
			walk(a+1, first, s, step(l, k, l.Moves[a-1].(Table), a, at, s, cost))
		}
	}
	for _, s := range l.States[0] {
		cost := 0.0
		if l.Turn == nil {
			cost = l.Start(k, s)
			if k.Sum {
				cost += l.StateCost[0][s]
			}
		}
		walk(1, s, s, cost)
	}
	return least
}

// step is the cost of a path that goes on from a state to one of a layer.
func step(l *Line, k Cost, t Table, layer, from, to int, cost float64) float64 {
	return k.Join(t.Load[from][to], t.Effort[from][to]+l.StateCost[layer][to], cost)
}

// costOf is what a path costs.
func costOf(l *Line, k Cost, picks []int) float64 {
	one := *l
	one.States = nil
	for _, s := range picks {
		one.States = append(one.States, []int{s})
	}
	return every(&one, k)
}

func same(a, b float64) bool { return a == b || math.Abs(a-b) <= 1e-9*(1+math.Abs(b)) }

// The search finds what trying every path finds: largest loads and sums under limits, lines and loops,
// few first states and many; and the path that it names costs that.
func TestEveryPath(t *testing.T) {
	rng := rand.New(rand.NewPCG(29, 11))
	found, none, many := 0, 0, 0
	for n := range 3000 {
		width := 3
		if n%2 == 0 {
			width = 9 // more first states than are tried one by one
		}
		l := random(rng, 1+rng.IntN(4), width, rng.IntN(2) == 0)
		if l.Turn != nil && len(l.States[0]) > firstStatesTried {
			many++
		}
		for _, k := range []Cost{Largest(Never), Largest(0.6), Least(Never), Least(0.7), Least(0.4)} {
			want := every(l, k)
			picks, got, err := l.Best(k)
			switch {
			case want == Never:
				if none++; !errors.Is(err, ErrNone) {
					t.Fatalf("%+v: a path of %v is found, there is none", k, got)
				}
			case err != nil || !same(got, want):
				t.Fatalf("%+v: %v, %v, every path gives %v", k, got, err, want)
			case !same(costOf(l, k, picks), want):
				t.Fatalf("%+v: the path %v costs %v, not %v", k, picks, costOf(l, k, picks), want)
			default:
				found++
			}
			if v := l.Value(k); v != want && !same(v, want) {
				t.Fatalf("%+v: value %v, want %v", k, v, want)
			}
		}
	}
	if found < 1000 || none < 100 || many < 100 {
		t.Errorf("%d paths found, %d none, %d loops of many first states", found, none, many)
	}
}

// A span of a line between what is known from both ends costs what the whole line does.
func TestSpan(t *testing.T) {
	rng := rand.New(rand.NewPCG(29, 12))
	for range 500 {
		l := random(rng, 5, 4, false)
		for _, k := range []Cost{Largest(Never), Least(0.8)} {
			come, rest := l.Ends(k)
			from, to := rng.IntN(3), 3+rng.IntN(2)
			part := &Line{Widths: l.Widths[from : to+1], States: l.States[from : to+1], Moves: l.Moves[from:to],
				StateCost: l.StateCost[from : to+1], Start: l.Start}
			begin, after := come[from], rest[to]
			if from == 0 && rng.IntN(2) == 0 {
				begin = nil
			}
			if to == 4 && rng.IntN(2) == 0 {
				after = nil
			}
			if got, want := part.Span(k, begin, after), every(l, k); got != want && !same(got, want) {
				t.Fatalf("%+v, layers %d to %d: %v, the whole line %v", k, from, to, got, want)
			}
		}
	}
}

// On longer lines the search equals a general shortest-path search (gonum's graph/path, Dijkstra).
func TestEqualsGeneralGraphSearch(t *testing.T) {
	rng := rand.New(rand.NewPCG(29, 13))
	for range 60 {
		l, k := random(rng, 30, 8, false), Least(0.8)
		g := simple.NewWeightedDirectedGraph(0, Never)
		id := func(layer, state int) simple.Node { return simple.Node(2 + 10*layer + state) }
		edge := func(a, b simple.Node, w float64) {
			if w < Never {
				g.SetWeightedEdge(simple.WeightedEdge{F: a, T: b, W: w})
			}
		}
		for _, s := range l.States[0] {
			edge(0, id(0, s), l.Start(k, s)+l.StateCost[0][s])
		}
		for a, m := range l.Moves {
			for _, i := range l.States[a] {
				for _, j := range l.States[a+1] {
					edge(id(a, i), id(a+1, j), step(l, k, m.(Table), a+1, i, j, 0))
				}
			}
		}
		for _, s := range l.States[29] {
			edge(id(29, s), 1, 0)
		}
		want := Never
		if g.Node(0) != nil && g.Node(1) != nil {
			want = path.DijkstraFrom(simple.Node(0), g).WeightTo(1)
		}
		if got := l.Value(k); got != want && !same(got, want) {
			t.Fatalf("%v, the general search %v", got, want)
		}
	}
}

// A search that is stopped says why.
func TestStopped(t *testing.T) {
	l := random(rand.New(rand.NewPCG(29, 14)), 6, 9, true)
	why := errors.New("enough")
	l.Stopped = func() error { return why }
	if _, _, err := l.Best(Least(Never)); !errors.Is(err, why) {
		t.Errorf("stopped, it answers %v", err)
	}
}
