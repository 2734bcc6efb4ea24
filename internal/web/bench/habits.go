package bench

import (
	"context"
	"net/http"
	"slices"

	"ornamen/core/say"
	"ornamen/internal/store"
	"ornamen/internal/web/page"
)

// habitOffer is the question of the bench about a habit, or none: where this lick's corrections make one.
func (a Screen) habitOffer(ctx context.Context, v *benchView) error {
	now, err := page.Corrected(ctx, v.Lick, v.Report)
	if err != nil || len(now) == 0 {
		return err
	}
	list, err := a.HabitsOffered(ctx, v.ID, now)
	for _, h := range list {
		if slices.Contains(now, h) {
			v.Habit = &page.Habit{Value: h.String(), Text: say.HabitOffer(h)}
			return nil
		}
	}
	return err
}

// answerHabit takes the habit that was asked about, or declines it, and shows the line in the hands
// that follow. Undo on Player takes the answer back.
func (a Screen) answerHabit(w http.ResponseWriter, r *http.Request) error {
	var f benchForm
	n, err := a.IDAndForm(r, &f)
	if err != nil {
		return err
	}
	h, ok := page.HabitOf(f.Habit)
	if !ok {
		return page.Refuse(page.ErrNoHabit)
	}
	p := page.Playing(a.AsPlayerNow(r.Context())).Profile
	if f.Keep {
		p = p.Accept(h)
	} else {
		p = p.Decline(h)
	}
	ctx := r.Context()
	err = a.SavePlayer(ctx, p, store.Newest)
	if err == nil {
		err = a.LoadPlayers(ctx)
	}
	var e store.Entry
	if err == nil {
		ctx = a.AsPlayerNow(r.Context())
		e, err = a.Get(ctx, n)
	}
	if err != nil {
		return err
	}
	return a.answerBench(w, r.WithContext(ctx), page.Shown(ctx, e), f.caret, f.Have)
}
