package changes

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// Manner is how a figure moves to another chord, and what it goes on with there.
type Manner struct {
	How  How
	Tail Tail
}

// How says what stays of a figure that moves.
type How string

// The ways: the tones of the chord stay tones of the chord; the figure moves along the neck as it is;
// or it goes so many steps up or down in the key as the chord's root lies higher or lower there.
const (
	SameDegrees How = "degrees"
	SameShape   How = "shape"
	InKey       How = "key"
)

// Tail says in which tones the rest of a chord is played, after the figure.
type Tail string

// The tails: none; each chord's own pentatonic, or its own scale (common practice: a triad, then that chord's box).
const (
	NoTail         Tail = ""
	PentatonicTail Tail = "pentatonic"
	ScaleTail      Tail = "scale"
)

// ParseManner reads "degrees", "shape" or "key", and behind a + the tail: "degrees+pentatonic".
func ParseManner(text string) (Manner, bool) {
	how, tail, _ := strings.Cut(text, "+")
	m := Manner{How(how), Tail(tail)}
	ok := slices.Contains([]How{SameDegrees, SameShape, InKey}, m.How) &&
		slices.Contains([]Tail{NoTail, PentatonicTail, ScaleTail}, m.Tail)
	return m, ok && !(strings.HasSuffix(text, "+"))
}

// EachChord plays what stands over the first chord, pick-up included, over every chord of the changes: blues and its
// kin follow the chord, not the key (common practice). What is longer than a chord is cut. Hands are open again.
//
// A figure moves as a whole: one octave for all of it and one set of strings, the nearest to where it
// was played before, and then to where it began; a chord that comes again has it where it had it. The shape keeps its
// strings, and so do tones that sound together. With the same degrees a third stays the chord's third, whichever that
// is, and every other tone keeps its distance from the root. The line carries its tones along by span, so that
// nothing in it is outside.
//
// As an example, E G♯ B over E7, its root, third and fifth, becomes A C♯ E over A7 and A C E
// over Am7: thirds stay thirds. In C, C E G over C becomes D F A over Dm in the key.
func EachChord(g neck.Guitar, l lick.Lick, how Manner) (lick.Lick, error) {
	r := Read(l)
	if len(r.Chords) < 2 {
		return l, errors.New("there is no second chord to move it to: write the changes first")
	}
	m := moving{guitar: g.WithTuning(l.Tuning), manner: how, lick: l, first: r.Chords[0]}
	m.palette = paletteOf(l, m.first.At)
	phrase := slices.DeleteFunc(slices.Clone(l.Notes), func(n lick.Note) bool { return !n.At.Before(m.first.End) })
	m.figure = slices.DeleteFunc(slices.Clone(phrase), func(n lick.Note) bool {
		return n.At.Before(m.first.At) || n.Voice == lick.VoiceBass // the pick-up leads in once
	})
	if len(m.figure) == 0 {
		return l, errors.New("nothing stands over the first chord that could be moved")
	}
	m.head = m.chordTones()
	out := l.Clone()
	out.Notes = phrase
	out.Parts, out.Recipe, out.Keys = nil, "", nil
	before := placesOf(m.figure)
	known := map[string][]neck.Place{m.first.Chord.Name: before}
	for k, to := range r.Chords {
		moved := m.figure
		if k > 0 {
			places, ok := known[to.Chord.Name]
			if !ok {
				var err error
				if places, err = m.placesOver(to.Chord, before); err != nil {
					return l, err
				}
				known[to.Chord.Name] = places
			}
			before, moved = places, m.placed(places, to)
			m.carry(&out, to, moved)
			out.Notes = append(out.Notes, moved...)
		}
		if how.Tail != NoTail {
			out.Notes = append(out.Notes, m.fill(to, moved)...)
		}
	}
	out.Sort()
	fit(&out)
	return out, out.Validate()
}

// moving is a figure on its way over the chords. The first head notes of it are tones of its chord.
type moving struct {
	guitar  neck.Guitar
	manner  Manner
	lick    lick.Lick
	first   ChordChange
	palette *music.Palette // of the line where the figure stands; nil without a key
	figure  []lick.Note
	head    int
}

// chordTones counts the notes at the head of the figure that are tones of its chord.
func (m *moving) chordTones() int {
	for i, n := range m.figure {
		if _, role := Of(m.first.Chord, nil, m.guitar.Pitch(n.Place())); !role.Chordal() {
			return i
		}
	}
	return len(m.figure)
}

// away is how far the root of a chord lies from the first chord's, the shorter way: -6 to 5 half steps.
func (m *moving) away(to music.Chord) music.Pitch {
	return music.Pitch((to.Root.Class()-m.first.Chord.Root.Class()+18)%12 - 6)
}

// placesOver are the figure's places over another chord: of every octave and, where the manner leaves the
// strings open, every set of strings, those that lie nearest to the figure before.
func (m *moving) placesOver(to music.Chord, before []neck.Place) (best []neck.Place, err error) {
	pitches, err := m.pitches(to)
	if err != nil {
		return nil, err
	}
	free := m.manner.How != SameShape && !together(m.figure) && !bent(m.figure)
	strings := []int{0}
	if free {
		strings = []int{0, -1, 1, -2, 2}
	}
	least := 0.0
	for _, octave := range []music.Pitch{0, -12, 12} {
		for _, s := range strings {
			places, ok := m.placesOn(pitches, octave, s)
			if !ok {
				continue
			}
			cost := away(places, before) + away(places, placesOf(m.figure))/2 + float64(max(s, -s))/4
			if best == nil || cost < least {
				best, least = places, cost
			}
		}
	}
	if best != nil {
		return best, nil
	}
	// No set of strings holds it under one hand: tone by tone then, in one octave still.
	for _, octave := range []music.Pitch{0, -12, 12} {
		var places []neck.Place
		from := before[0]
		for _, p := range pitches {
			at, ok := m.guitar.Nearest(p+octave, from)
			if !ok {
				break
			}
			places, from = append(places, at), at
		}
		if len(places) == len(pitches) && free {
			return places, nil
		}
	}
	return nil, fmt.Errorf("over %s the figure would leave the neck", to.Name)
}

// placesOf are the places of notes.
func placesOf(notes []lick.Note) (out []neck.Place) {
	for _, n := range notes {
		out = append(out, n.Place())
	}
	return out
}

// together says whether tones of the figure sound together.
func together(notes []lick.Note) bool {
	for i := 1; i < len(notes); i++ {
		if notes[i].At.Before(notes[i-1].End()) {
			return true
		}
	}
	return false
}

// bent says whether one of the notes is bent: it stays on its string then, as a bend of a whole tone is
// another matter on each.
func bent(notes []lick.Note) bool {
	return slices.ContainsFunc(notes, func(n lick.Note) bool { return n.Bend != nil })
}

// wider is by how many frets a figure may grow on another set of strings: the second string is tuned
// a fret nearer, and a chord's third or seventh may be a fret higher.
const wider = 2

// placesOn are the places of the figure's pitches so many octaves on and so many strings over, where all
// of them lie on the neck and under the hand as the figure did. A fretted note does not become an open
// one, which no finger could slide or bend.
func (m *moving) placesOn(pitches []music.Pitch, octave music.Pitch, over int) (out []neck.Place, ok bool) {
	low, high, was := m.guitar.Frets, 0, [2]int{m.guitar.Frets, 0}
	for i, p := range pitches {
		n := m.figure[i]
		s := n.String + over
		if s < 1 || s > len(m.guitar.Tuning) {
			return nil, false
		}
		f := int(p + octave - m.guitar.Pitch(neck.Place{String: s}))
		if f < 0 || f > m.guitar.Frets || f == 0 && n.Fret > 0 || f > 0 && n.Fret == 0 && n.Slur.Slurred() {
			return nil, false
		}
		if n.Fret > 0 {
			was = [2]int{min(was[0], n.Fret), max(was[1], n.Fret)}
		}
		if f > 0 {
			low, high = min(low, f), max(high, f)
		}
		out = append(out, neck.Place{String: s, Fret: f})
	}
	return out, high-low <= max(0, was[1]-was[0])+wider
}

// away is how many frets a figure lies from where it was, by their middles.
func away(places, from []neck.Place) float64 {
	sum := 0
	for i := range places {
		sum += places[i].Fret - from[i].Fret
	}
	return float64(max(sum, -sum)) / float64(len(places))
}

// placed are the figure's notes at other places and at the time of a chord; what begins after it is
// left out, and what rings beyond is cut.
func (m *moving) placed(places []neck.Place, to ChordChange) (out []lick.Note) {
	for i, n := range m.figure {
		if n.At = n.At.Sub(m.first.At).Add(to.At); !n.At.Before(to.End) {
			continue
		}
		if to.End.Before(n.End()) {
			n.Len = to.End.Sub(n.At)
		}
		// The string changes with all of the figure, so that its slurs stay.
		slur := n.Slur
		putNote(&n, places[i])
		if n.Bend != nil {
			m.bend(&n, i, to.Chord)
		}
		if n.Slur = slur; n.Slur.Slurred() {
			n.Stroke = ""
		}
		out = append(out, n)
	}
	return out
}

// pitches are what the figure's notes become over a chord, in some octave that is the same for all.
func (m *moving) pitches(to music.Chord) (out []music.Pitch, err error) {
	for i, n := range m.figure {
		pitch, err := m.pitch(m.guitar.Pitch(n.Place()), i, to)
		if err != nil {
			return nil, err
		}
		out = append(out, pitch)
	}
	return out, nil
}

// pitch is what a pitch of the figure's note i becomes over a chord, in that octave.
func (m *moving) pitch(pitch music.Pitch, i int, to music.Chord) (music.Pitch, error) {
	switch {
	case m.manner.Tail != NoTail && i >= m.head:
		return stepped(own(m.manner.Tail, m.first.Chord, m.palette), own(m.manner.Tail, to, m.palette), pitch,
			m.away(to)), nil
	case m.manner.How == InKey:
		return m.inKey(pitch, to)
	case m.manner.How == SameShape:
		return pitch + m.away(to), nil
	}
	return pitch + m.away(to) + quality(m.first.Chord, to, pitch), nil
}

// bend has a bent note arrive at what its target becomes over a chord; a bend that would go nowhere
// or farther than two tones stays as far as it is.
func (m *moving) bend(n *lick.Note, i int, to music.Chord) {
	whole := music.Pitch(n.Bend.Semitones)
	if float64(whole) != n.Bend.Semitones {
		return // a curl has no target
	}
	from := m.guitar.Pitch(m.figure[i].Place())
	low, err := m.pitch(from, i, to)
	if err != nil {
		return
	}
	high, err := m.pitch(from+whole, i, to)
	if by := high - low; err == nil && by > 0 && by <= 4 {
		b := *n.Bend
		b.Semitones = float64(by)
		n.Bend = &b
	}
}

// inKey is the tone so many steps of the key on as the chord's root lies on; a tone between two steps
// of the key keeps its distance from the lower one.
func (m *moving) inKey(pitch music.Pitch, to music.Chord) (music.Pitch, error) {
	if m.palette == nil {
		return 0, errors.New("to move by steps of the key it must have one; choose the tones first")
	}
	steps := classes(*m.palette)
	a, b := slices.Index(steps, m.first.Chord.Root.Class()), slices.Index(steps, to.Root.Class())
	for _, x := range []struct {
		at   int
		root music.Name
	}{{a, m.first.Chord.Root}, {b, to.Root}} {
		if x.at < 0 {
			return 0, fmt.Errorf("%s has no %s: it cannot move there by steps of the key", m.palette.Pretty(),
				x.root.Pretty())
		}
	}
	// The shorter way, as the roots go.
	n := b - a
	for range 2 {
		if by := music.Pitch((steps[b] - steps[a] + 12) % 12); n > 0 && by > 6 {
			n -= len(steps)
		} else if n < 0 && by <= 6 {
			n += len(steps)
		}
	}
	return walk(steps, steps, pitch, n), nil
}

// classes are the pitch classes of a palette in rising order.
func classes(p music.Palette) (out []int) {
	for _, t := range p.Tones {
		out = append(out, t.Name.Class())
	}
	slices.Sort(out)
	return slices.Compact(out)
}

// walk finds a pitch among the steps of one scale and gives the one n steps on in another, with as
// many steps, by number. A pitch between two steps keeps its distance from the lower one.
func walk(from, to []int, pitch music.Pitch, n int) music.Pitch {
	octave, class := int(pitch)/12, int(pitch)%12
	i := len(from) - 1
	for i >= 0 && from[i] > class {
		i--
	}
	if i < 0 {
		i, octave, class = len(from)-1, octave-1, class+12
	}
	rest := class - from[i]
	i += n
	for i < 0 {
		i, octave = i+len(to), octave-1
	}
	octave += i / len(to)
	return music.Pitch(12*octave + to[i%len(to)] + rest)
}

// stepped moves a tone of one chord's own scale to the tone of another's with the same number,
// counted from the roots, which lie by half steps apart.
func stepped(from, to music.Palette, pitch, by music.Pitch) music.Pitch {
	rooted := func(p music.Palette) (out []int) {
		for _, t := range p.Tones {
			out = append(out, (t.Name.Class()-p.Tonic.Class()+12)%12)
		}
		slices.Sort(out)
		return out
	}
	a, b := rooted(from), rooted(to)
	root := music.Pitch(from.Tonic.Class())
	return walk(a, b[:min(len(a), len(b))], pitch-root+12, 0) + root - 12 + by
}

// own is the pentatonic or the scale that a chord takes by itself: minor over a minor third, else
// major; of the scales the nearest to the line's own tones.
func own(tail Tail, c music.Chord, line *music.Palette) music.Palette {
	name := "major pentatonic"
	if slices.ContainsFunc(c.Degrees, func(d music.Degree) bool { return d.Semitones() == 3 }) {
		name = "minor pentatonic"
	}
	if tail == ScaleTail {
		var near music.Palette
		if line != nil {
			near = *line
		}
		if scales := ScalesFor(c, near); len(scales) > 0 {
			name = scales[0]
		}
	}
	p, err := music.NewPalette(c.Root.String(), name, nil, nil)
	if err != nil {
		panic("no " + name + " on " + c.Root.String()) // a root has every scale of the list
	}
	return p
}

// tailFrets is how many frets the hand holds in which a tail is played, from the figure's lowest fret on: a box.
const tailFrets = 4

// fill goes on after the figure in the chord's own tones, step by step in the figure's last length (a
// beat at most) within its box, down first, and turns where the box ends. At most a bar is filled.
func (m *moving) fill(c ChordChange, figure []lick.Note) (out []lick.Note) {
	if len(figure) == 0 {
		return nil
	}
	last := figure[len(figure)-1]
	at := last.End()
	step := lick.Earlier(last.Len, lick.NewTime(1, int64(m.lick.Meter.Unit)))
	end := lick.Earlier(at.Add(m.lick.Meter.Bar()), c.End)
	low := m.guitar.Frets
	for _, n := range figure {
		if n.Fret > 0 {
			low = min(low, n.Fret)
		}
	}
	tones := own(m.manner.Tail, c.Chord, m.palette)
	by, pitch := music.Pitch(-1), m.guitar.Pitch(last.Place())
	place := last.Place()
	for !end.Before(at.Add(step)) {
		next, ok := m.inBox(nextTone(tones, pitch, by > 0), place, low)
		if !ok {
			by = -by
			if next, ok = m.inBox(nextTone(tones, pitch, by > 0), place, low); !ok {
				break
			}
		}
		place, pitch = next, m.guitar.Pitch(next)
		out = append(out, lick.Note{At: at, Len: step, String: next.String, Fret: next.Fret})
		at = at.Add(step)
	}
	return out
}

// inBox is the place of a pitch within the box, on the string nearest to the last one.
func (m *moving) inBox(pitch music.Pitch, from neck.Place, low int) (neck.Place, bool) {
	return m.guitar.Best(pitch, func(p neck.Place) int {
		if p.Fret < max(1, low-1) || p.Fret > low+tailFrets {
			return neck.OutOfReach
		}
		return max(p.String-from.String, from.String-p.String)
	})
}

// quality is by how much a tone of one chord moves to be the same tone of the other: the major
// third of one and the minor third of the other are both thirds.
func quality(from, to music.Chord, pitch music.Pitch) music.Pitch {
	d, in := from.Over(music.NameOf(pitch.Class()))
	if !in {
		return 0
	}
	for _, x := range to.Degrees {
		if x.Number == d.Number {
			return music.Pitch(x.Alter - d.Alter)
		}
	}
	return 0
}

// carry has the line take its tones along to a chord: by steps of the key they stay; else they are
// those of the figure as far from the chord's root as they were from the first one's, in the scale
// nearest to it that holds the moved figure.
func (m *moving) carry(out *lick.Lick, to ChordChange, moved []lick.Note) {
	if m.palette == nil {
		return
	}
	key := m.lick.KeyAt(m.first.At)
	switch {
	case m.manner.Tail != NoTail:
		key = lick.Key{Tonic: to.Chord.Root.String(), Scale: own(m.manner.Tail, to.Chord, m.palette).Scale.Name}
	case m.manner.How != InKey && m.away(to.Chord) != 0:
		over := (m.palette.Tonic.Class() - m.first.Chord.Root.Class() + 12) % 12
		key.Tonic = music.ChromaticDegree(over).Over(to.Chord.Root).String()
	}
	key = m.holding(key, to.Chord, moved)
	if !out.KeyAt(to.At).Same(key) {
		out.Keys = append(out.Keys, lick.KeySpan{At: to.At, Key: key})
	}
}

// holding is a key that holds the moved figure: the one given, else the first of the scales of the
// chord that does, else the one given with the tones added that it lacks.
func (m *moving) holding(key lick.Key, c music.Chord, moved []lick.Note) lick.Key {
	lacks := func(key lick.Key) (out []string, ok bool) {
		p, err := music.NewPalette(key.Tonic, key.Scale, key.Add, key.Drop)
		if err != nil {
			return nil, false
		}
		for i, n := range moved {
			pitch := m.guitar.Pitch(n.Place())
			// What was outside where the figure was written stays so.
			if p.At(pitch).Role != music.Outside ||
				m.palette.At(m.guitar.Pitch(m.figure[i].Place())).Role == music.Outside {
				continue
			}
			if d := music.ChromaticDegree(int(pitch) - p.Tonic.Class()).String(); !slices.Contains(out, d) {
				out = append(out, d)
			}
		}
		return out, true
	}
	missing, ok := lacks(key)
	if !ok || len(missing) == 0 {
		return key
	}
	if m.manner.Tail == NoTail && key.Tonic == c.Root.String() {
		for _, scale := range ScalesFor(c, *m.palette) {
			try := lick.Key{Tonic: key.Tonic, Scale: scale}
			if none, ok := lacks(try); ok && len(none) == 0 {
				return try
			}
		}
	}
	key.Add = append(slices.Clone(key.Add), missing...)
	return key
}
