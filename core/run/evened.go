package run

import (
	"context"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/propose"
)

// Evened is a run with every cell played twice and picked in alternation, so that
// an odd number of strokes on a string becomes an even one; ok is false where
// the run is played so already or has no room. The error is the context's.
func Evened(ctx context.Context, e *judge.Engine, l lick.Lick, r Recipe,
	g neck.Guitar) (w propose.WayToPlay, ok bool, err error) {
	if r.Repeat > 1 || r.Bars > 0 {
		return w, false, nil
	}
	r.Repeat = 2
	r.Times *= 2
	run, err := Grow(r, g)
	if err != nil {
		return w, false, nil // longer than a run may be
	}
	run.Lick.Tempo = l.Tempo
	best := -1
	all, err := propose.Ways(ctx, e, run.Lick)
	if err != nil {
		return w, false, err
	}
	for i, x := range all {
		if (x.Name == "alternate, from down" || x.Name == "alternate, from up") &&
			(best < 0 || x.Ceiling > all[best].Ceiling) {
			best = i
		}
	}
	if best < 0 {
		return w, false, nil
	}
	w = all[best]
	w.Name = "each cell twice, " + w.Name
	return w, true, nil
}
