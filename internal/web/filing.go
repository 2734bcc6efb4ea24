package web

import (
	"fmt"
	"net/http"
	"slices"

	"ornamen/core/lick"
)

// newLick makes an empty lick and opens it on the bench.
// POST. It has the player's tuning, and tones to begin with that can be changed.
func (a notebookScreen) newLick(w http.ResponseWriter, r *http.Request) {
	l := lick.New()
	l.Tuning = slices.Clone(engineOf(r.Context()).Player.Guitar.Tuning)
	l.Title = "New lick"
	l.Key = lick.Key{Tonic: "A", Scale: "minor pentatonic"}
	e, err := a.add(r.Context(), l, "made")
	if err != nil {
		a.fail(w, r, err)
		return
	}
	http.Redirect(w, r, fmt.Sprintf("/licks/%d", e.ID), http.StatusSeeOther)
}

// copyLick makes a new lick of the version that is shown.
// POST. The copy begins its own history.
func (a notebookScreen) copyLick(w http.ResponseWriter, r *http.Request) {
	e, ok := a.entry(w, r)
	if !ok {
		return
	}
	e.Lick.Title = cutTo(titleOf(e.Lick)+", copy", 200)
	added, err := a.add(r.Context(), e.Lick, fmt.Sprintf("copied from lick %d", e.ID))
	if err != nil {
		a.fail(w, r, err)
		return
	}
	http.Redirect(w, r, fmt.Sprintf("/?show=%d", added.ID), http.StatusSeeOther)
}

// deleteLick puts a lick aside with all its versions; the notice brings it back. POST. One that
// is gone already is not found.
func (a notebookScreen) deleteLick(w http.ResponseWriter, r *http.Request) {
	n, err := id(r)
	if err == nil {
		err = a.store.Delete(r.Context(), n)
	}
	if err != nil {
		a.fail(w, r, err)
		return
	}
	http.Redirect(w, r, fmt.Sprintf("/?gone=%d", n), http.StatusSeeOther)
}

// restoreLick brings a deleted lick back.
func (a notebookScreen) restoreLick(w http.ResponseWriter, r *http.Request) {
	n, err := id(r)
	if err == nil {
		err = a.store.Restore(r.Context(), n)
	}
	if err != nil {
		a.fail(w, r, err)
		return
	}
	http.Redirect(w, r, fmt.Sprintf("/?show=%d", n), http.StatusSeeOther)
}
