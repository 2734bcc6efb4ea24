package draw

import (
	"fmt"
	"html/template"
	"math"
	"slices"

	"ornamen/core/practice"
)

// Sizes of an ability's drawing; from abilityLow to abilityHigh of the model's player is its height.
const (
	abilityHigh = 1.5
	abilityLow  = 1 / abilityHigh
	abilityTall = 46.0
)

// AbilitySVG draws one of the player's own numbers over the weeks, its interval as a band; the line across is the
// model's player. A log of one week has nothing to draw.
func AbilitySVG(weeks []practice.Week, k int, wide float64) template.HTML {
	if len(weeks) < 2 {
		return ""
	}
	var c canvas
	first, last := weeks[0].Day, weeks[len(weeks)-1].Day
	x := func(d practice.Date) float64 { return 2 + (wide-4)*float64(d-first)/float64(max(1, last-first)) }
	y := func(v float64) float64 {
		v = max(abilityLow, min(abilityHigh, v))
		return 2 + (abilityTall-4)*(1-math.Log(v/abilityLow)/math.Log(abilityHigh/abilityLow))
	}
	var band, line course
	for _, w := range weeks {
		band.to(x(w.Day), y(w.Of[k].High))
		line.to(x(w.Day), y(w.Of[k].Value))
	}
	for _, w := range slices.Backward(weeks) {
		band.to(x(w.Day), y(w.Of[k].Low))
	}
	c.path("band", band.String()+"Z")
	c.line(0, y(1), wide, y(1), "rule")
	c.path("curve", line.String())
	now := weeks[len(weeks)-1].Of[k]
	return c.svg(wide, abilityTall, "ability", fmt.Sprintf("%s over %d weeks: now %s, between %s and %s", now.Name,
		len(weeks), now.Words(now.Value), now.Words(now.Low), now.Words(now.High)), "width", wide, "height", abilityTall)
}
