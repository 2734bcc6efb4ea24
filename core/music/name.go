package music

import (
	"fmt"
	"strconv"
	"strings"
	"unicode/utf8"
)

// Letter is a note letter, 0 for C to 6 for B.
type Letter int

var (
	letterClass = [7]int{0, 2, 4, 5, 7, 9, 11}
	letterRune  = [7]byte{'C', 'D', 'E', 'F', 'G', 'A', 'B'}
)

// Name is a spelled note without an octave: a letter and its sharps (+) or flats (−). The zero value is C.
type Name struct {
	Letter Letter
	Alter  int
}

// ParseName reads "C", "F#", "Bb", "E♭", "G♯".
func ParseName(s string) (Name, error) {
	n, rest, err := scanName(s)
	if err == nil && rest != "" {
		err = fmt.Errorf("%q is not a note name: write C, F# or Bb", s)
	}
	return n, err
}

// scanName reads a name off the front of s and returns what follows it.
func scanName(s string) (Name, string, error) {
	if s != "" && s[0] >= 'A' {
		i := strings.IndexByte("CDEFGAB", s[0]&^0x20)
		if alter, rest := scanAccidentals(s[1:]); i >= 0 && alter >= -2 && alter <= 2 {
			return Name{Letter(i), alter}, rest, nil
		}
	}
	return Name{}, "", fmt.Errorf("%q is not a note name: write C, F# or Bb", s)
}

// scanAccidentals counts sharps and flats at the front of s.
func scanAccidentals(s string) (alter int, rest string) {
	for {
		r, size := utf8.DecodeRuneInString(s)
		switch r {
		case '#', '♯':
			alter++
		case 'b', '♭':
			alter--
		default:
			return alter, s
		}
		s = s[size:]
	}
}

// Class is the pitch class, 0 for C to 11 for B.
func (n Name) Class() int { return mod(letterClass[n.Letter]+n.Alter, 12) }

// String writes the name in plain letters: "F#", "Bb", "Cbb".
func (n Name) String() string { return string(letterRune[n.Letter]) + accidentals(n.Alter, "#", "b") }

// Pretty writes the name with music signs: "F♯", "B♭".
func (n Name) Pretty() string {
	return string(letterRune[n.Letter]) + accidentals(n.Alter, "♯", "♭")
}

// WithOctave writes the name and the octave that p has under this spelling: B♯ at pitch 60 is "B#3".
func (n Name) WithOctave(p Pitch) string { return n.String() + strconv.Itoa(n.octave(p)) }

// PrettyWithOctave is WithOctave with music signs.
func (n Name) PrettyWithOctave(p Pitch) string { return n.Pretty() + strconv.Itoa(n.octave(p)) }

// octave is the number of the octave in which the pitch is written with this name: B♯ belongs to the one below.
func (n Name) octave(p Pitch) int { return (int(p)-letterClass[n.Letter]-n.Alter)/12 - 1 }

// NameOf spells a pitch class without a key, with sharps.
func NameOf(class int) Name {
	for l := 6; l >= 0; l-- {
		if d := mod(class, 12) - letterClass[l]; d == 0 || d == 1 {
			return Name{Letter(l), d}
		}
	}
	return Name{}
}

// UsualName spells a pitch class as the key of it is called most: C# minor but Db major, G#
// minor but Ab major, Bb and Eb in both (common practice: the signature with fewer signs).
func UsualName(class int, minor bool) Name {
	n := NameOf(class)
	if n.Alter == 0 || n.Letter == NameOf(6).Letter || minor && n.Class() != 10 && n.Class() != 3 {
		return n
	}
	up := NameOf(n.Class() + 1)
	return Name{up.Letter, -1}
}

// accidentals writes so many flats (below 0) or sharps.
func accidentals(alter int, sharp, flat string) string {
	if alter < 0 {
		return strings.Repeat(flat, -alter)
	}
	return strings.Repeat(sharp, alter)
}
