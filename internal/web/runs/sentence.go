package runs

import (
	"bytes"
	"cmp"
	"fmt"
	"slices"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/phrase"
	"ornamen/core/run"
	"ornamen/core/say"
	"ornamen/core/shape"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// saying is a word of the sentence that can be changed: the plain text before it, the recipe's field
// that it sets, what it says of a recipe, what may be typed, and what may be chosen, by name and value.
type saying struct {
	before, field string
	says          func(r run.Recipe, g neck.Guitar) string
	hint          string
	choices       []string // name, value, name, value …
}

// sayings are the words in the order in which a teacher would say them: tones, shape, place, cell,
// move, length, landing, count, picking. What is left out of the recipe is said as what the run does
// then ("as far as it goes"), so that a player can change it without knowing that it exists.
var sayings = []saying{
	{"From", "key", keyWord, "Root and scale, or root and degrees", nil},
	{"with", "add", addedWord, "Degrees, such as 9 or b5@down",
		[]string{"none", "", "9", "9", "♭5 on the way down", "b5@down", "7 below the root", "7@below"}},
	{",", "layout", layoutWord, "A layout, such as counts:3,1,3 or strings:2,1",
		[]string{"as usual", "", "in a box", "box", "three a string", "3nps", "on one string", "string:2",
			"an arpeggio", "arp", "joined by slides", "joined", "two boxes", "boxes:1+2", "sixths", "pairs:3,1:6"}},
	{"from", "at", placeWord, "STRING:FRET, as in 6:9", nil},
	{", play the cell", "cell", cellWord, "tones 3 2 1 4, strings: a2 pa1 b1, or chord: 1 3 5 1'",
		[]string{"1 2 3", "1 2 3", "1 2 3 4", "1 2 3 4", "3 2 1 4", "3 2 1 4", "1 3 2 1", "1 3 2 1",
			"thirds: 1 3", "1 3", "two strings: a2 pa1 b1", "strings: a2 pa1 b1", "over chords: 1 3 5 1' 5 3",
			"chord: 1 3 5 1' 5 3"}},
	{", move", "dir", func(r run.Recipe, _ neck.Guitar) string { return run.DirName(r.Dir) }, "",
		[]string{"up", "", "down", "down", "up and down", "updown", "down and up", "downup"}},
	{"", "move", moveWord, "A number of tones, or string:2",
		[]string{"as usual", "", "one tone", "1", "two tones", "2", "one string over", "string", "an octave on",
			"octave", "to the next position", "position", "to the next chord", "chord", "nowhere", "stay"}},
	{"each time,", "times", timesWord, "How many cells",
		[]string{"as far as it goes", "", "4 times", "4", "8 times", "8", "12 times", "12"}},
	{"each time,", "bars", barsWord, "How many bars",
		[]string{"without", "", "1 bar", "1", "2 bars", "2", "4 bars", "4"}},
	{", and land on", "land", landWord, "A degree, and its beat: 1@1",
		[]string{"nothing", "", "the root on 1", "1@1", "the root", "1", "the fifth on 1", "5@1", "the third on 3",
			"3@3"}},
	{". Count", "count", func(r run.Recipe, _ neck.Guitar) string { return run.CountName(r.Count) },
		"4 8 8t 16 16t 16q 16s, or several: 8,16",
		[]string{"eighths", "8", "eighth triplets", "8t", "sixteenths", "16", "quintuplets", "16q", "sextuplets",
			"16t", "septuplets", "16s"}},
	{"at", "tempo", func(r run.Recipe, _ neck.Guitar) string { return fmt.Sprintf("%g", r.Tempo) },
		"Quarters a minute", nil},
	{", accent", "accent", accentWord, "Every so many notes",
		[]string{"as the cell says", "", "every 3", "3", "every 4", "4", "every 6", "6", "every 7", "7"}},
	{", pick it", "pick", pickWord, "", []string{"the cleanest way", "", "in alternation", "alternate", "in economy",
		"economy", "legato", "legato", "as it falls", "free"}},
}

// scalesOffered are the scales that the word of the key offers for its root.
var scalesOffered = []string{"minor pentatonic", "major pentatonic", "blues", "natural minor", "major", "dorian",
	"mixolydian", "harmonic minor"}

// nouns are the words that a later part leaves unsaid where they are those of the part before.
var nouns = map[string]string{"key": "key", "add": "tone added", "layout": "shape", "at": "place", "count": "count",
	"accent": "accent"}

// extras are the words that most runs do not need: said at the end where they are set, offered where
// they are not, each with values to begin with, of which the first is taken that makes another run. Fields
// are those of the recipe's arguments; a field that the recipe gains needs a row here to be seen.
var extras = []struct {
	field, said, offer, hint string
	usual                    []string
}{
	{"repeat", "each cell %s times", "play each cell twice", "How often", []string{"2"}},
	{"tail", "with the tail %s", "end with a tail", "A cell, 4 3 2 1", []string{"3 2 1", "1 0", "2 1"}},
	{"down-cell", "coming down, the cell %s", "another cell coming down", "A cell, 3 2 1",
		[]string{"1 2 3", "3 2 1", "2 1"}},
	{"mirror", "each cell answered by its mirror", "answer each cell by its mirror", "yes", []string{"yes"}},
	{"turn", "the top place %s", "play the top place twice", "once or twice", []string{"twice"}},
	{"bars", "", "two bars long", "How many", []string{"2"}},
	{"feel", "%s", "shuffle", "straight or shuffle", []string{"shuffle"}},
	{"loop", "as a loop", "as a loop", "yes", []string{"yes"}},
	{"chords", "over the chords %s", "over chosen chords", "Degrees: 1 4 5", []string{"1 4 5"}},
	{"follow", "each chord with its own tones", "each chord with its own tones", "chord, or key", []string{"chord"}},
	{"scales", "through %s", "through several scales", "natural minor, dorian",
		[]string{"natural minor, dorian", "major, mixolydian", "minor pentatonic, blues"}},
	{"even", "odd counts on a string twice", "play odd counts on a string twice", "yes", []string{"yes"}},
	{"start", "begin on tone %s", "begin on the second tone", "Its number in the layout", []string{"2"}},
	{"rotate", "begin each cell on step %s", "begin in the middle of the cell", "The step", []string{"2"}},
	{"from", "beginning on %s", "begin off the beat", "A beat: 3&", []string{"1&", "2"}},
	{"displace", "%s later", "begin later in the bar", "A fraction of a whole note, 1/4", []string{"1/8", "1/4"}},
	{"pivot", "whose %s is the last note", "joined by a pivot", "The tail's degree: 3", []string{"1", "3", "5"}},
	{"drop", "without %s", "without the 2 or the 6", "Degrees of the scale", []string{"2", "6", "b6", "4"}},
}

// sentence says the recipe with its words as controls.
//
// As an example, the recipe of a key, a cell and eight times reads "From C♯ minor pentatonic with no added tones, in a
// box from fret 9 on low E, play the cell 1 2 3, move up one tone each time, 8 times, and land on nothing. Count
// sixteenths at 100, accent as the cell says, pick it the cleanest way."
//
// A choice is the address of the same recipe with one word other, so that the browser's way
// back is the undo of this screen, and a link to a run is the run. The later parts of a recipe are
// sentences of their own, of the words that a part can have; their fields bear the part's number.
func (v *runsPage) sentence(grown *run.Run, g neck.Guitar) error {
	parts, err := v.Form.Recipe.Parts()
	if err != nil {
		return err
	}
	for k, part := range parts {
		said := sentence{Part: k + 1, Drop: v.Form.without(k), Last: k == len(parts)-1}
		said.say(v.Form, part, parts[max(0, k-1)], line(grown), g)
		v.Said = append(v.Said, said)
	}
	v.Then = v.Form.andThen(parts[len(parts)-1], grown, g)
	return nil
}

// say fills in the words of one part, given complete, as is the one before. Of a later part only what
// differs from the one before is said, and its cell. Heard is the whole run as it is heard now.
func (s *sentence) say(f runsForm, r, last run.Recipe, heard []byte, g neck.Guitar) {
	k := s.Part - 1
	choice := func(field, name, value string) view.Choice {
		return view.Choice{Name: name, Link: f.with(k, field, value), On: r.Get(field) == value}
	}
	for _, x := range sayings {
		if k > 0 && run.OfWhole(x.field) {
			continue
		}
		if k > 0 && (x.field == "accent" || slices.Contains(run.Inherited, x.field)) && x.field != "cell" &&
			r.Get(x.field) == last.Get(x.field) {
			s.More = append(s.More, sentencePart{Field: fieldOf(k, x.field), Text: "another " + nouns[x.field], Hint: x.hint})
			continue
		}
		if x.field == "times" && r.Bars > 0 || x.field == "bars" && r.Bars == 0 {
			continue // the length is said once
		}
		word := sentencePart{Field: fieldOf(k, x.field), Text: x.says(r, g), Value: r.Get(x.field), Hint: x.hint,
			Copper: x.field == "add"}
		for i := 0; i+1 < len(x.choices); i += 2 {
			word.Choices = append(word.Choices, choice(x.field, x.choices[i], x.choices[i+1]))
		}
		switch tonic, _, _ := strings.Cut(r.Key, " "); x.field {
		case "key":
			_, now, _ := strings.Cut(r.Key, " ")
			key := func(name, key string, on bool) view.Choice {
				if k > 0 {
					return choice("key", name, key)
				}
				return view.Choice{Name: name, Link: f.inKey(key), On: on}
			}
			for _, root := range view.Tonics {
				word.Roots = append(word.Roots, key(view.PrettySigns(root), root+" "+now, root == tonic))
			}
			for _, scale := range scalesOffered {
				word.Choices = append(word.Choices, key(scale, tonic+" "+scale, scale == now))
			}
		case "at":
			word.Choices = starts(f, k, r, g)
		}
		before := x.before
		if k > 0 && len(s.Words) == 0 {
			before = map[string]string{"cell": "And then the cell", "key": "And then from"}[x.field]
			before = cmp.Or(before, "And then "+strings.Trim(x.before, ", "))
		}
		if before != "" {
			s.Words = append(s.Words, sentencePart{Plain: before})
		}
		s.Words = append(s.Words, word)
	}
	s.Words = append(s.Words, sentencePart{Plain: "."})
	for _, x := range extras {
		if k > 0 && run.OfWhole(x.field) {
			continue
		}
		value := r.Get(x.field)
		word := sentencePart{Field: fieldOf(k, x.field), Text: x.offer, Value: value, Hint: x.hint}
		switch {
		case value == "" || x.field == "repeat" && value == "1":
			if to, ok := f.offered(k, x.field, x.usual, heard, g); ok {
				s.Offers = append(s.Offers, offer{x.field, fieldOf(k, x.field), x.offer, to})
			}
			continue
		case x.said == "":
			continue
		case x.field == "follow" && value == "key":
			word.Text = "each chord with the tones of the key"
		default:
			word.Text = said(x.said, value)
		}
		word.Text = page.SentenceCase(word.Text)
		word.Choices = []view.Choice{{Name: "without", Link: f.with(k, x.field, "")}}
		s.Words = append(s.Words, word, sentencePart{Plain: "."})
	}
}

// offered is the address of the run with an argument that it does not have, by the first of a few values
// that makes another run of it than the one that is heard.
func (f runsForm) offered(k int, field string, usual []string, heard []byte, g neck.Guitar) (to string, ok bool) {
	for _, value := range usual {
		r := f.Recipe
		if r.SetPart(k, field, value) != nil {
			continue
		}
		if other, err := run.Grow(r, g); err == nil && !bytes.Equal(line(other), heard) {
			return f.with(k, field, value), true
		}
	}
	return "", false
}

// line is a grown run as far as it is heard.
func line(r *run.Run) []byte {
	l := r.Lick
	l.Recipe, l.Title, l.Parts = "", "", nil
	return l.Encode()
}

// fieldOf is the name of an argument of part k, counted from 0, in forms and addresses: "cell" of
// the first part, "2.cell" of the second.
func fieldOf(k int, name string) string {
	if k == 0 {
		return name
	}
	return fmt.Sprintf("%d.%s", k+1, name)
}

// keyWord is the key as a title names it.
func keyWord(r run.Recipe, _ neck.Guitar) string { return strings.SplitN(r.Title(), ",", 2)[0] }

// addedWord is what is added to the key's tones.
func addedWord(r run.Recipe, _ neck.Guitar) string {
	return cmp.Or(prettyDegrees(r.Add), "no added tones")
}

// cellWord is the cell as it is written.
func cellWord(r run.Recipe, _ neck.Guitar) string {
	p, _ := phrase.ParsePhrase(r.Cell) // one that cannot be read has grown nothing
	return p.String()
}

// moveWord is how each cell moves on, which has its usual way for each kind of cell.
func moveWord(r run.Recipe, _ neck.Guitar) string {
	p, _ := phrase.ParsePhrase(r.Cell)
	return run.MoveName(r.Move, p.Kind)
}

// timesWord and barsWord are how long the run is.
func timesWord(r run.Recipe, _ neck.Guitar) string {
	if r.Times == 0 {
		return "as far as it goes"
	}
	return fmt.Sprintf("%d times", r.Times)
}

func barsWord(r run.Recipe, _ neck.Guitar) string { return say.Count(r.Bars, "bar") + " long" }

// landWord is the tone that the run ends on.
func landWord(r run.Recipe, _ neck.Guitar) string {
	d, beat, at := strings.Cut(r.Land, "@")
	if at {
		beat = " on beat " + beat
	}
	return cmp.Or(prettyDegrees(d)+beat, "nothing")
}

// accentWord is which notes are accented.
func accentWord(r run.Recipe, _ neck.Guitar) string {
	if r.Accent == 0 {
		return "as the cell says"
	}
	return fmt.Sprintf("every %d", r.Accent)
}

// pickWord is the way of picking.
func pickWord(r run.Recipe, _ neck.Guitar) string {
	return map[string]string{"": "the cleanest way", "alternate": "in alternation", "economy": "in economy",
		"legato": "legato", "free": "as it falls"}[r.Pick]
}

// said puts a value into words that have a place for one.
func said(words, value string) string {
	if strings.Contains(words, "%s") {
		return fmt.Sprintf(words, value)
	}
	return words
}

// starts are up to a dozen places where the layout works, along the string of the start that is given or the layout's
// own. A start is offered if the whole layout can be laid from it, which is why each is tried; a recipe that cannot be
// read yet has none.
func starts(f runsForm, k int, r run.Recipe, g neck.Guitar) []view.Choice {
	p, layout, at, err := laid(r, g)
	if err != nil {
		return nil
	}
	var out []view.Choice
	for fret := 0; fret <= g.Frets && len(out) < 12; fret++ {
		start := neck.Place{String: at.String, Fret: fret}
		if _, err := shape.Lay(g, p, layout, start); err == nil {
			t := p.At(g.Pitch(start))
			out = append(out, view.Choice{Name: fmt.Sprintf("fret %d, the %s", fret, t.Degree.Pretty()),
				Link: f.with(k, "at", start.Notation()), On: r.At == start.Notation()})
		}
	}
	return out
}

// laid are a recipe's tones, the layout and the place where it starts, each the usual one where none is given.
func laid(r run.Recipe, g neck.Guitar) (p music.Palette, layout shape.Layout, at neck.Place, err error) {
	if p, err = music.ParseKey(r.Key, page.WordsOf(r.Add), page.WordsOf(r.Drop)); err != nil {
		return p, nil, at, err
	}
	layout = shape.Default(p.Scale)
	if r.Layout != "" {
		if layout, err = shape.ParseLayout(r.Layout); err != nil {
			return p, nil, at, err
		}
	}
	if given, err := neck.ParsePlace(r.At); err == nil {
		return p, layout, given, nil
	}
	return p, layout, shape.Start(g, p, layout), nil
}

// layoutWord is the shape as the sentence has it. Where the recipe names none it is the usual one of the scale: three a
// string for seven tones, a box for five or six.
func layoutWord(r run.Recipe, _ neck.Guitar) string {
	if r.Layout != "" {
		return run.LayoutName(r.Layout)
	}
	if p, err := music.ParseKey(r.Key, nil, nil); err == nil {
		return run.LayoutName(shape.Default(p.Scale).Name())
	}
	return run.LayoutName("")
}

// placeWord is where the run starts, as the sentence has it. A recipe without a place has the layout's usual start;
// what cannot be read is shown as it was typed, beside the error that says so.
func placeWord(r run.Recipe, g neck.Guitar) string {
	_, _, at, err := laid(r, g)
	if err != nil || at.String < 1 || at.String > len(g.Tuning) {
		return r.At
	}
	l := lick.New()
	l.Tuning = g.Tuning
	return fmt.Sprintf("fret %d on %s", at.Fret, l.StringName(at.String))
}

// prettyDegrees writes degrees with their signs.
// "b5@down 9" is "♭5 going down, 9". A word that is no degree stays as it is.
func prettyDegrees(s string) string {
	var out []string
	for _, w := range page.WordsOf(s) {
		word, hold, held := strings.Cut(w, "@")
		if d, err := music.ParseDegree(word); err == nil {
			word = d.Pretty()
		}
		if held {
			word += " " + map[string]string{"up": "going up", "down": "going down", "below": "below the root"}[hold]
			if hold >= "1" && hold <= "9" {
				word += "in octave " + hold
			}
		}
		out = append(out, word)
	}
	return strings.Join(out, ", ")
}
