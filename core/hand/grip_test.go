package hand

import (
	"math"
	"math/rand/v2"
	"testing"

	"ornamen/core/layers"
	"ornamen/core/lick"
	"ornamen/core/neck"
)

// randomGrips makes two events that may follow one another, open strings, pairs
// and locks among them.
func randomGrips(m *Model, rng *rand.Rand) (from, to *Grip, ok bool) {
	events := randomEvents(rng, 2, m.Guitar.Frets)
	a, ok1 := m.Grip(events[0].Touches)
	b, ok2 := m.Grip(events[1].Touches)
	return a, b, ok1 && ok2
}

// needOf is the need of a move between two postures of grips by the table itself.
func needOf(m *Model, from *Grip, i int, to *Grip, j int) float64 {
	if to.Open() {
		want := i
		if !from.Open() {
			want = from.stand[i].stance
		}
		if j != want {
			return never
		}
		return m.openNeed(to)
	}
	q := to.stand[j]
	if !from.Open() {
		need, _, _ := m.transition(from.touches, from.stand[i], to.touches, q, false)
		return need
	}
	if i == len(m.stances) { // not come down yet
		extra := 0.0
		for _, t := range to.touches {
			if t.Slur == lick.Hammer {
				extra = hammerExtra
			}
		}
		return m.scale(placeFinger + extra + m.stances[q.stance].standing)
	}
	need, _, _ := m.transition([]Touch{{}}, posture{stance: i}, to.touches, q, true)
	return need
}

// effortOf is the effort of that move in ms, by the table itself.
func effortOf(m *Model, from *Grip, i int, to *Grip, j int) float64 {
	need := needOf(m, from, i, to, j)
	if to.Open() {
		return need
	}
	b := m.stances[to.stand[j].stance]
	ms := need + spreadOf(b.frame) + flatOf(to.touches, to.stand[j])
	switch {
	case !from.Open():
		_, kind, _ := m.transition(from.touches, from.stand[i], to.touches, to.stand[j], false)
		switch kind {
		case Jump:
			ms += jumpAgain
		case Guided:
			ms += guidedAgain
		}
		if m.stances[from.stand[i].stance].frame != b.frame {
			ms += frameChange
		}
	case i < len(m.stances) && m.stances[i].frame != b.frame:
		ms += frameChange
	}
	return ms
}

// The quick ways of grips are the table of moves: relaxing and following find the
// least, and the quick bound is never above it.
func TestGripsAreTheTable(t *testing.T) {
	g := neck.Standard()
	g.Frets = 9
	m := NewModel(Medium(), g)
	rng := rand.New(rand.NewPCG(6, 28))
	for range 300 {
		from, to, ok := randomGrips(m, rng)
		if !ok {
			continue
		}
		have := 60 + 200*rng.Float64()
		rest := layers.Unreached(m.Size(to))
		for _, j := range m.Allowed(to, true) {
			if rng.IntN(4) > 0 {
				rest[j] = 0.3 * rng.Float64() // costs over the limit are not looked for
			}
		}
		limit := never
		if rng.IntN(2) == 0 {
			limit = 0.3 + rng.Float64()
		}
		for _, k := range []layers.Cost{layers.Largest(limit), layers.Least(limit)} {
			out := layers.Unreached(m.Size(from))
			m.Relax(k, from, to, have, rest, out)
			lower := m.LeastLoad(from, to, have)
			for _, i := range m.Allowed(from, true) {
				want, least := never, never
				for _, j := range m.Allowed(to, true) {
					load := needOf(m, from, i, to, j) / have
					least = min(least, load)
					want = min(want, k.Join(load, effort(effortOf(m, from, i, to, j)), rest[j]))
				}
				if lower > least*(1+1e-9) {
					t.Fatalf("%+v → %+v: quick bound %v, least load %v", from.touches, to.touches, lower, least)
				}
				if !same(out[i], want) {
					t.Fatalf("%+v → %+v: relaxed to %v, want %v", from.touches, to.touches, out[i], want)
				}
				costs, got := make([]float64, m.Size(to)), never
				m.Costs(k, from, to, have, i, costs)
				for j, c := range costs {
					if k.Sum {
						got = min(got, c+rest[j])
					} else {
						got = min(got, max(c, rest[j]))
					}
				}
				if !same(got, want) {
					t.Fatalf("%+v → %+v: followed to %v, want %v", from.touches, to.touches, got, want)
				}
			}
		}
	}
}

func same(a, b float64) bool { return a == b || math.Abs(a-b) < 1e-9*(1+math.Abs(b)) }

// Grips refuse what no hand can hold, and a hand that has not come down stands
// nowhere.
func TestGrips(t *testing.T) {
	m := NewModel(Medium(), neck.Standard())
	if _, ok := m.Grip([]Touch{{Place: neck.Place{String: 1, Fret: 1}}, {Place: neck.Place{String: 2, Fret: 12}}}); ok {
		t.Error("frets 1 and 12 are held together")
	}
	open, ok := m.Grip([]Touch{{Place: neck.Place{String: 1}}})
	if !ok || !open.Open() || len(m.Allowed(open, false)) != 1 || len(m.Allowed(open, true)) != len(m.stances) {
		t.Error("an open string is no open grip")
	}
	locked, ok := m.Grip([]Touch{{Place: neck.Place{String: 1, Fret: 5}, Finger: lick.Ring}})
	if !ok {
		t.Fatal("a locked finger cannot stand")
	}
	for _, i := range m.Allowed(locked, true) {
		if locked.stand[i].fingers[0] != int8(lick.Ring-lick.Index) {
			t.Fatal("another finger than the locked one stands there")
		}
	}
	only, _ := m.Grip([]Touch{{Place: neck.Place{String: 1, Fret: 5}, Only: Only(lick.Middle) | Only(lick.Ring)}})
	for _, i := range m.Allowed(only, true) {
		if f := only.stand[i].fingers[0]; f != 1 && f != 2 {
			t.Fatalf("finger %d stands where only 2 and 3 may", f+1)
		}
	}
}

// Spans grow toward the bridge and with the hand.
func TestSpan(t *testing.T) {
	g := neck.Standard()
	small, _ := Named("small")
	large, _ := Named("large")
	last := 0
	for fret := 1; fret <= 15; fret++ {
		ease, most := Medium().Span(g, fret)
		if ease-fret < last || most < ease {
			t.Errorf("at fret %d the hand spans %d, before %d", fret, ease-fret, last)
		}
		last = ease - fret
		s, _ := small.Span(g, fret)
		l, _ := large.Span(g, fret)
		if s > ease || l < ease {
			t.Errorf("at fret %d: small %d, medium %d, large %d", fret, s, ease, l)
		}
	}
	if ease, most := Medium().Span(g, 1); ease != 4 || most != 5 {
		t.Errorf(
			"from the first fret %d with ease and %d at most; a medium hand covers four frets there (common practice)",
			ease, most,
		)
	}
}
