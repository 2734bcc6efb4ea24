package hand

import (
	"context"
	"math"
	"math/rand/v2"
	"testing"

	"gonum.org/v1/gonum/graph/path"
	"gonum.org/v1/gonum/graph/simple"

	"ornamen/core/load"
	"ornamen/core/neck"
)

// generalGraph lays a line out for a general shortest-path library: a vertex for
// each posture of each fretted event, an edge for each move of a load up to
// limit, weighted with its effort. Vertex 0 leads to the first event's postures, the
// last ones lead to vertex 1. The needs come from the table of moves itself.
func generalGraph(m *Model, events []Event, limit float64, easy bool) *simple.WeightedDirectedGraph {
	x := &exhaustive{m: m}
	g := simple.NewWeightedDirectedGraph(0, math.Inf(1))
	edge := func(from, to int, w float64) {
		g.SetWeightedEdge(simple.WeightedEdge{F: simple.Node(from), T: simple.Node(to), W: w})
	}
	next, last, first := 2, -1, -1
	var base []int // vertex of an event's first posture
	ps := make([][]posture, len(events))
	for i, e := range events {
		base = append(base, next)
		if !e.fretted() {
			continue
		}
		if first < 0 {
			first = i
		}
		ps[i] = m.mayStand(e.Touches)
		next += len(ps[i])
	}
	for i, e := range events {
		for j, q := range ps[i] {
			b := m.stances[q.stance]
			if easy && b.strain > load.Strain {
				continue
			}
			switch {
			case i == first && i == 0:
				edge(0, base[i]+j, math.Pow((b.standing+spreadOf(b.frame)+flatOf(e.Touches, q))/100, 4))
			case i == first:
				if load := (placeFinger + b.standing) / e.Have; load <= limit {
					edge(0, base[i]+j, math.Pow((placeFinger+b.standing+spreadOf(b.frame)+flatOf(e.Touches, q))/100, 4))
				}
			default:
				for k, p := range ps[last] {
					if need, more := x.effortOf(events[last].Touches, p, e.Touches, q,
						i > last+1); need/e.Have <= limit {
						edge(base[last]+k, base[i]+j, more)
					}
				}
			}
		}
		if e.fretted() {
			last = i
		}
	}
	for j := range ps[last] {
		edge(base[last]+j, 1, 0)
	}
	return g
}

func shortest(g *simple.WeightedDirectedGraph) float64 {
	if g.Node(0) == nil || g.Node(1) == nil {
		return math.Inf(1)
	}
	return path.DijkstraFrom(simple.Node(0), g).WeightTo(1)
}

// On longer lines the search equals a general shortest-path search on the same
// graph (gonum's graph/path, Dijkstra): the least sum, and a bound under which
// there is no path at all.
func TestEqualsGeneralGraphSearch(t *testing.T) {
	short := neck.Standard()
	short.Frets = 9
	m := NewModel(Medium(), short)
	rng := rand.New(rand.NewPCG(11, 4))
	for checked := 0; checked < 25; {
		events := randomEvents(rng, 12, short.Frets)
		p := solveByMoves(m, events, false)
		if !p.Possible() {
			continue
		}
		checked++
		c := m.newChain(context.Background(), events, false)
		least := func(slack float64, easy bool) float64 {
			return shortest(generalGraph(m, events, p.Bound*slack*(1+1e-9), easy))
		}
		easy := !math.IsInf(least(load.Slack, true), 1)
		got := least(load.Slack*FigureSlack, easy)
		if math.Abs(got-sumOf(m, events, p, false)) > 1e-9*(1+got) {
			t.Fatalf("%v: sum %v, general search %v", events, sumOf(m, events, p, false), got)
		}
		if p.Bound > c.opens && !math.IsInf(shortest(generalGraph(m, events, p.Bound*(1-1e-9), false)), 1) {
			t.Fatalf("%v: a path lies below the bound %v", events, p.Bound)
		}
		if p.Bound > 0 && math.IsInf(shortest(generalGraph(m, events, p.Bound*(1+1e-9), false)), 1) {
			t.Fatalf("%v: no path at the bound %v", events, p.Bound)
		}
	}
}

// BenchmarkGeneralGraph64 is the line of BenchmarkSolve64 through gonum: every move
// that can be made, laid out beforehand, and one search for the least sum. (A
// graph cut down to the limit would already hold the answer to the first half of
// the search, the bound.)
func BenchmarkGeneralGraph64(b *testing.B) {
	m := NewModel(Medium(), neck.Standard())
	events := line(b, benchLine)[:64]
	g := generalGraph(m, events, math.MaxFloat64, false)
	for b.Loop() {
		shortest(g)
	}
}
