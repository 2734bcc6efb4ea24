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
	"ornamen/core/shape"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// saying is a word of the sentence that can be changed: the plain text before it, the recipe's argument that it sets,
// what it says of a recipe, and what may be typed. What may be chosen is the core's to say, see run.Recipe.Choices.
type saying struct {
	before, field string
	says          func(r run.Recipe, g neck.Guitar) string
	hint          string
}

// sayings are the words in the order in which a teacher would say them: tones, shape, place, cell, move, length,
// landing, count, picking. What is left out of the recipe is said as what the run does then ("as far as it goes"), so
// that a player can change it without knowing that it exists.
var sayings = []saying{
	{before: "From", field: "key", says: keyWord, hint: "A root and a scale, Dm dorian, or degrees"},
	{before: "with", field: "add", says: addedWord, hint: "Degrees, such as 9 or b5@down"},
	{before: ",", field: "layout", says: layoutWord, hint: "A shape, such as counts:3,1,3 or on strings 2 and 1"},
	{before: "from", field: "at", says: placeWord, hint: "STRING:FRET, as in 6:9"},
	{
		before: ", play the cell",
		field:  "cell",
		says:   cellWord,
		hint:   "3 2 1 4, strings: a2 pa1 b1, or chord: 1 3 5 1'",
	},
	{before: ", move", field: "dir", says: nameOf("dir", "up"), hint: "up, down, up and down, down and up"},
	{field: "move", says: moveWord, hint: "A number of tones, two strings over, to the next chord"},
	{before: "each time,", field: "times", says: nameOf("times", ""), hint: "How many cells"},
	{before: "each time,", field: "bars", says: nameOf("bars", ""), hint: "How many bars"},
	{
		before: ", and land on",
		field:  "land",
		says:   landWord,
		hint:   "The third of the chord in bar 3 on beat 1, or 1@1",
	},
	{
		before: ". Count",
		field:  "count",
		says:   func(r run.Recipe, _ neck.Guitar) string { return run.CountName(r.Count) },
		hint:   "Eighths, triplets, sixteenths, or several: 8,16",
	},
	{
		before: "at",
		field:  "tempo",
		says:   func(r run.Recipe, _ neck.Guitar) string { return fmt.Sprintf("%g", r.Tempo) },
		hint:   "Quarters a minute",
	},
	{before: ", accent", field: "accent", says: nameOf("accent", ""), hint: "Every so many notes"},
	{
		before: ", pick it",
		field:  "pick",
		says:   nameOf("pick", ""),
		hint:   "In alternation, in economy, legato, as it falls",
	},
}

// nouns are the words that a later part leaves unsaid where they are those of the part before.
var nouns = map[string]string{
	"key":    "key",
	"add":    "tone added",
	"layout": "shape",
	"at":     "place",
	"count":  "count",
	"accent": "accent",
}

// extra is a word that most runs do not need: said at the end where it is set, offered where it is not.
type extra struct {
	field string
	said  string // with %s for the value's name
	offer string
	hint  string
	usual []string // values to begin with, of which the first is taken that makes another run
}

// extras are those words. Fields are those of the recipe's arguments; a test holds that each argument of a recipe is
// among these or the sayings.
var extras = []extra{
	{field: "repeat", said: "each cell %s", offer: "play each cell twice", hint: "How often", usual: []string{"2"}},
	{
		field: "slurs",
		said:  "%s",
		offer: "slur by a rule",
		hint:  "Slurred where the string changes not",
		usual: []string{"string", "way", "up", "down"},
	},
	{
		field: "tail",
		said:  "with the tail %s",
		offer: "end with a tail",
		hint:  "A cell, 4 3 2 1",
		usual: []string{"3 2 1", "1 0", "2 1"},
	},
	{
		field: "down-cell",
		said:  "coming down, the cell %s",
		offer: "another cell coming down",
		hint:  "A cell, 3 2 1",
		usual: []string{"1 2 3", "3 2 1", "2 1", "strings: a2 pa1 b1"},
	},
	{
		field: "mirror",
		said:  "each cell answered by its mirror",
		offer: "answer each cell by its mirror",
		hint:  "yes",
		usual: []string{"yes"},
	},
	{
		field: "turn",
		said:  "the top place %s",
		offer: "play the top place twice",
		hint:  "once or twice",
		usual: []string{"twice"},
	},
	{field: "bars", offer: "two bars long", hint: "How many", usual: []string{"2", "1", "4"}},
	{field: "feel", said: "%s", offer: "shuffle", hint: "straight or shuffle", usual: []string{"shuffle"}},
	{field: "loop", said: "as a loop", offer: "as a loop", hint: "yes", usual: []string{"yes"}},
	{
		field: "chords",
		said:  "over the chords %s",
		offer: "over chosen chords",
		hint:  "Bbm7b5 | Eb7 | Abm6, or degrees: 1 4 5",
		usual: []string{"1 4 5"},
	},
	{
		field: "follow",
		said:  "each chord with %s",
		offer: "each chord with its own tones",
		hint:  "its own tones, or the tones of the key",
		usual: []string{"chord"},
	},
	{
		field: "scales",
		said:  "through %s",
		offer: "through several scales",
		hint:  "natural minor, dorian",
		usual: []string{"natural minor, dorian", "major, mixolydian", "minor pentatonic, blues"},
	},
	{
		field: "even",
		said:  "odd counts on a string twice",
		offer: "play odd counts on a string twice",
		hint:  "yes",
		usual: []string{"yes"},
	},
	{field: "start", said: "begin on %s", offer: "begin on another tone", hint: "Its number in the shape"},
	{field: "rotate", said: "begin each cell on %s", offer: "begin in the middle of the cell", hint: "The step"},
	{
		field: "from",
		said:  "beginning on %s",
		offer: "begin off the beat",
		hint:  "A beat: 3&",
		usual: []string{"1&", "2"},
	},
	{
		field: "displace",
		said:  "%s later",
		offer: "begin later in the bar",
		hint:  "A fraction of a whole note, 1/4",
		usual: []string{"1/8", "1/4"},
	},
	{
		field: "pivot",
		said:  "whose %s is the last note",
		offer: "joined by a pivot",
		hint:  "The tail's degree: 3",
		usual: []string{"1", "3", "5", "7"},
	},
	{field: "drop", said: "without %s", offer: "without a tone of the scale", hint: "Degrees of the scale"},
	{
		field: "tuning",
		said:  "tuned %s",
		offer: "in another tuning",
		hint:  "Thinnest string first: D4 A3 G3 D3 A2 D2",
	},
}

// sentence says the recipe with its words as controls.
//
// As an example, the recipe of a key, a cell and eight times reads "From C♯ minor pentatonic with no added tones, in a
// box from fret 9 on low E, play the cell 1 2 3, move up one tone each time, 8 times, and land on nothing. Count
// sixteenths at 100, accent as the cell says, pick it the cleanest way."
//
// The later parts of a recipe are sentences of their own, of the words that a part can have; their fields bear the
// part's number. What each word can be, and what else can be said, is asked for when its menu opens.
func (v *runsPage) sentence(grown *run.Run, g neck.Guitar) error {
	parts, err := v.Form.Recipe.Parts()
	if err != nil {
		return err
	}
	for k, part := range parts {
		said := sentence{Part: k + 1, Drop: v.Form.without(k), Last: k == len(parts)-1}
		said.say(part, parts[max(0, k-1)], g)
		v.Said = append(v.Said, said)
	}
	v.Then = v.Form.andThen(parts[len(parts)-1], grown, g)
	return nil
}

// say fills in the words of one part, given complete, as is the one before. Of a later part only what differs from the
// one before is said, and its cell.
func (s *sentence) say(r, last run.Recipe, g neck.Guitar) {
	k := s.Part - 1
	for _, x := range sayings {
		switch {
		case k > 0 && run.OfWhole(x.field),
			k > 0 && sameAsBefore(x.field, r, last),
			x.field == "times" && r.Bars > 0,
			x.field == "bars" && r.Bars == 0:
			continue
		}
		before := x.before
		if k > 0 && len(s.Words) == 0 {
			before = map[string]string{"cell": "And then the cell", "key": "And then from"}[x.field]
			before = cmp.Or(before, "And then "+strings.Trim(x.before, ", "))
		}
		if before != "" {
			s.Words = append(s.Words, sentencePart{Plain: before})
		}
		s.Words = append(s.Words, sentencePart{
			Field:  fieldOf(k, x.field),
			Text:   x.says(r, g),
			Value:  r.Get(x.field),
			Hint:   x.hint,
			Copper: x.field == "add",
		})
	}
	s.Words = append(s.Words, sentencePart{Plain: "."})
	for _, x := range extras {
		value := r.Get(x.field)
		if k > 0 && run.OfWhole(x.field) || value == "" || x.said == "" || x.field == "repeat" && value == "1" {
			continue
		}
		s.Words = append(s.Words, sentencePart{
			Field: fieldOf(k, x.field),
			Text:  page.SentenceCase(x.says(r, value, g)),
			Value: value,
			Hint:  x.hint,
		}, sentencePart{Plain: "."})
	}
}

// sameAsBefore says whether a later part leaves a word unsaid, since it is that of the part before.
func sameAsBefore(field string, r, last run.Recipe) bool {
	if field == "cell" || r.Get(field) != last.Get(field) {
		return false
	}
	return field == "accent" || field == "land" && r.Land == "" || slices.Contains(run.Inherited, field)
}

// says puts a value of the extra into its words.
func (x extra) says(r run.Recipe, value string, g neck.Guitar) string {
	name := run.NameOf(x.field, value)
	switch x.field {
	case "start":
		name = run.StartName(r, g)
	case "drop":
		name = run.DegreesName(value)
	case "pivot":
		if d, err := music.ParseDegree(strings.TrimPrefix(value, "n")); err == nil {
			name = d.Pretty()
		}
	case "chords":
		name = view.PrettySigns(value)
	}
	if strings.Contains(x.said, "%s") {
		return fmt.Sprintf(x.said, name)
	}
	return x.said
}

// words are what the menu of a word lists: of a key the roots too, and of "more" what is not said yet. typed leaves
// only those that answer to it.
func (f runsForm) words(field, typed string, g neck.Guitar) (wordMenu, error) {
	k, arg := partOf(field)
	m := wordMenu{}
	if arg == moreWords {
		return f.more(k, g)
	}
	if !slices.Contains(run.Names(), arg) {
		return m, phrase.Wrong(field, "is no word of a run")
	}
	for _, c := range f.Recipe.Choices(k, arg, g) {
		if answers(arg, c, typed) {
			m.Choices = append(m.Choices, view.Choice{Name: c.Name, Link: f.saying(field, c.Value), On: c.On})
		}
	}
	if arg == "key" {
		m.keys(f, k, typed, g)
	}
	if parts, err := f.Recipe.Parts(); err == nil && k < len(parts) && isExtra(arg) && parts[k].Get(arg) != "" {
		m.Choices = slices.Insert(m.Choices, 0, view.Choice{Name: "leave it out", Link: f.saying(field, "")})
		m.Choices = slices.DeleteFunc(
			m.Choices,
			func(c view.Choice) bool { return c.Name != "leave it out" && c.Link == f.saying(field, "") },
		)
	}
	if typed != "" &&
		!slices.ContainsFunc(m.Choices, func(c view.Choice) bool { return strings.EqualFold(c.Name, typed) }) {
		m.Typed = view.Choice{Name: typed, Link: f.saying(field, typed)}
	}
	return m, nil
}

// keys adds the roots to the menu of a key; of a key that is typed with its root, the keys on that root alone.
func (m *wordMenu) keys(f runsForm, k int, typed string, g neck.Guitar) {
	field := fieldOf(k, "key")
	for _, c := range f.Recipe.Roots(k, view.Tonics, g) {
		m.Roots = append(m.Roots, view.Choice{Name: c.Name, Link: f.saying(field, c.Value), On: c.On})
	}
	if typed == "" {
		return
	}
	m.Roots, m.Choices = nil, nil
	parts, err := f.Recipe.Parts()
	if err != nil {
		return
	}
	tonic, _ := music.SplitKey(parts[k].Key)
	for _, key := range music.SuggestKeys(typed, tonic) {
		name := key
		if p, err := music.ParseKey(key, nil, nil); err == nil {
			name = p.Pretty()
		}
		m.Choices = append(m.Choices, view.Choice{Name: name, Link: f.saying(field, key)})
	}
}

// answers says whether a choice is listed for what was typed.
func answers(arg string, c run.Choice, typed string) bool {
	if typed == "" || arg == "key" {
		return true
	}
	typed = strings.ToLower(strings.TrimSpace(typed))
	return strings.Contains(strings.ToLower(c.Name), typed) || strings.HasPrefix(strings.ToLower(c.Value), typed)
}

// isExtra says whether a word is one that a run can do without.
func isExtra(arg string) bool {
	return slices.ContainsFunc(extras, func(x extra) bool { return x.field == arg })
}

// moreWords is the word whose menu lists what is not said yet.
const moreWords = "more"

// more are the words that part k does not have and could, each with the first of a few values that makes another run;
// and of a later part the words of the part before that can be said anew.
func (f runsForm) more(k int, g neck.Guitar) (wordMenu, error) {
	m := wordMenu{}
	parts, err := f.Recipe.Parts()
	if err != nil || k < 0 || k >= len(parts) {
		return m, phrase.Wrong(fieldOf(k, moreWords), "the run has no such part")
	}
	for _, x := range extras {
		value := parts[k].Get(x.field)
		if k > 0 && run.OfWhole(x.field) || value != "" && !(x.field == "repeat" && value == "1") {
			continue
		}
		if to, ok := f.offered(k, x.field, g); ok {
			field := fieldOf(k, x.field)
			m.Offers = append(m.Offers, offer{Field: x.field, Name: field, Text: x.offer, Link: f.saying(field, to)})
		}
	}
	for _, x := range sayings {
		if k > 0 && !run.OfWhole(x.field) && sameAsBefore(x.field, parts[k], parts[k-1]) && nouns[x.field] != "" {
			m.More = append(m.More, sentencePart{
				Field: fieldOf(k, x.field),
				Text:  "another " + nouns[x.field],
				Hint:  x.hint,
			})
		}
	}
	return m, nil
}

// offered is the first of a word's usual values, or of those that it can have, that makes another run than the one
// that is heard: one beside which all that is said stands, if there is one.
func (f runsForm) offered(k int, field string, g neck.Guitar) (value string, ok bool) {
	i := slices.IndexFunc(extras, func(x extra) bool { return x.field == field })
	if i < 0 {
		return "", false
	}
	heard, err := run.Grow(f.Recipe, g)
	if err != nil {
		return "", false
	}
	values := slices.Clone(extras[i].usual)
	for _, c := range f.Recipe.Choices(k, field, g) {
		values = append(values, c.Value)
	}
	for _, v := range values {
		r, gaveWay, err := f.Recipe.Put(k, field, v, g)
		if err != nil || v == "" || ok && len(gaveWay) > 0 {
			continue
		}
		other, err := run.Grow(r, g)
		if err != nil || bytes.Equal(line(other), line(heard)) {
			continue
		}
		if value, ok = v, true; len(gaveWay) == 0 {
			return value, true
		}
	}
	return value, ok
}

// line is a grown run as far as it is heard.
func line(r *run.Run) []byte {
	l := r.Lick
	l.Recipe, l.Title, l.Parts = "", "", nil
	return l.Encode()
}

// fieldOf is the name of an argument of part k, counted from 0, in forms and addresses: "cell" of the first part,
// "2.cell" of the second.
func fieldOf(k int, name string) string {
	if k == 0 {
		return name
	}
	return fmt.Sprintf("%d.%s", k+1, name)
}

// partOf is the part, counted from 0, and the argument that a field names.
func partOf(field string) (k int, name string) {
	if _, err := fmt.Sscanf(field, "%d.%s", &k, &name); err == nil && k > 1 {
		return k - 1, name
	}
	return 0, field
}

// nameOf says an argument by its name, and what is usual where it is left out.
func nameOf(arg, usual string) func(run.Recipe, neck.Guitar) string {
	return func(r run.Recipe, _ neck.Guitar) string { return run.NameOf(arg, cmp.Or(r.Get(arg), usual)) }
}

// keyWord is the key as a title names it.
func keyWord(r run.Recipe, _ neck.Guitar) string {
	if p, err := music.ParseKey(r.Key, nil, nil); err == nil {
		return p.Pretty()
	}
	return strings.SplitN(r.Title(), ",", 2)[0]
}

// addedWord is what is added to the key's tones.
func addedWord(r run.Recipe, _ neck.Guitar) string {
	return cmp.Or(run.DegreesName(r.Add), "no added tones")
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

// landWord is the tone that the run ends on.
func landWord(r run.Recipe, _ neck.Guitar) string {
	l, err := run.ParseLanding(r.Land)
	if r.Land == "" || err != nil {
		return "nothing"
	}
	return l.Say()
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
	_, _, at, err := run.Laid(r, g)
	if err != nil || at.String < 1 || at.String > len(g.Tuning) {
		return r.At
	}
	l := lick.New()
	l.Tuning = g.Tuning
	return fmt.Sprintf("fret %d on %s", at.Fret, l.StringName(at.String))
}
