package sound

import "math"

// Rate is how many samples a second has.
const Rate = 44100

// line is one string: a delay of one period in a loop with a filter that takes away the high partials sooner.
//
// The loop is as long as a period: the delay read between samples by Lagrange's polynomial of the third order, plus the
// delay of the filter at the pitch, sum to Rate/f. So a pitch that glides is right at every moment.
type line struct {
	loop   [maxPeriod]float64
	at     int
	loss   float64    // of a pass, 1 for none
	bright float64    // share of the sample before in the loop's filter: 0 bright, 0.5 dull
	last   float64    // what the filter had last
	spread float64    // of the all-pass filter that sets the partials of a stiff string apart, 0 for none
	wide   [2]float64 // what that had and gave last

	drive    []float64 // what is still to be put in
	period   float64   // samples, now
	by       float64   // what the period changes by each sample
	damping  float64   // what a sample is multiplied by while the string is stopped, 1 for free
	thump    float64   // how loud the pick's noise is still
	rustling uint32    // of the noise
}

// maxPeriod is longer than the period of any string: 20 Hz.
const maxPeriod = 4096

// tune has the string sound f hertz, at once or after so many samples on an even way. The even way is one of the
// period; over the few samples between two looks the ear does not tell it from one of the pitch.
func (s *line) tune(f float64, over int) {
	want := Rate/f - s.filterDelay(f)
	if s.spread != 0 {
		want -= allPassDelay(s.spread, f)
	}
	if over <= 0 || s.period == 0 {
		s.period, s.by = want, 0
		return
	}
	s.by = (want - s.period) / float64(over)
}

// filterDelay is how many samples the loop's filter (1−b)·x[n] + b·x[n−1] delays f.
func (s *line) filterDelay(f float64) float64 {
	w := 2 * math.Pi * f / Rate
	return math.Atan2(s.bright*math.Sin(w), 1-s.bright+s.bright*math.Cos(w)) / w
}

// next is the string's next sample.
func (s *line) next() float64 {
	if s.period == 0 {
		return 0
	}
	s.period += s.by
	// Two samples on either side of the point between which the loop is read.
	whole := int(s.period)
	d := s.period - float64(whole) + 1 // from the newest of the four, between 1 and 2
	i := s.at - whole + 1
	x0, x1, x2, x3 := s.loop[i&(maxPeriod-1)], s.loop[(i-1)&(maxPeriod-1)], s.loop[(i-2)&(maxPeriod-1)],
		s.loop[(i-3)&(maxPeriod-1)]
	a, b, c := d-1, d-2, d-3
	x := -a*b*c/6*x0 + d*b*c/2*x1 - d*a*c/2*x2 + d*a*b/6*x3
	y := ((1-s.bright)*x + s.bright*s.last) * s.loss * s.damping
	s.last = x
	if s.spread != 0 {
		z := s.spread*(y-s.wide[1]) + s.wide[0]
		s.wide[0], s.wide[1] = y, z
		y = z
	}
	if len(s.drive) > 0 {
		y += s.drive[0]
		s.drive = s.drive[1:]
	}
	s.loop[s.at&(maxPeriod-1)] = y
	s.at++
	if s.thump > 1e-4 {
		s.rustling = s.rustling*1664525 + 1013904223
		noise := float64(int32(s.rustling)) / (1 << 31)
		s.thump *= 0.985
		return y + noise*s.thump
	}
	return y
}

// pluck is one period of a string that was pulled aside at a part of its length and let go, heard at another: its
// partials, as loud together as level says, none above what can be heard. What is pulled aside is a triangle, whose
// partials fall with the square of their number; a coil hears how fast they move, which makes that the number alone. A
// tip that is no point leaves out what is shorter than itself: from sharp hertz on. A partial with a node where the
// string is plucked or heard is not there: plucked at a seventh, no seventh partial.
func pluck(f, level, pickAt, hearAt, sharp float64, into []float64) []float64 {
	n := int(math.Ceil(Rate / f))
	out := into[:0]
	for range n {
		out = append(out, 0)
	}
	power := 0.0
	for k := 1; float64(k)*f < min(0.4*Rate, highestPartial); k++ {
		high := float64(k) * f / sharp
		a := math.Sin(math.Pi*float64(k)*pickAt) * math.Sin(math.Pi*float64(k)*hearAt) /
			float64(k) * math.Exp(-high*high/2)
		if high > 3 {
			break // a ten-thousandth
		}
		power += a * a / 2
		// One partial by the recurrence of its sine.
		w := 2 * math.Pi * float64(k) * f / Rate
		c, s0, s1 := 2*math.Cos(w), 0.0, a*math.Sin(w)
		for i := range out {
			out[i] += s0
			s0, s1 = s1, c*s1-s0
		}
	}
	if power == 0 {
		return out
	}
	scale := level / math.Sqrt(power)
	for i := range out {
		out[i] *= scale
	}
	return out
}

// highestPartial is up to where a string's partials are made, in Hz.
const highestPartial = 11000
