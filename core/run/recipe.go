// Package run grows lines from cells: the recipe that says how a cell moves over a
// layout, and the line it makes.
package run

import (
	"errors"
	"flag"
	"fmt"
	"io"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/phrase"
	"ornamen/core/pick"
	"ornamen/core/shape"
)

// Recipe is a run as data: the arguments of the run command. The zero value of a
// field is its default.
type Recipe struct {
	Key, Add, Drop string
	Layout         string // as shape.ParseLayout reads it; empty: the scale's usual one
	At             string // STRING:FRET of the lowest tone; empty: the lowest root
	Cell           string
	Move           string // a number of tones, string, string:2, octave, position, chord, scale, stay
	Times          int    // cells played, 0: as far as the layout does
	Dir            string // up, down, updown, downup
	Repeat         int    // how often a cell is played before it moves
	Count          string // 4 8 8t 16 16t 16q 16s, or several that take turns: "16,16,8"
	Accent         int    // every so many notes, 0: as the cell says
	Chords         string // degrees of the key, "1 4 5"
	Scales         string // "natural minor, dorian"
	Land           string // DEGREE or DEGREE@BEAT
	Start          int    // tone of the layout to begin on, from 1
	Rotate         int    // step of the cell to begin on, from 1
	Turn           string // once, twice: the top place where an updown run turns
	Bars           int    // length in bars
	Feel           string
	Tail           string // a cell played once at the end
	Pivot          string // the tail's degree that the run's last note is
	Displace       string // a fraction of a whole note by which the run starts later
	Pick           string
	Tempo          float64
	Tuning         string // "D4 A3 G3 D3 A2 D2", string 1 first; empty: the guitar's
}

// Limits of a recipe.
const (
	MaxNotes  = 2048 // a longer run is refused
	maxTimes  = MaxNotes
	maxRepeat = 64
	maxBars   = 256
)

// option is one argument: its name, and where it is kept.
type option struct {
	name string
	text *string
	num  *int
	real *float64
}

func (r *Recipe) options() []option {
	return []option{
		{name: "key", text: &r.Key}, {name: "add", text: &r.Add}, {name: "drop", text: &r.Drop}, {name: "layout", text: &r.Layout}, {name: "at", text: &r.At},
		{name: "cell", text: &r.Cell}, {name: "move", text: &r.Move}, {name: "times", num: &r.Times}, {name: "bars", num: &r.Bars}, {name: "dir", text: &r.Dir}, {name: "turn", text: &r.Turn},
		{name: "repeat", num: &r.Repeat}, {name: "start", num: &r.Start}, {name: "rotate", num: &r.Rotate},
		{name: "count", text: &r.Count}, {name: "accent", num: &r.Accent}, {name: "feel", text: &r.Feel}, {name: "displace", text: &r.Displace},
		{name: "chords", text: &r.Chords}, {name: "scales", text: &r.Scales}, {name: "tail", text: &r.Tail}, {name: "pivot", text: &r.Pivot}, {name: "land", text: &r.Land},
		{name: "pick", text: &r.Pick}, {name: "tempo", real: &r.Tempo}, {name: "tuning", text: &r.Tuning},
	}
}

// Bind makes every argument of the recipe a flag.
func (r *Recipe) Bind(fs *flag.FlagSet) {
	for _, o := range r.options() {
		switch {
		case o.text != nil:
			fs.StringVar(o.text, o.name, "", "")
		case o.num != nil:
			fs.IntVar(o.num, o.name, 0, "")
		default:
			fs.Float64Var(o.real, o.name, 0, "")
		}
	}
}

// Parse reads the arguments of run as one line, quotes as in a shell.
func Parse(line string) (Recipe, error) {
	var r Recipe
	args, err := split(line)
	if err != nil {
		return r, err
	}
	fs := flag.NewFlagSet("", flag.ContinueOnError)
	fs.SetOutput(io.Discard)
	fs.Usage = func() {}
	r.Bind(fs)
	if err := fs.Parse(args); err != nil {
		return r, err
	}
	if fs.NArg() > 0 {
		return r, phrase.Wrong(fs.Arg(0), "an option begins with --")
	}
	_, err = r.plan(neck.Standard())
	return r, err
}

// split cuts a line into words; quotes hold one together.
func split(line string) ([]string, error) {
	var out []string
	var word strings.Builder
	open, quote := false, rune(0)
	for _, c := range line {
		switch {
		case quote != 0:
			if c == quote {
				quote = 0
			} else {
				word.WriteRune(c)
			}
		case c == '"' || c == '\'' && !open:
			open, quote = true, c
		case c == ' ' || c == '\t' || c == '\n' || c == '\r':
			if open {
				out = append(out, word.String())
				word.Reset()
				open = false
			}
		default:
			open = true
			word.WriteRune(c)
		}
	}
	if quote != 0 {
		return nil, errors.New("a quote is not closed")
	}
	if open {
		out = append(out, word.String())
	}
	return out, nil
}

// String writes the recipe as Parse reads it, defaults left out.
func (r Recipe) String() string {
	var b strings.Builder
	for _, o := range r.options() {
		text := ""
		switch {
		case o.text != nil:
			text = *o.text
		case o.num != nil && *o.num != 0:
			text = strconv.Itoa(*o.num)
		case o.real != nil && *o.real != 0:
			text = strconv.FormatFloat(*o.real, 'f', -1, 64)
		}
		if text == "" {
			continue
		}
		if b.Len() > 0 {
			b.WriteByte(' ')
		}
		b.WriteString("--" + o.name + " ")
		if strings.ContainsAny(text, " '|()<>\\~#") {
			text = `"` + text + `"`
		}
		b.WriteString(text)
	}
	return b.String()
}

// counts are the lengths of one step, by their word.
var counts = map[string]lick.Time{
	"4": lick.NewTime(1, 4), "8": lick.NewTime(1, 8), "8t": lick.NewTime(1, 12), "16": lick.NewTime(1, 16),
	"16t": lick.NewTime(1, 24), "16q": lick.NewTime(1, 20), "16s": lick.NewTime(1, 28),
}

// StepLength is how long a step of a count lasts, 0 where there is no such count.
func StepLength(count string) lick.Time { return counts[count] }

// CountWords are the counts in rising speed.
var CountWords = []string{"4", "8", "8t", "16", "16q", "16t", "16s"}

// plan is a recipe read and checked.
type plan struct {
	Recipe
	guitar  neck.Guitar
	palette music.Palette
	layout  shape.Layout
	at      neck.Place
	phrase  phrase.Phrase
	tail    *phrase.Phrase
	pivot   *music.Degree
	move    move
	lengths []lick.Time
	land    *landing
	offset  lick.Time
	chords  []music.Degree
	scales  []string
	pick    pick.Way
}

type landing struct {
	degree music.Degree
	beat   int // 0: wherever it falls
}

// move says how a cell goes on.
type move struct {
	kind string // tones, string, octave, position, chord, scale, stay
	by   int
}

// plan reads every word of the recipe; an error names the word.
func (r Recipe) plan(g neck.Guitar) (*plan, error) {
	if r.Tuning != "" {
		tuning, err := neck.ParseTuning(r.Tuning)
		if err != nil {
			return nil, err
		}
		g = g.WithTuning(tuning)
	}
	p := &plan{Recipe: r, guitar: g}
	for _, read := range []func() error{p.readTones, p.readCell, p.readMove, p.readRhythm, p.readEnd, p.readLimits} {
		if err := read(); err != nil {
			return nil, err
		}
	}
	return p, nil
}

func list(s string) []string {
	return strings.FieldsFunc(s, func(r rune) bool { return r == ',' || r == ' ' })
}

func (p *plan) readTones() (err error) {
	if strings.TrimSpace(p.Key) == "" {
		return errors.New(`name a key, such as "C# minor pentatonic"`)
	}
	if p.palette, err = music.ParseKey(p.Key, list(p.Add), list(p.Drop)); err != nil {
		return err
	}
	p.layout = shape.Default(p.palette.Scale)
	if p.Layout != "" {
		if p.layout, err = shape.ParseLayout(p.Layout); err != nil {
			return err
		}
	}
	p.at = shape.Start(p.guitar, p.palette, p.layout)
	if p.At != "" {
		if p.at, err = neck.ParsePlace(p.At); err != nil {
			return err
		}
		if !p.guitar.Has(p.at) {
			return phrase.Wrong(p.At, fmt.Sprintf("this neck has %d strings and %d frets", len(p.guitar.Tuning), p.guitar.Frets))
		}
	}
	for _, s := range strings.Split(p.Scales, ",") {
		if s = strings.TrimSpace(s); s == "" {
			continue
		}
		if _, err := music.ParseScale(s); err != nil {
			return err
		}
		p.scales = append(p.scales, s)
	}
	for _, w := range list(p.Chords) {
		d, err := music.ParseDegree(w)
		if err != nil {
			return err
		}
		p.chords = append(p.chords, d)
	}
	return nil
}

func (p *plan) readCell() (err error) {
	if strings.TrimSpace(p.Cell) == "" {
		return errors.New(`name a cell, such as "1 2 3 4"`)
	}
	if p.phrase, err = phrase.ParsePhrase(p.Cell); err != nil {
		return err
	}
	if p.Tail != "" {
		t, err := phrase.ParsePhrase(p.Tail)
		if err != nil {
			return err
		}
		p.tail = &t
	}
	if p.Pivot != "" {
		d, err := music.ParseDegree(p.Pivot)
		if err != nil {
			return err
		}
		if p.tail == nil || p.tail.Kind != phrase.Chord {
			return phrase.Wrong(p.Pivot, "a pivot leads into a tail of chord: steps")
		}
		p.pivot = &d
	}
	return nil
}

// usualMove is what a cell does when nothing is said.
var usualMove = map[phrase.Kind]move{phrase.Tones: {"tones", 1}, phrase.Strings: {"string", 1}, phrase.Chord: {"chord", 1}}

func (p *plan) readMove() error {
	word, by, more := strings.Cut(strings.TrimSpace(p.Move), ":")
	n, err := strconv.Atoi(word)
	switch {
	case word == "":
		p.move = usualMove[p.phrase.Kind]
	case err == nil && !more:
		if n < 1 || n > phrase.MaxTone {
			return phrase.Wrong(p.Move, fmt.Sprintf("a move is 1 to %d tones; up or down is said apart", phrase.MaxTone))
		}
		p.move = move{"tones", n}
	case word == "string" || !more && (word == "octave" || word == "position" || word == "chord" || word == "scale" || word == "stay"):
		p.move = move{word, 1}
		if more {
			if p.move.by, err = strconv.Atoi(by); err != nil || p.move.by < 1 || p.move.by > neck.MaxStrings {
				return phrase.Wrong(p.Move, "string:2 moves two strings over")
			}
		}
	default:
		return phrase.Wrong(p.Move, "a move is a number of tones, string, octave, position, chord, scale or stay")
	}
	if p.move.kind == "scale" && len(p.scales) == 0 {
		return errors.New(`the move to the next scale needs scales, such as "natural minor, dorian"`)
	}
	if p.phrase.Kind == phrase.Chord && p.move.kind != "chord" && p.move.kind != "stay" && p.move.kind != "octave" {
		return phrase.Wrong(p.Move, "a cell of chord: steps moves by chord or octave, or stays")
	}
	return oneOf("dir", &p.Dir, "up", "down", "updown", "downup")
}

func oneOf(name string, value *string, allowed ...string) error {
	if *value == "" {
		*value = allowed[0]
	}
	for _, a := range allowed {
		if *value == a {
			return nil
		}
	}
	return phrase.Wrong(*value, name+" is "+strings.Join(allowed, ", "))
}

func (p *plan) readRhythm() error {
	words := list(p.Count)
	if len(words) == 0 {
		words = []string{"16"}
	}
	for _, w := range words {
		t, ok := counts[w]
		if !ok {
			return phrase.Wrong(w, "count is "+strings.Join(CountWords, ", "))
		}
		p.lengths = append(p.lengths, t)
	}
	if err := oneOf("feel", &p.Feel, "straight", "shuffle"); err != nil {
		return err
	}
	if err := oneOf("turn", &p.Turn, "once", "twice"); err != nil {
		return err
	}
	if p.Displace != "" {
		t, err := lick.ParseTime(p.Displace)
		if err != nil || t.Before(lick.Time{}) || lick.NewTime(4, 1).Before(t) {
			return phrase.Wrong(p.Displace, "displace is a fraction of a whole note, such as 1/4")
		}
		p.offset = t
	}
	return nil
}

func (p *plan) readEnd() (err error) {
	if p.Land != "" {
		word, beat, ok := strings.Cut(p.Land, "@")
		l := landing{}
		if l.degree, err = music.ParseDegree(word); err != nil {
			return err
		}
		if ok {
			if l.beat, err = strconv.Atoi(beat); err != nil || l.beat < 1 || l.beat > 4 {
				return phrase.Wrong(p.Land, "after @ stands the beat, 1 to 4")
			}
		}
		p.land = &l
	}
	p.pick = pick.Alternate
	if p.Pick != "" {
		p.pick, err = pick.ParseWay(p.Pick)
	}
	return err
}

func (p *plan) readLimits() error {
	for _, n := range []struct {
		name  string
		value int
		most  int
	}{{"times", p.Times, maxTimes}, {"repeat", p.Repeat, maxRepeat}, {"bars", p.Bars, maxBars}, {"accent", p.Accent, maxTimes}, {"start", p.Start, maxTimes}, {"rotate", p.Rotate, phrase.MaxSteps}} {
		if n.value < 0 || n.value > n.most {
			return phrase.Wrong(strconv.Itoa(n.value), fmt.Sprintf("%s is 1 to %d", n.name, n.most))
		}
	}
	if p.Times > 0 && p.Bars > 0 {
		return errors.New("times and bars both say how long the run is; name one")
	}
	if p.Tempo != 0 && !(p.Tempo >= lick.MinTempo && p.Tempo <= lick.MaxTempo) {
		return phrase.Wrong(strconv.FormatFloat(p.Tempo, 'f', -1, 64), fmt.Sprintf("tempo is %g to %g", float64(lick.MinTempo), float64(lick.MaxTempo)))
	}
	for i, c := range p.phrase.Cells {
		if p.Rotate > len(c) {
			return phrase.Wrong(strconv.Itoa(p.Rotate), fmt.Sprintf("rotate: cell %d has %d steps", i+1, len(c)))
		}
	}
	p.Repeat = max(1, p.Repeat)
	return nil
}

// Names lists the arguments in the order they are written.
func Names() []string {
	var out []string
	for _, o := range new(Recipe).options() {
		out = append(out, o.name)
	}
	return out
}

// Set changes one argument; an empty value takes it away.
func (r *Recipe) Set(name, value string) error {
	for _, o := range r.options() {
		if o.name != name {
			continue
		}
		value = strings.TrimSpace(value)
		switch {
		case o.text != nil:
			*o.text = value
		case value == "":
			if o.num != nil {
				*o.num = 0
			} else {
				*o.real = 0
			}
		case o.num != nil:
			n, err := strconv.Atoi(value)
			if err != nil {
				return phrase.Wrong(value, name+" is a whole number")
			}
			*o.num = n
		default:
			x, err := strconv.ParseFloat(value, 64)
			if err != nil || x != x {
				return phrase.Wrong(value, name+" is a number")
			}
			*o.real = x
		}
		return nil
	}
	return phrase.Wrong(name, "is no argument of a run")
}

// Get reads one argument as it is written, empty where it is the default.
func (r Recipe) Get(name string) string {
	for _, o := range r.options() {
		switch {
		case o.name != name:
		case o.text != nil:
			return *o.text
		case o.num != nil && *o.num != 0:
			return strconv.Itoa(*o.num)
		case o.real != nil && *o.real != 0:
			return strconv.FormatFloat(*o.real, 'f', -1, 64)
		}
	}
	return ""
}
