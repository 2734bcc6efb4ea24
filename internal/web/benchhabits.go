package web

import (
	"context"
	"net/http"

	"ornamen/core/say"
	"ornamen/internal/store"
)

// habitOffer is the question of the bench about a habit, or none: where this lick's corrections make one.
func (a benchScreen) habitOffer(ctx context.Context, v *benchView) error {
	now, err := corrected(ctx, v.Lick, v.Report)
	if err != nil || len(now) == 0 {
		return err
	}
	list, err := a.habitsOffered(ctx, v.ID, now)
	for _, h := range list {
		for _, mine := range now {
			if h == mine {
				v.Habit = &habitView{Value: h.String(), Text: say.HabitOffer(h)}
				return nil
			}
		}
	}
	return err
}

// answerHabit takes the habit that was asked about, or declines it, and shows the line in the hands
// that follow. Undo on Player takes the answer back.
func (a benchScreen) answerHabit(w http.ResponseWriter, r *http.Request) {
	n, f, ok := a.benchRequest(w, r)
	if !ok {
		return
	}
	h, ok := habitOf(f.Habit)
	if !ok {
		a.fail(w, r, refuse(errNoHabit))
		return
	}
	p := a.current().profile
	if f.Keep {
		p = p.Accept(h)
	} else {
		p = p.Decline(h)
	}
	ctx := r.Context()
	err := a.savePlayer(ctx, p)
	if err == nil {
		err = a.loadPlayer(ctx)
	}
	var e store.Entry
	if err == nil {
		ctx = a.asNow(ctx)
		e, err = a.store.Get(ctx, n)
	}
	if err != nil {
		a.fail(w, r, err)
		return
	}
	a.answerBench(w, r.WithContext(ctx), shown(ctx, e), f.caret, f.Have)
}
