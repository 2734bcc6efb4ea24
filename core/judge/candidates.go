package judge

import (
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/say"
)

// candidate is a fix before it is tried. It is tried in a window around its finding, or with any other scope on the
// whole line.
type candidate struct {
	text   string
	edits  func(at noteAt) []lick.Edit
	scope  scope
	family string // of several in one family one is enough
}

// noteAt finds a note of the line in the copy that an edit is tried on, which may hold only a part of it.
type noteAt func(note int) int

// scope is how far an edit reaches.
type scope int

const (
	around    scope = iota // the notes of the finding and what lies around them
	strokes                // the strokes of the whole line
	bothHands              // of the whole line
	place                  // the place of the whole line, its hands kept
)

// candidates lists what players try for a finding, likely ones first: other fingers before
// other places, a smaller change before a larger one. What is tried is tried on the hands that
// the report shows. A finding that only advises (it flows) has fingers alone to try.
func candidates(l lick.Lick, r *Report, f Finding, g neck.Guitar) []candidate {
	if len(f.Notes) == 0 {
		return nil
	}
	i := f.Notes[len(f.Notes)-1] - 1
	from := i
	if len(f.Notes) > 1 {
		from = f.Notes[len(f.Notes)-2] - 1
	}
	b := candidateList{l: l, r: r, g: g, i: i, from: from}
	if f.Severity == Flows {
		b.fingers()
		return b.out
	}
	switch f.Code {
	case StrokeRepeats, ChangeInside, ChangeAgainst, SweepTurns, StrokeFast, PairNeedsFingers:
		b.strokes()
		b.slurs()
	case BendHeavy, BendWeak, BendOffEdge, BendLate, BendOpenString:
		b.bends()
		b.otherStrings()
	case VibratoShort:
		b.add(say.NoVibrato(), func(at noteAt) []lick.Edit { return []lick.Edit{lick.SetVibrato{Note: at(i)}} })
		b.longer()
	default:
		b.fingers()
		b.barres()
		b.slurs()
		b.strokes()
		b.otherStrings()
		b.otherPlace()
		if f.Code == Reach {
			b.upTheNeck()
		}
	}
	return b.out
}

// candidateList collects what could mend one finding: note i, and the note from which the move comes. Nothing here is
// known to help; fixes.go tries each. g has the lick's tuning.
type candidateList struct {
	l       lick.Lick
	r       *Report
	g       neck.Guitar
	i, from int
	out     []candidate
}

// add tries edits of single notes.
func (b *candidateList) add(text string, edits func(at noteAt) []lick.Edit) {
	b.out = append(b.out, candidate{text: text, edits: edits})
}

// addWhole tries edits of the whole line.
func (b *candidateList) addWhole(s scope, text string, edits ...lick.Edit) {
	b.out = append(b.out, candidate{text: text, edits: func(noteAt) []lick.Edit { return edits }, scope: s})
}

// fingers tries every other finger on either of the two notes, and leaving both open.
// An open string can only give its finger back.
func (b *candidateList) fingers() {
	for _, i := range []int{b.i, b.from} {
		if b.l.Notes[i].Fret == 0 {
			if b.l.Notes[i].Finger != lick.NoFinger {
				b.add(say.PutFinger(lick.NoFinger, i),
					func(at noteAt) []lick.Edit { return []lick.Edit{lick.SetFinger{Note: at(i)}} })
			}
			continue
		}
		for f := lick.Index; f <= lick.Little; f++ {
			if f != b.r.Lick.Notes[i].Finger {
				b.add(say.PutFinger(f, i),
					func(at noteAt) []lick.Edit { return []lick.Edit{lick.SetFinger{Note: at(i), Finger: f}} })
			}
		}
	}
	if b.i != b.from {
		b.add(say.OpenFingers(), func(at noteAt) []lick.Edit { // the search finds them anew
			return []lick.Edit{lick.SetFinger{Note: at(b.i)}, lick.SetFinger{Note: at(b.from)}}
		})
	}
}

// barres lays one finger flat over both notes where they share a fret.
func (b *candidateList) barres() {
	x, y := b.l.Notes[b.from], b.l.Notes[b.i]
	if b.i == b.from || x.Fret != y.Fret || x.Fret == 0 || x.String == y.String {
		return
	}
	f := b.r.Lick.Notes[b.from].Finger
	if !f.Fretting() {
		return
	}
	b.add(say.LayBarre(y.Fret, f, b.from, b.i), func(at noteAt) []lick.Edit {
		edits := []lick.Edit{lick.SetFinger{Note: at(b.from), Finger: f}, lick.SetFinger{Note: at(b.i), Finger: f}}
		for _, i := range []int{b.from, b.i} {
			if !b.l.Notes[i].Barre {
				edits = append(edits, lick.SetMark{Note: at(i), Mark: lick.MarkBarre, On: true})
			}
		}
		return edits
	})
}

// longestFigure is how many notes may move to other strings together as a fix: a longer line has
// strings to itself that no hand would leave.
const longestFigure = 32

// otherPlace takes the whole figure to the next strings: the same pitches, the hands left open but for slurs.
func (b *candidateList) otherPlace() {
	for _, by := range []int{1, -1} {
		if len(b.l.Notes) <= longestFigure {
			b.addWhole(bothHands, say.NextStrings(by > 0), nextStrings{b.g, by})
		}
	}
}

// upFrets are how far a figure is taken up the neck, where the frets lie closer; the first that helps is enough.
var upFrets = []int{5, 2, 7}

// upTheNeck takes the figure to higher frets, in the key that it then is in; a long line with the fingers that it has.
// A fret is 5 to 6 % narrower than the one below it, so that five frets up a stretch is a quarter smaller.
func (b *candidateList) upTheNeck() {
	for _, by := range upFrets {
		e, s := higher{b.g, by}, bothHands
		if len(b.l.Notes) > longestFigure {
			s = place
		}
		b.addWhole(s, say.FretsUp(by, e.key(b.l.Key)), e)
		b.out[len(b.out)-1].family = "up the neck"
	}
}

// strokes tries the other stroke on the note, the other stroke at the start with the rest
// found anew, and every stroke found anew.
func (b *candidateList) strokes() {
	n := b.r.Lick.Notes[b.i]
	if n.Stroke == lick.Down || n.Stroke == lick.Up {
		b.add(say.TakeStroke(n.Stroke.Other(), b.i), func(at noteAt) []lick.Edit {
			return []lick.Edit{lick.SetStroke{Note: at(b.i), Stroke: n.Stroke.Other()}}
		})
	}
	for i, m := range b.r.Lick.Notes {
		if m.Stroke == lick.Down || m.Stroke == lick.Up {
			b.addWhole(strokes, say.StartOn(m.Stroke.Other()), openStrokes{},
				lick.SetStroke{Note: i, Stroke: m.Stroke.Other()})
			break
		}
	}
	b.addWhole(strokes, say.OpenStrokes(), openStrokes{locked: true})
}

// slurs tries what else could lead into the note: a stroke, the hammer or pull that its
// frets allow, a slide or a silent shift with one finger for both.
// A slide and a shift need one finger for both notes, which is left open to be found.
func (b *candidateList) slurs() {
	n, i := b.l.Notes[b.i], b.i
	slur := func(s lick.Slur) func(noteAt) []lick.Edit {
		return func(at noteAt) []lick.Edit { return []lick.Edit{lick.SetSlur{Note: at(i), Slur: s}} }
	}
	if n.Slur != "" {
		b.add(say.TakeSlur("", i), slur(""))
	}
	j := b.l.Before(i)
	if j < 0 {
		return
	}
	m := b.l.Notes[j]
	free := func(s lick.Slur) func(noteAt) []lick.Edit {
		return func(at noteAt) []lick.Edit {
			return []lick.Edit{lick.SetFinger{Note: at(i)}, lick.SetFinger{Note: at(j)}, lick.SetSlur{Note: at(i), Slur: s}}
		}
	}
	switch {
	case n.Fret > m.Fret && n.Slur != lick.Hammer:
		b.add(say.TakeSlur(lick.Hammer, i), slur(lick.Hammer))
	case n.Fret < m.Fret && n.Slur != lick.Pull:
		b.add(say.TakeSlur(lick.Pull, i), slur(lick.Pull))
	}
	if n.Fret != m.Fret && n.Fret > 0 && m.Fret > 0 {
		if n.Slur != lick.Slide {
			b.add(say.TakeSlur(lick.Slide, i), free(lick.Slide))
		}
		if n.Slur != lick.Shift {
			b.add(say.TakeSlur(lick.Shift, i), free(lick.Shift))
		}
	}
}

// otherStrings tries the same pitch on every other string that has it.
func (b *candidateList) otherStrings() {
	for _, p := range b.g.Places(b.l.Pitch(b.i)) {
		if p.String != b.l.Notes[b.i].String {
			b.add(say.OnString(b.l, b.i, p), func(at noteAt) []lick.Edit {
				return []lick.Edit{lick.SetSlur{Note: at(b.i)}, lick.SetFinger{Note: at(b.i)}, lick.Move{Note: at(b.i), Place: p}}
			})
		}
	}
}

// bends tries what makes a bend lighter or quicker: no release, the other direction, a finger with more of the others
// behind it, a smaller bend that still leads to a chosen tone, and the target itself. A bend that comes too late may
// also be given twice the time; whether the line has it shows when it is tried.
func (b *candidateList) bends() {
	n := b.l.Notes[b.i]
	if n.Bend == nil {
		return
	}
	with := func(change func(x *lick.Bend), more ...lick.Finger) func(noteAt) []lick.Edit {
		return func(at noteAt) []lick.Edit {
			x := *n.Bend
			change(&x)
			out := []lick.Edit{lick.SetBend{Note: at(b.i), Bend: &x}}
			for _, f := range more {
				out = append(out, lick.SetFinger{Note: at(b.i), Finger: f})
			}
			return out
		}
	}
	if n.Bend.Release() {
		b.add(say.NoRelease(), with(func(x *lick.Bend) { x.Shape = lick.ShapeOf(x.Pre(), false) }))
	}
	push := n.Bend.Way(n.String, len(b.l.Tuning)).Other()
	b.add(say.PushToward(push), with(func(x *lick.Bend) { x.Push = push }))
	// The middle finger bends only where the frets behind it are too few for the others.
	for f := lick.Middle; f <= lick.Little; f++ {
		if f > b.r.Lick.Notes[b.i].Finger && (f > lick.Middle || n.Fret < int(lick.Ring)) {
			b.add(say.WithHelpers(f), with(func(x *lick.Bend) { x.With = nil }, f))
		}
	}
	if p, ok := b.l.Palette(); ok {
		for _, semi := range []float64{1, 2} {
			if semi < n.Bend.Semitones && p.At(b.l.Pitch(b.i)+music.Pitch(semi)).Role != music.Outside {
				b.add(say.SmallerBend(semi), with(func(x *lick.Bend) { x.Semitones = semi }))
			}
		}
	}
	b.longer()
}

// longer gives the note twice its time, for what takes longer than the note.
func (b *candidateList) longer() {
	n := b.l.Notes[b.i]
	b.add(say.TwiceAsLong(),
		func(at noteAt) []lick.Edit { return []lick.Edit{lick.Length{Note: at(b.i), Len: n.Len.Times(2)}} })
}
