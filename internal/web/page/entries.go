package page

import (
	"context"
	"errors"
	"fmt"
	"net/http"

	"ornamen/core/lick"
	"ornamen/internal/store"
)

// Commit saves a lick that was edited on a revision and ends the work on older ones, whose
// answers nobody waits for any more. what is how history calls the edit. A stale base is a
// *store.StaleError, for failStale.
func (a *Site) Commit(ctx context.Context, id, base uint, l lick.Lick, what string) (store.Entry, error) {
	e, err := a.Store.Commit(ctx, id, base, l, what)
	if err == nil {
		a.Touched(id)
	}
	return e, err
}

// Touched says that a lick has another newest revision.
func (a *Site) Touched(id uint) {
	a.Work.Newer(id)
	a.Wake()
}

// Add puts a new lick into the notebook.
func (a *Site) Add(ctx context.Context, l lick.Lick, what string) (store.Entry, error) {
	e, err := a.Store.Add(ctx, l, what)
	if err == nil {
		a.Wake()
	}
	return e, err
}

// FailStale answers a write on an old revision: both versions are kept, and the
// player chooses.
// Any other error is answered as fail does.
func (a *Site) FailStale(w http.ResponseWriter, r *http.Request, id uint, err error) {
	var stale *store.StaleError
	if !errors.As(err, &stale) {
		a.Fail(w, r, err)
		return
	}
	n := Notice{Text: Sentence(stale.Error()),
		Actions: []Action{{Label: "Show the newest", Link: fmt.Sprintf("/licks/%d", id)}}}
	if stale.Kept > 0 {
		n.Actions = append(
			n.Actions,
			Action{
				Label: "Take mine instead",
				Post:  fmt.Sprintf("/licks/%d/keep", id),
				Rev:   stale.Head,
				Value: stale.Kept,
			},
		)
	}
	a.SayWith(w, r, http.StatusConflict, n)
}

// Entry finds the lick of the address as its window shows it, or answers why not.
// Callers return at once where ok is false.
func (a *Site) Entry(w http.ResponseWriter, r *http.Request) (store.Entry, bool) {
	e, ok := a.WholeEntry(w, r)
	return Shown(r.Context(), e), ok
}

// WholeEntry is entry with all of a long lick.
func (a *Site) WholeEntry(w http.ResponseWriter, r *http.Request) (store.Entry, bool) {
	n, err := ID(r)
	if err == nil {
		var e store.Entry
		if e, err = a.Store.Get(r.Context(), n); err == nil {
			return e, true
		}
	}
	a.Fail(w, r, err)
	return store.Entry{}, false
}

// Look finds the lick of the address and reads the form of a request that changes nothing; what
// is wrong with either is answered, and the caller returns at once.
func (a *Site) Look(w http.ResponseWriter, r *http.Request, form any) (e store.Entry, ok bool) {
	if e, ok = a.Entry(w, r); !ok {
		return e, false
	}
	if err := a.Decode(r, form); err != nil {
		a.Fail(w, r, err)
		return e, false
	}
	return e, true
}

// Forget takes away what the address numbers, and goes back to its screen.
func (a *Site) Forget(w http.ResponseWriter, r *http.Request, take func(context.Context, uint) error, back string) {
	n, err := ID(r)
	if err == nil {
		err = take(r.Context(), n)
	}
	if err != nil {
		a.Fail(w, r, err)
		return
	}
	http.Redirect(w, r, back, http.StatusSeeOther)
}

// Mover is undo or redo.
type Mover func(ctx context.Context, id, base uint) (store.Entry, error)

// overviewed is what the notebook says of itself, at one count of writes.
type overviewed struct {
	writes uint64
	player string
	counts store.Counts
	tags   []string
}

// Overview counts the licks and lists their tags, once for every write: a page of a notebook
// with ten thousand licks would else count them each time.
func (a *Site) Overview(ctx context.Context) (store.Counts, []string, error) {
	writes, key := a.Store.Writes(), Playing(ctx).Key
	if o := a.whole.Load(); o != nil && o.writes == writes && o.player == key {
		return o.counts, o.tags, nil
	}
	counts, err := a.Store.Count(ctx, store.Query{Player: key})
	if err != nil {
		return counts, nil, err
	}
	tags, err := a.Store.Tags(ctx, maxTags)
	if err == nil {
		a.whole.Store(&overviewed{writes, key, counts, tags})
	}
	return counts, tags, err
}

// maxTags is how many tags are offered as filters.
const maxTags = 30
