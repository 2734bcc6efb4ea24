package hear

import (
	"context"
	"math"
	"testing"

	"ornamen/core/music"
	"ornamen/core/sound"
)

// tone is two seconds of a string's first partials at a rate.
func tone(rate int, hertz float64) []float32 {
	out := make([]float32, 2*rate)
	for i := range out {
		at := 2 * math.Pi * hertz * float64(i) / float64(rate)
		out[i] = float32(0.3*math.Sin(at) + 0.15*math.Sin(2*at) + 0.1*math.Sin(3*at))
	}
	return out
}

// A recording of any rate has the pitch that it has: within a cent from the lowest string to the
// highest fret.
func TestAnyRate(t *testing.T) {
	for _, rate := range []int{22_050, 44_100, 48_000, 88_200, 96_000, 176_400, 192_000} {
		for _, pitch := range []music.Pitch{40, 57, 76, 86} {
			samples, at, err := brought(tone(rate, pitch.Hertz()), rate, 2)
			if err != nil || at > 2*sound.Rate {
				t.Fatalf("%d: %d, %v", rate, at, err)
			}
			heard, err := Track(context.Background(), samples, at, 0.05)
			if err != nil || len(heard) < 20 {
				t.Fatalf("%d moments, %v", len(heard), err)
			}
			worst := 0.0
			for _, h := range heard[:len(heard)-1] {
				worst = max(worst, math.Abs(1200*math.Log2(h.Hertz/pitch.Hertz())))
			}
			limit := 1.0
			if rate == 22_050 {
				limit = 3 // a parabola through few samples
			}
			if !(worst <= limit) {
				t.Errorf("pitch %d at %d samples a second is heard up to %.2f cents off", pitch, rate, worst)
			}
		}
	}
	for _, bad := range []int{0, 7999, 192_001} {
		if _, _, err := brought(nil, bad, 2); err == nil {
			t.Errorf("%d samples a second are listened to", bad)
		}
	}
}

// What lies above half of the new rate is taken out before it could be heard as another tone.
func TestNoAlias(t *testing.T) {
	samples, _, err := brought(tone(192_000, 30_000), 192_000, 2)
	if err != nil {
		t.Fatal(err)
	}
	for i, x := range samples[1000 : len(samples)-1000] {
		if math.Abs(float64(x)) > 1e-3 {
			t.Fatalf("sample %d of what cannot be heard is %g", i, x)
		}
	}
}

// BenchmarkTrack listens to ten seconds, at the rate of a bend and at the most that recordings
// have.
func BenchmarkTrack(b *testing.B) {
	for name, rate := range map[string]int{"44k1": 44_100, "192k": 192_000} {
		x := tone(rate, 196)
		for range 4 {
			x = append(x, x[:2*rate]...)
		}
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				samples, at, err := brought(x, rate, 10)
				if err == nil {
					_, err = Track(context.Background(), samples, at, 0.02)
				}
				if err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
