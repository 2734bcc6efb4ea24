package web

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/find"
	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/pick"
	"ornamen/core/propose"
	"ornamen/core/run"
	"ornamen/core/turn"
	"ornamen/internal/store"
)

// runsForm is all that the Runs screen shows; like Tones it lives in the address.
type runsForm struct {
	Recipe run.Recipe
	Lick   uint   // the lick whose recipe this is, 0 for none
	Rev    uint   // the revision of it that the recipe was taken from
	Use    string // the way to play it that was chosen, empty for the first
	Show   string // what stands in the table's place: restring, backwards, …
}

// usualRun is what a player sees who comes without a recipe.
func usualRun() run.Recipe {
	return run.Recipe{
		Key:    "C# natural minor",
		Layout: "3nps",
		At:     "6:9",
		Cell:   "3 2 1 4",
		Times:  8,
		Land:   "4",
		Accent: 4,
		Tempo:  112,
	}
}

func readRuns(r *http.Request) (runsForm, error) {
	var f runsForm
	if err := r.ParseForm(); err != nil {
		return f, invalid{errors.New("the form cannot be read")}
	}
	for _, name := range run.Names() {
		if err := f.Recipe.Set(name, r.Form.Get(name)); err != nil {
			return f, invalid{err}
		}
	}
	if f.Recipe == (run.Recipe{}) {
		f.Recipe = usualRun()
	}
	f.Use, f.Show = r.Form.Get("use"), r.Form.Get("show")
	if n, err := strconv.ParseUint(r.Form.Get("lick"), 10, 31); err == nil {
		f.Lick = uint(n)
	}
	if n, err := strconv.ParseUint(r.Form.Get("rev"), 10, 31); err == nil {
		f.Rev = uint(n)
	}
	return f, nil
}

// address writes the form as a link.
func (f runsForm) address() string { return "/runs?" + f.query().Encode() }

func (f runsForm) query() url.Values {
	q := url.Values{}
	for _, name := range run.Names() {
		if v := f.Recipe.Get(name); v != "" {
			q.Set(name, v)
		}
	}
	if f.Lick > 0 {
		q.Set("lick", fmt.Sprint(f.Lick))
		q.Set("rev", fmt.Sprint(f.Rev))
	}
	if f.Use != "" {
		q.Set("use", f.Use)
	}
	if f.Show != "" {
		q.Set("show", f.Show)
	}
	return q
}

// with is the address with one argument changed. What was shown of the run before
// does not carry over.
func (f runsForm) with(name, value string) string {
	f.Use, f.Show = "", ""
	if f.Recipe.Set(name, value) != nil {
		return f.address()
	}
	return f.address()
}

func (a runsScreen) runs(w http.ResponseWriter, r *http.Request) {
	f, err := readRuns(r)
	if err != nil {
		a.fail(w, r, err)
		return
	}
	v, err := a.runsView(r, f)
	if errors.Is(err, store.ErrNotFound) {
		a.fail(w, r, err)
		return
	}
	if err != nil {
		a.fail(w, r, mistake(err))
		return
	}
	w.Header().Set("HX-Replace-Url", f.address())
	name := "runs"
	if r.Header.Get("HX-Request") != "" {
		name = "runs-partial"
	}
	a.render(w, r, http.StatusOK, name, page{Title: "Runs", Where: "runs", BenchID: f.Lick, Data: v})
}

// runLick is the line that the form has come to: the recipe grown, played the
// chosen way, restrung or turned.
func (a runsScreen) runLick(ctx context.Context, f runsForm) (l lick.Lick, err error) {
	g := engineOf(ctx).Player.Guitar
	grown, err := run.Grow(f.Recipe, g)
	if err != nil {
		return lick.Lick{}, err
	}
	err = a.work.Do(ctx, 0, func(ctx context.Context) error {
		l, err = shownAs(ctx, f, grown, g)
		return err
	})
	return l, err
}

func shownAs(ctx context.Context, f runsForm, grown *run.Run, g neck.Guitar) (lick.Lick, error) {
	switch f.Show {
	case "":
		list, err := waysOf(ctx, f, grown, g)
		if err != nil {
			return lick.Lick{}, err
		}
		w, err := chosen(list, f)
		return w.Lick, err
	case "restring":
		r, err := propose.Restring(ctx, engineOf(ctx), grown.Lick, restringWay(ctx, f))
		return r.After.Lick, err
	}
	turned, err := turn.Turn(g, grown.Lick, f.Show, 0, 0)
	if err != nil {
		return turned, err
	}
	return handed(ctx, turned)
}

// waysOf are the ways to play a run, each cell twice among them.
func waysOf(ctx context.Context, f runsForm, grown *run.Run, g neck.Guitar) ([]propose.WayToPlay, error) {
	list, err := propose.Ways(ctx, engineOf(ctx), grown.Lick)
	if err != nil || len(grown.Lick.Notes) > maxEvened {
		return list, err
	}
	w, ok, err := run.Evened(ctx, engineOf(ctx), grown.Lick, f.Recipe, g)
	if ok {
		list = append(list, w)
		slices.SortStableFunc(list, func(a, b propose.WayToPlay) int { return cmp.Compare(b.Ceiling, a.Ceiling) })
	}
	return list, err
}

// maxEvened is how long a run may be to be tried with every cell twice.
const maxEvened = 256

// chosen is the way that the form names: by its row of the table, else the best
// of the picking that the recipe asks for, else the best that plays the cell as
// it is written, once and with its own slurs.
func chosen(list []propose.WayToPlay, f runsForm) (propose.WayToPlay, error) {
	asked := f.Recipe.Pick
	if asked == string(pick.Free) {
		asked = "as it falls"
	}
	for _, w := range list {
		switch {
		case f.Use != "" && w.Name == f.Use,
			f.Use == "" && asked != "" && strings.HasPrefix(w.Name, asked),
			f.Use == "" && asked == "" && !strings.HasPrefix(w.Name, "legato") && !strings.HasPrefix(w.Name,
				"each cell"):
			return w, nil
		}
	}
	if f.Use == "" && len(list) > 0 {
		return list[0], nil
	}
	return propose.WayToPlay{}, errors.New("that way to play it is none of this run's")
}

func restringWay(ctx context.Context, f runsForm) pick.Way {
	if way, err := pick.ParseWay(f.Recipe.Pick); err == nil && way != pick.Legato {
		return way
	}
	if way := engineOf(ctx).Player.Way; way == pick.Alternate || way == pick.Economy {
		return way
	}
	return pick.Alternate
}

// runToBench puts the run on the bench: as a new lick, or, when it came from one,
// grown again without losing what was locked there.
func (a runsScreen) runToBench(w http.ResponseWriter, r *http.Request) {
	f, err := readRuns(r)
	if err != nil {
		a.fail(w, r, err)
		return
	}
	l, err := a.runLick(r.Context(), f)
	if err != nil {
		a.fail(w, r, mistake(err))
		return
	}
	if f.Show != "" {
		l.Recipe = ""
	}
	if f.Lick > 0 && f.Show == "" {
		a.regrow(w, r, f)
		return
	}
	e, err := a.add(r.Context(), l, "from Runs")
	if err != nil {
		a.fail(w, r, err)
		return
	}
	http.Redirect(w, r, fmt.Sprintf("/licks/%d", e.ID), http.StatusSeeOther)
}

func (a runsScreen) regrow(w http.ResponseWriter, r *http.Request, f runsForm) {
	base, err := a.store.At(r.Context(), f.Lick, f.Rev)
	if err != nil {
		a.fail(w, r, err)
		return
	}
	grown, err := turn.Regrow(base, f.Recipe, engineOf(r.Context()).Player.Guitar.WithTuning(base.Tuning))
	if err != nil {
		a.fail(w, r, invalid{err})
		return
	}
	if _, err := a.commit(r.Context(), f.Lick, f.Rev, grown.Lick, "grown again"); err != nil {
		a.failStale(w, r, f.Lick, err)
		return
	}
	http.Redirect(w, r, fmt.Sprintf("/licks/%d", f.Lick), http.StatusSeeOther)
}

// findRecipe looks for the recipe that a written lick follows and says it, with
// the way to adopt it.
func (a runsScreen) findRecipe(w http.ResponseWriter, r *http.Request) {
	e, ok := a.entry(w, r)
	if !ok {
		return
	}
	if e.Lick.Recipe != "" {
		if known, err := run.Parse(e.Lick.Recipe); err == nil {
			a.sayWith(
				w, r, http.StatusOK,
				notice{
					Text:    "It was grown from " + e.Lick.Recipe,
					Actions: []action{{Label: "Change the recipe", Link: adopt(e, known)}},
				},
			)
			return
		}
	}
	var found find.Found
	err := a.work.Do(r.Context(), e.ID, func(ctx context.Context) (err error) {
		found, ok, err = find.Find(ctx, engineOf(ctx).Player.Guitar, e.Lick)
		return err
	})
	if err != nil {
		a.fail(w, r, err)
		return
	}
	switch {
	case !ok:
		a.sayWith(w, r, http.StatusOK,
			notice{Text: "No cell in this line is played twice, so no recipe is shorter than the line."})
	case found.To-found.From+1 == len(e.Lick.Notes):
		a.sayWith(
			w, r, http.StatusOK,
			notice{
				Text:    "The whole line follows " + found.Recipe.String(),
				Actions: []action{{Label: "Adopt it", Link: adopt(e, found.Recipe)}},
			},
		)
	default:
		a.sayWith(
			w, r, http.StatusOK,
			notice{
				Text: fmt.Sprintf("Notes %d to %d of %d follow %s", found.From, found.To, len(e.Lick.Notes),
					found.Recipe),
				Actions: []action{{Label: "Open it in Runs", Link: runsForm{Recipe: found.Recipe}.address()}},
			},
		)
	}
}

// adopt is the way to change a lick by its recipe.
func adopt(e store.Entry, r run.Recipe) string {
	r.Tempo = e.Lick.Tempo
	return runsForm{Recipe: r, Lick: e.ID, Rev: e.Revision}.address()
}

// maxRecipeName is how long the name of a saved recipe may be.
const maxRecipeName = 40

func (a runsScreen) saveRecipe(w http.ResponseWriter, r *http.Request) {
	f, err := readRuns(r)
	if err != nil {
		a.fail(w, r, err)
		return
	}
	name := strings.TrimSpace(r.Form.Get("name"))
	switch _, err := run.Grow(f.Recipe, engineOf(r.Context()).Player.Guitar); {
	case err != nil:
		a.fail(w, r, invalid{err})
		return
	case name == "" || len([]rune(name)) > maxRecipeName:
		a.fail(w, r, invalid{fmt.Errorf("a recipe's name has 1 to %d letters", maxRecipeName)})
		return
	}
	if err := a.store.SaveRecipe(r.Context(), store.Recipe{Name: name, Line: f.Recipe.String()}); err != nil {
		a.fail(w, r, err)
		return
	}
	http.Redirect(w, r, f.address(), http.StatusSeeOther)
}

func (a runsScreen) forgetRecipe(w http.ResponseWriter, r *http.Request) {
	a.forget(w, r, a.store.ForgetRecipe, "/runs")
}
