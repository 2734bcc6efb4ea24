package page

import (
	"context"
	"net/http"

	"ornamen/core/lick"
	"ornamen/internal/store"
)

// Commit saves a lick that was edited on a revision and ends the work on older ones, whose
// answers nobody waits for any more. what is how history calls the edit. A stale base is a
// *store.StaleError, which Fail answers.
func (a *Site) Commit(ctx context.Context, id, base uint, l lick.Lick, what string) (store.Entry, error) {
	own := Playing(ctx).Who.Own()
	e, err := a.Store.Commit(ctx, id, base, l.Shared(own), what)
	if err == nil {
		a.Touched(id)
	}
	e.Lick = e.Lick.For(own)
	return e, err
}

// Touched says that a lick has another newest revision.
func (a *Site) Touched(id uint) {
	a.Work.Newer(id)
	a.Wake()
}

// Add puts a new lick into the notebook.
func (a *Site) Add(ctx context.Context, l lick.Lick, what string) (store.Entry, error) {
	own := Playing(ctx).Who.Own()
	e, err := a.Store.Add(ctx, l.Shared(own), what)
	if err == nil {
		a.Wake()
	}
	e.Lick = e.Lick.For(own)
	return e, err
}

// Get finds a lick as the player of the request plays it: with the fingers of their own.
func (a *Site) Get(ctx context.Context, id uint) (store.Entry, error) {
	e, err := a.Store.Get(ctx, id)
	e.Lick = e.Lick.For(Playing(ctx).Who.Own())
	return e, err
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

// Forget takes away what the address numbers, and goes back to its screen.
func (a *Site) Forget(take func(context.Context, uint) error, back string) http.HandlerFunc {
	return a.Handler(func(w http.ResponseWriter, r *http.Request) error {
		n, err := ID(r)
		if err == nil {
			err = take(r.Context(), n)
		}
		if err != nil {
			return err
		}
		return Redirect(w, r, back)
	})
}

// Undo goes back to a lick's revision before, as the player of the request plays it; Redo goes forward again.
func (a *Site) Undo(ctx context.Context, id, base uint) (store.Entry, error) {
	e, err := a.Store.Undo(ctx, id, base)
	e.Lick = e.Lick.For(Playing(ctx).Who.Own())
	return e, err
}

// Redo is the way back from Undo.
func (a *Site) Redo(ctx context.Context, id, base uint) (store.Entry, error) {
	e, err := a.Store.Redo(ctx, id, base)
	e.Lick = e.Lick.For(Playing(ctx).Who.Own())
	return e, err
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
		a.whole.Store(who, &overviewed{writes, key, counts, tags})
	}
	return counts, tags, err
}

// maxTags is how many tags are offered as filters.
const maxTags = 30
