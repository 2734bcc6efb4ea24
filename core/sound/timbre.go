package sound

import (
	"math"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/text"
)

// Pickup is which of a guitar's pickups is heard.
type Pickup string

// The pickups, from the neck to the bridge; the zero value is the middle one.
const (
	MiddlePickup Pickup = ""
	NeckPickup   Pickup = "neck"
	BridgePickup Pickup = "bridge"
)

// ParsePickup reads one by name.
func ParsePickup(s string) (Pickup, error) {
	return text.Word(s, "middle", "a pickup is neck, middle or bridge, not %q", MiddlePickup, NeckPickup, BridgePickup)
}

// coil is where a pickup lies, as a part of the open string from the bridge, and its resonance.
type coil struct{ at, hertz, q float64 }

// coils are the pickups (from memory, of what is usual: a coil with its cable resonates between 2 and 5 kHz).
var coils = map[Pickup]coil{
	NeckPickup:   {0.25, 2700, 1.1},
	MiddlePickup: {0.16, 3400, 1.5},
	BridgePickup: {0.07, 4200, 2},
}

// touch is how a string is set going: where, from the bridge, as a part of the open string; up to which frequency the
// tip that leaves it is sharp; how loud it is, and its noise.
type touch struct{ at, sharp, loud, noise float64 }

// The touches (model defaults). An upstroke is a little nearer to the bridge and thinner than a downstroke; fingers are
// rounder, the thumb the roundest; a finger that hammers strikes far from the bridge and sets less going, one that
// pulls plucks with its tip.
var (
	pickDown = touch{at: 0.14, sharp: 5200, loud: 1, noise: 0.24}
	pickUp   = touch{at: 0.12, sharp: 6400, loud: 0.94, noise: 0.24}
	byFinger = touch{at: 0.20, sharp: 2300, loud: 0.96, noise: 0.015}
	byThumb  = touch{at: 0.24, sharp: 1700, loud: 1, noise: 0.01}
	byHammer = touch{at: 0.45, sharp: 2000, loud: 0.55, noise: 0}
	byPull   = touch{at: 0.38, sharp: 3000, loud: 0.6, noise: 0.008}
	deadened = touch{at: 0.14, sharp: 1500, loud: 1, noise: 0.5}
	onBass   = touch{at: 0.22, sharp: 900, loud: 1.1, noise: 0.01} // the band's bass, by two fingers
)

// touchOf is how a note that is not slurred is set going.
func touchOf(s lick.Stroke) touch {
	switch s {
	case lick.Up:
		return pickUp
	case lick.PThumb:
		return byThumb
	case lick.PIndex, lick.PMid, lick.PRing:
		return byFinger
	}
	return pickDown
}

// steel is what a string is made of, as far as it is heard.
type steel struct {
	open  float64 // MIDI number
	wound bool
	stiff float64 // B of the open string: partial k lies at k·f·√(1 + B·k²)
}

// Of a string in metres and newtons: the modulus of steel, and which part of a wound string's diameter is its core
// (from memory; makers give 0.36 to 0.42).
const (
	youngSteel = 2.0e11
	woundCore  = 0.38
)

// steelOf is a string by its gauge: B = π³·E·d⁴ / (64·T·L²) (H. Fletcher, "Normal vibration frequencies of a stiff
// piano string", JASA 36, 1964; from memory). As an example, a plain string of 0.010 inches has 1.3·10⁻⁵, a wound one
// of 0.046 about 1.3·10⁻⁴.
func steelOf(g neck.Guitar, s int) steel {
	x := steel{open: float64(g.Tuning[s])}
	if s >= len(g.Strings) {
		x.wound, x.stiff = x.open < 55, 6e-5
		return x
	}
	str := g.Strings[s]
	x.wound = str.Wound
	d := float64(str.Inches) * 0.0254
	if x.wound {
		d *= woundCore
	}
	length := float64(g.Scale) / 1000
	tension := float64(str.Tension(g.Tuning[s], g.Scale))
	x.stiff = min(4e-4, math.Pow(math.Pi, 3)*youngSteel*math.Pow(d, 4)/(64*max(20, tension)*length*length))
	return x
}

// How long a string sounds: the open low E's fundamental to a thousandth, what another octave leaves of it, and its
// partials at 3 kHz, of a plain and of a wound string; in s (from memory of what is measured on solid guitars: low
// strings 15 to 30 s, high ones 8 to 15, partials of some kHz 1 to 4, each shorter up the neck).
const (
	fadeLow   = 17.0
	fadeUp    = 0.66 // of it, an octave higher from string to string
	fadeFret  = 0.62 // of it, an octave higher on one string
	fadePlain = 1.7
	fadeWound = 1.4
	fadeHigh  = 3000.0 // Hz
)

// fade is how long a string's fundamental sounds at a pitch, and its partials at fadeHigh.
func (x steel) fade(pitch float64) (low, high float64) {
	fretted := math.Pow(fadeFret, max(0, pitch-x.open)/12)
	low = fadeLow * math.Pow(fadeUp, max(0, x.open-40)/12) * fretted
	high = fadePlain
	if x.wound {
		high = fadeWound
	}
	return max(1.5, low), min(low, high*math.Sqrt(fretted))
}

// settle sets what a pass through the loop takes away at a pitch, and how much sooner high partials come round.
func (v *voice) settle(pitch float64) {
	f := hertz(pitch)
	low, high := v.steel.fade(pitch)
	v.loss = fading(low, f)
	v.bright = brightness(fading(high, f)/v.loss, f)
	// A stiff string's partial k is early by B·k²/2 of the period: an all-pass filter delays the low ones so much more.
	// B grows with the square of what the fret takes from the length.
	v.spread = 0
	stiff := v.steel.stiff * math.Exp2(max(0, pitch-v.steel.open)/6)
	const k = 8
	want := Rate / f * stiff * k * k / 2
	if k*f > 0.3*Rate || want < 0.01 {
		return
	}
	lo, hi := -0.95, 0.0
	for range 24 {
		a := (lo + hi) / 2
		if allPassDelay(a, f)-allPassDelay(a, k*f) > want {
			lo = a
		} else {
			hi = a
		}
	}
	if allPassDelay(hi, f) < 0.4*Rate/f {
		v.spread = hi
	}
}

// How long a string sounds under the palm: its fundamental at 110 Hz, what another octave leaves of it, its partials at
// 3 kHz, in s; and what the palm leaves of the pick's sharpness (by ear).
const (
	palmFade  = 0.75
	palmUp    = 0.8
	palmHigh  = 0.06
	palmSharp = 0.27
)

// underPalm dampens a string that sounds at f as the palm at the bridge does: its partials at once, and its
// fundamental soon.
func (v *voice) underPalm(f float64) {
	v.loss = fading(palmFade*math.Pow(palmUp, math.Log2(f/110)), f)
	v.bright = brightness(fading(palmHigh, f)/v.loss, f)
}

// brightness is the b of the loop's filter (1−b)·x[n] + b·x[n−1] that has a gain at fadeHigh. At w its gain is
// √(1 − 2b(1−b)(1 − cos w)).
func brightness(gain, f float64) float64 {
	share := (1 - gain*gain) / (2 * (1 - math.Cos(2*math.Pi*max(fadeHigh, 1.5*f)/Rate)))
	if share < 0.25 {
		return (1 - math.Sqrt(1-4*share)) / 2
	}
	return 0.5
}

// stretched is by which part the pitch that is heard lies above the fundamental's, as the partials of a stiff string
// do: their mean, each by how much it says of the pitch (its power times the square of its number) a moment after the
// pluck. Players tune strings as they are heard.
func (v *voice) stretched(pitch, pickAt, hearAt, sharp float64) float64 {
	if v.spread == 0 {
		return 0
	}
	f := hertz(pitch)
	low, high := v.steel.fade(pitch)
	const moment = 0.19 // s
	all, sum := 0.0, 0.0
	for k := 1.0; k*f < min(0.4*Rate, highestPartial); k++ {
		x := k * f / sharp
		a := math.Sin(math.Pi*k*pickAt) * math.Sin(math.Pi*k*hearAt) / k * math.Exp(-x*x/2)
		rate := 1/low + (1/high-1/low)*k*f/fadeHigh*k*f/fadeHigh
		w := a * a * k * k * math.Exp(-2*6.9*moment*rate)
		all += w
		sum += w * (allPassDelay(v.spread, f) - allPassDelay(v.spread, k*f)) * f / Rate
	}
	if all == 0 {
		return 0
	}
	return sum / all
}

// allPassDelay is by how many samples the filter (a + z⁻¹)/(1 + a·z⁻¹) delays a frequency.
func allPassDelay(a, f float64) float64 {
	w := 2 * math.Pi * f / Rate
	s, c := math.Sincos(w)
	return -(math.Atan2(-s, a+c) - math.Atan2(-a*s, 1+a*c)) / w
}

// room is a little room around all that is heard: four echoes that go round and two that blur them (M. Schroeder,
// "Natural sounding artificial reverberation", JAES 10, 1962; from memory).
type room struct {
	loops [4]echo
	blurs [2]echo
}

// echo is a delay in a loop.
type echo struct {
	line []float64
	at   int
	low  float64 // what went round last, without its highs
}

// The room's delays in samples, what each round leaves, and how much of it is heard (model defaults).
var (
	roomLoops = [4]int{1116, 1277, 1422, 1557}
	roomBlurs = [2]int{225, 556}
)

const (
	roomLeft = 0.74
	roomBlur = 0.5
	roomWet  = 0.035
)

// newRoom is a room in which nothing sounds yet.
func newRoom() (r room) {
	for i, n := range roomLoops {
		r.loops[i].line = make([]float64, n)
	}
	for i, n := range roomBlurs {
		r.blurs[i].line = make([]float64, n)
	}
	return r
}

// next is what the room answers.
func (r *room) next(x float64) float64 {
	sum := 0.0
	for i := range r.loops {
		e := &r.loops[i]
		y := e.line[e.at]
		e.low += 0.55 * (y - e.low)
		e.line[e.at] = x + roomLeft*e.low
		if e.at++; e.at == len(e.line) {
			e.at = 0
		}
		sum += y
	}
	for i := range r.blurs {
		e := &r.blurs[i]
		y := e.line[e.at]
		e.line[e.at] = sum + roomBlur*y
		sum = y - roomBlur*e.line[e.at]
		if e.at++; e.at == len(e.line) {
			e.at = 0
		}
	}
	return sum
}
