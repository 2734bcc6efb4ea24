package filter

import (
	"math"
	"testing"
)

// gain is how much of a sine a filter lets through, in dB, measured on its last half second.
func gain(f Filter, hertz float64, rate int) float64 {
	x := make([]float32, rate)
	for i := range x {
		x[i] = float32(math.Sin(2 * math.Pi * hertz * float64(i) / float64(rate)))
	}
	sum := 0.0
	for _, v := range f.Through(x)[rate/2:] {
		sum += float64(v) * float64(v)
	}
	return 10 * math.Log10(sum/float64(rate/4))
}

// High and low pass are Butterworth filters of the second order: 3.01 dB down at their frequency and 12.3 dB an octave
// beyond it, 10·log(1 + 2⁴), but for what the bilinear transform bends near half of the rate (textbook values, from
// memory). A peak is as high as it is asked to be, a resonance of Q lifts its own frequency by 20·log Q.
func TestGains(t *testing.T) {
	const rate = 44_100
	for _, c := range []struct {
		name  string
		f     Filter
		hertz float64
		want  float64
	}{
		{"high pass at its frequency", HighPass(200, rate), 200, -3.01},
		{"… an octave below", HighPass(200, rate), 100, -12.30},
		{"… far above", HighPass(200, rate), 4000, 0},
		{"low pass at its frequency", LowPass(1000, rate), 1000, -3.01},
		{"… an octave above", LowPass(1000, rate), 2000, -12.36},
		{"… far below", LowPass(1000, rate), 50, 0},
		{"a peak", Peaking(800, 6, 1, rate), 800, 6},
		{"… far from it", Peaking(800, 6, 1, rate), 20, 0},
		{"a resonance", Resonant(3000, 2, rate), 3000, 6.02},
	} {
		if got := gain(c.f, c.hertz, rate); math.Abs(got-c.want) > 0.1 {
			t.Errorf("%s: %.2f dB, want %.2f", c.name, got, c.want)
		}
	}
}
