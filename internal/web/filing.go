package web

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"log"
	"mime/multipart"
	"net/http"
	"path/filepath"
	"slices"
	"strings"

	"ornamen/core/lick"
	"ornamen/format"
	"ornamen/internal/archive"
)

// newLick makes an empty lick and opens it on the bench.
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

// importLick takes files of any format that can be read, each as a new lick, and says
// which could not.
func (a notebookScreen) importLick(w http.ResponseWriter, r *http.Request) {
	f, head, err := r.FormFile("file")
	if err != nil {
		var tooLarge *http.MaxBytesError
		if errors.As(err, &tooLarge) {
			a.fail(w, r, err)
			return
		}
		a.fail(w, r, invalid{errors.New("choose a lick file or a text tab to import")})
		return
	}
	defer f.Close()
	if strings.HasSuffix(strings.ToLower(head.Filename), ".zip") {
		a.importAll(w, r, f, head)
		return
	}
	data, err := io.ReadAll(io.LimitReader(f, lick.MaxBytes+1))
	if len(data) > lick.MaxBytes {
		err = &http.MaxBytesError{Limit: lick.MaxBytes}
	}
	if err != nil {
		a.fail(w, r, err)
		return
	}
	l, remarks, err := readFile(head.Filename, data)
	if err != nil {
		a.fail(w, r, invalid{fmt.Errorf("%s was not imported: %w", cut(filepath.Base(head.Filename)), err)})
		return
	}
	e, err := a.add(r.Context(), l, "imported from "+cut(filepath.Base(head.Filename)))
	if err != nil {
		a.fail(w, r, err)
		return
	}
	link := fmt.Sprintf("/licks/%d", e.ID)
	if len(remarks) > 0 {
		a.sayWith(w, r, http.StatusOK, notice{
			Text:    "It is in the notebook, but not all of it is as it was written. " + strings.Join(remarks, " "),
			Actions: []action{{Label: "Open it", Link: link}},
		})
		return
	}
	http.Redirect(w, r, link, http.StatusSeeOther)
}

// importAll adds a whole notebook that went out as a zip.
func (a notebookScreen) importAll(w http.ResponseWriter, r *http.Request, f multipart.File,
	head *multipart.FileHeader) {
	name := cut(filepath.Base(head.Filename))
	if _, err := archive.Read(r.Context(), f, head.Size, a.store); err != nil {
		a.fail(w, r, mistake(fmt.Errorf("%s was not imported: %w", name, err)))
		return
	}
	a.judging.wake()
	http.Redirect(w, r, "/", http.StatusSeeOther)
}

// exportAll hands the whole notebook over as a zip of plain files.
func (a notebookScreen) exportAll(w http.ResponseWriter, r *http.Request) {
	var b bytes.Buffer
	err := a.work.Do(r.Context(), 0, func(ctx context.Context) error {
		_, err := archive.Write(ctx, &b, a.store)
		return err
	})
	if err != nil {
		a.fail(w, r, err)
		return
	}
	w.Header().Set("Content-Type", "application/zip")
	w.Header().Set("Content-Disposition", `attachment; filename="ornamen-notebook.zip"`)
	if _, err := w.Write(b.Bytes()); err != nil {
		log.Printf("export: %v", err)
	}
}

// readFile reads a lick by what its name says, else by how it begins, with remarks on what
// was read otherwise than it stands there.
func readFile(name string, data []byte) (lick.Lick, []string, error) {
	l, remarks, err := format.Import(name, data)
	if err == nil && l.Title == "" {
		l.Title = cut(strings.TrimSuffix(strings.TrimSuffix(filepath.Base(name), filepath.Ext(name)), ".lick"))
	}
	return l, remarks, err
}

// cut keeps a name from outside short.
func cut(s string) string {
	if r := []rune(s); len(r) > 60 {
		return string(r[:60]) + "…"
	}
	return s
}

// copyLick makes a new lick of the version that is shown.
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

// deleteLick puts a lick aside; the notice brings it back.
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
