// Package runs is the screen of recipes: a recipe as a sentence whose words can be changed, the run it
// grows, the ways to play that, and the recipe found in a line.
package runs

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/pick"
	"ornamen/core/propose"
	"ornamen/core/run"
	"ornamen/core/turn"
	"ornamen/internal/store"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// Screen grows runs from recipes.
type Screen struct{ *page.Site }

//go:embed *.html *.js *.css
var files embed.FS

// Menu implements page.Screen.
func (a Screen) Menu() page.MenuEntry {
	return page.MenuEntry{Name: "runs", Title: "Runs", Address: page.At("/runs")}
}

// Files implements page.Screen.
func (a Screen) Files() fs.FS { return files }

// Routes implements page.Screen.
func (a Screen) Routes(r, work chi.Router) {
	r.Get("/runs", a.Handler(a.runs))
	r.Get("/runs/words", a.Handler(a.runWords))
	work.Get("/runs/sound.wav", a.Handler(a.runSound))
	work.Get("/runs/sounding", a.Handler(a.runSound))
	r.Post("/runs/lick", a.Handler(a.runToBench))
	r.Post("/runs/saved", a.Handler(a.saveRecipe))
	r.Post("/runs/saved/{id}/forget", a.Does(a.Store.ForgetRecipe, "/runs"))
	work.Get("/licks/{id}/recipe", a.Handler(a.findRecipe))
	r.Post("/licks/{id}/parts", a.Handler(a.keepParts))
}

// runsForm is all that the Runs screen shows; like Tones it lives in the address. A run that came from a lick goes back
// to it: its number, revision and part travel in every link.
type runsForm struct {
	Recipe run.Recipe
	Lick   uint   // the lick whose recipe this is, 0 for none
	Rev    uint   // the revision of it that the recipe was taken from
	Part   int    // the part of it, from 1; 0 for all of it
	Use    string // the way to play it that was chosen, empty for the first
	Show   string // what stands in the table's place: restring, backwards, …

	Told []string // words that gave way to the one that was said last
}

// usualRun is what a player sees who comes without a recipe: a cell of four over a scale with
// three tones a string, long enough to show where string changes fall.
func usualRun() run.Recipe {
	return run.Recipe{Key: "C# natural minor", Layout: "3nps", At: "6:9", Cell: "3 2 1 4", Times: 8,
		Land: "4", Accent: 4, Tempo: 112}
}

// readRuns reads the page's address: the recipe, each of its words under its own name, and what is looked at. A word
// that cannot be read is the player's mistake; a number that is none is as if it were not there.
func readRuns(r *http.Request) (runsForm, error) {
	var f runsForm
	if err := r.ParseForm(); err != nil {
		return f, page.Refuse(errors.New("the form cannot be read"))
	}
	for _, name := range run.Names() {
		if err := f.Recipe.Set(name, r.Form.Get(name)); err != nil {
			return f, page.Refuse(err)
		}
	}
	if f.Recipe == (run.Recipe{}) {
		f.Recipe = usualRun()
	}
	f.Use, f.Show = r.Form.Get("use"), r.Form.Get("show")
	number := func(name string) uint {
		n, err := strconv.ParseUint(r.Form.Get(name), 10, 31)
		if err != nil {
			return 0
		}
		return uint(n)
	}
	f.Lick, f.Rev, f.Part = number("lick"), number("rev"), int(number("part"))
	return f, f.hear(r)
}

// hear says the word anew that the address names, by its value or by its name: &said=cell&to=1+2+3 for what is typed
// or chosen, &offer=tail for a word that begins with its usual value.
func (f *runsForm) hear(r *http.Request) (err error) {
	g := page.EngineOf(r.Context()).Player.Guitar
	field, to := r.Form.Get("said"), r.Form.Get("to")
	if offer := r.Form.Get("offer"); offer != "" {
		k, arg := partOf(offer)
		value, ok := f.offered(k, arg, g)
		if !ok {
			return page.Refuse(errors.New("this run has no place for that"))
		}
		field, to = offer, value
	}
	if field == "" {
		return nil
	}
	k, arg := partOf(field)
	said, told, err := f.Recipe.Put(k, arg, to, g)
	if err != nil {
		return page.Refuse(err)
	}
	f.Recipe, f.Told, f.Use, f.Show = said, told, "", ""
	return nil
}

// address writes the form as a link.
func (f runsForm) address() string { return "/runs?" + f.query().Encode() }

// query writes the address that readRuns reads. Words of the recipe that are at their default are left out.
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
		if f.Part > 0 {
			q.Set("part", fmt.Sprint(f.Part))
		}
	}
	for name, value := range map[string]string{"use": f.Use, "show": f.Show} {
		if value != "" {
			q.Set(name, value)
		}
	}
	return q
}

// saying is the address of the run with one word said anew. What was shown of the run before does not carry over.
func (f runsForm) saying(field, value string) string {
	f.Use, f.Show = "", ""
	q := f.query()
	q.Set("said", field)
	q.Set("to", value)
	return "/runs?" + q.Encode()
}

// andThen is the address of the run that goes on with another part.
func (f runsForm) andThen(last run.Recipe, grown *run.Run, g neck.Guitar) string {
	f.Use, f.Show = "", ""
	f.Recipe.AddPart(run.Back(last, grown, g))
	return f.address()
}

// without is the address of the run without part k, counted from 0; none for the first.
func (f runsForm) without(k int) string {
	if k == 0 {
		return ""
	}
	f.Use, f.Show = "", ""
	f.Recipe.RemovePart(k)
	return f.address()
}

// runs is the page of one recipe; the address is all of its state, so that Back is undo. GET. A recipe that cannot be
// grown is refused in a sentence that names the word; the page that is open keeps the last run.
func (a Screen) runs(w http.ResponseWriter, r *http.Request) error {
	f, err := readRuns(r)
	if err != nil {
		return err
	}
	v, err := a.runsView(r, f)
	if errors.Is(err, store.ErrNotFound) {
		return err
	}
	if err != nil {
		return page.Mistake(err)
	}
	// Each run is a step of the browser's way back, which is the undo of this screen.
	way := "HX-Push-Url"
	if at, err := url.Parse(r.Header.Get("HX-Current-URL")); err != nil || at.RequestURI() == f.address() ||
		at.RawQuery == "" {
		way = "HX-Replace-Url"
	}
	w.Header().Set(way, f.address())
	return a.RenderBody(w, r, "runs", page.Page{Title: "Runs", Where: "runs", BenchID: f.Lick, Data: v})
}

// runWords is the menu of one word of the sentence: what it can be here, or with what was typed what answers to it.
// GET.
func (a Screen) runWords(w http.ResponseWriter, r *http.Request) error {
	f, err := readRuns(r)
	if err != nil {
		return err
	}
	m, err := f.words(r.Form.Get("word"), r.Form.Get("typed"), page.EngineOf(r.Context()).Player.Guitar)
	if err != nil {
		return page.Refuse(err)
	}
	return a.Render(w, r, "run-choices", page.Page{Data: m})
}

// runLick is the line that the form has come to: the recipe grown, played the chosen way, restrung or turned. Ways to
// play a run of a thousand notes take a quarter of a second, so that it waits for its turn.
func (a Screen) runLick(ctx context.Context, f runsForm) (lick.Lick, error) {
	g := page.EngineOf(ctx).Player.Guitar
	grown, err := run.Grow(f.Recipe, g)
	if err != nil {
		return lick.Lick{}, err
	}
	return page.Queued(ctx, a.Site, 0, func(ctx context.Context) (lick.Lick, error) { return shownAs(ctx, f, grown, g) })
}

// shownAs is the run as it is looked at: restrung, turned, an octave away.
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
		r, err := propose.Restring(ctx, page.EngineOf(ctx), grown.Lick, restringWay(ctx, f))
		return r.After.Lick, err
	}
	turned, err := turn.Turn(g, grown.Lick, f.Show, 0, 0)
	if err != nil {
		return turned, err
	}
	return page.Handed(ctx, turned)
}

// waysOf are the ways to play a run, with each string's count made even among them. The error is the context's.
func waysOf(ctx context.Context, f runsForm, grown *run.Run, g neck.Guitar) ([]propose.WayToPlay, error) {
	return run.Ways(ctx, page.EngineOf(ctx), grown.Lick, f.Recipe, g)
}

// chosen is the way that the form names: by its row of the table, else the strokes that the cell
// itself sets, as on the command line, else the best of the picking that the recipe asks for, else
// the best that plays the cell as it is written, once and with its own slurs.
func chosen(list []propose.WayToPlay, f runsForm) (propose.WayToPlay, error) {
	asked := f.Recipe.Pick
	if asked == string(pick.Free) {
		asked = "as it falls"
	}
	own := func(w propose.WayToPlay) bool { return w.Name == propose.OwnPattern }
	if k := slices.IndexFunc(list, own); f.Use == "" && k >= 0 {
		return list[k], nil
	}
	for _, w := range list {
		switch {
		case f.Use != "" && w.Name == f.Use,
			f.Use == "" && asked != "" && strings.HasPrefix(w.Name, asked),
			f.Use == "" && asked == "" && !strings.HasPrefix(w.Name, "legato") && w.Name != run.EvenedName:
			return w, nil
		}
	}
	if f.Use == "" && len(list) > 0 {
		return list[0], nil
	}
	return propose.WayToPlay{}, errors.New("that way to play it is none of this run's")
}

// restringWay is the way of picking that a restringing serves.
func restringWay(ctx context.Context, f runsForm) pick.Way {
	if way, err := pick.ParseWay(f.Recipe.Pick); err == nil && way != pick.Legato {
		return way
	}
	if way := page.EngineOf(ctx).Player.Way; way == pick.Alternate || way == pick.Economy {
		return way
	}
	return pick.Alternate
}

// runToBench puts the run on the bench: as a new lick with its recipe, or, when it came from one, grown again without
// losing what was locked there. A run that was turned or restrung follows its recipe no longer and leaves it behind.
func (a Screen) runToBench(w http.ResponseWriter, r *http.Request) error {
	f, err := readRuns(r)
	if err != nil {
		return err
	}
	// The way that was chosen from the table goes along, so that the bench opens on it.
	for _, way := range []pick.Way{pick.Alternate, pick.Economy, pick.Legato} {
		if f.Recipe.Pick == "" && strings.HasPrefix(f.Use, string(way)) {
			f.Recipe.Pick = string(way)
		}
	}
	l, err := a.runLick(r.Context(), f)
	if err != nil {
		return page.Mistake(err)
	}
	if f.Show != "" {
		l.ForgetRecipes()
	}
	if f.Lick > 0 && f.Show == "" {
		return a.regrow(w, r, f)
	}
	return a.Begin(w, r, l, "from Runs")
}

// regrow grows a lick of the notebook again from a changed recipe, as an edit of the revision
// that the recipe was taken from.
func (a Screen) regrow(w http.ResponseWriter, r *http.Request, f runsForm) error {
	base, err := a.WholeAt(r.Context(), f.Lick, f.Rev)
	if err != nil {
		return err
	}
	again, what, err := grownAgain(r.Context(), f, base)
	if err != nil {
		return page.Refuse(err)
	}
	return a.Change(w, r, f.Lick, f.Rev, again, what)
}

// grownAgain is a lick, or its part that the form names, grown from a changed recipe, and what that is called. What was
// locked stays on the notes that are still there; the lick's tuning, chords, title and tags are kept.
func grownAgain(ctx context.Context, f runsForm, base lick.Lick) (lick.Lick, string, error) {
	g := page.EngineOf(ctx).Player.Guitar.WithTuning(base.Tuning)
	if f.Part > 0 {
		again, err := turn.RegrowPart(base, f.Part-1, f.Recipe, g)
		return again, fmt.Sprintf("part %d grown again", f.Part), err
	}
	grown, err := turn.Regrow(base, f.Recipe, g)
	if err != nil {
		return base, "", err
	}
	return grown.Lick, "grown again", nil
}

// maxRecipeName is how long the name of a saved recipe may be.
const maxRecipeName = 40

// saveRecipe keeps a recipe by name. POST. Only what grows can be kept; a name that is taken is written over.
func (a Screen) saveRecipe(w http.ResponseWriter, r *http.Request) error {
	f, err := readRuns(r)
	if err != nil {
		return err
	}
	name := strings.TrimSpace(r.Form.Get("name"))
	switch _, err := run.Grow(f.Recipe, page.EngineOf(r.Context()).Player.Guitar); {
	case err != nil:
		return page.Refuse(err)
	case name == "" || len([]rune(name)) > maxRecipeName:
		return page.Refuse(fmt.Errorf("a recipe's name has 1 to %d letters", maxRecipeName))
	}
	if err := a.Store.SaveRecipe(r.Context(), store.Recipe{Name: name, Line: f.Recipe.String()}); err != nil {
		return err
	}
	return page.Redirect(w, r, f.address())
}

// runSound sends the run as it sounds, or when its notes sound; what is asked of the sound stands in the address beside
// the recipe.
func (a Screen) runSound(w http.ResponseWriter, r *http.Request) error {
	asked, err := view.Apart(r)
	if err != nil {
		return err
	}
	form, err := readRuns(r)
	var l lick.Lick
	if err == nil {
		l, err = a.runLick(r.Context(), form)
	}
	var f view.SoundForm
	if err == nil {
		r.Form = asked
		err = a.Decode(r, &f)
	}
	if err != nil {
		return page.Mistake(err)
	}
	p, err := f.Renderer(page.EngineOf(r.Context()).Player.Guitar, l)
	if err != nil {
		return page.Mistake(err)
	}
	return f.Send(w, r, p, l)
}
