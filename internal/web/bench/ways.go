package bench

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"net/http"
	"runtime"
	"slices"
	"strings"
	"sync"
	"sync/atomic"

	"ornamen/core/changes"
	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/text"
	"ornamen/internal/store"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// Whatever can stand in place of the line or a part of it is offered in one sheet: drawn, with its ceiling,
// what it changes and how it lands, the best first. Each is named by the words that turnedLick knows, so that
// what is heard and what is taken is what was seen.

// wayKind is one sort of ways: a tab of the sheet.
type wayKind struct {
	Name, Title string
	words       func(a Screen, ctx context.Context, e store.Entry, f benchForm) ([]wayWord, error)
	none        string // where there is none, and what to do about it
}

// wayWord is a way by the word that makes it, what it is called, and what more is said of it.
type wayWord struct{ use, title, why string }

// handsKind is the kind that proposes hands; its offers are found by package propose.
const handsKind = "hands"

// wayKinds are the tabs of the sheet.
var wayKinds = []wayKind{
	{Name: handsKind, Title: "Other hands"},
	{
		Name:  "strings",
		Title: "Other strings",
		words: Screen.restrings,
		none:  "No neighbouring strings make the string changes cleaner.",
	},
	{
		Name:  "moved",
		Title: "Elsewhere",
		words: fixed(wayWord{"string:-1", "The same frets, a string thinner", ""},
			wayWord{"string:1", "The same frets, a string thicker", ""},
			wayWord{"degree:1", "The same figure, a tone up", ""}, wayWord{"degree:-1", "The same figure, a tone down", ""},
			wayWord{"octave", "An octave up", ""}, wayWord{"-octave", "An octave down", ""}),
		none: "There is no room elsewhere on this neck.",
	},
	{Name: "turned", Title: "Turned", words: turnedWords, none: "There must be two notes or more to turn."},
	{
		Name:  "bend",
		Title: "Another bend",
		words: Screen.partWords,
		none:  "There is no bend under the caret that could be another; the lick needs its tones chosen.",
	},
	{
		Name:  "tail",
		Title: "Another ending",
		words: Screen.partWords,
		none: "There is no other ending from here; stand on a note with others " +
			"after it, in a lick with its tones chosen.",
	},
	{Name: "chords", Title: "Over the bars", words: overWords, none: "Write chords under the line first."},
}

// fixed are words that do not depend on the line.
func fixed(words ...wayWord) func(Screen, context.Context, store.Entry, benchForm) ([]wayWord, error) {
	return func(Screen, context.Context, store.Entry, benchForm) ([]wayWord, error) { return words, nil }
}

// turnedWords are the turns of the selected notes; one begins with the note under the caret.
func turnedWords(_ Screen, _ context.Context, e store.Entry, f benchForm) ([]wayWord, error) {
	words := []wayWord{{"backwards", "Backwards", ""}, {"mirror", "Its mirror", ""}}
	if k := min(f.Note, len(e.Lick.Notes)) - max(f.From, 1) + 1; k > 1 {
		words = append(words, wayWord{fmt.Sprintf("rotate:%d", k), fmt.Sprintf("Begun on note %d", f.Note), ""})
	}
	return words, nil
}

// overWords are the ways to move a line over its chords.
func overWords(_ Screen, _ context.Context, e store.Entry, _ benchForm) (words []wayWord, err error) {
	for _, m := range changes.Moves() {
		if len(e.Lick.Chords) > 0 || !changes.NeedsChords(m.Word) {
			words = append(words, wayWord{"over:" + m.Word, m.Title, ""})
		}
	}
	return words, nil
}

// restrings are the line on other strings for both ways of picking that change strings on purpose.
func (a Screen) restrings(ctx context.Context, e store.Entry, _ benchForm) (words []wayWord, err error) {
	for _, way := range []string{"economy", "alternate"} {
		found, err := a.restrung(ctx, e, way)
		if err != nil {
			return nil, err
		}
		if found.Clean[1] >= found.Clean[0] {
			continue
		}
		words = append(words, wayWord{"restring:" + way, "For " + way + " picking", found.After.Why})
		for k, p := range found.Others {
			words = append(words, wayWord{fmt.Sprintf("restring:%s:%d", way, k+1), "Or for " + way + " picking", p.Why})
		}
	}
	return words, nil
}

// partWords are other bends under the caret, or other ends of the line after it.
func (a Screen) partWords(ctx context.Context, e store.Entry, f benchForm) (words []wayWord, err error) {
	parts := partsFor(page.EngineOf(ctx).Player.Guitar, e.Lick, f.Value, f.Note)
	for k, b := range parts[:min(maxParts, len(parts))] {
		words = append(words, wayWord{fmt.Sprintf("%s:%d:%d", f.Value, f.Note, k+1), b.What, ""})
	}
	return words, nil
}

// ways answers with one kind of ways beside the line as it is: a GET that changes nothing. What cannot be
// made of this line is left out.
func (a Screen) ways(w http.ResponseWriter, r *http.Request) error {
	var f benchForm
	e, err := a.EntryAndForm(r, &f)
	if err != nil {
		return err
	}
	k := slices.IndexFunc(wayKinds, func(k wayKind) bool { return k.Name == f.Value })
	if k < 1 {
		return page.Refuse(fmt.Errorf("%q is no kind of ways to play a line", text.Clip(f.Value, 60)))
	}
	if len(e.Lick.Notes) == 0 {
		return page.Refuse(errors.New("there are no notes to play otherwise"))
	}
	ctx := r.Context()
	words, err := wayKinds[k].words(a, ctx, e, f)
	if err != nil {
		return page.Mistake(err)
	}
	before, err := a.Report(ctx, e)
	if err != nil {
		return err
	}
	v := &offerView{ID: e.ID, Rev: e.Revision, Form: f.HandsForm, Kind: f.Value, Kinds: wayKinds}
	v.Offers = append(v.Offers, view.OfferOf(0, "As it is", wayWhy("", before), before, nil))
	found := a.made(ctx, e, f, words)
	if ctx.Err() != nil {
		return ctx.Err()
	}
	slices.SortStableFunc(found, func(x, y madeWay) int {
		return cmp.Or(cmp.Compare(x.Verdict, y.Verdict), cmp.Compare(y.Ceiling, x.Ceiling))
	})
	for i, m := range found {
		o := view.OfferOf(i+1, m.title, wayWhy(m.why, m.Report), m.Report, &e.Lick)
		o.Use = m.use
		v.Offers = append(v.Offers, o)
	}
	if len(found) == 0 {
		v.None = wayKinds[k].none
	}
	return a.Render(w, r, "offers-partial", page.Page{Data: v})
}

// made are the ways that can be made of a line, judged, in the order of their words. Two are made at a time.
func (a Screen) made(ctx context.Context, e store.Entry, f benchForm, words []wayWord) (out []madeWay) {
	reports := make([]*judge.Report, len(words))
	var next atomic.Int64
	var work sync.WaitGroup
	for range min(2, runtime.GOMAXPROCS(0)) {
		work.Go(func() {
			f := f
			for k := int(next.Add(1)) - 1; k < len(words) && ctx.Err() == nil; k = int(next.Add(1)) - 1 {
				f.Value = words[k].use
				l, err := a.turnedLick(ctx, e, f)
				if err != nil || same(l, e.Lick) {
					continue
				}
				reports[k], _ = page.EngineOf(ctx).Check(ctx, l) // an error is the context's
			}
		})
	}
	work.Wait()
	for k, r := range reports {
		if r != nil {
			out = append(out, madeWay{words[k], r})
		}
	}
	return out
}

// madeWay is a way with the line that it makes, judged.
type madeWay struct {
	wayWord
	*judge.Report
}

// same says whether two lines have the same notes at the same times, whoever plays them.
func same(a, b lick.Lick) bool {
	return slices.EqualFunc(a.Notes, b.Notes, func(x, y lick.Note) bool {
		return x.Place() == y.Place() && x.At.Cmp(y.At) == 0 && x.Len.Cmp(y.Len) == 0 && x.Slur == y.Slur &&
			x.Stroke == y.Stroke && (x.Bend == nil) == (y.Bend == nil) &&
			(x.Bend == nil || x.Bend.Semitones == y.Bend.Semitones)
	}) && changes.Text(a) == changes.Text(b)
}

// wayWhy says why a way is offered, how it is picked, and how it lands on its chords.
func wayWhy(why string, r *judge.Report) string {
	text := strings.TrimSpace(why + " " + page.SentenceCase(view.StringChangeWords(r)) + ".")
	if len(r.Lick.Chords) == 0 {
		return text
	}
	landings := changes.Read(r.Lick).Landings
	on := 0
	for _, x := range landings {
		if x.Word == changes.OnTime || x.Word == changes.Pushed {
			on++
		}
	}
	if len(landings) > 0 {
		text += fmt.Sprintf(" %d of %d chord changes are met on time.", on, len(landings))
	}
	return text
}

// wayTitle names what was taken by its word.
func wayTitle(use string) string {
	word, _, _ := strings.Cut(use, ":")
	if move, ok := strings.CutPrefix(use, "over:"); ok {
		for _, m := range changes.Moves() {
			if m.Word == move {
				return m.Title
			}
		}
	}
	return map[string]string{
		"backwards": "Backwards",
		"mirror":    "The mirror",
		"rotate":    "Begun elsewhere",
		"octave":    "An octave up",
		"-octave":   "An octave down",
		"restring":  "Restrung",
		"bend":      "Another bend",
		"tail":      "Another ending",
		"string":    "The same frets elsewhere",
		"degree":    "The same figure elsewhere",
		"over":      "Moved over its chords",
	}[word]
}
