// Package figure knows what players see in a line beside single moves: figures, which have one
// hand wherever they lie. A string's three tones have the fingers of their shape, whatever the next
// string asks; a few notes that one position holds have a finger a fret.
//
// It knows places alone, no hand and no time; what departs from a figure's fingers is dear or
// impossible for reasons of the hand, which package hand decides. Each line is read once, in time
// that grows with its length.
package figure

import (
	"slices"

	"ornamen/core/neck"
)

// Note is a note of a line as its figures see it.
type Note struct {
	Place neck.Place
	Alone bool // a single note that a finger presses; others belong to grips and take no part
}

// Usual are the fingers that a note's figures give it, 1 for the index to 4, 0 for none.
type Usual struct {
	OnString   int // by the shape of the tones on its string
	InPosition int // by its place in the position that holds all notes around it
}

// How far around a note its figures are looked for (model defaults).
const (
	StringReach   = 8 // notes to either side that may lie on its string
	PositionReach = 6 // notes to either side that one position holds
	PositionFrets = 4 // a finger a fret
)

// shapes are the fingers of three tones on a string by the distances of the upper two from the
// lowest, in frets (common practice).
var shapes = map[[2]int][3]int{
	{1, 2}: {1, 2, 3}, {1, 3}: {1, 2, 4}, {2, 3}: {1, 3, 4}, {2, 4}: {1, 2, 4}, {1, 4}: {1, 2, 4}, {3, 4}: {1, 3, 4},
}

// Fingers are the usual fingers of a line's notes, in their order.
func Fingers(notes []Note) []Usual {
	out := make([]Usual, len(notes))
	for from := 0; from < len(notes); {
		to := from + 1
		for to < len(notes) && notes[to].Alone && notes[to].Place.String == notes[from].Place.String {
			to++
		}
		if notes[from].Alone {
			onString(notes, out, from, to)
		}
		from = to
	}
	for k, n := range notes {
		if n.Alone {
			out[k].InPosition = inPosition(notes, k)
		}
	}
	return out
}

// onString gives the notes [from, to), an unbroken stretch on one string, the fingers of its shape:
// of the stretch's own tones where it has three, else of those that the string has nearby.
func onString(notes []Note, out []Usual, from, to int) {
	var tones []int
	for _, n := range notes[from:to] {
		tones = with(tones, n.Place.Fret)
	}
	for k := from; k < to; k++ {
		near := tones
		if len(near) < 3 {
			near = nil
			for _, n := range notes[max(0, k-StringReach):min(len(notes), k+StringReach+1)] {
				if n.Alone && n.Place.String == notes[k].Place.String {
					near = with(near, n.Place.Fret)
				}
			}
		}
		out[k].OnString = ofShape(near, notes[k].Place.Fret)
	}
}

// with is a set of frets, rising, with one more.
func with(frets []int, fret int) []int {
	at, found := slices.BinarySearch(frets, fret)
	if found {
		return frets
	}
	return slices.Insert(frets, at, fret)
}

// ofShape is the finger of a fret among the three that its string has; 0 where they are not three
// or no usual shape.
func ofShape(frets []int, fret int) int {
	if len(frets) != 3 {
		return 0
	}
	fingers, ok := shapes[[2]int{frets[1] - frets[0], frets[2] - frets[0]}]
	if !ok {
		return 0
	}
	return fingers[slices.Index(frets, fret)]
}

// inPosition is the finger of note k where the notes around it all lie within a finger a fret: the
// index keeps the lowest fret and each finger its own.
func inPosition(notes []Note, k int) int {
	low, high := notes[k].Place.Fret, notes[k].Place.Fret
	for _, n := range notes[max(0, k-PositionReach):min(len(notes), k+PositionReach+1)] {
		if n.Place.Fret > 0 {
			low, high = min(low, n.Place.Fret), max(high, n.Place.Fret)
		}
	}
	if high-low >= PositionFrets {
		return 0
	}
	return notes[k].Place.Fret - low + 1
}
