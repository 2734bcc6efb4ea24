package runs

import (
	"fmt"
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

// sentence says the recipe with its words as controls. What is left out of the recipe is said
// as what the run does then ("as far as it goes"), so that a player can change it without
// knowing that it exists. The words stand in the order in which a teacher would say them:
// tones, shape, place, cell, move, length, landing, count, picking.
//
// As an example, the recipe of a key, a cell and eight times reads "From C♯ minor pentatonic
// with no added tones, in a box from fret 9 on low E, play the cell 1 2 3, move up one tone
// each time, 8 times, and land on nothing. Count sixteenths at 100, accent as the cell says,
// pick it the cleanest way."
//
// A choice is the address of the same recipe with one word other, so that the browser's way
// back is the undo of this screen, and a link to a run is the run.
func (v *runsPage) sentence(g neck.Guitar) {
	f, r := v.Form, v.Form.Recipe
	p, _ := phrase.ParsePhrase(r.Cell)
	key := strings.SplitN(r.Title(), ",", 2)[0]
	add := func(parts ...sentencePart) { v.Sentence = append(v.Sentence, parts...) }
	plain := func(s string) sentencePart { return sentencePart{Plain: s} }
	word := func(field, text, hint string, choices ...view.Choice) sentencePart {
		return sentencePart{Field: field, Text: text, Value: r.Get(field), Hint: hint, Choices: choices}
	}
	options := func(field string, pairs ...string) []view.Choice {
		var out []view.Choice
		for i := 0; i+1 < len(pairs); i += 2 {
			out = append(out, view.Choice{Name: pairs[i], Link: f.with(field, pairs[i+1]), On: r.Get(field) == pairs[i+1]})
		}
		return out
	}
	keyChoices := func() []view.Choice {
		tonic, _, _ := strings.Cut(r.Key, " ")
		var out []view.Choice
		for _, s := range []string{"minor pentatonic", "major pentatonic", "blues", "natural minor", "major", "dorian",
			"mixolydian", "harmonic minor"} {
			out = append(out, view.Choice{Name: s, Link: f.with("key", tonic+" "+s), On: r.Key == tonic+" "+s})
		}
		return out
	}
	added := word(
		"add",
		"no added tones",
		"Degrees, such as 9 or b5@down",
		options("add", "none", "", "9", "9", "♭5 on the way down", "b5@down", "7 below the root", "7@below")...)
	added.Copper = true
	if r.Add != "" {
		added.Text = prettyDegrees(r.Add)
	}
	add(plain("From"), word("key", key, "Root and scale, or root and degrees", keyChoices()...), plain("with"), added,
		plain(","))
	add(
		word(
			"layout",
			layoutWord(r),
			"A layout, such as counts:3,1,3 or strings:2,1",
			options(
				"layout",
				"as usual",
				"",
				"in a box",
				"box",
				"three a string",
				"3nps",
				"on one string",
				"string:2",
				"an arpeggio",
				"arp",
				"joined by slides",
				"joined",
				"two boxes",
				"boxes:1+2",
				"sixths",
				"pairs:3,1:6",
			)...),
	)
	add(plain("from"), word("at", placeWord(r, g), "STRING:FRET, as in 6:9", v.starts(g)...), plain(", play the cell"))
	add(
		word(
			"cell",
			p.String(),
			"tones 3 2 1 4, strings: a2 pa1 b1, or chord: 1 3 5 1'",
			options("cell", "1 2 3", "1 2 3", "1 2 3 4", "1 2 3 4", "3 2 1 4", "3 2 1 4", "1 3 2 1", "1 3 2 1",
				"thirds: 1 3", "1 3", "two strings: a2 pa1 b1", "strings: a2 pa1 b1", "over chords: 1 3 5 1' 5 3",
				"chord: 1 3 5 1' 5 3")...),
		plain(", move"),
	)
	add(
		word(
			"dir",
			run.DirName(r.Dir),
			"",
			options("dir", "up", "", "down", "down", "up and down", "updown", "down and up", "downup")...),
	)
	add(
		word(
			"move",
			run.MoveName(r.Move, p.Kind),
			"A number of tones, or string:2",
			options("move", "as usual", "", "one tone", "1", "two tones", "2", "one string over", "string",
				"an octave on", "octave", "to the next position", "position", "to the next chord", "chord", "nowhere",
				"stay")...),
	)
	length := word(
		"times",
		"as far as it goes",
		"How many cells",
		options("times", "as far as it goes", "", "4 times", "4", "8 times", "8", "12 times", "12")...)
	if r.Times > 0 {
		length.Text = fmt.Sprintf("%d times", r.Times)
	}
	if r.Bars > 0 {
		length = word(
			"bars",
			say.Count(r.Bars, "bar")+" long",
			"How many bars",
			options("bars", "without", "", "1 bar", "1", "2 bars", "2", "4 bars", "4")...)
	}
	add(plain("each time,"), length, plain(", and land on"))
	land := word(
		"land",
		"nothing",
		"A degree, and its beat: 1@1",
		options("land", "nothing", "", "the root on 1", "1@1", "the root", "1", "the fifth on 1", "5@1",
			"the third on 3", "3@3")...)
	if r.Land != "" {
		d, beat, at := strings.Cut(r.Land, "@")
		land.Text = prettyDegrees(d)
		if at {
			land.Text += " on beat " + beat
		}
	}
	add(land, plain(". Count"))
	add(
		word(
			"count",
			run.CountName(r.Count),
			"4 8 8t 16 16t 16q 16s, or several: 8,16",
			options("count", "eighths", "8", "eighth triplets", "8t", "sixteenths", "16", "quintuplets", "16q",
				"sextuplets", "16t", "septuplets", "16s")...),
		plain("at"),
	)
	add(word("tempo", fmt.Sprintf("%g", r.Tempo), "Quarters a minute"), plain(", accent"))
	accent := word(
		"accent",
		"as the cell says",
		"Every so many notes",
		options("accent", "as the cell says", "", "every 3", "3", "every 4", "4", "every 6", "6", "every 7", "7")...)
	if r.Accent > 0 {
		accent.Text = fmt.Sprintf("every %d", r.Accent)
	}
	add(accent, plain(", pick it"))
	picked := word(
		"pick",
		"the cleanest way",
		"",
		options("pick", "the cleanest way", "", "in alternation", "alternate", "in economy", "economy", "legato",
			"legato", "as it falls", "free")...)
	if r.Pick != "" {
		picked.Text = map[string]string{"alternate": "in alternation", "economy": "in economy", "legato": "legato",
			"free": "as it falls"}[r.Pick]
	}
	add(picked, plain("."))
	v.extras(word)
}

// extras are the words that most runs do not need: said at the end where they are
// set, offered where they are not.
// What is said has a way to leave it out again. Fields and their order are those of the
// recipe's arguments; a field that the recipe gains needs a row here to be seen.
func (v *runsPage) extras(word func(field, text, hint string, choices ...view.Choice) sentencePart) {
	r := v.Form.Recipe
	for _, x := range []struct{ field, said, offer, hint string }{
		{"repeat", "each cell %s times", "play each cell more than once", "How often"},
		{"down-cell", "coming down, the cell %s", "another cell coming down", "A cell, 3 2 1"},
		{"mirror", "each cell answered by its mirror", "answer each cell by its mirror", "yes"},
		{"loop", "as a loop", "as a loop", "yes"},
		{"follow", "each chord with its own tones", "each chord with its own tones", "chord, or key"},
		{"even", "odd counts on a string twice", "play odd counts on a string twice", "yes"},
		{"turn", "the top place %s", "the top place twice", "once or twice"},
		{"start", "begin on tone %s", "begin on another tone", "Its number in the layout"},
		{"rotate", "begin each cell on step %s", "begin in the middle of the cell", "The step"},
		{"feel", "%s", "shuffle", "straight or shuffle"},
		{"from", "beginning on %s", "begin on another beat", "A beat: 3&"},
		{"displace", "%s later", "begin later in the bar", "A fraction of a whole note, 1/4"},
		{"chords", "over the chords %s", "over chosen chords", "Degrees: 1 4 5"},
		{"scales", "through %s", "through several scales", "natural minor, dorian"},
		{"tail", "with the tail %s", "with a tail", "A cell, 4 3 2 1"},
		{"pivot", "whose %s is the last note", "joined by a pivot", "The tail's degree: 3"},
		{"drop", "without %s", "without some tones", "Degrees of the scale"},
		{"bars", "", "so many bars long", "How many"},
	} {
		value := r.Get(x.field)
		if value == "" || x.field == "repeat" && value == "1" {
			v.More = append(v.More, word(x.field, x.offer, x.hint))
			continue
		}
		if x.said == "" {
			continue
		}
		if x.field == "follow" && value == "key" {
			x.said = "each chord with the tones of the key"
		}
		v.Sentence = append(
			v.Sentence,
			word(x.field, page.SentenceCase(said(x.said, value)), x.hint,
				view.Choice{Name: "without", Link: v.Form.with(x.field, "")}),
			sentencePart{Plain: "."},
		)
	}
}

// said puts a value into words that have a place for one.
func said(words, value string) string {
	if strings.Contains(words, "%s") {
		return fmt.Sprintf(words, value)
	}
	return words
}

// starts are up to a dozen places where the layout works, along the string of the start that is
// given or the layout's own.
// A start is offered if the whole layout can be laid from it, which is why each is tried; a
// recipe that cannot be read yet has none.
func (v *runsPage) starts(g neck.Guitar) []view.Choice {
	r := v.Form.Recipe
	p, err := music.ParseKey(r.Key, page.WordsOf(r.Add), page.WordsOf(r.Drop))
	if err != nil {
		return nil
	}
	layout := shape.Default(p.Scale)
	if r.Layout != "" {
		if layout, err = shape.ParseLayout(r.Layout); err != nil {
			return nil
		}
	}
	at := shape.Start(g, p, layout)
	if given, err := neck.ParsePlace(r.At); err == nil {
		at.String = given.String
	}
	var out []view.Choice
	for fret := 0; fret <= g.Frets && len(out) < 12; fret++ {
		start := neck.Place{String: at.String, Fret: fret}
		if _, err := shape.Lay(g, p, layout, start); err == nil {
			t := p.At(g.Pitch(start))
			out = append(
				out,
				view.Choice{
					Name: fmt.Sprintf("fret %d, the %s", fret, t.Degree.Pretty()),
					Link: v.Form.with("at", start.Notation()),
					On:   r.At == start.Notation(),
				},
			)
		}
	}
	return out
}

// layoutWord is the shape as the sentence has it.
// Where the recipe names none it is the usual one of the scale: three a string for seven tones,
// a box for five or six.
func layoutWord(r run.Recipe) string {
	if r.Layout != "" {
		return run.LayoutName(r.Layout)
	}
	if p, err := music.ParseKey(r.Key, nil, nil); err == nil {
		return run.LayoutName(shape.Default(p.Scale).Name())
	}
	return run.LayoutName("")
}

// placeWord is where the run starts, as the sentence has it.
// A recipe without a place has the layout's usual start; what cannot be read is shown as it was
// typed, beside the error that says so.
func placeWord(r run.Recipe, g neck.Guitar) string {
	p, err := music.ParseKey(r.Key, page.WordsOf(r.Add), page.WordsOf(r.Drop))
	if err != nil {
		return r.At
	}
	layout := shape.Default(p.Scale)
	if r.Layout != "" {
		if l, err := shape.ParseLayout(r.Layout); err == nil {
			layout = l
		}
	}
	at := shape.Start(g, p, layout)
	if given, err := neck.ParsePlace(r.At); err == nil {
		at = given
	}
	l := lick.New()
	l.Tuning = g.Tuning
	if at.String < 1 || at.String > len(g.Tuning) {
		return r.At
	}
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
