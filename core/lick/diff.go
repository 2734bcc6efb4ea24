package lick

import "slices"

// Difference is what changed between two licks with the same number of notes. Notes are indices.
type Difference struct {
	Places []int  // other places, times or lengths
	Hands  []int  // other fingers, strokes or slurs
	Marks  []int  // other bends, vibratos, accents and the like
	Counts [2]int // how many notes each has; with different counts nothing else is said
}

// Diff compares two licks note by note, whoever set what.
// A note is in the first list that fits it: one that moved is not listed for its finger too.
func Diff(a, b Lick) Difference {
	d := Difference{Counts: [2]int{len(a.Notes), len(b.Notes)}}
	if len(a.Notes) != len(b.Notes) {
		return d
	}
	for i := range a.Notes {
		x, y := a.Notes[i], b.Notes[i]
		switch {
		case x.Place() != y.Place() || x.At.Cmp(y.At) != 0 || x.Len.Cmp(y.Len) != 0:
			d.Places = append(d.Places, i)
		case x.Finger != y.Finger || x.Stroke != y.Stroke || x.Slur != y.Slur:
			d.Hands = append(d.Hands, i)
		case !sameMarks(x, y):
			d.Marks = append(d.Marks, i)
		}
	}
	return d
}

// SamePlaces says whether two lines are fretted alike, note for note.
func SamePlaces(a, b []Note) bool {
	return slices.EqualFunc(a, b, func(a, b Note) bool { return a.Place() == b.Place() })
}

// sameMarks compares what a note has beside its place, time and hands.
func sameMarks(x, y Note) bool {
	return same(x.Vibrato, y.Vibrato) && same(x.SlideIn, y.SlideIn) && sameBend(x.Bend, y.Bend) &&
		x.Accent == y.Accent && x.Mute == y.Mute && x.Palm == y.Palm && x.Ghost == y.Ghost &&
		x.Rake == y.Rake && x.Barre == y.Barre
}

// same compares what two pointers point at; nil equals nil alone.
func same[T comparable](a, b *T) bool { return a == b || a != nil && b != nil && *a == *b }

// sameBend compares bends with their helpers, in order.
func sameBend(a, b *Bend) bool {
	return a == b ||
		a != nil && b != nil && a.Semitones == b.Semitones && a.Shape == b.Shape && a.Push == b.Push &&
			slices.Equal(a.With, b.With)
}
