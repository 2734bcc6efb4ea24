package practice

import (
	"fmt"
	"slices"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/player"
	"ornamen/core/run"
)

// mostCells is how many cells of different shape are parts of their own.
const mostCells = 4

// cells are the first cells of each shape of a line that a recipe grew, and two of them joined; none where the line was
// changed since so that the recipe no longer gives it. A run of forty cells in three a string has two shapes or three:
// who can play those can play it (common practice).
func cells(l lick.Lick, who player.Player) (out []stretch) {
	spans := l.Parts
	if len(spans) == 0 && l.Recipe != "" {
		spans = []lick.Part{{From: 0, To: len(l.Notes), Recipe: l.Recipe}}
	}
	var shapes []string
	for _, span := range spans {
		recipe, err := run.Parse(span.Recipe)
		if err != nil {
			continue
		}
		grown, err := run.Grow(recipe, who.Guitar.WithTuning(l.Tuning))
		if err != nil || !lick.SamePlaces(grown.Lick.Notes, l.Notes[span.From:span.To]) {
			continue
		}
		for k, c := range grown.Cells {
			notes := grown.Lick.Notes[c.From:c.To]
			shape := shapeOf(notes)
			if len(shapes) == mostCells || slices.Contains(shapes, shape) {
				continue
			}
			shapes = append(shapes, shape)
			from := span.From + c.From + 1
			out = append(out, stretch{from, span.From + c.To, "cell"})
			if k+1 < len(grown.Cells) {
				out = append(out, stretch{from, span.From + grown.Cells[k+1].To, "two cells"})
			}
		}
	}
	return out
}

// shapeOf names how the notes of a cell lie to each other.
func shapeOf(notes []lick.Note) string {
	var s []byte
	for _, n := range notes {
		s = fmt.Appendf(s, "%d:%d ", n.String-notes[0].String, n.Fret-notes[0].Fret)
	}
	return string(s)
}

// Moves of the picking hand: a stroke on the string where the pick is, and a change of string.
const (
	strokeMove = "stroke"
	changeMove = " change"
)

// moveOf is the kind of move into a note in the trade's words.
func moveOf(n judge.Note, side judge.Side) string {
	switch {
	case side == judge.Fretting:
		return string(n.Kind)
	case side == judge.Picking && n.StringChange == "":
		return strokeMove
	case side == judge.Picking:
		return string(n.StringChange) + changeMove
	}
	return string(side)
}
