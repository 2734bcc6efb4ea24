package draw

import (
	"fmt"
	"html/template"

	"ornamen/core/hear"
)

// BendCourseSVG draws a bend as it was heard: cents from the target over time, the target as a line with the band that
// the ear takes as in tune. What lies more than 420 cents below, before the push, is cut off.
func BendCourseSVG(b hear.Bent) template.HTML {
	var c canvas
	const wide, high, left = 520.0, 170.0, 44.0
	low, top, last := -60.0, 60.0, 1.0
	for _, p := range b.Points {
		low, top, last = min(low, p.Off-10), max(top, p.Off+10), max(last, p.At)
	}
	low = max(low, -420)
	x := func(at float64) float64 { return left + (wide-left-10)*at/last }
	y := func(off float64) float64 { return 8 + (high-30)*(top-max(low, min(top, off)))/(top-low) }
	c.rect(left, y(12), wide-left-10, y(-12)-y(12), "tuneband")
	c.line(left, y(0), wide-10, y(0), "target")
	for _, t := range []float64{-300, -200, -100, 0, 50} {
		if t > low && t < top {
			c.text(left-6, y(t)+4, "axis end", fmt.Sprintf("%+.0f", t))
		}
	}
	var path course
	for _, p := range b.Points {
		path.to(x(p.At), y(p.Off))
	}
	c.path("course", path.String())
	c.text(left, high-4, "axis begin", "0 s")
	c.text(wide-10, high-4, "axis end", fmt.Sprintf("%.1f s", last))
	return c.svg(wide, high, "progress", "Cents from the target over time", "width", wide, "height", high)
}
