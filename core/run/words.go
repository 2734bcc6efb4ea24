package run

import (
	"fmt"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/phrase"
	"ornamen/core/say"
)

// counts are the lengths of one step by their word, and what such notes are called.
var counts = map[string]struct {
	length lick.Time
	name   string
}{
	"4": {lick.NewTime(1, 4), "quarters"}, "8": {lick.NewTime(1, 8), "eighths"},
	"8t": {lick.NewTime(1, 12), "eighth triplets"}, "16": {lick.NewTime(1, 16), "sixteenths"},
	"16q": {lick.NewTime(1, 20), "quintuplets"}, "16t": {lick.NewTime(1, 24), "sextuplets"},
	"16s": {lick.NewTime(1, 28), "septuplets"},
}

// CountName is a count in words.
func CountName(word string) string {
	var out []string
	for _, w := range list(word) {
		if c, ok := counts[w]; ok {
			out = append(out, c.name)
		}
	}
	if len(out) == 0 {
		return counts["16"].name
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
	if name, ok := moveNames[move]; ok {
		return name
	}
	switch word, by, _ := strings.Cut(move, ":"); word {
	case "string":
		return by + " strings over"
	case "scale":
		return "through each scale in turn"
	default:
		return word + " tones"
	}
}

// moveNames are the moves that have a name of their own.
var moveNames = map[string]string{"1": "one tone", "string": "one string over", "octave": "an octave on",
	"position": "to the next position", "chord": "to the next chord", "scale": "to the next scale",
	"scale:string": "over the strings, scale by scale", "stay": "nowhere"}

// DirName is a direction in words.
func DirName(dir string) string {
	return map[string]string{"": "up", "up": "up", "down": "down", "updown": "up and down",
		"downup": "down and up"}[dir]
}

// LayoutName is a layout in words. One that is not known is called the player's own.
func LayoutName(layout string) string {
	name, rest, _ := strings.Cut(layout, ":")
	rest, interval, _ := strings.Cut(rest, ":")
	between := " and "
	if name == "counts" {
		between = " "
	}
	rest = strings.NewReplacer(",", between, "+", " and ", "-", " to ").Replace(rest)
	if name == "pairs" {
		return pairNames[interval] + " on strings " + rest
	}
	if words, ok := layoutNames[name]; ok {
		return strings.ReplaceAll(words, "…", rest)
	}
	return "your own places"
}

// layoutNames are the layouts by the word before their colon, and where what stands behind it goes.
var layoutNames = map[string]string{"": "as usual", "box": "in a box", "boxes": "in boxes …",
	"3nps":   "three a string",
	"counts": "… a string", "string": "on string …", "strings": "on strings …", "frets": "on frets …",
	"arp": "as an arpeggio", "spread": "spread", "joined": "joined by slides"}

// pairNames are the intervals of pairs.
var pairNames = map[string]string{"3": "thirds", "4": "fourths", "5": "fifths", "6": "sixths", "8": "octaves",
	"10": "tenths"}

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
	title := strings.Join(key, " ") + ", " + cell
	if parts, err := r.said(); err == nil {
		for _, p := range parts[1:] {
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
	Aloud      string // what to count on a cell of several groups: "four and three"; empty where there is one
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
		out.Aloud = aloud(l, r.Cells[0])
	}
	if !l.Pickup.IsZero() && len(l.Notes) > 0 {
		out.PickupFrom = l.SayBeat(l.Notes[0].At)
	}
	return out
}

// numberWords are the numbers that are counted aloud.
var numberWords = []string{"none", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine"}

// aloud counts a cell by the notes on each string, which is how the hand feels it; a cell on one string in groups of
// four and three. Cells of three, five, six or nine notes on one string are counted in threes as far as that goes,
// others in fours (common practice).
func aloud(l lick.Lick, c Played) string {
	var groups []int
	str, n := 0, 0
	for i := c.From; i < c.To; i++ {
		note := l.Notes[i]
		if i > c.From && note.At.Cmp(l.Notes[i-1].At) == 0 {
			continue // sounds together with the one before
		}
		if len(groups) == 0 || note.String != str {
			groups, str = append(groups, 0), note.String
		}
		groups[len(groups)-1]++
		n++
	}
	single := len(groups) == n || len(groups) > 3
	if single || len(groups) == 1 {
		groups = groups[:0]
		for n > 0 {
			k := 4
			switch {
			case n == 5 || n == 3 || n == 6 || n == 9:
				k = 3
			case n < 4:
				k = n
			}
			groups, n = append(groups, k), n-k
		}
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
	return strings.Join(words, " and ")
}
