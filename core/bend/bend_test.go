package bend

import (
	"math"
	"testing"

	"ornamen/core/neck"
)

func TestTable(t *testing.T) {
	g := neck.Standard()
	for _, r := range []struct {
		p    neck.Place
		semi float64
		d, f float64
	}{
		{p: neck.Place{String: 1, Fret: 1}, semi: 2, d: 9.1, f: 23.6},
		{p: neck.Place{String: 1, Fret: 12}, semi: 2, d: 19.9, f: 11.2},
		{p: neck.Place{String: 2, Fret: 9}, semi: 1, d: 10.0, f: 4.9},
		{p: neck.Place{String: 3, Fret: 7}, semi: 2, d: 11.1, f: 7.2},
		{p: neck.Place{String: 3, Fret: 1}, semi: 2, d: 5.4, f: 14.6},
	} {
		p, ok := Solve(g, r.p, r.semi)
		if !ok || math.Abs(float64(p.Way)-r.d)/r.d > .02 || math.Abs(float64(p.Force)-r.f)/r.f > .02 {
			t.Errorf("%v +%v: %.2f mm %.2f N, want %v %v", r.p, r.semi, p.Way, p.Force, r.d, r.f)
		}
	}
}
