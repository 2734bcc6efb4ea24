package sets

import (
	"context"
	"errors"
	"fmt"
	"html/template"
	"net/http"
	"slices"
	"strings"
	"time"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/load"
	"ornamen/core/practice"
	"ornamen/core/say"
	"ornamen/internal/lesson"
	"ornamen/internal/practising"
	"ornamen/internal/store"
	"ornamen/internal/web/draw"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// listView is the page of all sets.
type listView struct {
	Sets   []listRow
	Lick   uint   // that somebody came to add, 0 for none
	Title  string // of that lick
	Notice *page.Notice
}

// listRow is a set in the list of them.
type listRow struct {
	ID                     uint
	Name, Kind, By, Remark string
	Licks                  string // how many
	First                  []string
}

// list shows the sets, the last touched first; coming from a lick it offers to add that one.
func (a Screen) list(w http.ResponseWriter, r *http.Request) error {
	var f struct {
		Lick uint `form:"lick"`
		Gone uint `form:"gone"`
	}
	if err := a.Decode(r, &f); err != nil {
		return err
	}
	ctx := r.Context()
	list, err := a.Store.Sets(ctx)
	if err != nil {
		return err
	}
	var v listView
	if f.Lick != 0 {
		e, err := a.Get(ctx, f.Lick)
		if err != nil {
			return err
		}
		v.Lick, v.Title = e.ID, view.TitleOf(e.Lick)
	}
	for _, x := range list {
		row := listRow{
			ID:     x.ID,
			Name:   x.Name,
			Kind:   string(x.Kind),
			By:     dayWord(x.Target, practice.DateOf(a.Store.Now())),
			Remark: x.Remark,
			Licks:  say.Count(len(x.Items), "lick"),
		}
		for _, it := range x.Items[:min(6, len(x.Items))] {
			if e, err := a.Get(ctx, it.Lick); err == nil {
				row.First = append(row.First, view.TitleOf(e.Lick))
			}
		}
		v.Sets = append(v.Sets, row)
	}
	if f.Gone != 0 {
		v.Notice = &page.Notice{Text: "The set is put aside; its licks stay in the notebook.",
			Actions: []page.Action{{Label: "Bring it back", Post: fmt.Sprintf("/sets/%d/restore", f.Gone)}}}
	}
	return a.Render(w, r, "sets", page.Page{Title: "Sets", Where: "notebook", Data: v})
}

// dayWord is a day as one says it today; nothing for none.
func dayWord(day string, today practice.Date) string {
	t, err := time.Parse(time.DateOnly, day)
	if err != nil {
		return ""
	}
	return practice.DateOf(t).Word(today)
}

// setView is the page of one set.
type setView struct {
	ID                   uint
	Name, Remark, Target string
	Kind                 string
	Base                 uint // the version that is shown
	CanUndo, CanRedo     bool
	Homework             bool
	Rows                 []setRow
	Time                 string // what it takes to play
	Paced                string // what all of it needs a day by its target
	Titles               []string
	Today                string // how many of it are for today
	Notice               *page.Notice
	One                  bool // one lick: nothing to be moved
}

// setRow is a lick of a set.
type setRow struct {
	N                           int
	Lick                        uint
	Title, Tones, Tempo, Remark string
	Own                         bool // the tempo is the lick's own
	Gone                        bool // the lick was deleted
	Key, From                   string
	Line, Bar                   template.HTML
	Word, Class, Ceiling        string
	Pace                        string
	Late                        bool // it will not do
	Days                        []dayChip
}

// dayChip is a day of the week on which something is practised or not.
type dayChip struct {
	Name string
	On   bool
}

// show is the page of a set.
func (a Screen) show(w http.ResponseWriter, r *http.Request) error {
	var f struct {
		Came    bool `form:"came"` // with what was just taken in
		New     bool `form:"new"`
		Added   int  `form:"added"`
		Changed int  `form:"changed"`
		Beside  int  `form:"beside"`
	}
	x, err := a.setAndForm(r, &f)
	if err != nil {
		return err
	}
	v, err := a.view(r.Context(), x.ID)
	if err != nil {
		return err
	}
	if f.Came {
		v.Notice = &page.Notice{Text: lesson.Told(store.Arrived{Set: x, New: f.New, Added: f.Added, Changed: f.Changed,
			Beside: f.Beside})}
	}
	return a.Render(w, r, "set", page.Page{Title: v.Name, Where: "notebook", Data: v})
}

// offeredTitles is how many titles are offered while one types.
const offeredTitles = 300

// view gathers the page of a set as the player of the request sees it.
func (a Screen) view(ctx context.Context, id uint) (*setView, error) {
	x, err := a.Store.SetOf(ctx, id)
	if err != nil {
		return nil, err
	}
	v := &setView{ID: x.ID, Name: x.Name, Remark: x.Remark, Target: x.Target, Kind: string(x.Kind), Base: x.Revision,
		CanUndo: x.CanUndo, CanRedo: x.CanRedo, Homework: x.Kind == store.Homework, One: len(x.Items) == 1}
	paces, err := a.paces(ctx, x)
	if err != nil {
		return nil, err
	}
	var seconds, minutes float64
	for i, it := range x.Items {
		row := setRow{N: i + 1, Lick: it.Lick, Remark: it.Remark}
		e, err := a.Get(ctx, it.Lick)
		if errors.Is(err, store.ErrNotFound) {
			row.Title, row.Gone = "A lick that was deleted", true
			v.Rows = append(v.Rows, row)
			continue
		}
		if err != nil {
			return nil, err
		}
		if err := a.judged(ctx, &row, it, e); err != nil {
			return nil, err
		}
		if it.From != 0 {
			if from, err := a.Get(ctx, it.From); err == nil {
				row.From = view.TitleOf(from.Lick)
			}
		}
		if k := slices.IndexFunc(paces, func(p practising.Paces) bool { return p.Lick == it.Lick }); k >= 0 {
			p := paces[k]
			row.Pace, row.Late = page.SentenceCase(p.Words), p.Never != ""
			if p.Never == "" && !p.Done {
				minutes += p.Minutes
			}
			paces = slices.Delete(paces, k, k+1) // said once
		}
		for k, name := range strings.Fields("Mo Tu We Th Fr Sa Su") {
			row.Days = append(row.Days, dayChip{name, it.Days == 0 || it.Days&(1<<k) != 0})
		}
		l := e.Lick
		if it.Tempo > 0 {
			l.Tempo = it.Tempo
		}
		seconds += l.Milliseconds(lick.Time{}, l.End()) / 1000
		v.Rows = append(v.Rows, row)
	}
	if seconds > 0 {
		v.Time = fmt.Sprintf("%d:%02d to play once", int(seconds)/60, int(seconds)%60)
	}
	if x.Target != "" && minutes > 0 {
		v.Paced = fmt.Sprintf(
			"%.0f minutes a day until %s",
			max(1, minutes),
			dayWord(x.Target, practice.DateOf(a.Store.Now())),
		)
	}
	if v.Homework {
		v.Today = fmt.Sprintf("%d today", len(x.Due(a.Store.Now().Weekday())))
	}
	rows, err := a.Store.List(ctx, store.Query{Limit: offeredTitles})
	if err != nil {
		return nil, err
	}
	runs, err := a.Store.Recipes(ctx)
	if err != nil {
		return nil, err
	}
	for _, r := range runs {
		v.Titles = append(v.Titles, r.Name)
	}
	for _, r := range rows {
		if t := strings.TrimSpace(r.Title); t != "" && !slices.Contains(v.Titles, t) {
			v.Titles = append(v.Titles, t)
		}
	}
	return v, nil
}

// judged fills in what a row says of a lick: for the player of the request, at the set's tempo.
func (a Screen) judged(ctx context.Context, row *setRow, it store.SetItem, e store.Entry) error {
	tempo := e.Lick.Tempo
	row.Own = it.Tempo == 0
	if !row.Own {
		tempo = it.Tempo
	}
	row.Title, row.Tones, row.Tempo = view.TitleOf(e.Lick), e.Lick.TonesText(), fmt.Sprintf("%g", tempo)
	row.Key = e.Lick.Key.Tonic
	rep, err := a.Report(ctx, e)
	if err != nil {
		return err
	}
	verdict := rep.Verdict
	if !row.Own && rep.Ceiling > 0 {
		// A ceiling is the same at every tempo; the verdict is how far below it one plays.
		switch at := tempo / float64(rep.Ceiling); {
		case at > load.Breaks:
			verdict = judge.Breaks
		case at > load.Tight && verdict != judge.Breaks:
			verdict = judge.Tight
		case at <= load.Tight && tempo < e.Lick.Tempo:
			verdict = judge.Flows
		}
	}
	row.Word, row.Class = view.SentenceWord(verdict), verdict.String()
	if len(e.Lick.Notes) == 0 {
		row.Word, row.Class = "Empty", "unjudged"
	}
	row.Line = draw.LineSVG(e.Lick, rep.Bottleneck, verdict == judge.Breaks)
	row.Bar = draw.BarSVG(float64(rep.Ceiling), tempo, 0, 130)
	if rep.Ceiling > 0 {
		row.Ceiling = fmt.Sprintf("clean up to %d", rep.Ceiling.Whole())
	}
	return nil
}

// paces are what each lick of a set needs a day until its target; none without one.
func (a Screen) paces(ctx context.Context, x store.Set) ([]practising.Paces, error) {
	if x.Target == "" {
		return nil, nil
	}
	c := page.Playing(ctx)
	book, err := a.logs.Of(c.Who.ID).Of(ctx, a.Store)
	if err != nil {
		return nil, err
	}
	pieces, err := a.pieces.In(ctx, c.Engine, practising.Who{Key: c.Key, Own: c.Who.Own()}, a.Store, x.Items)
	if err != nil {
		return nil, err
	}
	return practising.Paced(x, pieces, book, practice.DateOf(a.Store.Now())), nil
}

// throughView is one lick of a set as it is played through.
type throughView struct {
	ID                        uint
	Name                      string
	N, Of                     int
	Lick, Rev                 uint
	Title, Tones, Remark, Now string
	Tempo                     float64
	Hands                     template.HTML
	Prev, Next                int // 0 for none
	After                     string
	Feel                      string
}

// through shows one lick of a set large, to be played or heard one after the other.
func (a Screen) through(w http.ResponseWriter, r *http.Request) error {
	var f struct {
		N int `form:"n"`
	}
	x, err := a.setAndForm(r, &f)
	if err != nil {
		return err
	}
	ctx := r.Context()
	var items []store.SetItem
	var entries []store.Entry
	for _, it := range x.Items {
		e, err := a.Get(ctx, it.Lick)
		if err == nil && len(e.Lick.Notes) > 0 {
			items, entries = append(items, it), append(entries, e)
		}
	}
	if len(items) == 0 {
		return page.Refuse(errors.New("the set has no lick to play yet"))
	}
	n := min(max(1, f.N), len(items))
	it, e := items[n-1], entries[n-1]
	rep, err := a.Report(ctx, e)
	if err != nil {
		return err
	}
	v := throughView{ID: x.ID, Name: x.Name, N: n, Of: len(items), Lick: e.ID, Rev: e.Revision,
		Title: view.TitleOf(e.Lick), Tones: e.Lick.TonesText(), Remark: it.Remark, Tempo: e.Lick.Tempo,
		Hands: draw.HandsSVG(rep.Lick, nil, rep.Bottleneck), Prev: n - 1, Feel: string(e.Lick.Feel)}
	if it.Tempo > 0 {
		v.Tempo = it.Tempo
	}
	if n < len(items) {
		v.Next, v.After = n+1, view.TitleOf(entries[n].Lick)
	}
	return a.RenderBody(w, r, "through", page.Page{Title: x.Name, Where: "notebook", Data: v})
}
