package view

import (
	"fmt"

	"ornamen/core/shape"
	"ornamen/internal/web/draw"
)

// BoxNumber is a box as the player counts: from the minor root or from the major one, see player.Profile.
func BoxNumber(s shape.BoxSpan, counting string) int {
	if counting == "major" {
		return s.Major
	}
	return s.Box
}

// BoxCells names the boxes of a line for a drawing, as the player counts: "box 1", and where the hand moves on "now
// box 2".
func BoxCells(spans []shape.BoxSpan, counting string) (out []draw.RunCell) {
	for k, s := range spans {
		label := fmt.Sprintf("box %d", BoxNumber(s, counting))
		if k > 0 {
			label = "now " + label
		}
		out = append(out, draw.RunCell{From: s.From, To: s.To, Label: label})
	}
	return out
}

// mostBoxes is how many boxes are told in a sentence.
const mostBoxes = 6

// BoxesText says where a line lies, as the player counts: "Box 1 of the minor root, at fret 5; now box 2 at note 9." It
// is empty for a line without boxes, and of one that goes through many it tells the first.
func BoxesText(spans []shape.BoxSpan, counting string) (text string) {
	root := "minor"
	if counting == "major" {
		root = "major"
	}
	for k, s := range spans {
		switch {
		case k == mostBoxes:
			return text + fmt.Sprintf(" and %d more.", len(spans)-k)
		case k == 0:
			text = fmt.Sprintf("Box %d of the %s root, at fret %d", BoxNumber(s, counting), root, s.Fret)
		default:
			text += fmt.Sprintf("; now box %d at note %d", BoxNumber(s, counting), s.From+1)
		}
	}
	if text != "" {
		text += "."
	}
	return text
}
