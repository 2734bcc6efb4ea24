package run

import "ornamen/core/neck"

// Begin is a run from tones that are chosen: the first of a few cells that can be played from there, in the shape and
// at the place that are named, else where the shape begins. The recipe names its key.
func Begin(r Recipe, g neck.Guitar) Recipe {
	if tuning := neck.TuningText(g.Tuning); tuning != neck.TuningText(neck.StandardTuning()) && r.Tuning == "" {
		r.Tuning = tuning
	}
	for _, at := range []string{r.At, ""} {
		for _, cell := range []string{"1 2 3", "1 2", "1"} {
			out := r
			out.At, out.Cell = at, cell
			if grown(out, g) {
				return out
			}
		}
	}
	r.Cell = "1 2 3"
	return r
}
