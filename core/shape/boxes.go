package shape

import (
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/music"
	"ornamen/core/neck"
)

// boxes joins two or three neighbouring boxes: three tones a string and more, the ones they
// share once (common practice). Boxes are named by their numbers from the minor root.
type boxes struct{ first, count int }

// readBoxes reads "1+2"; after 5 comes 1.
func readBoxes(rest string) (Layout, error) {
	words := strings.Split(rest, "+")
	out := boxes{count: len(words)}
	for i, w := range words {
		n, err := strconv.Atoi(strings.TrimSpace(w))
		if err != nil || n < 1 || n > 5 {
			return nil, fmt.Errorf("%q is no box from 1 to 5", w)
		}
		if i == 0 {
			out.first = n
		} else if n != (out.first+i-1)%5+1 {
			return nil, fmt.Errorf("box %d is no neighbour of the one before it", n)
		}
	}
	if out.count < 2 || out.count > 3 {
		return nil, fmt.Errorf("%q joins no two or three boxes", rest)
	}
	return out, nil
}

// Name implements Layout.
func (x boxes) Name() string {
	words := make([]string, x.count)
	for i := range words {
		words[i] = strconv.Itoa((x.first+i-1)%5 + 1)
	}
	return "boxes:" + strings.Join(words, "+")
}

func (boxes) everyTone() bool { return false }

// start is where the first box begins, as low as it can on the thickest string.
func (x boxes) start(b board) neck.Place {
	at := neck.Place{String: len(b.guitar.Tuning)}
	for f := 0; f <= b.guitar.Frets; f++ {
		at.Fret = f
		if x.begins(b, at) {
			return at
		}
	}
	return at
}

// begins says whether the first box has its lowest tone of a string at a place.
func (x boxes) begins(b board, at neck.Place) bool {
	t, ok := b.tone(at)
	if !ok {
		return false
	}
	minor, _ := boxNumbers(b.palette, t.Tone, at.String, len(b.guitar.Tuning))
	return minor == x.first
}

// lay lays each box out from where it begins on the given string.
func (x boxes) lay(b board) ([]Placed, error) {
	if !x.begins(b, b.at) {
		return nil, fmt.Errorf("box %d does not begin at %s; on string %d it does at %s", x.first, b.at.Notation(),
			b.at.String, x.frets(b, b.at.String))
	}
	core := coreTones(b.palette)
	var out []Placed
	for k := range x.count {
		placed, err := box{}.lay(b)
		if err != nil {
			return nil, err
		}
		for _, t := range placed {
			if !slices.ContainsFunc(out, func(o Placed) bool { return o.Place == t.Place }) {
				out = append(out, t)
			}
		}
		if k+1 == x.count {
			break
		}
		for b.at.Fret++; ; b.at.Fret++ {
			if !b.guitar.Has(b.at) {
				return nil, fmt.Errorf("the neck ends before box %d", (x.first+k)%5+1)
			}
			if t, ok := b.tone(b.at); ok && core[t.Tone.Degree.Semitones()] {
				break
			}
		}
	}
	return out, nil
}

// frets lists where the first box begins on a string.
func (x boxes) frets(b board, str int) string {
	var out []string
	for f := 0; f <= b.guitar.Frets; f++ {
		if x.begins(b, neck.Place{String: str, Fret: f}) {
			out = append(out, strconv.Itoa(f))
		}
	}
	if len(out) == 0 {
		return "no fret"
	}
	return "fret " + strings.Join(out, " and ")
}

// boxNumbers are the two numbers of the box whose lowest tone on a string is first, counted from the minor root and
// from the major root (the minor pentatonic's ♭3, the major pentatonic's 6 lie on the other's root). A box has its
// numbers from string 6, or from the thickest of fewer strings, whichever string it is entered on: each string has two
// of its tones (common practice). They are 0 where the scale holds no pentatonic.
//
// As an example, A minor pentatonic from 6:5 begins on its root: box 1 from the minor root. C,
// the major root, is the next of its five tones, so that counted from there the same shape is
// box 5. Entered at 5:5, on the 4th, it is still box 1: the two tones of string 6 lie below.
func boxNumbers(p music.Palette, first music.Tone, str, strings int) (minor, major int) {
	semis := slices.Sorted(maps.Keys(coreTones(p)))
	at := slices.Index(semis, first.Degree.Semitones())
	if at < 0 || len(semis) != 5 {
		return 0, 0
	}
	below := 2 * (min(6, strings) - str) // tones between the counting string and this one
	from := func(root int) int {
		k := slices.Index(semis, root)
		if k < 0 {
			return 0
		}
		return ((at-below-k)%5+10)%5 + 1
	}
	if slices.Contains(semis, 3) {
		return from(0), from(3)
	}
	return from(9), from(0)
}
