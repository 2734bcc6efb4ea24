package music

import (
	"fmt"
	"strings"
)

// Chord is a root with the tones of its arpeggio.
type Chord struct {
	Name    string // as written
	Root    Name
	Degrees []Degree // over the root
}

// chordSigns are the usual signs after the root, and the arpeggio each means.
var chordSigns = map[string]string{
	"": "major triad", "maj": "major triad", "m": "minor triad", "min": "minor triad", "dim": "diminished triad", "°": "diminished triad",
	"aug": "augmented triad", "+": "augmented triad", "sus4": "suspended fourth", "sus": "suspended fourth", "6": "sixth", "m6": "minor sixth",
	"7": "dominant seventh", "maj7": "major seventh", "M7": "major seventh", "m7": "minor seventh", "mmaj7": "minor major seventh", "mM7": "minor major seventh",
	"m7b5": "half-diminished seventh", "m7♭5": "half-diminished seventh", "ø": "half-diminished seventh", "dim7": "diminished seventh", "°7": "diminished seventh",
	"6/9": "six nine", "m6/9": "minor six nine", "9": "dominant ninth", "m9": "minor ninth", "maj9": "major ninth", "M9": "major ninth",
}

// ParseChord reads a chord by its usual sign: "C#m7", "E♭", "A7", "Bm7b5".
func ParseChord(s string) (Chord, error) {
	root, sign, err := scanName(strings.TrimSpace(s))
	if err != nil {
		return Chord{}, err
	}
	arp, ok := chordSigns[sign]
	if !ok {
		return Chord{}, fmt.Errorf("%q: the sign %q is none that I know; use m, 7, maj7, m7, m7b5, dim, aug, sus4, 6, 9 and the like", s, sign)
	}
	return Chord{Name: strings.TrimSpace(s), Root: root, Degrees: scaleIndex[foldScale(arp)].Degrees}, nil
}

// Over names what a tone is over the chord, and whether it is one of its tones.
func (c Chord) Over(n Name) (degree Degree, inChord bool) {
	semi := mod(n.Class()-c.Root.Class(), 12)
	for _, d := range c.Degrees {
		if d.Semitones() == semi {
			return d, true
		}
	}
	d := ChromaticDegree(semi)
	if d.Number == 2 && d.Alter == 0 {
		d.Number = 9
	}
	return d, false
}
