package edit

import (
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/changes"
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/shape"
)

// Words are an edit as it is asked for. Dos lists what can be done.
type Words struct {
	Note  int    // from 1; 0 for none
	Do    string // "finger", "tempo"
	Value string // as Do reads it, often empty
}

// Do is one thing that can be done to a line.
// Name is the word of keys, forms and commands alike.
type Do struct {
	Name  string
	Value string // what may stand after it
	Note  bool   // it is done to a note
	read  func(a asked) (lick.Edit, error)
}

// asked is what an edit is read from: a line, the guitar tuned to it, what stands after the word, and
// the note that is meant. Of edits of the whole line the note is not looked at; of those that put a
// note down it may be −1.
type asked struct {
	guitar neck.Guitar
	lick   lick.Lick
	value  string
	i      int
}

// note is the note that is meant.
func (a asked) note() lick.Note { return a.lick.Notes[a.i] }

// Dos are what can be done, the notes' before the line's. The command line lists them; the
// bench has a key for each. What has two states is switched: asking for a slide from below where
// there is one takes it away. Words that a lick refuses (a stroke that is none) are refused when the
// edit is applied.
var Dos = []Do{
	{"place", "STRING:FRET [LENGTH]", true, placed},
	{"add", "STRING:FRET [LENGTH]", true, added},
	{"insert", "", true, func(a asked) (lick.Edit, error) {
		return lick.Insert{After: a.i, Place: a.note().Place(), Len: a.note().Len}, nil
	}},
	{"remove", "", true, func(a asked) (lick.Edit, error) { return lick.Remove{Note: a.i}, nil }},
	{"earlier", "", true, func(a asked) (lick.Edit, error) { return lick.Swap{Note: a.i, Earlier: true}, nil }},
	{"later", "", true, func(a asked) (lick.Edit, error) { return lick.Swap{Note: a.i}, nil }},
	{"rest", "", true, func(a asked) (lick.Edit, error) { return lick.Rest{Note: a.i}, nil }},
	{"unrest", "", true, func(a asked) (lick.Edit, error) { return lick.Rest{Note: a.i, Close: true}, nil }},
	{"length", "LENGTH", true, func(a asked) (lick.Edit, error) {
		t, err := lick.ParseTime(a.value)
		return lick.Length{Note: a.i, Len: t}, err
	}},
	{"degree", "DEGREE", true, toDegree},
	{"otherstring", "thinner or thicker", true, toString},
	{"finger", "1 to 4 or T", true, fingered},
	{"stroke", "down, up, p, i, m or a", true, func(a asked) (lick.Edit, error) {
		return lick.SetStroke{Note: a.i, Stroke: lick.Stroke(a.value)}, nil
	}},
	{"slur", "hammer, pull, slide or shift", true, func(a asked) (lick.Edit, error) {
		return lick.SetSlur{Note: a.i, Slur: lick.Slur(a.value)}, nil
	}},
	{"slidein", "below or above", true, func(a asked) (lick.Edit, error) {
		if in := a.note().SlideIn; in != nil && in.From == lick.From(a.value) {
			return lick.SetSlideIn{Note: a.i}, nil
		}
		return lick.SetSlideIn{Note: a.i, SlideIn: &lick.SlideIn{Frets: 1, From: lick.From(a.value)}}, nil
	}},
	{"bend", "HALF STEPS", true, bent},
	{"bendshape", "pre or release", true, changedBend(func(b *lick.Bend, a asked) error {
		b.Shape = lick.ShapeOf(b.Pre() != (a.value == "pre"), b.Release() != (a.value != "pre"))
		return nil
	})},
	{"push", "", true, changedBend(func(b *lick.Bend, a asked) error {
		b.Push = b.Way(a.note().String, len(a.lick.Tuning)).Other()
		return nil
	})},
	{"helpers", "FINGERS", true, changedBend(helped)},
	{"vibrato", "", true, func(a asked) (lick.Edit, error) {
		if a.note().Vibrato != nil {
			return lick.SetVibrato{Note: a.i}, nil
		}
		return lick.SetVibrato{Note: a.i, Vibrato: &lick.Vibrato{Width: lick.Wide, Speed: lick.Slow}}, nil
	}},
	{"mark", "accent, mute, rake or bar", true, func(a asked) (lick.Edit, error) {
		return lick.Toggle{Note: a.i, Mark: lick.Mark(a.value)}, nil
	}},
	{"meant", "FINDING", true, func(a asked) (lick.Edit, error) {
		code := lick.Code(a.value)
		return lick.SetMeant{Note: a.i, Code: code, Meant: !a.note().Means(code)}, nil
	}},
	{"chord", "C#m7 or 4m7", true, func(a asked) (lick.Edit, error) {
		e := lick.ChordAt{At: a.note().At}
		if strings.TrimSpace(a.value) == "" {
			return e, nil
		}
		var err error
		e.Name, err = changes.Sign(a.value, a.lick.Key)
		return e, err
	}},
	{"title", "WORDS", false, setting(func(s *lick.Setting, a asked) error { s.Title = &a.value; return nil })},
	{"tags", "WORDS, WORDS", false, setting(func(s *lick.Setting, a asked) error {
		tags := splitTags(a.value)
		s.Tags = &tags
		return nil
	})},
	{"tempo", "NUMBER", false, setting(func(s *lick.Setting, a asked) error {
		t, err := strconv.ParseFloat(a.value, 64)
		if s.Tempo = &t; err != nil {
			return fmt.Errorf("%q is no tempo: write a number from %d to %d", clip(a.value), lick.MinTempo, lick.MaxTempo)
		}
		return nil
	})},
	{"meter", "4/4", false, setting(func(s *lick.Setting, a asked) error {
		m, err := lick.ParseMeter(a.value)
		s.Meter = &m
		return err
	})},
	{"pickup", "LENGTH", false, setting(func(s *lick.Setting, a asked) error {
		t, err := lick.ParseTime(a.value)
		s.Pickup = &t
		return err
	})},
	{"feel", "straight or shuffle", false, setting(func(s *lick.Setting, a asked) error {
		feel := lick.Feel(a.value)
		s.Feel = &feel
		return nil
	})},
	{"loop", "yes or no", false, setting(func(s *lick.Setting, a asked) error {
		loop := a.value == "yes"
		s.Loop = &loop
		return nil
	})},
	{"tonic", "TONE", false, keyed(func(k lick.Key, value string) (lick.Key, error) {
		k.Tonic = value
		return k, nil
	})},
	{"scale", "SCALE", false, keyed(inScale)},
	{"tone", "DEGREE", false, keyed(lick.Key.Toggle)},
	{"chords", "Am7 | D7 . E7 .", false, func(a asked) (lick.Edit, error) {
		chords, err := changes.Parse(a.value, a.lick.Meter, a.lick.Pickup, a.lick.Key)
		return lick.SetChords{Chords: chords}, err
	}},
	{"propose", "", false, func(asked) (lick.Edit, error) { return lick.OpenHands{}, nil }},
}

// doOf finds what a word does.
func doOf(name string) (Do, error) {
	if k := slices.IndexFunc(Dos, func(d Do) bool { return d.Name == name }); k >= 0 {
		return Dos[k], nil
	}
	return Do{}, fmt.Errorf("%q is nothing that can be done here", clip(name))
}

// Parse reads an edit from one line: "3 finger 2", "tempo 120", "add 5:7 1/8".
// The value is the rest of the line as it stands, so that a title may have spaces.
func Parse(line string) (Words, error) {
	var w Words
	word, rest, _ := strings.Cut(strings.TrimSpace(line), " ")
	if n, err := strconv.Atoi(word); err == nil {
		if n < 1 {
			return w, fmt.Errorf("%q: notes are counted from 1", clip(line))
		}
		w.Note = n
		word, rest, _ = strings.Cut(strings.TrimSpace(rest), " ")
	}
	w.Do, w.Value = word, strings.TrimSpace(rest)
	_, err := doOf(w.Do)
	return w, err
}

// Read turns the words into an edit of a line on a guitar. An error is one sentence.
// The guitar gives the frets there are; its tuning gives way to the line's.
//
// Nothing is changed here: the edit that comes back is applied by whoever keeps the line, and
// says by What what it did.
func Read(g neck.Guitar, l lick.Lick, w Words) (lick.Edit, error) {
	do, err := doOf(w.Do)
	if err != nil {
		return nil, err
	}
	a := asked{g.WithTuning(l.Tuning), l, w.Value, w.Note - 1}
	if a.i < 0 || a.i >= len(l.Notes) {
		a.i = -1
		switch {
		case !do.Note || do.Name == "place" || do.Name == "add":
		case w.Note > 0:
			return nil, fmt.Errorf("there is no note %d", w.Note)
		default:
			return nil, errors.New("there is no note under the caret")
		}
	}
	e, err := do.read(a)
	if err != nil {
		return nil, err
	}
	return e, nil
}

// clip shortens a word for a sentence.
func clip(s string) string {
	if r := []rune(s); len(r) > 60 {
		return string(r[:60]) + "…"
	}
	return s
}

// place reads where a note is put, and how long it is.
func (a asked) place() (p neck.Place, length string, err error) {
	word, length, _ := strings.Cut(strings.TrimSpace(a.value), " ")
	p, err = neck.ParsePlace(word)
	return p, strings.TrimSpace(length), err
}

// placed puts a place down at a note, in its stead: "5:7" or "5:7 1/8"; without a note as a new one at
// the end, as long as it says.
func placed(a asked) (lick.Edit, error) {
	p, length, err := a.place()
	if err != nil || a.i >= 0 {
		return lick.Move{Note: a.i, Place: p}, err
	}
	return lick.Insert{After: len(a.lick.Notes) - 1, Place: p, Len: NextLength(a.lick, length)}, nil
}

// added puts a place down together with a note; without one it is as placed.
func added(a asked) (lick.Edit, error) {
	if a.i < 0 {
		return placed(a)
	}
	p, _, err := a.place()
	return lick.Add{Note: a.i, Place: p}, err
}

// NextLength is the length that was asked for, else the last note's, an eighth for
// the first.
func NextLength(l lick.Lick, asked string) lick.Time {
	if t, err := lick.ParseTime(asked); err == nil && (lick.Time{}).Before(t) {
		return t
	}
	if n := len(l.Notes); n > 0 {
		return l.Notes[n-1].Len
	}
	return lick.NewTime(1, 8)
}

// fingered sets or frees a finger.
func fingered(a asked) (lick.Edit, error) {
	if a.value == "" {
		return lick.SetFinger{Note: a.i}, nil
	}
	finger, err := lick.ParseFinger(a.value)
	return lick.SetFinger{Note: a.i, Finger: finger}, err
}

// bent sets how far a note is bent, or begins its bend; nothing takes the bend away.
func bent(a asked) (lick.Edit, error) {
	if a.value == "" {
		return lick.SetBend{Note: a.i}, nil
	}
	b := lick.Bend{Shape: lick.BendUp}
	if now := a.note().Bend; now != nil {
		b = *now
	}
	amount, err := strconv.ParseFloat(a.value, 64)
	if err != nil {
		return nil, errors.New("that is no bend")
	}
	b.Semitones = amount
	return lick.SetBend{Note: a.i, Bend: &b}, nil
}

// changedBend changes one trait of a bend that is there.
func changedBend(change func(b *lick.Bend, a asked) error) func(asked) (lick.Edit, error) {
	return func(a asked) (lick.Edit, error) {
		now := a.note().Bend
		if now == nil {
			return nil, errors.New("bend the note first")
		}
		b := *now
		err := change(&b, a)
		return lick.SetBend{Note: a.i, Bend: &b}, err
	}
}

// helped says which fingers help a bend.
func helped(b *lick.Bend, a asked) error {
	b.With = nil
	for _, word := range strings.Fields(a.value) {
		finger, err := lick.ParseFinger(word)
		if err != nil {
			return err
		}
		b.With = append(b.With, finger)
	}
	return nil
}

// toDegree moves a note to the nearest place of a chosen tone. A tone that was chosen is in
// the key; any other degree is taken over the key's root all the same, so that 4 can be tried
// in a pentatonic.
func toDegree(a asked) (lick.Edit, error) {
	p, ok := a.lick.PaletteAt(a.note().At)
	if !ok {
		return nil, errors.New("choose the tones first")
	}
	d, err := music.ParseDegree(a.value)
	if err != nil {
		return nil, err
	}
	place, ok := shape.Nearest(a.guitar, d.Over(p.Tonic).Class(), a.note().Place())
	if !ok {
		return nil, errors.New("that tone does not lie on this neck")
	}
	return lick.Move{Note: a.i, Place: place}, nil
}

// toString moves a note to the same pitch on the next string, thinner or thicker.
// The pitch stays, the finger is found again.
func toString(a asked) (lick.Edit, error) {
	s := a.note().String + 1
	if a.value == "thinner" {
		s -= 2
	}
	if s < 1 || s > len(a.lick.Tuning) {
		return nil, errors.New("there is no string beyond this one")
	}
	fret := int(a.lick.Pitch(a.i) - a.lick.Tuning[s-1])
	if fret < 0 || fret > a.guitar.Frets {
		return nil, errors.New("this pitch does not lie on that string")
	}
	return lick.Move{Note: a.i, Place: neck.Place{String: s, Fret: fret}}, nil
}

// setting is an edit of the line around its notes. Whether a value is within its limits is for the
// edit to say when it is applied.
func setting(set func(s *lick.Setting, a asked) error) func(asked) (lick.Edit, error) {
	return func(a asked) (lick.Edit, error) {
		var s lick.Setting
		a.value = strings.TrimSpace(a.value)
		err := set(&s, a)
		return s, err
	}
}

// keyed is an edit of the line's key. A line without tones gets A minor pentatonic first, so that a
// click on the rail is an answer and no error.
func keyed(change func(k lick.Key, value string) (lick.Key, error)) func(asked) (lick.Edit, error) {
	return setting(func(s *lick.Setting, a asked) error {
		k := a.lick.Clone().Key
		if k.Tonic == "" {
			k = lick.Key{Tonic: "A", Scale: "minor pentatonic"}
		}
		k, err := change(k, a.value)
		s.Key = &k
		return err
	})
}

// inScale is a key with another scale. The added tones that are in it already go, and so do the
// dropped ones that are not.
func inScale(k lick.Key, value string) (lick.Key, error) {
	sc, err := music.ParseScale(value)
	if err != nil {
		return k, err
	}
	k.Scale = sc.Name
	has := func(s string) bool {
		d, err := music.ParseDegree(strings.Split(s, "@")[0])
		return err == nil &&
			slices.ContainsFunc(sc.Degrees, func(o music.Degree) bool { return o.Semitones() == d.Semitones() })
	}
	k.Add = slices.DeleteFunc(k.Add, has)
	k.Drop = slices.DeleteFunc(k.Drop, func(s string) bool { return !has(s) })
	return k, nil
}

// splitTags reads tags with commas between them.
// A tag that is there already is not added twice; none at all takes the tags away.
func splitTags(s string) []string {
	tags := []string{}
	for _, t := range strings.Split(s, ",") {
		if t = strings.TrimSpace(t); t != "" && !slices.Contains(tags, t) {
			tags = append(tags, t)
		}
	}
	return tags
}
