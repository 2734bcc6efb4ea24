package shape

import (
	"cmp"
	"fmt"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// Along goes so many chosen tones up a string, down where by is negative. ok is false where the neck ends first. From a
// tone outside the palette the first step is the next tone that is in it.
func Along(g neck.Guitar, p music.Palette, at neck.Place, by int) (fret int, ok bool) {
	at, ok = along(g, at, by, chosen(g, p))
	return at.Fret, ok
}

// chosen says of places whether a palette has their tones.
func chosen(g neck.Guitar, p music.Palette) func(neck.Place) bool {
	return func(at neck.Place) bool { return p.At(g.Pitch(at)).Role != music.Outside }
}

// along is the place so many of the places that count farther on its string; ok is false where the neck ends first.
func along(g neck.Guitar, at neck.Place, by int, counts func(neck.Place) bool) (to neck.Place, ok bool) {
	way := cmp.Compare(by, 0)
	for by != 0 {
		if at.Fret += way; !g.Has(at) {
			return at, false
		}
		if counts(at) {
			by -= way
		}
	}
	return at, true
}

// Between counts the chosen tones from a place to a fret of its string, negative on the way down.
func Between(g neck.Guitar, p music.Palette, from neck.Place, fret int) int {
	return between(from, fret, chosen(g, p))
}

// between counts the places that count from one to a fret of its string, negative on the way down.
func between(from neck.Place, fret int, counts func(neck.Place) bool) (n int) {
	if fret < from.Fret {
		return -between(neck.Place{String: from.String, Fret: fret}, from.Fret, counts)
	}
	for from.Fret++; from.Fret <= fret; from.Fret++ {
		if counts(from) {
			n++
		}
	}
	return n
}

// Mirror keeps the contour of notes in playing order and turns every slide round: the hand goes down where it went up.
// The first note begins so many chosen tones higher. An error names the note that is not on the neck.
//
// What a slide carried the hand up, it carries down now: from the slide on every note lies twice that way lower than it
// would have. Notes are changed in place, and on an error some of them are.
//
// Worked example: on a string with the tones 5 7 8, 5 7h 8s mirrored from one tone higher is 7
// 8h 7s: played one after the other the two are a loop.
func Mirror(g neck.Guitar, p music.Palette, notes []*lick.Note, higher int) error {
	before := map[int]int{} // the fret last played on a string
	for i, n := range notes {
		if from, was := before[n.String]; was && slides(notes, i) {
			higher -= 2 * Between(g, p, neck.Place{String: n.String, Fret: from}, n.Fret)
		}
		before[n.String] = n.Fret
		fret, ok := Along(g, p, n.Place(), higher)
		if !ok {
			return fmt.Errorf("mirrored, note %s of this line is not on the neck", n.Place().Notation())
		}
		n.Fret = fret
		if fret == 0 {
			n.Bend, n.Vibrato = nil, nil
		}
	}
	return nil
}

// Slid is how many chosen tones up the slides of a line carry the hand; ok is false for a line without a slide.
func Slid(g neck.Guitar, p music.Palette, notes []*lick.Note) (by int, ok bool) {
	before := map[int]int{}
	for i, n := range notes {
		if from, was := before[n.String]; was && slides(notes, i) {
			by, ok = by+Between(g, p, neck.Place{String: n.String, Fret: from}, n.Fret), true
		}
		before[n.String] = n.Fret
	}
	return by, ok
}

// slides says whether note i carries the hand along: of notes that sound together the first one speaks for all.
func slides(notes []*lick.Note, i int) bool {
	n := notes[i]
	return (n.Slur == lick.Slide || n.Slur == lick.Shift) && (i == 0 || notes[i-1].At.Cmp(n.At) != 0)
}
