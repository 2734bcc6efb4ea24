package sound

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/dsp/fourier"

	"ornamen/core/lick"
	"ornamen/core/neck"
)

// A driven note sings: from 0.3 to 2.3 s it loses less than 10 dB at the seventh fret of the third string. Clean and
// driven are as loud within 2 dB, a chord is not cut off.
func TestDrivenSustains(t *testing.T) {
	note := func(drive float64, places ...[2]int) []float32 {
		l := lick.New()
		l.Tempo, l.Tuning = 60, neck.Standard().Tuning
		for _, p := range places {
			l.Notes = append(l.Notes, lick.Note{Len: lick.NewTime(1, 1), String: p[0], Fret: p[1]})
		}
		p := NewRenderer(neck.Standard(), l, Options{Drive: drive})
		out := make([]float32, p.Len())
		return out[:p.Read(out)]
	}
	level := func(x []float32, from, to float64) float64 {
		sum := 0.0
		for _, v := range x[int(from*Rate):int(to*Rate)] {
			sum += float64(v) * float64(v)
		}
		return 10 * math.Log10(sum/((to-from)*Rate))
	}
	driven, clean := note(1, [2]int{3, 7}), note(0, [2]int{3, 7})
	if lost := level(driven, 0.25, 0.35) - level(driven, 2.25, 2.35); lost > 10 {
		t.Errorf("a driven note loses %.1f dB in two seconds, a clean one %.1f", lost,
			level(clean, 0.25, 0.35)-level(clean, 2.25, 2.35))
	}
	for _, at := range [][2]int{{6, 3}, {5, 5}, {4, 9}, {3, 7}, {2, 12}, {1, 15}} {
		clean := level(note(0, at), 0, 1)
		for _, drive := range []float64{0.25, 0.5, 1} {
			if driven := level(note(drive, at), 0, 1); math.Abs(driven-clean) > 2 {
				t.Errorf("string %d fret %d: clean %.1f dB, at drive %g %.1f", at[0], at[1], clean, drive, driven)
			}
		}
	}
	for _, v := range note(1, [2]int{6, 3}, [2]int{5, 5}, [2]int{4, 5}) {
		if !(v > -0.95 && v < 0.95) {
			t.Fatalf("a driven chord comes to %g", v)
		}
	}
}

// Nothing folds back into hearing: of a driven high tone what is no harmonic of it lies 60 dB below it.
func TestDrivenWithoutAliases(t *testing.T) {
	const n = 32768
	for _, hertz := range []float64{880, 1318.5, 2093} {
		k := math.Round(hertz * n / Rate)
		a := newAmp(1)
		x := make([]float64, n)
		for i := range 2 * n {
			y := a.through(0.4 * math.Sin(2*math.Pi*k*float64(i)/n))
			if i >= n {
				x[i-n] = y * (0.5 - 0.5*math.Cos(2*math.Pi*float64(i-n)/n))
			}
		}
		bins := fourier.NewFFT(n).Coefficients(nil, x)
		power := func(b int) float64 { return real(bins[b])*real(bins[b]) + imag(bins[b])*imag(bins[b]) }
		tone, worst := power(int(k)), 0.0
		for b := 20; b < len(bins); b++ {
			if off := math.Abs(math.Remainder(float64(b), k)); off > 3 {
				worst = max(worst, power(b))
			}
		}
		db := 10 * math.Log10(worst/tone)
		if db > -60 {
			t.Errorf("%g Hz: what is no harmonic lies at %.1f dB", hertz, db)
		}
	}
}

// The curve between its points is the logarithm of the hyperbolic cosine.
func TestLogCosh(t *testing.T) {
	for x := -25.0; x < 25; x += 0.00371 {
		want := math.Abs(x) + math.Log1p(math.Exp(-2*math.Abs(x))) - math.Ln2
		if math.Abs(logCosh(x)-want) > 1e-9 {
			t.Fatalf("at %g it is %g, not %g", x, logCosh(x), want)
		}
	}
}
