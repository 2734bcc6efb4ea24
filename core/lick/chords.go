package lick

import (
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/music"
)

// ParseChords reads changes as players write them, a bar between bars and a point or a stroke for
// a beat that goes on: "C#m7 | F#7 . G#7 . | C#m7". The signs of a bar share it
// evenly, but for those with their beats behind a star: in "Am7*3 D7" D7 has the last one. The first bar begins after
// the pick-up. A point before the first chord is silence, and so is N.C. ("no chord") with the points after it.
func ParseChords(text string, meter Meter, pickup Time) ([]Chord, error) {
	var out []Chord
	at, silent := pickup, true
	bars := strings.Split(strings.Trim(strings.TrimSpace(text), "|"), "|")
	for _, bar := range bars {
		words := strings.Fields(bar)
		if len(words) == 0 {
			return nil, errors.New("a bar without a chord: write a sign, or . for the one before")
		}
		lengths, err := lengthsOf(words, meter)
		if err != nil {
			return nil, err
		}
		for k, w := range words {
			part := lengths[k]
			switch {
			case IsNoChord(w):
				silent = true
			case w == "." && silent:
			case w == "." || w == "/" || w == "%":
				if silent {
					return nil, fmt.Errorf("%q goes on with a chord, but none stands before it", w)
				}
				out[len(out)-1].Len = out[len(out)-1].Len.Add(part)
			default:
				c, err := music.ParseChord(w)
				if err != nil {
					return nil, err
				}
				out, silent = append(out, Chord{At: at, Len: part, Name: c.Name}), false
			}
			at = at.Add(part)
		}
		if len(out) > maxChords {
			return nil, fmt.Errorf("a lick has at most %d chords", maxChords)
		}
	}
	if len(out) == 0 {
		return nil, errors.New("write a chord, as in C#m7 | F#7")
	}
	return out, nil
}

// lengthsOf is how long each sign of a bar lasts, and leaves the signs without their beats.
func lengthsOf(words []string, meter Meter) ([]Time, error) {
	left, open := meter.Bar(), 0
	out := make([]Time, len(words))
	for k, w := range words {
		sign, text, named := strings.Cut(w, "*")
		if !named {
			open++
			continue
		}
		beats, err := strconv.Atoi(text)
		if err != nil || beats < 1 {
			return nil, fmt.Errorf("%q: behind the star stands how many beats a chord lasts, as in Am7*3", w)
		}
		words[k], out[k] = sign, NewTime(int64(beats), int64(meter.Unit))
		left = left.Sub(out[k])
	}
	if left.Before(Time{}) || open == 0 && !left.IsZero() || open > 0 && left.IsZero() {
		return nil, fmt.Errorf("the beats of a bar are %d; those of %q are others", meter.Beats,
			strings.Join(words, " "))
	}
	for k := range out {
		if open > 0 && out[k].IsZero() {
			out[k] = NewTime(left.num, max(left.den, 1)*int64(open))
		}
	}
	return out, nil
}

// NoChord is the sign for silence among chords (common practice).
const NoChord = "N.C."

// IsNoChord says whether a word is that sign, as players type it: N.C., NC, n.c.
func IsNoChord(word string) bool {
	return strings.EqualFold(strings.ReplaceAll(word, ".", ""), "nc")
}

// SetChords puts changes under a lick; none takes them away.
type SetChords struct{ Chords []Chord }

// Apply implements Edit.
func (e SetChords) Apply(l Lick) (Lick, error) {
	return revise(l, func(l *Lick) error {
		l.Chords = slices.Clone(e.Chords)
		return nil
	})
}

// What implements Edit.
func (e SetChords) What() string { return "chords" }

// ChordAt writes a chord from a time on, until the next one begins or the one that held there
// ends; without a name the one that begins there goes, and the one before goes on.
type ChordAt struct {
	At   Time
	Name string
}

// Apply implements Edit.
func (e ChordAt) Apply(l Lick) (Lick, error) {
	return revise(l, func(l *Lick) error {
		// What begins there gives way; its time is the new one's, or falls to the one before.
		end, begins := Time{}, false
		chords := slices.DeleteFunc(slices.Clone(l.Chords), func(c Chord) bool {
			if c.At.Cmp(e.At) != 0 {
				return false
			}
			end, begins = c.End(), true
			return true
		})
		if e.Name == "" && !begins {
			return errors.New("no chord begins there")
		}
		if !begins {
			end = Later(l.End(), e.At.Add(l.Meter.Bar()))
			if _, into := end.Sub(l.Pickup).Div(l.Meter.Bar()); !into.IsZero() {
				end = end.Add(l.Meter.Bar().Sub(into)) // a chord holds to the end of its bar
			}
			for _, c := range chords {
				if e.At.Before(c.At) && c.At.Before(end) {
					end = c.At
				}
			}
		}
		for i := range chords {
			c := &chords[i]
			if cEnd := c.End(); c.At.Before(e.At) && e.At.Before(cEnd) {
				end, c.Len = cEnd, e.At.Sub(c.At)
			} else if e.Name == "" && cEnd.Cmp(e.At) == 0 {
				c.Len = end.Sub(c.At)
			}
		}
		if e.Name != "" {
			chords = append(chords, Chord{At: e.At, Len: end.Sub(e.At), Name: e.Name})
			slices.SortFunc(chords, func(a, b Chord) int { return a.At.Cmp(b.At) })
		}
		l.Chords = chords
		return nil
	})
}

// What implements Edit.
func (e ChordAt) What() string {
	if e.Name == "" {
		return "a chord less"
	}
	return "the chord " + e.Name
}

// TransposeChords has every chord so many half steps higher; a name that cannot be read stays.
func (l *Lick) TransposeChords(by int) {
	for i, c := range l.Chords {
		if chord, err := music.ParseChord(c.Name); err == nil {
			l.Chords[i].Name = chord.Up(by)
		}
	}
}

// MovedChords are the chords of a line in which d more time lies before a time, or with d below 0 so much less: those
// that begin there or later move along, the one that holds there, or that ends where the next begins, grows or shrinks,
// and one that lies wholly in what is taken out goes. A chord from the very beginning on stays there and grows.
//
// As an example, with a half taken out before 1, Am7 from 0 to 3/4 and Dm7 from 3/4 to 3/2 become
// Am7 from 0 to 1/2 and Dm7 from 1/2 to 1.
func (l Lick) MovedChords(at, d Time) []Chord {
	from := at
	if d.Before(Time{}) {
		from = at.Add(d) // what is taken out is [from, at)
	}
	next := slices.ContainsFunc(l.Chords, func(c Chord) bool { return c.At.Cmp(at) == 0 && !at.IsZero() })
	moved := func(t Time, begins bool) Time {
		switch {
		case !begins && next && (Time{}).Before(d) && t.Cmp(at) == 0:
			return t.Add(d)
		case t.Before(from), t.Cmp(from) == 0 && (!begins || t.IsZero()):
			return t
		case t.Before(at):
			return from
		}
		return t.Add(d)
	}
	chords := l.Chords[:0:0]
	for _, c := range l.Chords {
		begin := moved(c.At, true)
		c.At, c.Len = begin, moved(c.End(), false).Sub(begin)
		if (Time{}).Before(c.Len) {
			chords = append(chords, c)
		}
	}
	return chords
}
