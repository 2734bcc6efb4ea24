package changes

import (
	"slices"

	"ornamen/core/lick"
	"ornamen/core/music"
)

// Resting is where a phrase comes to rest: its last note, or the notes that sound last together. What a listener
// remembers of a phrase over a chord is this tone more than the one it lands on (common practice).
type Resting struct {
	Notes []int // from 0, the lowest first
	Chord int   // of Report.Chords, −1 where none holds
}

// How long a note is held at least to be a rest by itself, and how long a silence is at least to end a
// phrase (common practice).
var (
	restHeld   = lick.NewTime(1, 2)
	restSilent = lick.NewTime(1, 8)
)

// rests finds the last notes of phrases: those with a silence or nothing after them, and those that are
// held for a half note or more. The bass has no phrases.
func (r *Report) rests(l lick.Lick) {
	columns := columnsOf(l)
	for c, notes := range columns {
		end := endOf(l, notes)
		last := c+1 == len(columns) || !l.Notes[columns[c+1][0]].At.Before(end.Add(restSilent))
		if held := end.Sub(l.Notes[notes[0]].At); !last && held.Before(restHeld) {
			continue
		}
		x := Resting{Notes: slices.Clone(notes), Chord: r.soundsOver(l, notes[0], end)}
		slices.SortStableFunc(x.Notes, func(a, b int) int { return int(Sounding(l, a) - Sounding(l, b)) })
		r.Rests = append(r.Rests, x)
	}
}

// soundsOver is the chord over which a note comes to rest: the one that holds when it begins, but of one
// that is meant for the next or held into it for longer than it sounded before, the next.
func (r *Report) soundsOver(l lick.Lick, i int, end lick.Time) int {
	k := r.Notes[i].Chord
	next := k + 1
	if next >= len(r.Chords) {
		return k
	}
	if r.Early(i) {
		return next
	}
	change := r.Chords[next].At
	if change.Before(end) && l.Notes[i].At.Before(change) && change.Sub(l.Notes[i].At).Before(end.Sub(change)) {
		return next
	}
	return k
}

// Tone is the degree and role of a resting note over the chord where it rests.
func (r *Report) Tone(l lick.Lick, x Resting, i int) (d music.Degree, role Role) {
	if x.Chord < 0 {
		return d, ""
	}
	return Of(r.Chords[x.Chord].Chord, paletteOf(l, r.Chords[x.Chord].At), Sounding(l, i))
}

// longestPassing is how long a note may last that is heard to go on (common practice).
var longestPassing = lick.NewTime(1, 2)

// enclosed is within how many notes the target of an enclosure follows.
const enclosed = 3

// resolve finds which notes go on: the next note of the same line follows by step, a tone or a half tone either way,
// before a silence and after no more than a half note; or the note belongs to an enclosure, whose target, a tone of its
// chord, follows within three notes (common practice). Strings that sound together are lines of their own.
func (r *Report) resolve(l lick.Lick) {
	columns := columnsOf(l)
	for c, notes := range columns {
		for _, i := range notes {
			n := l.Notes[i]
			if longestPassing.Before(n.Len) || c+1 == len(columns) {
				continue
			}
			r.Notes[i].Passes = r.goesOn(l, columns, c, i) || r.encloses(l, columns, c, i)
		}
	}
}

// step says whether one pitch lies a half tone or a tone from another.
func step(a, b music.Pitch) bool { return a != b && a-b <= 2 && b-a <= 2 }

// goesOn says whether the note's line goes on by step: on its own string where it sounds with others, else
// wherever the next note lies.
func (r *Report) goesOn(l lick.Lick, columns [][]int, c, i int) bool {
	n := l.Notes[i]
	end := n.End()
	for _, next := range columns[c+1:] {
		if !l.Notes[next[0]].At.Before(end.Add(restSilent)) {
			return false
		}
		if m := l.Notes[next[0]]; len(columns[c]) == 1 && len(next) == 1 && l.Pitch(next[0]) == Sounding(l, i) &&
			!longestPassing.Before(m.End().Sub(n.At)) {
			end = m.End() // the same tone again is the same tone still
			continue
		}
		for _, k := range next {
			if (len(columns[c]) == 1 || l.Notes[k].String == n.String) && step(l.Pitch(k), Sounding(l, i)) {
				return true
			}
		}
		if len(columns[c]) == 1 ||
			slices.ContainsFunc(next, func(k int) bool { return l.Notes[k].String == n.String }) {
			return false // the line has gone on otherwise
		}
	}
	return false
}

// encloses says whether the note is one side of an enclosure: its target lies a step away and follows within
// three notes, and one of the notes between lies a step from the target on the other side.
func (r *Report) encloses(l lick.Lick, columns [][]int, c, i int) bool {
	if len(columns[c]) != 1 {
		return false
	}
	from := Sounding(l, i)
	for k := c + 2; k <= c+enclosed && k < len(columns); k++ {
		if len(columns[k]) != 1 || len(columns[k-1]) != 1 {
			return false
		}
		t := columns[k][0]
		target := Sounding(l, t)
		if !r.Notes[t].Role.Chordal() || !step(from, target) {
			continue
		}
		for between := c + 1; between < k; between++ {
			if x := Sounding(l, columns[between][0]); step(x, target) && (x < target) != (from < target) {
				return true
			}
		}
	}
	return false
}
