package bend

import (
	"testing"

	"ornamen/core/neck"
)

// A bend further up takes more way and force, near the nut more force than at the
// twelfth fret, and a thinner core less.
func TestBendsGrow(t *testing.T) {
	g := neck.Standard()
	for str := 1; str <= 6; str++ {
		last := Push{}
		for _, semitones := range []float64{0.5, 1, 2, 3, 4} {
			p, ok := Solve(g, neck.Place{String: str, Fret: 9}, semitones)
			if !ok {
				t.Fatalf("string %d, %v semitones: no way", str, semitones)
			}
			if p.Way <= last.Way || p.Force <= last.Force {
				t.Errorf("string %d: %v semitones take %v mm and %v N, less than before", str, semitones, p.Way,
					p.Force)
			}
			last = p
		}
		low, _ := Solve(g, neck.Place{String: str, Fret: 1}, 2)
		mid, _ := Solve(g, neck.Place{String: str, Fret: 12}, 2)
		if r := low.Force / mid.Force; r < 1.7 || r > 2.4 {
			t.Errorf(
				"string %d: a full bend at the first fret takes %.2f times the force at the twelfth, about twice is "+
					"common practice",
				str, r,
			)
		}
	}
	light, heavy := g, g
	light.Strings, heavy.Strings = append([]neck.Gauge{}, g.Strings...), append([]neck.Gauge{}, g.Strings...)
	light.Strings[0].Inches, heavy.Strings[0].Inches = 0.008, 0.012
	a, _ := Solve(light, neck.Place{String: 1, Fret: 12}, 2)
	b, _ := Solve(heavy, neck.Place{String: 1, Fret: 12}, 2)
	if a.Force >= b.Force {
		t.Errorf("an 8 takes %v N, a 12 %v", a.Force, b.Force)
	}
}

func TestStrengthAndTime(t *testing.T) {
	s := DefaultStrength()
	for _, c := range []struct {
		finger, helpers int
		want            neck.Newtons
	}{{1, 0, 6}, {2, 0, 7.5}, {4, 0, 7.5}, {2, 1, 12}, {3, 2, 17}, {4, 3, 17}} {
		if got := s.Of(c.finger, c.helpers); got != c.want {
			t.Errorf("finger %d with %d helpers holds %v N, want %v", c.finger, c.helpers, got, c.want)
		}
	}
	if got := s.Scaled(0.5).Of(3, 2); got != 8.5 {
		t.Errorf("half the strength holds %v N", got)
	}
	// 60 ms and 4.5 ms a mm, the same again for a release.
	if a, b := Time(10, false), Time(10, true); a != 105 || b != 210 {
		t.Errorf("10 mm take %v ms, with a release %v", a, b)
	}
}
