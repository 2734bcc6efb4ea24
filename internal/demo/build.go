package demo

import (
	"fmt"
	"strconv"
	"strings"

	"ornamen/core/changes"
	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/run"
	"ornamen/core/turn"
)

// sheet is one demo lick in short form. A sheet has notes, or runs that are grown and joined; then changes, and moves
// over them in their order.
type sheet struct {
	title, tags, key, add string
	tempo                 float64
	len                   string // of every note that names none
	pickup                string
	feel                  lick.Feel
	loop                  bool
	chords                string // "C#m7 1, A 1/2"
	notes                 string
	runs                  []string  // or recipes of runs, joined into one line
	changes               string    // or a form, or chords in degrees
	moves                 []string  // what is made of the line over its changes
	mend                  lick.Code // of the findings the first fix of this code is taken, as a version of its own
}

// build reads the short form: string:fret, the string kept until the next one;
// + joins notes that sound together; then marks, each after a slash:
//
//	h p s S  slur           f3  finger, locked     D U  stroke, locked
//	b2 r2    bend, released v   vibrato            >    accent
//	1/8      length         .   a rest of the length before it
//	@p @i @m @a  fingers of the picking hand, locked    bass  the lower voice
func (s sheet) build() (lick.Lick, error) {
	if s.runs != nil {
		l, err := s.joined()
		if err != nil {
			return l, err
		}
		return s.over(l)
	}
	l := lick.New()
	l.Title, l.Tempo, l.Loop = s.title, s.tempo, s.loop
	l.Tags = strings.Split(s.tags, ", ")
	l.Key.Tonic, l.Key.Scale, _ = strings.Cut(s.key, " ")
	l.Key.Add = strings.Fields(s.add)
	if s.feel != "" {
		l.Feel = s.feel
	}
	var err error
	if s.pickup != "" {
		if l.Pickup, err = lick.ParseTime(s.pickup); err != nil {
			return l, err
		}
	}
	length, err := lick.ParseTime(s.len)
	if err != nil {
		return l, err
	}
	if err := s.addChords(&l); err != nil {
		return l, err
	}
	var at lick.Time
	str := 0
	for _, word := range strings.Fields(s.notes) {
		step := length
		for _, w := range strings.Split(word, "+") {
			n := lick.Note{At: at, Len: length}
			if head, tail, ok := strings.Cut(w, ":"); ok {
				if str, err = strconv.Atoi(head); err != nil {
					return l, fmt.Errorf("%s: %q: %w", s.title, w, err)
				}
				w = tail
			}
			n.String = str
			if err := readNote(&n, w, &at); err != nil {
				return l, fmt.Errorf("%s: %q: %w", s.title, w, err)
			}
			step = n.Len
			l.Notes = append(l.Notes, n)
		}
		at = at.Add(step)
	}
	return s.over(l)
}

// over lays the changes under a line and moves it over them. Reading it back checks and orders it.
func (s sheet) over(l lick.Lick) (lick.Lick, error) {
	if s.changes != "" {
		chords, err := changes.Parse(s.changes, l.Meter, l.Pickup, l.Key)
		if err != nil {
			return l, fmt.Errorf("%s: %w", s.title, err)
		}
		l.Chords = chords
	}
	l, err := lick.Parse(l.Encode())
	for _, m := range s.moves {
		if err == nil {
			l, _, err = changes.Move(neck.Standard(), l, m)
		}
	}
	if err != nil {
		err = fmt.Errorf("%s: %w", s.title, err)
	}
	return l, err
}

// joined grows the runs and lets each follow the one before.
func (s sheet) joined() (lick.Lick, error) {
	l := lick.New()
	l.Title, l.Tempo, l.Tags = s.title, s.tempo, strings.Split(s.tags, ", ")
	for _, line := range s.runs {
		r, err := run.Parse(line)
		if err != nil {
			return l, fmt.Errorf("%s: %w", s.title, err)
		}
		grown, err := run.Grow(r, neck.Standard())
		if err != nil {
			return l, fmt.Errorf("%s: %w", s.title, err)
		}
		if l, err = turn.Join(l, grown.Lick, 0, turn.AtOnce); err != nil {
			return l, fmt.Errorf("%s: %w", s.title, err)
		}
	}
	return lick.Parse(l.Encode())
}

// addChords puts the sheet's changes under the line.
func (s sheet) addChords(l *lick.Lick) error {
	var at lick.Time
	for _, c := range strings.Split(s.chords, ", ") {
		name, length, ok := strings.Cut(c, " ")
		if !ok {
			continue
		}
		t, err := lick.ParseTime(length)
		if err != nil {
			return err
		}
		l.Chords = append(l.Chords, lick.Chord{At: at, Len: t, Name: name})
		at = at.Add(t)
	}
	return nil
}

// readNote reads a fret and its marks into a note.
func readNote(n *lick.Note, w string, at *lick.Time) error {
	fret, marks, _ := strings.Cut(w, "/")
	var err error
	if n.Fret, err = strconv.Atoi(fret); err != nil {
		return err
	}
	slurs := map[string]lick.Slur{"h": lick.Hammer, "p": lick.Pull, "s": lick.Slide, "S": lick.Shift}
	for marks != "" {
		var m string
		m, marks, _ = strings.Cut(marks, "/")
		switch {
		case slurs[m] != "":
			n.Slur, n.Lock = slurs[m], append(n.Lock, lick.FieldSlur)
		case m == "D" || m == "U":
			n.Stroke, n.Lock = map[string]lick.Stroke{"D": lick.Down, "U": lick.Up}[m], append(n.Lock, lick.FieldStroke)
		case m[0] == '@':
			n.Stroke, n.Lock = lick.Stroke(m[1:]), append(n.Lock, lick.FieldStroke)
		case m == "bass":
			n.Voice = lick.VoiceBass
		case m == "v":
			n.Vibrato = &lick.Vibrato{Width: lick.Wide, Speed: lick.Slow}
		case m == ">":
			n.Accent = true
		case m == ".":
			*at = at.Add(n.Len)
			n.At = *at
		case m[0] == 'f':
			if n.Finger, err = lick.ParseFinger(m[1:]); err != nil {
				return err
			}
			n.Lock = append(n.Lock, lick.FieldFinger)
		case m[0] == 'b' || m[0] == 'r':
			b := lick.Bend{Shape: map[byte]lick.BendShape{'b': lick.BendUp, 'r': lick.BendRelease}[m[0]]}
			if b.Semitones, err = strconv.ParseFloat(m[1:], 64); err != nil {
				return err
			}
			n.Bend, n.Lock = &b, append(n.Lock, lick.FieldBend)
		default:
			// A length: its denominator stands behind the next slash.
			den, rest, _ := strings.Cut(marks, "/")
			if n.Len, err = lick.ParseTime(m + "/" + den); err != nil {
				return err
			}
			marks = rest
		}
	}
	return nil
}
