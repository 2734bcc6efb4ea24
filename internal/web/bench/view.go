package bench

import (
	"context"
	"fmt"
	"html/template"
	"slices"
	"strings"

	"ornamen/core/hear"
	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/run"
	"ornamen/core/say"
	"ornamen/core/text"
	"ornamen/internal/store"
	"ornamen/internal/web/draw"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// caret is where the player stands on the bench. It lives in the browser: two tabs have two, and a reload keeps it.
type caret struct {
	Note   int    `form:"note"`   // from 1; one more than there are notes is the empty column
	Lane   string `form:"lane"`   // as draw.Lane names it
	String int    `form:"string"` // of the place lane
	Whole  bool   `form:"whole"`  // the whole neck is shown
	Win    string `form:"win"`    // the frets that the neck shows, "3-12"; empty: those around the notes
	Next   string `form:"next"`   // length of the next note; empty: as the last one
	Sel    string `form:"sel"`    // the notes that are selected, "3-8,12-17"; empty: none
}

// selected are the notes that are selected, whole columns of the lick; nil for none.
func (c caret) selected(l lick.Lick) lick.Ranges {
	rs, err := lick.ParseRanges(c.Sel)
	if err == nil {
		rs, err = rs.Whole(l)
	}
	if err != nil {
		return nil
	}
	return rs
}

// benchView is all that the bench shows. Its parts are drawn on their own, so that an edit sends only those that
// changed. Nothing in it depends on the browser but the caret, so that equal carets on equal revisions give equal
// bytes.
//
// Fields of one word are texts as the page shows them. Found and More are the same sort of
// card: the first few, and those behind a click.
type benchView struct {
	ID       uint
	Ref      string           // that addresses name it by
	Window   *page.WindowView // of a long lick
	Revision uint
	Lick     lick.Lick
	Report   *judge.Report
	Habit    *page.Habit // that is asked about, or nil
	Several  bool        // others play from the notebook too
	Caret    caret
	CanUndo  bool
	CanRedo  bool

	Title    string
	Tones    tonesView
	Count    string
	Tempo    string
	Tags     string
	Word     string
	Line     string
	Fine     string
	Hands    string // what the proposed hands are for, where they are not the usual ones
	Bar      template.HTML
	Scale    []tempoLabel
	Found    []view.Finding
	More     []view.Finding
	Mended   bool   // fixes have been tried
	LeftOut  string // what a limit left out
	NoFix    bool   // nothing that was tried helps
	AllFrets bool   // the frets that are shown are all that there are
	CanHear  bool   // the line can be played in by the simulated guitar
	Neck     template.HTML
	Tips     template.HTML
	WayRight bool // the words about the move stand at the right, as the tips are at the left
	Way      string
	WayBad   bool
	Names    template.HTML
	Ledger   template.HTML
	Foot     footView
	Frets    int    // of this neck
	ToRuns   string // the way to a run in these tones, empty without tones
}

// tempoLabel is a number on the bar of tempos.
type tempoLabel struct{ Class, Text string }

// tonesView is the rail of twelve half steps.
type tonesView struct {
	Tonic, Scale string
	Pretty       string
	Added        string
	None         bool
	Tonics       []string
	Rail         []view.RailTone
}

// benchView gathers the page of a lick at a caret. The judgement is without fixes; they follow by mend.
func (a Screen) benchView(ctx context.Context, e store.Entry, c caret) (*benchView, error) {
	l := e.Lick
	r, err := a.Report(ctx, e)
	if err != nil {
		return nil, err
	}
	g := page.EngineOf(ctx).Player.Guitar
	v := &benchView{ID: e.ID, Ref: page.RefOf(ctx, e.ID), Revision: e.Revision, Lick: l, Report: r, Caret: normal(c, l),
		CanUndo: e.CanUndo, CanRedo: e.CanRedo, Title: view.TitleOf(l), Count: view.CountOf(l),
		Tempo: fmt.Sprintf("%g", l.Tempo), Tags: strings.Join(l.Tags, ", "), Several: len(a.Players()) > 1,
		Frets: g.Frets, Tones: tonesViewOf(l)}
	v.ToRuns = runIn(l, g)
	v.judgement()
	if err := a.habitOffer(ctx, v); err != nil {
		return nil, err
	}
	v.drawNeck(g.WithTuning(l.Tuning))
	v.CanHear = hear.WritesDown(l)
	v.drawLedger(g, page.Playing(ctx).Profile.Boxes)
	v.Foot = footOf(v, g.WithTuning(l.Tuning))
	return v, nil
}

// runIn is the way to a run in a lick's tones, from about where the lick lies; empty for one without tones.
func runIn(l lick.Lick, g neck.Guitar) string {
	if l.Key.Tonic == "" || l.Key.Scale == "" {
		return ""
	}
	return view.RunsURL(run.Begin(run.Recipe{
		Key:   l.Key.Tonic + " " + l.Key.Scale,
		Add:   strings.Join(l.Key.Add, ","),
		Drop:  strings.Join(l.Key.Drop, ","),
		Tempo: l.Tempo,
	}, g.WithTuning(l.Tuning)))
}

// normal brings a caret from the browser back onto the lick: another tab may have taken notes
// away, and an address can be typed. The empty column after the last note is part of the line.
func normal(c caret, l lick.Lick) caret {
	c.Note = min(max(c.Note, 1), len(l.Notes)+1)
	c.Sel = c.selected(l).String()
	if t, err := lick.ParseTime(c.Next); err != nil || t.IsZero() || t.Before(lick.Time{}) {
		c.Next = ""
	}
	if !slices.ContainsFunc(draw.Lanes(len(l.Tuning)), func(ln draw.Lane) bool { return ln.Name == c.Lane }) {
		c.Lane = "place"
	}
	if c.String < 1 || c.String > len(l.Tuning) {
		c.String = 1
		if c.Note <= len(l.Notes) {
			c.String = l.Notes[c.Note-1].String
		}
	}
	return c
}

// tonesViewOf is the rail of a lick's tones.
func tonesViewOf(l lick.Lick) tonesView {
	v := tonesView{Tonic: l.Key.Tonic, Scale: l.Key.Scale, Tonics: view.Tonics}
	p, ok := l.Palette()
	if !ok {
		v.None, v.Pretty = true, "choose the tones"
		return v
	}
	v.Pretty, v.Scale = p.Pretty(), p.Scale.Name
	v.Added = text.Join(p.Colours(), ", ", func(t music.Tone) string { return t.Degree.Pretty() })
	v.Rail = view.RailOf(p)
	return v
}

// barWidth is how wide the bar of tempos is, in units.
const barWidth = 258.0

// judgement writes verdict, tempos and findings. An empty line has a word and a hint and no numbers.
func (v *benchView) judgement() {
	l, r := v.Lick, v.Report
	v.Word, v.Line, v.Fine = view.SentenceWord(r.Verdict), view.VerdictLine(l, r), view.FineLine(r)
	if r.Taught > 0 {
		v.Hands = say.FastHands(r.Taught.Whole())
	}
	if len(l.Notes) == 0 {
		v.Word = "Empty"
		return
	}
	v.Bar = draw.BarSVG(float64(r.Ceiling), r.Tempo, float64(r.BestPossible), barWidth)
	if r.Ceiling > 0 {
		v.Scale = append(v.Scale, tempoLabel{"clean", fmt.Sprintf("%d clean", r.Ceiling.Whole())})
	}
	v.Scale = append(v.Scale, tempoLabel{"wanted", fmt.Sprintf("%g wanted", r.Tempo)})
	if r.BestPossible > 0 {
		v.Scale = append(v.Scale, tempoLabel{"best", fmt.Sprintf("%d best possible", r.BestPossible.Whole())})
	}
	v.found(r.Findings)
}

// found shows what was found, one card a kind of trouble. The first card with a fix has the main button of the page.
// Where everything was tried and nothing helps that is said.
func (v *benchView) found(list []judge.Finding) {
	v.Found, v.More = nil, nil
	main := true
	for _, g := range judge.Grouped(list) {
		fv := view.FindingOf(g)
		if main && len(fv.Fixes) > 0 {
			fv.Fixes[0].Main, main = true, false
		}
		if len(v.Found) < view.Cards {
			v.Found = append(v.Found, fv)
		} else {
			v.More = append(v.More, fv)
		}
	}
	v.NoFix = v.Mended && main && v.Report.Verdict > judge.Flows
}

// Frets that the neck shows around the notes.
const (
	neckAround  = 2
	neckAtLeast = 9
)
