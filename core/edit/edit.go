package edit

import (
	"errors"
	"fmt"
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
}

// Dos are what can be done, the notes' before the line's. The command line lists them; the
// bench has a key for each.
var Dos = []Do{
	{"place", "STRING:FRET [LENGTH]", true}, {"add", "STRING:FRET [LENGTH]", true}, {"insert", "", true},
	{"remove", "", true}, {"earlier", "", true}, {"later", "", true}, {"rest", "", true}, {"unrest", "", true},
	{"length", "LENGTH", true}, {"degree", "DEGREE", true}, {"otherstring", "thinner or thicker", true},
	{"finger", "1 to 4 or T", true},
	{"stroke", "down, up, p, i, m or a", true}, {"slur", "hammer, pull, slide or shift", true},
	{"slidein", "below or above", true}, {"bend", "HALF STEPS", true}, {"bendshape", "pre or release", true},
	{"push", "", true},
	{"helpers", "FINGERS", true}, {"vibrato", "", true}, {"mark", "accent, mute, rake or bar", true},
	{"meant", "FINDING", true}, {"chord", "C#m7 or 4m7", true},
	{"title", "WORDS", false}, {"tags", "WORDS, WORDS", false}, {"tempo", "NUMBER", false}, {"meter", "4/4", false},
	{"pickup", "LENGTH", false}, {"feel", "straight or shuffle", false}, {"loop", "yes or no", false},
	{"tonic", "TONE", false},
	{"scale", "SCALE", false}, {"tone", "DEGREE", false}, {"chords", "Am7 | D7 . E7 .", false},
	{"propose", "", false},
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
	for _, d := range Dos {
		if d.Name == w.Do {
			return w, nil
		}
	}
	return w, unknown(w.Do)
}

// unknown is what is said of a word that does nothing.
func unknown(do string) error { return fmt.Errorf("%q is nothing that can be done here", clip(do)) }

// Read turns the words into an edit of a line on a guitar. An error is one sentence.
// The guitar gives the frets there are; its tuning gives way to the line's. Words that a lick
// refuses (a stroke that is none) are refused when the edit is applied.
//
// Nothing is changed here: the edit that comes back is applied by whoever keeps the line, and
// says by What what it did.
func Read(g neck.Guitar, l lick.Lick, w Words) (lick.Edit, error) {
	if e, ok, err := settingOf(w, l); ok || err != nil {
		return e, err
	}
	switch w.Do {
	case "place", "add":
		return placeEdit(w, l)
	case "propose":
		return lick.OpenHands{}, nil
	}
	i := w.Note - 1
	if i < 0 || i >= len(l.Notes) {
		if w.Note > 0 {
			return nil, fmt.Errorf("there is no note %d", w.Note)
		}
		return nil, errors.New("there is no note under the caret")
	}
	return noteEdit(g.WithTuning(l.Tuning), w, l, i)
}

// clip shortens a word for a sentence.
func clip(s string) string {
	if r := []rune(s); len(r) > 60 {
		return string(r[:60]) + "…"
	}
	return s
}

// placeEdit puts a place down at a note, "5:7" or "5:7 1/8": in its stead, or together with it;
// without a note as a new one at the end, as long as it says.
func placeEdit(w Words, l lick.Lick) (lick.Edit, error) {
	word, length, _ := strings.Cut(strings.TrimSpace(w.Value), " ")
	p, err := neck.ParsePlace(word)
	if err != nil {
		return nil, err
	}
	i := w.Note - 1
	switch {
	case i < 0 || i >= len(l.Notes):
		return lick.Insert{After: len(l.Notes) - 1, Place: p, Len: NextLength(l, strings.TrimSpace(length))}, nil
	case w.Do == "add":
		return lick.Add{Note: i, Place: p}, nil
	}
	return lick.Move{Note: i, Place: p}, nil
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

// noteEdit is the edit of note i that the words ask for.
// What has two states is switched: asking for a slide from below where there is one takes it
// away.
func noteEdit(g neck.Guitar, w Words, l lick.Lick, i int) (lick.Edit, error) {
	n := l.Notes[i]
	switch w.Do {
	case "insert":
		return lick.Insert{After: i, Place: n.Place(), Len: n.Len}, nil
	case "remove":
		return lick.Remove{Note: i}, nil
	case "earlier", "later":
		return lick.Swap{Note: i, Earlier: w.Do == "earlier"}, nil
	case "rest", "unrest":
		return lick.Rest{Note: i, Close: w.Do == "unrest"}, nil
	case "length":
		t, err := lick.ParseTime(w.Value)
		return lick.Length{Note: i, Len: t}, err
	case "finger":
		return fingerEdit(i, w.Value)
	case "stroke":
		return lick.SetStroke{Note: i, Stroke: lick.Stroke(w.Value)}, nil
	case "slur":
		return lick.SetSlur{Note: i, Slur: lick.Slur(w.Value)}, nil
	case "slidein":
		if n.SlideIn != nil && n.SlideIn.From == lick.From(w.Value) {
			return lick.SetSlideIn{Note: i}, nil
		}
		return lick.SetSlideIn{Note: i, SlideIn: &lick.SlideIn{Frets: 1, From: lick.From(w.Value)}}, nil
	case "mark":
		return lick.Toggle{Note: i, Mark: lick.Mark(w.Value)}, nil
	case "chord":
		e := lick.ChordAt{At: l.Notes[i].At}
		if strings.TrimSpace(w.Value) == "" {
			return e, nil
		}
		var err error
		e.Name, err = changes.Sign(w.Value, l.Key.Tonic)
		return e, err
	case "meant":
		return lick.SetMeant{Note: i, Code: lick.Code(w.Value), Meant: !n.Means(lick.Code(w.Value))}, nil
	case "degree":
		return degreeEdit(g, w, l, i)
	case "otherstring":
		return stringEdit(g, w, l, i)
	case "bend", "bendshape", "push", "helpers", "vibrato":
		return bendEdit(w, n, i, len(l.Tuning))
	}
	return nil, fmt.Errorf("%q is nothing that can be done here", clip(w.Do))
}

// fingerEdit sets or frees a finger.
func fingerEdit(i int, value string) (lick.Edit, error) {
	if value == "" {
		return lick.SetFinger{Note: i}, nil
	}
	finger, err := lick.ParseFinger(value)
	return lick.SetFinger{Note: i, Finger: finger}, err
}

// bendEdit changes one trait of a bend, or begins one: amount, shape, push, helpers. tuned
// is the number of strings.
// Only an amount can begin a bend; the other traits need one.
func bendEdit(w Words, n lick.Note, i, tuned int) (lick.Edit, error) {
	if w.Do == "vibrato" {
		if n.Vibrato != nil {
			return lick.SetVibrato{Note: i}, nil
		}
		return lick.SetVibrato{Note: i, Vibrato: &lick.Vibrato{Width: lick.Wide, Speed: lick.Slow}}, nil
	}
	if w.Do == "bend" && w.Value == "" {
		return lick.SetBend{Note: i}, nil
	}
	b := lick.Bend{Shape: lick.BendUp}
	if n.Bend != nil {
		b = *n.Bend
	}
	switch w.Do {
	case "bend":
		amount, err := strconv.ParseFloat(w.Value, 64)
		if err != nil {
			return nil, errors.New("that is no bend")
		}
		b.Semitones = amount
	case "bendshape":
		if n.Bend == nil {
			return nil, errors.New("bend the note first")
		}
		b.Shape = lick.ShapeOf(b.Pre() != (w.Value == "pre"), b.Release() != (w.Value != "pre"))
	case "push":
		if n.Bend == nil {
			return nil, errors.New("bend the note first")
		}
		b.Push = b.Way(n.String, tuned).Other()
	case "helpers":
		if n.Bend == nil {
			return nil, errors.New("bend the note first")
		}
		b.With = nil
		for _, word := range strings.Fields(w.Value) {
			finger, err := lick.ParseFinger(word)
			if err != nil {
				return nil, err
			}
			b.With = append(b.With, finger)
		}
	}
	return lick.SetBend{Note: i, Bend: &b}, nil
}

// degreeEdit moves a note to the nearest place of a chosen tone. A tone that was chosen is in
// the key; any other degree is taken over the key's root all the same, so that 4 can be tried
// in a pentatonic.
func degreeEdit(g neck.Guitar, w Words, l lick.Lick, i int) (lick.Edit, error) {
	p, ok := l.PaletteAt(l.Notes[i].At)
	if !ok {
		return nil, errors.New("choose the tones first")
	}
	d, err := music.ParseDegree(w.Value)
	if err != nil {
		return nil, err
	}
	place, ok := shape.Nearest(g, d.Over(p.Tonic).Class(), l.Notes[i].Place())
	if !ok {
		return nil, errors.New("that tone does not lie on this neck")
	}
	return lick.Move{Note: i, Place: place}, nil
}

// stringEdit moves a note to the same pitch on the next string.
// The pitch stays, the finger is found again.
func stringEdit(g neck.Guitar, w Words, l lick.Lick, i int) (lick.Edit, error) {
	n := l.Notes[i]
	step := 1
	if w.Value == "thinner" {
		step = -1
	}
	s := n.String + step
	if s < 1 || s > len(l.Tuning) {
		return nil, errors.New("there is no string beyond this one")
	}
	fret := int(l.Pitch(i) - l.Tuning[s-1])
	if fret < 0 || fret > g.Frets {
		return nil, errors.New("this pitch does not lie on that string")
	}
	return lick.Move{Note: i, Place: neck.Place{String: s, Fret: fret}}, nil
}
