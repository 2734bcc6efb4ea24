package changes

import (
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/say"
)

// OneString plays the line along one string, counted from the thin one; 0 takes the string that loses fewest notes, and
// of those the one that plays most of the line as it is (common practice: the limit that makes a player hear steps
// instead of seeing a box). Every pitch stays; what the string does not hold, and the lower of two that sound together,
// is left out, and said tells how many.
func OneString(g neck.Guitar, l lick.Lick, on int) (out lick.Lick, said string, err error) {
	g = g.WithTuning(l.Tuning)
	if on < 0 || on > len(g.Tuning) {
		return l, "", fmt.Errorf("string %d is none of the %d", on, len(g.Tuning))
	}
	if on != 0 {
		return alongString(g, l, on)
	}
	best, most, already := 0, -1, -1
	for s := 1; s <= len(g.Tuning); s++ {
		x, _, err := alongString(g, l, s)
		if err != nil {
			continue
		}
		own := 0
		for _, n := range l.Notes {
			if n.String == s {
				own++
			}
		}
		if len(x.Notes) > most || len(x.Notes) == most && own > already {
			best, most, already = s, len(x.Notes), own
		}
	}
	if best == 0 {
		return l, "", errors.New("no string holds a note of the line")
	}
	return alongString(g, l, best)
}

// alongString moves every note of a line to a string. The error is that the string holds none of them.
func alongString(g neck.Guitar, l lick.Lick, on int) (out lick.Lick, said string, err error) {
	out = l.Clone()
	out.Notes, out.Parts, out.Recipe = nil, nil, ""
	for _, column := range columnsOf(l) {
		// The highest of what sounds together carries the line.
		top := slices.MaxFunc(column, func(a, b int) int {
			return int(g.Pitch(l.Notes[a].Place()) - g.Pitch(l.Notes[b].Place()))
		})
		n := l.Notes[top]
		for fret := range g.Frets + 1 {
			at := neck.Place{String: on, Fret: fret}
			if g.Pitch(at) != g.Pitch(n.Place()) || fret == 0 && n.Bend != nil {
				continue
			}
			if at != n.Place() {
				n.String, n.Fret, n.Finger = on, fret, 0
			}
			out.Notes = append(out.Notes, n)
			break
		}
	}
	if len(out.Notes) == 0 {
		return l, "", fmt.Errorf("string %d holds no note of the line", on)
	}
	fit(&out)
	said = fmt.Sprintf("on string %d", on)
	if left := len(l.Notes) - len(out.Notes); left > 0 {
		said += ", left out: " + say.Some(left, "note")
	}
	return out, said, out.Validate()
}

// readString reads what follows "string": a number of a string, or nothing.
func readString(value string) (int, error) {
	if value = strings.TrimSpace(value); value == "" {
		return 0, nil
	}
	n, err := strconv.Atoi(value)
	if err != nil || n < 1 {
		return 0, fmt.Errorf("%q is no string: count them from the thin one, as in only:string 3", value)
	}
	return n, nil
}
