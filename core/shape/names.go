package shape

import (
	"fmt"
	"maps"
	"slices"

	"ornamen/core/music"
	"ornamen/core/neck"
)

// Numbering says from which root positions are counted.
type Numbering string

// The numberings. Both are shown; a setting chooses the first.
const (
	FromMinor Numbering = "minor"
	FromMajor Numbering = "major"
)

// Position names a box or a position of the scale.
type Position struct {
	Minor, Major int    // box number counted from the minor root and from the major root, 0 where there is none
	Degree       string // the tone it starts on
	Mode         string // the mode that begins on that tone, of seven tones that have one; "" for none
	RootString   int    // the thickest string that holds a root, 0 for none
	ChordShape   string // E, D, C, A or G: the open chord whose shape the roots outline, "" for none
}

// PositionOf names the position that a layout takes from a place.
func PositionOf(g neck.Guitar, p music.Palette, layout Layout, placed []Placed) Position {
	var pos Position
	var lowest *Placed
	_, isBox := layout.(box)
	core := coreTones(p)
	for i, t := range placed {
		if t.Tone.Role == music.Colour || isBox && !core[t.Tone.Degree.Semitones()] {
			continue
		}
		if lowest == nil || t.Pitch < lowest.Pitch {
			lowest = &placed[i]
		}
		if t.Tone.Role == music.Root && t.Place.String > pos.RootString {
			pos.RootString = t.Place.String
		}
	}
	if lowest == nil {
		return pos
	}
	pos.Degree, pos.Mode = lowest.Tone.Degree.Pretty(), modeFrom(p, lowest.Tone.Degree)
	if isBox {
		pos.Minor, pos.Major = boxNumbers(p, lowest.Tone, lowest.Place.String, len(g.Tuning))
		pos.ChordShape = chordShape(g, placed)
	}
	return pos
}

// modes are the modes of the major scale by the steps of their tones above the first, by which players name the seven
// shapes of such a scale (common practice).
var modes = map[[7]int]string{
	{0, 2, 4, 5, 7, 9, 11}: "ionian",
	{0, 2, 3, 5, 7, 9, 10}: "dorian",
	{0, 1, 3, 5, 7, 8, 10}: "phrygian",
	{0, 2, 4, 6, 7, 9, 11}: "lydian",
	{0, 2, 4, 5, 7, 9, 10}: "mixolydian",
	{0, 2, 3, 5, 7, 8, 10}: "aeolian",
	{0, 1, 3, 5, 6, 8, 10}: "locrian",
}

// modeFrom names the mode that a palette's scale is from one of its tones on. As an example, A natural minor from its
// ♭3 is ionian. Colour notes do not count; a scale of another number of tones has none.
func modeFrom(p music.Palette, from music.Degree) string {
	var steps []int
	for _, t := range p.Tones {
		if t.Role != music.Colour {
			steps = append(steps, (t.Degree.Semitones()-from.Semitones()+24)%12)
		}
	}
	slices.Sort(steps)
	if len(steps) != 7 {
		return ""
	}
	return modes[[7]int(steps)]
}

// openShapes are the strings of the two lowest roots of the five movable chord
// shapes of the open position (common practice, six strings).
var openShapes = map[[2]int]string{{6, 4}: "E", {4, 2}: "D", {5, 2}: "C", {5, 3}: "A", {6, 3}: "G"}

// chordShape names the open chord whose roots lie on the same strings, on six strings.
func chordShape(g neck.Guitar, placed []Placed) string {
	if len(g.Tuning) != 6 {
		return ""
	}
	var strs []int
	for _, t := range placed {
		if t.Tone.Role == music.Root && !slices.Contains(strs, t.Place.String) {
			strs = append(strs, t.Place.String)
		}
	}
	slices.SortFunc(strs, thickFirst)
	if len(strs) < 2 {
		return ""
	}
	return openShapes[[2]int{strs[0], strs[1]}]
}

// thickFirst orders strings from the thickest to the thinnest.
func thickFirst(a, b int) int { return b - a }

// Symmetry says in a few words how a shape repeats, "" where it does not. Strings are compared
// in pairs from the thick one by the distances of their frets. In fourths every scale would
// repeat on every string; here the third between strings 3 and 2 breaks what does.
func Symmetry(placed []Placed) string {
	rows := map[int][]int{}
	for _, t := range placed {
		if t.Tone.Role != music.Colour {
			rows[t.Place.String] = append(rows[t.Place.String], t.Place.Fret)
		}
	}
	strs := slices.SortedFunc(maps.Keys(rows), thickFirst)
	if len(strs) < 4 || len(strs)%2 != 0 {
		return ""
	}
	form := func(s int) string {
		row := slices.Sorted(slices.Values(rows[s]))
		out := ""
		for _, f := range row {
			out += fmt.Sprint(f-row[0], " ")
		}
		return out
	}
	each, pairs, twins := true, true, true
	for i := 0; i < len(strs); i += 2 {
		a, b := form(strs[i]), form(strs[i+1])
		each = each && a == form(strs[0]) && b == a
		twins = twins && a == b
		pairs = pairs && a == form(strs[0]) && b == form(strs[1])
	}
	switch {
	case each:
		return "the same shape on every string"
	case pairs:
		return "the same shape on each pair of strings"
	case twins:
		return "two strings at a time share a shape"
	}
	return ""
}
