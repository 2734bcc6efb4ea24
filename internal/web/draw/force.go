package draw

import (
	"fmt"
	"html/template"

	"ornamen/core/neck"
)

// forceHeight is the height of the force curve under the neck.
const forceHeight = 44.0

// ForceSVG draws the force of a full bend along the neck, under its frets, with the shape's frets framed and what is
// said of them. force counts from fret 1; a fret at which no full bend can be made has 0 and is left out.
func ForceSVG(n Neck, force []neck.Newtons, here string) template.HTML {
	var c canvas
	s := newScaler(n)
	most := neck.Newtons(0)
	for _, f := range force {
		most = max(most, f)
	}
	if most == 0 {
		return ""
	}
	base := forceHeight - 4
	y := func(f neck.Newtons) float64 { return base - float64(f/most)*(forceHeight-12) }
	var area, line course
	last, drawn := 0.0, 0
	for i, f := range force {
		if i+1 < s.from || i+1 > s.to || f <= 0 {
			continue
		}
		last = s.cell(i + 1)
		if drawn++; drawn == 1 {
			area.to(last, base)
		}
		area.to(last, y(f))
		line.to(last, y(f))
	}
	if drawn < 2 {
		return ""
	}
	area.to(last, base)
	c.path("forcearea", area.String()+"Z")
	c.path("forceline", line.String())
	const name = "full bend, thinnest string"
	label := fmt.Sprintf("Force of a full bend: %.0f newtons at fret 1", force[0])
	if a := n.Area; a[1] > 0 {
		left, right := s.edges(max(a[0], s.from), min(a[1], s.to))
		c.rect(left, 3, right-left, forceHeight-6, "forceframe", "rx", 6.0)
		// The words stand on the roomier side of the frame, the name of the curve beyond them and under
		// it, so that neither is struck through.
		if x := right + 10; n.width()-right > left {
			c.text(x, 18, "forcehere", here)
			c.text(10, 35, "forcename", name)
		} else {
			c.text(left-10, 18, "forcehere atleft", here)
			c.text(n.width()-10, 35, "forcename atleft", name)
		}
		label += "; " + here
	}
	if n.Area[1] == 0 {
		c.text(n.width()/2, 35, "forcename", name)
	}
	return c.svg(n.width(), forceHeight, "force", label)
}
