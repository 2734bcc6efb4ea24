package hand

import (
	"context"
	"math"
	"math/rand/v2"
	"testing"

	"ornamen/core/neck"
	"ornamen/core/testline"
)

// A loop's best round is that of every first posture tried on its own, whatever postures pay
// beside, for the largest load and for the least effort under a limit.
func TestClosedIsExact(t *testing.T) {
	short := neck.Standard()
	short.Frets = 12
	m := NewModel(Medium(), short)
	rng := rand.New(rand.NewPCG(19, 64))
	rounds, none := 0, 0
	for range testline.Nightly(120) {
		events := randomEvents(rng, 2+rng.IntN(7), short.Frets)
		c := m.newChain(context.Background(), events, true)
		if len(c.nodes) == 0 || c.close == nil {
			continue
		}
		extra := make([][]float64, len(c.nodes))
		for k, n := range c.nodes {
			extra[k] = make([]float64, len(n.stand))
			for j := range extra[k] {
				if rng.IntN(3) == 0 {
					extra[k][j] = 4 * rng.Float64()
				}
			}
		}
		bound := c.bound()
		for _, k := range []cost{minimax(), leastEffort(bound * 1.15), leastEffort(bound * 0.9), leastEffort(never)} {
			paid := extra
			if !k.sum {
				paid = nil
			}
			want := never
			for _, f := range c.nodes[0].allowed {
				want = min(want, c.toGo(k, c.ends(k, f, paid), paid)[0][f])
			}
			pick, got, rest := c.first(k, k.sum, paid)
			if math.IsInf(want, 1) != math.IsInf(got, 1) || !math.IsInf(want, 1) && !same(got, want) {
				t.Fatalf("%+v: the best round costs %v, tried one by one %v\n%v", k, got, want, events)
			}
			if rounds++; math.IsInf(want, 1) {
				none++
			} else if !same(rest[0][pick], want) {
				t.Fatalf("%+v: from the first posture it costs %v, want %v", k, rest[0][pick], want)
			}
		}
	}
	if rounds < 300 || none == 0 || none > rounds/2 {
		t.Errorf("%d rounds were compared, %d of them none", rounds, none)
	}
}
