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
// becomes the pick-up, and one that lands in a bar begins later where its cells do not fill the time. One that starts
// on a given beat lands where it ends, and says so where that is early or late.
func (b *builder) landing() error {
	if b.land == nil || len(b.lick.Notes) == 0 {
		return nil
	}
	switch {
	case b.land.Bar > 0:
		if err := b.untilBar(); err != nil {
			return err
		}
	case b.starts() && b.Times == 0 && b.Bars == 0:
		b.cutToLand()
	}
	if b.land.Beat > 0 && b.land.Bar == 0 && !b.starts() {
		b.lick.Pickup = b.intoBar(b.at)
	}
	class, err := b.landClass(b.at)
	if err != nil {
		return err
	}
	last := b.lick.Notes[len(b.lick.Notes)-1].Place()
	on, ok := b.landingPair(last, class)
	if !ok {
		var to neck.Place
		if to, ok = b.landingPlace(last, class); !ok {
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
	if b.land.Beat > 0 && b.land.Bar == 0 && b.starts() {
		b.sayLanding(before)
	}
	b.at = b.lick.End()
	return nil
}

// landsAt is when a run that lands in a bar lands, from its beginning: as an example, on beat 2 of bar 3 in 4/4 after
// two bars and a quarter, and after its pick-up.
func (b *builder) landsAt() lick.Time {
	beats := lick.NewTime(int64(b.land.Beat-1), int64(b.lick.Meter.Unit))
	return b.lick.Meter.Bar().Times(int64(b.land.Bar - 1)).Add(beats).Add(b.lead).Sub(b.before)
}

// untilBar has the run end where its bar and beat are: one that begins where it likes begins later by what its cells do
// not fill, one that begins on a given beat is cut there.
func (b *builder) untilBar() error {
	lands := b.landsAt()
	switch short := lands.Sub(b.at); {
	case b.starts():
		if short.Before(lick.Time{}) {
			b.cut(lands)
		} else if !short.IsZero() {
			return phrase.Wrong(b.Land, fmt.Sprintf("from there the layout has room for %s, which end %s too early",
				say.Count(len(b.run.Cells), "cell"), short.Say()))
		}
	case short.Before(lick.Time{}):
		return phrase.Wrong(b.Land, fmt.Sprintf("%s take longer than that", say.Count(len(b.run.Cells), "cell")))
	case !b.fewer && b.Times == 0 && !short.IsZero():
		return phrase.Wrong(b.Land, fmt.Sprintf("the layout has room for %s, which end %s too early: let it go up and down",
			say.Count(len(b.run.Cells), "cell"), short.Say()))
	default:
		b.later(short)
	}
	b.at = lands
	b.remarks("%s, to land on %d of bar %d.", say.Count(len(b.run.Cells), "cell"), b.land.Beat, b.land.Bar)
	return nil
}

// later has everything begin later by a time.
func (b *builder) later(by lick.Time) {
	begin(&b.lick, by)
	b.run.late = by
}

// begin has a line begin later by a time, or earlier.
func begin(l *lick.Lick, by lick.Time) {
	for i := range l.Notes {
		l.Notes[i].At = l.Notes[i].At.Add(by)
	}
	for i := range l.Chords {
		l.Chords[i].At = l.Chords[i].At.Add(by)
	}
	for i := range l.Keys {
		l.Keys[i].At = l.Keys[i].At.Add(by)
	}
}

// roomToLand says whether a cell still ends before the run lands, the tail with it.
func (b *builder) roomToLand(cell []phrase.Step) bool {
	end, step := b.at, b.steps
	cells := [][]phrase.Step{cell}
	if b.Mirror {
		cells = append(cells, cell)
	}
	if b.tail != nil {
		cells = append(cells, b.tail.Cells...)
	}
	for _, c := range cells {
		for range c {
			end = end.Add(b.lengths[step%len(b.lengths)])
			step++
		}
	}
	return !b.landsAt().Before(end)
}

// starts says whether the recipe names the beat on which the run begins.
func (b *builder) starts() bool { return b.From != "" || b.Displace != "" }

// intoBar is how far a time lies behind the last landing beat before it: what a run must begin earlier to land on the
// beat, or how late it is. As an example, in 4/4 with the landing on 1 a run of eleven eighths that begins on a bar
// line ends 11/8 after it, so 3/8 into its bar; with a pick-up of 3/8 it lands on 1.
func (b *builder) intoBar(at lick.Time) lick.Time {
	first := b.lick.Pickup.Add(lick.NewTime(int64(b.land.Beat-1), int64(b.lick.Meter.Unit))) // in the first full bar
	bars, rest := at.Sub(first).Div(b.lick.Meter.Bar())
	if rest.Before(lick.Time{}) || bars < 0 {
		_, rest = rest.Add(b.lick.Meter.Bar()).Div(b.lick.Meter.Bar())
	}
	return rest
}

// cutToLand shortens a run that may be as long as it likes so that it lands on its beat: the
// start beat gives the number of notes. From the & of 3 to 1 a bar later are eleven eighths.
func (b *builder) cutToLand() {
	if b.land.Beat == 0 {
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
		b.remarks("From %s, landing on %d: %s and the landing.", from, b.land.Beat, what)
		return
	}
	bar := b.lick.Meter.Bar()
	by, word := late, "late"
	if bar.Before(late.Times(2)) {
		by, word = bar.Sub(late), "early"
	}
	b.remarks("From %s it lands %s %s: on %s, not on %d.", from, by.Say(), word, b.lick.SayBeat(b.at), b.land.Beat)
}

// remarks adds a sentence to those that the run has to say.
func (b *builder) remarks(format string, args ...any) {
	b.run.Remarks = append(b.run.Remarks, fmt.Sprintf(format, args...))
}

// landingPair is the pair with the tone, of those of the layout the one nearest to the
// last note: a run of pairs lands on one. ok is false where the run has none.
func (b *builder) landingPair(last neck.Place, class int) (on []neck.Place, ok bool) {
	l := ladderOf(b.last)
	if l == nil || b.phrase.Kind != phrase.Tones || len(l.Steps[0]) < 2 {
		return nil, false
	}
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

// landingPlace is the tone nearest to the last note, in the layout if it has it there. Nearest is by pitch: a line is
// heard to walk to its landing, and one a step away on another string is nearer than one two frets off on its own. The
// layout's is taken unless the neck has one that is nearer in pitch; a cell that left its layout has only the neck.
func (b *builder) landingPlace(last neck.Place, class int) (neck.Place, bool) {
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
