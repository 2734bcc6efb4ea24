package judge

import (
	"math"

	"ornamen/core/bend"
	"ornamen/core/hand"
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// bendState is what a note's bend and vibrato ask for. A bend is tight where it takes more than the fingers hold with
// ease, and never made where it takes more than they hold at all or leaves the fretboard.
type bendState struct {
	push     bend.Push
	holds    neck.Newtons // what the fingers there hold with ease
	helpers  []lick.Finger
	toThick  bool
	room     neck.MM // from the string to the edge it is pushed toward
	target   music.Tone
	need     float64 // ms of the bend, 0 without one
	have     float64 // ms it may take
	load     float64 // the larger of bend and vibrato
	severity Severity
	never    bool // at no tempo
	heavy    bool // and only as these fingers do not hold it
	solved   bool
}

// bendLoads measures every bend and vibrato. A bend has the length of its note, a vibrato what the bend leaves of it.
func (j *Judgement) bendLoads() {
	j.bends = make([]bendState, len(j.Written.Notes))
	for i, n := range j.Written.Notes {
		length := j.Written.Milliseconds(n.At, n.End())
		if n.Bend != nil {
			b := j.bend(i, n, length)
			j.bends[i], j.Notes[i].Helpers = b, b.helpers
			switch {
			case b.need > 0:
				j.add(i, Load{
					Side:     Bending,
					Need:     b.need,
					Have:     b.have,
					Load:     b.need / b.have,
					From:     i,
					Possible: !b.never,
					Shares:   b.shares(n, length),
				})
			case b.never:
				j.add(i, Load{Side: Bending, Have: length, From: i})
			}
		}
		if n.Vibrato != nil {
			need := bend.VibratoTime + j.bends[i].need // the string must be up before it shakes
			j.bends[i].load = max(j.bends[i].load, need/length)
			var shares []Share
			if b := j.bends[i].need; b > 0 {
				shares = []Share{{"bend", b}, {"vibrato", bend.VibratoTime}}
			}
			j.add(i, Load{
				Side:     Shaking,
				Need:     need,
				Have:     length,
				Load:     need / length,
				From:     i,
				Possible: true,
				Shares:   shares,
			})
		}
	}
}

// bend measures one bend: the push that it takes, the room there is on that side, the
// finger and its helpers, and what they hold. length is the note's in ms.
//
// The target of a curl is the half step above: a quarter tone is heard on its way there.
func (j *Judgement) bend(i int, n lick.Note, length float64) bendState {
	b := bendState{severity: Flows}
	if n.Fret < 1 {
		return bendState{severity: Breaks, never: true}
	}
	if p, ok := j.Written.PaletteAt(n.At); ok {
		b.target = p.At(j.Written.Pitch(i) + music.Pitch(math.Ceil(n.Bend.Semitones)))
	}
	b.push, b.solved = bend.Solve(j.Guitar, n.Place(), n.Bend.Semitones)
	if !b.solved {
		return bendState{severity: Breaks, never: true}
	}
	b.toThick = n.Bend.Way(n.String, len(j.Guitar.Tuning)) == lick.ToThick
	b.room = j.Guitar.Room(n.String, j.Guitar.Press(n.Fret), b.toThick)
	b.helpers = j.helpers(i, n, b.push)
	b.holds = j.player.Bends.Of(int(n.Finger), len(b.helpers))
	b.need, b.have = bend.Time(b.push.Way, n.Bend.Release()), length
	if n.Bend.Pre() {
		b.need, b.have = j.prebend(i, b.push.Way, n.Bend.Release(), length)
	}
	if b.need > 0 {
		b.load = b.need / b.have
	}
	b.severity = loadSeverity(b.load)
	switch {
	case b.push.Way+bend.EdgeSpare > b.room:
		b.severity, b.never = Breaks, true
	case b.push.Force > b.holds*bend.Breaking:
		b.severity, b.never, b.heavy = Breaks, true, true
	case b.push.Force > b.holds:
		b.severity = max(b.severity, Tight)
	}
	return b
}

// shares are the parts of a bend in its time: push, hold and release within the note, or the push before it.
func (b bendState) shares(n lick.Note, length float64) (out []Share) {
	push := bend.Time(b.push.Way, false)
	within := 0.0
	if !n.Bend.Pre() {
		out, within = append(out, Share{"push", push}), push
	} else if b.have != length {
		return []Share{{"push before it", push}}
	}
	if n.Bend.Release() {
		within += push
	}
	out = append(out, Share{"hold", max(0, length-within)})
	if n.Bend.Release() {
		out = append(out, Share{"release", push})
	}
	return out
}

// prebend is what a bend made before the string sounds needs and has: the push falls into the time since the note
// before it, the release into the note. The heavier of the two counts.
func (j *Judgement) prebend(i int, way neck.MM, release bool, length float64) (need, have float64) {
	push := bend.Time(way, false)
	if c := j.ColumnOf[i]; c > 0 || j.Written.Loop {
		need, have = push, j.Hand[c].Have
	}
	if release && (need == 0 || push/length > need/have) {
		return push, length
	}
	return need, have
}

// helpers are the fingers behind the bending one that help it, the nearest first: those
// that are named, or for a full step and more those that the player's habit puts there.
func (j *Judgement) helpers(i int, n lick.Note, push bend.Push) (out []lick.Finger) {
	if !n.Finger.Fretting() {
		return nil
	}
	busy := j.busy(i)
	for _, f := range n.Bend.With {
		if f < n.Finger && !busy[f] {
			out = append(out, f)
		}
	}
	if len(n.Bend.With) > 0 {
		return out
	}
	return j.helping.Helpers(n.Finger, n.Bend.Semitones, n.Fret, push, j.player.Bends,
		func(f lick.Finger) bool { return !busy[f] })
}

// busy are the fingers that hold another note while note i sounds, or lie as a barre.
// Notes on the bent string itself do not count, as the finger there is the one that bends.
func (j *Judgement) busy(i int) map[lick.Finger]bool {
	n := j.Written.Notes[i]
	busy := map[lick.Finger]bool{}
	c := j.ColumnOf[i]
	// Of the notes before it, those that still ring are held touches.
	for _, k := range j.touches[c] {
		if o := j.Written.Notes[k]; k != i && o.String != n.String && o.Fret > 0 {
			busy[o.Finger] = true
		}
	}
	for k := j.Columns[c][1]; k < len(j.Written.Notes) && j.Written.Notes[k].At.Before(n.End()); k++ {
		if o := j.Written.Notes[k]; o.String != n.String && o.Fret > 0 {
			busy[o.Finger] = true
		}
	}
	// A barre that the player laid before and after stays down in between.
	for f := range j.barAt(i, -1) {
		if j.barAt(i, 1)[f] {
			busy[f] = true
		}
	}
	return busy
}

// barAt are the fingers that lie flat in the next column before (−1) or after (1) note i's.
func (j *Judgement) barAt(i, by int) map[lick.Finger]bool {
	c := j.ColumnOf[i] + by
	flat := map[lick.Finger]bool{}
	if c < 0 || c >= len(j.Columns) {
		return flat
	}
	for k := j.Columns[c][0]; k < j.Columns[c][1]; k++ {
		if o := j.Written.Notes[k]; o.Barre && o.Finger.Fretting() && o.Finger != j.Written.Notes[i].Finger {
			flat[o.Finger] = true
		}
	}
	return flat
}

// strongEnough is the set of fingers that hold a bend with all that can stand behind them: those that hold it with
// ease, or, where none does or any is to count, those that hold it at all. Helpers that are named are kept, unless any
// is to count. Where none holds it the set is empty, which asks for nothing.
func (ln *Line) strongEnough(n lick.Note, any bool) hand.Fingers {
	push, ok := bend.Solve(ln.Guitar, n.Place(), n.Bend.Semitones)
	if !ok {
		return 0
	}
	var ease, all hand.Fingers
	for f := lick.Index; f <= lick.Little; f++ {
		helpers := 0
		if len(n.Bend.With) > 0 && !any {
			for _, h := range n.Bend.With {
				if h < f {
					helpers++
				}
			}
		} else {
			helpers = len(ln.helping.Helpers(f, n.Bend.Semitones, n.Fret, push, ln.bends,
				func(lick.Finger) bool { return true }))
		}
		holds := ln.bends.Of(int(f), helpers)
		if push.Force <= holds {
			ease |= hand.Only(f)
		}
		if push.Force <= holds*bend.Breaking {
			all |= hand.Only(f)
		}
	}
	if any || ease == 0 {
		return all
	}
	return ease
}
