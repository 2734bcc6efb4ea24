package run

import (
	"cmp"
	"errors"
	"flag"
	"fmt"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/phrase"
	"ornamen/core/text"
)

// Recipe is a run as data: the arguments of the run command. The zero value of a field is its default.
//
// It is a comparable value: two recipes are the same if they are equal, and the empty one is none. Words are kept as
// they were typed, so that String gives back what a player wrote; plan reads them.
type Recipe struct {
	Key, Add, Drop string
	Layout         string // as shape.ParseLayout reads it; empty: the scale's usual one
	At             string // STRING:FRET of the lowest tone; empty: the lowest root
	Cell           string
	Move           string // a number of tones, string, string:2, octave, position, chord, scale, stay
	Times          int    // cells played, 0: as far as the layout does
	Dir            string // up, down, updown, downup
	DownCell       string // played on the way down instead of the cell
	Mirror         bool   // each cell is answered by its mirror, which leads back to where it began
	Loop           bool   // the end leads back to the start
	Repeat         int    // how often a cell is played before it moves
	Even           bool   // a cell with an odd count on a string is played twice, the first one aside
	Count          string // 4 8 8t 16 16t 16q 16s, or several that take turns: "16,16,8"
	Accent         int    // every so many notes, 0: as the cell says
	Chords         string // degrees of the key, "1 4 5"
	Follow         string // key, chord: whose tones are played over a chord
	Scales         string // "natural minor, dorian"
	Land           string // as ParseLanding reads it
	Start          int    // tone of the layout to begin on, from 1
	Rotate         int    // step of the cell to begin on, from 1
	Turn           string // once, twice: the top place where an updown run turns
	Bars           int    // length in bars
	Feel           string
	Tail           string // a cell played once at the end
	Pivot          string // the tail's degree that the run's last note is
	From           string // the beat on which the run begins: 3&
	Displace       string // a fraction of a whole note by which the run starts later
	Pick           string
	Slurs          string // which notes are slurred besides those of the cell: string, way, up, down
	Tempo          float64
	Tuning         string // "D4 A3 G3 D3 A2 D2", string 1 first; empty: the guitar's
	Then           string // the parts that follow, as their arguments with --then between them
}

// Limits of a recipe. They are far beyond what is practised, so that only slips and hostile
// input meet them: a run of MaxNotes sixteenths at 120 lasts four minutes.
const (
	MaxNotes  = 2048 // a longer run is refused
	maxTimes  = MaxNotes
	maxRepeat = 64
	maxBars   = 256
)

// option is one argument: its name, where it is kept, and what it is: first the name of its value.
type option struct {
	name  string
	value any // *string, *int, *float64 or *bool
	what  string
}

// options lists the arguments in the order in which they are written. A new argument is
// one row here and its field; the command line, the files and the forms read this list.
func (r *Recipe) options() []option {
	return []option{
		{"key", &r.Key, "`KEY` root and scale, as in \"C# natural minor\"; must be given"},
		{"add", &r.Add, "`TONES` colour notes, as in 9,b5@down"},
		{"drop", &r.Drop, "`TONES` tones of the scale left out"},
		{"layout", &r.Layout, "`LAYOUT` where the tones are taken from: " + helpOf("layout") +
			"; box for five and six tones, else 3nps"},
		{"at", &r.At, "`STRING:FRET` place of the lowest tone; the lowest root on string 6"},
		{"cell", &r.Cell, "`CELL` what is repeated, as in \"3 2 1 4\"; must be given"},
		{"move", &r.Move, "`MOVE` how the cell moves: " + helpOf("move") + "; 1"},
		{"times", &r.Times, "`N` cells that are played, turns included; as far as the layout goes"},
		{"bars", &r.Bars, "`N` length in bars"},
		{"dir", &r.Dir, "`up|down|updown|downup` which way it goes; up"},
		{"down-cell", &r.DownCell, "`CELL` another cell on the way down"},
		{"mirror", &r.Mirror, "each cell is answered by its mirror, which leads back to where it began"},
		{"turn", &r.Turn, "`once|twice` how often the top is played where an updown run turns"},
		{"loop", &r.Loop, "the end leads back to the start"},
		{"repeat", &r.Repeat, "`N` how often a cell is played before it moves"},
		{"even", &r.Even, "each string's count is made even"},
		{"start", &r.Start, "`N` tone of the layout to begin on, from 1"},
		{"rotate", &r.Rotate, "`N` step of the cell to begin on, from 1"},
		{
			"count",
			&r.Count,
			"`4|8|8t|16|16t|16q|16s` length of a note, by its word or its name, or several that take turns: " +
				helpOf("count") + "; 16",
		},
		{"accent", &r.Accent, "`N` every Nth note is accented"},
		{"feel", &r.Feel, "`straight|shuffle` straight or shuffle; straight"},
		{"from", &r.From, "`BEAT` beat on which it begins, as in 3&"},
		{"displace", &r.Displace, "`TIME` starts later by a part of a whole note, as in 1/4"},
		{"chords", &r.Chords, "`CHORDS` chords of the line, as in \"1 4 5\""},
		{"follow", &r.Follow, "`key|chord` the key's tones throughout, or each chord's; key"},
		{"scales", &r.Scales, "`SCALES` scales for --move scale, on the key's root or one that they name, " +
			"as in \"natural minor, D dorian\""},
		{"tail", &r.Tail, "`CELL` played once at the end"},
		{"pivot", &r.Pivot, "`DEGREE` the tail's degree that the last note is"},
		{
			"land",
			&r.Land,
			"`[chord:]DEGREE[@[BAR:]BEAT]` ends on that degree of the key or of the chord, on that beat, in " +
				"that bar; also in words: \"the third of the chord in bar 3 on beat 1\"",
		},
		{"slurs", &r.Slurs, "`string|way|up|down` slurs besides those of the cell: " + helpOf("slurs") +
			"; slides where the hand cannot span"},
		{"pick", &r.Pick, "`alternate|economy|legato|free` way of picking; alternate"},
		{"tempo", &r.Tempo, "`N` quarters a minute; 100"},
		{"tuning", &r.Tuning, "`TUNING` another tuning, the thinnest string first"},
		{"then", &r.Then, "goes on with another part, which takes key, shape, place, cell and count from the one before"},
	}
}

// text is the argument as it is written, empty where it is the default. A switch is "yes".
func (o option) text() string {
	switch v := o.value.(type) {
	case *string:
		return *v
	case *bool:
		if *v {
			return "yes"
		}
	case *int:
		if *v != 0 {
			return strconv.Itoa(*v)
		}
	case *float64:
		if *v != 0 {
			return strconv.FormatFloat(*v, 'f', -1, 64)
		}
	}
	return ""
}

// silent says whether the argument is a switch, which stands without a value.
func (o option) silent() bool { _, is := o.value.(*bool); return is }

// Bind makes every argument of the recipe a flag. What stands after --then is said of the next part. The command line's
// flags, the forms' fields and the words of a file have the same names for it.
func (r *Recipe) Bind(fs *flag.FlagSet) { r.binder(fs) }

// binder puts what the flags say into the part that is being read, and keeps the recipe up to date.
type binder struct {
	recipe *Recipe
	parts  []Recipe
	err    error // what was wrong with a value, in our own words
}

func (r *Recipe) binder(fs *flag.FlagSet) *binder {
	b := &binder{recipe: r, parts: []Recipe{*r}}
	for _, o := range r.options() {
		fs.Var(argument{b, o.name, o.silent() || o.name == thenName}, o.name, o.what)
	}
	return b
}

// argument is a flag of the part that is being read.
type argument struct {
	*binder
	name   string
	silent bool // it stands without a value
}

// String implements flag.Value; the default of every argument is nothing.
func (argument) String() string { return "" }

// IsBoolFlag tells the flags that an argument may stand without a value.
func (a argument) IsBoolFlag() bool { return a.silent }

// Set implements flag.Value.
func (a argument) Set(value string) error {
	a.err = a.set(value)
	return a.err
}

// set puts a value into the part that is being read; --then begins the next.
func (a argument) set(value string) error {
	if a.silent {
		if on, err := strconv.ParseBool(value); err != nil {
			return phrase.Wrong(value, a.name+" is true or false")
		} else if !on {
			value = ""
		}
	}
	if a.name != "then" {
		if err := a.parts[len(a.parts)-1].Set(a.name, value); err != nil {
			return err
		}
	} else if len(a.parts) == maxParts {
		return fmt.Errorf("a run has at most %d parts", maxParts)
	} else if value != "" {
		a.parts = append(a.parts, Recipe{})
	}
	*a.recipe = Sequence(a.parts...)
	return nil
}

// Parse reads the arguments of run as one line, quotes as in a shell. The words are checked on a standard guitar, so
// that a recipe that Parse takes can at least be read; whether it has room is for Grow to say, on the player's guitar.
func Parse(line string) (Recipe, error) {
	words, err := split(line)
	if err != nil {
		return Recipe{}, err
	}
	parts, err := readParts(Recipe{}, words)
	if err != nil {
		return Recipe{}, err
	}
	r := Sequence(parts...)
	if parts, err = r.Parts(); err != nil {
		return r, err
	}
	for _, p := range parts {
		if _, err := p.plan(neck.Standard()); err != nil {
			return r, err
		}
	}
	return r, nil
}

// split cuts a line into words; quotes hold one together. A shell's words are not quite these:
// libraries for them take the backslash away, which here is a mark of the phrase ("\3" comes
// from above), and open a quote within a word, where an apostrophe is an octave ("1 3 1'").
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

// String writes the recipe as Parse reads it, defaults left out. Values with a space or a mark
// that a shell would take for its own are in quotes, so that the line can be pasted there.
func (r Recipe) String() string {
	var b strings.Builder
	for _, o := range r.options() {
		text := o.text()
		if text == "" {
			continue
		}
		if b.Len() > 0 || o.name == thenName {
			b.WriteByte(' ')
		}
		b.WriteString("--" + o.name)
		switch {
		case o.silent() || strings.TrimSpace(text) == "":
		case o.name != thenName && strings.ContainsAny(text, " '|()<>\\~#"):
			b.WriteString(` "` + text + `"`)
		default:
			b.WriteString(" " + text)
		}
	}
	return b.String()
}

// StepLength is how long a step of a count lasts, 0 where there is no such count.
// Lengths are fractions of a whole note.
func StepLength(word string) lick.Time {
	c, _ := countOf(word)
	return c.length
}

// CountWords are the counts in rising speed.
var CountWords = text.Map(counts, func(c count) string { return c.word })

// usualCount is the count of a recipe that names none.
const usualCount = "16"

// usualMove is what a cell does when nothing is said: it goes on by the least that its own steps are made of.
var usualMove = map[phrase.Kind]move{phrase.Tones: {kind: "tones", by: 1}, phrase.Strings: {kind: "string", by: 1},
	phrase.Chord: {kind: "chord", by: 1}}

// Names lists the arguments in the order they are written.
func Names() []string {
	return text.Map(new(Recipe).options(), func(o option) string { return o.name })
}

// Set changes one argument; an empty value takes it away.
// Texts are taken as they are and read by Grow; numbers are read here. An error is a
// *phrase.WordError and changes nothing.
func (r *Recipe) Set(name, value string) error {
	for _, o := range r.options() {
		if o.name != name {
			continue
		}
		value = strings.TrimSpace(value)
		switch v := o.value.(type) {
		case *string:
			*v = value
		case *bool:
			*v = value != ""
		case *int:
			n, err := strconv.Atoi(cmp.Or(value, "0"))
			if err != nil {
				return phrase.Wrong(value, name+" is a whole number")
			}
			*v = n
		case *float64:
			x, err := strconv.ParseFloat(cmp.Or(value, "0"), 64)
			if err != nil || x != x {
				return phrase.Wrong(value, name+" is a number")
			}
			*v = x
		}
		return nil
	}
	return phrase.Wrong(name, "is no argument of a run")
}

// Get reads one argument as it is written, empty where it is the default. A switch is "yes".
func (r Recipe) Get(name string) string {
	for _, o := range r.options() {
		if o.name == name {
			return o.text()
		}
	}
	return ""
}
