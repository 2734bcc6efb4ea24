// Package figure knows what players see in a line beside single moves: figures, which have one hand wherever they
// lie. A string's three tones have the fingers of their shape, whatever the next string asks; a line along one string
// goes by positions; a cell keeps its own; octaves and pairs are shapes; a few notes that one position holds have a
// finger a fret.
//
// It knows places alone, no hand and no time; what departs from a figure's fingers costs much or is impossible for
// reasons of the hand, which package hand decides. Each line is read once, in time that grows with its length.
package figure

import (
	"slices"

	"ornamen/core/neck"
)

// Note is a note of a line as its figures see it.
type Note struct {
	Place   neck.Place
	Pressed bool   // a finger presses it, not the thumb
	Plain   bool   // struck by itself: not slurred into, held or bent
	Led     bool   // the hand is led into it, by a slide or a shift
	Mark    string // how it is played beside that, which cells that are alike share
}

// Usual are the fingers that a note's figures give it, 1 for the index to 4, 0 for none.
type Usual struct {
	OnString   int // by the shape of the three tones that its string has
	Along      int // along one string: by its position, or by its cell that comes back
	InPosition int // by its place in the position that holds all notes around it
	ByShape    int // by the shape of octaves or of notes together

	Own  bool      // the player's own fingers, by a habit
	at   situation // whose figure gives them, where a habit may
	tone int       // which of its tones this is
}

// Of is whose fingers they are.
type Of struct {
	LongScale bool // three fingers take the first frets, as on a bass
	Habits    Habits
}

// How far around a note its figures are looked for (model defaults).
const (
	StringReach   = 8 // notes to either side that may lie on its string
	StringFrets   = 5 // as long as the hand stays within so many
	CellFrets     = 4 // or, in a cell that keeps its own hand, so many
	PositionReach = 6 // notes to either side that one position holds
	PositionFrets = 4 // a finger a fret

	AlongLeast   = 5 // notes that go one way along a string by positions
	PositionSpan = 4 // frets from such a position's lowest to its highest: one finger stretches
	CellLeast    = 3 // notes of a cell that comes back along a string
	CellMost     = 6

	LongFrets = 4 // the first frets of a long scale, which 1 2 4 play
)

// Fingers are the usual fingers of a line, by column and note: a column is what sounds at one time,
// the thickest string first.
func Fingers(columns [][]Note, whose Of) [][]Usual { return fingers(columns, whose, StringFrets) }

// InCell are the usual fingers of a cell by itself, whatever lies around it. Where no position holds it, two tones of a
// string have the fingers of their distance.
func InCell(columns [][]Note, whose Of) [][]Usual {
	out := fingers(columns, whose, CellFrets)
	line := singles(columns)
	for k, n := range line {
		if !n.is || out[k][0] != (Usual{}) {
			continue
		}
		var tones []int
		for _, o := range line {
			if o.is && o.Place.String == n.Place.String {
				tones = with(tones, o.Place.Fret)
			}
		}
		if len(tones) == 2 {
			out[k][0].InPosition = ofTones(tones, n.Place.Fret)
		}
	}
	return out
}

// fingers are the usual ones, a string's own tones being those that the hand plays within so many frets.
func fingers(columns [][]Note, whose Of, frets int) [][]Usual {
	out := make([][]Usual, len(columns))
	for k, c := range columns {
		out[k] = make([]Usual, len(c))
	}
	line := singles(columns)
	stretches(line, func(from, to int) { onString(line, out, from, to, frets) })
	for k, n := range line {
		if n.is {
			out[k][0].InPosition = inPosition(line, k)
			if f := out[k][0].InPosition; f > 1 && out[k][0].OnString == 0 {
				out[k][0].at, out[k][0].tone = situation{"fret", f - 1, 0}, 0
			}
		}
	}
	if whose.LongScale {
		for k, n := range line {
			if n.is {
				firstFrets(line, out, k)
			}
		}
	}
	octaves(line, out)
	together(columns, out)
	if own := whose.Habits.table(); len(own) > 0 {
		for k := range out {
			for i := range out[k] {
				out[k][i].take(own)
			}
		}
	}
	return out
}

// single is a note that sounds alone and is pressed, where there is one.
type single struct {
	Note
	is bool
}

// singles are the columns of a line that are one pressed note.
func singles(columns [][]Note) []single {
	line := make([]single, len(columns))
	for k, c := range columns {
		if len(c) == 1 && c[0].Pressed {
			line[k] = single{c[0], true}
		}
	}
	return line
}

// stretches calls f for each unbroken stretch of single notes on one string. Where the hand is led along the string
// into a note, another begins: what comes after a slide has a shape of its own.
func stretches(line []single, f func(from, to int)) {
	for from := 0; from < len(line); {
		to := from + 1
		for to < len(line) && line[to].is && line[to].Place.String == line[from].Place.String &&
			!line[to].Led {
			to++
		}
		if line[from].is {
			f(from, to)
		}
		from = to
	}
}

// inPosition is the finger of note k where the notes around it all lie within a finger a fret: the
// index keeps the lowest fret and each finger its own.
func inPosition(line []single, k int) int {
	low, high := around(line, k)
	if high-low >= PositionFrets {
		return 0
	}
	return line[k].Place.Fret - low + 1
}

// around are the lowest and the highest fret pressed among the notes around note k.
func around(line []single, k int) (low, high int) {
	low, high = line[k].Place.Fret, line[k].Place.Fret
	for _, n := range line[max(0, k-PositionReach):min(len(line), k+PositionReach+1)] {
		if n.Place.Fret > 0 {
			low, high = min(low, n.Place.Fret), max(high, n.Place.Fret)
		}
	}
	return low, high
}

// firstFrets gives note k of a long scale the fingers 1 2 4 where the notes around it lie within
// three of the first frets, and no finger where they lie within four (common practice).
func firstFrets(line []single, out [][]Usual, k int) {
	low, high := around(line, k)
	if high > LongFrets {
		return
	}
	out[k][0] = Usual{}
	if high-low < 3 {
		f := [3]int{1, 2, 4}[line[k].Place.Fret-low]
		out[k][0] = Usual{OnString: f, InPosition: f}
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
