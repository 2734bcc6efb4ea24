package changes

import (
	"slices"
	"sort"

	"ornamen/core/lick"
	"ornamen/core/music"
)

// Word says how a phrase lands on a change.
type Word string

// The words of a landing.
const (
	OnTime Word = "on time"
	Pushed Word = "pushed" // an eighth or less ahead, and held into the change: everyday language
	Early  Word = "early"
	Late   Word = "late"
	Missed Word = "missed" // something sounds over the chord, but no tone that tells it
	Rest   Word = "rest"   // nothing arrives there
)

// Landing is how a line arrives at one change.
type Landing struct {
	Chord  int   // of Report.Chords
	Notes  []int // those that land, from 0; none where the word is Missed or Rest
	OffBy  lick.Time
	Word   Word
	Way    music.Pitch // half steps from the landing before, of the highest notes
	HasWay bool
}

// How far from a change a landing may lie (common practice: what is farther away is another phrase).
var (
	mostEarly = lick.NewTime(1, 2)
	restLate  = lick.NewTime(1, 4) // where the line is silent at the change itself
	push      = lick.NewTime(1, 8) // how far ahead a tone that is held into the change is pushed
)

// landings finds how the line arrives at every change but the first.
func (r *Report) landings(l lick.Lick) {
	columns := columnsOf(l)
	last := -1 // note of the landing before
	for k := 1; k < len(r.Chords); k++ {
		x := r.land(l, columns, k)
		if len(x.Notes) > 0 {
			top := highest(l, x.Notes)
			if last >= 0 {
				x.Way, x.HasWay = Sounding(l, top)-Sounding(l, last), true
			}
			last = top
		}
		r.Landings = append(r.Landings, x)
	}
}

// columnsOf are the columns of the line, notes that begin together, without the bass voice,
// which goes its own way, and without dead notes, which have no pitch.
func columnsOf(l lick.Lick) (out [][]int) {
	for i, n := range l.Notes {
		if n.Voice == lick.VoiceBass || n.Mute {
			continue
		}
		if k := len(out) - 1; k >= 0 && l.Notes[out[k][0]].At.Cmp(n.At) == 0 {
			out[k] = append(out[k], i)
			continue
		}
		out = append(out, []int{i})
	}
	return out
}

// land finds the landing on chord k. In this order: what begins on the change; what sounds on
// into it; where nothing begins there, what was meant for it but came before; what comes after;
// then what came before, although the line goes on.
//
// As an example, over E7 | A7 the line ends a phrase with A and E on the last beat of E7:
// nothing begins on the change, and what is held tells A7, not E7, so it is early by a beat.
// Had the line gone on with C♯ on the change, that would be the landing, and on time.
func (r *Report) land(l lick.Lick, columns [][]int, k int) Landing {
	change, before := r.Chords[k], r.Chords[k-1]
	at := func(c int) lick.Time { return l.Notes[columns[c][0]].At }
	next := sort.Search(len(columns), func(c int) bool { return !at(c).Before(change.At) })
	out := Landing{Chord: k, Word: Rest}
	onIt := next < len(columns) && at(next).Cmp(change.At) == 0
	if onIt {
		if out.Notes = r.tells(l, columns[next], change); out.Notes != nil {
			out.Word = OnTime
			return out
		}
	}
	sounds := onIt
	if next > 0 && !onIt {
		c := columns[next-1]
		for _, i := range c {
			sounds = sounds || change.At.Before(l.Notes[i].End())
		}
		if held := r.tells(l, c, change); sounds && held != nil && r.both(l, held, before) {
			out.Notes, out.Word = held, OnTime // a tone of both chords sounds on
			return out
		}
	}
	early := r.early(l, columns, next, k)
	if early != nil && !onIt {
		return *early
	}
	for c := next; c < len(columns) && at(c).Before(change.End); c++ {
		off := at(c).Sub(change.At)
		if !sounds && restLate.Before(off) {
			break // a phrase of its own that begins later
		}
		out.Word = Missed
		if told := r.tells(l, columns[c], change); told != nil {
			out.Notes, out.OffBy, out.Word = told, off, Late
			return out
		}
	}
	if early != nil {
		return *early
	}
	return out
}

// early is the landing before the change: the last column before it, where all of it tells the
// chord to come, and not all of it the chord that still holds; nil where it is none.
func (r *Report) early(l lick.Lick, columns [][]int, next, k int) *Landing {
	if next == 0 {
		return nil
	}
	c := columns[next-1]
	at, change, before := l.Notes[c[0]].At, r.Chords[k], r.Chords[k-1]
	off := at.Sub(change.At)
	if off.Before(lick.Time{}.Sub(mostEarly)) || at.Before(before.At) {
		return nil
	}
	told := r.tells(l, c, change)
	if len(told) < len(c) || r.both(l, told, before) {
		return nil
	}
	word := Early
	if held := change.At.Before(l.Notes[c[0]].End()); held && !off.Before(lick.Time{}.Sub(push)) {
		word = Pushed
	}
	return &Landing{Chord: k, Notes: told, OffBy: off, Word: word}
}

// tells are those of the notes that are chord tones of a change.
func (r *Report) tells(l lick.Lick, notes []int, c ChordChange) (out []int) {
	for _, i := range notes {
		if _, role := Of(c.Chord, nil, Sounding(l, i)); role.Chordal() {
			out = append(out, i)
		}
	}
	return out
}

// both says whether all of the notes are tones of that chord too, so that they cannot be told to be meant for another.
func (r *Report) both(l lick.Lick, notes []int, c ChordChange) bool {
	return len(r.tells(l, notes, c)) == len(notes)
}

// highest is the note of the highest pitch.
func highest(l lick.Lick, notes []int) int {
	top := notes[0]
	for _, i := range notes {
		if Sounding(l, top) < Sounding(l, i) {
			top = i
		}
	}
	return top
}

// Early says whether a note is meant for the chord to come: it lands early or is pushed.
func (r Report) Early(note int) bool {
	for _, x := range r.Landings {
		if (x.Word == Early || x.Word == Pushed) && slices.Contains(x.Notes, note) {
			return true
		}
	}
	return false
}
