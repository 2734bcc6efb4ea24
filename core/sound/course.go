package sound

import (
	"math"

	"ornamen/core/bend"
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// course is how far a note lies from its fret, in cents, at a time in seconds after it begins.
type course struct {
	from, glide float64 // cents that it comes from, and how long that takes
	fretted     bool    // over frets, which sound on the way
	bend        func(at float64) float64
	wide, speed float64 // of a vibrato, in cents up and back, and times a second
	since       float64 // when it begins
	down        bool    // it lets go instead of pushing: on a bent note
}

// Vibratos (model defaults): how far, in cents, and how many times a second.
var (
	vibratoCents = map[lick.Width]float64{lick.Narrow: 30, lick.Wide: 80}
	vibratoHertz = map[lick.Speed]float64{lick.Slow: 4.5, lick.Fast: 6.5}
)

// slideInTime is how long it takes to slide into a note, in s (model default).
const slideInTime = 0.07

// cents is the course at a time: slide, bend and vibrato added up. A vibrato on a fretted note
// pushes and so only sharpens; on a bent one it lets go and flattens (common practice).
func (c course) cents(at float64) float64 {
	out := 0.0
	if at < c.glide {
		out += c.from * (1 - smooth(at/c.glide))
		if c.fretted {
			out = byFrets(out)
		}
	}
	if c.bend != nil {
		out += c.bend(at)
	}
	if c.wide > 0 && at > c.since {
		v := c.wide / 2 * (1 - math.Cos(2*math.Pi*c.speed*(at-c.since)))
		if c.down {
			v = -v
		}
		out += v
	}
	return out
}

// byFrets is a glide over frets: the pitch stays on each of them and goes on to the next at once.
func byFrets(cents float64) float64 {
	fret := math.Round(cents / 100)
	off := cents/100 - fret
	return 100 * (fret + math.Copysign(0.5*smooth((math.Abs(off)-0.36)/0.14), off))
}

// settled says whether the course keeps its place from a time on.
func (c course) settled(at, length float64) bool {
	return at >= c.glide && c.bend == nil && c.wide == 0
}

// smooth goes from 0 to 1 without a corner.
func smooth(x float64) float64 {
	x = max(0, min(1, x))
	return x * x * (3 - 2*x)
}

// courseOf is the course of a note that sounds so long: what slides into it, its bend with
// the push, hold and release that the hand's model computes, its vibrato.
func courseOf(g neck.Guitar, n lick.Note, length float64) course {
	var c course
	if n.SlideIn != nil {
		c.from, c.glide = 100*float64(n.SlideIn.Frets), min(slideInTime, length/2)
		if n.SlideIn.From == lick.FromBelow {
			c.from = -c.from
		}
	}
	arrives := 0.0
	if n.Bend != nil {
		c.bend, arrives = bendCourse(g, n, length)
	}
	if v := n.Vibrato; v != nil {
		c.wide, c.speed, c.since = vibratoCents[v.Width], vibratoHertz[v.Speed], max(arrives, min(0.12, length/4))
		c.down = n.Bend != nil
	}
	return c
}

// bendCourse is the pitch of a string pushed aside: the fingertip moves evenly but for a soft
// start and stop, and the pitch follows the physics of the push (see bend.Solve). Where the
// note is too short the push takes what there is. arrives is when it is bent.
func bendCourse(g neck.Guitar, n lick.Note, length float64) (cents func(at float64) float64, arrives float64) {
	target := 100 * n.Bend.Semitones
	push, ok := bend.Solve(g, n.Place(), n.Bend.Semitones)
	raise := func(x float64) float64 { return target * x * x }
	takes := 0.2
	if ok {
		raise = func(x float64) float64 { return float64(bend.Raise(g, n.Place(), push.Way*neck.MM(x))) }
		takes = bend.Time(push.Way, false) / 1000
	}
	parts := 2.0
	if n.Bend.Release() && !n.Bend.Pre() {
		parts = 3
	}
	takes = min(takes, length/parts)
	// Bend, hold and release share the note evenly: the release begins after its middle and leaves the tone below its
	// time. What shakes is held as long as it can be: it is let go a little before the end.
	back, way := math.Inf(1), takes
	switch {
	case n.Bend.Release() && n.Vibrato != nil:
		back = length - takes - min(0.12, length/5)
	case n.Bend.Release():
		back = max(0.52*length, min(takes, length/parts))
		if n.Bend.Pre() {
			back = 0.5 * length
		}
		way = max(min(takes, length-back), min(0.25*length, 0.35))
	}
	up := func(at float64) float64 { return smooth(at / takes) }
	if n.Bend.Pre() {
		up = func(float64) float64 { return 1 }
	}
	return func(at float64) float64 {
		x := up(at)
		if at > back {
			x = min(x, 1-smooth((at-back)/way))
		}
		if x == 1 {
			return target
		}
		return raise(x)
	}, takes
}

// Course is how far a note that sounds so many seconds lies from its fret, in cents, at a time
// in seconds after it begins: bend, vibrato, slide-in. ok is false where it stays on its fret.
func Course(g neck.Guitar, n lick.Note, length float64) (cents func(at float64) float64, ok bool) {
	c := courseOf(g, n, length)
	return c.cents, c.bend != nil || c.wide > 0 || c.glide > 0
}

// SimulatedBend is a small simulated guitar that plays one bent note of a lick with a chosen error in cents: it stands
// in for a microphone and a hand where there is none. Its samples are those of the renderer, so that what listens to it
// listens to what is also heard.
func SimulatedBend(g neck.Guitar, n lick.Note, tuning []music.Pitch, cents float64) []float32 {
	l := lick.New()
	l.Tuning, l.Tempo = tuning, 60
	n.At, n.Len, n.Slur, n.SlideIn, n.Mute = lick.Time{}, lick.NewTime(1, 2), "", nil, false
	b := *n.Bend
	b.Semitones = max(0.05, b.Semitones+cents/100)
	b.Shape = lick.BendUp
	n.Bend = &b
	l.Notes = []lick.Note{n}
	p := NewRenderer(g, l, Options{Dry: true})
	out := make([]float32, p.Len())
	return out[:p.Read(out)]
}
