package play

import (
	"cmp"
	"errors"
	"fmt"
	"slices"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// maxFixes is how many fixes a finding offers.
const maxFixes = 3

// rises is by how much a ceiling must rise for a fix to be worth offering.
const rises = 1.01

// Mend tries edits for every finding of the report that is tight or breaks: each
// is applied to a copy and checked again, and offered only if the finding's
// break is gone or the ceiling rises. The report must be Check's of l.
func (e *Engine) Mend(l lick.Lick, r *Report) {
	m := e.model(e.guitar(l))
	for i := range r.Findings {
		f := &r.Findings[i]
		if f.Severity == Flows || f.Musical || f.Meant {
			continue
		}
		f.Fixes = e.fixes(l, r, *f, func(c lick.Lick) *Report { return &e.measure(c, m).Report })
	}
}

func (e *Engine) fixes(l lick.Lick, r *Report, f Finding, check func(lick.Lick) *Report) []Fix {
	out := []Fix{}
	seen := map[string]bool{}
	hands := map[string]bool{}
	for _, c := range candidates(l, r, f, e.guitar(l)) {
		mended := l
		var err error
		for _, edit := range c.edits {
			if mended, err = edit.Apply(mended); err != nil {
				break
			}
		}
		if err != nil || seen[c.text] {
			continue
		}
		seen[c.text] = true
		after := check(mended)
		// Two ways to the same hands are one fix.
		same := handsKey(after.Lick)
		if !hands[same] && helps(r, after, f) {
			hands[same] = true
			out = append(out, Fix{Text: c.text, Ceiling: after.Ceiling, Lick: mended})
		}
	}
	slices.SortStableFunc(out, func(a, b Fix) int { return cmp.Compare(b.Ceiling, a.Ceiling) })
	return out[:min(len(out), maxFixes)]
}

// handsKey is what both hands do, whoever set it.
func handsKey(l lick.Lick) string {
	b := make([]byte, 0, 32*len(l.Notes))
	for _, n := range l.Notes {
		b = append(b, n.At.String()...)
		b = append(b, ' ')
		b = append(b, n.Len.String()...)
		b = append(b, byte(n.String), byte(n.Fret), byte(n.Finger))
		b = append(b, n.Stroke...)
		b = append(b, ' ')
		b = append(b, n.Slur...)
		if n.Bar {
			b = append(b, '=')
		}
		if n.Bend != nil {
			b = fmt.Appendf(b, "%v", *n.Bend)
		}
		b = append(b, ';')
	}
	return string(b)
}

func helps(before, after *Report, f Finding) bool {
	if after.Ceiling > 0 && (before.Ceiling == 0 && breaks(after) < breaks(before) || before.Ceiling > 0 && after.Ceiling > before.Ceiling*rises) {
		return true
	}
	gone := !slices.ContainsFunc(after.Findings, func(g Finding) bool {
		return g.Severity >= f.Severity && slices.ContainsFunc(g.Notes, func(n int) bool { return slices.Contains(f.Notes, n) })
	})
	return gone && f.Severity == Breaks && breaks(after) < breaks(before)
}

func breaks(r *Report) int {
	n := 0
	for _, f := range r.Findings {
		if f.Severity == Breaks {
			n++
		}
	}
	return n
}

// candidate is a fix before it is tried.
type candidate struct {
	text  string
	edits []lick.Edit
}

// candidates lists what players try for a finding, likely ones first.
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
	switch f.Code {
	case "stroke-repeats", "change-inside", "change-against", "sweep-turns", "stroke-fast", "pair-needs-fingers":
		b.strokes()
		b.slurs()
	case "bend-heavy", "bend-weak", "bend-off-edge", "bend-late", "bend-open-string":
		b.bends()
		b.otherStrings()
	case "vibrato-short":
		b.add("Without the vibrato", lick.SetVibrato{Note: i})
	default:
		b.fingers()
		b.bars()
		b.slurs()
		b.strokes()
		b.otherStrings()
		b.otherPlace()
	}
	return b.out
}

type candidateList struct {
	l       lick.Lick
	r       *Report
	g       neck.Guitar
	i, from int
	out     []candidate
}

func (b *candidateList) add(text string, edits ...lick.Edit) {
	b.out = append(b.out, candidate{text, edits})
}

func (b *candidateList) fingers() {
	for _, i := range []int{b.i, b.from} {
		if b.l.Notes[i].Fret == 0 {
			if b.l.Notes[i].Finger != lick.NoFinger {
				b.add(fmt.Sprintf("No finger on note %d", i+1), lick.SetFinger{Note: i})
			}
			continue
		}
		for f := lick.Index; f <= lick.Little; f++ {
			if f != b.r.Lick.Notes[i].Finger {
				b.add(fmt.Sprintf("Finger %s on note %d", f, i+1), lick.SetFinger{Note: i, Finger: f})
			}
		}
	}
	if b.i != b.from {
		b.add("Leave both fingers open", lick.SetFinger{Note: b.i}, lick.SetFinger{Note: b.from})
	}
}

// bars lays one finger flat over both notes where they share a fret.
func (b *candidateList) bars() {
	x, y := b.l.Notes[b.from], b.l.Notes[b.i]
	if b.i == b.from || x.Fret != y.Fret || x.Fret == 0 || x.String == y.String {
		return
	}
	f := b.r.Lick.Notes[b.from].Finger
	if !f.Fretting() {
		return
	}
	edits := []lick.Edit{lick.SetFinger{Note: b.from, Finger: f}, lick.SetFinger{Note: b.i, Finger: f}}
	for _, i := range []int{b.from, b.i} {
		if !b.l.Notes[i].Bar {
			edits = append(edits, lick.Toggle{Note: i, Mark: "bar"})
		}
	}
	b.add(fmt.Sprintf("Bar fret %d with finger %s for notes %d and %d", y.Fret, f, b.from+1, b.i+1), edits...)
}

// otherPlace takes the whole figure to the next strings: the same pitches, the
// hands left open but for slurs.
func (b *candidateList) otherPlace() {
	for _, by := range []int{1, -1} {
		word := "thicker"
		if by < 0 {
			word = "thinner"
		}
		b.add("The whole figure one string "+word, nextStrings{b.g, by})
	}
}

// nextStrings moves every note to the neighbouring string at the same pitch.
type nextStrings struct {
	guitar neck.Guitar
	by     int
}

func (e nextStrings) Apply(l lick.Lick) (lick.Lick, error) {
	out := l.Clone()
	for i := range out.Notes {
		n := &out.Notes[i]
		at := neck.Place{String: n.String + e.by}
		if at.String < 1 || at.String > len(e.guitar.Tuning) {
			return l, errors.New("there is no string beyond")
		}
		at.Fret = int(e.guitar.Pitch(n.Place()) - e.guitar.Tuning[at.String-1])
		if !e.guitar.Has(at) || at.Fret == 0 || n.Fret == 0 {
			return l, errors.New("the figure does not lie there")
		}
		n.String, n.Fret = at.String, at.Fret
		if n.Finger.Fretting() {
			n.Finger = lick.NoFinger
			n.Lock = slices.DeleteFunc(n.Lock, func(f string) bool { return f == "finger" })
		}
	}
	out.Sort()
	return out, out.Validate()
}

func (nextStrings) What() string { return "the figure elsewhere" }

func (b *candidateList) strokes() {
	n := b.r.Lick.Notes[b.i]
	if n.Stroke == lick.Down || n.Stroke == lick.Up {
		b.add(fmt.Sprintf("%s on note %d", sentenceStroke(other(n.Stroke)), b.i+1), lick.SetStroke{Note: b.i, Stroke: other(n.Stroke)})
	}
	for i, m := range b.r.Lick.Notes {
		if m.Stroke == lick.Down || m.Stroke == lick.Up {
			b.add("Start on "+anA(other(m.Stroke)), lick.OpenHands{}, lick.SetStroke{Note: i, Stroke: other(m.Stroke)})
			break
		}
	}
	b.add("Pick it in turn, strokes open", openStrokes{})
}

func sentenceStroke(s lick.Stroke) string {
	if s == lick.Up {
		return "Upstroke"
	}
	return "Downstroke"
}

// openStrokes leaves every stroke open.
type openStrokes struct{}

func (openStrokes) Apply(l lick.Lick) (lick.Lick, error) {
	var err error
	for i, n := range l.Notes {
		if n.Stroke != "" {
			if l, err = (lick.SetStroke{Note: i}).Apply(l); err != nil {
				return l, err
			}
		}
	}
	return l, nil
}

func (openStrokes) What() string { return "strokes open" }

func (b *candidateList) slurs() {
	n, i := b.l.Notes[b.i], b.i
	if n.Slur != "" {
		b.add(fmt.Sprintf("Pick note %d", i+1), lick.SetSlur{Note: i})
	}
	j := b.l.Before(i)
	if j < 0 {
		return
	}
	m := b.l.Notes[j]
	free := []lick.Edit{lick.SetFinger{Note: i}, lick.SetFinger{Note: j}}
	switch {
	case n.Fret > m.Fret && n.Slur != lick.Hammer:
		b.add(fmt.Sprintf("Hammer note %d", i+1), lick.SetSlur{Note: i, Slur: lick.Hammer})
	case n.Fret < m.Fret && n.Slur != lick.Pull:
		b.add(fmt.Sprintf("Pull to note %d", i+1), lick.SetSlur{Note: i, Slur: lick.Pull})
	}
	if n.Fret != m.Fret && n.Fret > 0 && m.Fret > 0 {
		if n.Slur != lick.Slide {
			b.add(fmt.Sprintf("Slide to note %d", i+1), append(free, lick.SetSlur{Note: i, Slur: lick.Slide})...)
		}
		if n.Slur != lick.Shift {
			b.add(fmt.Sprintf("Shift silently to note %d", i+1), append(free, lick.SetSlur{Note: i, Slur: lick.Shift})...)
		}
	}
}

func (b *candidateList) otherStrings() {
	for _, p := range b.g.Places(b.l.Pitch(b.i)) {
		if p.String != b.l.Notes[b.i].String {
			b.add(fmt.Sprintf("Note %d at %s on %s", b.i+1, fretWord(p.Fret), StringName(b.l, p.String)),
				lick.SetSlur{Note: b.i}, lick.SetFinger{Note: b.i}, lick.Move{Note: b.i, Place: p})
		}
	}
}

func fretWord(f int) string {
	if f == 0 {
		return "the open string"
	}
	return fmt.Sprintf("fret %d", f)
}

func (b *candidateList) bends() {
	n := b.l.Notes[b.i]
	if n.Bend == nil {
		return
	}
	with := func(change func(x *lick.Bend)) lick.Edit {
		x := *n.Bend
		change(&x)
		return lick.SetBend{Note: b.i, Bend: &x}
	}
	if n.Bend.Release() {
		b.add("Without the release", with(func(x *lick.Bend) {
			x.Shape = map[string]string{"bend-release": "bend", "prebend-release": "prebend"}[x.Shape]
		}))
	}
	push := "thick"
	if pushesToThick(n, len(b.l.Tuning)) {
		push = "thin"
	}
	b.add("Push it toward the "+push+" strings", with(func(x *lick.Bend) { x.Push = push }))
	for f := lick.Middle; f <= lick.Little; f++ {
		if f > b.r.Lick.Notes[b.i].Finger {
			b.add(fmt.Sprintf("Finger %s with the others behind it", f),
				lick.SetFinger{Note: b.i, Finger: f}, with(func(x *lick.Bend) { x.With = nil }))
		}
	}
	if p, ok := b.l.Palette(); ok {
		for _, semi := range []float64{1, 2} {
			if semi < n.Bend.Semitones && p.At(b.l.Pitch(b.i)+music.Pitch(semi)).Role != music.Outside {
				b.add("A "+BendWord(semi)+" bend instead", with(func(x *lick.Bend) { x.Semitones = semi }))
			}
		}
	}
	b.add("Twice as long", lick.Length{Note: b.i, Len: n.Len.Times(2)})
}
