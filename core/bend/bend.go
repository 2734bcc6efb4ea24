package bend

import (
	"math"

	"ornamen/core/music"
	"ornamen/core/neck"
)

// Push is what a bend asks of the hand.
type Push struct {
	Way   neck.MM      // sideways at the fingertip
	Force neck.Newtons // at the fingertip
}

// maxPush bounds the search in mm; no fretboard is wider.
const maxPush = 120.0

// Solve finds the push that raises the place by the given half steps.
//
// Pushing the string d mm sideways at x lengthens it to √(x²+d²)+√((L−x)²+d²); the strain s raises the tension to
// T+E·A·s, lowers the mass per length to μ/(1+s), and the sounding part is √((L−x)²+d²). The target is found by
// bisection. After D. R. Grimes, "String Theory: The Physics of String-Bending and Other Electric Guitar Techniques",
// PLoS ONE 9(7), 2014 (from memory). ok is false for an open string or a target that no push reaches.
func Solve(g neck.Guitar, p neck.Place, semitones float64) (push Push, ok bool) {
	if p.Fret < 1 || !g.Has(p) || semitones <= 0 {
		return Push{}, false
	}
	s := newString(g, p)
	want := s.at(0).hertz * math.Exp2(semitones/12)
	lo, hi := 0.0, maxPush/1000
	if s.at(hi).hertz < want {
		return Push{}, false
	}
	for range 60 {
		if mid := (lo + hi) / 2; s.at(mid).hertz < want {
			lo = mid
		} else {
			hi = mid
		}
	}
	return Push{Way: neck.MM(hi * 1000), Force: neck.Newtons(s.at(hi).force)}, true
}

// Raise is the inverse of Solve: how far a push of d mm raises the place.
func Raise(g neck.Guitar, p neck.Place, d neck.MM) music.Cents {
	s := newString(g, p)
	return music.Interval(s.at(0).hertz, s.at(float64(d)/1000).hertz)
}

// pushed is a string that rests on a fret wire x metres from the nut.
type pushed struct {
	x, length, tension, mass, stiffness float64
}

// newString is the string pressed at a place, in SI units: its rest length is the scale,
// its tension and mass follow from gauge and tuning.
func newString(g neck.Guitar, p neck.Place) pushed {
	gauge := g.Strings[p.String-1]
	return pushed{x: float64(g.FretX(p.Fret)) / 1000, length: float64(g.Scale) / 1000,
		tension: float64(
			gauge.Tension(g.Tuning[p.String-1], g.Scale),
		), mass: gauge.UnitMass(), stiffness: gauge.Stiffness()}
}

// state is what a pushed string sounds (Hz) and how hard it pushes back (N).
type state struct{ hertz, force float64 }

// at is the string pushed d metres sideways; the formulas stand with Solve.
func (s pushed) at(d float64) state {
	back, front := math.Hypot(s.x, d), math.Hypot(s.length-s.x, d)
	strain := (back+front)/s.length - 1
	t := s.tension + s.stiffness*strain
	mu := s.mass / (1 + strain)
	return state{hertz: math.Sqrt(t/mu) / (2 * front), force: t * (d/back + d/front)}
}
