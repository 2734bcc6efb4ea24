package sound

import (
	"math"

	"ornamen/core/filter"
)

// The amplifier of a driven guitar: what it evens out, bends and takes away. The values are ours, chosen by ear of the
// measures that the tests hold.
const (
	ampTight   = 110.0  // Hz: less of what lies below goes into the bending
	ampCabinet = 4300.0 // Hz, above which a loudspeaker is deaf
	ampBody    = 190.0  // Hz, where its box answers
	ampGain    = 11.0   // into the bending, at full drive
	ampEven    = 0.9    // of the loudness that the string loses is made up for, at full drive
	ampMost    = 60.0   // times that a fading string is made louder at most
	ampFloor   = 3e-4   // what is softer is noise and stays so
	ampRefer   = 0.08   // how loud a string is, as which it is as loud as clean
	ampAsLoud  = 1.22   // times louder, as a clean string fades meanwhile
	ampLouder  = 0.69   // and so much more at full drive, which takes more of the low strings
	over       = 4      // times as many samples while it bends
)

// amp is the sound after the strings: as clean as they are, or driven. Driven it is evened out, so that a note sings
// as long as it is held, bent by a hyperbolic tangent as a valve bends it, at four times the samples and by the mean of
// the curve between two of them (J. Parker, V. Zavalishin, E. Le Bivic, "Reducing the aliasing of nonlinear waveshaping
// using continuous-time convolution", DAFx 2016; from memory), so that nothing folds back into hearing, and sent
// through a loudspeaker's band.
type amp struct {
	drive        float64
	loud         float64 // the strings', followed
	aim, makeUp  float64 // what evens it out
	since        int     // samples
	tight        [1]filter.Running
	cabinet      [3]filter.Running
	last, area   float64                  // what went into the bending last, and the curve's integral there
	level        float64                  // that makes it as loud as clean
	in           [2 * taps / over]float64 // the newest first from inAt on, twice, so that a window is never cut
	bent         [2 * taps]float64
	inAt, bentAt int
}

// newAmp is an amplifier driven from 0 to 1.
func newAmp(drive float64) amp {
	a := amp{drive: max(0, min(1, drive))}
	a.tight[0].Filter = filter.HighPass(ampTight, Rate)
	a.cabinet[0].Filter, a.cabinet[1].Filter = filter.LowPass(ampCabinet, Rate), filter.LowPass(ampCabinet*1.15, Rate)
	a.cabinet[2].Filter = filter.Peaking(ampBody, 3, 0.9, Rate)
	a.level = 1
	if a.drive == 0 {
		return a
	}
	// A tone as a string has it goes through another one, and what comes out sets the level.
	other, in, out := a, 0.0, 0.0
	for i := range Rate / 5 {
		x := 0.0
		for k := 1.0; k <= 6; k++ {
			x += ampRefer * math.Sin(2*math.Pi*k*220*float64(i)/Rate) / k
		}
		y := other.through(x)
		if i > Rate/10 {
			in, out = in+x*x, out+y*y
		}
	}
	a.level = (ampAsLoud + ampLouder*a.drive) * math.Sqrt(in/out)
	return a
}

// taps is the length of the low pass between the two numbers of samples.
const taps = 64

// lowTaps is that low pass: a sinc under a Blackman window, for the fourth part of the band.
var lowTaps = func() (h [taps]float64) {
	sum := 0.0
	for i := range h {
		at := float64(i) - (taps-1)/2.0
		h[i] = (0.42 - 0.5*math.Cos(2*math.Pi*(float64(i)+0.5)/taps) + 0.08*math.Cos(4*math.Pi*(float64(i)+0.5)/taps)) *
			math.Sin(math.Pi*at*0.8/over) / (math.Pi * at)
		sum += h[i]
	}
	for i := range h {
		h[i] /= sum
	}
	return h
}()

// phases are the taps that each of the samples between two takes.
var phases = func() (rows [over][taps / over]float64) {
	for i, h := range lowTaps {
		rows[i%over][i/over] = h
	}
	return rows
}()

// through is the next sample after the amplifier.
func (a *amp) through(x float64) float64 {
	if a.drive == 0 {
		return x
	}
	// How loud the strings are, at once when they are struck and slowly when they fade.
	if m := math.Abs(x); m > a.loud {
		a.loud += 0.01 * (m - a.loud)
	} else {
		a.loud *= 1 - 1.0/(0.12*Rate)
	}
	if a.since%16 == 0 { // it changes slowly
		a.aim = min(ampMost, math.Pow(0.3/max(a.loud, ampFloor), ampEven*a.drive)) * min(1, a.loud/ampFloor)
	}
	a.since++
	a.makeUp += 0.05 * (a.aim - a.makeUp)
	x = a.tight[0].Next(x) * a.makeUp * (1 + (ampGain-1)*a.drive)
	const n = taps / over
	a.inAt = (a.inAt + n - 1) % n
	a.in[a.inAt], a.in[a.inAt+n] = x, x
	window := a.in[a.inAt : a.inAt+n]
	for phase := range over {
		up, row := 0.0, &phases[phase]
		for k, v := range window {
			up += row[k] * v
		}
		a.bentAt = (a.bentAt + taps - 1) % taps
		y := a.bend(over * up)
		a.bent[a.bentAt], a.bent[a.bentAt+taps] = y, y
	}
	y := 0.0
	for i, v := range a.bent[a.bentAt : a.bentAt+taps] {
		y += lowTaps[i] * v
	}
	for i := range a.cabinet {
		y = a.cabinet[i].Next(y)
	}
	return a.level * y
}

// bend is the mean of the hyperbolic tangent between the last sample and this one.
func (a *amp) bend(x float64) float64 {
	from, before := a.last, a.area
	a.last, a.area = x, logCosh(x)
	if d := x - from; math.Abs(d) > 1e-3 {
		return (a.area - before) / d
	}
	return math.Tanh((x + from) / 2)
}

// curve is the logarithm of the hyperbolic cosine, the tangent's integral, and the tangent, at every part of a step of
// 1 up to curveEnd, from where on the integral is a straight line.
const curveEnd, curveParts = 18, 64

var curve = func() (c [curveEnd*curveParts + 2]struct{ area, slope float64 }) {
	for i := range c {
		x := float64(i) / curveParts
		c[i].area, c[i].slope = x+math.Log1p(math.Exp(-2*x))-math.Ln2, math.Tanh(x)
	}
	return c
}()

// logCosh reads the curve, between its points by a polynomial of the third order: to within a billionth.
func logCosh(x float64) float64 {
	m := math.Abs(x)
	if m >= curveEnd {
		return m - math.Ln2
	}
	at := m * curveParts
	i := int(at)
	t := at - float64(i)
	p, q := &curve[i], &curve[i+1]
	const h = 1.0 / curveParts
	return p.area + t*(h*p.slope+t*(3*(q.area-p.area)-h*(2*p.slope+q.slope)+t*(2*(p.area-q.area)+h*(p.slope+q.slope))))
}
