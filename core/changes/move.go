package changes

import (
	"errors"
	"fmt"
	"slices"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/say"
)

// nearPlace is the place of a pitch nearest to another place, an octave away where there is none.
func nearPlace(g neck.Guitar, pitch music.Pitch, from neck.Place) (best neck.Place, ok bool) {
	for _, by := range []music.Pitch{0, 12, -12} {
		if best, ok = g.Nearest(pitch+by, from); ok {
			return best, true
		}
	}
	return best, false
}

// fit takes away slurs from notes that have gone or moved in time, turns those round that lead the other way now, and
// leaves out every note that would begin on a string that still sounds: the one that is there already stays.
func fit(l *lick.Lick) {
	for i := 0; i < len(l.Notes); i++ {
		clash := false
		for k := i - 1; k >= 0 && k > i-neck.MaxStrings && !clash; k-- {
			clash = l.Notes[k].String == l.Notes[i].String && l.Notes[i].At.Before(l.Notes[k].End())
		}
		if clash {
			l.Notes = slices.Delete(l.Notes, i, i+1)
			i--
			continue
		}
		if b := l.Before(i); l.Notes[i].Slur != "" && (b < 0 || l.Notes[b].End().Cmp(l.Notes[i].At) != 0) {
			l.Notes[i].Slur = ""
		}
	}
	l.FitSlurs()
}

// Displace lets the line come so much later over the same chords, or with a time below zero
// earlier; what would begin before the beginning is refused. Notes keep their lengths, and the
// recipe goes, as it would grow the line where it was.
func Displace(l lick.Lick, by lick.Time) (lick.Lick, error) {
	out := l.Clone()
	for i := range out.Notes {
		if out.Notes[i].At = out.Notes[i].At.Add(by); out.Notes[i].At.Before(lick.Time{}) {
			return l, errors.New("it would begin before the beginning: give the line a pick-up first")
		}
	}
	out.Parts, out.Recipe = nil, ""
	return out, out.Validate()
}

// Stretch plays the line num/den times as long over the same chords: 2/1 in doubled values,
// 1/2 in halved ones. The pick-up goes with the line.
func Stretch(l lick.Lick, num, den int64) (lick.Lick, error) {
	times := lick.NewTime(num, den)
	out := l.Clone()
	out.Pickup = l.Pickup.Mul(times)
	for i := range out.Notes {
		out.Notes[i].At, out.Notes[i].Len = out.Notes[i].At.Mul(times), out.Notes[i].Len.Mul(times)
	}
	laterChords(&out, out.Pickup.Sub(l.Pickup))
	out.Parts, out.Recipe = nil, ""
	return out, out.Validate()
}

// laterChords moves the chords by so much; what comes to lie before the beginning is cut off.
func laterChords(l *lick.Lick, by lick.Time) {
	for i := range l.Chords {
		c := &l.Chords[i]
		if c.At = c.At.Add(by); c.At.Before(lick.Time{}) {
			c.At, c.Len = lick.Time{}, c.End()
		}
	}
	l.Chords = slices.DeleteFunc(l.Chords, func(c lick.Chord) bool { return !lick.Time{}.Before(c.Len) })
}

// CallAnswer makes call and answer of the line in so many bars: the call is its beginning, up to
// its first rest or half of its notes, and then silence up to the middle; the answer is the
// whole line from the middle on. What is said counts the rests.
func CallAnswer(l lick.Lick, bars int64) (out lick.Lick, said string, err error) {
	columns := columnsOf(l)
	if len(columns) < 4 {
		return l, "", errors.New("call and answer take a line of four notes or more")
	}
	half := l.Meter.Bar().Mul(lick.NewTime(bars, 2))
	cut := len(columns) / 2
	end := func(c int) lick.Time { return l.Notes[columns[c][0]].End() }
	for c := 1; c < len(columns); c++ {
		if end(c - 1).Before(l.Notes[columns[c][0]].At) {
			cut = c
			break
		}
	}
	first := l.Notes[columns[0][0]].At
	length := end(len(columns) - 1).Sub(first)
	if half.Before(length) {
		return l, "", fmt.Errorf("the line is longer than half of %d bars", bars)
	}
	out = l.Clone()
	out.Notes, out.Parts, out.Recipe, out.Pickup = nil, nil, "", lick.Time{}
	call := l.Notes[columns[cut-1][len(columns[cut-1])-1]].At
	for _, n := range l.Notes {
		if !call.Before(n.At) {
			c := n
			c.At = n.At.Sub(first)
			out.Notes = append(out.Notes, c)
		}
	}
	rest := half.Sub(end(cut - 1).Sub(first))
	for _, n := range l.Notes {
		n.At = n.At.Sub(first).Add(half)
		out.Notes = append(out.Notes, n)
	}
	laterChords(&out, lick.Time{}.Sub(l.Pickup))
	out.Sort()
	fit(&out)
	last := half.Sub(length)
	return out, fmt.Sprintf("call: %s and %s of rest; answer: %s and %s of rest", say.Some(cut, "note"),
		lengthWord(rest), say.Some(len(columns), "note"), lengthWord(last)), out.Validate()
}

// lengthWord says a length, or that there is none.
func lengthWord(t lick.Time) string {
	if t.IsZero() {
		return "no beat"
	}
	return t.Say()
}

// GuideTones is one tone of each chord, held as long as it lasts: the third, or another of its tones by number, each
// the nearest to the one before (common practice: the limit "only the third of each chord"). By pitch the way from one
// to the next is never more than six half steps; where that pitch is not on the neck, it is an octave away.
func GuideTones(g neck.Guitar, l lick.Lick, number int) (lick.Lick, error) {
	r := Read(l)
	if len(r.Chords) == 0 {
		return l, errors.New("there are no chords to take tones from: write the changes first")
	}
	g = g.WithTuning(l.Tuning)
	out := l.Clone()
	out.Notes, out.Parts, out.Recipe = nil, nil, ""
	from := neck.Place{String: 3, Fret: 7}
	if len(l.Notes) > 0 {
		from = l.Notes[0].Place()
	}
	for _, c := range r.Chords {
		i := slices.IndexFunc(c.Chord.Degrees, func(d music.Degree) bool { return d.Number == number })
		if i < 0 {
			return l, fmt.Errorf("%s has no %d", c.Name, number)
		}
		class := c.Chord.Degrees[i].Over(c.Chord.Root).Class()
		near := g.Pitch(from)
		target := near + music.Pitch((class-near.Class()+18)%12-6)
		at, ok := nearPlace(g, target, from)
		if !ok {
			return l, fmt.Errorf("the %d of %s lies on no string of this guitar", number, c.Name)
		}
		out.Notes = append(out.Notes, lick.Note{At: c.At, Len: c.End.Sub(c.At), String: at.String, Fret: at.Fret})
		from = at
	}
	return out, out.Validate()
}
