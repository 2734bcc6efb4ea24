package web

import (
	"context"
	"fmt"
	"hash/fnv"
	"html/template"
	"math"
	"strconv"
	"strings"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/internal/store"
	"ornamen/internal/web/draw"
)

// caret is where the player stands on the bench.
type caret struct {
	Note   int    `form:"note"`   // from 1; one more than there are notes is the empty column
	Lane   string `form:"lane"`   // as draw.Lane names it
	String int    `form:"string"` // of the place lane
	Whole  bool   `form:"whole"`  // the whole neck is shown
	Win    string `form:"win"`    // the frets that the neck shows, "3-12"; empty: those around the notes
	Next   string `form:"next"`   // length of the next note; empty: as the last one
}

// benchView is all that the bench shows. Its parts are drawn on their own, so
// that an edit sends only those that changed.
type benchView struct {
	ID       uint
	Revision uint
	Lick     lick.Lick
	Report   *judge.Report
	Caret    caret
	CanUndo  bool
	CanRedo  bool

	Title   string
	Tones   tonesView
	Count   string
	Tempo   string
	Tags    string
	Word    string
	Line    string
	Fine    string
	Bar     template.HTML
	Scale   []tempoLabel
	Found   []findingView
	Mended  bool   // fixes have been tried
	LeftOut string // what a limit left out
	Neck    template.HTML
	Tips    template.HTML
	Way     string
	WayBad  bool
	Names   template.HTML
	Ledger  template.HTML
	Foot    footView
}

type tempoLabel struct{ Class, Text string }

type findingView struct {
	Code, Severity, Title, Text, Notes string
	NoteList                           string
	First                              int
	Meant                              bool
	CanMean                            bool
	Fixes                              []fixView
}

type fixView struct {
	Text    string
	Ceiling int
	Upto    string // "clean up to 98"
	Ref     string // names the fix, for the edit
	Main    bool
}

// tonesView is the rail of twelve half steps.
type tonesView struct {
	Tonic, Scale string
	Pretty       string
	Added        string
	None         bool
	Tonics       []string
	Scales       []string
	Rail         []railTone
}

type railTone struct {
	Degree, Name, Role, Ask string
	Value                   string // as edits name it
	Link                    string // to the same screen with the tone changed
}

// tonics are the practical roots, in the order of the keyboard.
var tonics = []string{"C", "C#", "Db", "D", "D#", "Eb", "E", "F", "F#", "Gb", "G", "G#", "Ab", "A", "A#", "Bb", "B"}

func (a *App) benchView(ctx context.Context, e store.Entry, c caret) (*benchView, error) {
	l := e.Lick
	r, err := a.report(ctx, e)
	if err != nil {
		return nil, err
	}
	v := &benchView{ID: e.ID, Revision: e.Revision, Lick: l, Report: r, Caret: normal(c, l), CanUndo: e.CanUndo, CanRedo: e.CanRedo,
		Title: titleOf(l), Count: countOf(l), Tempo: fmt.Sprintf("%g", l.Tempo), Tags: joinTags(l.Tags)}
	if t, err := lick.ParseTime(v.Caret.Next); err != nil || t.IsZero() || t.Before(lick.Time{}) {
		v.Caret.Next = ""
	}
	v.Tones = tonesViewOf(l)
	v.judgement()
	v.drawNeck(engineOf(ctx).Player.Guitar.WithTuning(l.Tuning))
	v.drawLedger()
	v.Foot = footOf(v)
	return v, nil
}

// normal brings a caret from the browser back onto the lick.
func normal(c caret, l lick.Lick) caret {
	c.Note = min(max(c.Note, 1), len(l.Notes)+1)
	known := false
	for _, ln := range draw.Lanes(len(l.Tuning)) {
		known = known || ln.Name == c.Lane
	}
	if !known {
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

func joinTags(tags []string) string {
	s := ""
	for i, t := range tags {
		if i > 0 {
			s += ", "
		}
		s += t
	}
	return s
}

func tonesViewOf(l lick.Lick) tonesView {
	v := tonesView{Tonic: l.Key.Tonic, Scale: l.Key.Scale, Tonics: tonics, Scales: music.ScaleNames()}
	p, ok := l.Palette()
	if !ok {
		v.None, v.Pretty = true, "choose the tones"
		return v
	}
	v.Pretty, v.Scale = p.Pretty(), p.Scale.Name
	for i, t := range p.Colours() {
		if i > 0 {
			v.Added += ", "
		}
		v.Added += t.Degree.Pretty()
	}
	v.Rail = railOf(p)
	return v
}

// railOf names the twelve half steps from the root, and what a click on each
// would do.
func railOf(p music.Palette) []railTone {
	var rail []railTone
	for semi := range 12 {
		t := p.At(music.Pitch(60 + p.Tonic.Class() + semi))
		rt := railTone{Degree: t.Degree.Pretty(), Name: t.Name.Pretty(), Role: t.Role.String(), Value: t.Degree.String()}
		switch t.Role {
		case music.Root:
			rt.Ask = "the root"
		case music.ScaleTone:
			rt.Ask = "drop " + rt.Degree
		case music.Colour:
			rt.Ask = "take " + rt.Degree + " away"
		default:
			if semi == 2 {
				rt.Degree, rt.Value = "9", "9"
			}
			rt.Ask = "add " + rt.Degree
		}
		rail = append(rail, rt)
	}
	return rail
}

const barWidth = 258.0

func (v *benchView) judgement() {
	l, r := v.Lick, v.Report
	v.Word, v.Line, v.Fine = sentenceWord(r.Verdict), verdictLine(l, r), fineLine(r)
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
	for i, f := range r.Findings {
		v.Found = append(v.Found, findingOf(i, f))
	}
}

func findingOf(i int, f judge.Finding) findingView {
	fv := findingView{Code: f.Code, Severity: f.Severity.String(), Title: f.Title, Text: f.Text, Notes: findingNotes(f), Meant: f.Meant,
		CanMean: f.Severity == judge.Flows}
	for k, n := range f.Notes {
		if k > 0 {
			fv.NoteList += " "
		}
		fv.NoteList += strconv.Itoa(n)
	}
	if len(f.Notes) > 0 {
		fv.First = f.Notes[len(f.Notes)-1]
	}
	for _, x := range f.Fixes {
		fv.Fixes = append(fv.Fixes, fixView{Text: x.Text, Ceiling: x.Ceiling.Whole(), Ref: x.ID, Upto: x.Ceiling.String()})
	}
	return fv
}

// Frets that the neck shows around the notes.
const (
	neckAround  = 2
	neckAtLeast = 9
)

// window is the frets that the neck shows: those it shows already, unless the
// selected note lies outside them, so that nothing moves under the pointer.
func (v *benchView) window(g neck.Guitar) (from, to int) {
	if v.Caret.Whole {
		return 0, g.Frets
	}
	if from, to, ok := parseWindow(v.Caret.Win, g); ok {
		i := v.Caret.Note - 1
		if i >= len(v.Lick.Notes) {
			i = len(v.Lick.Notes) - 1 // the note before the empty column
		}
		if i < 0 || v.Lick.Notes[i].Fret >= from && v.Lick.Notes[i].Fret <= to {
			return from, to
		}
	}
	return v.around(g)
}

// parseWindow reads "3-12".
func parseWindow(s string, g neck.Guitar) (from, to int, ok bool) {
	a, b, cut := strings.Cut(s, "-")
	from, err1 := strconv.Atoi(a)
	to, err2 := strconv.Atoi(b)
	return from, to, cut && err1 == nil && err2 == nil && from >= 0 && to-from >= 4 && to <= max(g.Frets, lick.MaxFret)
}

// around is the frets around the notes.
func (v *benchView) around(g neck.Guitar) (from, to int) {
	if len(v.Lick.Notes) == 0 {
		return 0, 12
	}
	from, to = lick.MaxFret, 0
	for _, n := range v.Lick.Notes {
		from, to = min(from, n.Fret), max(to, n.Fret)
	}
	from, to = max(0, from-neckAround), min(max(g.Frets, to), to+neckAround)
	if to-from < neckAtLeast {
		to = min(g.Frets, from+neckAtLeast)
		from = max(0, min(from, to-neckAtLeast))
	}
	if from == 1 {
		from = 0
	}
	return from, to
}

func (v *benchView) drawNeck(g neck.Guitar) {
	n := draw.Neck{Guitar: g, LeftHanded: g.LeftHanded}
	n.From, n.To = v.window(g)
	if !v.Caret.Whole {
		v.Caret.Win = fmt.Sprintf("%d-%d", n.From, n.To)
	}
	p, hasKey := v.Lick.Palette()
	played := map[neck.Place][]int{}
	var order []neck.Place
	for i, note := range v.Lick.Notes {
		if played[note.Place()] == nil {
			order = append(order, note.Place())
		}
		played[note.Place()] = append(played[note.Place()], i+1)
	}
	mark := func(at neck.Place) draw.Mark {
		m := draw.Mark{Place: at, Notes: played[at], Role: music.ScaleTone}
		if hasKey {
			t := p.At(g.Pitch(at))
			m.Label, m.Role = t.Degree.Pretty(), t.Role
		}
		return m
	}
	if hasKey {
		for s := 1; s <= len(g.Tuning); s++ {
			for f := n.From; f <= n.To; f++ {
				at := neck.Place{String: s, Fret: f}
				if m := mark(at); m.Role != music.Outside && m.Notes == nil {
					n.Marks = append(n.Marks, m)
				}
			}
		}
	}
	for _, at := range order {
		n.Marks = append(n.Marks, mark(at))
	}
	n.Select = v.selection()
	if s := n.Select; s != nil && s.HasFrom {
		if v.Way = "The hand stays"; s.Way >= 0.5 {
			v.Way = fmt.Sprintf("The hand moves %.0f mm", s.Way)
		}
		v.WayBad = s.Bad
	}
	v.Neck, v.Tips = draw.NeckSVG(n), draw.TipsSVG(n)
}

func (v *benchView) selection() *draw.Selection {
	i := v.Caret.Note - 1
	if i >= len(v.Lick.Notes) {
		return nil
	}
	n := v.Report.Notes[i]
	s := &draw.Selection{Place: v.Lick.Notes[i].Place(), Now: n.Frame, Way: n.Way, Bad: n.Severity == judge.Breaks}
	if from := n.Worst().From; from >= 0 && from != i {
		s.From, s.HasFrom, s.Before = v.Lick.Notes[from].Place(), true, v.Report.Notes[from].Frame
	} else if i > 0 {
		s.From, s.HasFrom, s.Before = v.Lick.Notes[i-1].Place(), true, v.Report.Notes[i-1].Frame
	}
	return s
}

func (v *benchView) drawLedger() {
	l := v.Lick
	led := draw.Ledger{}
	for s := range l.Tuning {
		led.Strings = append(led.Strings, shortString(l, s+1))
	}
	cols := l.Columns()
	columnOf := make([]int, len(l.Notes))
	for k, c := range cols {
		for i := c[0]; i < c[1]; i++ {
			columnOf[i] = k
		}
	}
	p, hasKey := l.Palette()
	length, lastBar, end := lick.Time{}, int64(math.MinInt64), lick.Time{}
	for k, c := range cols {
		n := l.Notes[c[0]]
		pos := l.Position(n.At)
		col := draw.Column{Count: pos.Count(l.Meter), BarStart: pos.Bar != lastBar && k > 0, Beat: pos.Off.IsZero()}
		lastBar = pos.Bar
		if n.Len.Cmp(length) != 0 {
			col.Length = n.Len.String()
			length = n.Len
		}
		if end.Before(n.At) {
			col.RestFor = n.At.Sub(end).String()
		}
		for i := c[0]; i < c[1]; i++ {
			if e := l.Notes[i].End(); end.Before(e) {
				end = e
			}
			col.Cells = append(col.Cells, v.cell(i, columnOf, p, hasKey))
		}
		led.Columns = append(led.Columns, col)
	}
	led.Have = commonHave(v.Report)
	led.Next, led.Ahead = v.ahead()
	v.Names, v.Ledger = draw.NamesSVG(led), draw.LedgerSVG(led)
}

// ahead is the length that the next note gets and, while the line is shorter than a
// bar, the counts of what is left of it to write in.
func (v *benchView) ahead() (next string, counts []string) {
	l := v.Lick
	step := nextLength(l, v.Caret.Next)
	at := l.End()
	for bar := l.Meter.Bar(); at.Before(bar) && len(counts) < maxAhead; at = at.Add(step) {
		pos := l.Position(at)
		counts = append(counts, pos.Count(l.Meter))
	}
	return step.String(), counts
}

// maxAhead is how many empty columns are drawn at most.
const maxAhead = 16

// shortString names a string in the ledger.
func shortString(l lick.Lick, s int) string { return l.StringName(s) }

// commonHave is the time that every move has, 0 when they differ.
func commonHave(r *judge.Report) float64 {
	have := 0.0
	for _, n := range r.Notes {
		for _, l := range n.Loads {
			if l.Side != judge.Fretting {
				continue
			}
			if have > 0 && math.Abs(l.Have-have) > 0.5 {
				return 0
			}
			have = l.Have
		}
	}
	return have
}

func (v *benchView) cell(i int, columnOf []int, p music.Palette, hasKey bool) draw.Cell {
	l, r := v.Lick, v.Report
	n, filled, rn := l.Notes[i], r.Lick.Notes[i], r.Notes[i]
	w := rn.Worst()
	c := draw.Cell{
		Number: i + 1, String: n.String, Fret: n.Fret, Role: music.ScaleTone,
		Finger: filled.Finger.String(), FingerLocked: n.Locked("finger"), FingerProposed: !n.Locked("finger"),
		Stroke: filled.Stroke, StrokeLocked: n.Locked("stroke"), StrokeProposed: !n.Locked("stroke"),
		Slur: n.Slur, SlurFrom: -1, Bend: n.Bend, Vibrato: n.Vibrato != nil, Mute: n.Mute, Accent: n.Accent, Bar: n.Bar,
		Severity: rn.Severity, Load: w.Load, Have: w.Have, Possible: w.Possible,
	}
	if n.Slur != "" {
		if j := l.Before(i); j >= 0 {
			c.SlurFrom = columnOf[j]
		}
	}
	if n.SlideIn != nil {
		c.SlideIn = n.SlideIn.From
	}
	if hasKey {
		t := p.At(l.Pitch(i))
		c.Degree, c.Role = t.Degree.Pretty(), t.Role
		if b := n.Bend; b != nil && b.Semitones >= 1 {
			c.BendTo = p.At(l.Pitch(i) + music.Pitch(b.Semitones)).Degree.Pretty()
		}
	}
	return c
}

// hashOf lets the browser say which fragments it has.
func hashOf(b []byte) string {
	h := fnv.New64a()
	h.Write(b)
	return strconv.FormatUint(h.Sum64(), 36)
}
