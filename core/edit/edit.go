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
	"ornamen/core/text"
	"ornamen/core/turn"
)

// Words are an edit as it is asked for. Dos lists what can be done.
type Words struct {
	Note  int         // from 1; 0 for none
	Notes lick.Ranges // a selection in its stead, or nil
	Do    string      // "finger", "tempo"
	Value string      // as Do reads it, often empty
}

// Do is one thing that can be done to a line. Name is the word of keys, forms and commands alike.
type Do struct {
	Name  string
	Value string // what may stand after it
	To    Target
	Does  string // in a few words
	read  func(a request) (lick.Edit, error)
}

// Target is what something is done to.
type Target int

// The targets. What is done to each note of a selection is one edit; what is done to notes takes them
// together, as a figure.
const (
	ToLine Target = iota // nothing but the line
	ToNote               // a note and no selection
	ToEach               // a note, or each one of a selection
	ToNotes
)

// request is what an edit is read from: a line, the guitar tuned to it, what stands after the word, and the notes that
// are meant. Of edits of the whole line they are not looked at; of those that put a note down i may be −1.
type request struct {
	guitar neck.Guitar
	lick   lick.Lick
	value  string
	i      int
	notes  lick.Ranges
}

// note is the note that is meant.
func (a request) note() lick.Note { return a.lick.Notes[a.i] }

// kept is the value, nothing where it takes away what it names.
func (a request) kept() string {
	if a.off() {
		return ""
	}
	return a.value
}

// off says whether the value takes away what it names: "off", or nothing where nothing leaves it open.
func (a request) off() bool { return a.value == "off" || a.value == "" }

// switched reads a value with "off" behind it.
func (a request) switched() (value string, on bool) {
	value, off := strings.CutSuffix(strings.TrimSpace(a.value), " off")
	return strings.TrimSpace(value), !off
}

// Dos are what can be done, the notes' before the line's. The command line lists them; the bench has a key for each.
// Every word sets, whatever was there before; what takes away is the same word with "off" for its value or behind it.
// Words that a lick refuses (a stroke that is none) are refused when the edit is applied.
var Dos = []Do{
	{
		Name:  "place",
		Value: "STRING:FRET [LENGTH]",
		To:    ToNote,
		Does:  "puts the note there, or a new one at the end",
		read:  placed,
	},
	{Name: "add", Value: "STRING:FRET", To: ToNote, Does: "sounds a place together with the note", read: added},
	{
		Name: "insert",
		To:   ToEach,
		Does: "puts a new note after it, at the same place",
		read: func(a request) (lick.Edit, error) {
			return lick.Insert{After: a.i, Place: a.note().Place(), Len: a.note().Len}, nil
		},
	},
	{
		Name:  "remove",
		Value: "[rest]",
		To:    ToNotes,
		Does:  "takes the notes out; what follows moves up, or with rest stays where it is",
		read: func(a request) (lick.Edit, error) {
			rest := a.value == "rest"
			switch {
			case a.value != "" && !rest:
				return nil, fmt.Errorf("remove takes rest or nothing behind it, not %q", a.value)
			case a.notes == nil:
				return lick.Remove{Note: a.i, Rest: rest}, nil
			}
			return lick.RemoveNotes{Notes: a.notes, Rest: rest}, nil
		},
	},
	{
		Name: "duplicate",
		To:   ToNotes,
		Does: "plays the notes once more, right behind themselves",
		read: func(a request) (lick.Edit, error) {
			return lick.Duplicate{Notes: a.all()}, nil
		},
	},
	{
		Name:  "after",
		Value: "NOTE",
		To:    ToNotes,
		Does:  "carries the notes to behind another one; 0 is the beginning",
		read:  carried,
	},
	{
		Name: "only",
		To:   ToNotes,
		Does: "keeps these notes and lets the others go",
		read: func(a request) (lick.Edit, error) {
			return lick.Only{Notes: a.all()}, nil
		},
	},
	{
		Name:  "move",
		Value: "N frets, strings, over, degrees or octaves",
		To:    ToNotes,
		Does:  "moves the notes as one figure: up, or to thicker strings; over keeps the pitches",
		read:  moved,
	},
	{
		Name:  "transpose",
		Value: "KEY",
		To:    ToLine,
		Does:  "moves the line to another key, tones, chords and all",
		read:  transposed,
	},
	{
		Name:  "longer",
		Value: "[FACTOR]",
		To:    ToNotes,
		Does:  "makes the notes so many times as long, 2 by itself; 3/2 is dotted",
		read:  stretched(false),
	},
	{
		Name:  "shorter",
		Value: "[FACTOR]",
		To:    ToNotes,
		Does:  "makes the notes so many times as short",
		read:  stretched(true),
	},
	{
		Name: "earlier",
		To:   ToNotes,
		Does: "changes places with what comes before",
		read: func(a request) (lick.Edit, error) { return a.swapped(true) },
	},
	{
		Name: "later",
		To:   ToNotes,
		Does: "changes places with what comes after",
		read: func(a request) (lick.Edit, error) { return a.swapped(false) },
	},
	{
		Name: "rest",
		To:   ToNote,
		Does: "opens a rest before the note, as long as the note",
		read: func(a request) (lick.Edit, error) { return lick.Rest{Note: a.i}, nil },
	},
	{
		Name: "unrest",
		To:   ToNote,
		Does: "closes the rest before the note",
		read: func(a request) (lick.Edit, error) { return lick.Rest{Note: a.i, Close: true}, nil },
	},
	{
		Name:  "length",
		Value: "LENGTH",
		To:    ToEach,
		Does:  "sets how long the note lasts, as in 1/8",
		read: func(a request) (lick.Edit, error) {
			t, err := lick.ParseTime(a.value)
			return lick.Length{Note: a.i, Len: t}, err
		},
	},
	{
		Name:  "degree",
		Value: "DEGREE",
		To:    ToEach,
		Does:  "moves the note to the nearest place of that tone",
		read:  toDegree,
	},
	{
		Name:  "otherstring",
		Value: "thinner or thicker",
		To:    ToNotes,
		Does:  "the same pitches on the next string",
		read:  toString,
	},
	{
		Name:  "finger",
		Value: "1 to 4, T or off",
		To:    ToEach,
		Does:  "sets the finger; off leaves it open",
		read:  fingered,
	},
	{
		Name:  "stroke",
		Value: "down, up, p, i, m, a or off",
		To:    ToEach,
		Does:  "sets the stroke",
		read: func(a request) (lick.Edit, error) {
			return lick.SetStroke{Note: a.i, Stroke: lick.Stroke(a.kept())}, nil
		},
	},
	{
		Name:  "slur",
		Value: "hammer, pull, slide, shift or off",
		To:    ToEach,
		Does:  "sets how the note is reached",
		read: func(a request) (lick.Edit, error) {
			return lick.SetSlur{Note: a.i, Slur: lick.Slur(a.kept())}, nil
		},
	},
	{
		Name:  "slidein",
		Value: "below, above or off",
		To:    ToEach,
		Does:  "slides into the note from a fret away",
		read: func(a request) (lick.Edit, error) {
			if a.off() {
				return lick.SetSlideIn{Note: a.i}, nil
			}
			return lick.SetSlideIn{Note: a.i, SlideIn: &lick.SlideIn{Frets: 1, From: lick.From(a.value)}}, nil
		},
	},
	{
		Name:  "bend",
		Value: "HALF STEPS or off",
		To:    ToEach,
		Does:  "bends the note so far: 0.5, 1, 2, 3 or 4",
		read:  bent,
	},
	{
		Name:  "bendshape",
		Value: "bend, bend-release, prebend or prebend-release",
		To:    ToEach,
		Does:  "sets the shape of a bend",
		read:  changedBend(func(b *lick.Bend, a request) error { b.Shape = lick.BendShape(a.value); return nil }),
	},
	{
		Name:  "push",
		Value: "thick, thin or off",
		To:    ToEach,
		Does:  "sets toward which strings a bend is pushed",
		read:  changedBend(func(b *lick.Bend, a request) error { b.Push = lick.Push(a.kept()); return nil }),
	},
	{
		Name:  "helpers",
		Value: "FINGERS or off",
		To:    ToEach,
		Does:  "sets which fingers help a bend, as in 2 1",
		read:  changedBend(helped),
	},
	{
		Name:  "vibrato",
		Value: "[narrow or wide] [slow or fast], or off",
		To:    ToEach,
		Does:  "shakes the note, wide and slow by itself",
		read:  shaken,
	},
	{
		Name:  "mark",
		Value: "accent, mute, palm, ghost, rake or bar, or one of them off",
		To:    ToEach,
		Does:  "marks the note",
		read: func(a request) (lick.Edit, error) {
			mark, on := a.switched()
			return lick.SetMark{Note: a.i, Mark: lick.Mark(mark), On: on}, nil
		},
	},
	{
		Name:  "meant",
		Value: "FINDING or FINDING off",
		To:    ToEach,
		Does:  "says that a finding of the note is meant so",
		read: func(a request) (lick.Edit, error) {
			code, on := a.switched()
			return lick.SetMeant{Note: a.i, Code: lick.Code(code), Meant: on}, nil
		},
	},
	{
		Name:  "chord",
		Value: "C#m7, 4m7 or off",
		To:    ToNote,
		Does:  "writes a chord from the note on",
		read: func(a request) (lick.Edit, error) {
			e := lick.ChordAt{At: a.note().At}
			if a.off() {
				return e, nil
			}
			var err error
			e.Name, err = changes.Sign(a.value, a.lick.Key)
			return e, err
		},
	},
	{
		Name:  "title",
		Value: "WORDS",
		To:    ToLine,
		Does:  "sets the title",
		read:  setting(func(s *lick.Setting, a request) error { s.Title = &a.value; return nil }),
	},
	{
		Name:  "tags",
		Value: "WORDS, WORDS",
		To:    ToLine,
		Does:  "sets the tags",
		read: setting(func(s *lick.Setting, a request) error {
			tags := splitTags(a.value)
			s.Tags = &tags
			return nil
		}),
	},
	{
		Name:  "tempo",
		Value: "NUMBER",
		To:    ToLine,
		Does:  "sets the wanted tempo, quarter notes a minute",
		read: setting(func(s *lick.Setting, a request) error {
			t, err := strconv.ParseFloat(a.value, 64)
			if s.Tempo = &t; err != nil {
				return fmt.Errorf("%q is no tempo: write a number from %d to %d", text.Clip(a.value, 60), lick.MinTempo,
					lick.MaxTempo)
			}
			return nil
		}),
	},
	{
		Name:  "meter",
		Value: "4/4",
		To:    ToLine,
		Does:  "sets the meter",
		read: setting(func(s *lick.Setting, a request) error {
			m, err := lick.ParseMeter(a.value)
			s.Meter = &m
			return err
		}),
	},
	{
		Name:  "pickup",
		Value: "LENGTH",
		To:    ToLine,
		Does:  "sets how much of the line lies before bar 1",
		read: setting(func(s *lick.Setting, a request) error {
			t, err := lick.ParseTime(a.value)
			s.Pickup = &t
			return err
		}),
	},
	{
		Name:  "feel",
		Value: "straight or shuffle",
		To:    ToLine,
		Does:  "sets how eighths are played",
		read:  setting(func(s *lick.Setting, a request) error { s.Feel = new(lick.Feel(a.value)); return nil }),
	},
	{
		Name:  "loop",
		Value: "yes or no",
		To:    ToLine,
		Does:  "says whether the end leads back to the start",
		read: setting(func(s *lick.Setting, a request) error {
			loop := a.value == "yes"
			if s.Loop = &loop; !loop && a.value != "no" && a.value != "off" {
				return fmt.Errorf("%q: a line is a loop, yes or no", text.Clip(a.value, 60))
			}
			return nil
		}),
	},
	{
		Name:  "tonic",
		Value: "TONE",
		To:    ToLine,
		Does:  "names another root; the notes stay",
		read:  keyed(func(k lick.Key, value string) (lick.Key, error) { k.Tonic = value; return k, nil }),
	},
	{Name: "scale", Value: "SCALE", To: ToLine, Does: "names another scale; the notes stay", read: keyed(inScale)},
	{
		Name:  "tone",
		Value: "DEGREE or DEGREE off",
		To:    ToLine,
		Does:  "takes a tone among the chosen ones, or out of them",
		read:  keyed(withTone),
	},
	{
		Name:  "chords",
		Value: "Am7 | D7 . E7 .",
		To:    ToLine,
		Does:  "sets the chords under the line, by bars",
		read: func(a request) (lick.Edit, error) {
			chords, err := changes.Parse(a.value, a.lick.Meter, a.lick.Pickup, a.lick.Key)
			return lick.SetChords{Chords: chords}, err
		},
	},
	{
		Name: "propose",
		To:   ToLine,
		Does: "leaves every finger and stroke open that was not set",
		read: func(request) (lick.Edit, error) { return lick.OpenHands{}, nil },
	},
}

// doOf finds what a word does.
func doOf(name string) (Do, error) {
	if k := slices.IndexFunc(Dos, func(d Do) bool { return d.Name == name }); k >= 0 {
		return Dos[k], nil
	}
	return Do{}, fmt.Errorf("%q is nothing that can be done here", text.Clip(name, 60))
}

// TargetOf is what a word is done to; ok is false for one that is none.
func TargetOf(name string) (to Target, ok bool) {
	do, err := doOf(name)
	return do.To, err == nil
}

// Parse reads an edit from one line: "3 finger 2", "3-8 remove", "tempo 120", "add 5:7 1/8".
// The value is the rest of the line as it stands, so that a title may have spaces.
func Parse(line string) (Words, error) {
	var w Words
	word, rest, _ := strings.Cut(strings.TrimSpace(line), " ")
	if word != "" && strings.Trim(word, "0123456789-,") == "" {
		notes, err := lick.ParseRanges(word)
		if err != nil {
			return w, fmt.Errorf("%q: notes are counted from 1, as in 3 or 3-8", text.Clip(line, 60))
		}
		if w.Notes = notes; len(notes) == 1 && !strings.ContainsAny(word, "-,") {
			w.Note, w.Notes = notes[0].To, nil
		}
		word, rest, _ = strings.Cut(strings.TrimSpace(rest), " ")
	}
	w.Do, w.Value = word, strings.TrimSpace(rest)
	_, err := doOf(w.Do)
	return w, err
}

// Read turns the words into an edit of a line on a guitar. An error is one sentence.
// The guitar gives the frets there are; its tuning gives way to the line's.
//
// Nothing is changed here: the edit that comes back is applied by whoever keeps the line, and says by What what it did.
func Read(g neck.Guitar, l lick.Lick, w Words) (lick.Edit, error) {
	do, err := doOf(w.Do)
	if err != nil {
		return nil, err
	}
	a := request{guitar: g.WithTuning(l.Tuning), lick: l, value: w.Value, i: w.Note - 1, notes: w.Notes}
	for _, r := range w.Notes {
		if r.To > len(l.Notes) && do.To != ToLine {
			return nil, fmt.Errorf("there is no note %d", r.To)
		}
	}
	switch {
	case do.To == ToLine:
		return do.read(a)
	case w.Notes != nil && do.To == ToNotes:
		a.i = w.Notes[0].From
		return do.read(a)
	case w.Notes != nil && do.To == ToEach:
		return each(do, a)
	case w.Notes != nil:
		return nil, fmt.Errorf("%s is for one note; %s are selected", do.Name, w.Notes.Words())
	}
	if a.i < 0 || a.i >= len(l.Notes) {
		a.i = -1
		switch {
		case do.Name == "place" || do.Name == "add":
		case w.Note > 0:
			return nil, fmt.Errorf("there is no note %d", w.Note)
		default:
			return nil, errors.New("there is no note under the caret")
		}
	}
	return do.read(a)
}

// each does something to every note of a selection, the last one first: what comes before it stays
// where it is. It stops at the first that cannot be.
func each(do Do, a request) (lick.Edit, error) {
	all := lick.All{}
	for _, r := range slices.Backward(a.notes) {
		for i := r.To - 1; i >= r.From; i-- {
			one := a
			one.i, one.notes = i, nil
			e, err := do.read(one)
			if err != nil {
				return nil, fmt.Errorf("note %d: %w", i+1, err)
			}
			all.Edits = append(all.Edits, e)
		}
	}
	what := strings.TrimSpace(do.Name + " " + text.Clip(a.value, 60))
	all.Why = what + " on " + a.notes.Words()
	return all, nil
}

// all are the notes that are meant: the selection, or the one note.
func (a request) all() lick.Ranges {
	if a.notes != nil {
		return a.notes
	}
	return lick.Ranges{{From: a.i, To: a.i + 1}}
}

// carried reads behind which note the notes go.
func carried(a request) (lick.Edit, error) {
	n, err := strconv.Atoi(a.value)
	if err != nil {
		return nil, fmt.Errorf("%q is no note: say after which one, as in after 12", text.Clip(a.value, 60))
	}
	return lick.Carry{Notes: a.all(), After: n - 1}, nil
}

// moved reads "2 frets", "-1 strings" and the like, several with commas between them.
func moved(a request) (lick.Edit, error) {
	var edits []lick.Edit
	for _, one := range strings.Split(a.value, ",") {
		word, by, _ := strings.Cut(strings.TrimSpace(one), " ")
		n, err := strconv.Atoi(word)
		if err != nil {
			return nil, fmt.Errorf("%q is no move: write how far and along what, as in 2 frets, -1 strings, 1 degrees "+
				"or 1 octaves", text.Clip(one, 60))
		}
		if by = strings.TrimSpace(by); !strings.HasSuffix(by, "s") && by != string(turn.ByOver) {
			by += "s"
		}
		edits = append(edits, turn.Move{Guitar: a.guitar, Notes: a.all(), By: turn.By(by), N: n})
	}
	if len(edits) == 1 {
		return edits[0], nil
	}
	return lick.All{Edits: edits, Why: a.all().Words() + " moved"}, nil
}

// transposed moves the whole line to another key, to the nearest place of its shape.
func transposed(a request) (lick.Edit, error) {
	if a.lick.Key.Tonic == "" {
		return nil, errors.New("choose the tones of the line first: it is moved from its key to the other")
	}
	text := strings.TrimSpace(a.value)
	if !strings.Contains(text, " ") {
		text += " " + a.lick.Key.Scale
	}
	p, err := shape.ToKey(a.lick, text)
	if err != nil {
		return nil, err
	}
	if now, ok := a.lick.Palette(); ok && now.Pretty() == p.Pretty() {
		return nil, fmt.Errorf("the line is in %s already", p.Pretty())
	}
	r, err := turn.Recolour(a.lick, a.guitar, p, shape.NearestPlace)
	return lick.Replace{Lick: r.Lick, Why: "moved to " + p.Pretty()}, err
}

// stretched reads a factor, 2 where none is written.
func stretched(shorter bool) func(request) (lick.Edit, error) {
	return func(a request) (lick.Edit, error) {
		by := lick.NewTime(2, 1)
		if a.value != "" {
			var err error
			if by, err = lick.ParseTime(a.value); err != nil || by.IsZero() {
				return nil, fmt.Errorf("%q is no factor: write 2, 3/2 and the like", text.Clip(a.value, 60))
			}
		}
		if shorter {
			num, den := by.Parts()
			by = lick.NewTime(den, num)
		}
		return lick.Stretch{Notes: a.all(), Times: by}, nil
	}
}

// swapped changes a note, or a selection as a whole, with the column before or after it.
func (a request) swapped(earlier bool) (lick.Edit, error) {
	if a.notes == nil {
		return lick.Swap{Note: a.i, Earlier: earlier}, nil
	}
	rs, err := a.notes.Whole(a.lick)
	switch {
	case err != nil:
		return nil, err
	case len(rs) > 1:
		return nil, errors.New("several stretches are selected; move one at a time")
	case earlier && rs[0].From == 0:
		return nil, errors.New("these are the first notes")
	case !earlier && rs[0].To == len(a.lick.Notes):
		return nil, errors.New("these are the last notes")
	}
	// The one column beside it goes round it, so that the selection keeps its notes.
	beside, after := rs[0].To, rs[0].From-1
	if earlier {
		beside, after = after, beside-1
	}
	col, err := lick.Ranges{{From: beside, To: beside + 1}}.Whole(a.lick)
	if err != nil {
		return nil, err
	}
	return lick.All{Edits: []lick.Edit{lick.Carry{Notes: col, After: after}}, Why: rs.Words() + " moved"}, nil
}

// shaken reads a vibrato.
func shaken(a request) (lick.Edit, error) {
	if a.value == "off" {
		return lick.SetVibrato{Note: a.i}, nil
	}
	v := lick.Vibrato{Width: lick.Wide, Speed: lick.Slow}
	for _, word := range strings.Fields(a.value) {
		switch word {
		case string(lick.Wide), string(lick.Narrow):
			v.Width = lick.Width(word)
		case string(lick.Slow), string(lick.Fast):
			v.Speed = lick.Speed(word)
		default:
			return nil, fmt.Errorf("%q is no vibrato: it is narrow or wide, slow or fast, or off", text.Clip(word, 60))
		}
	}
	return lick.SetVibrato{Note: a.i, Vibrato: &v}, nil
}

// place reads where a note is put, and how long it is.
func (a request) place() (p neck.Place, length string, err error) {
	word, length, _ := strings.Cut(strings.TrimSpace(a.value), " ")
	p, err = neck.ParsePlace(word)
	return p, strings.TrimSpace(length), err
}

// placed puts a place down at a note, in its stead: "5:7" or "5:7 1/8"; without a note as a new one at
// the end, as long as it says.
func placed(a request) (lick.Edit, error) {
	p, length, err := a.place()
	if err != nil || a.i >= 0 {
		return lick.Move{Note: a.i, Place: p}, err
	}
	return lick.Insert{After: len(a.lick.Notes) - 1, Place: p, Len: NextLength(a.lick, length)}, nil
}

// added puts a place down together with a note; without one it is as placed.
func added(a request) (lick.Edit, error) {
	if a.i < 0 {
		return placed(a)
	}
	p, _, err := a.place()
	return lick.Add{Note: a.i, Place: p}, err
}

// NextLength is the length that was asked for, else the last note's, an eighth for the first.
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
func fingered(a request) (lick.Edit, error) {
	if a.off() {
		return lick.SetFinger{Note: a.i}, nil
	}
	finger, err := lick.ParseFinger(a.value)
	return lick.SetFinger{Note: a.i, Finger: finger}, err
}

// bent sets how far a note is bent, or begins its bend; nothing takes the bend away.
func bent(a request) (lick.Edit, error) {
	if a.off() {
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
func changedBend(change func(b *lick.Bend, a request) error) func(request) (lick.Edit, error) {
	return func(a request) (lick.Edit, error) {
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
func helped(b *lick.Bend, a request) error {
	b.With = nil
	if a.off() {
		return nil
	}
	for _, word := range strings.Fields(a.value) {
		finger, err := lick.ParseFinger(word)
		if err != nil {
			return err
		}
		b.With = append(b.With, finger)
	}
	return nil
}

// toDegree moves a note to the nearest place of a chosen tone. A tone that was chosen is in the key; any other degree
// is taken over the key's root all the same, so that 4 can be tried in a pentatonic.
func toDegree(a request) (lick.Edit, error) {
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

// toString moves notes to the same pitches on the next string, thinner or thicker.
// The pitches stay, the fingers are found again.
func toString(a request) (lick.Edit, error) {
	by := map[string]int{"thinner": -1, "thicker": 1}[a.value]
	if by == 0 {
		return nil, fmt.Errorf("%q is no side: a string is thinner or thicker", text.Clip(a.value, 60))
	}
	return turn.Move{Guitar: a.guitar, Notes: a.all(), By: turn.ByOver, N: by}, nil
}

// setting is an edit of the line around its notes. Whether a value is within its limits is for the
// edit to say when it is applied.
func setting(set func(s *lick.Setting, a request) error) func(request) (lick.Edit, error) {
	return func(a request) (lick.Edit, error) {
		var s lick.Setting
		a.value = strings.TrimSpace(a.value)
		err := set(&s, a)
		return s, err
	}
}

// keyed is an edit of the line's key. A line without tones gets A minor pentatonic first, so that a
// click on the rail is an answer and no error.
func keyed(change func(k lick.Key, value string) (lick.Key, error)) func(request) (lick.Edit, error) {
	return setting(func(s *lick.Setting, a request) error {
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
	tonic, scale, err := music.KeyOf(value, k.Tonic)
	if err != nil {
		return k, err
	}
	sc, err := music.ParseScale(scale)
	if err != nil {
		return k, err
	}
	k.Tonic, k.Scale = tonic, sc.Name
	has := func(s string) bool {
		d, err := music.ParseDegree(strings.Split(s, "@")[0])
		return err == nil &&
			slices.ContainsFunc(sc.Degrees, func(o music.Degree) bool { return o.Semitones() == d.Semitones() })
	}
	k.Add = slices.DeleteFunc(k.Add, has)
	k.Drop = slices.DeleteFunc(k.Drop, func(s string) bool { return !has(s) })
	return k, nil
}

// withTone is a key with a tone among the chosen ones, or with "off" behind it without.
func withTone(k lick.Key, value string) (lick.Key, error) {
	degree, off := strings.CutSuffix(strings.TrimSpace(value), " off")
	return k.With(strings.TrimSpace(degree), !off)
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
