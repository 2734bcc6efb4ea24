package say

import (
	"fmt"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/text"
)

// Words are a finding in English.
type Words struct {
	Title string // for a list: "the index hops"
	Text  string // whole sentences
}

// words are a finding with a text that is written with what was measured.
func words(title, text string, measured ...any) Words {
	return Words{title, fmt.Sprintf(text, measured...)}
}

// AnyTempo adds that slowing down does not help.
func (w Words) AnyTempo() Words {
	w.Text += " This holds at any tempo."
	return w
}

// Needs ends a text without a full stop with the two times in ms.
func (w Words) Needs(need, have float64) Words {
	w.Text = fmt.Sprintf("%s: needs %.0f ms, has %.0f.", w.Text, need, have)
	return w
}

// AtTheTurn marks a finding about the way from the end of a loop to its start.
func (w Words) AtTheTurn() Words {
	w.Title = "the turn of the loop: " + w.Title
	return w
}

// Count is a number of things: "1 slur", "3 slurs", "2 notes for which no string was free". The plural of the noun, the
// last word before one of for, of, that and in, must be regular.
func Count(n int, word string) string {
	if n == 1 {
		return "1 " + word
	}
	end := len(word)
	for _, next := range []string{" for ", " of ", " that ", " in "} {
		if i := strings.Index(word, next); i >= 0 {
			end = min(end, i)
		}
	}
	return fmt.Sprintf("%d %ss%s", n, word[:end], plural.Replace(word[end:]))
}

// plural puts the verbs of a relative clause into the plural.
var plural = strings.NewReplacer("that is ", "that are ")

// Numbers are notes, from 0, by their numbers: "3, 7".
func Numbers(notes []int) string {
	return text.Join(notes, ", ", func(i int) string { return strconv.Itoa(i + 1) })
}

// Some is the same with one written out: "one note", "3 notes".
func Some(n int, word string) string {
	if n == 1 {
		return "one " + word
	}
	return Count(n, word)
}

// Tally is a number of things of one sort.
type Tally struct {
	N    int
	Word string // singular
}

// Tallies lists what there is any of, in the order given: "2 shifts, 1 jump".
func Tallies(ts ...Tally) string {
	var out []string
	for _, t := range ts {
		if t.N > 0 {
			out = append(out, Count(t.N, t.Word))
		}
	}
	return strings.Join(out, ", ")
}

// Place names where note i of a line lies: "fret 9 on B", "the open low E".
func Place(l lick.Lick, i int) string {
	n := l.Notes[i]
	if n.Fret == 0 {
		return "the open " + l.StringName(n.String)
	}
	return fmt.Sprintf("fret %d on %s", n.Fret, l.StringName(n.String))
}

// Stroke names a stroke within a sentence; the picking hand's fingers go by their letters.
func Stroke(s lick.Stroke) string {
	switch s {
	case lick.Down:
		return "downstroke"
	case lick.Up:
		return "upstroke"
	}
	return "finger " + string(s)
}

// AStroke is a stroke of the pick with its article.
func AStroke(s lick.Stroke) string {
	if s == lick.Up {
		return "an upstroke"
	}
	return "a downstroke"
}

// Capital puts a capital at the head of words that begin with a letter of English.
func Capital(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}

// Beats is a length in beats of the line's meter, without its sign: "a beat", "half a beat",
// "2 beats", "1/3 of a beat".
func Beats(l lick.Lick, t lick.Time) string {
	if t.Before(lick.Time{}) {
		t = lick.Time{}.Sub(t)
	}
	unit := lick.NewTime(1, int64(l.Meter.Unit))
	whole, rest := t.Div(unit)
	switch {
	case rest.IsZero() && whole == 1:
		return "a beat"
	case rest.IsZero():
		return fmt.Sprintf("%d beats", whole)
	case whole == 0 && rest.Times(2).Cmp(unit) == 0:
		return "half a beat"
	}
	num, den := t.Times(int64(l.Meter.Unit)).Parts()
	return fmt.Sprintf("%d/%d of a beat", num, den)
}

// BeatIn names a beat in its bar: "beat 3 in bar 2", "the & of 2 in bar 1".
func BeatIn(l lick.Lick, at lick.Time) string {
	return fmt.Sprintf("%s in bar %d", l.SayBeat(at), l.Position(at).Bar)
}

// apart writes a length in whole mm, or finer where it would read as the other one: 41.6 and
// 42.3 are both 42, and a sentence that says so explains nothing.
func apart(x, other neck.MM) string {
	if fmt.Sprintf("%.0f", x) == fmt.Sprintf("%.0f", other) {
		return fmt.Sprintf("%.1f", x)
	}
	return fmt.Sprintf("%.0f", x)
}
