package bench

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"ornamen/core/edit"
	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/shape"
	"ornamen/internal/web/draw"
	"ornamen/internal/web/view"
)

// window is the frets that the neck shows: those it shows already, unless the
// selected note lies outside them, so that nothing moves under the pointer.
func (v *benchView) window(g neck.Guitar) (from, to int) {
	if v.Caret.Whole {
		return 0, g.Frets
	}
	if from, to, ok := parseWindow(v.Caret.Win, g); ok {
		i := min(v.Caret.Note, len(v.Lick.Notes)) - 1 // the note before the empty column
		if i < 0 || v.Lick.Notes[i].Fret >= from && v.Lick.Notes[i].Fret <= to {
			return from, to
		}
	}
	return v.around(g)
}

// parseWindow reads "3-12". At least five frets are shown, and none that the neck and the model do not have.
func parseWindow(s string, g neck.Guitar) (from, to int, ok bool) {
	a, b, cut := strings.Cut(s, "-")
	from, err1 := strconv.Atoi(a)
	to, err2 := strconv.Atoi(b)
	return from, to, cut && err1 == nil && err2 == nil && from >= 0 && to-from >= 4 && to <= max(g.Frets, lick.MaxFret)
}

// around is the frets around the notes. Two frets more to either side, ten at least, and the nut with them where only
// one fret would be hidden.
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

// drawNeck draws the neck with the tones that were chosen, the notes of the lick, and the hand at the caret. Tones of
// the palette lie below the notes of the line, so that a note is never hidden. The window of frets goes back to the
// page with the answer: it is the page's to send it again.
func (v *benchView) drawNeck(g neck.Guitar) {
	n := draw.Neck{Guitar: g, LeftHanded: g.LeftHanded}
	n.From, n.To = v.window(g)
	if !v.Caret.Whole {
		v.Caret.Win = fmt.Sprintf("%d-%d", n.From, n.To)
		v.AllFrets = n.From == 0 && n.To >= g.Frets
	}
	p, hasKey := v.tonesHere()
	played := map[neck.Place][]int{}
	var order []neck.Place
	for i, note := range v.Lick.Notes {
		at := note.Place()
		if played[at] == nil {
			order = append(order, at)
		}
		played[at] = append(played[at], i+1)
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
	v.WayRight = draw.TipsAtLeft(n)
	v.Neck, v.Tips = draw.NeckSVG(n), draw.TipsSVG(n)
}

// selection is the note under the caret with the hand that plays it, and the move into it: its
// worst one, or that from the note before. It is nil on the empty column.
func (v *benchView) selection() *draw.Selection {
	i := v.Caret.Note - 1
	if i >= len(v.Lick.Notes) {
		return nil
	}
	n := v.Report.Notes[i]
	s := &draw.Selection{Place: v.Lick.Notes[i].Place(), Now: n.Frame, Way: n.Way, Bad: n.Severity == judge.Breaks}
	from := n.Worst().From
	if from < 0 || from == i {
		from = i - 1
	}
	note := v.Lick.Notes[i]
	if k := v.Lick.Before(i); k >= 0 && (note.Slur == lick.Slide || note.Slur == lick.Shift) {
		at := v.Lick.Notes[k].Place()
		s.SlideFrom = &at
	} else if note.SlideIn != nil {
		by := note.SlideIn.Frets
		if note.SlideIn.From == lick.FromAbove {
			by = -by
		}
		s.SlideFrom = &neck.Place{String: note.String, Fret: max(1, note.Fret-by)}
	}
	s.Bent = note.Bend != nil
	s.Release = s.Bent && note.Bend.Release()
	if from >= 0 {
		s.From, s.HasFrom, s.Before = v.Lick.Notes[from].Place(), true, v.Report.Notes[from].Frame
	}
	return s
}

// tonesHere are the tones that hold at the caret.
func (v *benchView) tonesHere() (music.Palette, bool) {
	var at lick.Time
	if i := v.Caret.Note - 1; i >= 0 && i < len(v.Lick.Notes) {
		at = v.Lick.Notes[i].At
	}
	return v.Lick.PaletteAt(at)
}

// drawLedger draws the line as columns of facts.
// A length is written where it differs from the one before, a chord where it begins.
func (v *benchView) drawLedger(g neck.Guitar, counting string) {
	l := v.Lick
	led := draw.Ledger{Barres: v.Report.Barres, Have: commonHave(v.Report)}
	for s := range l.Tuning {
		led.Strings = append(led.Strings, view.ShortString(l, s+1))
	}
	cols := l.Columns()
	columnOf := make([]int, len(l.Notes))
	for k, c := range cols {
		for i := c[0]; i < c[1]; i++ {
			columnOf[i] = k
		}
	}
	for _, b := range view.BoxCells(shape.BoxSpans(g, l), counting) {
		led.Boxes = append(led.Boxes, draw.RunCell{From: columnOf[b.From], To: columnOf[b.To-1] + 1, Label: b.Label})
	}
	length, lastBar, end := lick.Time{}, int64(math.MinInt64), lick.Time{}
	for k, c := range cols {
		n := l.Notes[c[0]]
		p, hasKey := l.PaletteAt(n.At)
		pos := l.Position(n.At)
		col := draw.Column{Count: pos.Count(l.Meter), BarStart: pos.Bar != lastBar && k > 0, Beat: pos.Off.IsZero()}
		lastBar = pos.Bar
		col.Chord = chordFrom(l, cols, k)
		if n.Len.Cmp(length) != 0 {
			col.Length, length = n.Len.String(), n.Len
		}
		if end.Before(n.At) {
			col.RestFor = n.At.Sub(end).String()
		}
		for i := c[0]; i < c[1]; i++ {
			end = lick.Later(end, l.Notes[i].End())
			col.Cells = append(col.Cells, v.cell(i, columnOf, p, hasKey))
		}
		led.Columns = append(led.Columns, col)
	}
	led.Next, led.Ahead = v.ahead()
	v.Names, v.Ledger = draw.NamesSVG(led), draw.LedgerSVG(led)
}

// chordFrom is the chord that begins in column k: at its time, or before it in a rest since the
// column before. Of two that begin there the later one holds.
func chordFrom(l lick.Lick, cols [][2]int, k int) (name string) {
	for _, c := range l.Chords {
		if !l.Notes[cols[k][0]].At.Before(c.At) && (k == 0 || l.Notes[cols[k-1][0]].At.Before(c.At)) {
			name = c.Name
		}
	}
	return name
}

// ahead is the length that the next note gets and, while the line is shorter than a bar, the counts of what is left of
// it to write in. A new line so shows its first bar as a form to fill in, and none of it is part of the lick.
func (v *benchView) ahead() (next string, counts []string) {
	l := v.Lick
	step := edit.NextLength(l, v.Caret.Next)
	at := l.End()
	for bar := l.Meter.Bar(); at.Before(bar) && len(counts) < maxAhead; at = at.Add(step) {
		counts = append(counts, l.Position(at).Count(l.Meter))
	}
	return step.String(), counts
}

// maxAhead is how many empty columns are drawn at most.
const maxAhead = 16

// commonHave is the time that every move has in ms, 0 when they differ by more than half of
// one: a line in one note value, where one number says it all.
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

// cell gathers what one note shows, set or proposed. The note as written says what is locked; what is shown is the
// report's, with every hand filled in.
func (v *benchView) cell(i int, columnOf []int, p music.Palette, hasKey bool) draw.Cell {
	l, r := v.Lick, v.Report
	n, filled, rn := l.Notes[i], r.Lick.Notes[i], r.Notes[i]
	w := rn.Worst()
	c := draw.Cell{Number: i + 1, String: n.String, Fret: n.Fret, Role: music.ScaleTone,
		Finger: filled.Finger.String(), FingerLocked: n.Locked(lick.FieldFinger),
		FingerProposed: !n.Locked(lick.FieldFinger),
		Stroke:         filled.Stroke, StrokeLocked: n.Locked(lick.FieldStroke),
		StrokeProposed: !n.Locked(lick.FieldStroke),
		Slur:           n.Slur, SlurFrom: -1, Bend: n.Bend, Vibrato: n.Vibrato != nil, Mute: n.Mute, Accent: n.Accent,
		Barre: n.Barre, Palm: n.Palm, Ghost: n.Ghost,
		Severity: rn.Severity, Load: w.Load, Have: w.Have, Possible: w.Possible, Shares: w.Shares}
	if n.Slur != "" {
		if j := l.Before(i); j >= 0 {
			c.SlurFrom = columnOf[j]
		}
	}
	if n.SlideIn != nil {
		c.SlideIn = string(n.SlideIn.From)
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
