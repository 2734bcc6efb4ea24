package hear

import (
	"context"
	"errors"
	"math"
	"slices"

	"gonum.org/v1/gonum/dsp/fourier"

	"ornamen/core/filter"
	"ornamen/core/lick"
	"ornamen/core/music"
)

// PlayedNote is a note of a line that was played, as it was heard: when it began and ended, in seconds, its pitch
// where it begins, what was done to it, and whether it is unsure.
type PlayedNote struct {
	At, End float64
	Pitch   music.Pitch
	Struck  bool    // there was an attack; else it is reached by a hammer, a pull or a slide
	Bend    float64 // half steps up, 0 for none
	Release bool    // it comes down again
	Vibrato bool
	Unsure  bool
}

// How a played line is written down (model defaults, tried on lines that the sound of this package renders, with
// noise, hum and a human's timing).
const (
	humBelow     = 65.0  // Hz: a string's tone lies above it, what a mains hum leaves below
	dullAbove    = 2200. // Hz, for the tracker's copy
	playDip      = 0.30  // the dip of the difference function that is a pitch
	playStep     = 0.005 // s between two moments
	attackRise   = 0.48  // of the log energy of the first difference, above its highest of the last 20 ms
	attackApart  = 0.055 // s between two attacks
	brightAbove  = 3000. // Hz: a pick's noise alone
	brightRise   = 1.2   // of its log energy
	newNote      = 0.7   // half steps from 40 ms before to 40 ms after that are another note
	pitchFrom    = 0.030 // s after the beginning of a note
	gradual      = 0.03  // s that a change of pitch takes if it is a bend
	quietest     = 0.012 // of the loudest moment: below it nothing sounds
	shortestNote = 0.045 // s
	toneFrom     = 0.72  // of the moments that sound have a clear pitch
	chordAbove   = 0.25  // of the moments: more than one tone sounds
)

// WritesDown says whether a line is of the kind that Played can write down: one note at a time, each of a pitch above
// the hum of the mains, which a bass's low strings are not.
func WritesDown(l lick.Lick) bool {
	for i, n := range l.Notes {
		if i > 0 && n.At.Before(l.Notes[i-1].End()) {
			return false
		}
		if !n.Mute && l.Pitch(i).Hertz() < humBelow {
			return false
		}
	}
	return len(l.Notes) > 0
}

// Played writes down a single-note line that was played: attacks are found in the energy of the first difference,
// beside changes of the pitch that have none; the pitch by the tracker on a copy without hum and brilliance, octaves
// mended by what lies around them; bends, releases and vibrato are told by how slowly the pitch moves. Silence,
// noise and chords are refused in one sentence. Of a recording the first minute is heard.
func Played(ctx context.Context, samples []float32, rate int) ([]PlayedNote, error) {
	x, rate, err := brought(samples, rate, 60)
	if err != nil {
		return nil, err
	}
	// A recording may begin with its first attack, and the tracker looks ahead at its end.
	x = slices.Concat(make([]float32, int(playLead*float64(rate))), x, make([]float32, rate/10))
	hum, low := filter.HighPass(humBelow, rate), filter.LowPass(dullAbove, rate)
	x = hum.Through(hum.Through(x))
	loud := levels(x, rate)
	top := slices.Max(append([]float64{0}, loud...))
	if top < 4e-3 {
		return nil, errors.New("there is nothing to hear: the recording is silent, or far too soft")
	}
	dull := low.Through(low.Through(x))
	dullRate := rate
	if rate >= 32000 { // nothing is left there that every second sample does not hold
		for i := range len(dull) / 2 {
			dull[i] = dull[2*i]
		}
		dull, dullRate = dull[:len(dull)/2], rate/2
	}
	moments, err := track(ctx, dull, dullRate, playStep, playDip)
	if err != nil {
		return nil, err
	}
	h := played{rate: rate, loud: loud, top: top, pitch: make([]float64, len(loud))}
	// A moment's pitch is that of the middle of what was listened to.
	for _, m := range moments {
		k := int(math.Round(m.At / playStep))
		if k < len(h.pitch) && m.Hertz > 0 && h.sounds(k) {
			h.pitch[k] = 69 + 12*math.Log2(m.Hertz/music.Pitch(69).Hertz())
		}
	}
	voiced, sounding := 0, 0
	for k := range h.pitch {
		if h.sounds(k) {
			sounding++
			if h.pitch[k] > 0 {
				voiced++
			}
		}
	}
	if float64(voiced) < toneFrom*float64(sounding) || voiced < 8 {
		return nil, errors.New("no clear tone is heard: that is noise, or several notes at once; play single notes, " +
			"near the microphone")
	}
	if h.several(x) {
		return nil, errors.New("more than one note sounds at a time; only a line of single notes can be written down")
	}
	notes := h.notes(h.attacks(x))
	if len(notes) == 0 {
		return nil, errors.New("no note is heard that lasts; play single notes, near the microphone")
	}
	for i := range notes {
		notes[i].At, notes[i].End = max(0, notes[i].At-playLead), notes[i].End-playLead
	}
	return notes, nil
}

// playLead is the silence that is put before a recording, in seconds.
const playLead = 0.1

// played is a recording in moments of playStep.
type played struct {
	rate  int
	loud  []float64 // root mean square
	top   float64   // the loudest
	pitch []float64 // MIDI numbers with their fraction, 0 where none is clear
}

// sounds says whether anything sounds at a moment.
func (h *played) sounds(k int) bool { return k < len(h.loud) && h.loud[k] > quietest*h.top }

// levels are the loudnesses of moments.
func levels(x []float32, rate int) []float64 {
	hop := int(playStep * float64(rate))
	out := make([]float64, len(x)/hop)
	for k := range out {
		out[k] = math.Sqrt(power(x[k*hop:(k+1)*hop]) / float64(hop))
	}
	return out
}

// power is the sum of the squares of samples.
func power(x []float32) (sum float64) {
	for _, v := range x {
		sum += float64(v) * float64(v)
	}
	return sum
}

// attacks are the moments at which a string is struck: the energy of the first difference, in which a pick's noise
// counts most, rises above what it was in the last 20 ms; where a string is struck that sounds already, what lies
// high in it rises alone.
func (h *played) attacks(x []float32) (out []int) {
	whole := newRisings(x, h.rate, attackRise, 1.2)
	high := newRisings(filter.HighPass(brightAbove, h.rate).Through(x), h.rate, brightRise, 1.6)
	last := -1000
	for k := 1; k+1 < len(whole.energy); k++ {
		if float64(k-last)*playStep < attackApart || !h.sounds(min(k+2, len(h.loud)-1)) {
			continue
		}
		begins, ok := whole.at(k)
		if !ok {
			begins, ok = high.at(k)
		}
		if ok {
			out, last = append(out, begins), begins
			k = begins
		}
	}
	return out
}

// risings find where the energy of the first difference of a sound rises.
type risings struct {
	energy []float64 // logarithms, by moments
	by     float64   // that much within 20 ms
	quiet  float64   // what counts is louder
}

// newRisings measures a sound; what lies less than over above its quietest moments is noise.
func newRisings(x []float32, rate int, by, over float64) risings {
	hop := int(playStep * float64(rate))
	r := risings{energy: make([]float64, len(x)/hop), by: by, quiet: math.Inf(-1)}
	for k := range r.energy {
		sum := 1e-9
		for i := max(1, k*hop); i < (k+1)*hop; i++ {
			d := float64(x[i] - x[i-1])
			sum += d * d
		}
		r.energy[k] = math.Log(sum)
	}
	floor := slices.Clone(r.energy)
	slices.Sort(floor)
	if len(floor) > 0 {
		r.quiet = floor[len(floor)/20] + over
	}
	return r
}

// at says whether the energy rises at moment k, and at which of k and the next it begins: a rise may take two.
func (r risings) at(k int) (begins int, ok bool) {
	before := slices.Max(r.energy[max(0, k-4):k])
	now := max(r.energy[k], r.energy[k+1])
	if now-before < r.by || now < r.quiet {
		return 0, false
	}
	if r.energy[k]-before < r.by/2 {
		k++
	}
	return k, true
}

// middle is the median of the pitches of moments [from, to), 0 where fewer than two are clear.
func (h *played) middle(from, to int) float64 {
	var p []float64
	for k := max(0, from); k < min(to, len(h.pitch)); k++ {
		if h.pitch[k] > 0 {
			p = append(p, h.pitch[k])
		}
	}
	if len(p) < 2 {
		return 0
	}
	slices.Sort(p)
	return p[len(p)/2]
}

// notes cuts the recording at its attacks, and where the pitch goes elsewhere without one, and reads each part.
func (h *played) notes(attacks []int) (out []PlayedNote) {
	type cut struct {
		at     int
		struck bool
	}
	var cuts []cut
	for i, a := range attacks {
		end := len(h.pitch)
		if i+1 < len(attacks) {
			end = attacks[i+1]
		}
		cuts = append(cuts, cut{a, true})
		for _, k := range h.changes(a, end) {
			cuts = append(cuts, cut{k, false})
		}
	}
	last := 0.0
	for i, c := range cuts {
		end := len(h.pitch)
		if i+1 < len(cuts) {
			end = cuts[i+1].at
		}
		stop := c.at
		for stop < end && h.sounds(stop) {
			stop++
		}
		n, ok := h.read(c.at, stop, last)
		if !ok {
			continue
		}
		n.Struck = c.struck
		last = float64(n.Pitch)
		out = append(out, n)
	}
	return out
}

// changes are the moments of a part at which the pitch goes to another tone at once: a hammer, a pull or a slide. A
// slow change is a bend's.
func (h *played) changes(from, to int) (out []int) {
	const wide = 8 // moments, 40 ms
	begin := from + int(pitchFrom/playStep)
	for k := begin + wide; k+wide < to; k++ {
		before, after := h.middle(k-wide, k), h.middle(k, k+wide)
		if before == 0 || after == 0 || math.Abs(after-before) < newNote {
			continue
		}
		// The middle of the change is where it is steepest.
		best, steep := k, 0.0
		for j := k; j < min(k+2*wide, to-wide); j++ {
			a, b := h.middle(j-wide, j), h.middle(j, j+wide)
			if d := math.Abs(b - a); a > 0 && b > 0 && d > steep {
				best, steep = j, d
			}
		}
		old, young := h.middle(best-2*wide, best-wide/2), h.middle(best+wide/2, best+2*wide)
		if old == 0 || young == 0 || math.Abs(young-old) < newNote {
			k = best + wide
			continue
		}
		if h.lasts(best, old, young) < gradual {
			out = append(out, best)
		}
		k = best + wide
	}
	return out
}

// lasts is how long a change of pitch around a moment is under way, in seconds: between a fifth and four fifths.
func (h *played) lasts(at int, old, young float64) float64 {
	under := 0
	for k := max(0, at-30); k < min(len(h.pitch), at+30); k++ {
		if p := h.pitch[k]; p > 0 {
			if f := (p - old) / (young - old); f > 0.2 && f < 0.8 {
				under++
			}
		}
	}
	return float64(under) * playStep
}

// read is the note of a part; false for one that is too short or has no pitch.
func (h *played) read(from, to int, last float64) (n PlayedNote, ok bool) {
	n.At, n.End = float64(from)*playStep, float64(to)*playStep
	if n.End-n.At < shortestNote {
		return n, false
	}
	begin := from + int(pitchFrom/playStep)
	course := make([]float64, 0, to-from)
	for k := begin; k < to-3; k++ {
		if h.pitch[k] > 0 {
			course = append(course, h.pitch[k])
		}
	}
	if len(course) < 3 {
		return n, false
	}
	head := h.middle(begin, min(begin+6, to-3))
	if head == 0 {
		head = course[0]
	}
	whole := slices.Clone(course)
	slices.Sort(whole)
	typical := whole[len(whole)/2]
	// The tracker takes a tone for its octave now and then: what most of the note is, and what lies near the note
	// before, is meant.
	if math.Abs(math.Abs(head-typical)-12) < 0.6 {
		head = typical
	}
	base := head
	settled := whole[len(whole)*9/10]
	if settled-head < 0.6 {
		base = typical
	}
	// A push begins with the note: the pitch where it began lies before what can be heard of it.
	if up := course[min(5, len(course)-1)] - course[0]; settled-base > 0.7 && up > 0.15 && up < 2 &&
		math.Abs(course[0]-base) < 1 {
		base = course[0] - 0.6*up*pitchFrom/(5*playStep)
	}
	n.Pitch = music.Pitch(math.Round(base))
	n.Vibrato = shakes(course)
	// A wide vibrato comes home again and again, a bend does not.
	late := slices.Clone(course[len(course)/2:])
	slices.Sort(late)
	bent := !n.Vibrato || late[len(late)/5] > base+0.6
	if settled-base > 0.7 && settled-base < 4.4 && bent && h.rises(course, base) {
		n.Bend = lick.NearestBend(settled - base)
		n.Release = course[len(course)-1] < base+0.4*n.Bend
	}
	n.Unsure = math.Abs(base-math.Round(base)) > 0.35 || 2*len(course) < to-begin ||
		last > 0 && math.Abs(base-last) > 18
	return n, true
}

// rises says whether a course goes up slowly, as a string that is pushed, and not at once.
func (h *played) rises(course []float64, base float64) bool {
	under := 0
	for _, p := range course {
		if p > base+0.3 {
			under++
		}
	}
	return float64(under)*playStep > 0.06
}

// shakes says whether a course swings to and fro at least one and a half times, by a quarter of a half step.
func shakes(course []float64) bool {
	turns, best, way := 0, course[0], 0.0
	for _, p := range course {
		switch d := p - best; {
		case way == 0 && math.Abs(d) > 0.12:
			best, way = p, math.Copysign(1, d)
		case way != 0 && d*way > 0:
			best = p
		case way != 0 && -d*way > 0.16:
			turns++
			best, way = p, -way
		}
	}
	return turns >= 3
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
