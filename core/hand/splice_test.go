package hand

import (
	"context"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"ornamen/core/neck"
)

// The bound of a line with a few events changed is that of the changed line, worked
// out whole. Where only a bound up to a limit is asked for, one above it is known to be above.
func TestSplicedBoundIsExact(t *testing.T) {
	short := neck.Standard()
	short.Frets = 12
	m := NewModel(Medium(), short)
	rng := rand.New(rand.NewPCG(7, 70))
	ctx := context.Background()
	compared := 0
	for range 150 {
		n, loop := 3+rng.IntN(8), rng.IntN(2) == 0
		events := randomEvents(rng, n, short.Frets)
		ld := m.Lay(ctx, events, loop)
		for range 4 {
			from := rng.IntN(n)
			to := from + 1 + rng.IntN(n-from)
			changed := slices.Clone(events)
			copy(changed[from:to], randomEvents(rng, n, short.Frets)[from:to])
			want, possible := m.Bound(ctx, changed, loop)
			got, ok := ld.With(ctx, from, to, changed[from:to], math.Inf(1))
			if _, all := m.Bound(ctx, events, loop); !possible || !all {
				continue // what is let go to judge the rest may differ
			}
			if compared++; !ok || !same(got, want) {
				t.Fatalf("events %d to %d of %d changed, loop %v: bound %v (%v), worked out whole %v\n%v", from, to, n,
					loop, got, ok, want, changed)
			}
			for _, most := range []float64{0.6 * want, 0.95 * want, want, 1.5 * want} {
				got, ok := ld.With(ctx, from, to, changed[from:to], most)
				if !ok || !same(got, want) && !(got > most && got < want) {
					t.Fatalf("of a bound %v, up to %v: %v (%v)", want, most, got, ok)
				}
			}
		}
	}
	if compared < 200 {
		t.Errorf("only %d lines compared", compared)
	}
}
