package midi

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/say"
	"ornamen/format/read"
)

// layOwn puts the notes of a file of ours where it says: a channel is a string. A pitch below the string's own is the
// only error: then the tuning is not what the file was written with.
func (f *file) layOwn(l *lick.Lick, t track) error {
	t.sort()
	for _, x := range t.notes {
		str := int(x.channel) + 1
		if str > len(l.Tuning) || int(x.pitch) < int(l.Tuning[str-1]) {
			return fmt.Errorf("the note %s lies on no string of the tuning that the file names", music.Pitch(x.pitch))
		}
		n := lick.Note{At: f.time(x.at), Len: f.time(max(1, x.end-x.at)), String: str,
			Fret: int(x.pitch) - int(l.Tuning[str-1]), Accent: x.velocity >= accented,
			Ghost: x.velocity <= ghostly, Palm: x.palm}
		if w, is := t.written[onString{x.at, str}]; is {
			n.At, n.Len = w[0], w[1]
		}
		if n.SlideIn = t.slid[onString{x.at, str}]; n.SlideIn == nil {
			n.Bend, n.Vibrato = f.bent(x)
			if s, is := t.shaped[onString{x.at, str}]; is && (s.bend != nil || s.vibrato != nil) {
				n.Bend, n.Vibrato = s.bend, s.vibrato
			}
		}
		l.Notes = append(l.Notes, n)
	}
	return nil
}

// layForeign lays the notes of others on the grid and near the hand, from the first note on, and says what it did: how
// many octaves lower, how many beginnings were moved, what found no string. The bar line stays where it was: what comes
// before it is the pick-up. The first note is looked for near the middle of the neck, string 3 at fret 5, each later
// one near the one before.
func (f *file) layForeign(l *lick.Lick, t track, g neck.Guitar, r *read.Result) {
	t.sort()
	pitches := make([]music.Pitch, len(t.notes))
	for i, x := range t.notes {
		pitches[i] = music.Pitch(x.pitch)
	}
	by := read.Octaves(g, pitches)
	// A hand plays a little early and late, the first note as well: it is where the grid has it.
	first, _ := onGrid(f.time(t.notes[0].at))
	moved, lost := 0, 0
	if _, into := first.Div(l.Meter.Bar()); !into.IsZero() {
		l.Pickup = l.Meter.Bar().Sub(into)
	}
	last := neck.Place{String: 3, Fret: 5}
	for k, x := range t.notes {
		n := lick.Note{Accent: x.velocity >= accented, Palm: x.palm}
		at, shifted := onGrid(f.time(x.at))
		at = at.Sub(first)
		if n.Len, _ = onGrid(f.time(max(1, x.end-x.at))); n.Len.IsZero() {
			n.Len = lick.NewTime(1, 32)
		}
		if n.At = at; shifted {
			moved++
		}
		if n.SlideIn = f.slideIn(x); n.SlideIn == nil {
			n.Bend, n.Vibrato = f.bent(x)
		}
		p, ok := read.Near(g, l, n, pitches[k]+by, last)
		if !ok {
			lost++
			continue
		}
		n.String, n.Fret, last = p.String, p.Fret, p
		if n.Fret == 0 {
			n.Bend, n.Vibrato = nil, nil
		}
		l.Notes = append(l.Notes, n)
	}
	if by != 0 {
		r.Remark("It lies %s, so that it fits on this guitar.", read.OctavesWord(by))
	}
	if moved > 0 {
		r.Remark("%s moved onto the nearest thirty-second or triplet sixteenth.", say.Count(moved, "beginning"))
	}
	if lost > 0 {
		r.Remark("Left out: %s for which no string was free.", say.Count(lost, "note"))
	}
	if !first.IsZero() {
		r.Remark("The rest before the first note is left out.")
	}
}

// sort orders the notes by time, the low ones first.
func (t track) sort() {
	slices.SortStableFunc(t.notes, func(a, b note) int {
		return cmp.Or(cmp.Compare(a.at, b.at), cmp.Compare(a.pitch, b.pitch))
	})
}

// onGrid is the nearest thirty-second or triplet sixteenth, the thirty-second where both are as
// near. As an example, 1/11 of a whole note becomes 3/32: 1/12 is further away.
func onGrid(t lick.Time) (on lick.Time, moved bool) {
	near := func(parts int64) lick.Time {
		num, den := t.Parts()
		return lick.NewTime((2*num*parts+den)/(2*den), parts)
	}
	a, b := near(32), near(24)
	away := func(x lick.Time) float64 { return math.Abs(x.Float() - t.Float()) }
	if on = a; away(b) < away(a)-1e-9 {
		on = b
	}
	return on, on.Cmp(t) != 0
}

// halfSteps is a position of the wheel of a note's channel.
// 8191 up are the whole range that the channel declared, two half steps where it declared none.
func (f *file) halfSteps(x note, v int) float64 { return float64(v) / 8191 * f.ranges[x.channel] }

// bent reads what the wheel did in a note: a bend, a vibrato, both, or nothing.
//
// Where the wheel turns three times or more it shakes: around the level of a bend, or from the note itself. How wide
// and how fast it shakes is the vibrato's. Without that the highest position is how far the bend goes. What begins
// above four fifths of it was bent before it was picked, what ends below two fifths of it is released.
func (f *file) bent(x note) (*lick.Bend, *lick.Vibrato) {
	if len(x.wheel) == 0 && x.begins == 0 {
		return nil, nil
	}
	times, values := []int64{x.at}, []float64{f.halfSteps(x, x.begins)}
	for _, w := range x.wheel {
		switch {
		case w.at == x.at:
			values[0] = f.halfSteps(x, w.value)
		case w.at < x.end:
			times, values = append(times, w.at), append(values, f.halfSteps(x, w.value))
		}
	}
	level := slices.Max(values)
	home := 0.4 * level // below it the bend is released
	var vibrato *lick.Vibrato
	if turns := turnsOf(values); len(turns) >= 3 {
		var bottom float64
		level, bottom, vibrato = f.shaking(times, values, turns)
		home = min(0.4*level, bottom-0.1)
	}
	if level < 0.25 || level > 4.4 {
		return nil, vibrato
	}
	return &lick.Bend{Semitones: lick.NearestBend(level),
		Shape: lick.ShapeOf(values[0] > 0.8*level, values[len(values)-1] < home)}, vibrato
}

// leastTurn is how far a wheel goes back before it counts as a turn, in half steps.
const leastTurn = 0.12

// turnsOf are the positions, by index, at which a course turns, each at least leastTurn away from the one before.
func turnsOf(values []float64) (at []int) {
	best, way := 0, 0.0 // the farthest since the last turn, and which way it lies
	for i, v := range values {
		switch d := v - values[best]; {
		case way == 0 && math.Abs(v-values[0]) >= leastTurn:
			best, way = i, math.Copysign(1, v-values[0])
		case way != 0 && d*way > 0:
			best = i
		case way != 0 && -d*way >= leastTurn:
			at = append(at, best)
			best, way = i, -way
		}
	}
	return at
}

// shaking reads a course that turns several times: the level that it shakes at, 0 where that is the note itself, how
// far down it comes, and the vibrato.
func (f *file) shaking(times []int64, values []float64, turns []int) (level, bottom float64, v *lick.Vibrato) {
	var high, low []float64
	for i := range turns {
		x := values[turns[i]]
		up := i+1 < len(turns) && x > values[turns[i+1]] || i+1 == len(turns) && x > values[turns[i-1]]
		if up {
			high = append(high, x)
		} else {
			low = append(low, x)
		}
	}
	middle := func(x []float64) float64 {
		slices.Sort(x)
		return x[len(x)/2]
	}
	top := middle(high)
	bottom = middle(low)
	v = &lick.Vibrato{Width: lick.Narrow, Speed: lick.Slow}
	if top-bottom > 0.5 {
		v.Width = lick.Wide
	}
	var halves []float64 // seconds between two turns; the last may wait for the release
	for i := 1; i < len(turns); i++ {
		halves = append(halves, float64(times[turns[i]]-times[turns[i-1]])/float64(f.division)*60/f.tempo)
	}
	if 2*5.5*middle(halves) < 1 {
		v.Speed = lick.Fast
	}
	switch {
	case bottom < 0.35 && top < 0.9:
		return 0, bottom, v
	case bottom < 0.35:
		return top, bottom, v // a wide one on a bend of a half step, which comes nearly all the way down
	}
	return (top + bottom) / 2, bottom, v
}

// slideIn is a slide into the note, where the wheel begins away from it and is there within a tenth of a second.
func (f *file) slideIn(x note) *lick.SlideIn {
	begins := x.begins
	for _, w := range x.wheel {
		if w.at == x.at {
			begins = w.value
		}
	}
	from := f.halfSteps(x, begins)
	frets := int(math.Round(math.Abs(from)))
	if frets < 1 || frets > 4 {
		return nil
	}
	soon := x.at + int64(0.1*f.tempo/60*float64(f.division))
	there := slices.ContainsFunc(x.wheel, func(w wheelAt) bool {
		return w.at <= soon && math.Abs(f.halfSteps(x, w.value)) < 0.05
	})
	switch {
	case !there:
		return nil
	case from < 0:
		return &lick.SlideIn{Frets: frets, From: lick.FromBelow}
	}
	return &lick.SlideIn{Frets: frets, From: lick.FromAbove}
}
