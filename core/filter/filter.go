// Package filter is filters of the second order, as amplifiers and ears need them (R. Bristow-Johnson's formulas for
// biquad filters, from memory).
package filter

import "math"

// Filter gives b0·x[n] + b1·x[n−1] + b2·x[n−2] − a1·y[n−1] − a2·y[n−2]; rates are samples a second.
type Filter struct{ B0, B1, B2, A1, A2 float64 }

// HighPass takes away what lies below a frequency.
func HighPass(hertz float64, rate int) Filter {
	w := 2 * math.Pi * hertz / float64(rate)
	c, alpha := math.Cos(w), math.Sin(w)/math.Sqrt2
	a0 := 1 + alpha
	return Filter{B0: (1 + c) / 2 / a0, B1: -(1 + c) / a0, B2: (1 + c) / 2 / a0, A1: -2 * c / a0, A2: (1 - alpha) / a0}
}

// LowPass takes away what lies above a frequency.
func LowPass(hertz float64, rate int) Filter { return Resonant(hertz, math.Sqrt2/2, rate) }

// Running is a filter with what it remembers.
type Running struct {
	Filter
	x1, x2, y1, y2 float64
}

// Next is a sample through the filter.
func (r *Running) Next(x float64) float64 {
	y := r.B0*x + r.B1*r.x1 + r.B2*r.x2 - r.A1*r.y1 - r.A2*r.y2
	r.x1, r.x2, r.y1, r.y2 = x, r.x1, y, r.y1
	return y
}

// Through is a sound through the filter.
func (f Filter) Through(x []float32) []float32 {
	out, r := make([]float32, len(x)), Running{Filter: f}
	for i, v := range x {
		out[i] = float32(r.Next(float64(v)))
	}
	return out
}

// Peaking is a filter that lifts what lies around a frequency.
func Peaking(hertz, decibel, q float64, rate int) Filter {
	w := 2 * math.Pi * hertz / float64(rate)
	a := math.Pow(10, decibel/40)
	c, alpha := math.Cos(w), math.Sin(w)/(2*q)
	a0 := 1 + alpha/a
	return Filter{
		B0: (1 + alpha*a) / a0,
		B1: -2 * c / a0,
		B2: (1 - alpha*a) / a0,
		A1: -2 * c / a0,
		A2: (1 - alpha/a) / a0,
	}
}

// Resonant is a low pass with a resonance.
func Resonant(hertz, q float64, rate int) Filter {
	w := 2 * math.Pi * hertz / float64(rate)
	c, alpha := math.Cos(w), math.Sin(w)/(2*q)
	a0 := 1 + alpha
	return Filter{B0: (1 - c) / 2 / a0, B1: (1 - c) / a0, B2: (1 - c) / 2 / a0, A1: -2 * c / a0, A2: (1 - alpha) / a0}
}
