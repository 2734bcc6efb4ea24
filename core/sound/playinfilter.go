package sound

import (
	"math"

	"gonum.org/v1/gonum/dsp/fourier"
)

// filter is a filter of the second order (R. Bristow-Johnson's formulas for biquad filters, from memory).
type filter struct{ b0, b1, b2, a1, a2 float64 }

func highPass(hertz float64, rate int) filter {
	w := 2 * math.Pi * hertz / float64(rate)
	c, alpha := math.Cos(w), math.Sin(w)/math.Sqrt2
	a0 := 1 + alpha
	return filter{(1 + c) / 2 / a0, -(1 + c) / a0, (1 + c) / 2 / a0, -2 * c / a0, (1 - alpha) / a0}
}

func lowPass(hertz float64, rate int) filter {
	w := 2 * math.Pi * hertz / float64(rate)
	c, alpha := math.Cos(w), math.Sin(w)/math.Sqrt2
	a0 := 1 + alpha
	return filter{(1 - c) / 2 / a0, (1 - c) / a0, (1 - c) / 2 / a0, -2 * c / a0, (1 - alpha) / a0}
}

// filtered is a sound through a filter.
func filtered(x []float32, f filter) []float32 {
	out := make([]float32, len(x))
	var x1, x2, y1, y2 float64
	for i, v := range x {
		in := float64(v)
		y := f.b0*in + f.b1*x1 + f.b2*x2 - f.a1*y1 - f.a2*y2
		x1, x2, y1, y2 = in, x1, y, y1
		out[i] = float32(y)
	}
	return out
}

// several says whether more than one tone sounds at a time, as in a chord: in many moments what is heard is no row of
// harmonics of the pitch, or one without its first three.
func (h *played) several(x []float32) bool {
	const n = 8192
	fft := fourier.NewFFT(n)
	wave := make([]float64, n)
	hop := int(playStep * float64(h.rate))
	tried, many := 0, 0
	for k := 0; k < len(h.pitch); k += 20 {
		at := k*hop - n/2
		if h.pitch[k] == 0 || at < 0 || at+n > len(x) || h.loud[k] < 0.1*h.top {
			continue
		}
		steady := h.middle(k-12, k+12)
		if steady == 0 || math.Abs(steady-h.pitch[k]) > 0.3 {
			continue // a note begins there, or bends
		}
		for i := range wave {
			wave[i] = float64(x[at+i]) * (0.5 - 0.5*math.Cos(2*math.Pi*float64(i)/n))
		}
		bins := fft.Coefficients(nil, wave)
		f0 := 440 * math.Pow(2, (h.pitch[k]-69)/12) * n / float64(h.rate) // in bins
		all, harmonic, first := 0.0, 0.0, 0.0
		for b := 8; b < min(len(bins), 1600); b++ {
			e := real(bins[b])*real(bins[b]) + imag(bins[b])*imag(bins[b])
			all += e
			number := math.Round(float64(b) / f0)
			if number >= 1 && math.Abs(float64(b)-number*f0) < 2.5+0.012*float64(b) {
				harmonic += e
				if number <= 3 {
					first += e
				}
			}
		}
		tried++
		if harmonic < 0.7*all || first < 0.08*all {
			many++
		}
	}
	return tried >= 3 && float64(many) > chordAbove*float64(tried)
}
