package shape

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/music"
	"ornamen/core/neck"
)

// counts lays so many tones on each string, from the starting string toward the thin ones;
// three notes a string is the same number on each, and each is the next of the scale: in the
// major scale on 6:8 that is 8 10 12, 8 10 12, 9 10 12, 9 10 12, 10 12 13, 10 12 13.
type counts struct {
	each int
	row  []int
}

// readCounts reads "3,1,3".
func readCounts(rest string) (Layout, error) {
	row, err := readNumbers(rest, 0, 12)
	return counts{row: row}, err
}

// readNumbers reads numbers between two bounds, commas between them.
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

// Name implements Layout.
func (c counts) Name() string {
	if c.row == nil {
		return strconv.Itoa(c.each) + "nps"
	}
	return "counts:" + strings.Trim(strings.ReplaceAll(fmt.Sprint(c.row), " ", ","), "[]")
}

func (c counts) everyTone() bool { return false }

// lay climbs the ladder from the given tone and goes on to the next string after each
// count. What the neck has no fret for ends it, with the string left out that would be cut in
// two, and short says where and why. Every tone is the next of the scale after the one before,
// whatever string it falls on: this is why three a string climb the neck as they cross it.
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
				*b.short = fmt.Errorf("laid out from %s, string %d would need fret %d; this neck has 0 to %d",
					b.at.Notation(), s, p.Fret, b.guitar.Frets)
				return slices.DeleteFunc(out, func(t Placed) bool { return t.Place.String == s }), nil
			}
			t, _ := b.tone(p)
			out = append(out, t)
			pitch = b.next(pitch)
		}
	}
	return out, nil
}

// box is a pentatonic position, two tones a string. The blue note of a blues scale and the other tones of a seven-tone
// scale stand around it: for seven tones that is the area around one of the five chord shapes.
type box struct{}

// Name implements Layout.
func (box) Name() string    { return "box" }
func (box) everyTone() bool { return false }

// lay places the pentatonic inside the scale two a string, then the other tones within its frets.
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
	blue, ok := map[string]int{"blues": 6, "major blues": 3}[p.Scale.Name]
	return ok && t.Degree.Semitones() == blue
}

// coreTones are the half steps of the pentatonic inside a scale that its boxes are built on: the scale itself where it
// has five tones, else the minor or the major pentatonic; nil where it holds neither, as in the whole-tone scale. A
// natural minor scale holds its own minor pentatonic; a major scale its major one.
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

// arp lays every kept tone from one fret below the start to three above, on the
// starting string and the thinner ones: room for the leading tone.
type arp struct{}

// Name implements Layout.
func (arp) Name() string    { return "arp" }
func (arp) everyTone() bool { return true }

// lay takes every pitch once, on the string where its fret is lowest.
// Strings are looked at from the thin one, on which a pitch has its lowest fret.
func (arp) lay(b board) ([]Placed, error) {
	if err := b.needTone(); err != nil {
		return nil, err
	}
	all, err := everyPlace(b, max(0, b.at.Fret-1), b.at.Fret+3, b.thinner())
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
