package changes

import (
	"slices"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/say"
)

// Fix is one way to bring a phrase to its change.
type Fix struct {
	Text string
	Lick lick.Lick
}

// Mend lists ways to bring a landing that is early, late or missed onto its change: the whole phrase starts earlier or
// later, as computed back from the change; notes are added or dropped at its head; the note on the change, and the one
// before it, move to the nearest tone of the chord; or the one before it comes from a half step below or above. The
// hands of what is new are open. Whether a fix can be played is for others to say; each does land on time.
//
// Each way is tried on a copy and read again: what does not land on time, or is no valid line, is not offered.
func Mend(g neck.Guitar, l lick.Lick, r Report, x Landing) (out []Fix) {
	m := mending{guitar: g.WithTuning(l.Tuning), lick: l, report: r, landing: x, columns: columnsOf(l)}
	m.find()
	below, above := func() (Fix, bool) { return m.approach(-1) }, func() (Fix, bool) { return m.approach(1) }
	for _, try := range []func() (Fix, bool){m.start, m.head, m.nearest, below, above} {
		if f, ok := try(); ok && m.lands(f.Lick) {
			out = append(out, f)
		}
	}
	return out
}

// mending is one landing under way: its phrase is the columns [from, to), on is the column that lands, or where it is
// missed the first one over the chord. None of the ways changes the lick; each makes a copy.
type mending struct {
	guitar       neck.Guitar
	lick         lick.Lick
	report       Report
	landing      Landing
	columns      [][]int
	from, on, to int
}

// find finds the phrase: what goes on without a rest around the landing.
// Where it is missed, that is the phrase that goes on over the change.
func (m *mending) find() {
	m.on = len(m.columns)
	change := m.report.Chords[m.landing.Chord].At
	for c, notes := range m.columns {
		lands := len(m.landing.Notes) > 0 && notes[0] <= m.landing.Notes[0] && m.landing.Notes[0] <= notes[len(notes)-1]
		if lands || len(m.landing.Notes) == 0 && !m.at(c).Before(change) {
			m.on = c
			break
		}
	}
	for m.from = m.on; m.from > 0 && m.from < len(m.columns) && m.joined(m.from); {
		m.from--
	}
	for m.to = m.on + 1; m.to < len(m.columns) && m.joined(m.to); {
		m.to++
	}
}

// at is when a column begins, and end when its last note ends.
func (m *mending) at(c int) lick.Time { return m.lick.Notes[m.columns[c][0]].At }

func (m *mending) end(c int) lick.Time { return endOf(m.lick, m.columns[c]) }

// endOf is when the last of some notes ends.
func endOf(l lick.Lick, notes []int) (t lick.Time) {
	for _, i := range notes {
		t = lick.Later(t, l.Notes[i].End())
	}
	return t
}

// joined says whether a column begins before a rest of an eighth has passed.
func (m *mending) joined(c int) bool {
	return m.at(c).Before(m.end(c - 1).Add(lick.NewTime(1, 8)))
}

// lands says whether the changed line arrives on time at that change.
// The change is found by its time and name, as its number may be another one.
func (m *mending) lands(l lick.Lick) bool {
	if l.Validate() != nil {
		return false
	}
	change := m.report.Chords[m.landing.Chord]
	r := Read(l)
	for _, x := range r.Landings {
		if c := r.Chords[x.Chord]; c.At.Cmp(change.At) == 0 && c.Name == change.Name {
			return x.Word == OnTime
		}
	}
	return false
}

// moved is the line with the columns [from, to) that much later; false where they would run
// into what stands before or after them.
func (m *mending) moved(from, to int, by lick.Time) (lick.Lick, bool) {
	out := m.lick.Clone()
	if from > 0 && m.at(from).Add(by).Before(m.end(from-1)) || m.at(from).Add(by).Before(lick.Time{}) {
		return out, false
	}
	if to < len(m.columns) && m.at(to).Before(m.end(to-1).Add(by)) {
		return out, false
	}
	for c := from; c < to; c++ {
		for _, i := range m.columns[c] {
			out.Notes[i].At = out.Notes[i].At.Add(by)
		}
	}
	out.Sort()
	return out, true
}

// start lets the phrase begin so much earlier or later that it arrives.
func (m *mending) start() (Fix, bool) {
	if m.landing.OffBy.IsZero() || m.on >= len(m.columns) {
		return Fix{}, false
	}
	by := lick.Time{}.Sub(m.landing.OffBy)
	out, ok := m.moved(m.from, m.to, by)
	if !ok {
		return Fix{}, false
	}
	return Fix{say.StartAt(m.lick, m.at(m.from).Add(by)), out}, true
}

// head adds what is missing before an early phrase, tones of the palette that lead into its
// first one, or drops the first notes of a late one. The phrase begins where it did.
//
// It needs an early phrase that is early by a whole number of its first note's lengths, at most
// eight: a phrase in eighths that is half a beat early gets one eighth before it.
func (m *mending) head() (Fix, bool) {
	if m.on >= len(m.columns) || m.landing.OffBy.IsZero() {
		return Fix{}, false
	}
	if m.landing.Word == Late {
		return m.dropHead()
	}
	by := lick.Time{}.Sub(m.landing.OffBy)
	first := m.columns[m.from]
	step := m.lick.Notes[first[0]].Len
	n, rest := by.Div(step)
	p, hasKey := m.lick.PaletteAt(m.at(m.from))
	if len(first) != 1 || !rest.IsZero() || n < 1 || n > 8 || !hasKey {
		return Fix{}, false
	}
	out, ok := m.moved(m.from, m.to, by)
	if !ok {
		return Fix{}, false
	}
	up := m.from+1 < m.to && m.lick.Pitch(m.columns[m.from+1][0]) > m.lick.Pitch(first[0])
	place := m.lick.Notes[first[0]].Place()
	pitch := m.lick.Pitch(first[0])
	var added []lick.Note
	for k := int64(1); k <= n; k++ {
		pitch = nextTone(p, pitch, !up)
		at, ok := m.guitar.Nearest(pitch, place)
		if !ok {
			return Fix{}, false
		}
		place = at
		added = append(added,
			lick.Note{At: m.at(m.from).Add(step.Times(n - k)), Len: step, String: at.String, Fret: at.Fret})
	}
	out.Notes = append(out.Notes, added...)
	out.Parts, out.Recipe = nil, ""
	out.Sort()
	return Fix{say.AddAtHead(int(n)), out}, true
}

// dropHead takes as many notes from the beginning of the phrase as it is late.
func (m *mending) dropHead() (Fix, bool) {
	n := 0
	for c := m.from; c < m.on-1; c++ {
		if m.at(c+1).Sub(m.at(m.from)).Cmp(m.landing.OffBy) == 0 {
			n = c + 1 - m.from
		}
	}
	if n == 0 {
		return Fix{}, false
	}
	gone := map[int]bool{}
	for c := m.from; c < m.from+n; c++ {
		for _, i := range m.columns[c] {
			gone[i] = true
		}
	}
	out := m.lick.Clone()
	out.Notes = nil
	for i, note := range m.lick.Notes {
		if gone[i] {
			continue
		}
		if !note.At.Before(m.at(m.from)) && (m.to == len(m.columns) || note.At.Before(m.at(m.to))) {
			note.At = note.At.Sub(m.landing.OffBy)
		}
		out.Notes = append(out.Notes, note)
	}
	out.Parts, out.Recipe = nil, ""
	out.Sort()
	return Fix{say.DropFirst(n), out}, true
}

// nearest moves the note on the change to the nearest chord tone, and the one before it to a
// tone that leads there by step, where it stands at the same pitch or leaps.
//
// It looks up to three half steps away, down before up, as a tone that is nearer changes the
// line less; a bent note is left alone.
func (m *mending) nearest() (Fix, bool) {
	change := m.report.Chords[m.landing.Chord]
	on := m.onChange()
	if on < 0 || len(m.columns[on]) != 1 {
		return Fix{}, false
	}
	i := m.columns[on][0]
	n := m.lick.Notes[i]
	if n.Bend != nil {
		return Fix{}, false
	}
	out := m.lick.Clone()
	p, hasKey := m.lick.PaletteAt(n.At)
	for _, by := range []music.Pitch{-1, 1, -2, 2, -3, 3} {
		target := m.lick.Pitch(i) + by
		d, role := Of(change.Chord, nil, target)
		if !role.Chordal() || hasKey && p.At(target).Role == music.Outside {
			continue
		}
		at, ok := m.guitar.Nearest(target, n.Place())
		if !ok {
			continue
		}
		putNote(&out.Notes[i], at)
		text := say.ToTone(i, d, change.Name, m.ledByStep(&out, on, target))
		out.Parts, out.Recipe = nil, ""
		out.Sort()
		return Fix{text, out}, true
	}
	return Fix{}, false
}

// onChange is the column that begins on the change, −1 where none does.
func (m *mending) onChange() int {
	at := m.report.Chords[m.landing.Chord].At
	return slices.IndexFunc(m.columns, func(c []int) bool { return m.lick.Notes[c[0]].At.Cmp(at) == 0 })
}

// approach moves the note on the change to the nearest tone of the chord and the single note before it to a
// half step below (by −1) or above that: the chromatic approach (common practice).
func (m *mending) approach(by music.Pitch) (Fix, bool) {
	fix, ok := m.nearest()
	if !ok {
		return fix, false
	}
	change := m.report.Chords[m.landing.Chord]
	on := m.onChange()
	if on < 1 || len(m.columns[on-1]) != 1 {
		return fix, false
	}
	i, k := m.columns[on][0], m.columns[on-1][0]
	n := fix.Lick.Notes[k]
	pitch := fix.Lick.Pitch(i) + by
	at, ok := m.guitar.Nearest(pitch, fix.Lick.Notes[i].Place())
	if !ok || n.Bend != nil || n.At.Before(m.report.Chords[m.landing.Chord-1].At) {
		return fix, false
	}
	putNote(&fix.Lick.Notes[k], at)
	fix.Lick.Sort()
	d, _ := Of(change.Chord, nil, fix.Lick.Pitch(i))
	return Fix{say.Approach(k, i, d, change.Name, by < 0), fix.Lick}, true
}

// ledByStep moves the single note before the change to a tone a step from the target, on the side it
// comes from, where it would repeat the target or leap to it by more than a fourth. It is −1 where none is moved.
func (m *mending) ledByStep(out *lick.Lick, on int, target music.Pitch) (note int) {
	if on == 0 || len(m.columns[on-1]) != 1 {
		return -1
	}
	k := m.columns[on-1][0]
	n := m.lick.Notes[k]
	from := m.lick.Pitch(k)
	p, hasKey := m.lick.PaletteAt(n.At)
	if gap := target - from; !hasKey || n.Bend != nil || gap != 0 && gap >= -5 && gap <= 5 {
		return -1
	}
	at, ok := m.guitar.Nearest(nextTone(p, target, from > target), n.Place())
	if !ok {
		return -1
	}
	putNote(&out.Notes[k], at)
	return k
}

// putNote moves a note and leaves its hands to be found; a slur that would not sound goes.
func putNote(n *lick.Note, at neck.Place) {
	if n.String != at.String {
		n.Slur = ""
	}
	n.String, n.Fret, n.Finger = at.String, at.Fret, lick.NoFinger
	if !n.Slur.Slurred() && (n.Stroke == lick.Down || n.Stroke == lick.Up) {
		n.Stroke = ""
	}
}

// nextTone is the palette's next tone above or below a pitch.
func nextTone(p music.Palette, from music.Pitch, up bool) music.Pitch {
	by := music.Pitch(-1)
	if up {
		by = 1
	}
	for k := 1; k <= 12; k++ {
		if from += by; p.At(from).Role != music.Outside {
			return from
		}
	}
	return from
}
