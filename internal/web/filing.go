package web

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"log"
	"mime"
	"net/http"
	"slices"

	"ornamen/core/lick"
	"ornamen/format"
	"ornamen/internal/archive"
	"ornamen/internal/handover"
	"ornamen/internal/store"
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

// exportAll hands licks over as a zip: the whole notebook with its versions, or, where a format
// is named, those of a tag or all as files of that format. It is made in memory before the
// first byte is sent, so that a lick that cannot be written is an error and not half a file.
func (a notebookScreen) exportAll(w http.ResponseWriter, r *http.Request) {
	var f struct {
		Tag string `form:"tag"`
		As  string `form:"as"`
	}
	if err := a.decode(r, &f); err != nil {
		a.fail(w, r, err)
		return
	}
	var b bytes.Buffer
	err := a.work.Do(r.Context(), 0, func(ctx context.Context) error {
		if f.As != "" {
			return a.packed(ctx, &b, f.As, f.Tag)
		}
		_, err := archive.Write(ctx, &b, a.store)
		return err
	})
	if err != nil {
		a.fail(w, r, err)
		return
	}
	name := "ornamen-notebook.zip"
	if f.As != "" {
		name = "ornamen-" + f.As + ".zip"
	}
	w.Header().Set("Content-Type", "application/zip")
	w.Header().Set("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": name}))
	if _, err := w.Write(b.Bytes()); err != nil {
		log.Printf("export: %v", err)
	}
}

// maxHandedOver is how many licks go out in a zip of one format.
const maxHandedOver = 2000

// packed writes the licks of a tag, or all, as files of a format.
// Too many, none, or more sound than a file holds are the player's to know of; a format that is
// none cannot come from our pages.
func (a notebookScreen) packed(ctx context.Context, w io.Writer, as, tag string) error {
	f, ok := format.ByName(as)
	if !ok {
		return invalid{fmt.Errorf("there is no format %q", cut(as))}
	}
	rows, err := a.store.List(ctx, store.Query{Tag: tag, Order: store.ByTitle, Limit: maxHandedOver + 1})
	if err != nil {
		return err
	}
	if len(rows) > maxHandedOver {
		return invalid{fmt.Errorf("at most %d licks go into one zip; choose a tag", maxHandedOver)}
	}
	var licks []lick.Lick
	for _, row := range rows {
		e, err := a.store.Get(ctx, row.ID)
		if err != nil {
			return err
		}
		licks = append(licks, e.Lick)
	}
	if len(licks) == 0 {
		return invalid{errors.New("no lick fits, so that there is nothing to hand over")}
	}
	return mistake(handover.Pack(ctx, engineOf(ctx), w, licks, f))
}

// cut keeps a name from outside short.
func cut(s string) string {
	if r := []rune(s); len(r) > 60 {
		return string(r[:60]) + "…"
	}
	return s
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

// cutTo shortens a title to so many characters.
func cutTo(s string, n int) string {
	if r := []rune(s); len(r) > n {
		return string(r[:n])
	}
	return s
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
