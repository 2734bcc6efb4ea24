package bend

import "ornamen/core/neck"

// Strength is what the fingers hold with ease, in newtons at the string.
type Strength struct {
	Index, One, Two, Three neck.Newtons
}

// DefaultStrength is the model default.
func DefaultStrength() Strength { return Strength{Index: 6, One: 7.5, Two: 12, Three: 17} }

// Scaled is the strength made so much larger.
func (s Strength) Scaled(by neck.Newtons) Strength {
	return Strength{Index: s.Index * by, One: s.One * by, Two: s.Two * by, Three: s.Three * by}
}

// Breaking is how far above its strength a hand fails (model default).
const Breaking = 1.4

// Of is the strength of a bending finger (1 index … 4 little) with helpers behind it.
func (s Strength) Of(finger, helpers int) neck.Newtons {
	switch {
	case helpers >= 2:
		return s.Three
	case helpers == 1:
		return s.Two
	case finger == 1:
		return s.Index
	}
	return s.One
}

// Times of a bend (model defaults), in ms.
const (
	startTime = 60.0
	mmTime    = 4.5
	// VibratoTime is the note that a vibrato needs.
	VibratoTime = 300.0
	// EdgeSpare is the room in mm that must be left between a pushed string and the edge.
	EdgeSpare neck.MM = 1
)

// Time is what a push of way mm needs in ms; a release needs the same again.
func Time(way neck.MM, release bool) float64 {
	t := startTime + mmTime*float64(way)
	if release {
		t *= 2
	}
	return t
}
