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
		{neck.Place{String: 1, Fret: 1}, 2, 9.1, 23.6},
		{neck.Place{String: 1, Fret: 12}, 2, 19.9, 11.2},
		{neck.Place{String: 2, Fret: 9}, 1, 10.0, 4.9},
		{neck.Place{String: 3, Fret: 7}, 2, 11.1, 7.2},
		{neck.Place{String: 3, Fret: 1}, 2, 5.4, 14.6},
	} {
		p, ok := Solve(g, r.p, r.semi)
		if !ok || math.Abs(float64(p.Way)-r.d)/r.d > .02 || math.Abs(float64(p.Force)-r.f)/r.f > .02 {
			t.Errorf("%v +%v: %.2f mm %.2f N, want %v %v", r.p, r.semi, p.Way, p.Force, r.d, r.f)
		}
	}
}
