package hear

import (
	"context"
	"math"

	"gonum.org/v1/gonum/dsp/fourier"
)

// Moment is the pitch of a moment.
type Moment struct {
	At    float64 // s, the middle of what was listened to
	Hertz float64 // 0 where no pitch is clear
	Clear float64 // 1 is a tone without any noise
}

// Listening: a window holds two periods of the lowest tone that is looked for.
const (
	lowest     = 60.0   // Hz
	highest    = 1700.0 // Hz
	window     = 1470   // samples, two periods of the lowest
	unclear    = 0.15   // the difference function's dip that is a pitch
	loudEnough = 1e-3   // root mean square below which it is silent
)

// Track follows the pitch of a single line, a moment every step seconds, by the method of A. de Cheveigné and H.
// Kawahara, "YIN, a fundamental frequency estimator for speech and music", Journal of the Acoustical Society of America
// 111(4), 2002 (from memory): the squared difference of the signal with itself, normed by its mean so far; the first
// dip under a threshold, refined by a parabola. The error is the context's.
//
// Cost: three Fourier transforms of a window and the longest period for each moment, about a
// fiftieth of the time that it sounds for at the usual rate and a hundred moments a second.
func Track(ctx context.Context, samples []float32, rate int, step float64) ([]Moment, error) {
	return track(ctx, samples, rate, step, unclear)
}

// track is Track with another dip that counts as a pitch.
func track(ctx context.Context, samples []float32, rate int, step, dip float64) ([]Moment, error) {
	longest := int(float64(rate) / lowest)
	shortest := max(2, int(float64(rate)/highest))
	w := window * rate / usualRate
	hop := max(1, int(step*float64(rate)))
	var out []Moment
	y := newYin(w, longest+2, shortest)
	y.dip = dip
	for from := 0; from+w+longest+1 < len(samples); from += hop {
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		at := float64(from)/float64(rate) + float64(w+longest)/2/float64(rate)
		h := Moment{At: at}
		if all := power(samples[from : from+w]); math.Sqrt(all/float64(w)) > loudEnough {
			if period, clear := y.period(samples[from:], all); period > 0 {
				h.Hertz, h.Clear = float64(rate)/period, clear
			}
		}
		out = append(out, h)
	}
	return out, nil
}

// yin finds the period of what sounds at one moment, in samples. Its buffers are used again.
type yin struct {
	w, shortest int
	dip         float64 // the difference function's dip that is a pitch
	fft         *fourier.FFT
	wave, ahead []float64    // the window, and what lies as far ahead as the longest period
	a, b        []complex128 // their transforms
	diff        []float64    // the difference function by period
}

// newYin looks for periods from shortest to below periods in windows of w samples.
func newYin(w, periods, shortest int) *yin {
	n := 1
	for n < w+periods {
		n *= 2
	}
	return &yin{w: w, shortest: shortest, fft: fourier.NewFFT(n), wave: make([]float64, n), ahead: make([]float64, n),
		a: make([]complex128, n/2+1), b: make([]complex128, n/2+1), diff: make([]float64, periods)}
}

// period is the period at the beginning of x, whose first window has a power, and how clear it is; 0 where none is.
//
// The squared difference at a lag is the power of the window, plus that of the window moved by
// the lag, less twice their product; the products at all lags together are one convolution.
func (y *yin) period(x []float32, power float64) (period, clear float64) {
	most := min(len(x), y.w+len(y.diff))
	for i := range y.ahead {
		y.ahead[i], y.wave[i] = 0, 0
		if i < most {
			y.ahead[i] = float64(x[i])
		}
		if i < y.w {
			y.wave[i] = float64(x[i])
		}
	}
	y.a = y.fft.Coefficients(y.a, y.wave)
	y.b = y.fft.Coefficients(y.b, y.ahead)
	for i, c := range y.a {
		y.a[i] = complex(real(c), -imag(c)) * y.b[i]
	}
	products := y.fft.Sequence(y.wave, y.a)
	n := float64(len(products))
	moved, sum, dip := power, 0.0, -1
	for lag := 1; lag < len(y.diff); lag++ {
		first, next := y.ahead[lag-1], y.ahead[lag-1+y.w]
		moved += next*next - first*first
		d := max(0, power+moved-2*products[lag]/n)
		sum += d
		y.diff[lag] = d
		if sum > 0 {
			y.diff[lag] = d * float64(lag) / sum
		}
		// The first dip below the threshold, once it rises again.
		if dip > 0 && y.diff[lag] > y.diff[lag-1] {
			break
		}
		if lag >= y.shortest && y.diff[lag] < y.dip && (dip < 0 || y.diff[lag] < y.diff[dip]) {
			dip = lag
		}
	}
	if dip < 0 || dip+1 >= len(y.diff) {
		return 0, 0
	}
	a, b, c := y.diff[dip-1], y.diff[dip], y.diff[dip+1]
	period = float64(dip)
	if bow := a - 2*b + c; bow > 0 {
		period += (a - c) / (2 * bow)
	}
	return period, 1 - b
}
