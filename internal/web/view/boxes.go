package view

import (
	"fmt"

	"ornamen/core/shape"
	"ornamen/internal/web/draw"
)

// BoxCells names the boxes of a line for a drawing: "box 1", and where the hand moves on "now box 2".
func BoxCells(spans []shape.BoxSpan) (out []draw.RunCell) {
	for k, s := range spans {
		label := fmt.Sprintf("box %d", s.Box)
		if k > 0 {
			label = fmt.Sprintf("now box %d", s.Box)
		}
		out = append(out, draw.RunCell{From: s.From, To: s.To, Label: label})
	}
	return out
}

// mostBoxes is how many boxes are told in a sentence.
const mostBoxes = 6

// BoxesText says where a line lies: "Box 1, at fret 5; now box 2 at note 9." It is empty for a line without boxes, and
// of one that goes through many it tells the first.
func BoxesText(spans []shape.BoxSpan) (text string) {
	for k, s := range spans {
		switch {
		case k == mostBoxes:
			return text + fmt.Sprintf(" and %d more.", len(spans)-k)
		case k == 0:
			text = fmt.Sprintf("Box %d, at fret %d", s.Box, s.Fret)
		default:
			text += fmt.Sprintf("; now box %d at note %d", s.Box, s.From+1)
		}
	}
	if text != "" {
		text += "."
	}
	return text
}
