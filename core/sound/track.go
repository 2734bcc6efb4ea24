package sound

import "math"

// Heard is the pitch of a moment.
type Heard struct {
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

// Track follows the pitch of a single line, a moment every step seconds, by the method of
// A. de Cheveigné and H. Kawahara, "YIN, a fundamental frequency estimator for speech and
// music", Journal of the Acoustical Society of America 111(4), 2002 (from memory): the
// squared difference of the signal with itself, normed by its mean so far; the first dip
// under a threshold, refined by a parabola.
//
// Cost: window × the longest period for each moment.
func Track(samples []float32, rate int, step float64) []Heard {
	longest := int(float64(rate) / lowest)
	shortest := max(2, int(float64(rate)/highest))
	w := window * rate / Rate
	hop := max(1, int(step*float64(rate)))
	var out []Heard
	diff := make([]float64, longest+2)
	for from := 0; from+w+longest+1 < len(samples); from += hop {
		at := float64(from)/float64(rate) + float64(w+longest)/2/float64(rate)
		power := 0.0
		for _, x := range samples[from : from+w] {
			power += float64(x) * float64(x)
		}
		h := Heard{At: at}
		if math.Sqrt(power/float64(w)) > loudEnough {
			h.Hertz, h.Clear = pitchOf(samples[from:], rate, w, shortest, diff)
		}
		out = append(out, h)
	}
	return out
}

// pitchOf is the pitch at the beginning of samples, 0 where none is clear.
func pitchOf(x []float32, rate, w, shortest int, diff []float64) (hertz, clear float64) {
	sum := 0.0
	dip := -1
	for tau := 1; tau < len(diff); tau++ {
		d := 0.0
		for i, a := range x[:w] {
			e := float64(a - x[i+tau])
			d += e * e
		}
		sum += d
		diff[tau] = d
		if sum > 0 {
			diff[tau] = d * float64(tau) / sum
		}
		// The first dip below the threshold, once it rises again.
		if dip > 0 && diff[tau] > diff[tau-1] {
			break
		}
		if tau >= shortest && diff[tau] < unclear && (dip < 0 || diff[tau] < diff[dip]) {
			dip = tau
		}
	}
	if dip < 0 || dip+1 >= len(diff) {
		return 0, 0
	}
	a, b, c := diff[dip-1], diff[dip], diff[dip+1]
	at := float64(dip)
	if bow := a - 2*b + c; bow > 0 {
		at += (a - c) / (2 * bow)
	}
	return float64(rate) / at, 1 - b
}
