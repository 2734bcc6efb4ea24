package hand

import (
	"slices"

	"ornamen/core/figure"
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
	columns := make([][]figure.Note, len(c.nodes))
	for k, n := range c.nodes {
		columns[k] = make([]figure.Note, len(n.touches))
		for i, t := range n.touches {
			columns[k][i] = figure.Note{
				Place:   t.Place,
				Pressed: t.fretted(),
				Plain:   t.Slur == "" && !t.Held && !t.Bent,
			}
		}
	}
	out := figure.Fingers(columns, c.m.Guitar.Scale > longScale)
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

// goesAlong says whether some notes go along their string by positions or by a cell.
func (c *chain) goesAlong() bool {
	return slices.ContainsFunc(c.figures(), func(us []figure.Usual) bool {
		return slices.ContainsFunc(us, func(u figure.Usual) bool { return u.Along > 0 })
	})
}

// pays is what each finger pays for departing from the figures.
func pays(u figure.Usual) (by [4]float64) {
	for f := range by {
		for _, d := range []struct {
			usual int
			cost  float64
		}{{u.ByShape, departsFromShape}, {u.Along, departsAlong}, {u.OnString, departsOnString}, {u.InPosition, departsInPosition}} {
			if d.usual > 0 && f+1 != d.usual {
				by[f] += d.cost
			}
		}
	}
	return by
}
