package web

import (
	"context"
	"errors"
	"fmt"
	"net/http"

	"ornamen/core/lick"
	"ornamen/internal/store"
)

// commit saves a lick that was edited on a revision and ends the work on older ones, whose
// answers nobody waits for any more. what is how history calls the edit. A stale base is a
// *store.StaleError, for failStale.
func (a *Site) commit(ctx context.Context, id, base uint, l lick.Lick, what string) (store.Entry, error) {
	e, err := a.store.Commit(ctx, id, base, l, what)
	if err == nil {
		a.touched(id)
	}
	return e, err
}

// touched says that a lick has another newest revision.
func (a *Site) touched(id uint) {
	a.work.Newer(id)
	a.wake()
}

// add puts a new lick into the notebook.
func (a *Site) add(ctx context.Context, l lick.Lick, what string) (store.Entry, error) {
	e, err := a.store.Add(ctx, l, what)
	if err == nil {
		a.wake()
	}
	return e, err
}

// failStale answers a write on an old revision: both versions are kept, and the
// player chooses.
// Any other error is answered as fail does.
func (a *Site) failStale(w http.ResponseWriter, r *http.Request, id uint, err error) {
	var stale *store.StaleError
	if !errors.As(err, &stale) {
		a.fail(w, r, err)
		return
	}
	n := notice{
		Text:    sentence(stale.Error()),
		Actions: []action{{Label: "Show the newest", Link: fmt.Sprintf("/licks/%d", id)}},
	}
	if stale.Kept > 0 {
		n.Actions = append(
			n.Actions,
			action{
				Label: "Take mine instead",
				Post:  fmt.Sprintf("/licks/%d/keep", id),
				Rev:   stale.Head,
				Value: stale.Kept,
			},
		)
	}
	a.sayWith(w, r, http.StatusConflict, n)
}

// entry finds the lick of the address as its window shows it, or answers why not.
// Callers return at once where ok is false.
func (a *Site) entry(w http.ResponseWriter, r *http.Request) (store.Entry, bool) {
	e, ok := a.wholeEntry(w, r)
	return shown(r.Context(), e), ok
}

// wholeEntry is entry with all of a long lick.
func (a *Site) wholeEntry(w http.ResponseWriter, r *http.Request) (store.Entry, bool) {
	n, err := id(r)
	if err == nil {
		var e store.Entry
		if e, err = a.store.Get(r.Context(), n); err == nil {
			return e, true
		}
	}
	a.fail(w, r, err)
	return store.Entry{}, false
}

// look finds the lick of the address and reads the form of a request that changes nothing; what
// is wrong with either is answered, and the caller returns at once.
func (a *Site) look(w http.ResponseWriter, r *http.Request, form any) (e store.Entry, ok bool) {
	if e, ok = a.entry(w, r); !ok {
		return e, false
	}
	if err := a.decode(r, form); err != nil {
		a.fail(w, r, err)
		return e, false
	}
	return e, true
}

// forget takes away what the address numbers, and goes back to its screen.
func (a *Site) forget(w http.ResponseWriter, r *http.Request, take func(context.Context, uint) error, back string) {
	n, err := id(r)
	if err == nil {
		err = take(r.Context(), n)
	}
	if err != nil {
		a.fail(w, r, err)
		return
	}
	http.Redirect(w, r, back, http.StatusSeeOther)
}

// mover is undo or redo.
type mover func(ctx context.Context, id, base uint) (store.Entry, error)

// overviewed is what the notebook says of itself, at one count of writes.
type overviewed struct {
	writes uint64
	player string
	counts store.Counts
	tags   []string
}

// overview counts the licks and lists their tags, once for every write: a page of a notebook
// with ten thousand licks would else count them each time.
func (a *Site) overview(ctx context.Context) (store.Counts, []string, error) {
	writes, key := a.store.Writes(), playing(ctx).key
	if o := a.whole.Load(); o != nil && o.writes == writes && o.player == key {
		return o.counts, o.tags, nil
	}
	counts, err := a.store.Count(ctx, store.Query{Player: key})
	if err != nil {
		return counts, nil, err
	}
	tags, err := a.store.Tags(ctx, maxTags)
	if err == nil {
		a.whole.Store(&overviewed{writes, key, counts, tags})
	}
	return counts, tags, err
}

// maxTags is how many tags are offered as filters.
const maxTags = 30
