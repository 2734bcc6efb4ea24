package sound

import (
	"cmp"
	"math"
	"slices"

	"ornamen/core/filter"
	"ornamen/core/lick"
	"ornamen/core/neck"
)

// Renderer renders a line from its beginning to its end. It is read by one goroutine.
//
// It goes through lead, rounds and tail. Within each it renders up to the next gesture or beat,
// at most control samples at a time, so that what happens, happens at its sample. Nothing is
// kept of what was read: an hour's loop takes as much memory as a bar.
type Renderer struct {
	bars    int // that have begun
	plan    *plan
	options Options
	levels  Levels
	strings []voice
	drums   drums
	amp     amp
	coil    filter.Running // the pickup's resonance, of the line
	room    room
	round   int   // that is played, from 0; −1 in the lead
	at      int64 // in it
	rounds  int
	queue   []gesture // of the round
	band    []gesture // bass and chords of the round
	beats   []beat
	hits    []drumHit
	ready   []float32 // rendered and not read yet
	buffer  [control]float32
}

// voice is one string with what it plays.
type voice struct {
	line
	now    gesture
	since  int64 // samples since the gesture
	still  int64 // samples since it was heard
	silent bool
	buffer []float64 // of its pluck
	steel  steel
	flat   float64 // by which the fundamental is tuned, so that the string is heard in tune
	hear   float64 // where it is heard, as a part of the open string from the bridge
}

// control is how many samples pass between two looks at a course.
const control = 32

// NewRenderer plans a line on a guitar. The renderer's strings are the lick's, then the bass, then three for the
// chords. Chords without a line are heard with bass, drums and chords, unless one of them is asked for.
func NewRenderer(g neck.Guitar, l lick.Lick, o Options) *Renderer {
	g = g.WithTuning(l.Tuning)
	if len(l.Notes) == 0 && !o.Band && !o.Chords && !o.Comp {
		o.Band, o.Chords = true, true
	}
	p := &Renderer{plan: newPlan(g, l, o), options: o, levels: usualLevels, rounds: max(1, o.Rounds), round: -1}
	if o.Levels != nil {
		p.levels = *o.Levels
	}
	p.strings = make([]voice, len(g.Tuning)+1+chordStrings)
	for i := range p.strings {
		v := &p.strings[i]
		v.silent, v.damping, v.loss, v.rustling = true, 1, 1, uint32(i+1)*2654435761
		v.hear = coils[o.Pickup].at
		if i < len(g.Tuning) {
			v.steel = steelOf(g, i)
		} else if i == len(g.Tuning) {
			v.steel, v.hear = steel{open: 28, wound: true, stiff: 5e-5}, 0.2 // the bass
		} else {
			v.steel = steel{open: 50, wound: i == len(g.Tuning)+1, stiff: 5e-5}
		}
	}
	c := coils[o.Pickup]
	p.coil.Filter = filter.Resonant(c.hertz, c.q, Rate)
	p.room = newRoom()
	p.amp = newAmp(o.Drive)
	p.band = bandOf(p.plan, o, len(g.Tuning))
	p.drums.random = 1
	p.begin()
	if o.Lead && p.plan.round > 0 {
		p.warm()
	}
	return p
}

// warm plays the end of a round unheard, so that what rings into a loop's beginning is there.
// It renders a whole round, as nothing less gives the same samples.
func (p *Renderer) warm() {
	p.nextRound()
	for p.at < p.plan.round {
		p.fill(p.plan.round)
	}
	p.ready, p.round = nil, -1
	p.nextRound()
}

// begin lays out the lead.
func (p *Renderer) begin() {
	p.at = 0
	p.queue, p.beats = slices.Clone(p.plan.before), p.plan.counts
	if p.plan.lead == 0 {
		p.nextRound()
	}
}

// nextRound lays out the next round.
func (p *Renderer) nextRound() {
	p.round++
	p.at = 0
	p.queue = append(slices.Clone(p.plan.gestures), p.band...)
	slices.SortStableFunc(p.queue, func(a, b gesture) int { return cmp.Compare(a.at, b.at) })
	p.beats, p.hits = p.plan.beats, nil
	if p.options.Band {
		p.hits = p.plan.drums
	}
}

// Len is how many samples there are in all. It is known before anything is rendered.
func (p *Renderer) Len() int64 {
	if p.options.Lead {
		return p.plan.round * int64(p.rounds)
	}
	if n := p.plan.lead + p.plan.round*int64(p.rounds); n > 0 {
		return n + samples(tail)
	}
	return 0
}

// tail is how long the end may ring, in s.
const tail = 0.6

// Round is how long once through the line is, in seconds, and Begins when its first round does.
func (p *Renderer) Round() float64 { return float64(p.plan.round) / Rate }

// Begins is when the first round begins, in seconds.
func (p *Renderer) Begins() float64 {
	if p.options.Lead {
		return 0
	}
	return float64(p.plan.lead) / Rate
}

// Notes are when the notes of a round sound, from its beginning.
func (p *Renderer) Notes() []Lit { return p.plan.lit }

// Read renders the next samples, between −1 and 1, and says how many; 0 is the end. They are
// made a block at a time, so that they do not depend on how they are read.
func (p *Renderer) Read(out []float32) int {
	n := 0
	for n < len(out) {
		if len(p.ready) == 0 && !p.more() {
			break
		}
		k := copy(out[n:], p.ready)
		p.ready = p.ready[k:]
		n += k
	}
	return n
}

// more renders the next block; false at the end.
func (p *Renderer) more() bool {
	for {
		length := p.plan.round
		switch {
		case p.round < 0:
			length = p.plan.lead
		case p.round >= p.rounds:
			length = samples(tail)
		}
		if p.at < length {
			p.fill(length)
			return true
		}
		switch {
		case p.round >= p.rounds, p.plan.round == 0, p.round == p.rounds-1 && p.options.Lead:
			return false
		case p.round == p.rounds-1:
			p.round++
			p.at, p.queue, p.beats, p.hits = 0, p.stops(), nil, nil
		default:
			p.nextRound()
		}
	}
}

// stops ends every string that the end of the line leaves sounding.
func (p *Renderer) stops() (out []gesture) {
	for i := range p.strings {
		out = append(out, gesture{at: samples(0.15), kind: stopped, string: i})
	}
	return out
}

// fill renders as far as something happens, the part ends or the courses have to be looked at again.
func (p *Renderer) fill(length int64) {
	for len(p.queue) > 0 && p.queue[0].at <= p.at {
		p.strings[p.queue[0].string].take(p.queue[0], p.options.PickAt)
		p.queue = p.queue[1:]
	}
	for len(p.beats) > 0 && p.beats[0].at <= p.at {
		p.strike(p.beats[0])
		p.beats = p.beats[1:]
	}
	for len(p.hits) > 0 && p.hits[0].at <= p.at {
		p.drum(p.hits[0])
		p.hits = p.hits[1:]
	}
	n := min(control, length-p.at)
	if len(p.hits) > 0 {
		n = min(n, p.hits[0].at-p.at)
	}
	if len(p.queue) > 0 {
		n = min(n, p.queue[0].at-p.at)
	}
	if len(p.beats) > 0 {
		n = min(n, p.beats[0].at-p.at)
	}
	p.ready = p.buffer[:n]
	p.block(p.ready)
	p.at += n
}

// block renders a few samples during which nothing begins.
func (p *Renderer) block(out []float32) {
	guitar := len(p.strings) - 1 - chordStrings
	var line, band [control]float64
	for i := range p.strings {
		v := &p.strings[i]
		if v.silent {
			continue
		}
		v.follow(len(out))
		into := &line
		if i >= guitar {
			into = &band
		}
		loud := 0.0
		for k := range out {
			y := v.next()
			into[k] += y
			loud = max(loud, math.Abs(y))
		}
		v.since += int64(len(out))
		if v.still += int64(len(out)); loud > 1e-5 || len(v.drive) > 0 {
			v.still = 0
		}
		if v.still > Rate/20 { // longer than any period: within one a string may rest where it is heard
			v.silent, v.still = true, 0
			clear(v.loop[:])
			v.last, v.wide = 0, [2]float64{}
		}
	}
	for k := range out {
		x := p.amp.through(p.coil.Next(line[k]))*p.levels.Line + band[k]*p.levels.Band + p.drums.next()
		if !p.options.Dry {
			x += roomWet * p.room.next(x)
		}
		out[k] = float32(limit(x))
	}
}

// limit bends what is too loud so that nothing is ever cut off: as it is up to 0.7, then toward
// 1 by a hyperbolic tangent, whose slope is 1 where it takes over.
func limit(x float64) float64 {
	const knee = 0.7
	switch {
	case x > knee:
		return knee + (1-knee)*math.Tanh((x-knee)/(1-knee))
	case x < -knee:
		return -knee - (1-knee)*math.Tanh((-x-knee)/(1-knee))
	}
	return x
}

// hertz is the frequency of a MIDI number, A4 = 440 Hz (ISO 16).
func hertz(pitch float64) float64 { return 440 * math.Exp2((pitch-69)/12) }

// take has the string do what a gesture says.
func (v *voice) take(x gesture, pickAt float64) {
	if x.kind == stopped {
		if v.period > 0 {
			v.damping = fading(stopTime, Rate/v.period)
		}
		return
	}
	v.now, v.since = x, 0
	f := hertz(x.pitch + x.course.cents(0)/100)
	v.damping = 1
	v.settle(x.pitch)
	if x.palm {
		v.underPalm(f)
	}
	// A fret takes from the string what it leaves of its length: pick and pickup come nearer to its middle.
	part := func(at float64) float64 { return min(0.92, at*math.Exp2(max(0, x.pitch-v.steel.open)/12)) }
	hit := x.touch
	if hit == (touch{}) {
		hit = pickDown
	}
	if pickAt > 0 && (hit == pickDown || hit == pickUp) {
		hit.at = pickAt
	}
	if x.level > 1 {
		hit.sharp *= 1.25 // an accent bites
	}
	// High notes fade sooner: they begin a little louder.
	if x.palm {
		hit.sharp *= palmSharp
	}
	level := pluckLevel * x.level * hit.loud * math.Pow(f/110, 0.04)
	v.flat, v.silent = 1-v.stretched(x.pitch, part(hit.at), part(v.hear), hit.sharp), false
	switch x.kind {
	case slid:
		if v.period == 0 {
			v.tune(v.flat*f, 0)
		}
		return
	case dead:
		v.damping = fading(deadTime, f)
		hit, level = deadened, 0.12*x.level
	case struck:
		v.quiet(0.35)
	default:
		v.quiet(0.02)
	}
	v.tune(v.flat*f, 0)
	v.thump = hit.noise * x.level
	v.buffer = pluck(f, level, part(hit.at), part(v.hear), hit.sharp, v.buffer)
	v.drive = v.buffer
}

// pluckLevel is the loudness of a picked note at 110 Hz, root mean square.
const pluckLevel = 0.17

// quiet takes most of what the string does away, as the finger or pick that comes onto it.
func (v *voice) quiet(left float64) {
	for i := range v.loop {
		v.loop[i] *= left
	}
	v.last *= left
	v.wide[0], v.wide[1] = left*v.wide[0], left*v.wide[1]
}

// How soon a string is still that a finger stops, or that is struck dead, in s (model defaults).
const (
	stopTime = 0.06
	deadTime = 0.05
)

// fading is what a pass leaves of a tone that fades by 60 dB, to a thousandth, in so many
// seconds: there are f passes a second. At 110 Hz a note of 3 s keeps 0.9793 of itself a pass.
func fading(seconds, f float64) float64 { return math.Pow(0.001, 1/(f*seconds)) }

// follow tunes the string to where the course will be after so many samples.
func (v *voice) follow(n int) {
	at := float64(v.since) / Rate
	if v.since > 0 && v.now.course.settled(at, v.now.length) {
		if v.by != 0 {
			v.tune(v.flat*hertz(v.now.pitch), 0)
		}
		return
	}
	f := hertz(v.now.pitch + v.now.course.cents(at+float64(n)/Rate)/100)
	v.tune(v.flat*f, n)
}
