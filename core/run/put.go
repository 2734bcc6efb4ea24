package run

import (
	"cmp"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/phrase"
)

// Put is the recipe with one argument of part k, counted from 0, said anew, as a player says it: by its value or by its
// name. An empty text takes the argument away.
//
// What was just said stands. Other words give way to it where the run could not be grown otherwise: a number of times
// for which a longer cell has no room, a place or a shape that does not hold it, a move that the cell does not have.
// What goes only together comes together: moving through scales brings scales. Each word that gave way is told in a
// sentence. The error is one sentence that names what was said and cannot be; the recipe is then as it was.
func (r Recipe) Put(k int, arg, text string, g neck.Guitar) (out Recipe, told []string, err error) {
	parts, err := r.Parts()
	if err != nil {
		return r, nil, err
	}
	if k < 0 || k >= len(parts) {
		return r, nil, phrase.Wrong(strconv.Itoa(k+1), "the run has no such part")
	}
	c := change{recipe: r, part: k, arg: arg, guitar: g}
	if err := c.set(parts[k], strings.Join(strings.Fields(text), " ")); err != nil {
		return r, nil, err
	}
	c.together()
	if err := c.grow(); err != nil {
		return r, nil, err
	}
	return c.recipe, c.told, nil
}

// change is a word of a recipe that is being said anew.
type change struct {
	recipe Recipe
	part   int
	arg    string // what was said, which does not give way
	guitar neck.Guitar
	told   []string
}

// get and put read and write an argument of the part, as it was said. What is put is a text or a number that was read.
func (c *change) get(arg string) string {
	parts, err := c.recipe.said()
	if err != nil {
		return ""
	}
	return parts[c.part].Get(arg)
}

func (c *change) put(arg, value string) error { return c.recipe.SetPart(c.part, arg, value) }

// whole is the part with what it has from those before it.
func (c *change) whole() Recipe {
	parts, err := c.recipe.Parts()
	if err != nil {
		return c.recipe
	}
	return parts[c.part]
}

// set writes the word that was said; part is the part as it was, complete.
func (c *change) set(part Recipe, text string) error {
	if c.arg == "key" {
		return c.setKey(part, text)
	}
	value, err := Value(c.arg, text)
	if err != nil {
		return err
	}
	return c.put(c.arg, value)
}

// setKey puts the part into another key. Its shape and its move stay, its place fits the key.
func (c *change) setKey(part Recipe, text string) error {
	in, err := part.InKey(c.guitar, text)
	if err != nil {
		return err
	}
	for _, arg := range []string{"key", "add", "drop", "layout", "at", "land"} {
		if err := c.put(arg, in.Get(arg)); err != nil {
			return err
		}
	}
	return nil
}

// Value is a text as its argument is written: names of terms, numbers in words, degrees with their signs. An error
// names the word; empty is empty.
func Value(arg, text string) (string, error) {
	if text == "" {
		return "", nil
	}
	if value := ValueOf(arg, text); value != text {
		return value, nil
	}
	switch arg {
	case "add", "drop":
		return degreesSaid(text), nil
	case "at":
		return placeSaid(text), nil
	case "land":
		l, err := ParseLanding(text)
		return l.String(), err
	case "count":
		words := countWords(text)
		for i, w := range words {
			words[i] = ValueOf("count", w)
		}
		return strings.Join(words, ","), nil
	case "times", "bars", "accent", "repeat", "rotate", "start":
		if digits := digitsOf(text, " "); digits != "" && !strings.Contains(digits, " ") {
			return digits, nil
		}
	case "mirror", "loop", "even":
		if slices.Contains([]string{"no", "off", "false"}, strings.ToLower(text)) {
			return "", nil
		}
	}
	return text, nil
}

// degreesSaid writes degrees as they are read: "♭5 going down, 9" is b5@down,9.
func degreesSaid(text string) string {
	text = strings.NewReplacer("♭", "b", "♯", "#", " going ", "@", " on the way ", "@", " below the root", "@below",
		" in octave ", "@").Replace(text)
	if strings.EqualFold(text, "none") || strings.EqualFold(text, "no added tones") {
		return ""
	}
	return strings.Join(list(text), ",")
}

// placeSaid writes a place as it is read: "fret 9 on string 6" is 6:9.
func placeSaid(text string) string {
	var fret, str int
	if n, err := fmt.Sscanf(strings.ToLower(text), "fret %d on string %d", &fret, &str); err == nil && n == 2 {
		return neck.Place{String: str, Fret: fret}.Notation()
	}
	return text
}

// together brings what goes only together, and lets go of what the new word has no use for.
func (c *change) together() {
	move, _, _ := termOf("move", c.get("move"))
	scales := c.get("scales")
	switch {
	case c.arg == "move" && move.Needs == "scales" && scales == "":
		_ = c.put("scales", usualScales(c.whole()))
	case c.arg == "move" && move.Needs == "" && scales != "":
		_ = c.put("scales", "")
	case c.arg == "scales" && scales == "" && move.Needs == "scales":
		_ = c.put("move", "")
	case c.arg == "scales" && scales != "" && move.Needs == "":
		_ = c.put("move", "scale")
	}
	for _, pair := range [][2]string{{"times", "bars"}, {"bars", "times"}, {"from", "displace"}, {"displace", "from"}} {
		if c.arg == pair[0] && c.get(pair[0]) != "" {
			_ = c.put(pair[1], "")
		}
	}
	l, err := ParseLanding(c.get("land"))
	switch {
	case err != nil:
	case c.arg == "land" && l.Bar > 0:
		_, _ = c.put("times", ""), c.put("bars", "")
	case (c.arg == "times" || c.arg == "bars") && l.Bar > 0 && c.get(c.arg) != "":
		l.Bar = 0
		_ = c.put("land", l.String())
	}
	if c.arg == "pivot" && c.get("pivot") != "" && !isChordCell(c.get("tail")) {
		_ = c.put("tail", usualChordTail)
	}
	if c.arg == "tail" && !isChordCell(c.get("tail")) {
		_ = c.put("pivot", "")
	}
}

// usualChordTail is the tail that a pivot brings along.
const usualChordTail = "chord: 3 5 3 1"

// isChordCell says whether a cell names degrees of a chord.
func isChordCell(text string) bool {
	p, err := phrase.ParsePhrase(text)
	return err == nil && p.Kind == phrase.Chord
}

// usualScales are the scales that a move through scales brings along: the key's own, and the one of its kind that
// differs from it in one tone.
func usualScales(r Recipe) string {
	p, err := music.ParseKey(r.Key, nil, nil)
	if err != nil {
		return "natural minor, dorian"
	}
	next := map[string]string{
		"natural minor":    "dorian",
		"dorian":           "natural minor",
		"major":            "mixolydian",
		"mixolydian":       "major",
		"lydian":           "major",
		"phrygian":         "natural minor",
		"harmonic minor":   "natural minor",
		"melodic minor":    "dorian",
		"minor pentatonic": "blues",
		"blues":            "minor pentatonic",
		"major pentatonic": "major blues",
	}[p.Scale.Name]
	if next == "" && p.Minor() {
		next = "natural minor"
	}
	return p.Scale.Name + ", " + cmp.Or(next, "major")
}

// giveWay are the words that give way to what was said, in the order in which they are tried: those that a player
// misses least come first.
var giveWay = [][]string{
	{"times"}, {"bars"}, {"start"}, {"rotate"},
	{"move"}, {"move", "times"}, {"down-cell"}, {"down-cell", "move"},
	{"at"}, {"at", "times"},
	{"layout"}, {"layout", "at"}, {"layout", "at", "times"},
	{"tail", "pivot"}, {"pivot"}, {"land"}, {"from"}, {"displace"}, {"chords"}, {"mirror"}, {"turn"},
	{"scales", "move"},
	{"layout", "at", "times", "bars", "start", "rotate", "move", "down-cell", "scales"},
}

// grow grows the recipe, and where that cannot be, with other words given way. The error is that of the recipe as it
// was said.
func (c *change) grow() error {
	_, asSaid := Grow(c.recipe, c.guitar)
	if asSaid == nil {
		return nil
	}
	parts, err := c.recipe.said()
	if err != nil {
		return err
	}
	// A later part that has its cell or key from this one may be what has no room.
	for k := c.part; k < len(parts); k++ {
		for _, args := range giveWay {
			if c.gives(k, args) {
				return nil
			}
		}
	}
	if c.part > 0 || len(parts) == 1 {
		return asSaid
	}
	// All later parts together.
	try := *c
	for k := 1; k < len(parts); k++ {
		for _, arg := range []string{"times", "start", "at", "layout"} {
			_ = try.recipe.SetPart(k, arg, "")
		}
	}
	if _, err := Grow(try.recipe, c.guitar); err != nil {
		return asSaid
	}
	try.told = append(try.told, "The parts that follow begin where they have room.")
	*c = try
	return nil
}

// gives tries a recipe in which some words of a part have given way, and takes it where it grows. A place gives way to
// the nearest one that does.
func (c *change) gives(k int, args []string) bool {
	try := *c
	try.told = slices.Clone(c.told)
	given := 0
	for _, arg := range args {
		was := try.recipe.of(k).Get(arg)
		if was == "" && arg != "at" || k == c.part && arg == c.arg {
			continue
		}
		given++
		_ = try.recipe.SetPart(k, arg, "") // nothing can be wrong with an empty value
		if was != "" && arg != "at" {
			try.told = append(try.told, gaveWay(arg, was))
		}
	}
	if given == 0 {
		return false
	}
	if _, err := Grow(try.recipe, c.guitar); err == nil {
		if slices.Contains(args, "at") {
			try.tellPlace(k, c.recipe.of(k).At)
		}
		*c = try
		return true
	}
	if !slices.Contains(args, "at") || k == c.part && c.arg == "at" {
		return false
	}
	whole, err := c.recipe.Parts()
	if err != nil {
		return false
	}
	p, keyErr := music.ParseKey(whole[k].Key, list(whole[k].Add), list(whole[k].Drop))
	if keyErr != nil {
		return false
	}
	from, degree := begins(whole[k], p, true, c.guitar)
	starts := startsOf(p, degree, from, c.guitar)
	for _, at := range starts[:min(len(starts), mostPlaces)] {
		_ = try.recipe.SetPart(k, "at", at.Notation())
		if _, err := Grow(try.recipe, c.guitar); err == nil {
			try.tellPlace(k, c.recipe.of(k).At)
			*c = try
			return true
		}
	}
	return false
}

// mostPlaces is how many places are tried where one has to give way.
const mostPlaces = 16

// of is part k as it was said.
func (r Recipe) of(k int) Recipe {
	parts, err := r.said()
	if err != nil || k >= len(parts) {
		return Recipe{}
	}
	return parts[k]
}

// gaveWay tells which word gave way.
func gaveWay(arg, was string) string {
	name := NameOf(arg, was)
	if arg == "land" {
		if l, err := ParseLanding(was); err == nil {
			name = l.Say()
		}
	}
	if _, known := vocabulary[arg]; known || arg == "land" {
		return fmt.Sprintf("“%s” gave way.", name)
	}
	return fmt.Sprintf("The %s %s gave way.", strings.ReplaceAll(arg, "-", " "), name)
}

// tellPlace tells where the part begins now, if that is another place.
func (c *change) tellPlace(k int, was string) {
	now := c.recipe.of(k).At
	if now == was {
		return
	}
	if at, err := neck.ParsePlace(now); err == nil {
		l := lick.New()
		l.Tuning = c.guitar.Tuning
		c.told = append(
			c.told,
			fmt.Sprintf("It begins on fret %d on %s, where it has room.", at.Fret, l.StringName(at.String)),
		)
		return
	}
	c.told = append(c.told, "It begins where the shape does.")
}

// Unused lists the arguments that make no difference to a run, each in a sentence: what was said of the way down of a
// run that never comes down, scales through which it does not move. A recipe that does not grow has none.
func Unused(r Recipe, g neck.Guitar) []string {
	parts, err := r.said()
	grown, growErr := Grow(r, g)
	if err != nil || growErr != nil {
		return nil
	}
	heard := grown.heard()
	var out []string
	for k := range parts {
		for _, x := range onlyWith {
			value := parts[k].Get(x.arg)
			if value == "" {
				continue
			}
			without := r
			if without.SetPart(k, x.arg, "") != nil {
				continue
			}
			other, err := Grow(without, g)
			if err == nil && other.heard() == heard && value != "key" && value != "once" {
				out = append(out, fmt.Sprintf("--%s %s has no effect here: %s.", x.arg, value, x.why))
			}
		}
	}
	return out
}

// onlyWith are the arguments that need something else to be heard, and what.
var onlyWith = []struct{ arg, why string }{
	{"scales", "the run moves through scales with --move scale or scale:string"},
	{"follow", "the run goes over no chords"},
	{"down-cell", "the run never comes down"},
	{"turn", "the run does not turn round at the top"},
	{"even", "no string is left on an odd count"},
	{"start", "the run begins there anyway, or a chord’s root says where it begins"},
	{"rotate", "the cell begins on that step anyway"},
	{"slurs", "no note follows another on its string that way"},
}

// heard is the run as far as it is heard: its notes, tones and chords.
func (r *Run) heard() string {
	l := r.Lick
	l.Recipe, l.Title, l.Parts = "", "", nil
	return string(l.Encode())
}
