package page

import (
	"context"
	"errors"
	"strings"

	"ornamen/core/figure"
	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/player"
	"ornamen/core/text"
)

// ErrNoHabit is the answer to a habit that is none.
var ErrNoHabit = errors.New("that is no habit of a hand")

// Habit is a habit as a screen names it.
type Habit struct {
	Value string // as the profile's text has it
	Text  string
	On    bool
}

// Corrected are a lick's corrections; those of a line too long to be looked at are left out.
func Corrected(ctx context.Context, l lick.Lick, r *judge.Report) ([]figure.Habit, error) {
	if len(l.Notes) >= LongLine {
		return nil, nil
	}
	return EngineOf(ctx).Corrected(ctx, l, r)
}

// CorrectedText writes a lick's corrections for its summary, one a line.
func CorrectedText(ctx context.Context, l lick.Lick, r *judge.Report) (string, error) {
	list, err := Corrected(ctx, l, r)
	return text.Join(list, "\n", figure.Habit.String), err
}

// HabitsOffered are the habits that the player may be asked about: by the corrections of all licks, those
// of one taken as they are now.
func (a *Site) HabitsOffered(ctx context.Context, id uint, now []figure.Habit) ([]figure.Habit, error) {
	lines, err := a.Store.Corrections(ctx, Playing(ctx).Who.ID, Playing(ctx).Key, id)
	if err != nil {
		return nil, err
	}
	for _, line := range lines {
		if h, ok := HabitOf(line); ok {
			now = append(now, h)
		}
	}
	return Playing(ctx).Profile.Offered(now), nil
}

// HabitOf reads a habit as it is written; ok is false where it is none.
func HabitOf(text string) (h figure.Habit, ok bool) {
	situation, fingers, _ := strings.Cut(text, ": ")
	h = figure.Habit{Situation: situation, Fingers: fingers}
	if situation == player.BendSituation {
		return h, fingers == "3" || fingers == "4"
	}
	list, err := figure.ParseHabits(text)
	return h, err == nil && len(list) == 1
}
