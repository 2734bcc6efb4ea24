// Package bench is the screen of one lick: its neck and ledger, its judgement with fixes, its hands
// beside others, its history, and every edit.
package bench

import (
	"bytes"
	"context"
	"embed"
	"fmt"
	"html/template"
	"io/fs"
	"log"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/internal/store"
	"ornamen/internal/web/page"
)

// Screen is one lick with its hands, its judgement and everything that changes it.
type Screen struct{ *page.Site }

//go:embed *.html *.js *.css
var files embed.FS

// Menu implements page.Screen.
func (a Screen) Menu() page.MenuEntry {
	return page.MenuEntry{Name: "bench", Title: "Bench", Address: func(lick uint, _ string) string {
		if lick == 0 {
			return "/bench"
		}
		return fmt.Sprintf("/licks/%d", lick)
	}}
}

// Files implements page.Screen.
func (a Screen) Files() fs.FS { return files }

// Routes implements page.Screen.
func (a Screen) Routes(r, work chi.Router) {
	r.Get("/bench", a.Handler(a.last))
	r.Get("/licks/{id}", a.Handler(a.bench))
	r.Get("/licks/{id}/", a.Handler(a.bench))
	r.Get("/licks/{id}/at", a.Handler(a.benchAt))
	r.Get("/licks/{id}/clip", a.Handler(a.clip))
	r.Get("/licks/{id}/figures", a.Handler(a.figures))
	work.Get("/licks/{id}/sound.wav", a.Handler(a.sound))
	work.Get("/licks/{id}/sounding", a.Handler(a.sound))
	work.Get("/licks/{id}/mend", a.Handler(a.mend))
	work.Get("/licks/{id}/hands", a.Handler(a.offers))
	work.Get("/licks/{id}/ways", a.Handler(a.ways))
	r.Get("/licks/{id}/whom", a.Handler(a.whom))
	work.Get("/licks/{id}/suits", a.Handler(a.suitsPage))
	r.Post("/licks/{id}/suit", a.Handler(a.suit))
	r.Get("/licks/{id}/versions", a.Handler(a.versions))
	r.Post("/licks/{id}/edit", a.Handler(a.edit))
	r.Post("/licks/{id}/undo", a.travel(a.Undo))
	r.Post("/licks/{id}/redo", a.travel(a.Redo))
	r.Post("/licks/{id}/keep", a.Handler(a.keep))
	r.Post("/licks/{id}/habit", a.Handler(a.answerHabit))
}

// bench is the page of one lick. The address may carry a caret; without one it opens at the
// bottleneck, which is what a player comes to mend.
func (a Screen) bench(w http.ResponseWriter, r *http.Request) error {
	var c caret
	e, err := a.EntryAndForm(r, &c)
	if err != nil {
		return err
	}
	if c.Note == 0 && len(e.Lick.Notes) > 0 {
		// Open where it matters: at the bottleneck.
		rep, err := a.Report(r.Context(), e)
		if err != nil {
			return err
		}
		c.Note, c.Lane = 1, "finger"
		if b := rep.Bottleneck; len(b) > 0 {
			c.Note = b[len(b)-1]
		}
	}
	v, parts, err := a.drawn(r.Context(), e, c)
	if err == nil {
		v.Window, err = a.WindowView(r.Context(), e.ID, e.Revision)
	}
	if err != nil {
		return err
	}
	return a.Render(w, r, "bench", page.Page{Title: v.Title, Where: "bench", BenchID: e.ID, Data: benchPage{v, parts}})
}

// last opens the lick that was touched last, at its first note; an empty notebook opens a new one.
func (a Screen) last(w http.ResponseWriter, r *http.Request) error {
	rows, err := a.Store.List(r.Context(), store.Query{Limit: 1})
	if err != nil {
		return err
	}
	if len(rows) == 0 {
		return page.Redirect(w, r, "/")
	}
	return page.Redirect(w, r, fmt.Sprintf("/licks/%d?note=1", rows[0].ID))
}

// benchPage is the bench with its parts drawn. A fragment is drawn once and stands in the page as it will be replaced:
// the first look and every later answer have the same bytes.
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

// PartNames are the fragments of the bench, each a template "part-" + name. They are cut by what changes together: a
// caret that moves changes neck, foot and ledger, a finger also the judgement, and most edits neither title nor tones.
var PartNames = []string{
	"title", "glance", "tonespill", "tones", "countpill", "setting", "history", "neck", "ledger", "judge", "foot", "state",
}

// drawn is the bench of a lick at a caret, and its fragments.
func (a Screen) drawn(ctx context.Context, e store.Entry, c caret) (*benchView, []part, error) {
	v, err := a.benchView(ctx, e, c)
	if err != nil {
		return nil, nil, err
	}
	parts, err := a.parts(v)
	return v, parts, err
}

// parts draws the fragments. The error is a fault of a template.
func (a Screen) parts(v *benchView) ([]part, error) {
	out := make([]part, len(PartNames))
	for i, name := range PartNames {
		var b bytes.Buffer
		if err := a.Draw(&b, "part-"+name, v); err != nil {
			return nil, fmt.Errorf("draw %s: %w", name, err)
		}
		out[i] = part{name, page.HashOf(b.Bytes()), template.HTML(b.String())} // a template's output
	}
	return out, nil
}

// benchForm is a request from the bench: where the caret is, the revision it was made on, which
// fragments the browser has, and what is to be done. Do and Value are the words of package
// edit, or one of the four that need more than the lick (editOf).
type benchForm struct {
	caret
	page.HandsForm
	Rev   uint   `form:"rev"`
	Have  string `form:"have"` // "neck:hash ledger:hash"
	Do    string `form:"do"`
	Value string `form:"value"`
	To    string `form:"to"`   // STRING:FRET
	Span  string `form:"span"` // how long what is pasted lasts; empty: as its notes do
	Seam  string `form:"seam"` // when a line that is appended begins, see turn.Seam
	Habit string `form:"habit"`
	Keep  bool   `form:"keep"` // the habit that was asked about
}

// answerBench sends the fragments that the browser does not have yet, each by its name and the hash of its bytes. Equal
// values draw equal bytes, so that nothing is compared but hashes; an edit of a 64-note line takes about 20 ms from
// request to fragments, most of it the judgement (BenchmarkEdit), and moving the caret 7 (BenchmarkCaret).
func (a Screen) answerBench(w http.ResponseWriter, r *http.Request, e store.Entry, c caret, have string) error {
	_, parts, err := a.drawn(r.Context(), e, c)
	if err != nil {
		return err
	}
	known := strings.Fields(have)
	var b bytes.Buffer
	for _, p := range parts {
		if !slices.Contains(known, p.Name+":"+p.Hash) {
			p.writePartial(&b)
		}
	}
	b.WriteString(clearNotice)
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	w.Header().Set("Cache-Control", "no-store")
	if _, err := w.Write(b.Bytes()); err != nil {
		log.Printf("answer: %v", err)
	}
	return nil
}

// benchAt answers a caret that has moved: the fragments that depend on it.
func (a Screen) benchAt(w http.ResponseWriter, r *http.Request) error {
	var f benchForm
	e, err := a.EntryAndForm(r, &f)
	if err != nil {
		return err
	}
	return a.answerBench(w, r, e, f.caret, f.Have)
}

// edit makes one edit, a key press or a click, and answers with the fragments that it changed. An edit that was made on
// an older revision is refused, and the page takes the newer one. POST /licks/ID/edit. What the edit is comes from
// editOf, what it does from the edit itself; nothing of the trade is decided here.
func (a Screen) edit(w http.ResponseWriter, r *http.Request) error {
	var f benchForm
	n, err := a.IDAndForm(r, &f)
	if err != nil {
		return err
	}
	base, err := a.At(r.Context(), n, f.Rev)
	if err != nil {
		return err
	}
	ed, err := a.editOf(r.Context(), store.Entry{ID: n, Revision: f.Rev, Lick: base}, f)
	if err != nil {
		return page.Mistake(err)
	}
	next, err := ed.Apply(base)
	if err != nil {
		return page.Refuse(err)
	}
	e, err := a.CommitShown(r.Context(), n, f.Rev, next, ed.What())
	if err != nil {
		return err
	}
	return a.answerBench(w, r, e, follow(f, base, next), f.Have)
}

// follow moves the caret and the selection along with an edit.
// Elsewhere it stays on its number: an edit of hands or bends leaves the notes where they are.
func follow(f benchForm, base, next lick.Lick) caret {
	c := f.caret
	rs := c.selected(base)
	more := len(next.Notes) - len(base.Notes)
	one := func(r lick.Range) {
		c.Sel, c.Note = lick.Ranges{r}.String(), r.To
	}
	switch f.Do {
	case "place", "insert":
		c.Sel = ""
		// A note put into the empty column leaves the caret behind it.
		if f.Note > len(base.Notes) {
			c.Note = len(next.Notes) + 1
		} else if f.Do == "insert" {
			c.Note = f.Note + 1
		}
	case "paste":
		at := min(f.Note, len(base.Notes))
		if rs != nil {
			at, more = rs[0].From, more+rs.Notes()
		} else if at > 0 {
			_, at = base.Column(at - 1)
		}
		one(lick.Range{From: at, To: at + more})
	case "duplicate":
		if len(rs) == 1 {
			one(lick.Range{From: rs[0].To, To: rs[0].To + rs.Notes()})
		} else {
			c.Sel = ""
		}
	case "after":
		at, err := strconv.Atoi(f.Value)
		if err != nil || rs == nil {
			break
		}
		if at > 0 {
			_, at = base.Column(at - 1)
		}
		n := rs.Notes()
		for _, r := range rs {
			if r.To <= at {
				at -= r.To - r.From
			}
		}
		one(lick.Range{From: at, To: at + n})
	case "earlier", "later":
		by := map[string]int{"earlier": -1, "later": 1}[f.Do]
		if rs == nil {
			c.Note += by
			break
		}
		beside := rs[0].To
		if by < 0 {
			beside = rs[0].From - 1
		}
		if col, err := (lick.Ranges{{From: beside, To: beside + 1}}).Whole(base); err == nil {
			n := by * col.Notes()
			one(lick.Range{From: rs[0].From + n, To: rs[0].To + n})
		}
	case "remove":
		if rs != nil {
			c.Sel, c.Note = "", rs[0].From+1
		}
		c.Note = min(c.Note, max(1, len(next.Notes)))
	case "only":
		c.Sel, c.Note = "", 1
	}
	return c
}

// keep makes a version that was kept aside the newest: the answer to "Take mine instead" after
// two tabs wrote on one revision. The other version stays in the history.
func (a Screen) keep(w http.ResponseWriter, r *http.Request) error {
	var f benchForm
	n, err := a.IDAndForm(r, &f)
	if err != nil {
		return err
	}
	kept, err := strconv.ParseUint(f.Value, 10, 31)
	if err != nil {
		return store.ErrNotFound
	}
	l, err := a.WholeAt(r.Context(), n, uint(kept))
	if err != nil {
		return err
	}
	return a.Change(w, r, n, f.Rev, l, "the other version")
}

// travel goes one revision back or on and answers as an edit does. A lick's revisions form a chain from which nothing
// is taken, so that redo finds what undo left until another edit begins from there.
func (a Screen) travel(move page.Mover) http.HandlerFunc {
	return a.Handler(func(w http.ResponseWriter, r *http.Request) error {
		var f benchForm
		n, err := a.IDAndForm(r, &f)
		if err != nil {
			return err
		}
		e, err := move(r.Context(), n, f.Rev)
		if err != nil {
			return err
		}
		a.Touched(n)
		return a.answerBench(w, r, page.Shown(r.Context(), e), f.caret, f.Have)
	})
}

// mend tries fixes for the findings and sends the findings with them. The page asks for it when it has shown the
// judgement, as every fix costs a judgement more; an edit in the meantime ends it with 409.
func (a Screen) mend(w http.ResponseWriter, r *http.Request) error {
	e, err := a.Entry(r)
	if err != nil {
		return err
	}
	v, err := a.benchView(r.Context(), e, caret{})
	var rep *judge.Report
	if err == nil {
		rep, err = a.Mended(r.Context(), e)
	}
	if err != nil {
		return err
	}
	v.Mended, v.LeftOut = true, rep.LeftOut
	v.found(rep.Findings)
	return a.Render(w, r, "findings", page.Page{Data: v})
}
