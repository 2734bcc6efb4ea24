package bench

import (
	"context"
	"errors"
	"fmt"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/run"
	"ornamen/core/turn"
	"ornamen/internal/store"
	"ornamen/internal/web/page"
)

// appendEdit lets the line go on after the note at the caret, or from its end, with what the player names: the title of
// a lick, a recipe, or a cell of the line's own tones. Its hands are found anew where nothing is locked, as the join
// may ask for other fingers on both sides.
func (a Screen) appendEdit(ctx context.Context, base store.Entry, f benchForm) (lick.Edit, error) {
	l := base.Lick
	at := 0 // the note in whose place it goes on, from 1; 0 is the end
	if f.Note >= 1 && f.Note < len(l.Notes) {
		if _, to := l.Column(f.Note - 1); to < len(l.Notes) { // what sounds with it stays
			at = to + 1
		}
	}
	more, name, err := a.named(ctx, l, strings.TrimSpace(f.Value), at)
	if err != nil {
		return nil, err
	}
	when, err := turn.ParseSeam(f.Seam)
	if err != nil {
		return nil, err
	}
	joined, err := turn.Join(l, more, at, when)
	if err != nil {
		return nil, err
	}
	if joined, err = page.Handed(ctx, joined); err != nil {
		return nil, err
	}
	why := "goes on with " + name
	if at > 0 {
		why = fmt.Sprintf("goes on after note %d with %s", at-1, name)
	}
	return lick.Replace{Lick: joined, Why: why}, nil
}

// named is the line that a player's words mean, and what to call it. Words that begin with --
// are a recipe; a title, in any case, comes before a cell, since "1 2 3" is seldom one.
func (a Screen) named(ctx context.Context, l lick.Lick, words string, at int) (lick.Lick, string, error) {
	g := page.EngineOf(ctx).Player.Guitar
	switch {
	case words == "":
		return l, "", errors.New("name a lick, a recipe or a cell to go on with")
	case strings.HasPrefix(words, "--"):
		r, err := run.Parse(words)
		if err != nil {
			return l, "", err
		}
		grown, err := run.Grow(r, g.WithTuning(l.Tuning))
		if err != nil {
			return l, "", err
		}
		return grown.Lick, "a run", nil
	}
	rows, err := a.Store.List(ctx, store.Query{Find: words, Limit: 50})
	if err != nil {
		return l, "", err
	}
	for _, r := range rows {
		if !strings.EqualFold(r.Title, words) {
			continue
		}
		e, err := a.Get(ctx, r.ID)
		return e.Lick, "“" + r.Title + "”", err
	}
	last := len(l.Notes) - 1
	if at > 0 {
		last = at - 2
	}
	cell, err := turn.CellAfter(g, l, words, last)
	if err != nil && len(strings.Fields(words)) == 1 {
		err = fmt.Errorf("no lick is called %q, and as a cell: %w", words, err)
	}
	return cell, "the cell " + words, err
}
