package hear

import (
	"fmt"
	"math"
)

// The rates of recordings that are listened to, in samples a second.
const (
	slowestRate = 8000
	fastestRate = 192000
	usualRate   = 44100 // samples a second
)

// brought is a recording's first seconds at a rate that is listened to, and that rate: one of
// twice the usual rate and more is brought down to about it first, as no string sounds higher and the
// work grows with the square of the rate. The error is one sentence.
func brought(samples []float32, rate int, seconds float64) ([]float32, int, error) {
	if rate < slowestRate || rate > fastestRate {
		return nil, 0, fmt.Errorf("a sound of %d samples a second cannot be listened to", rate)
	}
	samples = samples[:min(len(samples), int(seconds*float64(rate)))]
	by := rate / usualRate
	if by < 2 {
		return samples, rate, nil
	}
	return decimated(samples, by), rate / by, nil
}

// decimated keeps one of so many samples after a low pass below the new rate's half: a sinc under
// a Hann window (textbook signal processing, from memory).
func decimated(x []float32, by int) []float32 {
	const lobes = 8
	reach := lobes * by
	taps := make([]float64, 2*reach+1)
	sum := 0.0
	for i := range taps {
		at := float64(i-reach) / float64(by)
		taps[i] = 0.5 + 0.5*math.Cos(math.Pi*at/(lobes+1))
		if at != 0 {
			taps[i] *= math.Sin(0.9*math.Pi*at) / (0.9 * math.Pi * at)
		}
		sum += taps[i]
	}
	out := make([]float32, len(x)/by)
	for k := range out {
		mean := 0.0
		for i, t := range taps {
			if at := k*by + i - reach; at >= 0 && at < len(x) {
				mean += t * float64(x[at])
			}
		}
		out[k] = float32(mean / sum)
	}
	return out
}
