package page

import (
	"context"
	"fmt"
	"net/http"
	"strings"

	"ornamen/core/lick"
	"ornamen/internal/store"
)

// Commit saves a lick that was edited on a revision and ends the work on older ones, whose
// answers nobody waits for any more. what is how history calls the edit. A stale base is a
// *store.StaleError, which Fail answers.
func (a *Site) Commit(ctx context.Context, id, base uint, l lick.Lick, what string) (store.Entry, error) {
	own := Playing(ctx).Who.Own()
	e, err := played(ctx)(a.Store.Commit(ctx, id, base, l.Shared(own), what))
	if err == nil {
		a.Touched(id)
	}
	return e, err
}

// played is an entry as the player of the request plays it: with the fingers of their own.
func played(ctx context.Context) func(store.Entry, error) (store.Entry, error) {
	return func(e store.Entry, err error) (store.Entry, error) {
		e.Lick = e.Lick.For(Playing(ctx).Who.Own())
		return e, err
	}
}

// Change is Commit that goes on to the bench.
func (a *Site) Change(w http.ResponseWriter, r *http.Request, id, base uint, l lick.Lick, what string) error {
	if _, err := a.Commit(r.Context(), id, base, l, what); err != nil {
		return err
	}
	return Redirect(w, r, fmt.Sprintf("/licks/%d", id))
}

// Begin is Add that goes on to the bench.
func (a *Site) Begin(w http.ResponseWriter, r *http.Request, l lick.Lick, what string) error {
	e, err := a.Add(r.Context(), l, what)
	if err != nil {
		return err
	}
	return Redirect(w, r, fmt.Sprintf("/licks/%d", e.ID))
}

// Touched says that a lick has another newest revision.
func (a *Site) Touched(id uint) {
	a.Work.Newer(id)
	a.Wake()
}

// Add puts a new lick into the notebook.
func (a *Site) Add(ctx context.Context, l lick.Lick, what string) (store.Entry, error) {
	e, err := played(ctx)(a.Store.Add(ctx, l.Shared(Playing(ctx).Who.Own()), what))
	if err == nil {
		a.Wake()
	}
	return e, err
}

// Get finds a lick as the player of the request plays it: with the fingers of their own.
func (a *Site) Get(ctx context.Context, id uint) (store.Entry, error) {
	return played(ctx)(a.Store.Get(ctx, id))
}

// WholeAt is a revision of a lick as the player of the request plays it.
func (a *Site) WholeAt(ctx context.Context, id, revision uint) (lick.Lick, error) {
	l, err := a.Store.At(ctx, id, revision)
	return l.For(Playing(ctx).Who.Own()), err
}

// Entry finds the lick of the address as its window shows it.
func (a *Site) Entry(r *http.Request) (store.Entry, error) {
	e, err := a.WholeEntry(r)
	return Shown(r.Context(), e), err
}

// WholeEntry is Entry with all of a long lick.
func (a *Site) WholeEntry(r *http.Request) (store.Entry, error) {
	n, err := ID(r)
	if err != nil {
		return store.Entry{}, err
	}
	return a.Get(r.Context(), n)
}

// EntryAndForm finds the lick of the address and reads the form of a request that changes nothing.
func (a *Site) EntryAndForm(r *http.Request, form any) (store.Entry, error) {
	e, err := a.Entry(r)
	if err != nil {
		return e, err
	}
	return e, a.Decode(r, form)
}

// Does does something with what the address numbers, and goes on to a page, with the number where it says %d.
func (a *Site) Does(do func(context.Context, uint) error, to string) http.HandlerFunc {
	return a.Handler(func(w http.ResponseWriter, r *http.Request) error {
		n, err := ID(r)
		if err == nil {
			err = do(r.Context(), n)
		}
		if err != nil {
			return err
		}
		return Redirect(w, r, strings.Replace(to, "%d", fmt.Sprint(n), 1))
	})
}

// Undo goes back to a lick's revision before, as the player of the request plays it; Redo goes forward again.
func (a *Site) Undo(ctx context.Context, id, base uint) (store.Entry, error) {
	return played(ctx)(a.Store.Undo(ctx, id, base))
}

// Redo is the way back from Undo.
func (a *Site) Redo(ctx context.Context, id, base uint) (store.Entry, error) {
	return played(ctx)(a.Store.Redo(ctx, id, base))
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
	writes, who, key := a.Store.Writes(), Playing(ctx).Who.ID, Playing(ctx).Key
	if x, ok := a.whole.Load(who); ok {
		if o := x.(*overviewed); o.writes == writes && o.player == key {
			return o.counts, o.tags, nil
		}
	}
	counts, err := a.Store.Count(ctx, store.Query{Who: who, Player: key})
	if err != nil {
		return counts, nil, err
	}
	tags, err := a.Store.Tags(ctx, maxTags)
	if err == nil {
		a.whole.Store(who, &overviewed{writes: writes, player: key, counts: counts, tags: tags})
	}
	return counts, tags, err
}

// maxTags is how many tags are offered as filters.
const maxTags = 30
