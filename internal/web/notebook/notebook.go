// Package notebook is the screen of all licks: the list with its verdicts, its search and its order,
// and what is done with a lick as a whole. It judges in the background what has no judgement yet.
package notebook

import (
	"cmp"
	"context"
	"embed"
	"encoding/json"
	"fmt"
	"html/template"
	"io/fs"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"ornamen/core/judge"
	"ornamen/core/say"
	"ornamen/internal/store"
	"ornamen/internal/web/draw"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// Screen is the list of all licks, and what is done with one as a whole.
type Screen struct{ *page.Site }

//go:embed *.html *.css *.js
var files embed.FS

// Menu implements page.Screen.
func (a Screen) Menu() page.MenuEntry {
	return page.MenuEntry{Name: "notebook", Title: "Notebook", Address: page.At("/")}
}

// Files implements page.Screen.
func (a Screen) Files() fs.FS { return files }

// Routes implements page.Screen.
func (a Screen) Routes(r, _ chi.Router) {
	r.Get("/", a.Handler(a.notebook))
	r.Get("/judged", a.Handler(a.judgedSoFar))
	r.Post("/licks", a.Handler(a.newLick))
	r.Post("/licks/{id}/copy", a.Handler(a.copyLick))
	r.Post("/licks/{id}/delete", a.Does(a.Store.Delete, "/?gone=%d")) // with all its versions; the notice brings it back
	r.Post("/licks/{id}/restore", a.Does(a.Store.Restore, "/?show=%d"))
}

// notebookForm is how the notebook is looked at. It lives in the address.
type notebookForm struct {
	Find string `form:"find"`
	Tag  string `form:"tag"`
	Sort string `form:"sort"`
	From int    `form:"from"` // the first row of the page, from 0
	Gone uint   `form:"gone"` // a lick just deleted, that can be brought back
	Show uint   `form:"show"` // a lick just added
	// Steps asks for the three steps of the first visit, which are shown once by themselves.
	Steps bool `form:"steps"`
}

// pageRows is how many rows a page of the notebook has; the next page loads when its end comes into view.
const pageRows = 50

// notebookView is the page of all licks: some rows, and how they were found. More and Again are addresses that the page
// loads by itself: the next rows, and the judgements that were not ready.
type notebookView struct {
	Form     notebookForm
	Empty    bool
	Steps    bool // how to begin is shown
	Summary  string
	Progress string // how far the judging is; empty when it is done
	Tags     []view.Choice
	Sorts    []view.Choice
	Rows     []rowView
	More     string // where the next page is
	Again    string // where the judgements that are missing come from
	Notice   *page.Notice
}

// rowView is one lick in a row. Its drawing and words come from the summary that was kept when the lick was judged, so
// that a page of rows opens no lick.
type rowView struct {
	ID                    uint
	Title, Tones, Count   string
	Tempo                 string
	Line, Bar             template.HTML
	Verdict, Word, Reason string
	Ceiling               string
	New                   bool
}

// notebook is the page, or its rows alone where only they are asked for. GET /. htmx asks for the rows alone when a
// filter changes, and for those of the next page when the end comes into view.
func (a Screen) notebook(w http.ResponseWriter, r *http.Request) error {
	v, f, err := a.asked(r)
	if err != nil {
		return err
	}
	name := "notebook"
	if r.Header.Get("HX-Request") != "" {
		name = "rows-partial"
		if f.From > 0 {
			name = "more-rows"
		}
	}
	return a.Render(w, r, name, page.Page{Title: "Notebook", Where: "notebook", BenchID: v.benchID(), Data: v})
}

// asked is the part of the notebook that the address names.
func (a Screen) asked(r *http.Request) (v notebookView, f notebookForm, err error) {
	if err = a.Decode(r, &f); err == nil {
		v, err = a.notebookView(r.Context(), f)
	}
	return v, f, err
}

// benchID is the lick that the Bench tab leads to: the first one shown.
func (v notebookView) benchID() uint {
	if len(v.Rows) > 0 {
		return v.Rows[0].ID
	}
	return 0
}

// query is what the store is asked for. player is whose judgements the rows show.
func (f notebookForm) query(player *page.Player) store.Query {
	return store.Query{Find: f.Find, Tag: f.Tag, Order: store.Order(f.Sort), Who: player.Who.ID,
		Player: player.Key, Limit: pageRows, Offset: max(0, f.From)}
}

// notebookView finds the rows; a lick without a judgement shows what is known, and is judged beside the page. The error
// is the store's.
func (a Screen) notebookView(ctx context.Context, f notebookForm) (notebookView, error) {
	v := notebookView{Form: f}
	who := page.Playing(ctx)
	rows, err := a.Store.List(ctx, f.query(who))
	if err != nil {
		return v, err
	}
	news, err := a.judgeShown(ctx, rows)
	if err == nil && news && v.Form.Sort == string(store.WorstFirst) {
		rows, err = a.Store.List(ctx, f.query(who)) // what was just judged has its place now
	}
	if err != nil {
		return v, err
	}
	all, names, err := a.Overview(ctx)
	if err != nil {
		return v, err
	}
	v.Empty, v.Summary, v.Progress = all.All == 0, summary(all), progress(all)
	v.Steps = f.Steps
	if v.Empty && !v.Steps {
		begun, err := a.Store.Begun(ctx)
		if err != nil {
			return v, err
		}
		v.Steps = !begun
	}
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
		v.Notice = &page.Notice{Text: "The lick is deleted.",
			Actions: []page.Action{{Label: "Bring it back", Post: fmt.Sprintf("/licks/%d/restore", f.Gone)}}}
	}
	return v, nil
}

// judgeShown judges the rows of a page that are not judged yet, as far as a blink goes; the
// rest follows in the background and comes by /judged. A short list has more time, since a page
// that is whole at once is worth a second. News says that some were.
func (a Screen) judgeShown(ctx context.Context, rows []store.Row) (news bool, err error) {
	budget := pageBudget
	if len(rows) < pageRows {
		budget = fewBudget
	}
	blink, end := context.WithTimeout(ctx, budget)
	defer end()
	var done []store.Summary
	for i := range rows {
		if rows[i].Summary != nil || blink.Err() != nil {
			continue
		}
		s, err := a.summary(ctx, rows[i])
		if err != nil {
			return false, err
		}
		rows[i].Summary, done = &s, append(done, s)
	}
	if a.Store.ReadOnly {
		return false, nil
	}
	return len(done) > 0, a.Store.Summarise(ctx, done)
}

// row is a lick as the notebook shows it.
// Without a summary the lick is read for its line and tones, and its verdict is "being judged".
func (a Screen) row(ctx context.Context, r store.Row) (rowView, error) {
	row := rowView{ID: r.ID, Title: r.Title, Verdict: "unjudged", Word: "…", Reason: "being judged"}
	if strings.TrimSpace(row.Title) == "" {
		row.Title = "Untitled"
	}
	var d rowData
	if r.Summary == nil {
		l, err := a.WholeAt(ctx, r.ID, r.Revision)
		if err != nil {
			return row, nil // it is judged as unreadable soon
		}
		d = rowOf(l)
	} else {
		if err := json.Unmarshal(r.Summary.Data, &d); err != nil {
			return row, fmt.Errorf("row of lick %d: %w", r.ID, err)
		}
		row.Verdict, row.Word = judge.Severity(r.Summary.Severity).String(), d.Word
		row.Reason, row.Ceiling = d.Reason, d.Upto
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

// reasonOf says in a few words why the verdict is what it is.
// The worst finding speaks for the lick: "a finger jumps, 7 → 8".
func reasonOf(r *judge.Report) (reason, ceiling string) {
	if r.Ceiling > 0 {
		ceiling = fmt.Sprintf("clean up to %d", r.Ceiling.Whole())
	}
	if r.Verdict == judge.Flows {
		if r.Ceiling > 0 {
			return fmt.Sprintf("%d to spare", r.Ceiling.Whole()-int(r.Tempo)), ceiling
		}
		return "nothing moves", ceiling
	}
	for _, f := range r.Findings {
		if f.Severity == r.Verdict {
			return f.Title + ", " + view.FindingNotes(f), ceiling
		}
	}
	return "", ceiling
}

// The orders of the notebook; the first is the default.
var sorts = []struct{ key, name string }{{"", "last touched"}, {"worst", "worst first"}, {"title", "title"}}

// link is the page's address with what was chosen. What is as usual is left out, so that the plain notebook is "/".
// Gone and Show, which are about one look, are never in it.
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

// tagViews are the tags to filter by, the one in use marked.
func tagViews(names []string, f notebookForm) (out []view.Choice) {
	f.From = 0
	if f.Tag != "" && !slices.Contains(names, f.Tag) {
		names = append([]string{f.Tag}, names...)
	}
	for _, n := range append([]string{""}, names...) {
		one := f
		one.Tag = n
		out = append(out, view.Choice{Name: cmp.Or(n, "all"), Link: one.link(), On: f.Tag == n})
	}
	return out
}

// sortViews are the orders, the one in use marked.
func sortViews(f notebookForm) (out []view.Choice) {
	f.From = 0
	for _, s := range sorts {
		one := f
		one.Sort = s.key
		out = append(out, view.Choice{Name: s.name, Link: one.link(), On: f.Sort == s.key})
	}
	return out
}

// summary counts the notebook in a sentence.
// "21 licks: 12 flow, 5 are tight, 1 breaks"; those not judged yet are in the count alone.
func summary(c store.Counts) string {
	if c.All == 0 {
		return ""
	}
	s := say.Count(c.All, "lick")
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
