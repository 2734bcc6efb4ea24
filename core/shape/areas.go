package shape

import (
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/text"
)

// oneString lays every tone on one string, up to the end of the neck.
type oneString struct{ str int }

// readString reads the number of one string.
func readString(rest string) (Layout, error) {
	n, err := readNumbers(rest, 1, neck.MaxStrings)
	if err == nil && len(n) != 1 {
		err = errors.New("it takes one string")
	}
	if err != nil {
		return nil, err
	}
	return oneString{n[0]}, nil
}

// Name implements Layout.
func (o oneString) Name() string    { return fmt.Sprintf("string:%d", o.str) }
func (o oneString) everyTone() bool { return true }

// start is the lowest root of the string.
func (o oneString) start(b board) neck.Place {
	return LowestRoot(b.guitar, b.palette, min(o.str, len(b.guitar.Tuning)))
}

// lay takes every tone from the given fret to the end of the neck.
func (o oneString) lay(b board) ([]Placed, error) {
	return everyPlace(b, b.at.Fret, b.guitar.Frets, []int{o.str})
}

// area lays every tone within some frets, from the starting place on: on its string and
// the thinner ones, nothing lower than it.
type area struct{ from, to int }

// readFrets reads "5-9".
func readFrets(rest string) (Layout, error) {
	lo, hi, _ := strings.Cut(rest, "-")
	a, err1 := strconv.Atoi(lo)
	b, err2 := strconv.Atoi(hi)
	if err1 != nil || err2 != nil || a < 0 || b < a || b > neck.MaxFrets {
		return nil, fmt.Errorf("%q are no frets", rest)
	}
	return area{from: a, to: b}, nil
}

// Name implements Layout.
func (a area) Name() string { return fmt.Sprintf("frets:%d-%d", a.from, a.to) }

func (a area) everyTone() bool { return true }

// start is the lowest fret that is named, on the thickest string.
func (a area) start(b board) neck.Place {
	return neck.Place{String: len(b.guitar.Tuning), Fret: min(a.from, b.guitar.Frets)}
}

// lay takes every place: where two strings hold one pitch, both.
func (a area) lay(b board) ([]Placed, error) {
	if a.from > b.guitar.Frets {
		return nil, fmt.Errorf("fret %d is beyond this neck, which has %d", a.from, b.guitar.Frets)
	}
	if b.at.Fret < a.from || b.at.Fret > a.to {
		return nil, fmt.Errorf("%s does not lie on frets %d to %d", b.at.Notation(), a.from, a.to)
	}
	placed, err := everyPlace(b, a.from, a.to, b.thinner())
	lowest := b.guitar.Pitch(b.at)
	return slices.DeleteFunc(placed, func(t Placed) bool { return t.Pitch < lowest }), err
}

// moved is the area so many tones of the starting string farther along the neck.
func (a area) moved(b board, steps int) (Layout, neck.Place, bool) {
	at, ok := b.along(b.at, steps)
	by := at.Fret - b.at.Fret
	return area{a.from + by, a.to + by}, at, ok && a.from+by >= 0 && a.to+by <= b.guitar.Frets
}

// alongStrings lays every tone on some strings, from the given fret to the end of the neck.
type alongStrings struct{ strings []int }

// readStrings reads "3,2".
func readStrings(rest string) (Layout, error) {
	n, err := readNumbers(rest, 1, neck.MaxStrings)
	return alongStrings{n}, err
}

// Name implements Layout.
func (a alongStrings) Name() string {
	return "strings:" + strings.Trim(strings.ReplaceAll(fmt.Sprint(a.strings), " ", ","), "[]")
}

func (a alongStrings) everyTone() bool { return true }

// start is the lowest fret of the thickest of them that holds a tone.
func (a alongStrings) start(b board) neck.Place {
	at := neck.Place{String: min(slices.Max(a.strings), len(b.guitar.Tuning))}
	for ; at.Fret < b.guitar.Frets; at.Fret++ {
		if _, ok := b.tone(at); ok {
			break
		}
	}
	return at
}

// moved starts so many tones farther along the starting string.
func (a alongStrings) moved(b board, steps int) (Layout, neck.Place, bool) {
	at, ok := b.along(b.at, steps)
	return a, at, ok
}

// lay takes every place from the given fret on.
func (a alongStrings) lay(b board) ([]Placed, error) {
	return everyPlace(b, b.at.Fret, b.guitar.Frets, a.strings)
}

// thinner are the starting string and those thinner than it.
func (b board) thinner() (strs []int) {
	for s := 1; s <= b.at.String; s++ {
		strs = append(strs, s)
	}
	return strs
}

// everyPlace is every tone within some frets of some strings: where two strings hold one pitch,
// both. Colours that are held to a part of the line are counted from the lowest root there.
func everyPlace(b board, from, to int, strs []int) ([]Placed, error) {
	for _, s := range strs {
		if s > len(b.guitar.Tuning) {
			return nil, fmt.Errorf("there is no string %d", s)
		}
	}
	if from > b.guitar.Frets {
		return nil, fmt.Errorf("fret %d is beyond this neck, which has %d", from, b.guitar.Frets)
	}
	var out []Placed
	to = min(to, b.guitar.Frets)
	lowest := lowestRoot(b, from, to, strs)
	for _, s := range slices.Sorted(slices.Values(strs)) {
		for f := from; f <= to; f++ {
			if t, ok := b.tone(neck.Place{String: s, Fret: f}); ok && holds(t.Tone.Hold, t.Pitch, lowest) {
				out = append(out, t)
			}
		}
	}
	return out, nil
}

// lowestRoot is the lowest root within frets and strings, −1 where there is none: colours
// that are held to an octave are counted from it.
func lowestRoot(b board, from, to int, strs []int) music.Pitch {
	lowest := music.Pitch(-1)
	for _, s := range strs {
		for f := from; f <= to; f++ {
			if t, ok := b.tone(neck.Place{String: s, Fret: f}); ok && t.Tone.Role == music.Root &&
				(lowest < 0 || t.Pitch < lowest) {
				lowest = t.Pitch
			}
		}
	}
	return lowest
}

// places is the player's own selection.
type places struct{ list []neck.Place }

// readPlaces reads "6:9,5:11"; a place that is named twice counts once.
func readPlaces(rest string) (Layout, error) {
	var p places
	for _, w := range strings.Split(rest, ",") {
		at, err := neck.ParsePlace(w)
		if err != nil {
			return nil, err
		}
		if !slices.Contains(p.list, at) {
			p.list = append(p.list, at)
		}
	}
	return p, nil
}

// Name implements Layout.
func (p places) Name() string {
	return "places:" + text.Join(p.list, ",", neck.Place.Notation)
}

func (p places) everyTone() bool { return true }

// start is the first place that is named.
func (p places) start(board) neck.Place { return p.list[0] }

// moved is the selection so many tones farther along the neck.
func (p places) moved(b board, steps int) (Layout, neck.Place, bool) {
	at, ok := b.along(b.at, steps)
	return p, at, ok
}

// lay takes the places as they are; tones outside the palette are among them. From another place of the first one's
// string the selection moves along the neck with the tones: each place by as many tones of the palette on its own
// string as the first one, so that a figure moved up a tone keeps to the scale and changes its frets.
func (p places) lay(b board) ([]Placed, error) {
	first := p.list[0]
	if b.at.String != first.String {
		return nil, fmt.Errorf("the selection begins on string %d; it starts there, not on string %d", first.String,
			b.at.String)
	}
	steps := b.tonesBetween(first, b.at.Fret)
	var out []Placed
	for _, at := range p.list {
		if b.at != first {
			var ok bool
			if at, ok = b.along(at, steps); !ok {
				return nil, fmt.Errorf("from %s the selection runs off the neck", b.at.Notation())
			}
		}
		if !b.guitar.Has(at) {
			return nil, fmt.Errorf("%s is not on this neck", at.Notation())
		}
		t, ok := b.tone(at)
		if !ok {
			t = Placed{Place: at, Pitch: b.guitar.Pitch(at), Tone: b.palette.At(b.guitar.Pitch(at))}
		}
		out = append(out, t)
	}
	return out, nil
}

// tonesBetween counts the ladder's tones on a string from a place to a fret, below 0 for a lower one.
func (b board) tonesBetween(from neck.Place, fret int) int { return between(from, fret, b.holds) }

// along is the place so many tones farther on its string.
func (b board) along(at neck.Place, steps int) (neck.Place, bool) {
	return along(b.guitar, at, steps, b.holds)
}

// holds says whether the ladder has a tone at a place.
func (b board) holds(at neck.Place) bool { return b.ladder[b.guitar.Pitch(at).Class()] != nil }

// Long says whether a layout goes along the neck, farther than a hand reaches.
func Long(l Layout) bool {
	switch l := l.(type) {
	case oneString, alongStrings, pairs, joined, places:
		return true
	case area:
		return l.to-l.from > longArea
	}
	return false
}

// longArea is how many frets an area may span to lie under the hand.
const longArea = 5
