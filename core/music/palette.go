package music

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
)

// Role is what a tone is to the palette.
type Role int

// The roles, from nearest to farthest.
const (
	Root Role = iota
	ScaleTone
	Colour
	Outside
)

// String names the role as the files do: root, scale, colour, outside.
func (r Role) String() string { return [...]string{"root", "scale", "colour", "outside"}[r] }

// Hold keeps an added tone to a part of the line. The zero value holds it nowhere.
type Hold struct {
	Only   string // "", "up", "down" or "below" (under the lowest root)
	Octave int    // 0 any, 1 the first octave from the lowest root, …
}

// Tone is one tone of a palette.
type Tone struct {
	Degree Degree
	Name   Name
	Role   Role
	Hold   Hold
}

// Palette is the set of tones a line is built from: a scale on a tonic, with colour notes added and tones dropped.
type Palette struct {
	Tonic Name
	Scale Scale
	Tones []Tone // rising from the root
}

// NewPalette builds a palette. add holds degrees, each with an optional hold
// ("9", "b5@down", "3@2", "7@below"); drop holds degrees of the scale.
func NewPalette(tonic, scale string, add, drop []string) (Palette, error) {
	root, err := ParseName(strings.TrimSpace(tonic))
	if err != nil {
		return Palette{}, err
	}
	sc, err := ParseScale(scale)
	if err != nil {
		return Palette{}, err
	}
	p := Palette{Tonic: root, Scale: sc}
	for i, d := range sc.Degrees {
		role := ScaleTone
		if i == 0 {
			role = Root
		}
		p.Tones = append(p.Tones, Tone{Degree: d, Name: d.Over(root), Role: role})
	}
	for _, s := range drop {
		if err := p.drop(s); err != nil {
			return Palette{}, err
		}
	}
	for _, s := range add {
		if err := p.add(s); err != nil {
			return Palette{}, err
		}
	}
	slices.SortFunc(p.Tones, func(a, b Tone) int { return a.Degree.Semitones() - b.Degree.Semitones() })
	return p, nil
}

// ParseKey reads a key as players name one: "C# minor pentatonic", "Gm", "B♭", "Dm dorian", "C# minor pent". A root
// alone is its major key. A chord with more than a triad in its sign ("Am7", "Cmaj9") is its arpeggio.
func ParseKey(key string, add, drop []string) (Palette, error) {
	tonic, scale := SplitKey(key)
	if scale == "" {
		if c, err := ParseChord(tonic); err == nil && c.Bass == nil && len(c.Degrees) > 3 {
			return NewPalette(c.Root.String(), c.arpeggio(), add, drop)
		}
	}
	tonic, scale = spokenKey(tonic, scale)
	return NewPalette(tonic, scale, add, drop)
}

// Has says whether one of the chosen tones sounds as the degree does.
func (p Palette) Has(d Degree) bool { return p.index(d) >= 0 }

// index finds the tone that sounds as the degree does, or −1.
func (p *Palette) index(d Degree) int {
	return slices.IndexFunc(p.Tones, func(t Tone) bool { return t.Degree.Semitones() == d.Semitones() })
}

// drop takes a degree out; the root and what is not there cannot be dropped.
func (p *Palette) drop(s string) error {
	d, err := ParseDegree(strings.TrimSpace(s))
	if err != nil {
		return err
	}
	i := p.index(d)
	switch {
	case i < 0:
		return fmt.Errorf("%s cannot be dropped: %s has no such tone", d, p.Scale.Name)
	case i == 0:
		return fmt.Errorf("the root cannot be dropped")
	}
	p.Tones = slices.Delete(p.Tones, i, i+1)
	return nil
}

// add puts a tone in as a colour, with where it is held to if it says so.
func (p *Palette) add(s string) error {
	word, hold, _ := strings.Cut(strings.TrimSpace(s), "@")
	d, err := ParseDegree(word)
	if err != nil {
		return err
	}
	t := Tone{Degree: d, Name: d.Over(p.Tonic), Role: Colour}
	if t.Hold, err = parseHold(s, hold); err != nil {
		return err
	}
	if i := p.index(d); i >= 0 {
		// A tone that is there already only takes the hold; one that comes below the lowest
		// root as well is there anyway.
		if t.Hold.Only != "below" {
			p.Tones[i].Hold = t.Hold
		}
		return nil
	}
	p.Tones = append(p.Tones, t)
	return nil
}

// parseHold reads what stands after @: up, down, below or the number of an octave.
func parseHold(whole, hold string) (Hold, error) {
	if hold == "" && !strings.Contains(whole, "@") {
		return Hold{}, nil
	}
	switch hold {
	case "up", "down", "below":
		return Hold{Only: hold}, nil
	}
	n, err := strconv.Atoi(hold)
	if err != nil || n < 1 || n > 9 {
		return Hold{}, fmt.Errorf("%q: after @ write up, down, below or the number of an octave", whole)
	}
	return Hold{Octave: n}, nil
}

// String writes the hold as it is read: "", "up", "2".
func (h Hold) String() string {
	if h.Octave > 0 {
		return strconv.Itoa(h.Octave)
	}
	return h.Only
}

// At finds the tone that a pitch is. A pitch outside the palette comes back
// with role Outside, spelled by the chromatic degrees.
func (p Palette) At(pitch Pitch) Tone {
	d := ChromaticDegree(pitch.Class() - p.Tonic.Class())
	if i := p.index(d); i >= 0 {
		return p.Tones[i]
	}
	return Tone{Degree: d, Name: d.Over(p.Tonic), Role: Outside}
}

// Colours lists the added tones.
func (p Palette) Colours() []Tone {
	var c []Tone
	for _, t := range p.Tones {
		if t.Role == Colour {
			c = append(c, t)
		}
	}
	return c
}

// Pretty names the palette: "C♯ minor pentatonic".
func (p Palette) Pretty() string { return p.Tonic.Pretty() + " " + p.Scale.Name }

// Text writes a tone as it is added: "b5@down".
func (t Tone) Text() string {
	if h := t.Hold.String(); h != "" {
		return t.Degree.String() + "@" + h
	}
	return t.Degree.String()
}

// Over is the height in half steps of a degree over a chord's root: whichever the palette gives by the letter, or as
// written where it has a sign. ok is false where the palette has no such tone. In C major the 3 over D is F, three half
// steps, and the 3 over G is B, four: degrees are the key's. Of two tones with one letter the degree as it is written
// comes first: the 5 of a blues key is the fifth, not the ♭5.
func (p Palette) Over(root Name, d Degree) (halfSteps int, ok bool) {
	octave := 0
	if d.Number > 7 {
		octave = 12 // a 9th, 11th or 13th
	}
	if d.Alter != 0 {
		return octave + d.Semitones(), true
	}
	letter := (int(root.Letter) + d.Number - 1) % 7
	for _, t := range p.Tones {
		if int(t.Name.Letter) != letter {
			continue
		}
		n := octave + mod(t.Name.Class()-root.Class(), 12)
		if n == octave+d.Semitones() {
			return n, true
		}
		if !ok {
			halfSteps, ok = n, true
		}
	}
	return halfSteps, ok
}

// Minor says whether the third is a minor one, as keys are spelled by it.
func (p Palette) Minor() bool {
	return slices.ContainsFunc(p.Tones, func(t Tone) bool { return t.Degree.Number == 3 && t.Degree.Alter < 0 })
}
