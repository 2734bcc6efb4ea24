package sound

import (
	"math"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// chordStrings is how many strings hold the chords.
const chordStrings = 3

// Drum is one of the band's drums.
type Drum int8

// The drums; NoDrum is the bass.
const (
	NoDrum Drum = iota
	Kick
	Snare
	Hat
)

// Hit is what the band plays at a time: a drum, or a tone of the bass.
// Drums have no length.
type Hit struct {
	At, Len float64 // s from the line's beginning, at its tempo
	Drum    Drum
	Pitch   int // of the bass, MIDI number
}

// Band is what bass and drums play under one round of a lick, in the order of the drums,
// then the bass.
func Band(l lick.Lick) (out []Hit) {
	p := newPlan(neck.Standard().WithTuning(l.Tuning), l, Options{})
	for _, b := range p.beats {
		for _, d := range b.drums() {
			out = append(out, Hit{At: float64(b.at) / Rate, Drum: d})
		}
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

// drums are what a beat brings: a hat on every eighth, the snare on 2 and 4, the kick on the
// others (common practice).
func (b beat) drums() []Drum {
	switch {
	case b.off:
		return []Drum{Hat}
	case b.back:
		return []Drum{Hat, Snare}
	}
	return []Drum{Hat, Kick}
}

// bandOf are the gestures of bass and chords in a round; first is the number of the bass's
// string.
// A chord is strummed: each string 12 ms after the one before.
func bandOf(p *plan, o Options, first int) (out []gesture) {
	for _, c := range p.chords {
		if o.Band {
			out = append(out, bassOf(p, c, first)...)
		}
		if o.Chords {
			for k, pitch := range voicing(c.chord) {
				out = append(out,
					gesture{at: c.at + samples(0.012*float64(k)), string: first + 1 + k, pitch: float64(pitch),
						length: float64(c.end-c.at) / Rate, level: 0.5})
			}
		}
	}
	return out
}

// bassOf is the root under a chord, on its first beat and every other one.
// Of a chord with a bass tone that is the tone. It is stopped as the chord ends, so that two
// chords never blur; one that holds no whole beat is struck as it comes.
func bassOf(p *plan, c held, voice int) (out []gesture) {
	root := c.chord.Root.Class()
	if c.chord.Bass != nil {
		root = c.chord.Bass.Class()
	}
	pitch := 28 + (root-28%12+12)%12 // from E1 on
	n := 0
	for _, b := range p.beats {
		if b.off || b.at < c.at || b.at >= c.end {
			continue
		}
		if n%2 == 0 {
			out = append(out, gesture{at: b.at, string: voice, pitch: float64(pitch), length: 0.5, level: 1})
		}
		n++
	}
	if n == 0 {
		out = append(out, gesture{at: c.at, string: voice, pitch: float64(pitch), length: 0.5, level: 1})
	}
	return append(out, gesture{at: c.end - 1, kind: stopped, string: voice})
}

// voicing holds a chord on strings 4, 3 and 2 of a guitar, within four frets: the place on the
// neck, below the tenth fret, where third and seventh are there and the most of the rest. A
// tone that is there already counts nothing a second time. The pitches rise. As an example, C7
// is G, B♭ and E at frets 5, 3 and 5: fifth, seventh and third, from the lowest position where
// all three are.
func voicing(c music.Chord) (pitches []int) {
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
	best := -1
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
		if value > best {
			best, pitches = value, at
		}
	}
	return pitches
}

// strike begins what a beat brings: a click, drums.
func (p *Player) strike(b beat) {
	counting := p.round < 0
	if b.first && !counting {
		p.bars++
	}
	if !b.off && (counting || p.options.Click && p.clicks(b)) {
		p.drums.click(b.first, p.levels.Click)
	}
	if counting || !p.options.Band {
		return
	}
	loud := p.levels.Band
	for _, d := range b.drums() {
		switch d {
		case Kick:
			p.drums.kick, p.drums.kickAt = 0.9*loud, 0
		case Snare:
			p.drums.snare = 0.5 * loud
		case Hat:
			p.drums.hat = 0.12 * loud
			if b.off {
				p.drums.hat *= 0.6
			}
		}
	}
}

// clicks says whether a beat of the line has a click.
// A click that drops out every other bar lets the player hear whether the tempo was kept
// (common practice).
func (p *Player) clicks(b beat) bool {
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
	tick, tickAt     float64
	tickHertz        float64
	random           uint32
	last             float64
}

// click begins a click, the first of a bar higher.
func (d *drums) click(first bool, loud float64) {
	d.tick, d.tickAt, d.tickHertz = 0.6*loud, 0, 1000
	if first {
		d.tickHertz = 1500
	}
}

// next is the drums' next sample. The kick is a sine that falls to 45 Hz as it fades,
// snare and hat are noise, the hat its differences, which leaves what is high (synthesised by
// ear; model defaults).
func (d *drums) next() (x float64) {
	if d.kick > 1e-4 {
		d.kickAt += 2 * math.Pi * (45 + 110*d.kick*d.kick) / Rate
		x += d.kick * math.Sin(d.kickAt)
		d.kick *= 0.99965
	}
	if d.snare > 1e-4 || d.hat > 1e-4 {
		d.random = d.random*1664525 + 1013904223
		noise := float64(int32(d.random)) / (1 << 31)
		x += d.snare * noise * 0.6
		x += d.hat * (noise - d.last) // what rustles high
		d.last = noise
		d.snare *= 0.9994
		d.hat *= 0.9985
	}
	if d.tick > 1e-4 {
		d.tickAt += 2 * math.Pi * d.tickHertz / Rate
		x += d.tick * math.Sin(d.tickAt)
		d.tick *= 0.997
	}
	return x
}
