package music

import (
	"fmt"
	"strconv"
)

// Degree is a step of the major scale over a root, with its sharps or flats:
// 1 … 7, and 9, 11, 13 for the 2nd, 4th and 6th as added colours.
type Degree struct {
	Number int
	Alter  int
}

// majorSteps are the half steps of the major scale, on which degrees are counted.
var majorSteps = [7]int{0, 2, 4, 5, 7, 9, 11}

// ParseDegree reads "1", "b3", "♯4", "9".
func ParseDegree(s string) (Degree, error) {
	alter, rest := scanAccidentals(s)
	n, err := strconv.Atoi(rest)
	if err != nil || strconv.Itoa(n) != rest || n < 1 || n > 13 || alter < -2 || alter > 2 || (alter != 0 && n == 1) {
		return Degree{}, fmt.Errorf("%q is not a degree: write 1 to 7, 9, 11 or 13, with b or # before it", s)
	}
	return Degree{n, alter}, nil
}

// Semitones is the height over the root within one octave, 0 to 11.
func (d Degree) Semitones() int { return mod(majorSteps[d.step()]+d.Alter, 12) }

// step is the degree within the octave, from 0.
func (d Degree) step() int { return (d.Number - 1) % 7 }

// String writes the degree in plain letters: "b5".
func (d Degree) String() string { return accidentals(d.Alter, "#", "b") + strconv.Itoa(d.Number) }

// Pretty writes the degree with music signs: "♭5".
func (d Degree) Pretty() string { return accidentals(d.Alter, "♯", "♭") + strconv.Itoa(d.Number) }

// Over spells the degree over a root: each degree has its own letter, so ♭5 over A is E♭, never
// D♯. The letter is counted first, and the signs are what then is missing to the pitch.
func (d Degree) Over(root Name) Name {
	l := Letter(mod(int(root.Letter)+d.step(), 7))
	alter := mod(root.Class()+d.Semitones()-letterClass[l]+6, 12) - 6
	return Name{l, alter}
}

// chromatic names each half step over a root where no scale says how.
var chromatic = [12]Degree{
	{1, 0}, {2, -1}, {2, 0}, {3, -1}, {3, 0}, {4, 0}, {5, -1}, {5, 0}, {6, -1}, {6, 0}, {7, -1}, {7, 0},
}

// ChromaticDegree names a half step (0 to 11) over a root by common practice: 1 ♭2 2 ♭3 3 4 ♭5 5 ♭6 6 ♭7 7.
func ChromaticDegree(semitones int) Degree { return chromatic[mod(semitones, 12)] }
