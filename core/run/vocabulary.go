package run

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/phrase"
)

// Term is a value that an argument of a recipe can have: how it is written, what it is called, what it goes with. The
// command line, the sentence of the screen, titles, refusals and lists of choices are all read from the rows below.
//
// In Value and Name a # stands for a whole number and … for several. "string:#", called "# strings over", is written
// string:2 and read from "2 strings over" or "two strings over" as well.
type Term struct {
	Value string
	Name  string
	Also  []string      // other names that are read
	Try   []string      // values that are offered; empty where Value has no place for a number: Value itself
	Needs string        // an argument without which the value has no effect
	Cells []phrase.Kind // of the cells that it goes with; empty: all
	list  string        // between several numbers as they are written
	and   string        // between several numbers as they are called
	read  *regexp.Regexp
}

// vocabulary are the terms of each argument that has some. Arguments without any take what is typed.
var vocabulary = map[string][]Term{
	"layout": layouts,
	"dir":    directions,
	"move":   moves,
	"times": {
		{Value: "", Name: "as far as it goes"},
		{Value: "1", Name: "once"},
		{Value: "2", Name: "twice"},
		{Value: "#", Name: "# times"},
	},
	"bars": {
		{Value: "", Name: "without"},
		{Value: "1", Name: "1 bar long"},
		{Value: "#", Name: "# bars long"},
	},
	"turn": {
		{Value: "once", Name: "once"},
		{Value: "twice", Name: "twice"},
	},
	"count": countTerms(),
	"accent": {
		{Value: "", Name: "as the cell says"},
		{Value: "#", Name: "every #", Also: []string{"every # notes"}},
	},
	"feel": {
		{Value: "straight", Name: "straight"},
		{Value: "shuffle", Name: "shuffle", Also: []string{"swung"}},
	},
	"follow": {
		{Value: "key", Name: "the tones of the key"},
		{Value: "chord", Name: "its own tones"},
	},
	"pick":  picks,
	"slurs": slurRules,
	"repeat": {
		{Value: "1", Name: "once"},
		{Value: "2", Name: "twice"},
		{Value: "#", Name: "# times"},
	},
	"rotate": {{Value: "#", Name: "step #"}},
	"start":  {{Value: "#", Name: "number #"}},
	"displace": {
		{Value: "1/8", Name: "an eighth"},
		{Value: "1/4", Name: "a quarter"},
		{Value: "3/8", Name: "three eighths"},
		{Value: "1/2", Name: "half a bar"},
	},
}

// directions are the ways that a run goes; the first is the usual one.
var directions = []Term{
	{Value: "up", Name: "up"},
	{Value: "down", Name: "down"},
	{Value: "updown", Name: "up and down"},
	{Value: "downup", Name: "down and up"},
}

// placed are the cells whose steps lie in a layout.
var placed = []phrase.Kind{phrase.Tones, phrase.Strings}

// moves are how a cell goes on.
var moves = []Term{
	{Value: "1", Name: "one tone", Cells: placed},
	{Value: "#", Name: "# tones", Try: []string{"2", "3"}, Cells: placed},
	{Value: "string", Name: "one string over", Cells: placed},
	{Value: "string:#", Name: "# strings over", Try: []string{"string:2"}, Cells: placed},
	{Value: "octave", Name: "an octave on"},
	{Value: "position", Name: "to the next position", Cells: placed},
	{Value: "chord", Name: "to the next chord", Cells: []phrase.Kind{phrase.Tones, phrase.Chord}},
	{Value: "scale", Name: "to the next scale", Needs: "scales", Cells: placed},
	{Value: "scale:string", Name: "over the strings, scale by scale", Needs: "scales", Cells: placed},
	{Value: "scale:1", Name: "one tone on, scale by scale", Needs: "scales", Cells: placed},
	{Value: "scale:#", Name: "# tones on, scale by scale", Try: []string{"scale:2"}, Needs: "scales", Cells: placed},
	{Value: "stay", Name: "nowhere"},
}

// layouts are where the tones are taken from.
var layouts = []Term{
	{Value: "box", Name: "in a box"},
	{Value: "3nps", Name: "three a string"},
	{
		Value: "boxes:…",
		Name:  "in boxes …",
		Also:  []string{"two boxes …"},
		Try:   []string{"boxes:1+2", "boxes:3+4"},
		list:  "+",
		and:   " and ",
	},
	{Value: "counts:…", Name: "… a string", Try: []string{"counts:2,3,2", "counts:4,3,4"}, list: ",", and: " "},
	{Value: "string:#", Name: "on string #", Try: []string{"string:1", "string:2", "string:3", "string:6"}},
	{
		Value: "strings:…",
		Name:  "on strings …",
		Try:   []string{"strings:2,1", "strings:3,2", "strings:3,1"},
		list:  ",",
		and:   " and ",
	},
	{Value: "frets:#-#", Name: "on frets # to #", Try: []string{"frets:5-9", "frets:7-11"}},
	{Value: "arp", Name: "as an arpeggio"},
	{Value: "spread", Name: "spread"},
	{Value: "joined", Name: "joined by slides"},
	{Value: "pairs:#,#:3", Name: "thirds on strings # and #", Try: []string{"pairs:2,1:3"}},
	{Value: "pairs:#,#:4", Name: "fourths on strings # and #", Try: []string{"pairs:2,1:4"}},
	{Value: "pairs:#,#:5", Name: "fifths on strings # and #", Try: []string{"pairs:3,2:5"}},
	{Value: "pairs:#,#:6", Name: "sixths on strings # and #", Try: []string{"pairs:3,1:6"}},
	{Value: "pairs:#,#:8", Name: "octaves on strings # and #", Try: []string{"pairs:3,1:8"}},
	{Value: "pairs:#,#:10", Name: "tenths on strings # and #", Try: []string{"pairs:5,2:10"}},
}

// picks are the ways of picking. The empty one is the cleanest on the screen and the player's habit elsewhere.
var picks = []Term{
	{Value: "", Name: "the cleanest way"},
	{Value: "alternate", Name: "in alternation", Also: []string{"alternating"}},
	{Value: "economy", Name: "in economy", Also: []string{"with sweeps"}},
	{Value: "legato", Name: "legato"},
	{Value: "free", Name: "as it falls", Also: []string{"freely"}},
}

// slurRules are which notes are slurred besides those that the cell slurs.
var slurRules = []Term{
	{
		Value: "string",
		Name:  "slurred where the string changes not",
		Also:  []string{"the first of a string picked", "first of a string picked"},
	},
	{Value: "way", Name: "hammered going up, pulled coming down"},
	{Value: "up", Name: "hammered where it rises"},
	{Value: "down", Name: "pulled where it falls"},
}

// count is the length of a step by its word.
type count struct {
	word   string
	length lick.Time
	name   string
	also   []string
}

// counts are the lengths of a step, in rising speed.
var counts = []count{
	{word: "4", length: lick.NewTime(1, 4), name: "quarters"},
	{word: "8", length: lick.NewTime(1, 8), name: "eighths"},
	{word: "8t", length: lick.NewTime(1, 12), name: "triplets", also: []string{"eighth triplets"}},
	{word: "16", length: lick.NewTime(1, 16), name: "sixteenths"},
	{word: "16q", length: lick.NewTime(1, 20), name: "quintuplets", also: []string{"fives"}},
	{word: "16t", length: lick.NewTime(1, 24), name: "sextuplets", also: []string{"sixteenth triplets", "sixes"}},
	{word: "16s", length: lick.NewTime(1, 28), name: "septuplets", also: []string{"sevens"}},
}

// countTerms are the counts as terms.
func countTerms() []Term {
	var out []Term
	for _, c := range counts {
		out = append(out, Term{Value: c.word, Name: c.name, Also: c.also})
	}
	return out
}

// Terms are the values that an argument can have, in the order in which they are offered; none where it takes what is
// typed. The rows are not to be changed.
func Terms(arg string) []Term { return vocabulary[arg] }

// helpOf lists the terms of an argument, each with its name, for the help of the command.
func helpOf(arg string) string {
	var out []string
	for _, t := range vocabulary[arg] {
		value := strings.NewReplacer("#", "N", "…", "N,N…").Replace(t.Value)
		if t.list == "+" {
			value = strings.Replace(t.Value, "…", "N+N", 1)
		}
		out = append(out, fmt.Sprintf("%s (%s)", value, strings.ReplaceAll(t.Name, "#", "N")))
	}
	return strings.Join(out, ", ")
}

// numberWords are the numbers as they are said.
var numberWords = []string{
	"none", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven",
	"twelve"}

// numberPattern is a number as digits or as a word.
var numberPattern = `\d+|` + strings.Join(numberWords[1:], "|")

// betweenNumbers is what may stand between several numbers.
const betweenNumbers = `(?:\s*[,+-]\s*|\s+and\s+|\s+)`

// The patterns of all terms are made once.
func init() {
	for _, list := range vocabulary {
		for i := range list {
			list[i].read = pattern(append([]string{list[i].Value, list[i].Name}, list[i].Also...))
		}
	}
}

// pattern reads any of the forms of a term, whatever their case, with the numbers as groups.
func pattern(forms []string) *regexp.Regexp {
	each := make([]string, len(forms))
	one := "(" + numberPattern + ")"
	several := "((?:" + numberPattern + ")(?:" + betweenNumbers + "(?:" + numberPattern + "))*)"
	for i, f := range forms {
		q := strings.ReplaceAll(regexp.QuoteMeta(f), "#", one)
		each[i] = strings.ReplaceAll(q, "…", several)
	}
	return regexp.MustCompile(`^(?i:` + strings.Join(each, "|") + `)$`)
}

// value is what was typed as the term is written: "two strings over" is string:2. ok is false where it is not this one.
func (t Term) value(text string) (value string, ok bool) {
	found := t.read.FindStringSubmatch(text)
	if found == nil {
		return "", false
	}
	value = t.Value
	for _, group := range found[1:] {
		if group == "" {
			continue // of another form
		}
		digits := digitsOf(group, t.list)
		if strings.Contains(value, "…") {
			value = strings.Replace(value, "…", digits, 1)
		} else {
			value = strings.Replace(value, "#", digits, 1)
		}
	}
	return value, true
}

// betweenDigits finds the numbers of a list.
var eachNumber = regexp.MustCompile(`(?i:` + numberPattern + `)`)

// digitsOf writes one number or several in digits, with a sign between them.
func digitsOf(text, between string) string {
	var out []string
	for _, w := range eachNumber.FindAllString(text, -1) {
		if n := slices.Index(numberWords, strings.ToLower(w)); n > 0 {
			w = strconv.Itoa(n)
		}
		out = append(out, w)
	}
	return strings.Join(out, between)
}

// name is what a value of the term is called.
func (t Term) name(value string) string {
	found := t.read.FindStringSubmatch(value)
	name := t.Name
	for _, group := range found[1:] {
		if group == "" {
			continue
		}
		if strings.Contains(name, "…") {
			name = strings.Replace(name, "…", digitsOf(group, t.and), 1)
		} else {
			name = strings.Replace(name, "#", digitsOf(group, ""), 1)
		}
	}
	return name
}

// termOf is the term that a text is a value or a name of. Of several the first is meant: "1" is one tone.
func termOf(arg, text string) (t Term, value string, ok bool) {
	for _, t := range vocabulary[arg] {
		if t.Value == text {
			return t, text, true // as nearly all are written
		}
	}
	text = strings.Join(strings.Fields(text), " ")
	for _, t := range vocabulary[arg] {
		if value, ok := t.value(text); ok {
			return t, value, true
		}
	}
	return Term{}, text, false
}

// ValueOf is a word of an argument as it is written, however it was said: "to the next chord" is chord, "triplets" 8t.
// What is no term stays as it is.
func ValueOf(arg, text string) string {
	_, value, _ := termOf(arg, text)
	return value
}

// NameOf is what a value of an argument is called; the value itself where it has no name.
func NameOf(arg, value string) string {
	t, value, ok := termOf(arg, value)
	if !ok {
		return value
	}
	return t.name(value)
}

// goesWith says whether a term can be said of a kind of cell.
func (t Term) goesWith(kind phrase.Kind) bool {
	return len(t.Cells) == 0 || slices.Contains(t.Cells, kind)
}

// movesOf says in words which moves a kind of cell has.
func movesOf(kind phrase.Kind) string {
	var out []string
	for _, t := range moves {
		if t.goesWith(kind) && !strings.Contains(t.Value, ":") && t.Value != "1" {
			out = append(out, strings.Replace(t.Value, "#", "a number of tones", 1))
		}
	}
	last := len(out) - 1
	return strings.Join(out[:last], ", ") + " or " + out[last]
}

// countOf is a count by its word or its name.
func countOf(word string) (count, bool) {
	value := ValueOf("count", word)
	i := slices.IndexFunc(counts, func(c count) bool { return c.word == value })
	if i < 0 {
		return count{}, false
	}
	return counts[i], true
}

// countNames lists the counts for a refusal: their words, and what such notes are called.
func countNames() string {
	var out []string
	for _, c := range counts {
		out = append(out, fmt.Sprintf("%s (%s)", c.word, c.name))
	}
	return strings.Join(out, ", ")
}

// countWords cuts a count that may be several that take turns, "8,16" or "eighths and sixteenths", into its words.
func countWords(text string) []string {
	if _, ok := countOf(text); ok {
		return []string{text}
	}
	var out []string
	for _, w := range strings.FieldsFunc(strings.ReplaceAll(text, " and ", ","), func(r rune) bool { return r == ',' }) {
		w = strings.TrimSpace(w)
		if _, ok := countOf(w); ok || !strings.Contains(w, " ") {
			out = append(out, w)
			continue
		}
		out = append(out, strings.Fields(w)...)
	}
	return slices.DeleteFunc(out, func(w string) bool { return w == "" })
}
