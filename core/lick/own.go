package lick

import (
	"errors"
	"fmt"
	"maps"
	"regexp"
	"slices"

	"ornamen/core/text"
)

// Hand is what a player sets of a note: the finger, the stroke, and which of the two are set to stay.
type Hand struct {
	Finger Finger  `json:"finger,omitempty"`
	Stroke Stroke  `json:"stroke,omitempty"`
	Lock   LockSet `json:"lock,omitempty"` // of FieldFinger and FieldStroke
}

// equal compares two hands; the order of what is locked says nothing.
func (h Hand) equal(g Hand) bool {
	return h.Finger == g.Finger && h.Stroke == g.Stroke && h.Lock.Has(FieldFinger) == g.Lock.Has(FieldFinger) &&
		h.Lock.Has(FieldStroke) == g.Lock.Has(FieldStroke)
}

// hand is what is set of a note now.
func (n Note) hand() Hand {
	h := Hand{Finger: n.Finger, Stroke: n.Stroke}
	for _, f := range []Field{FieldFinger, FieldStroke} {
		h.Lock = h.Lock.With(f, n.Lock.Has(f))
	}
	return h
}

// take sets a hand in place of the one that is set, as far as the note can have it: a stroke on a note that sounds
// without one is let go, and so is a finger that presses where the string is open now, or the sign of an open string
// where it is not. The note may have been given another place by somebody who does not see this hand.
func (n *Note) take(h Hand) {
	if n.Slur.Slurred() {
		h.Stroke, h.Lock = "", h.Lock.With(FieldStroke, false)
	}
	if n.Fret == 0 && h.Finger.Fretting() || n.Fret > 0 && h.Finger == Open {
		h.Finger, h.Lock = NoFinger, h.Lock.With(FieldFinger, false)
	}
	n.Finger, n.Stroke = h.Finger, h.Stroke
	for _, f := range []Field{FieldFinger, FieldStroke} {
		n.Lock = n.Lock.With(f, h.Lock.Has(f))
	}
}

// seen is what a note that shows a player's hand had before it was edited: what all share, and what was shown.
type seen struct{ shared, shown Hand }

// For is the line with the hands that a player of a notebook has set, by the player's key: where that player has
// none, those that all share. What is edited then goes back by Shared. With no key it is the line as all share it.
//
// As an example, a teacher locks finger 4 on a note and a pupil with a small hand finger 3. The note keeps 4, and in
// Own the pupil's 3; For shows each of them their own, whatever else is edited in between.
func (l Lick) For(key string) Lick {
	if key == "" {
		return l
	}
	l.Notes = slices.Clone(l.Notes)
	for i := range l.Notes {
		n := &l.Notes[i]
		seen := seen{shared: n.hand()}
		if own, ok := n.Own[key]; ok {
			n.take(own)
		}
		seen.shown = n.hand()
		n.seen = &seen
	}
	return l
}

// Shared puts a line that was edited as a player sees it (For) back into the one that all share: what that player
// set otherwise is the player's own. A note that is new has one hand for all.
func (l Lick) Shared(key string) Lick {
	if key == "" {
		return l
	}
	l.Notes = slices.Clone(l.Notes)
	for i := range l.Notes {
		n := &l.Notes[i]
		if n.seen == nil {
			continue
		}
		own, before := n.hand(), *n.seen
		n.seen = nil
		n.take(before.shared)
		if own.equal(before.shown) {
			continue
		}
		n.Own = maps.Clone(n.Own)
		if own.equal(n.hand()) {
			delete(n.Own, key)
			continue
		}
		if n.Own == nil {
			n.Own = map[string]Hand{}
		}
		n.Own[key] = own
	}
	return l
}

// Bare is the line without what single players have set, as it leaves a notebook.
func (l Lick) Bare() Lick {
	l.Notes = slices.Clone(l.Notes)
	for i := range l.Notes {
		l.Notes[i].Own, l.Notes[i].seen = nil, nil
	}
	return l
}

// maxOwn is how many players may have a hand of their own on a note.
const maxOwn = 64

// ownKey is how a player is named in a lick file.
var ownKey = regexp.MustCompile(`^[0-9a-z]{1,32}$`)

// validateOwn says in one sentence what is wrong with the hands of single players.
func (n Note) validateOwn() error {
	if len(n.Own) > maxOwn {
		return fmt.Errorf("more than %d players have fingers of their own on it", maxOwn)
	}
	for key, h := range n.Own {
		if !ownKey.MatchString(key) {
			return fmt.Errorf("%q names no player", text.Clip(key, 40))
		}
		if err := oneOf("stroke", h.Stroke, strokes...); err != nil {
			return err
		}
		for _, f := range h.Lock {
			if f != FieldFinger && f != FieldStroke {
				return errors.New("a player's own are fingers and strokes")
			}
		}
	}
	return nil
}
