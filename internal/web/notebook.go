package web

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"html/template"
	"io"
	"log"
	"mime/multipart"
	"net/http"
	"net/url"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"time"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/format"
	"ornamen/internal/archive"
	"ornamen/internal/store"
	"ornamen/internal/web/draw"
)

// notebookForm is how the notebook is looked at.
type notebookForm struct {
	Find string `form:"find"`
	Tag  string `form:"tag"`
	Sort string `form:"sort"`
	From int    `form:"from"` // the first row of the page, from 0
	Gone uint   `form:"gone"` // a lick just deleted, that can be brought back
	Show uint   `form:"show"` // a lick just added
}

// pageRows is how many rows a page of the notebook has; the next page loads when
// its end comes into view.
const pageRows = 50

// maxTags is how many tags are offered as filters.
const maxTags = 30

type notebookView struct {
	Form     notebookForm
	Empty    bool
	Summary  string
	Progress string // how far the judging is; empty when it is done
	Tags     []tagView
	Sorts    []sortView
	Rows     []rowView
	More     string // where the next page is
	Again    string // where the judgements that are missing come from
	Notice   *notice
}

type tagView struct {
	Name, Link string
	On         bool
}

type sortView struct {
	Name, Link string
	On         bool
}

type rowView struct {
	ID                    uint
	Title, Tones, Count   string
	Tempo                 string
	Line, Bar             template.HTML
	Verdict, Word, Reason string
	Ceiling               string
	New                   bool
}

func (a *App) notebook(w http.ResponseWriter, r *http.Request) {
	var f notebookForm
	if err := a.decode(r, &f); err != nil {
		a.fail(w, r, err)
		return
	}
	v, err := a.notebookView(r.Context(), f)
	if err != nil {
		a.fail(w, r, err)
		return
	}
	name := "notebook"
	if r.Header.Get("HX-Request") != "" {
		name = "rows-partial"
		if f.From > 0 {
			name = "more-rows"
		}
	}
	a.render(w, r, http.StatusOK, name, page{Title: "Notebook", Where: "notebook", BenchID: v.benchID(), Data: v})
}

func (v notebookView) benchID() uint {
	if len(v.Rows) > 0 {
		return v.Rows[0].ID
	}
	return 0
}

func (f notebookForm) query(player string) store.Query {
	return store.Query{Find: f.Find, Tag: f.Tag, Order: store.Order(f.Sort), Player: player, Limit: pageRows, Offset: max(0, f.From)}
}

func (a *App) notebookView(ctx context.Context, f notebookForm) (notebookView, error) {
	v := notebookView{Form: f}
	key := playing(ctx).key
	rows, err := a.store.List(ctx, f.query(key))
	if err != nil {
		return v, err
	}
	news, err := a.judgeShown(ctx, rows)
	if err == nil && news && v.Form.Sort == string(store.WorstFirst) {
		rows, err = a.store.List(ctx, f.query(key)) // what was just judged has its place now
	}
	if err != nil {
		return v, err
	}
	all, names, err := a.overview(ctx)
	if err != nil {
		return v, err
	}
	v.Empty, v.Summary, v.Progress = all.All == 0, summary(all), progress(all)
	v.Tags, v.Sorts = tagViews(names, f), sortViews(f)
	for _, r := range rows {
		row, err := a.row(ctx, r)
		if err != nil {
			return v, err
		}
		row.New = r.ID == f.Show
		v.Rows = append(v.Rows, row)
	}
	if len(rows) == pageRows {
		next := f
		next.From += pageRows
		v.More = next.link()
	}
	if v.Progress != "" {
		v.Again = "/judged" + strings.TrimPrefix(f.link(), "/")
	}
	if f.Gone > 0 {
		v.Notice = &notice{Text: "The lick is deleted.", Actions: []action{{Label: "Bring it back", Post: fmt.Sprintf("/licks/%d/restore", f.Gone)}}}
	}
	return v, nil
}

// overviewed is what the notebook says of itself, at one count of writes.
type overviewed struct {
	writes uint64
	player string
	counts store.Counts
	tags   []string
}

// overview counts the licks and lists their tags, once for every write.
func (a *App) overview(ctx context.Context) (store.Counts, []string, error) {
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

// judgeShown judges the rows of a page that are not judged yet, as far as a blink
// goes; the rest follows in the background. News says that some were.
func (a *App) judgeShown(ctx context.Context, rows []store.Row) (news bool, err error) {
	budget := pageBudget
	if len(rows) < pageRows {
		budget = fewBudget
	}
	until, done := time.Now().Add(budget), []store.Summary(nil)
	for i := range rows {
		if rows[i].Summary != nil || time.Now().After(until) {
			continue
		}
		s, err := a.summary(ctx, rows[i])
		if err != nil {
			return false, err
		}
		rows[i].Summary, done = &s, append(done, s)
	}
	if a.store.ReadOnly {
		return false, nil
	}
	return len(done) > 0, a.store.Summarise(ctx, done)
}

// row is a lick as the notebook shows it.
func (a *App) row(ctx context.Context, r store.Row) (rowView, error) {
	row := rowView{ID: r.ID, Title: r.Title, Verdict: "unjudged", Word: "…", Reason: "being judged"}
	if strings.TrimSpace(row.Title) == "" {
		row.Title = "Untitled"
	}
	var d rowData
	if r.Summary == nil {
		l, err := a.store.At(ctx, r.ID, r.Revision)
		if err != nil {
			return row, nil // it is judged as unreadable soon
		}
		d = rowOf(l)
	} else {
		if err := json.Unmarshal(r.Summary.Data, &d); err != nil {
			return row, fmt.Errorf("row of lick %d: %w", r.ID, err)
		}
		row.Verdict, row.Word, row.Reason, row.Ceiling = judge.Severity(r.Summary.Severity).String(), d.Word, d.Reason, d.Upto
		if d.Tempo > 0 {
			row.Bar = draw.BarSVG(d.Ceiling, d.Tempo, 0, 158)
		}
	}
	row.Tones, row.Count = d.Tones, d.Count
	row.Line = template.HTML(d.Line) // drawn by us
	if d.Tempo > 0 {
		row.Tempo = fmt.Sprintf("%g", d.Tempo)
	}
	return row, nil
}

func sentenceWord(s judge.Severity) string {
	return map[judge.Severity]string{judge.Flows: "Flows", judge.Tight: "Tight", judge.Breaks: "Breaks"}[s]
}

// reasonOf says in a few words why the verdict is what it is.
func reasonOf(r *judge.Report) (reason, ceiling string) {
	if r.Ceiling > 0 {
		ceiling = fmt.Sprintf("clean up to %d", r.Ceiling.Whole())
	}
	if r.Verdict == judge.Flows {
		if r.Ceiling > 0 {
			return fmt.Sprintf("room of %d", r.Ceiling.Whole()-int(r.Tempo)), ceiling
		}
		return "nothing moves", ceiling
	}
	for _, f := range r.Findings {
		if f.Severity == r.Verdict {
			return f.Title + ", " + findingNotes(f), ceiling
		}
	}
	return "", ceiling
}

// The orders of the notebook; the first is the default.
var sorts = []struct{ key, name string }{{"", "last touched"}, {"worst", "worst first"}, {"title", "title"}}

func (f notebookForm) link() string {
	q := url.Values{}
	for k, v := range map[string]string{"find": f.Find, "tag": f.Tag, "sort": f.Sort} {
		if v != "" {
			q.Set(k, v)
		}
	}
	if f.From > 0 {
		q.Set("from", strconv.Itoa(f.From))
	}
	if len(q) == 0 {
		return "/"
	}
	return "/?" + q.Encode()
}

func tagViews(names []string, f notebookForm) []tagView {
	f.From = 0
	all := f
	all.Tag = ""
	out := []tagView{{Name: "all", Link: all.link(), On: f.Tag == ""}}
	if f.Tag != "" && !slices.Contains(names, f.Tag) {
		names = append([]string{f.Tag}, names...)
	}
	for _, n := range names {
		one := f
		one.Tag = n
		out = append(out, tagView{Name: n, Link: one.link(), On: f.Tag == n})
	}
	return out
}

func sortViews(f notebookForm) []sortView {
	f.From = 0
	var out []sortView
	for _, s := range sorts {
		one := f
		one.Sort = s.key
		out = append(out, sortView{Name: s.name, Link: one.link(), On: f.Sort == s.key})
	}
	return out
}

func summary(c store.Counts) string {
	if c.All == 0 {
		return ""
	}
	s := countOfWord(c.All, "lick")
	var parts []string
	for _, w := range []struct {
		sev       judge.Severity
		one, many string
	}{{judge.Flows, "flows", "flow"}, {judge.Tight, "is tight", "are tight"}, {judge.Breaks, "breaks", "break"}} {
		switch k := c.Of[int(w.sev)]; {
		case k == 1:
			parts = append(parts, "1 "+w.one)
		case k > 1:
			parts = append(parts, fmt.Sprintf("%d %s", k, w.many))
		}
	}
	if len(parts) == 0 {
		return s
	}
	return s + ": " + strings.Join(parts, ", ")
}

// newLick makes an empty lick and opens it on the bench.
func (a *App) newLick(w http.ResponseWriter, r *http.Request) {
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

func (a *App) importLick(w http.ResponseWriter, r *http.Request) {
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
	l, err := readFile(head.Filename, data)
	if err != nil {
		a.fail(w, r, invalid{fmt.Errorf("%s was not imported: %w", cut(filepath.Base(head.Filename)), err)})
		return
	}
	e, err := a.add(r.Context(), l, "imported from "+cut(filepath.Base(head.Filename)))
	if err != nil {
		a.fail(w, r, err)
		return
	}
	http.Redirect(w, r, fmt.Sprintf("/licks/%d", e.ID), http.StatusSeeOther)
}

// importAll adds a whole notebook that went out as a zip.
func (a *App) importAll(w http.ResponseWriter, r *http.Request, f multipart.File, head *multipart.FileHeader) {
	name := cut(filepath.Base(head.Filename))
	if _, err := archive.Read(r.Context(), f, head.Size, a.store); err != nil {
		a.fail(w, r, mistake(fmt.Errorf("%s was not imported: %w", name, err)))
		return
	}
	a.judging.wake()
	http.Redirect(w, r, "/", http.StatusSeeOther)
}

// exportAll hands the whole notebook over as a zip of plain files.
func (a *App) exportAll(w http.ResponseWriter, r *http.Request) {
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

// readFile reads a lick by what its name says, else by how it begins.
func readFile(name string, data []byte) (lick.Lick, error) {
	l, err := format.Detect(name, data).Read(data)
	if err == nil && l.Title == "" {
		l.Title = cut(strings.TrimSuffix(strings.TrimSuffix(filepath.Base(name), filepath.Ext(name)), ".lick"))
	}
	return l, err
}

// cut keeps a name from outside short.
func cut(s string) string {
	if r := []rune(s); len(r) > 60 {
		return string(r[:60]) + "…"
	}
	return s
}

func (a *App) copyLick(w http.ResponseWriter, r *http.Request) {
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

func cutTo(s string, n int) string {
	if r := []rune(s); len(r) > n {
		return string(r[:n])
	}
	return s
}

func (a *App) deleteLick(w http.ResponseWriter, r *http.Request) {
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

func (a *App) restoreLick(w http.ResponseWriter, r *http.Request) {
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

// entry finds the lick of the address, or answers why not.
func (a *App) entry(w http.ResponseWriter, r *http.Request) (store.Entry, bool) {
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
