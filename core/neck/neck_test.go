package neck

import (
	"math"
	"testing"

	"ornamen/core/music"
)

func near(a, b, tolerance float64) bool { return math.Abs(a-b) <= tolerance }

// The luthiers' fret rule: the 12th fret halves the string, the 24th leaves a
// quarter, each fret stands at 2^(1/12) of the one before it, and the old rule
// of 17.817 gives the same places within a tenth of a millimetre.
func TestFrets(t *testing.T) {
	g := Standard()
	if !near(float64(g.FretX(12)), 324, 1e-9) || !near(float64(g.FretX(24)), 486, 1e-9) {
		t.Errorf("x(12) = %v, x(24) = %v", g.FretX(12), g.FretX(24))
	}
	x := 0.0
	for n := 1; n <= 22; n++ {
		if r := float64((g.Scale - g.FretX(n-1)) / (g.Scale - g.FretX(n))); !near(r, math.Pow(2, 1.0/12), 1e-12) {
			t.Errorf("fret %d: ratio %v", n, r)
		}
		x += (648 - x) / 17.817
		if !near(float64(g.FretX(n)), x, 0.1) {
			t.Errorf("fret %d lies at %.3f, by the divisor at %.3f", n, g.FretX(n), x)
		}
		if !(g.Press(n) > g.FretX(n-1) && g.Press(n) < g.FretX(n)) {
			t.Errorf("fret %d is pressed at %v, outside its cell", n, g.Press(n))
		}
	}
}

// Mersenne's law: a plain 0.010 at E4 on 648 mm is under about 72.6 N.
func TestTension(t *testing.T) {
	g := Standard()
	if n := float64(g.Strings[0].Tension(g.Tuning[0], g.Scale)); !near(n, 72.6, 0.3) {
		t.Errorf("the first string pulls with %.2f N", n)
	}
	// An octave up takes four times the tension, twice the length too.
	s := g.Strings[1]
	if r := s.Tension(71, 648) / s.Tension(59, 648); !near(float64(r), 4, 1e-9) {
		t.Errorf("an octave up: %v times", r)
	}
	if r := s.Tension(59, 1296) / s.Tension(59, 648); !near(float64(r), 4, 1e-9) {
		t.Errorf("twice the length: %v times", r)
	}
}

func TestStringsAndRoom(t *testing.T) {
	g := Standard()
	if !near(float64(g.StringY(6, 0)), 35.5, 1e-9) || !near(float64(g.StringY(6, g.Scale)), 52.5, 1e-9) ||
		g.StringY(1, 300) != 0 {
		t.Error("the spread is not 35.5 mm at the nut and 52.5 at the bridge")
	}
	x := g.FretX(12)
	if a, b := g.Room(1, x, true)+g.Room(1, x, false), g.StringY(6, x)+2*g.EdgeRoom; !near(float64(a), float64(b),
		1e-9) {
		t.Errorf("room on both sides of string 1: %v, the board is %v wide", a, b)
	}
	if g.Room(6, x, true) != g.EdgeRoom || g.Room(1, x, false) != g.EdgeRoom {
		t.Error("outer strings do not lie at the edge")
	}
}

func TestPlaces(t *testing.T) {
	g := Standard()
	for _, p := range g.Places(64) {
		if g.Pitch(p) != 64 {
			t.Errorf("%s sounds %s", p.Notation(), g.Pitch(p))
		}
	}
	if n := len(g.Places(64)); n != 5 {
		t.Errorf("E4 lies at %d places, want 5 on 22 frets", n)
	}
	if len(g.Places(30)) != 0 {
		t.Error("a tone below the neck was found")
	}
}

func TestValidate(t *testing.T) {
	if err := Standard().Validate(); err != nil {
		t.Fatal(err)
	}
	for name, change := range map[string]func(*Guitar){
		"three strings": func(g *Guitar) { *g = g.WithTuning(g.Tuning[:3]) },
		"no frets":      func(g *Guitar) { g.Frets = 0 },
		"a ukulele":     func(g *Guitar) { g.Scale = 345 },
		"no number":     func(g *Guitar) { g.Scale = MM(math.NaN()) },
		"gauges":        func(g *Guitar) { g.Strings = g.Strings[:5] },
		"spread":        func(g *Guitar) { g.NutSpread = 0 },
	} {
		g := Standard()
		change(&g)
		if g.Validate() == nil {
			t.Errorf("%s was taken", name)
		}
	}
	seven := Standard().WithTuning(append(StandardTuning(), music.Pitch(35)))
	if err := seven.Validate(); err != nil || !near(float64(seven.NutSpread), 42.6, 1e-9) {
		t.Errorf("seven strings: %v, spread %v", err, seven.NutSpread)
	}
}
