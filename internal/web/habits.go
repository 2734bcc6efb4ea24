package web

import (
	"context"
	"errors"
	"net/http"
	"strings"

	"ornamen/core/figure"
	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/player"
	"ornamen/core/say"
	"ornamen/internal/store"
)

// errNoHabit is the answer to a habit that is none.
var errNoHabit = errors.New("that is no habit of a hand")

// habitView is a habit as a screen names it.
type habitView struct {
	Value string // as the profile's text has it
	Text  string
	On    bool
}

// corrected are a lick's corrections; those of a line too long to be looked at are left out.
func corrected(ctx context.Context, l lick.Lick, r *judge.Report) ([]figure.Habit, error) {
	if len(l.Notes) >= longLine {
		return nil, nil
	}
	return engineOf(ctx).Corrected(ctx, l, r)
}

// correctedText writes a lick's corrections for its summary, one a line.
func correctedText(ctx context.Context, l lick.Lick, r *judge.Report) (string, error) {
	list, err := corrected(ctx, l, r)
	words := make([]string, len(list))
	for i, h := range list {
		words[i] = h.String()
	}
	return strings.Join(words, "\n"), err
}

// habitsOffered are the habits that the player may be asked about: by the corrections of all licks, those
// of one taken as they are now.
func (a *App) habitsOffered(ctx context.Context, id uint, now []figure.Habit) ([]figure.Habit, error) {
	lines, err := a.store.Corrections(ctx, playing(ctx).key, id)
	if err != nil {
		return nil, err
	}
	for _, line := range lines {
		if h, ok := habitOf(line); ok {
			now = append(now, h)
		}
	}
	return playing(ctx).profile.Offered(now), nil
}

// habitOf reads a habit as it is written; ok is false where it is none.
func habitOf(text string) (h figure.Habit, ok bool) {
	situation, fingers, _ := strings.Cut(text, ": ")
	h = figure.Habit{Situation: situation, Fingers: fingers}
	if situation == player.BendSituation {
		return h, fingers == "3" || fingers == "4"
	}
	list, err := figure.ParseHabits(text)
	return h, err == nil && len(list) == 1
}

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
		a.fail(w, r, invalid{errNoHabit})
		return
	}
	p := a.now.Load().profile
	if f.Keep {
		p = p.Accept(h)
	} else {
		p = p.Decline(h)
	}
	ctx := r.Context()
	err := playerScreen(a).savePlayer(ctx, p)
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

// habitRows are the habits on Player: those that are kept, with a bend's shown by its own setting, and
// those that the corrections offer.
func (a playerScreen) habitRows(ctx context.Context) ([]habitView, error) {
	var out []habitView
	for _, h := range playing(ctx).profile.Own() {
		out = append(out, habitView{h.String(), say.HabitOf(h), true})
	}
	list, err := a.habitsOffered(ctx, 0, nil)
	for _, h := range list {
		if h.Situation != player.BendSituation {
			out = append(out, habitView{h.String(), say.HabitOf(h) + " (you have set it so three times)", false})
		}
	}
	return out, err
}
