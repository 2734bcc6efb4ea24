package music

import (
	"fmt"
	"math"
	"strconv"
)

// Pitch is a MIDI note number: 60 is C4 (middle C), 69 is A4.
type Pitch int

// MaxPitch is the highest MIDI note number (MIDI 1.0).
const MaxPitch Pitch = 127

// Hertz is the frequency in 12-tone equal temperament with A4 = 440 Hz (ISO 16): 440·2^((n−69)/12).
func (p Pitch) Hertz() float64 { return 440 * math.Pow(2, float64(p-69)/12) }

// Class is the pitch class, 0 for C to 11 for B.
func (p Pitch) Class() int { return mod(int(p), 12) }

// Cents measures an interval: 100 to the half step.
type Cents float64

// Interval is the distance from f1 up to f2 (both in Hz): 1200·log2(f2/f1).
func Interval(f1, f2 float64) Cents { return Cents(1200 * math.Log2(f2/f1)) }

// ParsePitch reads a note name with its octave, such as "C#4", "E♭3" or "G2".
func ParsePitch(s string) (Pitch, error) {
	name, rest, err := scanName(s)
	if err != nil {
		return 0, err
	}
	oct, err := strconv.Atoi(rest)
	if err != nil {
		return 0, fmt.Errorf("%q needs an octave, as in E4", s)
	}
	if oct < -1 || oct > 9 {
		return 0, fmt.Errorf("%q: the octave must be from -1 to 9", s)
	}
	p := Pitch(12*(oct+1) + letterClass[name.Letter] + name.Alter)
	if p < 0 || p > MaxPitch {
		return 0, fmt.Errorf("%q lies outside the MIDI range", s)
	}
	return p, nil
}

// String names the pitch with sharps and its octave: "C#4".
func (p Pitch) String() string { return NameOf(p.Class()).WithOctave(p) }

// mod is the remainder that is never negative.
func mod(a, n int) int { return ((a % n) + n) % n }
