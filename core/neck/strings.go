package neck

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"ornamen/core/music"
)

// Inches is a string gauge as printed on its packet.
type Inches float64

// Gauge is one string of a set.
type Gauge struct {
	Inches Inches
	Wound  bool
}

// Steel (handbook values): density in kg/m³ and Young's modulus in Pa.
const (
	steelDensity = 7850.0
	steelModulus = 200e9
	mmPerInch    = 25.4
)

// Model defaults for wound strings: the steel core is this part of the gauge, and the whole weighs this part of a solid
// steel rod of the gauge (the wrap is nickel-plated steel with air between its turns).
const (
	woundCore = 0.45
	woundMass = 0.90
)

// DefaultStrings is a set of n strings, 10 13 17 26w 36w 46w for six (model default); further low strings 60w 74w 90w.
func DefaultStrings(n int) []Gauge {
	set := []Gauge{{0.010, false}, {0.013, false}, {0.017, false},
		{0.026, true}, {0.036, true}, {0.046, true}, {0.060, true}, {0.074, true}, {0.090, true}}
	return set[:max(0, min(n, len(set)))]
}

// Limits of a gauge, in thousandths of an inch.
const minGauge, maxGauge = 6.0, 145.0

// ParseGauges reads a set as printed on its packet, in thousandths of an inch
// with w for wound strings: "10 13 17 26w 36w 46w". An error names the word.
func ParseGauges(text string) ([]Gauge, error) {
	var out []Gauge
	for _, w := range strings.FieldsFunc(text, func(r rune) bool { return r == ' ' || r == ',' || r == '-' }) {
		digits, wound := strings.CutSuffix(w, "w")
		x, err := strconv.ParseFloat(strings.TrimPrefix(digits, "."), 64)
		if err != nil || !(x >= minGauge && x <= maxGauge) {
			return nil, fmt.Errorf("gauge %q is none: write thousandths of an inch, %g to %g, with w for a wound string",
				w, minGauge, maxGauge)
		}
		out = append(out, Gauge{Inches: Inches(x / 1000), Wound: wound})
	}
	return out, nil
}

// CoreArea is the cross-section in m² that carries the tension: the whole of a plain string, the core of a wound one.
func (s Gauge) CoreArea() float64 {
	d := s.metres()
	if s.Wound {
		d *= woundCore
	}
	return math.Pi / 4 * d * d
}

// UnitMass is the mass per length in kg/m.
func (s Gauge) UnitMass() float64 {
	d := s.metres()
	m := steelDensity * math.Pi / 4 * d * d
	if s.Wound {
		m *= woundMass
	}
	return m
}

// Stiffness is E·A of the core in newtons: the force for a strain of one.
func (s Gauge) Stiffness() float64 { return steelModulus * s.CoreArea() }

// metres is the diameter.
func (s Gauge) metres() float64 { return float64(s.Inches) * mmPerInch / 1000 }

// Tension is T = μ·(2·L·f)² (Mersenne's law) of the open string. A plain 10 at E4 on 648 mm
// carries 73 N (handbook values of steel).
func (s Gauge) Tension(open music.Pitch, scale MM) Newtons {
	v := 2 * float64(scale) / 1000 * open.Hertz()
	return Newtons(s.UnitMass() * v * v)
}
