package lick

import (
	"errors"
	"fmt"
	"slices"

	"ornamen/core/neck"
)

// Edit is one change of a lick. Apply never touches its argument and gives a valid lick or an
// error of one sentence. What says it in a few words, for the history.
//
// Notes are named by their index in playing order on the lick that the edit is applied to. An edit is a plain value: it
// can be kept, compared and applied to a copy to see what it would do.
type Edit interface {
	Apply(l Lick) (Lick, error)
	What() string
}

// editNote copies l, lets f alter note i, and checks the result.
func editNote(l Lick, i int, f func(l *Lick, n *Note) error) (Lick, error) {
	if i < 0 || i >= len(l.Notes) {
		return l, fmt.Errorf("there is no note %d", i+1)
	}
	return revise(l, func(l *Lick) error { return f(l, &l.Notes[i]) })
}

// revise copies l, lets f alter it, and checks the result.
func revise(l Lick, f func(l *Lick) error) (Lick, error) {
	out := l.Clone()
	if err := f(&out); err != nil {
		return l, err
	}
	if err := out.Validate(); err != nil {
		return l, err
	}
	out.Sort()
	return out, nil
}

// set locks or unlocks a field.
func (n *Note) set(field Field, locked bool) { n.Lock = n.Lock.With(field, locked) }

// Column is the range of notes that start with note i.
func (l Lick) Column(i int) (from, to int) {
	for from = i; from > 0 && l.Notes[from-1].At == l.Notes[i].At; from-- {
	}
	for to = i + 1; to < len(l.Notes) && l.Notes[to].At == l.Notes[i].At; to++ {
	}
	return from, to
}

// step is the time from note i's column to the next one, or to its end: what the line loses
// when the column goes, and what comes before a note put after it.
func (l Lick) step(i int) Time {
	from, to := l.Column(i)
	if to < len(l.Notes) {
		return l.Notes[to].At.Sub(l.Notes[from].At)
	}
	end := l.Notes[from].End()
	for _, n := range l.Notes[from:to] {
		end = Later(end, n.End())
	}
	return end.Sub(l.Notes[from].At)
}

// shift moves every note from index i on by d, and the chords and tones by span with them: room made in a line is room
// made under it. Where nothing follows, chords that were laid down before the line was written stay where they are.
func (l *Lick) shift(i int, d Time) {
	if i >= len(l.Notes) {
		return
	}
	at := l.Notes[i].At
	if len(l.Keys) > 0 {
		l.shiftKeys(at, d)
	}
	l.Chords = l.MovedChords(at, d)
	for k := i; k < len(l.Notes); k++ {
		l.Notes[k].At = l.Notes[k].At.Add(d)
	}
}

// lengthen lets a last chord that ended with the line, at end, go on to where the line ends now.
func (l *Lick) lengthen(end Time) {
	k := len(l.Chords) - 1
	if k >= 0 && l.Chords[k].End().Cmp(end) == 0 && end.Before(l.End()) {
		l.Chords[k].Len = l.End().Sub(l.Chords[k].At)
	}
}

// Move puts note Note at another place. A finger or stroke that the player has not locked is decided anew.
type Move struct {
	Note  int
	Place neck.Place
}

// Apply implements Edit.
func (e Move) Apply(l Lick) (Lick, error) {
	return editNote(l, e.Note, func(l *Lick, n *Note) error {
		n.String, n.Fret = e.Place.String, e.Place.Fret
		if !n.Locked(FieldFinger) || n.Fret == 0 {
			n.Finger = NoFinger
			n.set(FieldFinger, false)
		}
		return nil
	})
}

// What implements Edit.
func (e Move) What() string { return fmt.Sprintf("note %d to %s", e.Note+1, e.Place.Notation()) }

// Insert puts a new note after note After (−1: before the first); what follows moves later, by the new note's length.
type Insert struct {
	After int
	Place neck.Place
	Len   Time
}

// Apply implements Edit.
func (e Insert) Apply(l Lick) (Lick, error) {
	if e.After < -1 || e.After >= len(l.Notes) {
		return l, fmt.Errorf("there is no note %d to put one after", e.After+1)
	}
	return revise(l, func(l *Lick) error {
		var at Time
		next := 0
		if e.After >= 0 {
			from, to := l.Column(e.After)
			at, next = l.Notes[from].At.Add(l.step(e.After)), to
		}
		end := l.End()
		l.shift(next, e.Len)
		l.inserted(next, 1)
		l.Notes = slices.Insert(l.Notes, next, Note{At: at, Len: e.Len, String: e.Place.String, Fret: e.Place.Fret})
		l.lengthen(end)
		return nil
	})
}

// What implements Edit.
func (e Insert) What() string { return "a note at " + e.Place.Notation() }

// Add sounds a place together with note Note.
type Add struct {
	Note  int
	Place neck.Place
}

// Apply implements Edit.
func (e Add) Apply(l Lick) (Lick, error) {
	return editNote(l, e.Note, func(l *Lick, n *Note) error {
		from, to := l.Column(e.Note)
		for i, m := range l.Notes[from:to] {
			if m.String == e.Place.String {
				return fmt.Errorf("note %d is on string %d already", from+i+1, m.String)
			}
		}
		at := n.At
		l.inserted(e.Note+1, 1) // within the part of the note that it sounds with
		for i := range l.Parts {
			if l.Parts[i].To == e.Note+1 {
				l.Parts[i].To++
			}
		}
		l.Notes = append(l.Notes, Note{At: at, Len: l.Notes[e.Note].Len, String: e.Place.String, Fret: e.Place.Fret})
		return nil
	})
}

// What implements Edit.
func (e Add) What() string {
	return fmt.Sprintf("%s together with note %d", e.Place.Notation(), e.Note+1)
}

// Remove takes a note out. If nothing else starts with it, what follows moves up, or with Rest stays where it is.
type Remove struct {
	Note int
	Rest bool
}

// Apply implements Edit.
func (e Remove) Apply(l Lick) (Lick, error) {
	return editNote(l, e.Note, func(l *Lick, n *Note) error {
		from, to := l.Column(e.Note)
		step := l.step(e.Note)
		l.removed(e.Note)
		l.Notes = slices.Delete(l.Notes, e.Note, e.Note+1)
		if to-from == 1 && !e.Rest {
			l.shift(from, Time{}.Sub(step))
		}
		return nil
	})
}

// What implements Edit.
func (e Remove) What() string {
	if e.Rest {
		return fmt.Sprintf("a rest for note %d", e.Note+1)
	}
	return fmt.Sprintf("note %d removed", e.Note+1)
}

// Length sets the length of the notes that start with Note; what follows moves by the
// difference, so that a rest behind them stays as long as it was.
type Length struct {
	Note int
	Len  Time
}

// Apply implements Edit.
func (e Length) Apply(l Lick) (Lick, error) {
	return editNote(l, e.Note, func(l *Lick, n *Note) error {
		from, to := l.Column(e.Note)
		d, end := e.Len.Sub(n.Len), l.End()
		for i := from; i < to; i++ {
			l.Notes[i].Len = e.Len
		}
		l.shift(to, d)
		l.lengthen(end)
		return nil
	})
}

// What implements Edit.
func (e Length) What() string { return fmt.Sprintf("note %d lasts %s", e.Note+1, e.Len) }

// Rest opens a rest before note Note as long as the note; with Close it closes the rest that is there.
type Rest struct {
	Note  int
	Close bool
}

// Apply implements Edit.
func (e Rest) Apply(l Lick) (Lick, error) {
	return editNote(l, e.Note, func(l *Lick, n *Note) error {
		from, _ := l.Column(e.Note)
		d := n.Len
		if e.Close {
			var end Time
			for _, m := range l.Notes[:from] {
				end = Later(end, m.End())
			}
			if !end.Before(n.At) {
				return errors.New("there is no rest before this note")
			}
			d = end.Sub(n.At)
		}
		l.shift(from, d)
		return nil
	})
}

// What implements Edit.
func (e Rest) What() string {
	if e.Close {
		return fmt.Sprintf("rest before note %d closed", e.Note+1)
	}
	return fmt.Sprintf("rest before note %d", e.Note+1)
}

// Swap exchanges the column of note Note with the next one, or with the one before it. Each
// takes its own time up to the next column along, so that what follows stays where it was.
type Swap struct {
	Note    int
	Earlier bool
}

// Apply implements Edit.
func (e Swap) Apply(l Lick) (Lick, error) {
	return editNote(l, e.Note, func(l *Lick, n *Note) error {
		from, to := l.Column(e.Note)
		if e.Earlier {
			if from == 0 {
				return errors.New("this is the first note")
			}
			to = from
			from, _ = l.Column(from - 1)
		}
		if to >= len(l.Notes) {
			return errors.New("this is the last note")
		}
		_, end := l.Column(to)
		first, second := l.step(from), l.step(to)
		for i := from; i < to; i++ {
			l.Notes[i].At = l.Notes[i].At.Add(second)
		}
		for i := to; i < end; i++ {
			l.Notes[i].At = l.Notes[i].At.Sub(first)
		}
		return nil
	})
}

// What implements Edit.
func (e Swap) What() string { return fmt.Sprintf("note %d moved", e.Note+1) }
