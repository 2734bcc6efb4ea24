package run

import (
	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/play"
)

// Evened is a run with every cell played twice and picked in alternation, so that
// an odd number of strokes on a string becomes an even one; ok is false where
// the run is played so already or has no room.
func Evened(e *play.Engine, l lick.Lick, r Recipe, g neck.Guitar) (w play.WayToPlay, ok bool) {
	if r.Repeat > 1 || r.Bars > 0 {
		return w, false
	}
	r.Repeat = 2
	r.Times *= 2
	run, err := Grow(r, g)
	if err != nil {
		return w, false
	}
	run.Lick.Tempo = l.Tempo
	best := -1
	all := e.Ways(run.Lick)
	for i, x := range all {
		if (x.Name == "alternate, from down" || x.Name == "alternate, from up") && (best < 0 || x.Ceiling > all[best].Ceiling) {
			best = i
		}
	}
	if best < 0 {
		return w, false
	}
	w = all[best]
	w.Name = "each cell twice, " + w.Name
	return w, true
}
