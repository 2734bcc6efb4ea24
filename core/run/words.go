package run

import (
	"cmp"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/phrase"
	"ornamen/core/say"
)

// CountName is a count in words.
func CountName(text string) string {
	var out []string
	for _, w := range countWords(text) {
		if c, ok := countOf(w); ok {
			out = append(out, c.name)
		}
	}
	if len(out) == 0 {
		return NameOf("count", usualCount)
	}
	return strings.Join(out, " and ")
}

// MoveName is a move in words. A recipe that names none moves as its kind usually does: a tone, a string, a chord.
func MoveName(move string, kind phrase.Kind) string {
	if move == "" {
		u := usualMove[kind]
		if move = u.kind; move == "tones" {
			move = "1"
		}
	}
	return NameOf("move", move)
}

// DirName is a direction in words.
func DirName(dir string) string { return NameOf("dir", cmp.Or(dir, "up")) }

// LayoutName is a layout in words. One that is not known is called the player's own.
func LayoutName(layout string) string {
	if layout == "" {
		return "as usual"
	}
	if _, _, ok := termOf("layout", layout); !ok {
		return "your own places"
	}
	return NameOf("layout", layout)
}

// Title is what the run is called: its scale and cell, in at most eighty letters.
func (r Recipe) Title() string {
	key := strings.Fields(r.Key)
	if len(key) > 0 {
		if n, err := music.ParseName(key[0]); err == nil {
			key[0] = n.Pretty()
		}
	}
	cell := r.Cell
	if p, err := phrase.ParsePhrase(r.Cell); err == nil {
		cell = p.String()
	}
	if p, err := music.ParseKey(r.Key, nil, nil); len(key) == 1 && err == nil {
		key = strings.Fields(p.Pretty()) // a root alone says its scale
	}
	title := strings.Join(key, " ") + ", " + cell
	if parts, err := r.Parts(); err == nil {
		for k, p := range parts[1:] {
			if p.Cell == parts[k].Cell {
				title += ", then " + DirName(p.Dir)
				continue
			}
			title += ", then " + p.Cell
		}
	}
	if rs := []rune(title); len(rs) > 80 {
		title = string(rs[:79]) + "…"
	}
	return title
}

// Short says a run in one line: scale, shape, cell and moves. As in "C♯ minor pentatonic in a box, one cell of 3 steps,
// moved up one tone: 8 cells". The run says how many cells it came to.
//
// A run of several parts says each, and how many cells they came to together.
func (r Recipe) Short(run *Run) string {
	parts, err := r.Parts()
	if err != nil {
		return r.String()
	}
	if len(parts) > 1 {
		var says []string
		for _, p := range parts {
			s, _, _ := strings.Cut(p.Short(run), ": ")
			says = append(says, strings.TrimSuffix(s, fmt.Sprintf(", played %s", times(len(run.Cells)))))
		}
		return strings.Join(says, ", and then ") + ": " + say.Count(len(run.Cells), "cell")
	}
	p, err := phrase.ParsePhrase(r.Cell)
	if err != nil {
		return r.String()
	}
	layout := LayoutName(r.Layout)
	s := fmt.Sprintf("%s %s, one cell of %s", strings.SplitN(r.Title(), ",", 2)[0], layout,
		say.Count(len(p.Cells[0]), "step"))
	if len(p.Cells) > 1 {
		s = fmt.Sprintf("%s %s, %s taking turns", strings.SplitN(r.Title(), ",", 2)[0], layout,
			say.Count(len(p.Cells), "cell"))
	}
	cells := 0
	for _, c := range run.Cells {
		if !c.Tail {
			cells++
		}
	}
	if r.Mirror {
		s, cells = s+" and its mirror", cells/2
	}
	if r.Move == "stay" {
		return fmt.Sprintf("%s, played %s", s, times(cells))
	}
	return fmt.Sprintf("%s, moved %s %s: %s", s, DirName(r.Dir), MoveName(r.Move, p.Kind), say.Count(cells, "cell"))
}

// times says how often.
func times(n int) string {
	switch n {
	case 1:
		return "once"
	case 2:
		return "twice"
	}
	return strconv.Itoa(n) + " times"
}

// Rhythm is how the cells lie against the beat: what a player counts while learning the run.
// MeetCells and MeetBeats are both 0 where a cell never begins on a beat again.
type Rhythm struct {
	Notes      int    // of the run
	Bars       int    // that it takes, begun ones whole
	MeetCells  int    // after so many cells a cell starts on a beat again, 0: never in this run
	MeetBeats  int    // and so many beats
	Aloud      string // what to count on a cell of several groups: "four, three"; empty where there is one
	PickupFrom string // where the pick-up starts: "the & of 3"
}

// RhythmOf looks at a grown run.
// As an example, a cell of five sixteenths meets the beat again after four cells, five beats.
//
// Notes that sound together count once.
func (r *Run) RhythmOf() Rhythm {
	l := r.Lick
	out := Rhythm{Notes: len(l.Columns())}
	bar, beat := l.Meter.Bar(), lick.NewTime(1, int64(l.Meter.Unit))
	end := l.End()
	whole, rest := end.Sub(l.Pickup).Div(bar)
	if out.Bars = int(whole); !rest.IsZero() {
		out.Bars++
	}
	if len(r.Cells) > 1 {
		start := l.Notes[r.Cells[0].From].At
		for k := 1; k < len(r.Cells); k++ {
			if r.Cells[k].From >= len(l.Notes) {
				break
			}
			if n, rest := l.Notes[r.Cells[k].From].At.Sub(start).Div(beat); rest.IsZero() {
				out.MeetCells, out.MeetBeats = k, int(n)
				break
			}
		}
	}
	if len(r.Cells) > 0 {
		out.Aloud = aloud(l, r.Cells[0], r.accented)
	}
	if !l.Pickup.IsZero() && len(l.Notes) > 0 {
		out.PickupFrom = l.SayBeat(l.Notes[0].At)
	}
	return out
}

// aloud counts a cell in groups, "four, three": where it has accents of its own, from one to the next; else by the
// notes on each string, which is how the hand feels it. A string on which the line turns round is two groups, one there
// and one back: four on a string, three on the next, and the same back are four, three, three, four. A cell on one
// string of three, five, six or nine notes is counted in threes as far as that goes, others in fours (common practice).
//
// It is empty where there is one group alone. accented says that the recipe sets accents, which are then not the
// cell's.
func aloud(l lick.Lick, c Played, accented bool) string {
	notes := apartOf(l.Notes[c.From:min(c.To, len(l.Notes))])
	var groups []int
	if !accented {
		groups = byAccent(notes)
	}
	if len(groups) < 2 {
		groups = byString(notes)
	}
	if len(groups) == len(notes) || len(groups) < 2 || len(groups) > mostGroups {
		groups = inThreesOrFours(len(notes))
	}
	words := make([]string, len(groups))
	for i, g := range groups {
		words[i] = strconv.Itoa(g)
		if g < len(numberWords) {
			words[i] = numberWords[g]
		}
	}
	if len(words) < 2 {
		return ""
	}
	return strings.Join(words, ", ")
}

// mostGroups is how many groups a player counts in a cell.
const mostGroups = 4

// apartOf are the notes, of those that sound together the first.
func apartOf(notes []lick.Note) []lick.Note {
	return slices.CompactFunc(slices.Clone(notes), func(a, b lick.Note) bool { return a.At.Cmp(b.At) == 0 })
}

// byAccent cuts a cell before each accent.
func byAccent(notes []lick.Note) (groups []int) {
	for i, n := range notes {
		if i == 0 || n.Accent {
			groups = append(groups, 0)
		}
		groups[len(groups)-1]++
	}
	return groups
}

// byString cuts a cell where the string changes, and a string of many notes where the line turns round on it.
func byString(notes []lick.Note) (groups []int) {
	for from := 0; from < len(notes); {
		to := from + 1
		for to < len(notes) && notes[to].String == notes[from].String {
			to++
		}
		groups = append(groups, atTurns(notes[from:to])...)
		from = to
	}
	return groups
}

// atTurns cuts the notes of a string where they turn round or repeat, if they are more than a hand plays in one go.
func atTurns(notes []lick.Note) []int {
	if len(notes) <= 4 {
		return []int{len(notes)}
	}
	groups, rising := []int{1}, 0 // the way of the group so far: 1 up, −1 down
	for i := 1; i < len(notes); i++ {
		way := cmp.Compare(notes[i].Fret, notes[i-1].Fret)
		last := len(groups) - 1
		if groups[last] >= 3 && way != rising {
			groups, rising = append(groups, 1), 0
			continue
		}
		groups[last]++
		rising = way
	}
	return groups
}

// inThreesOrFours cuts a number of notes.
func inThreesOrFours(n int) (groups []int) {
	for n > 0 {
		k := min(n, 4)
		if n == 5 || n == 3 || n == 6 || n == 9 {
			k = 3
		}
		groups, n = append(groups, k), n-k
	}
	return groups
}
