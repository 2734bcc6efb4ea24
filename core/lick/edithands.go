package lick

import (
	"fmt"
	"slices"
	"strings"

	"ornamen/core/text"
)

// SetFinger locks a finger, or with NoFinger leaves it open again.
type SetFinger struct {
	Note   int
	Finger Finger
}

// Apply implements Edit.
func (e SetFinger) Apply(l Lick) (Lick, error) {
	return editNote(l, e.Note, func(l *Lick, n *Note) error {
		n.Finger = e.Finger
		n.set(FieldFinger, e.Finger != NoFinger)
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

// SetStroke locks a stroke, or with "" leaves it open again. A slurred note is picked from then on.
type SetStroke struct {
	Note   int
	Stroke Stroke
}

// Apply implements Edit.
func (e SetStroke) Apply(l Lick) (Lick, error) {
	return editNote(l, e.Note, func(l *Lick, n *Note) error {
		if e.Stroke != "" && n.Slur.Slurred() {
			n.Slur = ""
			n.set(FieldSlur, false)
		}
		n.Stroke = e.Stroke
		n.set(FieldStroke, e.Stroke != "")
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
	return editNote(l, e.Note, func(l *Lick, n *Note) error {
		n.Slur = e.Slur
		n.set(FieldSlur, e.Slur != "")
		if e.Slur.Slurred() {
			n.Stroke = ""
			n.set(FieldStroke, false)
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
	return editNote(l, e.Note, func(l *Lick, n *Note) error {
		n.Bend = e.Bend
		n.set(FieldBend, e.Bend != nil)
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
	return editNote(l, e.Note, func(l *Lick, n *Note) error {
		n.Vibrato = e.Vibrato
		n.set(FieldVibrato, e.Vibrato != nil)
		return nil
	})
}

// What implements Edit.
func (e SetVibrato) What() string {
	if e.Vibrato == nil {
		return fmt.Sprintf("no vibrato on note %d", e.Note+1)
	}
	return fmt.Sprintf("vibrato on note %d", e.Note+1)
}

// SetSlideIn sets from how far away a note is slid into; nil takes it away.
type SetSlideIn struct {
	Note    int
	SlideIn *SlideIn
}

// Apply implements Edit.
func (e SetSlideIn) Apply(l Lick) (Lick, error) {
	return editNote(l, e.Note, func(l *Lick, n *Note) error {
		n.SlideIn = e.SlideIn
		return nil
	})
}

// What implements Edit.
func (e SetSlideIn) What() string { return fmt.Sprintf("slide into note %d", e.Note+1) }

// SetMark gives a note a mark or takes it away: accent, mute, palm, ghost, rake or barre. A ghost note is no accent.
type SetMark struct {
	Note int
	Mark Mark
	On   bool
}

// Apply implements Edit.
func (e SetMark) Apply(l Lick) (Lick, error) {
	return editNote(l, e.Note, func(l *Lick, n *Note) error {
		m := n.mark(e.Mark)
		if m == nil {
			return fmt.Errorf("mark %q is none: use accent, mute, palm, ghost, rake or bar",
				text.Clip(string(e.Mark), 40))
		}
		if *m = e.On; e.On && e.Mark == MarkGhost {
			n.Accent = false
		} else if e.On && e.Mark == MarkAccent {
			n.Ghost = false
		}
		return nil
	})
}

// mark is where a note holds a mark; nil if there is no such mark.
func (n *Note) mark(m Mark) *bool {
	return map[Mark]*bool{MarkAccent: &n.Accent, MarkMute: &n.Mute, MarkPalm: &n.Palm, MarkGhost: &n.Ghost,
		MarkRake: &n.Rake, MarkBarre: &n.Barre}[m]
}

// Marked says whether a note has a mark.
func (n Note) Marked(m Mark) bool { on := n.mark(m); return on != nil && *on }

// What implements Edit.
func (e SetMark) What() string {
	if !e.On {
		return fmt.Sprintf("no %s on note %d", e.Mark, e.Note+1)
	}
	return fmt.Sprintf("%s on note %d", e.Mark, e.Note+1)
}

// SetMeant marks a finding of a note as wanted, or takes the mark away.
type SetMeant struct {
	Note  int
	Code  Code
	Meant bool
}

// Apply implements Edit.
func (e SetMeant) Apply(l Lick) (Lick, error) {
	return editNote(l, e.Note, func(l *Lick, n *Note) error {
		n.Meant = slices.DeleteFunc(n.Meant, func(c Code) bool { return c == e.Code })
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

// assign sets a field of the lick where the edit names a value.
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
	}{{e.Title != nil, "title"}, {e.Tags != nil, "tags"}, {e.Key != nil, "tones"}, {e.Tempo != nil, "tempo"},
		{e.Meter != nil, "meter"},
		{e.Feel != nil, "feel"}, {e.Pickup != nil, "pick-up"}, {e.Loop != nil, "loop"}} {
		if p.set {
			parts = append(parts, p.name)
		}
	}
	return strings.Join(parts, ", ")
}

// Replace takes a whole lick in, such as a fix or a proposal. What was there is left out of it
// altogether: the caller has based it on the lick that is replaced.
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

// All makes several edits one.
type All struct {
	Edits []Edit
	Why   string
}

// Apply implements Edit.
func (e All) Apply(l Lick) (Lick, error) {
	out := l
	for _, x := range e.Edits {
		var err error
		if out, err = x.Apply(out); err != nil {
			return l, err
		}
	}
	return out, nil
}

// What implements Edit.
func (e All) What() string { return e.Why }

// OpenHands leaves every finger and stroke open that the player has not locked.
type OpenHands struct{}

// Apply implements Edit.
func (OpenHands) Apply(l Lick) (Lick, error) {
	return revise(l, func(l *Lick) error {
		for i := range l.Notes {
			n := &l.Notes[i]
			if !n.Locked(FieldFinger) {
				n.Finger = NoFinger
			}
			if !n.Locked(FieldStroke) {
				n.Stroke = ""
			}
		}
		return nil
	})
}

// What implements Edit.
func (OpenHands) What() string { return "hands proposed anew" }
