package web

import (
	"context"
	"errors"
	"fmt"
	"html/template"
	"net/http"
	"strings"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/phrase"
	"ornamen/core/propose"
	"ornamen/core/run"
	"ornamen/core/shape"
	"ornamen/internal/web/draw"
)

// runsPage is what the screen shows.
type runsPage struct {
	Form     runsForm
	Query    map[string]string
	Sentence []sentencePart
	More     []sentencePart // words that are not said yet
	Run      template.HTML
	Count    string // "33 notes, two bars and one"
	Note     string
	Ways     []wayRow
	Best     string
	Show     *compareView
	Actions  []choice
	Stock    []savedRecipe
	From     string // the lick that is changed
	Notes    int
}

// sentencePart is one piece of the recipe as a sentence: plain text, or a word
// that can be changed.
type sentencePart struct {
	Plain   string
	Field   string
	Text    string
	Value   string
	Hint    string
	Copper  bool
	Choices []choice
}

// Tight says whether the piece stands without a space before it.
func (p sentencePart) Tight() bool {
	return strings.HasPrefix(p.Plain, ",") || strings.HasPrefix(p.Plain, ".")
}

type wayRow struct {
	Digit                                 int // the key that takes it
	Name, Strokes, Changes, Ceiling, Held string
	On                                    bool
	Link                                  string
}

// compareView shows the run beside what became of it.
type compareView struct {
	Title         string
	Before, After offer
	Same          bool
}

func (a *App) runsView(r *http.Request, f runsForm) (*runsPage, error) {
	g := engineOf(r.Context()).Player.Guitar
	grown, err := run.Grow(f.Recipe, g)
	if err != nil {
		return nil, err
	}
	if f.Recipe.Tempo == 0 {
		f.Recipe.Tempo = grown.Lick.Tempo
	}
	v := &runsPage{Form: f, Query: map[string]string{}, Notes: len(grown.Lick.Notes)}
	if f.Lick > 0 {
		e, err := a.store.Get(r.Context(), f.Lick)
		if err != nil {
			return nil, err
		}
		v.From = titleOf(e.Lick)
		if f.Rev == 0 {
			f.Rev = e.Revision
		}
	}
	v.Form = f
	for k, x := range f.query() {
		v.Query[k] = x[0]
	}
	v.sentence(g)
	return v, a.work.Do(r.Context(), 0, func(ctx context.Context) error { return a.runsWays(ctx, v, f, grown, g) })
}

// runsWays adds the ways to play the run, and what it turns into.
func (a *App) runsWays(ctx context.Context, v *runsPage, f runsForm, grown *run.Run, g neck.Guitar) error {
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
	v.drawRun(grown, use)
	if f.Show != "" {
		if v.Show, err = compare(ctx, f, grown, g, use); err != nil {
			return err
		}
	}
	for _, x := range []struct{ name, show string }{{"Restring it", "restring"}, {"Backwards", "backwards"}, {"Mirror", "mirror"}, {"An octave on", "octave"}, {"An octave down", "-octave"}} {
		to := f
		to.Show = x.show
		if f.Show == x.show {
			to.Show = ""
		}
		v.Actions = append(v.Actions, choice{x.name, to.address(), f.Show == x.show})
	}
	return a.stock(ctx, v)
}

// stock lists the saved recipes.
func (a *App) stock(ctx context.Context, v *runsPage) error {
	saved, err := a.store.Recipes(ctx)
	if err != nil {
		return err
	}
	for _, s := range saved {
		if known, err := run.Parse(s.Line); err == nil {
			v.Stock = append(v.Stock, savedRecipe{s.ID, choice{s.Name, runsForm{Recipe: known}.address(), known == v.Form.Recipe}})
		}
	}
	return nil
}

// savedRecipe is a recipe of the stock.
type savedRecipe struct {
	ID uint
	choice
}

func (v *runsPage) rows(f runsForm, list []propose.WayToPlay, use propose.WayToPlay) {
	f.Show = ""
	for i, w := range list {
		to := f
		to.Use = w.Name
		row := wayRow{Digit: i + 1, Name: sentenceCase(w.Name), Ceiling: ceilingWord(w.Report), Held: w.Held, On: w.Name == use.Name, Link: to.address()}
		row.Strokes = countOfWord(w.Report.Strokes, "stroke")
		if w.Report.Slurs > 0 {
			row.Strokes += ", " + countOfWord(w.Report.Slurs, "slur")
		}
		row.Changes = changesWords(w.Report)
		v.Ways = append(v.Ways, row)
	}
	if best := use.Report.BestPossible; best > 0 {
		v.Best = fmt.Sprintf("At best %d without added slurs", best.Whole())
	}
}

func countOfWord(n int, word string) string {
	if n == 1 {
		return "1 " + word
	}
	return fmt.Sprintf("%d %ss", n, word)
}

// changesWords counts the string changes: "3 inside, 10 outside; leaves both ways".
func changesWords(r *judge.Report) string {
	parts := r.Changes.Words()
	if len(parts) == 0 {
		return "one string"
	}
	s := strings.Join(parts, ", ")
	switch r.Exits {
	case "down", "up":
		s += "; leaves on " + r.Exits
	case "mixed":
		s += "; leaves both ways"
	}
	return s
}

func (v *runsPage) drawRun(grown *run.Run, use propose.WayToPlay) {
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
		names = append(names, shortString(r.Lick, s+1))
	}
	v.Run = draw.RunSVG(r, cells, names)
	x := grown.RhythmOf()
	v.Count = fmt.Sprintf("%s, %s: %s.", countOfWord(x.Notes, "note"), countOfWord(x.Bars, "bar"), learnWords(v.Form.Recipe, x.Notes))
	var notes []string
	if x.Aloud != "" && strings.Contains(x.Aloud, " and ") {
		notes = append(notes, "Count each cell "+x.Aloud+".")
	}
	if x.MeetCells > 1 {
		notes = append(notes, fmt.Sprintf("Cell and beat meet again after %s, %s.", countOfWord(x.MeetCells, "cell"), countOfWord(x.MeetBeats, "beat")))
	}
	if x.PickupFrom != "" {
		notes = append(notes, "The pick-up starts on "+x.PickupFrom+".")
	}
	v.Note = strings.Join(notes, " ")
}

func learnWords(r run.Recipe, notes int) string {
	p, err := phrase.ParsePhrase(r.Cell)
	if err != nil {
		return ""
	}
	cells := "one cell"
	if len(p.Cells) > 1 {
		cells = countOfWord(len(p.Cells), "cell")
	}
	return fmt.Sprintf("one shape and %s to learn, not %d numbers", cells, notes)
}

func compare(ctx context.Context, f runsForm, grown *run.Run, g neck.Guitar, use propose.WayToPlay) (*compareView, error) {
	c := &compareView{Title: map[string]string{"restring": "Restrung for " + string(restringWay(ctx, f)), "backwards": "Backwards", "mirror": "The mirror", "octave": "An octave on", "-octave": "An octave down"}[f.Show]}
	before, after := use.Lick, lick.Lick{}
	var err error
	if f.Show == "restring" {
		r, err := propose.Restring(ctx, engineOf(ctx), grown.Lick, restringWay(ctx, f))
		if err != nil {
			return nil, err
		}
		before, after = r.Before.Lick, r.After.Lick
		c.Same = r.Clean[0] == r.Clean[1]
		c.After.Why = fmt.Sprintf("%s out of the way, before %d.", countOfWord(r.Clean[1], "change"), r.Clean[0])
		if c.Same {
			c.After.Why = "No neighbouring strings make it cleaner."
		}
	} else if after, err = shownAs(ctx, f, grown, g); err != nil {
		return nil, err
	}
	fill := func(o *offer, l lick.Lick, title string) error {
		rep, err := engineOf(ctx).Check(ctx, l)
		if err != nil {
			return err
		}
		o.Title, o.Ceiling, o.Word, o.Class = title, ceilingWord(rep), sentenceWord(rep.Verdict), rep.Verdict.String()
		o.Hands = draw.HandsSVG(l, nil, rep.Bottleneck)
		if o.Why == "" {
			o.Why = sentenceCase(changesWords(rep)) + "."
		}
		return nil
	}
	if err := fill(&c.Before, before, "As it is"); err != nil {
		return nil, err
	}
	return c, fill(&c.After, after, c.Title)
}

// sentence says the recipe with its words as controls.
func (v *runsPage) sentence(g neck.Guitar) {
	f, r := v.Form, v.Form.Recipe
	p, _ := phrase.ParsePhrase(r.Cell)
	key := strings.SplitN(r.Title(), ",", 2)[0]
	add := func(parts ...sentencePart) { v.Sentence = append(v.Sentence, parts...) }
	plain := func(s string) sentencePart { return sentencePart{Plain: s} }
	word := func(field, text, hint string, choices ...choice) sentencePart {
		return sentencePart{Field: field, Text: text, Value: r.Get(field), Hint: hint, Choices: choices}
	}
	options := func(field string, pairs ...string) []choice {
		var out []choice
		for i := 0; i+1 < len(pairs); i += 2 {
			out = append(out, choice{pairs[i], f.with(field, pairs[i+1]), r.Get(field) == pairs[i+1]})
		}
		return out
	}
	keyChoices := func() []choice {
		tonic, _, _ := strings.Cut(r.Key, " ")
		var out []choice
		for _, s := range []string{"minor pentatonic", "major pentatonic", "blues", "natural minor", "major", "dorian", "mixolydian", "harmonic minor"} {
			out = append(out, choice{s, f.with("key", tonic+" "+s), r.Key == tonic+" "+s})
		}
		return out
	}
	added := word("add", "no added tones", "Degrees, such as 9 or b5@down", options("add", "none", "", "9", "9", "♭5 on the way down", "b5@down", "7 below the root", "7@below")...)
	added.Copper = true
	if r.Add != "" {
		added.Text = prettyDegrees(r.Add)
	}
	add(plain("From"), word("key", key, "Root and scale, or root and degrees", keyChoices()...), plain("with"), added, plain(","))
	add(word("layout", layoutWord(r), "A layout, such as counts:3,1,3 or strings:2,1", options("layout", "as usual", "", "in a box", "box", "three a string", "3nps", "on one string", "string:2", "an arpeggio", "arp", "joined by slides", "joined", "sixths", "pairs:3,1:6")...))
	add(plain("from"), word("at", placeWord(r, g), "STRING:FRET, as in 6:9", v.starts(g)...), plain(", play the cell"))
	add(word("cell", p.String(), "tones 3 2 1 4, strings: a1 ha2 b1, or chord: 1 5 3'", options("cell", "1 2 3", "1 2 3", "1 2 3 4", "1 2 3 4", "3 2 1 4", "3 2 1 4", "1 3 2 1", "1 3 2 1", "thirds: 1 3", "1 3", "two strings: a1 ha2 b1", "strings: a1 ha2 b1", "over chords: 1 5 3' 2' 1'", "chord: 1 5 3' 2' 1'")...), plain(", move"))
	add(word("dir", run.DirName(r.Dir), "", options("dir", "up", "", "down", "down", "up and down", "updown", "down and up", "downup")...))
	add(word("move", run.MoveName(r.Move, p.Kind), "A number of tones, or string:2", options("move", "as usual", "", "one tone", "1", "two tones", "2", "one string over", "string", "an octave on", "octave", "to the next position", "position", "to the next chord", "chord", "nowhere", "stay")...))
	length := word("times", "as far as it goes", "How many cells", options("times", "as far as it goes", "", "4 times", "4", "8 times", "8", "12 times", "12")...)
	if r.Times > 0 {
		length.Text = fmt.Sprintf("%d times", r.Times)
	}
	if r.Bars > 0 {
		length = word("bars", countOfWord(r.Bars, "bar")+" long", "How many bars", options("bars", "without", "", "1 bar", "1", "2 bars", "2", "4 bars", "4")...)
	}
	add(plain("each time,"), length, plain(", and land on"))
	land := word("land", "nothing", "A degree, and its beat: 1@1", options("land", "nothing", "", "the root on 1", "1@1", "the root", "1", "the fifth on 1", "5@1", "the third on 3", "3@3")...)
	if r.Land != "" {
		d, beat, at := strings.Cut(r.Land, "@")
		land.Text = prettyDegrees(d)
		if at {
			land.Text += " on beat " + beat
		}
	}
	add(land, plain(". Count"))
	add(word("count", run.CountName(r.Count), "4 8 8t 16 16t 16q 16s, or several: 8,16", options("count", "eighths", "8", "eighth triplets", "8t", "sixteenths", "16", "quintuplets", "16q", "sextuplets", "16t", "septuplets", "16s")...), plain("at"))
	add(word("tempo", fmt.Sprintf("%g", r.Tempo), "Quarters a minute"), plain(", accent"))
	accent := word("accent", "as the cell says", "Every so many notes", options("accent", "as the cell says", "", "every 3", "3", "every 4", "4", "every 6", "6", "every 7", "7")...)
	if r.Accent > 0 {
		accent.Text = fmt.Sprintf("every %d", r.Accent)
	}
	add(accent, plain(", pick it"))
	picked := word("pick", "the cleanest way", "", options("pick", "the cleanest way", "", "in alternation", "alternate", "in economy", "economy", "legato", "legato", "as it falls", "free")...)
	if r.Pick != "" {
		picked.Text = map[string]string{"alternate": "in alternation", "economy": "in economy", "legato": "legato", "free": "as it falls"}[r.Pick]
	}
	add(picked, plain("."))
	v.extras(word)
}

// extras are the words that most runs do not need: said at the end where they are
// set, offered where they are not.
func (v *runsPage) extras(word func(field, text, hint string, choices ...choice) sentencePart) {
	r := v.Form.Recipe
	for _, x := range []struct{ field, said, offer, hint string }{
		{"repeat", "each cell %s times", "play each cell more than once", "How often"},
		{"turn", "the top place %s", "the top place twice", "once or twice"},
		{"start", "begin on tone %s", "begin on another tone", "Its number in the layout"},
		{"rotate", "begin each cell on step %s", "begin in the middle of the cell", "The step"},
		{"feel", "%s", "shuffle", "straight or shuffle"},
		{"displace", "%s later", "begin later in the bar", "A fraction of a whole note, 1/4"},
		{"chords", "over the chords %s", "over chosen chords", "Degrees: 1 4 5"},
		{"scales", "through %s", "through several scales", "natural minor, dorian"},
		{"tail", "with the tail %s", "with a tail", "A cell, 4 3 2 1"},
		{"pivot", "whose %s is the last note", "joined by a pivot", "The tail's degree: 3"},
		{"drop", "without %s", "without some tones", "Degrees of the scale"},
		{"bars", "", "so many bars long", "How many"},
	} {
		value := r.Get(x.field)
		if value == "" || x.field == "repeat" && value == "1" {
			v.More = append(v.More, word(x.field, x.offer, x.hint))
			continue
		}
		if x.said == "" {
			continue
		}
		v.Sentence = append(v.Sentence, word(x.field, sentenceCase(fmt.Sprintf(x.said, value)), x.hint, choice{Name: "without", Link: v.Form.with(x.field, "")}), sentencePart{Plain: "."})
	}
}

// starts are places where the layout works, along its thickest string.
func (v *runsPage) starts(g neck.Guitar) []choice {
	r := v.Form.Recipe
	p, err := music.ParseKey(r.Key, words(r.Add), words(r.Drop))
	if err != nil {
		return nil
	}
	layout := shape.Default(p.Scale)
	if r.Layout != "" {
		if layout, err = shape.ParseLayout(r.Layout); err != nil {
			return nil
		}
	}
	at := shape.Start(g, p, layout)
	if given, err := neck.ParsePlace(r.At); err == nil {
		at.String = given.String
	}
	var out []choice
	for fret := 0; fret <= g.Frets && len(out) < 12; fret++ {
		start := neck.Place{String: at.String, Fret: fret}
		if _, err := shape.Lay(g, p, layout, start); err == nil {
			t := p.At(g.Pitch(start))
			out = append(out, choice{fmt.Sprintf("fret %d, the %s", fret, t.Degree.Pretty()), v.Form.with("at", start.Notation()), r.At == start.Notation()})
		}
	}
	return out
}

func layoutWord(r run.Recipe) string {
	if r.Layout != "" {
		return run.LayoutName(r.Layout)
	}
	if p, err := music.ParseKey(r.Key, nil, nil); err == nil {
		return run.LayoutName(shape.Default(p.Scale).Name())
	}
	return run.LayoutName("")
}

func placeWord(r run.Recipe, g neck.Guitar) string {
	p, err := music.ParseKey(r.Key, words(r.Add), words(r.Drop))
	if err != nil {
		return r.At
	}
	layout := shape.Default(p.Scale)
	if r.Layout != "" {
		if l, err := shape.ParseLayout(r.Layout); err == nil {
			layout = l
		}
	}
	at := shape.Start(g, p, layout)
	if given, err := neck.ParsePlace(r.At); err == nil {
		at = given
	}
	l := lick.New()
	l.Tuning = g.Tuning
	if at.String < 1 || at.String > len(g.Tuning) {
		return r.At
	}
	return fmt.Sprintf("fret %d on %s", at.Fret, l.StringName(at.String))
}

func prettyDegrees(s string) string {
	var out []string
	for _, w := range words(s) {
		word, hold, held := strings.Cut(w, "@")
		if d, err := music.ParseDegree(word); err == nil {
			word = d.Pretty()
		}
		if held {
			word += " " + map[string]string{"up": "going up", "down": "going down", "below": "below the root"}[hold]
			if hold >= "1" && hold <= "9" {
				word += "in octave " + hold
			}
		}
		out = append(out, word)
	}
	return strings.Join(out, ", ")
}
