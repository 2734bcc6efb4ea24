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
		{name: "high pass at its frequency", f: HighPass(200, rate), hertz: 200, want: -3.01},
		{name: "… an octave below", f: HighPass(200, rate), hertz: 100, want: -12.30},
		{name: "… far above", f: HighPass(200, rate), hertz: 4000, want: 0},
		{name: "low pass at its frequency", f: LowPass(1000, rate), hertz: 1000, want: -3.01},
		{name: "… an octave above", f: LowPass(1000, rate), hertz: 2000, want: -12.36},
		{name: "… far below", f: LowPass(1000, rate), hertz: 50, want: 0},
		{name: "a peak", f: Peaking(800, 6, 1, rate), hertz: 800, want: 6},
		{name: "… far from it", f: Peaking(800, 6, 1, rate), hertz: 20, want: 0},
		{name: "a resonance", f: Resonant(3000, 2, rate), hertz: 3000, want: 6.02},
	} {
		if got := gain(c.f, c.hertz, rate); math.Abs(got-c.want) > 0.1 {
			t.Errorf("%s: %.2f dB, want %.2f", c.name, got, c.want)
		}
	}
}
