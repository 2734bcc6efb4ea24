package hand

import (
	"slices"

	"ornamen/core/figure"
	"ornamen/core/lick"
	"ornamen/core/neck"
)

// longScale is above which length of the strings the first frets take three fingers: longer than any
// guitar's, shorter than any bass's (model default).
const longScale neck.MM = 740

// figures are the usual fingers of the chain's nodes by the figures that they lie in. A bent note
// takes the finger that holds it.
func (c *chain) figures() [][]figure.Usual {
	if c.figured != nil {
		return c.figured
	}
	events := make([]Event, len(c.nodes))
	for k, n := range c.nodes {
		events[k].Touches = n.touches
	}
	columns := columnsOf(events)
	out := figure.Fingers(columns, c.m.whose)
	for _, x := range c.cells() {
		copy(out[x.from:x.to], figure.InCell(columns[x.from:x.to], c.m.whose))
	}
	for k, n := range c.nodes {
		for i, t := range n.touches {
			if t.Bent {
				out[k][i] = figure.Usual{}
			}
		}
	}
	c.figured = out
	return out
}

// columnsOf are events as figures see them.
func columnsOf(events []Event) [][]figure.Note {
	columns := make([][]figure.Note, len(events))
	for k, e := range events {
		columns[k] = make([]figure.Note, len(e.Touches))
		for i, t := range e.Touches {
			columns[k][i] = noteOf(t)
		}
	}
	return columns
}

// noteOf is a touch as figures see it.
func noteOf(t Touch) figure.Note {
	return figure.Note{
		Place:   t.Place,
		Pressed: t.fretted(),
		Plain:   t.Slur == "" && !t.Held && !t.Bent,
		Led:     t.Slur == lick.Slide || t.Slur == lick.Shift,
		Mark:    markOf(t),
	}
}

// markOf is how a touch is played beside its place, which cells that are alike share.
func markOf(t Touch) string {
	if t.Bent {
		return string(t.Slur) + "bent"
	}
	return string(t.Slur)
}

// Corrected are the situations in which the player has set other fingers than the usual ones or than
// those of a habit, with what the fingers are instead. fingers are all of the line's, by event and
// touch; set says which of them are the player's.
func (m *Model) Corrected(events []Event, fingers [][]lick.Finger, set func(event, touch int) bool) []figure.Habit {
	plain := make([][]int, len(fingers))
	for k, fs := range fingers {
		plain[k] = make([]int, len(fs))
		for i, f := range fs {
			if f.Fretting() {
				plain[k][i] = int(f)
			}
		}
	}
	return figure.Corrected(columnsOf(events), m.whose, plain, set)
}

// goesAlong says whether some notes go along their string by positions or by a cell.
func (c *chain) goesAlong() bool { return slices.ContainsFunc(c.figures(), alongItsString) }

// departurePenalties is what each finger pays for departing from the figures.
func departurePenalties(u figure.Usual) (by [4]float64) {
	for f := range by {
		if u.Own && f+1 != max(u.ByShape, u.OnString, u.InPosition) {
			by[f] += departsFromHabit
		}
		for _, d := range []struct {
			usual int
			cost  float64
		}{
			{u.ByShape, departsFromShape}, {u.Along, departsAlong}, {u.OnString, departsOnString},
			{u.InPosition, departsInPosition},
		} {
			if d.usual > 0 && f+1 != d.usual {
				by[f] += d.cost
			}
		}
	}
	return by
}
