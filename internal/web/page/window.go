package page

import (
	"context"
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"ornamen/core/lick"
	"ornamen/internal/store"
)

// A long lick is shown by a part of it, a window of bars. The address names the bar that the window
// begins with, "/licks/7.65" for bar 65, so that two tabs may show two parts, and a page's edits
// are of the part that it shows. What is in the window is a lick of its own for every screen; an
// edit is put back in its place in the whole one. A lick that is not long is its own window.

// Limits of a window: what a page draws and judges in a blink or two.
const (
	windowNotes = 512
	windowBars  = 64
)

// windowKey is under which a request's context holds the bar that its window begins with.
type windowKey struct{}

// InWindow reads which bar the address of a lick names.
func InWindow(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		id, bar := chi.URLParam(r, "id"), 1
		if id == "" {
			next.ServeHTTP(w, r)
			return
		}
		if _, s, ok := strings.Cut(id, "."); ok {
			if n, err := strconv.Atoi(s); err == nil && n >= 1 && n <= 1_000_000 {
				bar = n
			}
		}
		next.ServeHTTP(w, r.WithContext(context.WithValue(r.Context(), windowKey{}, bar)))
	})
}

// barOf is the bar that a request's window begins with; 0 where it has none.
func barOf(ctx context.Context) int {
	bar, _ := ctx.Value(windowKey{}).(int)
	return bar
}

// window is a part of a long lick.
type window struct {
	lick.Excerpt
	Bar, Last, Of int // its bars, and how many the whole lick has
}

// windowOf is the part of a lick that a request is about; ok is false where it is the whole.
func windowOf(ctx context.Context, l lick.Lick) (w window, ok bool) {
	bar := barOf(ctx)
	if bar == 0 || len(l.Notes) <= 2*windowNotes {
		return w, false
	}
	begins := func(bar int) lick.Time { // bar 1 with the pick-up
		if bar <= 1 {
			return lick.Time{}
		}
		return l.Pickup.Add(l.Meter.Bar().Times(int64(bar - 1)))
	}
	whole, rest := l.End().Sub(l.Pickup).Div(l.Meter.Bar())
	w.Of = int(whole)
	if !rest.IsZero() {
		w.Of++
	}
	w.Bar = min(bar, max(1, w.Of))
	for w.Last = min(w.Of, w.Bar+windowBars-1); ; w.Last = w.Bar + (w.Last-w.Bar)/2 {
		w.Excerpt = l.Excerpt(begins(w.Bar), begins(w.Last+1))
		if w.To-w.From <= windowNotes || w.Last == w.Bar {
			return w, true
		}
	}
}

// Shown is an entry with what its window shows.
func Shown(ctx context.Context, e store.Entry) store.Entry {
	if w, ok := windowOf(ctx, e.Lick); ok {
		e.Lick = w.Excerpt.Lick
	}
	return e
}

// At is a revision of a lick as the window shows it.
func (a *Site) At(ctx context.Context, id, revision uint) (lick.Lick, error) {
	l, err := a.WholeAt(ctx, id, revision)
	return Shown(ctx, store.Entry{Lick: l}).Lick, err
}

// CommitShown saves what was made of a window's lick: put back into the whole one.
func (a *Site) CommitShown(ctx context.Context, id, base uint, l lick.Lick, what string) (store.Entry, error) {
	if barOf(ctx) > 0 {
		whole, err := a.WholeAt(ctx, id, base)
		if err != nil {
			return store.Entry{}, err
		}
		if w, ok := windowOf(ctx, whole); ok {
			if l = w.Into(whole, l); len(l.Notes) > lick.MaxNotes {
				return store.Entry{}, Refuse(fmt.Errorf("a lick has at most %d notes", lick.MaxNotes))
			}
		}
	}
	e, err := a.Commit(ctx, id, base, l, what)
	return Shown(ctx, e), err
}

// RefOf names a lick and its window in addresses.
func RefOf(ctx context.Context, id uint) string {
	if bar := barOf(ctx); bar > 1 {
		return fmt.Sprintf("%d.%d", id, bar)
	}
	return fmt.Sprint(id)
}

// WindowView says which bars of a long lick are shown, and leads to others.
type WindowView struct {
	Text           string
	Earlier, Later string // addresses without their screen, empty at the ends
	Screen         string // "/changes", or empty for the bench
}

// WindowView is what the page of a lick says of its window; nil where it shows the whole.
func (a *Site) WindowView(ctx context.Context, id, revision uint) (*WindowView, error) {
	whole, err := a.WholeAt(ctx, id, revision)
	if err != nil {
		return nil, err
	}
	w, ok := windowOf(ctx, whole)
	if !ok {
		return nil, nil
	}
	v := &WindowView{Text: fmt.Sprintf("Bars %d to %d of %d, notes %d to %d of %d: "+
		"a long lick is shown in parts, each counted from 1.",
		w.Bar, w.Last, w.Of, w.From+1, w.To, len(whole.Notes))}
	width := w.Last - w.Bar + 1
	if w.Bar > 1 {
		v.Earlier = fmt.Sprintf("/licks/%d.%d", id, max(1, w.Bar-width))
	}
	if w.Last < w.Of {
		v.Later = fmt.Sprintf("/licks/%d.%d", id, w.Last+1)
	}
	return v, nil
}
