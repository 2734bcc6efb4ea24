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

// layOwn puts the notes of a file of ours where it says: a channel is a string.
// A pitch below the string's own is the only error: then the tuning is not what the file was
// written with.
func (f *file) layOwn(l *lick.Lick, t track) error {
	t.sort()
	for _, x := range t.notes {
		str := int(x.channel) + 1
		if str > len(l.Tuning) || int(x.pitch) < int(l.Tuning[str-1]) {
			return fmt.Errorf("the note %s lies on no string of the tuning that the file names", music.Pitch(x.pitch))
		}
		n := lick.Note{At: f.time(x.at), Len: f.time(max(1, x.end-x.at)), String: str,
			Fret: int(x.pitch) - int(l.Tuning[str-1]), Accent: x.velocity >= accented}
		if w, is := t.written[onString{x.at, str}]; is {
			n.At, n.Len = w[0], w[1]
		}
		if n.SlideIn = t.slid[onString{x.at, str}]; n.SlideIn == nil {
			n.Bend, n.Vibrato = f.bent(x)
		}
		l.Notes = append(l.Notes, n)
	}
	return nil
}

// layForeign lays the notes of others on the grid and near the hand, from the first note on,
// and says what it did: how many octaves lower, how many beginnings were moved, what found no
// string. The bar line stays where it was: what comes before it is the pick-up.
// The first note is looked for near the middle of the neck, string 3 at fret 5, each later one
// near the one before.
func (f *file) layForeign(l *lick.Lick, t track, g neck.Guitar, r *read.Result) {
	t.sort()
	pitches := make([]music.Pitch, len(t.notes))
	for i, x := range t.notes {
		pitches[i] = music.Pitch(x.pitch)
	}
	by := read.Octaves(g, pitches)
	first, moved, lost := t.notes[0].at, 0, 0
	bar := f.time(first)
	if _, into := bar.Div(l.Meter.Bar()); !into.IsZero() {
		l.Pickup, _ = onGrid(l.Meter.Bar().Sub(into))
	}
	last := neck.Place{String: 3, Fret: 5}
	for k, x := range t.notes {
		n := lick.Note{At: f.time(x.at - first), Accent: x.velocity >= accented}
		at, shifted := onGrid(n.At)
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
	if first > 0 {
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

// bent reads what the wheel did in a note: a bend, a vibrato, or nothing. The highest position
// is how far the bend goes, to the nearest that a lick has; three turns are a vibrato.
//
// Shape: what begins above four fifths of the top was bent before it was picked, what ends
// below two fifths of it is released. A turn is a change of direction; a vibrato above 1.2 half
// steps is one on a bend.
func (f *file) bent(x note) (*lick.Bend, *lick.Vibrato) {
	if len(x.wheel) == 0 && x.begins == 0 {
		return nil, nil
	}
	values := []float64{f.halfSteps(x, x.begins)}
	for _, w := range x.wheel {
		switch {
		case w.at == x.at:
			values[0] = f.halfSteps(x, w.value)
		case w.at < x.end:
			values = append(values, f.halfSteps(x, w.value))
		}
	}
	top, turns, way := 0.0, 0, 0.0
	for i, v := range values {
		top = max(top, v)
		if i == 0 {
			continue
		}
		if d := v - values[i-1]; d*way < 0 {
			turns, way = turns+1, d
		} else if d != 0 {
			way = d
		}
	}
	var vibrato *lick.Vibrato
	if turns >= 3 {
		vibrato = &lick.Vibrato{Width: lick.Wide, Speed: lick.Slow}
		if top < 0.5 {
			vibrato.Width = lick.Narrow
		}
		if top < 1.2 {
			return nil, vibrato
		}
	}
	if top < 0.25 || top > 4.25 {
		return nil, vibrato
	}
	return &lick.Bend{Semitones: lick.NearestBend(top),
		Shape: lick.ShapeOf(values[0] > 0.8*top, values[len(values)-1] < 0.4*top)}, vibrato
}

// slideIn is a slide into the note, where the wheel begins away from it and is there within
// a tenth of a second.
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
