package hand

import "ornamen/core/figure"

// figured is what the figures around a node say of its finger.
type figured figure.Usual

// figures are the usual fingers of the chain's nodes by the figures that they lie in. Grips take no
// part, and a bent note takes the finger that holds it.
func (c *chain) figures() []figured {
	notes := make([]figure.Note, len(c.nodes))
	for k, n := range c.nodes {
		notes[k] = figure.Note{Place: n.touches[0].Place, Alone: len(n.touches) == 1 && n.touches[0].fretted()}
	}
	out := make([]figured, len(notes))
	for k, u := range figure.Fingers(notes) {
		if n := &c.nodes[k]; len(n.touches) == 1 && !n.touches[0].Bent {
			out[k] = figured(u)
		}
	}
	return out
}

// pays is what each finger pays for departing from the figures.
func (u figured) pays() (by [4]float64) {
	for f := range by {
		if u.OnString > 0 && f+1 != u.OnString {
			by[f] += departsOnString
		}
		if u.InPosition > 0 && f+1 != u.InPosition {
			by[f] += departsInPosition
		}
	}
	return by
}
