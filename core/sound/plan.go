package sound

import (
	"cmp"
	"math"
	"slices"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/text"
)

// Options say what is heard and how; the zero value is the line alone, once, at its tempo.
type Options struct {
	Tempo     float64 // 0: the lick's
	From, To  int     // notes [From, To) alone, from 0; To 0 is the end
	Rounds    int     // how often, 0 for once
	Lead      bool    // a loop that is under way: the end of the round before rings into the first one
	CountIn   bool    // a bar of clicks before it
	Click     bool    // on every beat
	Clicks    Clicks  // or on some of them
	Before    int     // bars that were played before, as a loop's earlier rounds: for a click that drops out
	Band      bool    // bass and drums
	Style     Style   // of the band; without one what fits the lick
	Intensity int     // of the band, from 1 to 4; 0 is 2
	Chords    bool    // the chords held
	Comp      bool    // the chords struck short
	Target    bool    // the tone that a bend leads to is heard before the line
	Drive     float64 // 0 clean to 1
	FillTo    Fill    // to where a round is filled up with silence
	PickAt    float64 // where the pick strikes, from the bridge, as a part of the open string; 0 is as usual
	Pickup    Pickup  // which is heard
	Dry       bool    // without the little room, as a cable hears it
	// How loud line, band and click are; nil is as usual.
	Levels *Levels
}

// Fill is to where a round that goes round is filled, so that the click stays a beat apart throughout.
type Fill string

// The fills: nowhere, the next beat, the next bar, counted from where the round begins.
const (
	NoFill Fill = ""
	ToBeat Fill = "beat"
	ToBar  Fill = "bar"
)

// ParseFill reads one by name: "end" is as it ends.
func ParseFill(s string) (Fill, error) {
	return text.Word(s, "end", "a loop goes on at the next bar, beat or at its end, not %q", NoFill, ToBeat, ToBar)
}

// filled is how long a stretch of time is when it is filled.
func (f Fill) filled(length lick.Time, m lick.Meter) lick.Time {
	unit := m.Bar()
	switch f {
	case NoFill:
		return length
	case ToBeat:
		unit = lick.NewTime(1, int64(m.Unit))
	}
	n, rest := length.Div(unit)
	if !rest.IsZero() {
		n++
	}
	return unit.Times(n)
}

// Longest is for how many seconds a sound may last: beyond it a WAV file's head has no room for its length.
const Longest = 13 * 60 * 60

// Seconds is for how long a lick sounds as the options ask, its lead and what rings on at the end
// not counted. It is known before anything is laid out, as a lick of two notes may last for weeks.
func (o Options) Seconds(l lick.Lick) float64 {
	if o.Tempo > 0 {
		l.Tempo = o.Tempo
	}
	begin, end := lick.Time{}, l.Length()
	if o.To > 0 && o.To <= len(l.Notes) && o.From >= 0 && o.From < o.To {
		if o.From > 0 {
			begin = l.Notes[o.From].At
		}
		if o.To < len(l.Notes) {
			end = lick.Lick{Notes: l.Notes[o.From:o.To]}.End()
		}
	}
	end = begin.Add(o.FillTo.filled(end.Sub(begin), l.Meter))
	return l.Milliseconds(begin, end) / 1000 * float64(max(1, o.Rounds))
}

// Clicks are the beats that a click is on.
type Clicks string

// The clicks: every beat; 2 and 4; or every beat, but for each second bar, in which the player
// keeps the time alone (common practice).
const (
	EveryBeat Clicks = ""
	Backbeat  Clicks = "backbeat"
	DropsOut  Clicks = "drops"
)

// ParseClicks reads one by name; "" and "every" are every beat.
func ParseClicks(s string) (Clicks, error) {
	return text.Word(s, "every", "a click on %q is none: use every, backbeat or drops", EveryBeat, Backbeat, DropsOut)
}

// Levels are loudnesses from 0 to 1.
type Levels struct{ Line, Band, Click float64 }

// usualLevels are those that no one has set.
var usualLevels = Levels{Line: 0.8, Band: 0.5, Click: 0.5}

// kind is what happens to a string.
type kind int8

const (
	picked kind = iota
	struck      // by the finger: a hammer or a pull
	slid        // goes on sounding
	dead
	stopped
)

// gesture is one thing that happens to a string, at a sample. Gestures of one string follow each other; the latest
// holds. course is what the finger does to the pitch while the note sounds: bends, vibrato, slides.
type gesture struct {
	at     int64
	kind   kind
	string int     // voice of the renderer
	pitch  float64 // MIDI number
	length float64 // s, of the note
	level  float64
	touch  touch // how it is set going; the zero value is a downstroke of the pick
	palm   bool  // muted at the bridge
	course course
}

// Lit is when a note sounds, in seconds from the beginning of the sound.
type Lit struct {
	Note int     `json:"note"` // from 1
	At   float64 `json:"at"`
	Len  float64 `json:"len"`
}

// plan is a round of the line, and what comes before it.
// Times in samples count from the beginning of the round, in the lead from that of the sound.
type plan struct {
	gestures []gesture // of one round, by time
	round    int64     // samples
	lead     int64     // samples before the first round: count-in, target
	before   []gesture // in the lead
	beats    []beat    // of one round
	drums    []drumHit // of one round
	style    Style
	busy     int
	counts   []beat // in the lead
	chords   []held
	lit      []Lit
}

// beat is a beat of the bar.
type beat struct {
	at    int64
	first bool // of its bar
	off   bool // the off-beat eighth
	back  bool // beat 2 or 4
}

// held is a chord with its time in the round.
type held struct {
	at, end int64
	chord   music.Chord
}

// samples is a time in seconds as samples.
func samples(s float64) int64 { return int64(math.Round(s * Rate)) }

// How a line is played, in s (model defaults).
const (
	glideTime = 0.06  // a slide's way before it arrives
	rakeStep  = 0.025 // from one dead string to the next

	ghostLevel = 0.3 // of a note's loudness
)

// newPlan reads the lick as gestures.
//
// A part begins with its first note; the whole line with its time 0, so that a rest before the first note is heard. A
// loop's round is as long as the line, even where its last note ends before. Chords without notes are heard by
// themselves; a part without either is silence of no length.
func newPlan(g neck.Guitar, l lick.Lick, o Options) *plan {
	if o.Tempo > 0 {
		l.Tempo = o.Tempo
	}
	p := &plan{}
	from, to := o.From, o.To
	if to <= 0 || to > len(l.Notes) {
		to = len(l.Notes)
	}
	from = max(0, min(from, to))
	notes := l.Notes[from:to]
	if len(notes) == 0 {
		p.round = samples(l.Milliseconds(lick.Time{}, l.Length()) / 1000)
		p.bars(l, lick.Time{}, l.Length(), 0)
		p.drumming(l, o, lick.Time{}, l.Length(), 0)
		p.changes(l, 0)
		p.leadIn(g, l, o, nil)
		return p
	}
	times := l.Timeline()
	start, end := times[from].At, 0.0
	if from == 0 {
		start = 0
	}
	for i := from; i < to; i++ {
		end = max(end, times[i].At+times[i].Len)
	}
	if whole := to == len(l.Notes) && from == 0; whole && l.Loop {
		end = max(end, l.Milliseconds(lick.Time{}, l.End())/1000)
	}
	first := lick.Time{}
	if from > 0 {
		first = notes[0].At
	}
	until := l.Length()
	if o.FillTo != NoFill {
		full := first.Add(o.FillTo.filled(lick.Lick{Notes: notes}.End().Sub(first), l.Meter))
		end = max(end, start+l.Milliseconds(first, full)/1000)
		until = lick.Later(until, full)
	}
	p.round = samples(end - start)
	for i := from; i < to; i++ {
		p.lit = append(p.lit, Lit{Note: i + 1, At: times[i].At - start, Len: times[i].Len})
		p.gestures = append(p.gestures, gesturesOf(g, l, i, times, start)...)
	}
	slices.SortStableFunc(p.gestures, func(a, b gesture) int { return cmp.Compare(a.at, b.at) })
	p.bars(l, notes[0].At, until, start)
	p.drumming(l, o, notes[0].At, until, start)
	p.changes(l, start)
	p.leadIn(g, l, o, notes)
	return p
}

// gesturesOf are what note i makes its string do: what leads into it, its beginning, its end
// where nothing follows on the string at once.
func gesturesOf(g neck.Guitar, l lick.Lick, i int, times []lick.Sounding, start float64) (out []gesture) {
	n, t := l.Notes[i], times[i]
	s := n.String - 1
	at, length := t.At-start, ringing(l, i, times)
	from, to := l.Column(i)
	x := gesture{at: samples(at), string: s, pitch: float64(l.Pitch(i)), length: length, level: strummed(to - from),
		touch: touchOf(n.Stroke), palm: n.Palm, course: courseOf(g, n, length)}
	if n.Accent {
		x.level *= 1.35
	}
	if n.Ghost {
		x.level *= ghostLevel
	}
	x.course.fretted = true
	before := l.Before(i)
	slurred := before >= 0 && l.Notes[before].End().Cmp(n.At) == 0 && n.Slur.Slurred()
	switch {
	case n.Mute:
		x.kind = dead
	case slurred && n.Slur == lick.Slide:
		// The way begins in the note before, so that the slide arrives in time.
		x.kind = slid
		way := min(glideTime, times[before].Len/2)
		x.at -= samples(way)
		x.course.from, x.course.glide = x.course.from+100*float64(l.Pitch(before)-l.Pitch(i)), way
		shift(&x.course, way)
		x.length += way
	case slurred:
		x.kind, x.touch = struck, byHammer
		if n.Slur == lick.Pull {
			x.touch = byPull
		}
	}
	if n.Rake {
		out = append(out, rake(l, n, x.at)...)
	}
	out = append(out, x)
	if !followed(l, i) {
		out = append(out, gesture{at: samples(at + length), kind: stopped, string: s})
	}
	return out
}

// strummed is how hard each string of a grip is struck: the more strings a stroke goes through, the less each of them
// gets, so that a chord of six is about twice as loud as one string and nothing is squashed.
func strummed(strings int) float64 { return math.Pow(float64(strings), -0.45) }

// shift has what the course does in its note begin so much later.
func shift(c *course, by float64) {
	if b := c.bend; b != nil {
		c.bend = func(at float64) float64 { return b(max(0, at-by)) }
	}
	c.since += by
}

// ringing is how long note i sounds, in s: to its end, or where the finger lies flat on to the
// end of what the barre holds, or until its own string is struck again.
func ringing(l lick.Lick, i int, times []lick.Sounding) float64 {
	end := times[i].At + times[i].Len
	if !l.Notes[i].Barre {
		return times[i].Len
	}
	for k := i + 1; k < len(l.Notes) && l.Notes[k].Barre; k++ {
		if l.Notes[k].String == l.Notes[i].String {
			end = max(end, times[k].At)
			break
		}
		end = max(end, times[k].At+times[k].Len)
	}
	return end - times[i].At
}

// followed says whether the next note on the string begins before note i has ended.
func followed(l lick.Lick, i int) bool {
	for k := i + 1; k < len(l.Notes); k++ {
		if l.Notes[k].String == l.Notes[i].String {
			return !l.Notes[i].End().Before(l.Notes[k].At)
		}
	}
	return false
}

// rake is the muted strings that a stroke brushes before it.
// Two of them, on the side that the stroke comes from, a fortieth of a second apart.
func rake(l lick.Lick, n lick.Note, at int64) (out []gesture) {
	for k := 2; k >= 1; k-- {
		s := n.String - 1 + k
		if n.Stroke == lick.Up {
			s = n.String - 1 - k
		}
		if s < 0 || s >= len(l.Tuning) {
			continue
		}
		out = append(out, gesture{at: at - samples(rakeStep*float64(k)), kind: dead, string: s,
			pitch: float64(l.Tuning[s]) + 5, level: 0.5})
	}
	return out
}

// bars lists the beats of the round with the eighths between them, from the beginning of the
// bar in which the pick-up lies. In a shuffle the off-beat eighth comes late as the line's do.
func (p *plan) bars(l lick.Lick, from, end lick.Time, start float64) {
	unit := lick.NewTime(1, int64(l.Meter.Unit))
	half := lick.NewTime(1, 2*int64(l.Meter.Unit))
	at := l.Pickup.Sub(l.Meter.Bar().Times(1 + wholeBars(l)))
	if before, _ := from.Sub(at).Div(l.Meter.Bar()); start > 0 && before > 1 {
		at = at.Add(l.Meter.Bar().Times(before - 1)) // nothing of what lies before is heard
	}
	for n := 0; at.Before(end); n++ {
		for _, off := range []bool{false, true} {
			t := at
			if off {
				t = at.Add(half)
			}
			when := samples(l.Milliseconds(lick.Time{}, t)/1000 - start)
			if when >= p.round && !off {
				return
			}
			if when >= 0 && when < p.round {
				beatOf := n % l.Meter.Beats
				p.beats = append(p.beats,
					beat{at: when, first: beatOf == 0 && !off, off: off, back: beatOf%2 == 1 && !off})
			}
		}
		at = at.Add(unit)
	}
}

// wholeBars is how many bars a pick-up takes beyond its last.
func wholeBars(l lick.Lick) int64 {
	n, _ := l.Pickup.Div(l.Meter.Bar())
	return n
}

// changes lists the chords of the round; a line without any stands on its root.
func (p *plan) changes(l lick.Lick, start float64) {
	for _, c := range l.Chords {
		chord, err := music.ParseChord(c.Name)
		if err != nil {
			continue
		}
		at := max(0, samples(l.Milliseconds(lick.Time{}, c.At)/1000-start))
		end := min(p.round, samples(l.Milliseconds(lick.Time{}, c.End())/1000-start))
		if at < end {
			p.chords = append(p.chords, held{at, end, chord})
		}
	}
	if tones, ok := l.Palette(); len(p.chords) == 0 && ok {
		if chord, err := music.ParseChord(tones.Tonic.String() + "5"); err == nil {
			p.chords = append(p.chords, held{0, p.round, chord})
		}
	}
}

// leadIn is what is heard before the first round: the tone that the first bend leads to, a bar of clicks. The count
// goes on through the pick-up's bar, so that the line comes in where it would after a bar of its own.
func (p *plan) leadIn(g neck.Guitar, l lick.Lick, o Options, notes []lick.Note) {
	quarter := l.Milliseconds(lick.Time{}, lick.NewTime(1, int64(l.Meter.Unit))) / 1000
	if o.Target {
		if k := slices.IndexFunc(notes, func(n lick.Note) bool { return n.Bend != nil }); k >= 0 {
			n := notes[k]
			pitch := float64(l.Tuning[n.String-1]) + float64(n.Fret) + n.Bend.Semitones
			p.before = []gesture{{string: n.String - 1, pitch: pitch, length: 2 * quarter, level: 1},
				{at: samples(2 * quarter), kind: stopped, string: n.String - 1}}
			p.lead = samples(2.5 * quarter)
		}
	}
	if o.CountIn {
		// A bar, and what the pick-up leaves of its own.
		bar := quarter * float64(l.Meter.Beats)
		count := bar
		if _, up := l.Pickup.Div(l.Meter.Bar()); !up.IsZero() && o.From == 0 {
			count += bar - l.Milliseconds(lick.Time{}, up)/1000
		}
		for k := 0; float64(k)*quarter < count-1e-6; k++ {
			p.counts = append(p.counts, beat{at: p.lead + samples(quarter*float64(k)), first: k%l.Meter.Beats == 0})
		}
		p.lead += samples(count)
	}
}
