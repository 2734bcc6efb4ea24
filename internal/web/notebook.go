package web

import (
	"cmp"
	"errors"
	"fmt"
	"html/template"
	"io"
	"net/http"
	"net/url"
	"path/filepath"
	"slices"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/play"
	"ornamen/format"
	"ornamen/internal/store"
	"ornamen/internal/web/draw"
)

// notebookForm is how the notebook is looked at.
type notebookForm struct {
	Find string `form:"find"`
	Tag  string `form:"tag"`
	Sort string `form:"sort"`
	Gone uint   `form:"gone"` // a lick just deleted, that can be brought back
	Show uint   `form:"show"` // a lick just added
}

type notebookView struct {
	Form    notebookForm
	Empty   bool
	Summary string
	Tags    []tagView
	Sorts   []sortView
	Rows    []rowView
	Notice  *notice
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
	ID                     uint
	Title, Tones, Count    string
	Tempo                  string
	Line, Bar              template.HTML
	Verdict, Word, Reason  string
	Ceiling                string
	New                    bool
	severity               play.Severity
	margin                 float64
	tags                   []string
	searched, sortingTitle string
}

func (a *App) notebook(w http.ResponseWriter, r *http.Request) {
	var f notebookForm
	if err := a.decode(r, &f); err != nil {
		a.fail(w, r, err)
		return
	}
	v, err := a.notebookView(r, f)
	if err != nil {
		a.fail(w, r, err)
		return
	}
	name := "notebook"
	if r.Header.Get("HX-Request") != "" {
		name = "rows-partial"
	}
	a.render(w, r, http.StatusOK, name, page{Title: "Notebook", Where: "notebook", BenchID: v.benchID(), Data: v})
}

func (v notebookView) benchID() uint {
	if len(v.Rows) > 0 {
		return v.Rows[0].ID
	}
	return 0
}

func (a *App) notebookView(r *http.Request, f notebookForm) (notebookView, error) {
	entries, err := a.store.All(r.Context())
	if err != nil {
		return notebookView{}, err
	}
	v := notebookView{Form: f, Empty: len(entries) == 0}
	counts := map[play.Severity]int{}
	var rows []rowView
	for _, e := range entries {
		row := a.row(e)
		row.New = e.ID == f.Show
		counts[row.severity]++
		rows = append(rows, row)
	}
	v.Summary = summary(len(rows), counts)
	v.Tags, v.Sorts = tagViews(rows, f), sortViews(f)
	for _, row := range rows {
		if row.matches(f) {
			v.Rows = append(v.Rows, row)
		}
	}
	sortRows(v.Rows, f.Sort)
	if f.Gone > 0 {
		v.Notice = &notice{Text: "The lick is deleted.", Actions: []action{{Label: "Bring it back", Post: fmt.Sprintf("/licks/%d/restore", f.Gone)}}}
	}
	return v, nil
}

// report judges a lick, or remembers the judgement of its revision.
func (a *App) report(e store.Entry) *play.Report {
	c := a.now.Load()
	key := judged{c.generation, e.Revision}
	if r, ok := a.reports.Get(key); ok {
		return r
	}
	r := c.engine.Check(e.Lick)
	a.reports.Add(key, r)
	return r
}

func (a *App) row(e store.Entry) rowView {
	l, r := e.Lick, a.report(e)
	row := rowView{
		ID: e.ID, Title: titleOf(l), Tones: tonesOf(l), Count: countOf(l), Tempo: fmt.Sprintf("%g", l.Tempo),
		Line: draw.LineSVG(l, r.Bottleneck, r.Verdict == play.Breaks), Bar: draw.BarSVG(float64(r.Ceiling), l.Tempo, 0, 158),
		Verdict: r.Verdict.String(), Word: sentenceWord(r.Verdict), severity: r.Verdict, tags: l.Tags,
	}
	row.Reason, row.Ceiling = reasonOf(r)
	if r.Ceiling > 0 {
		row.margin = float64(r.Ceiling) / l.Tempo
	} else if r.Verdict != play.Breaks {
		row.margin = 1e9
	}
	if len(l.Notes) == 0 {
		row.Word, row.Reason, row.Ceiling = "Empty", "no notes yet", ""
	}
	row.sortingTitle = strings.ToLower(row.Title)
	row.searched = strings.ToLower(strings.Join(append([]string{row.Title, row.Tones, l.Key.Tonic + " " + l.Key.Scale}, l.Tags...), "\n"))
	return row
}

func sentenceWord(s play.Severity) string {
	return map[play.Severity]string{play.Flows: "Flows", play.Tight: "Tight", play.Breaks: "Breaks"}[s]
}

// reasonOf says in a few words why the verdict is what it is.
func reasonOf(r *play.Report) (reason, ceiling string) {
	if r.Ceiling > 0 {
		ceiling = fmt.Sprintf("clean up to %d", r.Ceiling.Whole())
	}
	if r.Verdict == play.Flows {
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

func (row rowView) matches(f notebookForm) bool {
	if f.Tag != "" && !slices.Contains(row.tags, f.Tag) {
		return false
	}
	for _, w := range strings.Fields(strings.ToLower(f.Find)) {
		if !strings.Contains(row.searched, w) && !strings.Contains(row.searched, prettySigns(strings.ToUpper(w[:1])+w[1:])) {
			return false
		}
	}
	return true
}

// The orders of the notebook; the first is the default.
var sorts = []struct{ key, name string }{{"", "last touched"}, {"worst", "worst first"}, {"title", "title"}}

func sortRows(rows []rowView, by string) {
	switch by {
	case "worst":
		slices.SortStableFunc(rows, func(a, b rowView) int {
			if c := cmp.Compare(b.severity, a.severity); c != 0 {
				return c
			}
			return cmp.Compare(a.margin, b.margin)
		})
	case "title":
		slices.SortStableFunc(rows, func(a, b rowView) int { return cmp.Compare(a.sortingTitle, b.sortingTitle) })
	}
}

func (f notebookForm) link() string {
	q := url.Values{}
	for k, v := range map[string]string{"find": f.Find, "tag": f.Tag, "sort": f.Sort} {
		if v != "" {
			q.Set(k, v)
		}
	}
	if len(q) == 0 {
		return "/"
	}
	return "/?" + q.Encode()
}

func tagViews(rows []rowView, f notebookForm) []tagView {
	seen := map[string]bool{}
	var names []string
	for _, r := range rows {
		for _, t := range r.tags {
			if !seen[t] {
				seen[t] = true
				names = append(names, t)
			}
		}
	}
	slices.Sort(names)
	all := f
	all.Tag = ""
	out := []tagView{{Name: "all", Link: all.link(), On: f.Tag == ""}}
	for _, n := range names {
		one := f
		one.Tag = n
		out = append(out, tagView{Name: n, Link: one.link(), On: f.Tag == n})
	}
	return out
}

func sortViews(f notebookForm) []sortView {
	var out []sortView
	for _, s := range sorts {
		one := f
		one.Sort = s.key
		out = append(out, sortView{Name: s.name, Link: one.link(), On: f.Sort == s.key})
	}
	return out
}

func summary(n int, counts map[play.Severity]int) string {
	if n == 0 {
		return ""
	}
	s := fmt.Sprintf("%d licks", n)
	if n == 1 {
		s = "1 lick"
	}
	var parts []string
	for _, c := range []struct {
		sev       play.Severity
		one, many string
	}{{play.Flows, "flows", "flow"}, {play.Tight, "is tight", "are tight"}, {play.Breaks, "breaks", "break"}} {
		switch k := counts[c.sev]; {
		case k == 1:
			parts = append(parts, "1 "+c.one)
		case k > 1:
			parts = append(parts, fmt.Sprintf("%d %s", k, c.many))
		}
	}
	return s + ": " + strings.Join(parts, ", ")
}

// newLick makes an empty lick and opens it on the bench.
func (a *App) newLick(w http.ResponseWriter, r *http.Request) {
	l := lick.New()
	l.Tuning = slices.Clone(a.engine().Player.Guitar.Tuning)
	l.Title = "New lick"
	l.Key = lick.Key{Tonic: "A", Scale: "minor pentatonic"}
	e, err := a.store.Add(r.Context(), l, "made")
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
	data, err := io.ReadAll(io.LimitReader(f, lick.MaxBytes+1))
	if err != nil {
		a.fail(w, r, err)
		return
	}
	l, err := readFile(head.Filename, data)
	if err != nil {
		a.fail(w, r, invalid{fmt.Errorf("%s was not imported: %w", cut(filepath.Base(head.Filename)), err)})
		return
	}
	e, err := a.store.Add(r.Context(), l, "imported from "+cut(filepath.Base(head.Filename)))
	if err != nil {
		a.fail(w, r, err)
		return
	}
	http.Redirect(w, r, fmt.Sprintf("/licks/%d", e.ID), http.StatusSeeOther)
}

// readFile reads a lick by what its name says, else by how it begins.
func readFile(name string, data []byte) (lick.Lick, error) {
	l, err := lick.Lick{}, error(nil)
	if strings.HasSuffix(strings.ToLower(name), ".json") || strings.HasPrefix(strings.TrimSpace(string(data[:min(len(data), 64)])), "{") {
		l, err = lick.Parse(data)
	} else {
		l, err = format.DecodeTab(data)
	}
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
	added, err := a.store.Add(r.Context(), e.Lick, fmt.Sprintf("copied from lick %d", e.ID))
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
