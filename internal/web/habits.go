package web

import (
	"context"
	"errors"
	"strings"

	"ornamen/core/figure"
	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/player"
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
func (a *Site) habitsOffered(ctx context.Context, id uint, now []figure.Habit) ([]figure.Habit, error) {
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
