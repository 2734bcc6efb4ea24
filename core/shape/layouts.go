package shape

import (
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/music"
	"ornamen/core/neck"
)

// counts lays so many tones on each string, from the starting string toward the
// thin ones; three notes a string is the same number on each.
type counts struct {
	each int
	row  []int
}

func readCounts(rest string) (Layout, error) {
	row, err := readNumbers(rest, 0, 12)
	return counts{row: row}, err
}

func readNumbers(s string, least, most int) ([]int, error) {
	var out []int
	for _, w := range strings.Split(s, ",") {
		n, err := strconv.Atoi(strings.TrimSpace(w))
		if err != nil || n < least || n > most {
			return nil, fmt.Errorf("%q is not a number from %d to %d", strings.TrimSpace(w), least, most)
		}
		out = append(out, n)
	}
	return out, nil
}

func (c counts) Name() string {
	if c.row == nil {
		return strconv.Itoa(c.each) + "nps"
	}
	return "counts:" + strings.Trim(strings.ReplaceAll(fmt.Sprint(c.row), " ", ","), "[]")
}

func (c counts) everyTone() bool { return false }

func (c counts) lay(b board) ([]Placed, error) {
	if err := b.needTone(); err != nil {
		return nil, err
	}
	if len(c.row) > b.at.String {
		return nil, fmt.Errorf("there are %d strings from string %d on, but %d counts", b.at.String, b.at.String,
			len(c.row))
	}
	var out []Placed
	pitch := b.guitar.Pitch(b.at)
	for s := b.at.String; s >= 1; s-- {
		n := c.each
		if c.row != nil {
			if b.at.String-s >= len(c.row) {
				break
			}
			n = c.row[b.at.String-s]
		}
		for range n {
			p := neck.Place{String: s, Fret: int(pitch - b.guitar.Tuning[s-1])}
			if !b.guitar.Has(p) {
				return nil, fmt.Errorf("laid out from %s, string %d would need fret %d; this neck has 0 to %d",
					b.at.Notation(), s, p.Fret, b.guitar.Frets)
			}
			t, _ := b.tone(p)
			out = append(out, t)
			pitch = b.next(pitch)
		}
	}
	return out, nil
}

// box is a pentatonic position, two tones a string. The blue note of a blues
// scale and the other tones of a seven-tone scale stand around it: for seven
// tones that is the area around one of the five chord shapes.
type box struct{}

func (box) Name() string    { return "box" }
func (box) everyTone() bool { return false }

func (box) lay(b board) ([]Placed, error) {
	core := coreTones(b.palette)
	if core == nil {
		return nil, fmt.Errorf("boxes need a pentatonic inside the scale, and %s has none; use 3nps or counts",
			b.palette.Scale.Name)
	}
	full := b.ladder
	if err := b.needTone(); err != nil {
		return nil, err
	}
	b.ladder = map[int]*music.Tone{}
	for class, t := range full {
		if core[t.Degree.Semitones()] {
			b.ladder[class] = t
		}
	}
	if err := b.needTone(); err != nil {
		return nil, err
	}
	placed, err := counts{each: 2}.lay(b)
	if err != nil {
		return nil, err
	}
	area := boundsOf(placed)
	for pitch := music.Pitch(0); pitch <= music.MaxPitch; pitch++ {
		t := full[pitch.Class()]
		if t == nil || b.ladder[pitch.Class()] != nil {
			continue
		}
		if p, ok := area.colourPlace(b.guitar, pitch); ok {
			x := Placed{Place: p, Pitch: pitch, Tone: *t}
			if blueNote(b.palette, *t) {
				x.Tone.Role = music.Colour
			}
			placed = append(placed, x)
		}
	}
	return placed, nil
}

// blueNote says whether a tone is what makes a pentatonic a blues scale.
func blueNote(p music.Palette, t music.Tone) bool {
	switch p.Scale.Name {
	case "blues":
		return t.Degree.Semitones() == 6
	case "major blues":
		return t.Degree.Semitones() == 3
	}
	return false
}

// coreTones are the half steps of the pentatonic inside a scale that its boxes
// are built on: the scale itself where it has five tones, else the minor or the
// major pentatonic; nil where it holds neither.
func coreTones(p music.Palette) map[int]bool {
	all := map[int]bool{}
	for _, t := range p.Tones {
		if t.Role != music.Colour {
			all[t.Degree.Semitones()] = true
		}
	}
	if len(all) <= 5 {
		return all
	}
	for _, core := range [][]int{{0, 3, 5, 7, 10}, {0, 2, 4, 7, 9}} {
		if !slices.ContainsFunc(core, func(s int) bool { return !all[s] }) {
			out := map[int]bool{}
			for _, s := range core {
				out[s] = true
			}
			return out
		}
	}
	return nil
}

// oneString lays every tone on one string, up to the end of the neck.
type oneString struct{ str int }

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

func (o oneString) Name() string    { return fmt.Sprintf("string:%d", o.str) }
func (o oneString) everyTone() bool { return true }
func (o oneString) thickest() int   { return o.str }

func (o oneString) lay(b board) ([]Placed, error) {
	return area{from: b.at.Fret, to: b.guitar.Frets, strings: []int{o.str}}.lay(b)
}

// area lays every tone within some frets. Strings empty means all.
type area struct {
	from, to int
	strings  []int
	name     string
}

func readFrets(rest string) (Layout, error) {
	lo, hi, _ := strings.Cut(rest, "-")
	a, err1 := strconv.Atoi(lo)
	b, err2 := strconv.Atoi(hi)
	if err1 != nil || err2 != nil || a < 0 || b < a || b > neck.MaxFrets {
		return nil, fmt.Errorf("%q are no frets", rest)
	}
	return area{from: a, to: b}, nil
}

// readStrings lays every tone on some strings, the whole neck long.
func readStrings(rest string) (Layout, error) {
	n, err := readNumbers(rest, 1, neck.MaxStrings)
	return area{to: neck.MaxFrets, strings: n, name: "strings:" + rest}, err
}

func (a area) Name() string {
	if a.name != "" {
		return a.name
	}
	return fmt.Sprintf("frets:%d-%d", a.from, a.to)
}

func (a area) everyTone() bool { return true }

// lay takes each pitch once, on the thinnest string that has it: there its fret
// is lowest and the hand need not stretch. String sets and one string show all.
func (a area) lay(b board) ([]Placed, error) {
	var out []Placed
	for _, s := range a.strings {
		if s > len(b.guitar.Tuning) {
			return nil, fmt.Errorf("there is no string %d", s)
		}
	}
	if a.from > b.guitar.Frets {
		return nil, fmt.Errorf("fret %d is beyond this neck, which has %d", a.from, b.guitar.Frets)
	}
	taken := map[music.Pitch]bool{}
	lowest := lowestRoot(b, a.from, min(a.to, b.guitar.Frets), a.strings)
	for s := 1; s <= len(b.guitar.Tuning); s++ {
		if a.strings != nil && !slices.Contains(a.strings, s) {
			continue
		}
		for f := a.from; f <= min(a.to, b.guitar.Frets); f++ {
			t, ok := b.tone(neck.Place{String: s, Fret: f})
			if !ok || a.strings == nil && taken[t.Pitch] || !holds(t.Tone.Hold, t.Pitch, lowest) {
				continue
			}
			taken[t.Pitch] = true
			out = append(out, t)
		}
	}
	return out, nil
}

func lowestRoot(b board, from, to int, strs []int) music.Pitch {
	lowest := music.Pitch(-1)
	for s := 1; s <= len(b.guitar.Tuning); s++ {
		if strs != nil && !slices.Contains(strs, s) {
			continue
		}
		for f := from; f <= to; f++ {
			if t, ok := b.tone(neck.Place{String: s, Fret: f}); ok && t.Tone.Role == music.Root &&
				(lowest < 0 || t.Pitch < lowest) {
				lowest = t.Pitch
			}
		}
	}
	return lowest
}

// arp lays every kept tone from one fret below the start to three above, on the
// starting string and the thinner ones: room for the leading tone.
type arp struct{}

func (arp) Name() string    { return "arp" }
func (arp) everyTone() bool { return true }

func (arp) lay(b board) ([]Placed, error) {
	if err := b.needTone(); err != nil {
		return nil, err
	}
	var strs []int
	for s := 1; s <= b.at.String; s++ {
		strs = append(strs, s)
	}
	all, err := area{from: max(0, b.at.Fret-1), to: b.at.Fret + 3, strings: strs}.lay(b)
	if err != nil {
		return nil, err
	}
	taken := map[music.Pitch]bool{}
	var out []Placed
	for _, t := range all {
		if !taken[t.Pitch] {
			taken[t.Pitch] = true
			out = append(out, t)
		}
	}
	return out, nil
}

// places is the player's own selection.
type places struct{ list []neck.Place }

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

func (p places) Name() string {
	words := make([]string, len(p.list))
	for i, at := range p.list {
		words[i] = at.Notation()
	}
	return "places:" + strings.Join(words, ",")
}

func (p places) everyTone() bool { return true }

func (p places) lay(b board) ([]Placed, error) {
	var out []Placed
	for _, at := range p.list {
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
