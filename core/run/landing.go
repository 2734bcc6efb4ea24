package run

import (
	"fmt"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/phrase"
	"ornamen/core/say"
	"ornamen/core/shape"
)

// landing adds the note that the run ends on. A run whose start is free begins in time for it: what lies before its bar
// becomes the pick-up. One that starts on a given beat lands where it ends, and says so where that is early or late.
func (b *builder) landing() error {
	if b.land == nil || len(b.lick.Notes) == 0 {
		return nil
	}
	if b.starts() && b.Times == 0 && b.Bars == 0 {
		b.cutToLand()
	}
	last := b.lick.Notes[len(b.lick.Notes)-1].Place()
	on, ok := b.landingPair(last)
	if !ok {
		var to neck.Place
		if to, ok = b.landingPlace(last); !ok {
			return phrase.Wrong(b.Land, "that degree does not lie on this neck")
		}
		on = []neck.Place{to}
	}
	before := len(b.lick.Columns())
	b.run.Landing = len(b.lick.Notes) + 1
	for _, to := range on {
		b.lick.Notes = append(b.lick.Notes,
			lick.Note{At: b.at, Len: lick.NewTime(1, int64(b.lick.Meter.Unit)), String: to.String, Fret: to.Fret})
	}
	switch {
	case b.land.beat == 0:
	case b.starts():
		b.sayLanding(before)
	default:
		b.lick.Pickup = b.intoBar(b.at)
	}
	b.at = b.lick.End()
	return nil
}

// starts says whether the recipe names the beat on which the run begins.
func (b *builder) starts() bool { return b.From != "" || b.Displace != "" }

// intoBar is how far a time lies behind the last landing beat before it: what a run must begin earlier to land on the
// beat, or how late it is. As an example, in 4/4 with the landing on 1 a run of eleven eighths that begins on a bar
// line ends 11/8 after it, so 3/8 into its bar; with a pick-up of 3/8 it lands on 1.
func (b *builder) intoBar(at lick.Time) lick.Time {
	first := b.lick.Pickup.Add(lick.NewTime(int64(b.land.beat-1), int64(b.lick.Meter.Unit))) // in the first full bar
	bars, rest := at.Sub(first).Div(b.lick.Meter.Bar())
	if rest.Before(lick.Time{}) || bars < 0 {
		_, rest = rest.Add(b.lick.Meter.Bar()).Div(b.lick.Meter.Bar())
	}
	return rest
}

// cutToLand shortens a run that may be as long as it likes so that it lands on its beat: the
// start beat gives the number of notes. From the & of 3 to 1 a bar later are eleven eighths.
func (b *builder) cutToLand() {
	if b.land.beat == 0 {
		return
	}
	if end := b.at.Sub(b.intoBar(b.at)); b.lick.Notes[0].At.Before(end) {
		b.cut(end)
	}
}

// sayLanding says from where to where the run goes and in how many notes, or how early or
// late it lands on the beat that was asked for.
func (b *builder) sayLanding(notes int) {
	late := b.intoBar(b.at)
	from := b.lick.SayBeat(b.lick.Notes[0].At)
	if late.IsZero() {
		what := say.Count(notes, "note")
		if len(b.lengths) == 1 {
			what = fmt.Sprintf("%d %s", notes, CountName(b.Count))
		}
		b.remarks("From %s, landing on %d: %s and the landing.", from, b.land.beat, what)
		return
	}
	bar := b.lick.Meter.Bar()
	by, word := late, "late"
	if bar.Before(late.Times(2)) {
		by, word = bar.Sub(late), "early"
	}
	b.remarks("From %s it lands %s %s: on %s, not on %d.", from, by.Say(), word, b.lick.SayBeat(b.at), b.land.beat)
}

// remarks adds a sentence to those that the run has to say.
func (b *builder) remarks(format string, args ...any) {
	b.run.Remarks = append(b.run.Remarks, fmt.Sprintf(format, args...))
}

// landingPair is the pair with the degree, of those of the layout the one nearest to the
// last note: a run of pairs lands on one. ok is false where the run has none.
func (b *builder) landingPair(last neck.Place) (on []neck.Place, ok bool) {
	l := ladderOf(b.last)
	if l == nil || b.phrase.Kind != phrase.Tones || len(l.Steps[0]) < 2 {
		return nil, false
	}
	class := b.land.degree.Over(b.palette.Tonic).Class()
	least := 1 << 30
	for _, step := range l.Steps {
		for _, t := range step {
			if d := neck.Apart(t.Place, last); t.Pitch.Class() == class && d < least {
				least, on = d, nil
				for _, x := range step {
					on = append(on, x.Place)
				}
			}
		}
	}
	return on, on != nil
}

// landingPlace is the degree nearest to the last note, in the layout if it has it there. Nearest is by pitch: a line is
// heard to walk to its landing, and one a step away on another string is nearer than one two frets off on its own. The
// layout's is taken unless the neck has one that is nearer in pitch; a cell that left its layout has only the neck.
func (b *builder) landingPlace(last neck.Place) (neck.Place, bool) {
	class := b.land.degree.Over(b.palette.Tonic).Class()
	away := func(p music.Pitch) music.Pitch {
		d := p - b.guitar.Pitch(last)
		return max(d, -d)
	}
	var best *shape.Placed
	if placed, err := shape.Lay(b.guitar, b.palette, b.layout, b.at0()); err == nil && b.phrase.Kind != phrase.Chord &&
		b.move.kind != "position" &&
		b.move.kind != "octave" {
		for i, t := range placed {
			if t.Pitch.Class() != class {
				continue
			}
			if best == nil || away(t.Pitch) < away(best.Pitch) {
				best = &placed[i]
			}
		}
	}
	nearest, ok := shape.Nearest(b.guitar, class, last)
	if best != nil && away(best.Pitch) <= away(b.guitar.Pitch(nearest)) {
		return best.Place, true
	}
	return nearest, ok
}
