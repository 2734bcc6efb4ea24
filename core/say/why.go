package say

import (
	"fmt"
	"strings"

	"ornamen/core/hand"
	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/pick"
	"ornamen/core/text"
)

// Why hands were chosen, and what sets others apart from them. A sentence is put together
// from parts, each of which says one hand.

// Recommended is why the hands that are proposed first are: what each hand does, and how many
// notes lie elsewhere on the neck than they were written.
func Recommended(parts []string, moved int) string {
	text := "Recommended, the least effort: " + strings.Join(parts, "; ")
	if moved > 0 {
		text += fmt.Sprintf("; %s elsewhere on the neck", Count(moved, "note"))
	}
	return text + "."
}

// NoHands is a line that cannot be played at all; why is the text of what breaks first.
func NoHands(why string) string {
	if why == "" {
		why = "see what breaks."
	}
	return "No hands can play all of it at any tempo; this is the closest: " + why
}

// Fastest leads the hands that reach the bound, here or with the places free.
func Fastest(anywhere bool) string {
	if anywhere {
		return "As fast as it can be played anywhere on the neck"
	}
	return "As fast as any hands can play it here"
}

// AsPlaced leads the hands for the places as they stand in the line.
func AsPlaced() string { return "At the places as written" }

// The titles of proposals, in the words of players.

// Recommendation is called so alone.
func Recommendation() string { return "Recommended" }

// AsFast is the proposal that reaches the bound.
func AsFast() string { return "As fast as possible" }

// OneFingering plays a cell alike wherever it comes back.
func OneFingering() string { return "One fingering for every cell" }

// FingerOn is another finger on one note; note counts from 0.
func FingerOn(f lick.Finger, note int) string { return fmt.Sprintf("Finger %s on note %d", f, note+1) }

// SlideElsewhere slides at another place of a legato group.
func SlideElsewhere() string { return "The slide elsewhere" }

// PickedBy is another way of picking.
func PickedBy(w pick.Way) string { return Capital(way(w)) }

// OtherFinger leads hands with one finger changed; note counts from 0.
func OtherFinger(is, was lick.Finger, note int) string {
	return fmt.Sprintf("Finger %s instead of %s on note %d", is, was, note+1)
}

// OtherSlides leads hands in which legato slides elsewhere.
func OtherSlides(slides string) string { return "The slide elsewhere: " + slides }

// way names a way of picking within a sentence.
func way(w pick.Way) string {
	if w == pick.Free {
		return "strokes as they fall"
	}
	return string(w)
}

// OtherWay leads hands that pick another way.
func OtherWay(is, was pick.Way) string { return Capital(way(is)) + " instead of " + way(was) }

// OtherStart leads hands that begin on the other stroke.
func OtherStart(s lick.Stroke) string { return "Starts on " + AStroke(s) }

// SameFingers leads hands that play a cell alike wherever it comes back, with their ceiling
// and that of the recommended ones in whole quarters a minute.
func SameFingers(is, was int) string {
	price := "at no cost"
	switch {
	case is < was:
		price = fmt.Sprintf("%d instead of %d", is, was)
	case is > was:
		price = fmt.Sprintf("%d instead of %d, for more effort", is, was)
	}
	return "The same fingers wherever a cell comes back, " + price
}

// WithoutOwnStrokes leads the strokes of a way that takes the place of those that a cell sets.
func WithoutOwnStrokes() string { return "Instead of the cell's own strokes: " }

// FastHands says of hands that are proposed from a tempo on when the usual ones serve: those are clean up to it.
func FastHands(taught int) string {
	return fmt.Sprintf("These hands are for above %d. Up to there the usual ones lie better.", taught)
}

// WhyNot answers the question that a player would ask at the hardest move: why not the other finger? is and was are the
// ceilings with it and without it in whole quarters a minute, hand what the hand then does, where it is not the same.
func WhyNot(f lick.Finger, note, is, was int, hand string) string {
	what := fmt.Sprintf("Finger %s on note %d would", f, note+1)
	if hand != "" {
		hand = ": " + hand
	}
	switch {
	case is < was:
		return fmt.Sprintf("%s hold it back: clean up to %d.", what, is)
	case is > was:
		return fmt.Sprintf("%s be faster, clean up to %d, for more effort%s.", what, is, hand)
	}
	return fmt.Sprintf("%s do as well up to there, for more effort%s.", what, hand)
}

// handWords are the moves of a hand that a player counts, in the order in which they are listed.
var handWords = []struct {
	kind hand.Kind
	word string
}{
	{hand.Move, "shift"}, {hand.Jump, "jump"}, {hand.Slide, "slide"}, {hand.Shift, "silent shift"},
	{hand.Guided, "guided shift"},
	{hand.Grips, "moved grip"}, {hand.Roll, "roll"},
}

// FrettingHand is what the fretting hand does besides placing fingers: the moves of each kind
// and the widest reach. Without such moves it stays where it is, or, if it stands in several
// frames, every finger comes down from one to the other.
func FrettingHand(kinds map[hand.Kind]int, frames int, reach neck.MM) string {
	var moves []Tally
	for _, k := range handWords {
		moves = append(moves, Tally{kinds[k.kind], k.word})
	}
	widest := fmt.Sprintf("%.0f mm at the widest", reach)
	switch said := Tallies(moves...); {
	case said != "":
		return said + ", reach " + widest
	case frames > 1:
		return "every finger comes down within reach, " + widest
	}
	return "the hand stays where it is"
}

// Strokes is the way of picking of a line that has no name of its own, where strokes sweep and where they do not.
func Strokes(sweeps bool) string {
	if sweeps {
		return "strokes"
	}
	return "strokes in turn"
}

// Slurred counts what is picked and what is slurred: "12 strokes, 3 slurs".
func Slurred(strokes, slurs int) string {
	said := Count(strokes, "stroke")
	if slurs > 0 {
		said += ", " + Count(slurs, "slur")
	}
	return said
}

// PickingHand is how a line is picked, as "economy", with its string changes, as "2 outside",
// and after which strokes the pick leaves a string: "down", "up", "mixed" or "" for none.
func PickingHand(how string, changes []string, exits string) string {
	if len(changes) == 0 {
		return how + " on one string"
	}
	text := how + " with " + strings.Join(changes, ", ")
	switch exits {
	case "down", "up":
		text += ", leaves on " + exits
	case "mixed":
		text += ", leaves on down and up"
	}
	return text
}

// Plucked is a line that no pick plays, with the thumb or without.
func Plucked(thumb bool) string {
	if thumb {
		return "thumb and fingers"
	}
	return "fingers in turn"
}

// Hardest is the move that sets the ceiling: "the hardest move is 6 → 7 and needs 90 of 100 ms".
func Hardest(notes string, need, have float64) string {
	return fmt.Sprintf("the hardest move is %s and needs %.0f of %.0f ms", notes, need, have)
}

// ReachInstead is another widest reach.
func ReachInstead(is, was neck.MM) string {
	return fmt.Sprintf("reach %.0f instead of %.0f mm", is, was)
}

// Against ends what sets hands apart: the parts in a row, or that nothing does but the fingers.
func Against(parts []string) string {
	if len(parts) == 0 {
		return "the same needs, other fingers."
	}
	return strings.Join(parts, "; ") + "."
}

// Notes names the notes of a move, from 0: "6 → 7", or "note 7" where it comes from none.
func Notes(from, to int) string {
	if from < 0 || from == to {
		return fmt.Sprintf("note %d", to+1)
	}
	return fmt.Sprintf("%d → %d", from+1, to+1)
}

// mostSlides is how many slides are named one by one.
const mostSlides = 2

// Slides names the slides of a line: "finger 1 from 3 to 5 on note 2".
func Slides(l lick.Lick) string {
	var parts []string
	for i, n := range l.Notes {
		if j := l.Before(i); n.Slur == lick.Slide && j >= 0 {
			parts = append(parts,
				fmt.Sprintf("finger %s from %d to %d on note %d", n.Finger, l.Notes[j].Fret, n.Fret, i+1))
		}
	}
	if n := len(parts); n > mostSlides {
		parts = append(parts[:mostSlides], fmt.Sprintf("%d more", n-mostSlides))
	}
	return strings.Join(parts, ", ")
}

// AsWritten is a line that stays where it is.
func AsWritten() string { return "As written." }

// Moved is a note, from 0, at another place.
type Moved struct {
	Note  int
	Place neck.Place
}

// Restrung lists the notes that lie elsewhere: "Note 3 on 5:12, note 7 on 3:12."
func Restrung(notes []Moved) string {
	if len(notes) == 0 {
		return AsWritten()
	}
	return Capital(text.Join(notes, ", ", func(m Moved) string {
		return fmt.Sprintf("note %d on %s", m.Note+1, m.Place.Notation())
	})) + "."
}

// Held names what holds a way back, for a table: "inside, 6 → 7".
func Held(what string, from, to int) string { return what + ", " + Notes(from, to) }
