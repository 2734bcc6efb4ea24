package tab

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/neck"
)

// header reads a line above the strings; one that names nothing known is text of its own. A name that is known with a
// value that is none is an error; what is not known is a verse or a title of another hand, and is passed over without a
// word unless it says how the strings are played.
func (r *reader) header(line string, number int) (err error) {
	name, value, ok := strings.Cut(line, ":")
	if !ok {
		if played.MatchString(line) {
			r.remark("line %d: %q is not read.", number, strings.TrimSpace(line))
		}
		return nil
	}
	value = strings.TrimSpace(value)
	name = strings.TrimSpace(name)
	if word, rest, ok := strings.Cut(name, " "); ok {
		return r.numbered(word, rest, value)
	}
	switch name {
	case "Title":
		r.l.Title = unquoted(value)
	case "Tag":
		r.l.Tags = append(r.l.Tags, unquoted(value))
	case "Key":
		r.l.Key.Tonic, r.l.Key.Scale, _ = strings.Cut(value, " ")
	case "Added":
		r.l.Key.Add = strings.Fields(value)
	case "Dropped":
		r.l.Key.Drop = strings.Fields(value)
	case "Chord":
		return r.chord(value)
	case "Tempo":
		r.l.Tempo, err = strconv.ParseFloat(value, 64)
		if err != nil {
			return fmt.Errorf("tempo %q is no number", value)
		}
	case "Meter":
		r.l.Meter, err = lick.ParseMeter(value)
	case "Feel":
		r.l.Feel = lick.Feel(value)
	case "Pick-up":
		r.l.Pickup, err = lick.ParseTime(value)
	case "Loop":
		r.l.Loop = value == "yes"
	case "Recipe":
		r.l.Recipe = unquoted(value)
	case "Tuning":
		r.l.Tuning, err = neck.ParseTuning(value)
		r.tuned = err == nil
	}
	return err
}

// played is a line of words that says how the strings below or above it are played.
var played = regexp.MustCompile(`(?i)^\s*(p\.?m\.?|let ring|palm mute)\b|^\s*[pP]\.?[mM]\.?-`)

// chord reads "AT LEN NAME".
func (r *reader) chord(value string) error {
	words := strings.SplitN(value, " ", 3)
	if len(words) < 3 {
		return fmt.Errorf("a chord is written with its time, its length and its name, not %q", value)
	}
	at, err := lick.ParseTime(words[0])
	if err != nil {
		return err
	}
	length, err := lick.ParseTime(words[1])
	if err != nil {
		return err
	}
	r.l.Chords = append(r.l.Chords, lick.Chord{At: at, Len: length, Name: unquoted(words[2])})
	return nil
}

// numbered reads the lines whose name has a number: a note's words, a part, a span of tones. Anything else is words
// around the tab. Words of notes are kept until all notes are read, as they may stand anywhere.
func (r *reader) numbered(word, rest, value string) error {
	switch word {
	case "Note":
		if n, err := strconv.Atoi(rest); err == nil && n > 0 {
			r.words[n] = value
		}
	case "Part":
		var p lick.Part
		if _, err := fmt.Sscanf(rest, "%d-%d", &p.From, &p.To); err == nil {
			p.From, p.Recipe = p.From-1, unquoted(value)
			r.l.Parts = append(r.l.Parts, p)
		}
	case "Key":
		from, ok := strings.CutPrefix(rest, "from ")
		if !ok {
			return nil
		}
		at, err := lick.ParseTime(from)
		if err != nil {
			return err
		}
		var k lick.Key
		for i, part := range strings.Split(value, "; ") {
			added, isAdded := strings.CutPrefix(part, "added ")
			dropped, isDropped := strings.CutPrefix(part, "dropped ")
			switch {
			case i == 0:
				k.Tonic, k.Scale, _ = strings.Cut(part, " ")
			case isAdded:
				k.Add = strings.Fields(added)
			case isDropped:
				k.Drop = strings.Fields(dropped)
			}
		}
		r.l.Keys = append(r.l.Keys, lick.KeySpan{At: at, Key: k})
	}
	return nil
}
