package judge

import (
	"context"
	"strconv"

	"ornamen/core/figure"
	"ornamen/core/hand"
	"ornamen/core/lick"
	"ornamen/core/load"
	"ornamen/core/player"
)

// Corrected are the situations in which the player has set other fingers in a lick than the ones that
// would be proposed, with what they are instead: three alike are a habit (see figure.Habit). The
// report must be Check's of the lick; the error is the context's.
func (e *Engine) Corrected(ctx context.Context, l lick.Lick, r *Report) ([]figure.Habit, error) {
	set := func(i int) bool { return l.Notes[i].Locked(lick.FieldFinger) }
	some, bends := false, false
	for i, n := range l.Notes {
		some = some || set(i)
		bends = bends || set(i) && n.Bend != nil
	}
	if !some || len(r.Lick.Notes) != len(l.Notes) {
		return nil, nil
	}
	ln := e.LayOut(r.Lick, false)
	fingers := make([][]lick.Finger, len(ln.Hand))
	for c, notes := range ln.touches {
		for _, i := range notes {
			fingers[c] = append(fingers[c], r.Lick.Notes[i].Finger)
		}
	}
	m := e.Hand(e.Guitar(l))
	out := m.Corrected(ln.Hand, fingers, func(c, k int) bool { return set(ln.touches[c][k]) })
	if bends {
		out = append(out, e.otherBenders(ctx, l, m, set)...)
	}
	return out, Done(ctx)
}

// otherBenders are the bends that the player gave to ring or little finger where the other one would be proposed.
func (e *Engine) otherBenders(
	ctx context.Context, l lick.Lick, m *hand.Model, set func(int) bool,
) (out []figure.Habit) {
	open := l.Clone()
	for i := range open.Notes {
		if n := &open.Notes[i]; n.Bend != nil && set(i) {
			n.Finger = lick.NoFinger
		}
	}
	filled := e.FillWithin(ctx, open, m, e.Player.Way, load.Slack).Lick
	for i, n := range l.Notes {
		was := filled.Notes[i].Finger
		if n.Bend == nil || !set(i) || n.Finger == was || n.Finger < lick.Ring || n.Finger > lick.Little {
			continue
		}
		out = append(out, figure.Habit{Situation: player.BendSituation, Fingers: strconv.Itoa(int(n.Finger))})
	}
	return out
}
