package run

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/phrase"
	"ornamen/core/shape"
)

// Choice is what an argument of a run can be: what it is called, how it is written, and whether it is so now.
type Choice struct {
	Name, Value string
	On          bool
}

// Choices are the values that an argument of part k, counted from 0, can have in this place, in the order in which they
// are offered: those with which the run can be grown, other words giving way as in Put. A recipe that cannot be read
// has none.
func (r Recipe) Choices(k int, arg string, g neck.Guitar) []Choice {
	parts, err := r.Parts()
	if err != nil || k < 0 || k >= len(parts) {
		return nil
	}
	now, _ := Value(arg, parts[k].Get(arg))
	if now == "" {
		now = usual[arg]
	}
	var out []Choice
	for _, c := range r.candidates(k, parts[k], arg, g) {
		c.On = c.Value == now || c.Value == "" && now == usual[arg]
		known := slices.ContainsFunc(out, func(o Choice) bool { return o.Value == c.Value })
		if !known && (c.On || r.canBe(k, arg, c.Value, g)) {
			out = append(out, c)
		}
	}
	return out
}

// canBe says whether the run can be grown with a value. Another key, cell, shape or way may take the place along; for
// all else the run stays where it is, and its length alone may give way.
func (r Recipe) canBe(k int, arg, value string, g neck.Guitar) bool {
	if arg == "key" {
		return r.inKeyAtAll(k, value, g)
	}
	out, _, err := r.Put(k, arg, value, g)
	if err != nil {
		return false
	}
	switch arg {
	case "layout", "at", "cell", "move", "dir", "scales", "chords", "tuning":
		return true
	}
	for _, kept := range []string{"key", "layout", "at", "cell", "move", "start", "rotate"} {
		if kept != arg && out.of(k).Get(kept) != r.of(k).Get(kept) {
			return false
		}
	}
	return true
}

// inKeyAtAll says whether one cell of the part can be played in another key: its length would give way.
func (r Recipe) inKeyAtAll(k int, key string, g neck.Guitar) bool {
	parts, err := r.Parts()
	if err != nil {
		return false
	}
	one := parts[k]
	one.Times, one.Bars, one.Land, one.Tail, one.Pivot, one.Start = 1, 0, "", "", "", 0
	in, err := one.InKey(g, key)
	return err == nil && grown(in, g)
}

// candidates are the values of an argument that may be offered, whether the run can have them or not.
func (r Recipe) candidates(k int, part Recipe, arg string, g neck.Guitar) []Choice {
	if c, ok := asking[arg]; ok {
		return c(r, k, part, g)
	}
	p, _ := phrase.ParsePhrase(part.Cell) // one that cannot be read has grown nothing
	out := []Choice{}
	switch arg {
	case "move", "layout":
		out = append(out, Choice{Name: "as usual"})
	case "slurs":
		out = append(out, Choice{Name: "as the cell says"})
	}
	for _, t := range vocabulary[arg] {
		if arg == "move" && !t.goesWith(p.Kind) {
			continue
		}
		values := t.Try
		if values == nil {
			values = []string{t.Value}
		}
		for _, v := range values {
			if !strings.ContainsAny(v, "#…") {
				out = append(out, Choice{Name: t.name(v), Value: v})
			}
		}
	}
	return out
}

// asking are the arguments whose values depend on the run.
var asking = map[string]func(r Recipe, k int, part Recipe, g neck.Guitar) []Choice{
	"key":       keyChoices,
	"add":       addChoices,
	"drop":      dropChoices,
	"at":        placeChoices,
	"cell":      cellChoices,
	"down-cell": downChoices,
	"tail":      tailChoices,
	"times":     timesChoices,
	"bars":      barsChoices,
	"start":     startChoices,
	"rotate":    rotateChoices,
	"repeat":    repeatChoices,
	"accent":    accentChoices,
	"from":      fromChoices,
	"displace":  displaceChoices,
	"chords":    chordsChoices,
	"scales":    scalesChoices,
	"pivot":     pivotChoices,
	"land":      landChoices,
	"mirror":    switchChoices("each cell answered by its mirror"),
	"loop":      switchChoices("as a loop"),
	"even":      switchChoices("odd counts on a string twice"),
	"tempo":     tempoChoices,
	"tuning":    tuningChoices,
}

// named are choices of their own words: name, value, name, value.
func named(words ...string) []Choice {
	var out []Choice
	for i := 0; i+1 < len(words); i += 2 {
		out = append(out, Choice{Name: words[i], Value: words[i+1]})
	}
	return out
}

// numbered are the numbers from one to another, each with its name.
func numbered(arg string, from, to int) []Choice {
	var out []Choice
	for n := from; n <= to; n++ {
		v := strconv.Itoa(n)
		out = append(out, Choice{Name: NameOf(arg, v), Value: v})
	}
	return out
}

func switchChoices(name string) func(Recipe, int, Recipe, neck.Guitar) []Choice {
	return func(Recipe, int, Recipe, neck.Guitar) []Choice { return named("without", "", name, "yes") }
}

// keyChoices are all scales on the root of the key.
func keyChoices(_ Recipe, _ int, part Recipe, _ neck.Guitar) []Choice {
	p, err := music.ParseKey(part.Key, nil, nil)
	if err != nil {
		return nil
	}
	var out []Choice
	for _, name := range music.ScaleNames() {
		out = append(out, Choice{Name: name, Value: p.Tonic.String() + " " + name})
	}
	return out
}

// addChoices put in one more colour note, or take one out again.
func addChoices(_ Recipe, _ int, part Recipe, _ neck.Guitar) []Choice {
	p, err := music.ParseKey(part.Key, nil, list(part.Drop))
	if err != nil {
		return nil
	}
	added := list(part.Add)
	out := named("none", "")
	for _, word := range []string{"b9", "9", "b3", "3", "4", "b5", "5", "b6", "6", "b7", "7", "b5@down", "7@below"} {
		degree, _, _ := strings.Cut(word, "@")
		d, _ := music.ParseDegree(degree) // written out above
		has := slices.Contains(added, word)
		if !has &&
			(p.Has(d) || slices.ContainsFunc(added, func(w string) bool { return strings.HasPrefix(w+"@", degree+"@") })) {
			continue
		}
		if has {
			rest := slices.DeleteFunc(slices.Clone(added), func(w string) bool { return w == word })
			out = append(out, Choice{Name: "without " + DegreesName(word), Value: strings.Join(rest, ",")})
			continue
		}
		out = append(out, Choice{Name: DegreesName(word), Value: strings.Join(append(slices.Clone(added), word), ",")})
	}
	return out
}

// dropChoices leave out one more tone of the scale.
func dropChoices(_ Recipe, _ int, part Recipe, _ neck.Guitar) []Choice {
	p, err := music.ParseKey(part.Key, nil, nil)
	if err != nil {
		return nil
	}
	dropped := list(part.Drop)
	out := named("none", "")
	for _, d := range p.Scale.Degrees[1:] {
		if !slices.Contains(dropped, d.String()) {
			out = append(out, Choice{Name: d.Pretty(), Value: strings.Join(append(slices.Clone(dropped), d.String()), ",")})
		}
	}
	return out
}

// DegreesName writes degrees with their signs: "b5@down 9" is "♭5 going down, 9". A word that is no degree stays.
func DegreesName(s string) string {
	var out []string
	for _, w := range list(s) {
		word, hold, held := strings.Cut(w, "@")
		if d, err := music.ParseDegree(word); err == nil {
			word = d.Pretty()
		}
		switch {
		case held && hold == "below":
			word += " below the root"
		case held && (hold == "up" || hold == "down"):
			word += " going " + hold
		case held:
			word += " in octave " + hold
		}
		out = append(out, word)
	}
	return strings.Join(out, ", ")
}

// placeChoices are the places along the string of the start where the run can begin.
func placeChoices(_ Recipe, _ int, part Recipe, g neck.Guitar) []Choice {
	p, layout, at, err := Laid(part, g)
	if err != nil || at.String > len(g.Tuning) {
		return nil
	}
	l := lick.New()
	l.Tuning = g.Tuning
	var out []Choice
	for fret := 0; fret <= g.Frets && len(out) < 14; fret++ {
		start := neck.Place{String: at.String, Fret: fret}
		if _, err := shape.Lay(g, p, layout, start); err == nil {
			t := p.At(g.Pitch(start))
			out = append(out, Choice{Name: fmt.Sprintf("fret %d, the %s", fret, t.Degree.Pretty()), Value: start.Notation()})
		}
	}
	for s := len(g.Tuning); s >= 1; s-- {
		start := shape.LowestRoot(g, p, s)
		if s != at.String && g.Has(start) {
			out = append(out, Choice{Name: fmt.Sprintf("the root on %s, fret %d", l.StringName(s), start.Fret),
				Value: start.Notation()})
		}
	}
	return out
}

// Laid are a part's tones, the layout and the place where it starts, each the usual one where none is given.
func Laid(r Recipe, g neck.Guitar) (p music.Palette, layout shape.Layout, at neck.Place, err error) {
	if p, err = music.ParseKey(r.Key, list(r.Add), list(r.Drop)); err != nil {
		return p, nil, at, err
	}
	layout = shape.Default(p.Scale)
	if r.Layout != "" {
		if layout, err = shape.ParseLayout(ValueOf("layout", r.Layout)); err != nil {
			return p, nil, at, err
		}
	}
	if given, err := neck.ParsePlace(r.At); err == nil {
		return p, layout, given, nil
	}
	return p, layout, shape.Start(g, p, layout), nil
}

// cellChoices are cells to begin with, of each kind.
func cellChoices(Recipe, int, Recipe, neck.Guitar) []Choice {
	return named(
		"1 2 3", "1 2 3",
		"1 2 3 4", "1 2 3 4",
		"3 2 1 4", "3 2 1 4",
		"1 3 2 1", "1 3 2 1",
		"4 2 3 1", "4 2 3 1",
		"thirds: 1 3", "1 3",
		"sixths: 1 6", "1 6",
		"two strings: a2 pa1 b1", "strings: a2 pa1 b1",
		"two strings: a1 ha2 b1 hb2", "strings: a1 ha2 b1 hb2",
		"over chords: 1 3 5 1' 5 3", "chord: 1 3 5 1' 5 3",
		"over chords: 1 5 3' 1'", "chord: 1 5 3' 1'",
	)
}

// downChoices are cells for the way down: the cell from its end, and those of its kind to begin with.
func downChoices(r Recipe, k int, part Recipe, g neck.Guitar) []Choice {
	p, err := phrase.ParsePhrase(part.Cell)
	if err != nil {
		return nil
	}
	back := p
	back.Cells = nil
	for _, c := range p.Cells {
		turned := slices.Clone(c)
		slices.Reverse(turned)
		back.Cells = append(back.Cells, turned)
	}
	out := named("the same cell", "")
	for _, text := range []string{back.String(), "3 2 1", "1 2 3", "4 3 2 1", "strings: a2 pa1 b1", "strings: b2 b1 a1"} {
		if d, err := phrase.ParsePhrase(text); err == nil && d.Kind == p.Kind && text != p.String() {
			out = append(out, Choice{Name: text, Value: text})
		}
	}
	return out
}

// tailChoices are cells to end with.
func tailChoices(Recipe, int, Recipe, neck.Guitar) []Choice {
	return named("without", "", "2 1", "2 1", "3 2 1", "3 2 1", "1 0", "1 0", "4 3 2 1", "4 3 2 1",
		"over the chord: 3 5 3 1", usualChordTail, "over the chord: 1 3 5", "chord: 1 3 5")
}

// roomFor is how many cells the run has where its length is left to it.
func roomFor(r Recipe, k int, g neck.Guitar) int {
	for _, arg := range []string{"times", "bars"} {
		_ = r.SetPart(k, arg, "")
	}
	whole, err := r.Parts()
	if err != nil {
		return 0
	}
	grown, err := Grow(whole[k], g)
	if err != nil {
		return 0
	}
	n := 0
	for _, c := range grown.Cells {
		if !c.Tail {
			n++
		}
	}
	return n
}

// timesChoices are the numbers of cells for which there is room.
func timesChoices(r Recipe, k int, _ Recipe, g neck.Guitar) []Choice {
	const most = 16
	return append(named("as far as it goes", ""), numbered("times", 1, min(most, roomFor(r, k, g)))...)
}

func barsChoices(Recipe, int, Recipe, neck.Guitar) []Choice {
	return append(named("without", ""), numbered("bars", 1, 8)...)
}

// startChoices are the tones, strings or pairs of the layout on which the cell can begin.
func startChoices(_ Recipe, _ int, part Recipe, g neck.Guitar) []Choice {
	plan, err := part.plan(g)
	if err != nil || plan.phrase.Kind == phrase.Chord {
		return nil
	}
	l, err := shape.NewLadder(plan.guitar, plan.palette, plan.layout, plan.at, false)
	if err != nil {
		return nil
	}
	strs := lick.New()
	strs.Tuning = plan.guitar.Tuning
	out := named("wherever it fits first", "")
	if plan.phrase.Kind == phrase.Strings {
		for i, on := range l.ByString {
			out = append(out, Choice{Name: "on " + strs.StringName(on[0].Place.String), Value: strconv.Itoa(i + 1)})
		}
		return out
	}
	for i, step := range l.Steps {
		what := "tone"
		if len(step) > 1 {
			what = "pair"
		}
		t := step[len(step)-1]
		out = append(out, Choice{Name: fmt.Sprintf("%s %d, the %s", what, i+1, t.Tone.Degree.Pretty()),
			Value: strconv.Itoa(i + 1)})
	}
	return out
}

// StartName is the tone, pair or string on which a part begins that names one.
func StartName(part Recipe, g neck.Guitar) string {
	value := strconv.Itoa(part.Start)
	for _, c := range startChoices(part, 0, part, g) {
		if c.Value == value {
			return strings.TrimPrefix(c.Name, "on ")
		}
	}
	return NameOf("start", value)
}

// rotateChoices are the steps on which the cell can begin.
func rotateChoices(_ Recipe, _ int, part Recipe, _ neck.Guitar) []Choice {
	p, err := phrase.ParsePhrase(part.Cell)
	if err != nil {
		return nil
	}
	steps := len(p.Cells[0])
	for _, c := range p.Cells {
		steps = min(steps, len(c))
	}
	return append(named("its first step", ""), numbered("rotate", 2, steps)...)
}

func repeatChoices(Recipe, int, Recipe, neck.Guitar) []Choice {
	return append(named("once", ""), numbered("repeat", 2, 4)...)
}

func accentChoices(Recipe, int, Recipe, neck.Guitar) []Choice {
	return append(named("as the cell says", ""), numbered("accent", 2, 9)...)
}

func fromChoices(Recipe, int, Recipe, neck.Guitar) []Choice {
	return named("the bar", "", "1&", "1&", "2", "2", "2&", "2&", "3", "3", "3&", "3&", "4", "4", "4&", "4&")
}

func displaceChoices(Recipe, int, Recipe, neck.Guitar) []Choice {
	out := named("with the bar", "")
	for _, t := range vocabulary["displace"] {
		out = append(out, Choice{Name: t.Name + " later", Value: t.Value})
	}
	return out
}

// chordsChoices are common ways through the chords of a key.
func chordsChoices(_ Recipe, _ int, part Recipe, _ neck.Guitar) []Choice {
	p, err := music.ParseKey(part.Key, nil, nil)
	if err != nil {
		return nil
	}
	out := named("none", "")
	forms := []string{"1 4 5", "1 6 2 5", "1 5 6 4", "2 5 1", "17 47 57"}
	if p.Minor() {
		forms = []string{"1 4 5", "1 b6 b7", "1 b7 b6 5", "1 4 b7 b3", "1m7 4m7 57"}
	}
	for _, f := range forms {
		out = append(out, Choice{Name: f, Value: f})
	}
	return out
}

// scalesChoices are pairs of scales on the key's root: its own and one that differs little.
func scalesChoices(_ Recipe, _ int, part Recipe, _ neck.Guitar) []Choice {
	out := named("the key’s alone", "")
	for _, s := range []string{usualScales(part), "natural minor, dorian", "major, mixolydian", "minor pentatonic, blues",
		"natural minor, phrygian, dorian", "major, lydian, mixolydian"} {
		out = append(out, Choice{Name: s, Value: s})
	}
	return out
}

func pivotChoices(Recipe, int, Recipe, neck.Guitar) []Choice {
	return named("no pivot", "", "the root", "1", "the third", "3", "the fifth", "5", "the seventh", "7", "the 9", "9")
}

// landChoices are the tones to land on, of the key and of the chord that sounds there, and for the tone that is chosen
// its beats and its bars.
func landChoices(_ Recipe, _ int, part Recipe, _ neck.Guitar) []Choice {
	p, err := music.ParseKey(part.Key, list(part.Add), list(part.Drop))
	if err != nil {
		return nil
	}
	now, _ := ParseLanding(part.Land) // the zero value where it lands on nothing
	out := named("nothing", "")
	add := func(l Landing, name string) { out = append(out, Choice{Name: name, Value: l.String()}) }
	for _, t := range p.Tones {
		l := now
		l.Degree, l.Word, l.OfChord = t.Degree, "", false
		name := "the " + t.Degree.Pretty()
		if t.Degree.Semitones() == 0 {
			name = "the root"
		}
		add(l, name)
	}
	if part.Chords != "" {
		for _, n := range []int{1, 3, 5, 7} {
			l := now
			l.Degree, l.Word, l.OfChord = music.Degree{Number: n}, degreeWords[n-1], true
			add(l, "the "+degreeWords[n-1]+" of the chord")
		}
	}
	if part.Land == "" {
		return out
	}
	for beat := 0; beat <= 4; beat++ {
		l := now
		if l.Beat = beat; beat == 0 {
			l.Bar = 0
			add(l, "wherever it comes")
			continue
		}
		add(l, fmt.Sprintf("on beat %d", beat))
	}
	for bar := 0; bar <= 8; bar++ {
		l := now
		if l.Bar = bar; bar == 0 {
			if now.Bar > 0 {
				add(l, "in whichever bar it comes to")
			}
			continue
		}
		l.Beat = max(1, l.Beat)
		add(l, fmt.Sprintf("in bar %d", bar))
	}
	return out
}

// tempoChoices are tempi from slow to fast.
func tempoChoices(Recipe, int, Recipe, neck.Guitar) []Choice {
	var out []Choice
	for _, t := range []string{"60", "72", "84", "96", "108", "120", "132", "144"} {
		out = append(out, Choice{Name: t, Value: t})
	}
	return out
}

// tuningChoices are other tunings of as many strings.
func tuningChoices(_ Recipe, _ int, _ Recipe, g neck.Guitar) []Choice {
	out := named("as the guitar is tuned", "")
	for _, t := range []string{"E4 B3 G3 D3 A2 D2", "D4 A3 F#3 D3 A2 D2", "D4 A3 G3 D3 A2 D2", "D#4 A#3 F#3 C#3 G#2 D#2",
		"D4 A3 F3 C3 G2 D2"} {
		if len(strings.Fields(t)) == len(g.Tuning) {
			out = append(out, Choice{Name: t, Value: t})
		}
	}
	return out
}

// Roots are the keys of the run's scale on each root that it can be played on.
func (r Recipe) Roots(k int, tonics []string, g neck.Guitar) []Choice {
	parts, err := r.Parts()
	if err != nil || k >= len(parts) {
		return nil
	}
	p, err := music.ParseKey(parts[k].Key, nil, nil)
	if err != nil {
		return nil
	}
	var out []Choice
	for _, root := range tonics {
		n, err := music.ParseName(root)
		key := root + " " + p.Scale.Name
		if on := p.Tonic.String() == root; err == nil && (on || r.canBe(k, "key", key, g)) {
			out = append(out, Choice{Name: n.Pretty(), Value: key, On: on})
		}
	}
	return out
}
