package turn

import (
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/phrase"
	"ornamen/core/run"
	"ornamen/core/shape"
)

// Turn changes the notes [from, to) of a lick (to 0: all): backwards, mirror, rotate:N, octave or -octave, string:N
// (the same frets so many strings thicker) or degree:N (the same figure so many tones up). Slurs are turned with the
// notes; fingers and strokes of the part are left open, to be found again. The recipe no longer holds.
//
// An error is a sentence and gives the lick as it was: that the neck has no room, or that the
// lick has no tones where the turn needs them.
func Turn(g neck.Guitar, l lick.Lick, how string, from, to int) (lick.Lick, error) {
	if to == 0 {
		to = len(l.Notes)
	}
	if from < 0 || to > len(l.Notes) || to-from < 2 {
		return l, errors.New("there must be two notes or more to turn")
	}
	t := turner{guitar: g.WithTuning(l.Tuning), lick: l.Clone()}
	t.take(from, to, false)
	var err error
	word, n, _ := strings.Cut(how, ":")
	switch word {
	case "backwards":
		t.backwards()
	case "mirror":
		err = t.mirror()
	case "rotate":
		k, convErr := strconv.Atoi(n)
		if convErr != nil || k < 1 || k > len(t.columns) {
			return l, phrase.Wrong(how, fmt.Sprintf("rotate:N names a note from 1 to %d", len(t.columns)))
		}
		t.rotate(k - 1)
	case "string", "degree":
		k, convErr := strconv.Atoi(n)
		if convErr != nil || k == 0 || k < -12 || k > 12 {
			return l, phrase.Wrong(how, "string:1 is the next thicker string, string:-1 the next thinner, degree:1 a tone up")
		}
		if word == "string" {
			err = t.nextString(k)
		} else {
			err = t.degrees(k)
		}
	case "octave":
		err = t.octave(1)
	case "-octave":
		err = t.octave(-1)
	default:
		return l, phrase.Wrong(how, "a line is turned backwards, mirror, rotate:N, octave, -octave, string:N or degree:N")
	}
	if err != nil {
		return l, err
	}
	return t.put()
}

// turner holds the part of a line that is turned, cut into columns, and what stays.
// The rest is put back as it was; a part that runs into it does not validate.
type turner struct {
	guitar  neck.Guitar
	lick    lick.Lick
	rest    []lick.Note   // outside the part
	columns [][]lick.Note // the part, notes that sound together
	start   lick.Time
	end     lick.Time
}

// take lifts the part out and opens its hands, but for what the player has set where that is kept.
func (t *turner) take(from, to int, keep bool) {
	for i, n := range t.lick.Notes {
		if i < from || i >= to {
			t.rest = append(t.rest, n)
			continue
		}
		if !keep {
			n.Lock = nil
		}
		if !n.Locked(lick.FieldFinger) {
			n.Finger = openFinger(n.Finger)
		}
		if !n.Locked(lick.FieldStroke) {
			n.Stroke = openStroke(n.Stroke)
		}
		if k := len(t.columns); k > 0 && t.columns[k-1][0].At.Cmp(n.At) == 0 {
			t.columns[k-1] = append(t.columns[k-1], n)
		} else {
			t.columns = append(t.columns, []lick.Note{n})
		}
		t.end = lick.Later(t.end, n.End())
	}
	t.start = t.columns[0][0].At
}

// notes are the notes of the part, to be changed where they stand.
func (t *turner) notes() (out []*lick.Note) {
	for k := range t.columns {
		for i := range t.columns[k] {
			out = append(out, &t.columns[k][i])
		}
	}
	return out
}

// openFinger lets go of a finger, but for the thumb, which is how a line is meant.
func openFinger(f lick.Finger) lick.Finger {
	if f == lick.Thumb {
		return f
	}
	return lick.NoFinger
}

// openStroke lets go of a stroke of the pick; fingers of the picking hand stay.
func openStroke(s lick.Stroke) lick.Stroke {
	if s == lick.Down || s == lick.Up {
		return ""
	}
	return s
}

// put lays the part down again and lets go of slurs that cannot sound.
func (t *turner) put() (lick.Lick, error) {
	out := t.lick
	out.ForgetRecipes()
	out.Notes = t.rest
	for _, c := range t.columns {
		out.Notes = append(out.Notes, c...)
	}
	out.Sort()
	out.FitSlurs()
	return out, out.Validate()
}

// backwards mirrors the part in time: what led from a note to the next leads back. A note at At
// for Len within [start, end) comes at start + end − At − Len, so that rests are mirrored too.
// A slur belongs to the note that it leads to; backwards that is the note which it came from.
func (t *turner) backwards() {
	slurs := make([]map[int]lick.Slur, len(t.columns))
	for k := range t.columns {
		slurs[k] = map[int]lick.Slur{}
		for i := range t.columns[k] {
			n := &t.columns[k][i]
			if n.Slur != "" && k > 0 {
				slurs[k-1][n.String] = n.Slur
			}
			n.Slur = ""
		}
	}
	for k := range t.columns {
		for i := range t.columns[k] {
			n := &t.columns[k][i]
			n.Slur = slurs[k][n.String]
			n.At = t.start.Add(t.end.Sub(n.End()))
		}
	}
	slices.Reverse(t.columns)
}

// rotate begins in the middle: the notes before it go to the end. Each column keeps its own
// time up to the next, so that the rhythm is rotated with the notes. What would ring over the
// new seam ends there, and the first note cannot be slurred into.
func (t *turner) rotate(k int) {
	spans := make([]lick.Time, len(t.columns)) // from each column to the next
	for i := range t.columns {
		next := t.end
		if i+1 < len(t.columns) {
			next = t.columns[i+1][0].At
		}
		spans[i] = next.Sub(t.columns[i][0].At)
	}
	t.columns = slices.Concat(t.columns[k:], t.columns[:k])
	spans = slices.Concat(spans[k:], spans[:k])
	at := t.start
	for i := range t.columns {
		for j := range t.columns[i] {
			n := &t.columns[i][j]
			n.At = at
			n.Len = lick.Earlier(n.Len, spans[i])
		}
		at = at.Add(spans[i])
	}
	if k > 0 {
		for j := range t.columns[0] {
			t.columns[0][j].Slur = ""
		}
	}
}

// octave takes the same fingering two strings over where all of it fits, else each note at the place of its pitch
// nearest to the note before. All or none: half a line in the old fingering and half in a new one would have two hands.
func (t *turner) octave(by int) error {
	same := true
	for _, n := range t.notes() {
		_, ok := t.guitar.Octaves(n.Place(), by)
		same = same && ok
	}
	last := neck.Place{}
	for k := range t.columns {
		var taken []int
		for i := range t.columns[k] {
			n := &t.columns[k][i]
			to, ok := t.guitar.Octaves(n.Place(), by)
			if !same {
				to, ok = t.nearestPlace(t.guitar.Pitch(n.Place())+music.Pitch(12*by), last, taken)
			}
			if !ok {
				return fmt.Errorf("an octave on, %s of this line is not on the neck", n.Place().Notation())
			}
			layAt(n, to.String, to.Fret)
			taken, last = append(taken, to.String), to
		}
	}
	return nil
}

// nearestPlace is the place of a pitch nearest to the last one, on a string that is free.
func (t *turner) nearestPlace(pitch music.Pitch, last neck.Place, taken []int) (neck.Place, bool) {
	return t.guitar.Best(pitch, func(at neck.Place) int {
		switch {
		case slices.Contains(taken, at.String):
			return neck.OutOfReach
		case last.String == 0:
			return 0
		}
		return neck.Apart(at, last)
	})
}

// mirror keeps the contour and turns every slide round. A line without slides goes a place lower.
func (t *turner) mirror() error {
	p, ok := t.lick.Palette()
	if !ok {
		return errors.New("the mirror needs the tones of the lick; choose its key first")
	}
	higher := -1
	if _, slid := shape.Slid(t.guitar, p, t.notes()); slid {
		higher = 0
	}
	return shape.Mirror(t.guitar, p, t.notes(), higher)
}

// nextString keeps the frets and goes so many strings over: the same movement of the hand, another colour.
func (t *turner) nextString(by int) error {
	for _, n := range t.notes() {
		s := n.String + by
		if s < 1 || s > len(t.guitar.Tuning) {
			return errors.New("the line has no string beyond to go to")
		}
		layAt(n, s, n.Fret)
	}
	return nil
}

// degrees keeps the figure and moves each note as many chosen tones along its string.
func (t *turner) degrees(by int) error {
	for _, n := range t.notes() {
		p, ok := t.lick.PaletteAt(n.At)
		if !ok {
			return errors.New("other degrees need the tones of the lick; choose its key first")
		}
		fret, ok := shape.Along(t.guitar, p, n.Place(), by)
		if !ok {
			return fmt.Errorf("so many tones on, note %s of this line is not on the neck", n.Place().Notation())
		}
		layAt(n, n.String, fret)
	}
	return nil
}

// layAt lays a note at another place. An open string has no finger and is not bent.
func layAt(n *lick.Note, s, fret int) {
	if n.String, n.Fret = s, fret; fret > 0 {
		return
	}
	n.Bend, n.Vibrato, n.Barre = nil, nil, false
	if n.Finger.Fretting() {
		n.Finger = lick.NoFinger
	}
	n.Lock = n.Lock.With(lick.FieldFinger, false).With(lick.FieldBend, false).With(lick.FieldVibrato, false)
}

// Regrow makes the line of a changed recipe and carries over what the player had locked: the fields of notes that lie
// at the same place at the same time. The title, tags, tempo and what else is the player's stay. What was locked on
// notes that the new line does not have is gone with them, which undo brings back.
func Regrow(old lick.Lick, r run.Recipe, g neck.Guitar) (*run.Run, error) {
	run, err := run.Grow(r, g)
	if err != nil {
		return nil, err
	}
	out := &run.Lick
	out.Title, out.Tags, out.Loop = old.Title, old.Tags, old.Loop
	if len(out.Chords) == 0 {
		out.Chords = old.Chords // a recipe that names its chords brings them
	}
	if r.Tempo == 0 {
		out.Tempo = old.Tempo
	}
	carryOver(out.Notes, old.Notes)
	return run, out.Validate()
}

// carryOver has notes take over what was locked where time and place agree.
func carryOver(notes, old []lick.Note) {
	for i := range notes {
		n := &notes[i]
		if k := slices.IndexFunc(old, func(m lick.Note) bool { return m.At == n.At && m.Place() == n.Place() }); k >= 0 {
			carry(n, old[k])
		}
	}
}

// carry takes over the locked fields of a note.
func carry(n *lick.Note, old lick.Note) {
	for _, f := range old.Lock {
		switch f {
		case lick.FieldFinger:
			n.Finger = old.Finger
		case lick.FieldStroke:
			if n.Slur.Slurred() {
				continue
			}
			n.Stroke = old.Stroke
		case lick.FieldSlur:
			n.Slur = old.Slur
			if n.Slur.Slurred() {
				n.Stroke = ""
			}
		case lick.FieldBend:
			n.Bend = old.Bend
		case lick.FieldVibrato:
			n.Vibrato = old.Vibrato
		default:
			continue
		}
		if !n.Locked(f) {
			n.Lock = append(n.Lock, f)
		}
	}
	n.Meant = old.Meant
}
