package sound

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/text"
)

// chordStrings is how many strings hold the chords.
const chordStrings = 3

// nearVoices is what a half step that a voice moves weighs against the tones of a chord that are there (model default).
const nearVoices = 0.12

// Drum is one of the band's drums.
type Drum int8

// The drums; NoDrum is the bass.
const (
	NoDrum Drum = iota
	Kick
	Snare
	Hat
	OpenHat
	Rim // the side of a stick on the snare
	Tom
	Crash
)

// Style is how the band plays.
type Style string

// The styles. Without one the band plays what fits the lick: its feel, meter and tempo.
const (
	AnyStyle    Style = ""
	Rock        Style = "rock"         // straight eighths, the snare on 2 and 4
	ShuffleBand Style = "shuffle"      // the blues shuffle, its bass walking
	Ballad      Style = "ballad"       // half as busy, the snare on 3
	TwelveEight Style = "twelve-eight" // the slow blues, three to a beat
)

// ParseStyle reads one by name.
func ParseStyle(s string) (Style, error) {
	return text.Word(s, "auto", "a band plays rock, shuffle, ballad or twelve-eight, not %q",
		AnyStyle, Rock, ShuffleBand, Ballad, TwelveEight)
}

// slowBand is the tempo up to which a straight line has a ballad's band (model default).
const slowBand = 72

// styleFor is what fits a lick.
func styleFor(l lick.Lick) Style {
	switch {
	case l.Meter.Unit == 8 && l.Meter.Beats%3 == 0, l.Feel == lick.Shuffle && l.Tempo <= slowBand:
		return TwelveEight
	case l.Feel == lick.Shuffle:
		return ShuffleBand
	case l.Tempo <= slowBand:
		return Ballad
	}
	return Rock
}

// Hit is what the band plays at a time: a drum, or a tone of the bass. Drums have no length.
type Hit struct {
	At, Len float64 // s from the line's beginning, at its tempo
	Drum    Drum
	Pitch   int // of the bass, MIDI number
}

// Band is what bass and drums play under one round of a lick, in the order of the drums, then the bass.
func Band(l lick.Lick) (out []Hit) {
	p := newPlan(neck.Standard().WithTuning(l.Tuning), l, Options{})
	for _, h := range p.drums {
		out = append(out, Hit{At: float64(h.at) / Rate, Drum: h.drum})
	}
	for _, c := range p.chords {
		for _, x := range bassOf(p, c, 0) {
			if x.kind != stopped {
				end := min(float64(x.at)/Rate+x.length, float64(c.end)/Rate)
				out = append(out, Hit{At: float64(x.at) / Rate, Len: end - float64(x.at)/Rate, Pitch: int(x.pitch)})
			}
		}
	}
	return out
}

// drumHit is a drum at a sample.
type drumHit struct {
	at   int64
	drum Drum
	loud float64
}

// stroke is a drum within a bar: on a beat, from 0, a part of it later, as loud as that, from an intensity on.
type stroke struct {
	beat int
	part float64
	drum Drum
	loud float64
	from int
}

// strokes writes a drum's places in a bar of four: beats counted from 1, "1 2& 3" for eighths, "4a" for the last of
// three to a beat (common practice; the levels are model defaults).
func strokes(drum Drum, loud float64, from int, places string) (out []stroke) {
	for _, w := range strings.Fields(places) {
		part := map[string]float64{"": 0, "e": 0.25, "t": 1. / 3, "&": 0.5, "a": 2. / 3, "u": 0.75}[w[1:]]
		out = append(out, stroke{beat: int(w[0] - '1'), part: part, drum: drum, loud: loud, from: from})
	}
	return out
}

// grooves are what the drums play in a bar of four in each style; the four intensities bring more from one to the next.
var grooves = map[Style][]stroke{
	Rock: slices.Concat(strokes(Hat, 0.6, 1, "1 2 3 4"), strokes(Hat, 0.4, 2, "1& 2& 3& 4&"),
		strokes(Kick, 0.9, 1, "1 3"), strokes(Kick, 0.7, 3, "3&"), strokes(Kick, 0.7, 4, "2&"),
		strokes(Rim, 0.6, 1, "2 4"), strokes(Snare, 0.9, 2, "2 4"), strokes(OpenHat, 0.5, 4, "4&")),
	ShuffleBand: slices.Concat(strokes(Hat, 0.6, 1, "1 2 3 4"), strokes(Hat, 0.4, 2, "1& 2& 3& 4&"),
		strokes(Kick, 0.8, 1, "1 3"), strokes(Kick, 0.6, 3, "2 4"), strokes(Rim, 0.6, 1, "2 4"),
		strokes(Snare, 0.9, 2, "2 4"), strokes(Snare, 0.25, 4, "1& 3&")),
	Ballad: slices.Concat(strokes(Hat, 0.4, 1, "1 2 3 4"), strokes(Hat, 0.25, 2, "1& 2& 3& 4&"),
		strokes(Kick, 0.8, 1, "1"), strokes(Kick, 0.5, 2, "2&"), strokes(Rim, 0.7, 1, "3"), strokes(Snare, 0.7, 3, "3"),
		strokes(Kick, 0.5, 4, "4&"), strokes(OpenHat, 0.35, 4, "4&")),
	TwelveEight: slices.Concat(strokes(Hat, 0.6, 1, "1 2 3 4"), strokes(Hat, 0.35, 2, "1t 1a 2t 2a 3t 3a 4t 4a"),
		strokes(Kick, 0.8, 1, "1 3"), strokes(Kick, 0.55, 3, "2a 4a"), strokes(Rim, 0.6, 1, "2 4"),
		strokes(Snare, 0.8, 2, "2 4"), strokes(Snare, 0.25, 4, "1a 3a")),
}

// fills are what they play instead on the last beat of a form, and of every fourth bar where they are busy.
var fills = map[Style][]stroke{
	Rock:        slices.Concat(strokes(Snare, 0.6, 1, "4 4e"), strokes(Tom, 0.7, 1, "4& 4u")),
	ShuffleBand: slices.Concat(strokes(Snare, 0.6, 1, "4 4t"), strokes(Tom, 0.7, 1, "4a")),
	Ballad:      strokes(Tom, 0.5, 1, "4 4&"),
	TwelveEight: slices.Concat(strokes(Snare, 0.5, 1, "4 4t"), strokes(Tom, 0.6, 1, "4a")),
}

// usualIntensity is how busy a band is that nobody has asked for more.
const usualIntensity = 2

// drumming lays the drums out: bar by bar, a crash where a round of the form begins loud, a fill at its turns.
func (p *plan) drumming(l lick.Lick, o Options, from, end lick.Time, start float64) {
	style, busy := o.Style, o.Intensity
	if style == AnyStyle {
		style = styleFor(l)
	}
	if busy < 1 || busy > 4 {
		busy = usualIntensity
	}
	p.style, p.busy = style, busy
	bar := l.Meter.Bar()
	beats, unit, compound := beatsOf(l.Meter)

	// Bars count from the one after the pick-up: with a pick-up of a quarter, bar 0 begins a quarter in, and bar −1
	// three quarters before the line.
	at := l.Pickup.Sub(bar.Times(1 + wholeBars(l)))
	n := -1 - int(wholeBars(l))
	last := 0
	for t := l.Pickup; t.Before(end); t = t.Add(bar) {
		last++
	}
	if before, _ := from.Sub(at).Div(bar); start > 0 && before > 1 {
		at, n = at.Add(bar.Times(before-1)), n+int(before)-1
	}

	// The off-beat of a swung beat, or of one of three, is its last third.
	swung := compound || style == ShuffleBand || style == TwelveEight || l.Feel == lick.Shuffle
	hit := func(beat lick.Time, part float64, drum Drum, loud float64) {
		if swung && part == 0.5 {
			part = 2. / 3
		}
		from, to := l.Milliseconds(lick.Time{}, beat), l.Milliseconds(lick.Time{}, beat.Add(unit))
		if when := samples((from+part*(to-from))/1000 - start); when >= 0 && when < p.round {
			p.drums = append(p.drums, drumHit{when, drum, loud})
		}
	}
	for ; at.Before(end); at, n = at.Add(bar), n+1 {
		// A fill leads back to the start of the form; busy drummers have one every four bars.
		turn := last > 1 && n == last-1 || busy >= 3 && n >= 0 && n%4 == 3
		for k := range beats {
			fills := turn && k == beats-1
			for _, x := range beatOf(style, beatLike(k, beats, fills), fills, busy) {
				hit(at.Add(unit.Times(int64(k))), x.part, x.drum, x.loud)
			}
		}
		if n == 0 && busy >= 3 {
			hit(at, 0, Crash, 0.5)
		}
	}
	slices.SortStableFunc(p.drums, func(a, b drumHit) int { return cmp.Compare(a.at, b.at) })
}

// beatsOf are the beats of a bar and how long one is; compound says that a beat is three eighths: 12/8 has four.
func beatsOf(m lick.Meter) (beats int, unit lick.Time, compound bool) {
	if m.Unit == 8 && m.Beats%3 == 0 {
		return m.Beats / 3, lick.NewTime(3, 8), true
	}
	return m.Beats, lick.NewTime(1, int64(m.Unit)), false
}

// beatLike is which beat of four a beat is played as, from 0. A bar of three is 1, 2, 2; one of five and more begins
// again after the fourth beat; a fill is a fourth beat.
func beatLike(k, beats int, fills bool) int {
	switch {
	case fills:
		return 3
	case beats == 3 && k == 2:
		return 1
	}
	return k % 4
}

// beatOf are the strokes of one beat of a groove, or of its fill, that a drummer so busy plays. The rim gives way to
// the snare where it is busier, in a ballad later than elsewhere.
func beatOf(style Style, beat int, fill bool, busy int) (out []stroke) {
	row := grooves[style]
	if fill && style != AnyStyle {
		row = fills[style]
	}
	rim := busy < 2 || style == Ballad && busy < 3
	for _, x := range row {
		if x.beat == beat && x.from <= busy && (x.drum != Rim || rim) {
			out = append(out, x)
		}
	}
	return out
}

// bandOf are the gestures of bass and chords in a round; first is the number of the bass's string. A chord is strummed:
// each string 12 ms after the one before. Its voices stay near those of the chord before. Comped it is struck short, on
// the beats that the style leaves free.
func bandOf(p *plan, o Options, first int) (out []gesture) {
	var before []int
	for _, c := range p.chords {
		if o.Band {
			out = append(out, bassOf(p, c, first)...)
		}
		if !o.Chords && !o.Comp {
			continue
		}
		before = voicing(c.chord, before)
		strum := func(at, end int64, level float64) {
			for k, pitch := range before {
				out = append(out, gesture{
					at:     at + samples(0.012*float64(k)),
					string: first + 1 + k,
					pitch:  float64(pitch),
					length: float64(end-at) / Rate,
					level:  level,
				})
				if o.Comp {
					out = append(out, gesture{at: end, kind: stopped, string: first + 1 + k})
				}
			}
		}
		if !o.Comp {
			strum(c.at, c.end, 0.5)
			continue
		}
		struck := false
		for i, b := range p.beats {
			if b.at < c.at || b.at >= c.end || !p.comps(b) {
				continue
			}
			end := min(c.end-1, b.at+samples(0.32))
			if i+1 < len(p.beats) {
				end = min(end, p.beats[i+1].at-samples(0.01))
			}
			if end > b.at+samples(0.05) {
				strum(b.at, end, 0.45)
				struck = true
			}
		}
		if !struck {
			strum(c.at, c.end-1, 0.45)
		}
	}
	return out
}

// comps says whether a comped chord is struck on a beat: a shuffle's on the off-beats, a ballad's on the ones, the
// others' on 2 and 4 (common practice).
func (p *plan) comps(b beat) bool {
	switch p.style {
	case ShuffleBand:
		return b.off
	case Ballad:
		return b.first || !b.off && !b.back
	}
	return b.back
}

// bassOf is the bass under a chord, stopped as the chord ends, so that two chords never blur; one that holds no whole
// beat is struck as it comes. A shuffle walks from the root by third and fifth to the sixth and back, rock has eighths
// where it is busy, a ballad root and fifth, the others the root on every other beat (common practice). Of a chord with
// a bass tone it begins with that.
func bassOf(p *plan, c held, voice int) (out []gesture) {
	root := c.chord.Root.Class()
	if c.chord.Bass != nil {
		root = c.chord.Bass.Class()
	}
	pitch := 28 + (root-28%12+12)%12 // from E1 on
	third, fifth := 4, 7
	for _, d := range c.chord.Degrees {
		switch d.Number {
		case 3:
			third = d.Semitones()
		case 5:
			fifth = d.Semitones()
		}
	}
	if c.chord.Bass != nil {
		third, fifth = 0, 0 // over a bass tone it stays there
	}
	walk := []int{0, third, fifth, 9, 12, 9, fifth, third}
	switch third {
	case 0:
		walk = []int{0, 12}
	case 4:
	default:
		walk[3], walk[5] = 10, 10
	}
	n := 0
	for _, b := range p.beats {
		if b.at < c.at || b.at >= c.end {
			continue
		}
		step, level := -1, 1.0
		switch {
		case p.style == ShuffleBand && p.busy >= 2:
			if !b.off {
				step = walk[n%len(walk)]
			}
		case p.style == Rock && p.busy >= 3:
			if step = 0; b.off {
				level = 0.8
			}
		case p.style == Ballad:
			if !b.off && n%4 == 0 {
				step = 0
			} else if !b.off && n%4 == 2 && p.busy >= 2 {
				step = fifth
			}
		case !b.off && n%2 == 0:
			step = 0
		}
		if !b.off {
			n++
		}
		if step >= 0 {
			out = append(out, gesture{
				at:     b.at,
				string: voice,
				pitch:  float64(pitch + step),
				length: 0.5,
				level:  level,
				touch:  onBass,
			})
		}
	}
	if len(out) == 0 {
		out = append(out, gesture{at: c.at, string: voice, pitch: float64(pitch), length: 0.5, level: 1, touch: onBass})
	}
	return append(out, gesture{at: c.end - 1, kind: stopped, string: voice})
}

// voicing holds a chord on strings 4, 3 and 2 of a guitar, within four frets: the place on the
// neck, below the tenth fret, where third and seventh are there and the most of the rest. A
// tone that is there already counts nothing a second time. The pitches rise. As an example, C7
// is G, B♭ and E at frets 5, 3 and 5: fifth, seventh and third, from the lowest position where
// all three are. After another chord the place is taken whose voices move least from that one's.
func voicing(c music.Chord, before []int) (pitches []int) {
	tones := map[int]int{c.Root.Class(): 2}
	for _, d := range c.Degrees {
		worth := 1
		switch d.Number {
		case 3, 7:
			worth = 5
		case 5:
			worth = 2
		}
		tones[(c.Root.Class()+d.Semitones())%12] = worth
	}
	best := -1.0
	for low := range 9 {
		var at []int
		got := map[int]bool{}
		value := 0
		for _, open := range []int{50, 55, 59} {
			pick, worth := -1, -1
			for f := low; f < low+4; f++ {
				class := (open + f) % 12
				if w, is := tones[class]; is {
					if got[class] {
						w = 0
					}
					if w > worth {
						pick, worth = open+f, w
					}
				}
			}
			if pick >= 0 {
				at, value = append(at, pick), value+worth
				got[pick%12] = true
			}
		}
		worth := float64(value)
		for k := range min(len(at), len(before)) {
			worth -= nearVoices * math.Abs(float64(at[k]-before[k]))
		}
		if worth > best {
			best, pitches = worth, at
		}
	}
	return pitches
}

// strike begins what a beat brings: a click, or the sticks of a count-in.
func (p *Renderer) strike(b beat) {
	counting := p.round < 0
	if b.first && !counting {
		p.bars++
	}
	switch {
	case b.off:
	case counting && p.options.Band:
		p.drums.stick, p.drums.stickAt = 0.9*p.levels.Click, 0
		if b.first {
			p.drums.stick *= 1.2
		}
	case counting || p.options.Click && p.clicks(b):
		p.drums.click(b.first, p.levels.Click)
	}
}

// drum strikes one of the drums.
func (p *Renderer) drum(h drumHit) {
	d, loud := &p.drums, p.levels.Band*h.loud
	switch h.drum {
	case Kick:
		d.kick, d.kickAt = loud, 0
	case Snare:
		d.snare, d.body, d.bodyAt = 0.5*loud, 0.4*loud, 0
	case Hat:
		d.hat, d.ring = 0.2*loud, 0.9985
	case OpenHat:
		d.hat, d.ring = 0.2*loud, 0.99975
	case Rim:
		d.stick, d.stickAt = 0.6*loud, 0
	case Tom:
		d.tom, d.tomAt = 0.8*loud, 0
	case Crash:
		d.crash = 0.25 * loud
	}
}

// clicks says whether a beat of the line has a click. A click that drops out every other bar lets the player hear
// whether the tempo was kept (common practice).
func (p *Renderer) clicks(b beat) bool {
	switch p.options.Clicks {
	case Backbeat:
		return b.back
	case DropsOut:
		// The first bar has it; a pick-up belongs to it.
		return (p.options.Before+max(0, p.bars-1))%2 == 0
	}
	return true
}

// drums are a kick, a snare, a hat and the click: each a level that fades.
type drums struct {
	kick, snare, hat float64
	kickAt           float64 // phase
	ring             float64 // what is left of the hat from sample to sample
	body, bodyAt     float64 // of the snare
	tom, tomAt       float64
	crash            float64
	stick, stickAt   float64
	tick, tickAt     float64
	tickHertz        float64
	random           uint32
	last, before     float64
}

// click begins a click, the first of a bar higher.
func (d *drums) click(first bool, loud float64) {
	d.tick, d.tickAt, d.tickHertz = 0.6*loud, 0, 1000
	if first {
		d.tickHertz = 1500
	}
}

// next is the drums' next sample. Kick and tom are sines that fall as they fade, the snare noise over a head's tone,
// hat and crash the noise's differences, which leaves what is high, the sticks two high tones that are gone at once
// (synthesised by ear; model defaults).
func (d *drums) next() (x float64) {
	if d.kick > 1e-4 {
		d.kickAt += 2 * math.Pi * (45 + 110*d.kick*d.kick) / Rate
		x += d.kick * math.Sin(d.kickAt)
		d.kick *= 0.99965
	}
	if d.tom > 1e-4 {
		d.tomAt += 2 * math.Pi * (85 + 60*d.tom*d.tom) / Rate
		x += d.tom * math.Sin(d.tomAt)
		d.tom *= 0.9997
	}
	if d.body > 1e-4 { // the snare's head under its noise
		d.bodyAt += 2 * math.Pi * 190 / Rate
		x += d.body * math.Sin(d.bodyAt)
		d.body *= 0.9988
	}
	if d.stick > 1e-4 { // two sticks, dry
		d.stickAt += 2 * math.Pi * 2300 / Rate
		x += d.stick * (0.6*math.Sin(d.stickAt) + 0.4*math.Sin(1.58*d.stickAt))
		d.stick *= 0.9955
	}
	if d.snare > 1e-4 || d.hat > 1e-4 || d.crash > 1e-4 {
		d.random = d.random*1664525 + 1013904223
		noise := float64(int32(d.random)) / (1 << 31)
		x += d.snare * noise * 0.6
		x += (d.hat + d.crash) * (noise - 1.4*d.last + 0.5*d.before) * 0.7 // what rustles high
		d.before, d.last = d.last, noise
		d.snare *= 0.9994
		d.hat *= d.ring
		d.crash *= 0.99993
	}
	if d.tick > 1e-4 {
		d.tickAt += 2 * math.Pi * d.tickHertz / Rate
		x += d.tick * math.Sin(d.tickAt)
		d.tick *= 0.997
	}
	return x
}
