package lick

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"ornamen/core/neck"
)

// Edit is one change of a lick. Apply never touches its argument and gives a
// valid lick or an error of one sentence. What says it in a few words, for the
// history.
type Edit interface {
	Apply(l Lick) (Lick, error)
	What() string
}

// change copies l, lets f alter note i, and checks the result.
func change(l Lick, i int, f func(l *Lick, n *Note) error) (Lick, error) {
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
func (n *Note) set(field string, locked bool) {
	has := n.Locked(field)
	switch {
	case locked && !has:
		n.Lock = append(n.Lock, field)
	case !locked && has:
		n.Lock = slices.DeleteFunc(n.Lock, func(f string) bool { return f == field })
	}
}

// column is the range of notes that start with note i.
func (l Lick) column(i int) (from, to int) {
	for _, c := range l.Columns() {
		if i >= c[0] && i < c[1] {
			return c[0], c[1]
		}
	}
	return i, i + 1
}

// step is the time from note i's column to the next one, or to its end.
func (l Lick) step(i int) Time {
	from, to := l.column(i)
	if to < len(l.Notes) {
		return l.Notes[to].At.Sub(l.Notes[from].At)
	}
	end := l.Notes[from].End()
	for _, n := range l.Notes[from:to] {
		if end.Before(n.End()) {
			end = n.End()
		}
	}
	return end.Sub(l.Notes[from].At)
}

// shift moves every note from index i on by d.
func (l *Lick) shift(i int, d Time) {
	for k := i; k < len(l.Notes); k++ {
		l.Notes[k].At = l.Notes[k].At.Add(d)
	}
}

// Move puts note Note at another place. A finger or stroke that the player has
// not locked is decided anew.
type Move struct {
	Note  int
	Place neck.Place
}

// Apply implements Edit.
func (e Move) Apply(l Lick) (Lick, error) {
	return change(l, e.Note, func(l *Lick, n *Note) error {
		n.String, n.Fret = e.Place.String, e.Place.Fret
		if !n.Locked("finger") || n.Fret == 0 {
			n.Finger = NoFinger
			n.set("finger", false)
		}
		return nil
	})
}

// What implements Edit.
func (e Move) What() string { return fmt.Sprintf("note %d to %s", e.Note+1, e.Place.Notation()) }

// Insert puts a new note after note After (−1: before the first); what follows
// moves later.
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
			from, to := l.column(e.After)
			at, next = l.Notes[from].At.Add(l.step(e.After)), to
		}
		l.shift(next, e.Len)
		l.Notes = slices.Insert(l.Notes, next, Note{At: at, Len: e.Len, String: e.Place.String, Fret: e.Place.Fret})
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
	return change(l, e.Note, func(l *Lick, n *Note) error {
		from, to := l.column(e.Note)
		for i, m := range l.Notes[from:to] {
			if m.String == e.Place.String {
				return fmt.Errorf("note %d is on string %d already", from+i+1, m.String)
			}
		}
		l.Notes = append(l.Notes, Note{At: n.At, Len: n.Len, String: e.Place.String, Fret: e.Place.Fret})
		return nil
	})
}

// What implements Edit.
func (e Add) What() string {
	return fmt.Sprintf("%s together with note %d", e.Place.Notation(), e.Note+1)
}

// Remove takes a note out. If nothing else starts with it, what follows moves up.
type Remove struct{ Note int }

// Apply implements Edit.
func (e Remove) Apply(l Lick) (Lick, error) {
	return change(l, e.Note, func(l *Lick, n *Note) error {
		from, to := l.column(e.Note)
		step := l.step(e.Note)
		l.Notes = slices.Delete(l.Notes, e.Note, e.Note+1)
		if to-from == 1 {
			l.shift(from, Time{}.Sub(step))
		}
		return nil
	})
}

// What implements Edit.
func (e Remove) What() string { return fmt.Sprintf("note %d removed", e.Note+1) }

// Length sets the length of the notes that start with Note; what follows moves.
type Length struct {
	Note int
	Len  Time
}

// Apply implements Edit.
func (e Length) Apply(l Lick) (Lick, error) {
	return change(l, e.Note, func(l *Lick, n *Note) error {
		from, to := l.column(e.Note)
		d := e.Len.Sub(n.Len)
		for i := from; i < to; i++ {
			l.Notes[i].Len = e.Len
		}
		l.shift(to, d)
		return nil
	})
}

// What implements Edit.
func (e Length) What() string { return fmt.Sprintf("note %d lasts %s", e.Note+1, e.Len) }

// Rest opens a rest before note Note as long as the note; with Close it closes
// the rest that is there.
type Rest struct {
	Note  int
	Close bool
}

// Apply implements Edit.
func (e Rest) Apply(l Lick) (Lick, error) {
	return change(l, e.Note, func(l *Lick, n *Note) error {
		from, _ := l.column(e.Note)
		d := n.Len
		if e.Close {
			var end Time
			for _, m := range l.Notes[:from] {
				if end.Before(m.End()) {
					end = m.End()
				}
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

// Swap exchanges the column of note Note with the next one, or with the one
// before it.
type Swap struct {
	Note    int
	Earlier bool
}

// Apply implements Edit.
func (e Swap) Apply(l Lick) (Lick, error) {
	return change(l, e.Note, func(l *Lick, n *Note) error {
		from, to := l.column(e.Note)
		if e.Earlier {
			if from == 0 {
				return errors.New("this is the first note")
			}
			to = from
			from, _ = l.column(from - 1)
		}
		if to >= len(l.Notes) {
			return errors.New("this is the last note")
		}
		_, end := l.column(to)
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

// SetFinger locks a finger, or with NoFinger leaves it open again.
type SetFinger struct {
	Note   int
	Finger Finger
}

// Apply implements Edit.
func (e SetFinger) Apply(l Lick) (Lick, error) {
	return change(l, e.Note, func(l *Lick, n *Note) error {
		n.Finger = e.Finger
		n.set("finger", e.Finger != NoFinger)
		return nil
	})
}

// What implements Edit.
func (e SetFinger) What() string {
	if e.Finger == NoFinger {
		return fmt.Sprintf("finger of note %d left open", e.Note+1)
	}
	return fmt.Sprintf("finger %s on note %d", e.Finger, e.Note+1)
}

// SetStroke locks a stroke, or with "" leaves it open again. A slurred note is
// picked from then on.
type SetStroke struct {
	Note   int
	Stroke Stroke
}

// Apply implements Edit.
func (e SetStroke) Apply(l Lick) (Lick, error) {
	return change(l, e.Note, func(l *Lick, n *Note) error {
		if e.Stroke != "" && n.Slur.Slurred() {
			n.Slur = ""
			n.set("slur", false)
		}
		n.Stroke = e.Stroke
		n.set("stroke", e.Stroke != "")
		return nil
	})
}

// What implements Edit.
func (e SetStroke) What() string {
	if e.Stroke == "" {
		return fmt.Sprintf("stroke of note %d left open", e.Note+1)
	}
	return fmt.Sprintf("note %d %s", e.Note+1, e.Stroke)
}

// SetSlur locks how a note is reached; "" picks it.
type SetSlur struct {
	Note int
	Slur Slur
}

// Apply implements Edit.
func (e SetSlur) Apply(l Lick) (Lick, error) {
	return change(l, e.Note, func(l *Lick, n *Note) error {
		n.Slur = e.Slur
		n.set("slur", e.Slur != "")
		if e.Slur.Slurred() {
			n.Stroke = ""
			n.set("stroke", false)
		}
		return nil
	})
}

// What implements Edit.
func (e SetSlur) What() string {
	if e.Slur == "" {
		return fmt.Sprintf("note %d picked", e.Note+1)
	}
	return fmt.Sprintf("%s to note %d", e.Slur, e.Note+1)
}

// SetBend locks a bend; nil takes it away.
type SetBend struct {
	Note int
	Bend *Bend
}

// Apply implements Edit.
func (e SetBend) Apply(l Lick) (Lick, error) {
	return change(l, e.Note, func(l *Lick, n *Note) error {
		n.Bend = e.Bend
		n.set("bend", e.Bend != nil)
		return nil
	})
}

// What implements Edit.
func (e SetBend) What() string {
	if e.Bend == nil {
		return fmt.Sprintf("note %d not bent", e.Note+1)
	}
	return fmt.Sprintf("note %d bent", e.Note+1)
}

// SetVibrato locks a vibrato; nil takes it away.
type SetVibrato struct {
	Note    int
	Vibrato *Vibrato
}

// Apply implements Edit.
func (e SetVibrato) Apply(l Lick) (Lick, error) {
	return change(l, e.Note, func(l *Lick, n *Note) error {
		n.Vibrato = e.Vibrato
		n.set("vibrato", e.Vibrato != nil)
		return nil
	})
}

// What implements Edit.
func (e SetVibrato) What() string { return fmt.Sprintf("vibrato on note %d", e.Note+1) }

// SetSlideIn sets from how far away a note is slid into; nil takes it away.
type SetSlideIn struct {
	Note    int
	SlideIn *SlideIn
}

// Apply implements Edit.
func (e SetSlideIn) Apply(l Lick) (Lick, error) {
	return change(l, e.Note, func(l *Lick, n *Note) error {
		n.SlideIn = e.SlideIn
		return nil
	})
}

// What implements Edit.
func (e SetSlideIn) What() string { return fmt.Sprintf("slide into note %d", e.Note+1) }

// Toggle turns one of a note's marks on or off: accent, mute, rake or bar.
type Toggle struct {
	Note int
	Mark string
}

// Apply implements Edit.
func (e Toggle) Apply(l Lick) (Lick, error) {
	return change(l, e.Note, func(l *Lick, n *Note) error {
		marks := map[string]*bool{"accent": &n.Accent, "mute": &n.Mute, "rake": &n.Rake, "bar": &n.Bar}
		m, ok := marks[e.Mark]
		if !ok {
			return fmt.Errorf("mark %q is none: use accent, mute, rake or bar", clip(e.Mark))
		}
		*m = !*m
		return nil
	})
}

// What implements Edit.
func (e Toggle) What() string { return fmt.Sprintf("%s on note %d", e.Mark, e.Note+1) }

// SetMeant marks a finding of a note as wanted, or takes the mark away.
type SetMeant struct {
	Note  int
	Code  string
	Meant bool
}

// Apply implements Edit.
func (e SetMeant) Apply(l Lick) (Lick, error) {
	return change(l, e.Note, func(l *Lick, n *Note) error {
		n.Meant = slices.DeleteFunc(n.Meant, func(c string) bool { return c == e.Code })
		if e.Meant {
			n.Meant = append(n.Meant, e.Code)
		}
		return nil
	})
}

// What implements Edit.
func (e SetMeant) What() string { return fmt.Sprintf("%s on note %d meant", e.Code, e.Note+1) }

// Setting changes the lick around the notes. Nil fields stay.
type Setting struct {
	Title  *string
	Tags   *[]string
	Key    *Key
	Tempo  *float64
	Meter  *Meter
	Feel   *Feel
	Pickup *Time
	Loop   *bool
}

// Apply implements Edit.
func (e Setting) Apply(l Lick) (Lick, error) {
	return revise(l, func(l *Lick) error {
		assign(&l.Title, e.Title)
		assign(&l.Tags, e.Tags)
		assign(&l.Key, e.Key)
		assign(&l.Tempo, e.Tempo)
		assign(&l.Meter, e.Meter)
		assign(&l.Feel, e.Feel)
		assign(&l.Pickup, e.Pickup)
		assign(&l.Loop, e.Loop)
		return nil
	})
}

func assign[T any](to *T, from *T) {
	if from != nil {
		*to = *from
	}
}

// What implements Edit.
func (e Setting) What() string {
	var parts []string
	for _, p := range []struct {
		set  bool
		name string
	}{{e.Title != nil, "title"}, {e.Tags != nil, "tags"}, {e.Key != nil, "tones"}, {e.Tempo != nil, "tempo"}, {e.Meter != nil, "meter"},
		{e.Feel != nil, "feel"}, {e.Pickup != nil, "pick-up"}, {e.Loop != nil, "loop"}} {
		if p.set {
			parts = append(parts, p.name)
		}
	}
	return strings.Join(parts, ", ")
}

// Replace takes a whole lick in, such as a fix or a proposal.
type Replace struct {
	Lick Lick
	Why  string
}

// Apply implements Edit.
func (e Replace) Apply(Lick) (Lick, error) {
	return revise(e.Lick, func(*Lick) error { return nil })
}

// What implements Edit.
func (e Replace) What() string { return e.Why }

// OpenHands leaves every finger and stroke open that the player has not locked.
type OpenHands struct{}

// Apply implements Edit.
func (OpenHands) Apply(l Lick) (Lick, error) {
	return revise(l, func(l *Lick) error {
		for i := range l.Notes {
			n := &l.Notes[i]
			if !n.Locked("finger") {
				n.Finger = NoFinger
			}
			if !n.Locked("stroke") {
				n.Stroke = ""
			}
		}
		return nil
	})
}

// What implements Edit.
func (OpenHands) What() string { return "hands proposed anew" }
