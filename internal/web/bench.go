package web

import (
	"bytes"
	"context"
	"fmt"
	"log"
	"net/http"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/internal/store"
)

// benchScreen is one lick with its hands, its judgement and everything that changes it.
type benchScreen struct{ *Site }

// Routes implements Screen.
func (a benchScreen) Routes(chi.Router, chi.Router) {}

// OfLick implements Screen.
func (a benchScreen) OfLick(r, work chi.Router) {
	r.Get("/", a.bench)
	r.Get("/at", a.benchAt)
	work.Get("/sound.wav", a.soundFile)
	work.Get("/sounding", a.soundTimes)
	work.Get("/mend", a.mend)
	work.Get("/hands", a.offers)
	work.Get("/turned", a.turned)
	r.Get("/versions", a.versions)
	r.Post("/edit", a.edit)
	r.Post("/undo", a.undo)
	r.Post("/redo", a.redo)
	r.Post("/keep", a.keep)
	r.Post("/habit", a.answerHabit)
}

// bench is the page of one lick. The address may carry a caret; without one it opens at the
// bottleneck, which is what a player comes to mend.
func (a benchScreen) bench(w http.ResponseWriter, r *http.Request) {
	var c caret
	e, ok := a.look(w, r, &c)
	if !ok {
		return
	}
	if c.Note == 0 && len(e.Lick.Notes) > 0 {
		// Open where it matters: at the bottleneck.
		rep, err := a.report(r.Context(), e)
		if err != nil {
			a.fail(w, r, err)
			return
		}
		c.Note, c.Lane = 1, "finger"
		if b := rep.Bottleneck; len(b) > 0 {
			c.Note = b[len(b)-1]
		}
	}
	v, parts, err := a.drawn(r.Context(), e, c)
	if err == nil {
		v.Window, err = a.windowView(r.Context(), e.ID, e.Revision)
	}
	if err != nil {
		a.fail(w, r, err)
		return
	}
	a.render(w, r, http.StatusOK, "bench",
		page{Title: v.Title, Where: "bench", BenchID: e.ID, Data: benchPage{v, parts}})
}

// benchPage is the bench with its parts drawn.
// A fragment is drawn once and stands in the page as it will be replaced: the first look and
// every later answer have the same bytes.
type benchPage struct {
	*benchView
	Parts []part
}

// Part finds one part by name, for the page's layout.
func (p benchPage) Part(name string) part {
	for _, q := range p.Parts {
		if q.Name == name {
			return q
		}
	}
	return part{}
}

// partNames are the fragments of the bench, each a template "part-" + name. They are cut by
// what changes together: a caret that moves changes neck, foot and ledger, a finger also the
// judgement, and most edits neither title nor tones.
var partNames = []string{
	"title",
	"tonespill",
	"tones",
	"countpill",
	"setting",
	"history",
	"neck",
	"ledger",
	"judge",
	"foot",
	"state",
}

// drawn is the bench of a lick at a caret, and its fragments.
func (a benchScreen) drawn(ctx context.Context, e store.Entry, c caret) (*benchView, []part, error) {
	v, err := a.benchView(ctx, e, c)
	if err != nil {
		return nil, nil, err
	}
	parts, err := a.parts(v)
	return v, parts, err
}

// parts draws the fragments.
// The error is a fault of a template.
func (a benchScreen) parts(v *benchView) ([]part, error) {
	out := make([]part, len(partNames))
	for i, name := range partNames {
		var b bytes.Buffer
		if err := a.draw(&b, "part-"+name, v); err != nil {
			return nil, fmt.Errorf("draw %s: %w", name, err)
		}
		out[i] = newPart(name, b.Bytes())
	}
	return out, nil
}

// benchForm is a request from the bench: where the caret is, the revision it was made on, which
// fragments the browser has, and what is to be done. Do and Value are the words of package
// edit, or one of the four that need more than the lick (editOf).
type benchForm struct {
	caret
	askForm
	Rev   uint   `form:"rev"`
	Have  string `form:"have"` // "neck:hash ledger:hash"
	Do    string `form:"do"`
	Value string `form:"value"`
	To    string `form:"to"`   // STRING:FRET
	Seam  string `form:"seam"` // when a line that is appended begins, see turn.Seam
	Habit string `form:"habit"`
	Keep  bool   `form:"keep"` // the habit that was asked about
}

// answerBench sends the fragments that the browser does not have yet, each by its name and the
// hash of its bytes. Equal values draw equal bytes, so that nothing is compared but hashes; an
// edit of a 64-note line takes about 20 ms from request to fragments, most of it the judgement
// (BenchmarkEdit), and moving the caret 7 (BenchmarkCaret).
func (a benchScreen) answerBench(w http.ResponseWriter, r *http.Request, e store.Entry, c caret, have string) {
	_, parts, err := a.drawn(r.Context(), e, c)
	if err != nil {
		a.fail(w, r, err)
		return
	}
	known := map[string]bool{}
	for _, h := range strings.Fields(have) {
		known[h] = true
	}
	var b bytes.Buffer
	for _, p := range parts {
		if !known[p.Name+":"+p.Hash] {
			p.writePartial(&b)
		}
	}
	b.WriteString(clearNotice)
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	w.Header().Set("Cache-Control", "no-store")
	if _, err := w.Write(b.Bytes()); err != nil {
		log.Printf("answer: %v", err)
	}
}

// benchAt answers a caret that has moved: the fragments that depend on it.
func (a benchScreen) benchAt(w http.ResponseWriter, r *http.Request) {
	var f benchForm
	if err := a.decode(r, &f); err != nil {
		a.fail(w, r, err)
		return
	}
	if e, ok := a.entry(w, r); ok {
		a.answerBench(w, r, e, f.caret, f.Have)
	}
}

// benchRequest reads which lick is meant and the form; what is wrong with either is
// answered.
func (a benchScreen) benchRequest(w http.ResponseWriter, r *http.Request) (n uint, f benchForm, ok bool) {
	n, err := id(r)
	if err == nil {
		err = a.decode(r, &f)
	}
	if err != nil {
		a.fail(w, r, err)
	}
	return n, f, err == nil
}

// edit makes one edit, a key press or a click, and answers with the fragments that it
// changed. An edit that was made on an older revision is refused, and the page takes the
// newer one.
// POST /licks/ID/edit. What the edit is comes from editOf, what it does from the edit itself;
// nothing of the trade is decided here.
func (a benchScreen) edit(w http.ResponseWriter, r *http.Request) {
	n, f, ok := a.benchRequest(w, r)
	if !ok {
		return
	}
	base, err := a.at(r.Context(), n, f.Rev)
	if err != nil {
		a.fail(w, r, err)
		return
	}
	ed, err := a.editOf(r.Context(), store.Entry{ID: n, Revision: f.Rev, Lick: base}, f)
	if err != nil {
		a.fail(w, r, mistake(err))
		return
	}
	next, err := ed.Apply(base)
	if err != nil {
		a.fail(w, r, refuse(err))
		return
	}
	e, err := a.commitShown(r.Context(), n, f.Rev, next, ed.What())
	if err != nil {
		a.failStale(w, r, n, err)
		return
	}
	a.answerBench(w, r, e, follow(f, base, next), f.Have)
}

// follow moves the caret along with an edit.
// Elsewhere it stays on its number: an edit of hands or bends leaves the notes where they are.
func follow(f benchForm, base, next lick.Lick) caret {
	c := f.caret
	switch f.Do {
	case "place", "insert":
		// A note put into the empty column leaves the caret behind it.
		if f.Note > len(base.Notes) {
			c.Note = len(next.Notes) + 1
		} else if f.Do == "insert" {
			c.Note = f.Note + 1
		}
	case "earlier":
		c.Note--
	case "later":
		c.Note++
	case "remove":
		c.Note = min(c.Note, max(1, len(next.Notes)))
	}
	return c
}

// keep makes a version that was kept aside the newest: the answer to "Take mine instead" after
// two tabs wrote on one revision. The other version stays in the history.
func (a benchScreen) keep(w http.ResponseWriter, r *http.Request) {
	n, f, ok := a.benchRequest(w, r)
	if !ok {
		return
	}
	kept, err := strconv.ParseUint(f.Value, 10, 31)
	if err != nil {
		a.fail(w, r, store.ErrNotFound)
		return
	}
	l, err := a.store.At(r.Context(), n, uint(kept))
	if err != nil {
		a.fail(w, r, err)
		return
	}
	if _, err := a.commit(r.Context(), n, f.Rev, l, "the other version"); err != nil {
		a.failStale(w, r, n, err)
		return
	}
	http.Redirect(w, r, fmt.Sprintf("/licks/%d", n), http.StatusSeeOther)
}

// undo goes one revision back.
func (a benchScreen) undo(w http.ResponseWriter, r *http.Request) { a.travel(w, r, a.store.Undo) }

// redo goes one revision on.
func (a benchScreen) redo(w http.ResponseWriter, r *http.Request) { a.travel(w, r, a.store.Redo) }

// travel moves along the revisions and answers as an edit does. A lick's revisions form a chain
// from which nothing is taken, so that redo finds what undo left until another edit begins from
// there.
func (a benchScreen) travel(w http.ResponseWriter, r *http.Request, move mover) {
	n, f, ok := a.benchRequest(w, r)
	if !ok {
		return
	}
	e, err := move(r.Context(), n, f.Rev)
	if err != nil {
		a.failStale(w, r, n, err)
		return
	}
	a.touched(n)
	a.answerBench(w, r, shown(r.Context(), e), f.caret, f.Have)
}

// mend tries fixes for the findings and sends the findings with them. The page asks for it when
// it has shown the judgement, as every fix costs a judgement more; an edit in the meantime ends
// it with 409.
func (a benchScreen) mend(w http.ResponseWriter, r *http.Request) {
	e, ok := a.entry(w, r)
	if !ok {
		return
	}
	v, err := a.benchView(r.Context(), e, caret{})
	var rep *judge.Report
	if err == nil {
		rep, err = a.mended(r.Context(), e)
	}
	if err != nil {
		a.fail(w, r, err)
		return
	}
	v.Mended, v.LeftOut = true, rep.LeftOut
	v.found(rep.Findings)
	a.render(w, r, http.StatusOK, "findings", page{Data: v})
}
