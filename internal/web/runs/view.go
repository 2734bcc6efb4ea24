package runs

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"html/template"
	"net/http"
	"slices"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/phrase"
	"ornamen/core/propose"
	"ornamen/core/run"
	"ornamen/core/say"
	"ornamen/core/shape"
	"ornamen/core/turn"
	"ornamen/internal/web/draw"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// runsPage is what the screen shows. The sentence is the recipe, the drawing the run in the way that is used, the rows
// the ways to play it, the highest ceiling first. Show is the comparison that an action opened.
type runsPage struct {
	Form    runsForm
	Query   map[string]string
	Said    []sentence // of each part
	Then    string     // the way to go on with another part
	Run     template.HTML
	Told    []string // words that gave way to the one that was said last
	Count   string   // "33 notes, two bars and one"
	Note    string
	Ways    []wayRow
	Best    string
	Show    *compareView
	Actions []view.Choice
	Stock   []savedRecipe
	From    string // the lick that is changed
	Notes   int
}

// letter is a key of the Runs screen and the word of the sentence that it opens.
type letter struct{ Key, Field, Name string }

// Letters are the keys of the screen.
func (*runsPage) Letters() []letter {
	return []letter{{"k", "key", "key"}, {"p", "at", "place"}, {"c", "cell", "cell"}, {"d", "down-cell", "coming down"},
		{"m", "move", "move"}, {"n", "times", "times"}, {"t", "tail", "tail"}, {"a", "then", "and then"},
		{"l", "land", "landing"}, {"s", "tempo", "speed"}, {"b", "bench", "to the bench"}}
}

// letterOf is the key that opens a word; empty for none.
func letterOf(field string) string {
	for _, l := range (*runsPage)(nil).Letters() {
		if l.Field == field {
			return l.Key
		}
	}
	return ""
}

// Letter is the key that opens the word.
func (p sentencePart) Letter() string { return letterOf(p.Field) }

// Letter is the key that says the word.
func (o offer) Letter() string { return letterOf(o.Name) }

// sentence is one part of the recipe in words.
type sentence struct {
	Part  int // from 1
	Words []sentencePart
	Drop  string // the way to leave the part out, empty for the only one
	Last  bool
}

// MoreField is the word whose menu lists what can be said besides.
func (s sentence) MoreField() string { return fieldOf(s.Part-1, moreWords) }

// sentencePart is one piece of the recipe as a sentence: plain text, or a word that can be
// changed, by choice or by typing.
type sentencePart struct {
	Plain  string
	Field  string // the recipe's argument that the word sets
	Text   string // as the sentence says it
	Value  string // as it is typed
	Hint   string // what may be typed
	Copper bool   // in the colour of added tones
}

// wordMenu is what a word can be: choices, of a key its roots, what was typed as it is; or what else can be said.
type wordMenu struct {
	Typed   view.Choice
	Roots   []view.Choice
	Choices []view.Choice
	Offers  []offer        // words that are not said yet
	More    []sentencePart // words of the part before that can be said anew, by typing
}

// offer is a word that the recipe does not have and could: what it would say, and the run with it.
type offer struct{ Field, Name, Text, Link string }

// Tight says whether the piece stands without a space before it.
func (p sentencePart) Tight() bool { return p.Plain != "" && strings.Contains(",.", p.Plain[:1]) }

// wayRow is one way to play the run. Held is the move that sets this way's ceiling, in words.
type wayRow struct {
	Digit                                 int // the key that takes it
	Name, Strokes, Changes, Ceiling, Held string
	On                                    bool
	Link                                  string
}

// compareView shows the run beside what became of it.
type compareView struct {
	Title         string
	Before, After view.Offer
	Same          bool
}

// runsView grows the recipe and judges its ways; a word that cannot be read leaves the last run standing and says why.
// Growing is quick and its errors name the word at fault; judging the ways takes longer and is done as one job that a
// newer request ends.
//
// f.Lick is the lick whose recipe is changed: the run then goes back to it, as of the revision that was opened.
func (a Screen) runsView(r *http.Request, f runsForm) (*runsPage, error) {
	g := page.EngineOf(r.Context()).Player.Guitar
	grown, err := run.Grow(f.Recipe, g)
	if err != nil {
		return nil, err
	}
	if f.Recipe.Tempo == 0 {
		f.Recipe.Tempo = grown.Lick.Tempo
	}
	v := &runsPage{Form: f, Query: map[string]string{}, Notes: len(grown.Lick.Notes)}
	v.Told = append(slices.Clone(f.Told), run.Unused(f.Recipe, g)...)
	if f.Lick > 0 {
		e, err := a.Get(r.Context(), f.Lick)
		if err != nil {
			return nil, err
		}
		v.From = view.TitleOf(e.Lick)
		if f.Rev == 0 {
			f.Rev = e.Revision
		}
	}
	v.Form = f
	for k, x := range f.query() {
		v.Query[k] = x[0]
	}
	if err := v.sentence(grown, g); err != nil {
		return nil, err
	}
	return v, a.Work.Do(r.Context(), 0, func(ctx context.Context) error { return a.runsWays(ctx, v, f, grown, g) })
}

// runsWays adds the ways to play the run, and what it turns into. A way that the address names
// and that this run does not have, as after another cell, gives way to the best.
func (a Screen) runsWays(ctx context.Context, v *runsPage, f runsForm, grown *run.Run, g neck.Guitar) error {
	list, err := waysOf(ctx, f, grown, g)
	if err != nil {
		return err
	}
	if len(list) == 0 {
		return errors.New("this recipe plays no note")
	}
	use, err := chosen(list, f)
	if err != nil {
		f.Use = ""
		if use, err = chosen(list, f); err != nil {
			return err
		}
	}
	v.rows(f, list, use)
	v.drawRun(ctx, grown, use, g)
	if f.Show != "" {
		if v.Show, err = compare(ctx, f, grown, g, use); err != nil {
			return err
		}
	}
	for _, x := range turns {
		if _, err := turn.Turn(g, grown.Lick, x.show, 0, 0); x.show != "restring" && err != nil {
			continue // it would leave the neck
		}
		to := f
		to.Show = x.show
		if f.Show == x.show {
			to.Show = ""
		}
		v.Actions = append(v.Actions, view.Choice{Name: x.name, Link: to.address(), On: f.Show == x.show})
	}
	return a.stock(ctx, v)
}

// turns are what a run can be turned into beside it: the name of the action, the word for it in the address, and what
// the result is called.
var turns = []struct{ name, show, title string }{
	{"Restring it", "restring", "Restrung"},
	{"Backwards", "backwards", "Backwards"},
	{"Mirror", "mirror", "The mirror"},
	{"Octave up", "octave", "Octave up"},
	{"Octave down", "-octave", "Octave down"},
}

// stock lists the saved recipes. One that a later version wrote and this one cannot read is left out, and stays in the
// notebook. The one that is on the screen is marked.
func (a Screen) stock(ctx context.Context, v *runsPage) error {
	saved, err := a.Store.Recipes(ctx)
	if err != nil {
		return err
	}
	for _, s := range saved {
		if known, err := run.Parse(s.Line); err == nil {
			v.Stock = append(v.Stock, savedRecipe{s.ID,
				view.Choice{Name: s.Name, Link: runsForm{Recipe: known}.address(), On: known == v.Form.Recipe}})
		}
	}
	return nil
}

// savedRecipe is a recipe of the stock.
type savedRecipe struct {
	ID uint
	view.Choice
}

// rows lists the ways, the one in use marked. A row's link keeps the recipe and names the way; the comparison closes,
// as it was about another one.
func (v *runsPage) rows(f runsForm, list []propose.WayToPlay, use propose.WayToPlay) {
	f.Show = ""
	for i, w := range list {
		to := f
		to.Use = w.Name
		row := wayRow{Digit: i + 1, Name: page.SentenceCase(w.Name), Ceiling: view.CeilingWord(w.Report),
			Held: w.Held, On: w.Name == use.Name, Link: to.address()}
		row.Strokes, row.Changes = say.Slurred(w.Report.Strokes, w.Report.Slurs), view.StringChangeWords(w.Report)
		v.Ways = append(v.Ways, row)
	}
	if best := use.Report.BestPossible; best > 0 {
		v.Best = fmt.Sprintf("At best %d without added slurs", best.Whole())
	}
	if slices.ContainsFunc(list, func(w propose.WayToPlay) bool { return w.Name == propose.OwnPattern }) {
		v.Best = strings.TrimPrefix(v.Best+". The cell sets its strokes; the other ways take their own instead", ". ")
	}
}

// drawRun draws the run in the way that is used, and says how cells and beats lie. A way that plays cells twice has
// other notes than the recipe's, so that no brackets are drawn.
func (v *runsPage) drawRun(ctx context.Context, grown *run.Run, use propose.WayToPlay, g neck.Guitar) {
	var cells []draw.RunCell
	n := 0
	// With every cell twice the drawing shows the run as the recipe grows it.
	r := use.Report
	same := len(r.Lick.Notes) == len(grown.Lick.Notes)
	for _, c := range grown.Cells {
		cell := draw.RunCell{From: c.From, To: c.To, Label: "tail", Last: c.Tail}
		if !c.Tail {
			n++
			cell.Label = fmt.Sprint(n)
		}
		if same {
			cells = append(cells, cell)
		}
	}
	if grown.Landing > 0 && same {
		cells = append(cells, draw.RunCell{From: grown.Landing - 1, To: grown.Landing, Label: "land", Last: true})
	}
	var names []string
	for s := range r.Lick.Tuning {
		names = append(names, view.ShortString(r.Lick, s+1))
	}
	spans := shape.BoxSpans(g, r.Lick)
	counting := page.Playing(ctx).Profile.Boxes
	boxes := view.BoxCells(spans, counting)
	v.Run = draw.RunSVG(r, cells, boxes, names)
	if text := view.BoxesText(spans, counting); text != "" {
		v.Note = text
	}
	x := grown.RhythmOf()
	v.Count = fmt.Sprintf("%s, %s: %s.", say.Count(x.Notes, "note"), say.Count(x.Bars, "bar"),
		learnWords(v.Form.Recipe, x.Notes))
	notes := slices.Clone(grown.Remarks)
	if x.Aloud != "" {
		notes = append(notes, "Count each cell "+x.Aloud+".")
	}
	if x.MeetCells > 1 {
		notes = append(notes, fmt.Sprintf("Cell and beat meet again after %s, %s.", say.Count(x.MeetCells, "cell"),
			say.Count(x.MeetBeats, "beat")))
	}
	if x.PickupFrom != "" && v.Form.Recipe.From == "" {
		notes = append(notes, "The pick-up starts on "+x.PickupFrom+".")
	}
	if v.Note != "" {
		notes = append(notes, v.Note)
	}
	v.Note = strings.Join(notes, " ")
}

// learnWords says how many notes have to be learned for how many are played: what a recipe is for.
func learnWords(r run.Recipe, notes int) string {
	parts, err := r.Parts()
	if err != nil {
		return ""
	}
	cells, shapes := map[string]bool{}, map[string]bool{}
	for _, part := range parts {
		shapes[part.Layout+part.Key] = true
		p, err := phrase.ParsePhrase(part.Cell)
		if err != nil {
			return ""
		}
		for _, c := range p.Cells {
			cells[phrase.CellText(p.Kind, c)] = true
		}
	}
	return fmt.Sprintf(
		"%s and %s to learn, not %d numbers",
		say.Some(len(shapes), "shape"),
		say.Some(len(cells), "cell"),
		notes,
	)
}

// compare is the run beside what it would be otherwise. Both are judged with the best hands for their notes, so that
// the numbers compare lines and not fingerings. A restringing compares the proposals that it was chosen by.
func compare(ctx context.Context, f runsForm, grown *run.Run, g neck.Guitar,
	use propose.WayToPlay) (*compareView, error) {
	c := &compareView{}
	for _, x := range turns {
		if x.show == f.Show {
			c.Title = x.title
		}
	}
	if f.Show == "restring" {
		c.Title = "Restrung for " + string(restringWay(ctx, f))
	}
	before, after := use.Lick, lick.Lick{}
	var err error
	if f.Show == "restring" {
		r, err := propose.Restring(ctx, page.EngineOf(ctx), grown.Lick, restringWay(ctx, f))
		if err != nil {
			return nil, err
		}
		after = r.After.Lick
		c.Same = r.Clean[0] == r.Clean[1]
		c.After.Why = fmt.Sprintf("%s out of the way, before %d.", say.Count(r.Clean[1], "change"), r.Clean[0])
		if c.Same {
			c.After.Why = "No neighbouring strings make it cleaner."
		}
	} else if after, err = shownAs(ctx, f, grown, g); err != nil {
		return nil, err
	}
	fill := func(o *view.Offer, l lick.Lick, title string) error {
		rep, err := page.EngineOf(ctx).Check(ctx, l)
		if err != nil {
			return err
		}
		why := cmp.Or(o.Why, page.SentenceCase(view.StringChangeWords(rep))+".")
		*o = view.OfferOf(0, title, why, rep, nil)
		return nil
	}
	if err := fill(&c.Before, before, "As it is"); err != nil {
		return nil, err
	}
	return c, fill(&c.After, after, c.Title)
}
