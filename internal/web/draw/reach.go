package draw

import (
	"fmt"
	"html/template"

	"ornamen/core/hand"
)

// Heights of the reach chart: one row for the fret numbers, one for what lies within reach.
const (
	reachHeight = 70.0
	reachRow    = 22.0
)

// ReachSVG draws, true to scale along the neck, how many frets the hand spans
// with the index at each fret: with ease, and at most.
func ReachSVG(n Neck, h hand.Hand) template.HTML {
	var c canvas
	s := newScaler(n)
	for fret := max(1, s.from); fret <= s.to; fret++ {
		x, w := s.span(fret)
		ease, most := h.Span(n.Guitar, fret)
		ease, most = min(ease, n.Guitar.Frets), min(most, n.Guitar.Frets)
		c.open("g")
		c.title(fmt.Sprintf("Index at fret %d: little finger to fret %d with ease, to %d at most", fret, ease, most))
		c.rect(x+1, reachRow, max(0, w-2), reachHeight-reachRow-2, "reachcell", "rx", 5.0)
		c.text(x+w/2, 15, "reachfret", fmt.Sprint(fret))
		c.text(x+w/2, reachRow+22, "reachease", fmt.Sprint(ease-fret+1))
		c.text(x+w/2, reachRow+40, "reachmost", fmt.Sprint(most-fret+1))
		c.close("g")
	}
	ease, most := h.Span(n.Guitar, max(1, s.from))
	return c.svg(n.width(), reachHeight, "reach", fmt.Sprintf("Frets within reach along the neck: %d with ease and %d at "+
		"most at the first fret, more higher up", ease, most))
}
