package turn

import (
	"errors"
	"fmt"
	"slices"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/run"
	"ornamen/core/text"
)

// Seam is when the second of two joined lines begins.
type Seam string

// The seams. On the next beat both parts keep their strokes, since the pick begins anew there.
const (
	AtOnce Seam = ""     // where the first ends
	Held   Seam = "held" // on the next beat, the last note sounding until then
	Rested Seam = "rest" // on the next beat, after a rest
)

// ParseSeam reads a seam; nothing is AtOnce.
func ParseSeam(s string) (Seam, error) {
	return text.Word(s, "", "the next part begins on the next beat held or rest, not %q", AtOnce, Held, Rested)
}

// Join lets lick b follow a as one line, or go on in place of a's note at (from 1; 0 is the end), from which a's own
// notes are left out. The rhythm goes on: b begins where the last note before it ends, with a's tempo, meter and feel.
// Tones, chords and recipes keep their place, each part as it was; fingers and strokes that are not locked are left
// open, so that the hands are found for the seam too. It is an error of one sentence if the two are tuned differently.
//
// a's parts that the cut goes through are shorter now and keep their recipe: grown again they are cut off after as many
// notes. A joined line does not loop, as its end no longer leads to its start.
func Join(a, b lick.Lick, at int, when Seam) (lick.Lick, error) {
	switch {
	case at < 0 || at > len(a.Notes):
		return a, fmt.Errorf("the first lick has no note %d", at)
	case len(b.Notes) == 0:
		return a, errors.New("the second lick has no notes")
	case !slices.Equal(a.Tuning, b.Tuning) && len(a.Notes) > 0:
		return a, errors.New("the two licks are tuned differently")
	}
	if len(a.Notes) == 0 {
		out := b.Clone()
		out.Title, out.Tags = a.Title, a.Tags
		return out, nil
	}
	out := cutFrom(a, at)
	seam := out.End()
	if at > 0 {
		seam = a.Notes[at-1].At
	}
	if when != AtOnce {
		seam = toBeat(&out, seam, when == Held)
	}
	by := seam.Sub(b.Notes[0].At)
	n := len(out.Notes)
	out.Loop = false
	out.JoinTones(b, seam, by)
	if len(b.Chords) > 0 {
		cutChords(&out, seam)
	}
	for _, c := range b.Chords {
		if c.At = c.At.Add(by); !c.At.Before(seam) {
			out.Chords = append(out.Chords, c)
		}
	}
	out.Parts = partsOf(out, n, a)
	for _, p := range partsOf(b, len(b.Notes), b) {
		out.Parts = append(out.Parts, lick.Part{From: p.From + n, To: p.To + n, Recipe: p.Recipe})
	}
	out.Recipe = ""
	for _, m := range b.Clone().Notes {
		m.At = m.At.Add(by)
		out.Notes = append(out.Notes, m)
	}
	openHands(&out)
	out.FitSlurs()
	return out, out.Validate()
}

// toBeat is the first beat at or after the end of a line. The notes that end there are held until
// then, where they are to be.
func toBeat(l *lick.Lick, end lick.Time, hold bool) lick.Time {
	off := l.Position(end).Off
	if off.IsZero() {
		return end
	}
	beat := end.Add(lick.NewTime(1, int64(l.Meter.Unit)).Sub(off))
	for i := range l.Notes {
		if n := &l.Notes[i]; hold && n.End().Cmp(end) == 0 {
			n.Len = beat.Sub(n.At)
		}
	}
	return beat
}

// cutFrom is the lick without note at and what follows it (0: all of it stays). What rings into the cut ends there.
func cutFrom(a lick.Lick, at int) lick.Lick {
	out := a.Clone()
	if at == 0 {
		return out
	}
	seam := a.Notes[at-1].At
	out.Notes = slices.DeleteFunc(out.Notes, func(n lick.Note) bool { return !n.At.Before(seam) })
	for i := range out.Notes {
		if n := &out.Notes[i]; seam.Before(n.End()) {
			n.Len = seam.Sub(n.At)
		}
	}
	cutChords(&out, seam)
	out.Keys = slices.DeleteFunc(out.Keys, func(k lick.KeySpan) bool { return !k.At.Before(seam) })
	return out
}

// cutChords ends the chords at a time.
func cutChords(l *lick.Lick, seam lick.Time) {
	l.Chords = slices.DeleteFunc(l.Chords, func(c lick.Chord) bool { return !c.At.Before(seam) })
	for i := range l.Chords {
		if c := &l.Chords[i]; seam.Before(c.End()) {
			c.Len = seam.Sub(c.At)
		}
	}
}

// partsOf are the parts of a lick that lie within its first n notes; a lick that one run has made is one part.
func partsOf(l lick.Lick, n int, whole lick.Lick) []lick.Part {
	parts := whole.Parts
	if len(parts) == 0 && whole.Recipe != "" {
		parts = []lick.Part{{From: 0, To: len(whole.Notes), Recipe: whole.Recipe}}
	}
	var out []lick.Part
	for _, p := range parts {
		if p.To = min(p.To, n); p.From < p.To {
			out = append(out, p)
		}
	}
	return out
}

// openHands leaves fingers and strokes open that nobody has locked.
func openHands(l *lick.Lick) {
	for i := range l.Notes {
		n := &l.Notes[i]
		if !n.Locked(lick.FieldFinger) {
			n.Finger = openFinger(n.Finger)
		}
		if !n.Locked(lick.FieldStroke) {
			n.Stroke = openStroke(n.Stroke)
		}
	}
}

// RegrowPart grows one part of a lick again from another recipe; what follows it moves along
// in time with its chords, what lies around it stays. A part that was cut off when it was joined is cut off
// after as many notes again. What was locked is carried over where place and time agree.
func RegrowPart(old lick.Lick, number int, r run.Recipe, g neck.Guitar) (lick.Lick, error) {
	if number < 0 || number >= len(old.Parts) {
		return old, fmt.Errorf("the lick has no part %d", number+1)
	}
	p := old.Parts[number]
	grown, err := run.Grow(r, g.WithTuning(old.Tuning))
	if err != nil {
		return old, err
	}
	fresh := grown.Lick
	if before, err := run.Parse(p.Recipe); err == nil {
		if was, err := run.Grow(before, g.WithTuning(old.Tuning)); err == nil && len(was.Lick.Notes) > p.To-p.From &&
			len(fresh.Notes) > p.To-p.From {
			fresh = cutFrom(fresh, p.To-p.From+1)
		}
	}
	fresh.Recipe, fresh.Parts = r.String(), nil
	// The line is cut into what comes before, the part, and what comes after.
	head, rest := old, lick.Lick{}
	if p.To < len(old.Notes) {
		rest = tailFrom(old, p.To)
	}
	out := fresh
	out.Title, out.Tags, out.Tempo, out.Meter, out.Feel = old.Title, old.Tags, old.Tempo, old.Meter, old.Feel
	if p.From > 0 {
		head = cutFrom(old, p.From+1)
		head.Parts = partsOf(head, p.From, old)
		if out, err = Join(head, fresh, 0, AtOnce); err != nil {
			return old, err
		}
	}
	if len(rest.Notes) > 0 {
		if out, err = Join(out, rest, 0, AtOnce); err != nil {
			return old, err
		}
	}
	if p.From == 0 {
		out.Pickup = old.Pickup
	}
	out.Loop, out.Chords = old.Loop, old.Clone().Chords
	if n := len(rest.Notes); n > 0 {
		was := old.Notes[p.To].At
		out.Chords = old.MovedChords(was, out.Notes[len(out.Notes)-n].At.Sub(was))
	}
	carryOver(out.Notes, old.Notes)
	return out, out.Validate()
}

// tailFrom is the lick from note i (from 0) on, with its tones, chords and parts.
func tailFrom(l lick.Lick, i int) lick.Lick {
	out := l.Clone()
	seam := l.Notes[i].At
	out.Notes = out.Notes[i:]
	out.Key, out.Recipe = l.KeyAt(seam), ""
	out.Keys = slices.DeleteFunc(out.Keys, func(k lick.KeySpan) bool { return !seam.Before(k.At) })
	out.Chords = slices.DeleteFunc(out.Chords, func(c lick.Chord) bool { return c.At.Before(seam) })
	out.Parts = nil
	for _, p := range l.Parts {
		if p.From >= i {
			out.Parts = append(out.Parts, lick.Part{From: p.From - i, To: p.To - i, Recipe: p.Recipe})
		}
	}
	return out
}
