package music

import (
	"regexp"
	"slices"
	"strconv"
	"strings"
)

// numeral is a chord by its degree: a sign, an Arabic or a Roman number, and the chord's sign.
var numeral = regexp.MustCompile(`^([b#♭♯]?)(?:([1-7])|(VII|VI|IV|V|III|II|I|vii|vi|iv|v|iii|ii|i))(.*)$`)

// romans are the Roman numbers in their order.
var romans = []string{"I", "II", "III", "IV", "V", "VI", "VII"}

// OnDegree reads a chord that is written by its degree of the key: an Arabic number with the chord's sign ("1m7",
// "b6maj7", "57") or a Roman one ("ii7", "V7", "Imaj7", "vii°"), where small letters are minor chords unless the sign
// says diminished. In a minor key the III, VI and VII of Roman numbers are the key's own, a half step lower than in
// major (common practice). ok is false where the word is no such chord.
func OnDegree(word string, minor bool) (d Degree, sign string, ok bool) {
	m := numeral.FindStringSubmatch(word)
	if m == nil {
		return d, "", false
	}
	accidental, arabic, roman, sign := plain.Replace(m[1]), m[2], m[3], m[4]
	if arabic == "" {
		upper := strings.ToUpper(roman)
		arabic = strconv.Itoa(1 + slices.Index(romans, upper))
		if minor && accidental == "" && roman == upper && strings.Contains("367", arabic) {
			accidental = "b"
		}
		if roman != upper && !diminished(sign) {
			sign = "m" + strings.TrimPrefix(strings.TrimPrefix(sign, "m"), "-")
			if strings.HasPrefix(m[4], "maj") {
				sign = "m" + m[4]
			}
		}
	}
	d, err := ParseDegree(accidental + arabic)
	if err != nil {
		return d, "", false
	}
	if _, err := ParseChord("C" + sign); err != nil {
		return d, "", false
	}
	return d, sign, true
}

// diminished says whether a chord's sign takes the fifth down with the third.
func diminished(sign string) bool {
	return slices.ContainsFunc([]string{"dim", "°", "º", "o", "ø"},
		func(w string) bool { return strings.HasPrefix(sign, w) })
}

// Parent is the scale of seven tones that a shorter one is part of: the major one, or the natural
// minor where its third is minor. A scale of seven tones or more is its own. The chords of a key of
// five tones are its parent's (common practice).
func (p Palette) Parent() Palette {
	if len(p.Scale.Degrees) >= 7 {
		return p
	}
	name := "major"
	if p.Minor() {
		name = "natural minor"
	}
	parent, err := NewPalette(p.Tonic.String(), name, nil, nil)
	if err != nil {
		return p
	}
	return parent
}

// Triad is the chord that the palette's parent has on a degree, by thirds: Dm on the 2 of C major.
// A root that the parent does not have gives a major chord.
func (p Palette) Triad(d Degree) Chord {
	root := d.Over(p.Tonic)
	parent := p.Parent()
	third, ok3 := parent.Over(root, Degree{Number: 3})
	fifth, ok5 := parent.Over(root, Degree{Number: 5})
	sign := ""
	switch {
	case !ok3 || !ok5:
	case third == 3 && fifth == 6:
		sign = "dim"
	case third == 3:
		sign = "m"
	case third == 4 && fifth == 8:
		sign = "aug"
	}
	c, err := ParseChord(root.String() + sign)
	if err != nil {
		panic(err) // a root with a plain sign is a chord
	}
	return c
}
