package player

import (
	"math"
	"strings"
	"testing"

	"ornamen/core/bend"
	"ornamen/core/hand"
)

// What no hand or guitar has is refused in a sentence that names it.
func TestImpossibleProfiles(t *testing.T) {
	for _, c := range []struct {
		name string
		set  func(p *Profile)
		want string
	}{
		{"tuning", func(p *Profile) { p.Tuning = "E4 H3 G3 D3 A2 E2" }, "H3"},
		{"three strings", func(p *Profile) { p.Tuning, p.Gauges = "E4 B3 G3", "10 13 17" }, "4 to 9 strings"},
		{"gauges", func(p *Profile) { p.Gauges = "10 13 17 26w 36w" }, "5 gauges"},
		{"a gauge", func(p *Profile) { p.Gauges = "10 13 x 26w 36w 46w" }, `"x"`},
		{"scale", func(p *Profile) { p.Scale = 6480 }, "400 to 900"},
		{"frets", func(p *Profile) { p.Frets = 3 }, "12 to 36"},
		{"tension", func(p *Profile) { p.Tuning = "E6 B3 G3 D3 A2 E2" }, "would carry"},
		{"size", func(p *Profile) { p.Size = "huge" }, "small, medium, large"},
		{"sixteenths", func(p *Profile) { p.Sixteenths = 1000 }, "40 to 330"},
		{"hammering", func(p *Profile) { p.Hammering = 3 }, "40 to 330"},
		{"hold down", func(p *Profile) { p.HoldFrom, p.HoldTo = 5, 4 }, "lower to a higher"},
		{"hold wide", func(p *Profile) { p.HoldFrom, p.HoldTo = 1, 12 }, "comfortable holds span"},
		{"bend nowhere", func(p *Profile) { p.BendString, p.BendFret = 9, 9 }, "not on this neck"},
		{"way", func(p *Profile) { p.Way = "windmill" }, "alternate, economy"},
		{"boxes", func(p *Profile) { p.Boxes = "blue" }, "minor or the major"},
		{"strict", func(p *Profile) { p.Strict = "very" }, "easy, usual, strict"},
	} {
		p := DefaultProfile()
		c.set(&p)
		if _, err := p.Player(); err == nil || !strings.Contains(err.Error(), c.want) {
			t.Errorf("%s: %v", c.name, err)
		}
	}
}

// What practice has shown is written as measurements that give it back, as near as frets lie (a full bend on the next
// string may take an eighth more); taking it twice changes nothing; what was not shown stays.
func TestWithShown(t *testing.T) {
	medium, strong := hand.Medium(), bend.DefaultStrength()
	for _, x := range []Shown{
		{Picking: 1.1, Fretting: 0.9, Reach: 0.93, Bends: 0.9},
		{Picking: 0.8, Fretting: 1.2, Reach: 1.1, Bends: 1.3},
		{Picking: 1.05},
		{Reach: 0.85},
		{Bends: 1.1},
	} {
		p, err := DefaultProfile().With(x)
		if err != nil {
			t.Fatal(err)
		}
		pl, err := p.Player()
		if err != nil {
			t.Fatal(err)
		}
		got := Shown{
			Picking:  pl.Pick.Speed,
			Fretting: pl.Hand.Speed,
			Reach:    float64(pl.Hand.Comfort[hand.P14] / medium.Comfort[hand.P14]),
			Bends:    float64(pl.Bends.Three / strong.Three),
		}
		for k, pair := range [][2]float64{{got.Picking, x.Picking}, {got.Fretting, x.Fretting}, {got.Reach, x.Reach},
			{got.Bends, x.Bends}} {
			if want := pair[1]; want > 0 && math.Abs(pair[0]/want-1) > 0.07 ||
				want == 0 && pair[0] > 0 && pair[0] != 1 {
				t.Errorf("%+v: ability %d came back as %g", x, k, pair[0])
			}
		}
		if again, err := p.With(x); err != nil || again != p {
			t.Errorf("%+v taken twice: %+v, %v", x, again, err)
		}
	}
}
