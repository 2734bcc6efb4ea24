package hand

import (
	"math/rand/v2"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/neck"
)

// The quick matrix of single notes is the table of moves, entry by entry.
func TestSingleIsTheTable(t *testing.T) {
	m := NewModel(Medium(), neck.Standard())
	rng := rand.New(rand.NewPCG(1, 9))
	for range 200 {
		a := Touch{Place: neck.Place{String: 1 + rng.IntN(6), Fret: 1 + rng.IntN(22)}, Barre: rng.IntN(3) == 0}
		b := Touch{
			Place: neck.Place{String: a.Place.String + rng.IntN(3) - 1, Fret: max(1, a.Place.Fret+rng.IntN(9)-4)},
			Barre: rng.IntN(2) == 0,
		}
		b.Slur = []lick.Slur{"", "", lick.Hammer, lick.Pull, lick.Slide, lick.Shift}[rng.IntN(6)]
		x, y := []Touch{a}, []Touch{b}
		if b.Place.String < 1 || b.Place.Fret > 22 {
			continue
		}
		viaOpen := rng.IntN(5) == 0 && b.Slur != lick.Slide && b.Slur != lick.Shift && b.Slur != lick.Pull
		mx := m.between(x, y, viaOpen)
		for i, p := range mx.from {
			for j, q := range mx.to {
				want, _, _ := m.transition(x, p, y, q, viaOpen)
				got := mx.need[i*len(mx.to)+j]
				if got != want && !(got-want < 1e-9 && want-got < 1e-9) {
					t.Fatalf("%+v → %+v (via open %v), %v → %v: %v, want %v", a, b, viaOpen, p, q, got, want)
				}
			}
		}
	}
}
