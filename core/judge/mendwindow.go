package judge

import (
	"context"
	"slices"

	"ornamen/core/hand"
	"ornamen/core/lick"
	"ornamen/core/load"
)

// window is the part of the line that a fix of one finding works on.
type window struct {
	lick     lick.Lick // its notes alone, decided
	first    int       // index of its first note in the line
	from, to int       // columns of the line that may change
	skip     int       // columns of the part before from, which are there for what rings on
	breaks   int       // findings of the part that break
}

// at finds a note of the line in the part.
func (w window) at(note int) int { return note - w.first }

// window cuts the part around a finding out. A finding whose notes lie far apart takes the whole
// line, and so does one near the turn of a loop, where what follows stands at the other end.
func (md *mender) window(ctx context.Context, f Finding) window {
	n := len(md.line.Columns)
	lo, hi := md.line.ColumnOf[slices.Min(f.Notes)-1], md.line.ColumnOf[slices.Max(f.Notes)-1]
	from, to := max(0, lo-mendWindow), min(n, hi+mendWindow+1)
	if turns := md.lick.Loop && (from == 0 || to == n); turns || hi-lo > 4*mendWindow {
		return md.all()
	}
	w := md.part(ctx, from, to, 1)
	for skip := 2; w.skip < from && !md.same(w); skip *= 2 {
		w = md.part(ctx, from, to, skip)
	}
	return w
}

// part is the columns [from, to) of the line, judged alone from skip columns earlier on.
// Fixes of a finding are compared there, which is quicker than in the whole line.
func (md *mender) part(ctx context.Context, from, to, skip int) window {
	cols := md.line.Columns
	w := window{from: from, to: to, skip: min(skip, from)}
	begin, end := from-w.skip, min(len(cols), to+1)
	w.first = cols[begin][0]
	w.lick = md.report.Lick
	w.lick.Notes = w.lick.Notes[w.first:cols[end-1][1]]
	w.lick.Loop = w.lick.Loop && begin == 0 && end == len(cols)
	w.breaks = md.judged(ctx, w.lick).Breaking()
	return w
}

// same says whether the part, laid out alone, asks of the hand what it does within
// the line: nothing from further back rings into it.
func (md *mender) same(w window) bool {
	return slices.EqualFunc(w.changed(md.LayOut(w.lick, false)), md.line.Hand[w.from:w.to], func(a, b hand.Event) bool {
		return slices.Equal(a.Touches, b.Touches)
	})
}

// changed are the events of the columns that may change, of the part laid out.
func (w window) changed(part *Line) []hand.Event { return part.Hand[w.skip:][:w.to-w.from] }

// reopened is the part with those fingers open again that the player left open near the edit.
func (md *mender) reopened(w window, s scope) lick.Lick {
	out := w.lick.Clone()
	if s == strokes || s == place {
		return out
	}
	for k := range out.Notes {
		c := md.line.ColumnOf[w.first+k]
		if c >= w.from && c < w.to && md.lick.Notes[w.first+k].Finger == lick.NoFinger {
			out.Notes[k].Finger = lick.NoFinger
		}
	}
	return out
}

// spliced is the whole line with the part in its place and the strokes found again
// that the player left open, and the largest load of the picking hand.
func (md *mender) spliced(part lick.Lick, w window) (lick.Lick, float64) {
	whole := part
	whole.Loop = md.lick.Loop
	notes := md.report.Lick.Clone().Notes
	shift := lick.Time{}
	if end := w.first + len(part.Notes); end < len(notes) && len(part.Notes) > 0 {
		// A longer note moves what follows.
		shift = part.Notes[len(part.Notes)-1].At.Sub(notes[end-1].At)
	}
	whole.Notes = slices.Concat(notes[:w.first], part.Clone().Notes, notes[w.first+len(part.Notes):])
	for i := w.first + len(part.Notes); i < len(notes); i++ {
		whole.Notes[i].At = whole.Notes[i].At.Add(shift)
	}
	if slices.EqualFunc(whole.Notes[w.first:w.first+len(part.Notes)], notes[w.first:w.first+len(part.Notes)],
		samePicking) {
		return whole, md.picking
	}
	for i := range whole.Notes {
		// Strokes hang together along the whole line.
		if md.lick.Notes[i].Stroke == "" && !whole.Notes[i].Locked(lick.FieldStroke) {
			whole.Notes[i].Stroke = ""
		}
	}
	ln := md.LayOut(whole, false)
	path := md.Player.Pick.Solve(ln.Pick, whole.Loop, md.Player.Way, load.Slack)
	FillStrokes(&whole, ln, path)
	return whole, md.picked(md.LayOut(whole, false))
}

// samePicking says whether two notes ask the same of the picking hand.
func samePicking(a, b lick.Note) bool {
	return a.At == b.At && a.String == b.String && a.Stroke == b.Stroke && a.Slur.Slurred() == b.Slur.Slurred() &&
		a.Rake == b.Rake
}
