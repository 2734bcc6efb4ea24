package player

import (
	"strings"
	"testing"
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
