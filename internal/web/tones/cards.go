package tones

import (
	"fmt"
	"html/template"
	"net/http"
	"strconv"
	"strings"

	"ornamen/core/judge"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/player"
	"ornamen/core/shape"
	"ornamen/core/text"
	"ornamen/internal/web/draw"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// draw draws the whole neck with the shape on it, and the force along it. The shape's frets are lifted out where they
// span an octave or less; one that goes along the neck has no area of its own. Tones of the palette elsewhere on the
// neck are dots, so that the shape is seen among all there is.
func (v *tonesPage) draw(f tonesForm, g neck.Guitar, p music.Palette, placed []shape.Placed) {
	n := draw.Neck{Guitar: g, From: 0, To: g.Frets, Width: 1232, LowOnTop: f.Low == "top",
		LeftHanded: f.leftHanded(g), Label: "The whole neck with " + v.Title}
	lo, hi := neck.MaxFrets, 0
	in := map[neck.Place]bool{}
	for _, t := range placed {
		in[t.Place] = true
		lo, hi = min(lo, t.Place.Fret), max(hi, t.Place.Fret)
	}
	for s := 1; s <= len(g.Tuning); s++ {
		for fret := 0; fret <= g.Frets; fret++ {
			at := neck.Place{String: s, Fret: fret}
			if t := p.At(g.Pitch(at)); t.Role != music.Outside && !in[at] {
				n.Marks = append(n.Marks, draw.Mark{Place: at, Role: t.Role, Dot: true})
			}
		}
	}
	for _, t := range placed {
		n.Marks = append(n.Marks, draw.Mark{Place: t.Place, Role: t.Tone.Role, Main: true, Label: labelOf(f.Labels, t)})
	}
	if hi-lo <= 12 {
		n.Area = [2]int{lo, hi}
	}
	v.Neck = draw.NeckSVG(n)
	hardest, reach := shape.HardestBend(placed), shape.Reach(g, placed)
	here := fmt.Sprintf("here: hand %.0f mm", reach)
	if hardest > 0 {
		here = fmt.Sprintf("here: hardest common full bend %.1f N, hand %.0f mm", hardest, reach)
	}
	v.Force = draw.ForceSVG(n, shape.ForceAlong(g, 1), here)
}

// labelOf is what stands on a place: degree, name, finger or interval.
// Fingers are those of the shape played upward, and are left out where no stance reaches.
func labelOf(kind string, t shape.Placed) string {
	switch kind {
	case "notes":
		return t.Tone.Name.Pretty()
	case "fingers":
		return t.Finger.String()
	case "frets":
		return strconv.Itoa(t.Place.Fret)
	case "none":
		return ""
	}
	return t.Tone.Degree.Pretty()
}

// bendRows lists every bend that the shape offers, from the thin strings down: those that players bend first (common
// practice). The form may keep half or full bends alone.
func (v *tonesPage) bendRows(g neck.Guitar, f tonesForm, placed []shape.Placed) {
	names := stringNames(g)
	for i := len(placed) - 1; i >= 0; i-- {
		t := placed[i]
		for _, b := range t.Bends {
			if f.Bends == "half" && b.Semitones != 1 || f.Bends == "full" && b.Semitones != 2 {
				continue
			}
			v.Bends = append(v.Bends, bendRowOf(g, names, t, b))
		}
	}
}

// bendRowOf writes one bend in words. Two fingers at fret 9 by the ring finger are written "3 + 2". The arrow is the
// way the string is pushed on the drawing, thin strings on top.
func bendRowOf(g neck.Guitar, names []string, t shape.Placed, b shape.Bend) bendRow {
	row := bendRow{Place: fmt.Sprintf("%s %d", names[t.Place.String-1], t.Place.Fret), From: t.Tone.Degree.Pretty(),
		To: b.To.Degree.Pretty(), Push: fmt.Sprintf("%.1f mm", b.Push.Way),
		Force: fmt.Sprintf("%.1f N", b.Push.Force), Rating: string(b.Rating),
		Class: strings.ReplaceAll(string(b.Rating), " ", "-"),
		Bar:   draw.MeterSVG(float64(b.Push.Force)/24, "force")}
	row.Fingers = b.Finger.String()
	for _, f := range b.With {
		row.Fingers += " + " + f.String()
	}
	row.Push += " ↓"
	if !b.ToThick {
		row.Push = strings.Replace(row.Push, "↓", "↑", 1)
	}
	row.Hear = text.Join(b.Hear, ", ",
		func(h neck.Place) string { return fmt.Sprintf("%s %d", names[h.String-1], h.Fret) })
	row.Sound = fmt.Sprintf("%s^%d", t.Place.Notation(), b.Semitones)
	return row
}

// mostSpots is how many places the table shows.
const mostSpots = 6

// spots ranks where the shape lies best. Shapes that name their own strings or frets lie where they lie. The place that
// is chosen is always among them, with what makes it hard. With keys "any" the tonic is free too: the same shape and
// scale elsewhere, for a singer or a bend that is too hard here.
func (v *tonesPage) spots(player *player.Player, g neck.Guitar, p music.Palette, layout shape.Layout, at neck.Place) {
	if _, err := shape.Lay(g, p, layout, at); err != nil {
		return
	}
	kind := strings.SplitN(layout.Name(), ":", 2)[0]
	if kind == "string" || kind == "strings" || kind == "frets" || kind == "places" {
		return
	}
	ranked := shape.Spots(g, player.Hand, player.Bends, p, layout, at, v.Form.Keys == "any")
	now := func(s shape.Spot) bool { return s.At == at && s.Key == p.Tonic }
	list := shape.WithNow(ranked, ranked, mostSpots, now)
	if v.Form.Keys == "any" {
		list = shape.Spread(ranked, mostSpots, now)
	}
	for _, s := range list {
		numbers := fmt.Sprintf("%.0f mm", s.Reach)
		if s.Force > 0 {
			numbers = fmt.Sprintf("%.1f N · %s", s.Force, numbers)
		}
		row := spotRow{From: fmt.Sprintf("fret %d", s.At.Fret), Key: "on " + s.Degree.Pretty(), Numbers: numbers,
			Words: s.Words(), Bar: draw.MeterSVG(1/(1+s.Score), "spot"), On: now(s)}
		if v.Form.Keys == "any" {
			row.Key = s.Key.Pretty()
			if s.Key == p.Tonic {
				row.Key += ", this key"
			}
		}
		row.Link = v.Form.with(func(f *tonesForm) { f.Tonic, f.At = s.Key.String(), s.At.Notation() })
		v.Spots = append(v.Spots, row)
	}
}

// recolourPage is a lick before and after. Nothing is written until it is taken: Form and Revision come back with the
// answer, so that what is taken is what was shown.
type recolourPage struct {
	Form          recolourForm
	ID            uint
	Revision      uint
	Title         string
	From, To      string
	Before, After verdictView
	Line, NewLine template.HTML
	Rows          []shape.NoteChange
	Changed       int
	Moves         []view.Choice
}

// verdictView is a verdict in words.
type verdictView struct{ Word, Class, Line string }

// verdictOf writes a judgement as a card's verdict. Class is the verdict as the style sheet knows it.
func verdictOf(r *judge.Report) verdictView {
	return verdictView{view.SentenceWord(r.Verdict), r.Verdict.String(), view.VerdictLine(r.Lick, r)}
}

// recolourPreview shows a lick in other tones before it is taken.
func (a Screen) recolourPreview(w http.ResponseWriter, r *http.Request) error {
	var f recolourForm
	e, err := a.EntryAndForm(r, &f)
	if err != nil {
		return err
	}
	g := page.EngineOf(r.Context()).Player.Guitar
	got, p, err := recoloured(g, f, e.Lick)
	// A line that is too low for the new key goes an octave up, unless another way was asked for.
	if err != nil && f.Move == "" {
		up := f
		up.Move = string(shape.OctaveUp)
		if high, to, upErr := recoloured(g, up, e.Lick); upErr == nil {
			f, got, p, err = up, high, to, nil
		}
	}
	if err != nil {
		return page.Refuse(err)
	}
	f.Rev = e.Revision
	before, err := a.Report(r.Context(), e)
	var after *judge.Report
	if err == nil {
		after, err = page.EngineOf(r.Context()).Check(r.Context(), got.Lick)
	}
	if err != nil {
		return err
	}
	v := recolourPage{Form: f, ID: e.ID, Revision: e.Revision, Title: view.TitleOf(e.Lick),
		From: e.Lick.TonesText(), To: got.Lick.TonesText(), Rows: got.Changes,
		Before: verdictOf(before), After: verdictOf(after)}
	var changed []int
	for _, c := range got.Changes {
		if c.Changed {
			changed = append(changed, c.Note)
		}
	}
	v.Changed = len(changed)
	v.Line, v.NewLine = draw.LineSVG(e.Lick, changed, false), draw.LineSVG(got.Lick, changed, false)
	for _, m := range []struct{ name, move string }{{"the shortest way", "nearest"}, {"the same frets", "same"},
		{"an octave up", "octave"}} {
		q := fmt.Sprintf("/licks/%d/recolour?tonic=%s&scale=%s&add=%s&drop=%s&move=%s", e.ID,
			template.URLQueryEscaper(f.Tonic), template.URLQueryEscaper(f.Scale), template.URLQueryEscaper(f.Add),
			template.URLQueryEscaper(f.Drop), m.move)
		v.Moves = append(v.Moves,
			view.Choice{Name: m.name, Link: q, On: f.Move == m.move || f.Move == "" && m.move == "nearest"})
	}
	return a.Render(w, r, "recolour",
		page.Page{Title: "Recolour " + v.Title + " to " + p.Pretty(), Where: "tones", BenchID: e.ID, Data: v})
}
