package run

import (
	"fmt"
	"slices"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/phrase"
	"ornamen/core/pick"
	"ornamen/core/say"
	"ornamen/core/shape"
)

// Run is a grown line.
type Run struct {
	Lick    lick.Lick // fingers and strokes open but for what the cell fixes
	Cells   []Played  // in playing order, the tail among them
	Landing int       // the note that lands, from 1; 0 for none
	Way     pick.Way  // asked for, or alternate
	Remarks []string  // why it stops where it does, in sentences
	End     lick.Time // when the step after the last one would begin

	accented bool      // the recipe sets accents of its own
	late     lick.Time // by how much it begins later, to land in its bar
}

// Played is one cell as it was played: notes [From, To), counted from 0.
type Played struct {
	From, To int
	Tail     bool
}

// Grow makes the line of a recipe on a guitar. An error is one sentence that names the word that stands in the way.
//
// The cost is that of the notes, with a layout laid out for each leg and, where the move goes along the neck or through
// chords, for each station: about a millisecond for a run of 64 notes. The guitar's tuning gives way to the recipe's.
func Grow(r Recipe, g neck.Guitar) (*Run, error) {
	if r.Then != "" {
		return sequence(r, g)
	}
	return growPart(r, g, lick.Time{})
}

// growPart grows one part of a recipe; before is how long the parts before it take.
func growPart(r Recipe, g neck.Guitar, before lick.Time) (*Run, error) {
	p, err := r.plan(g)
	if err != nil {
		return nil, err
	}
	p.before = before
	b := &builder{plan: p, run: &Run{Way: p.pick}, lick: lick.New()}
	b.lick.Tuning = slices.Clone(p.guitar.Tuning)
	b.setting()
	if err := b.cells(); err != nil {
		return nil, err
	}
	if err := b.tailCell(); err != nil {
		return nil, err
	}
	if err := b.landing(); err != nil {
		return nil, err
	}
	b.chordsByBar()
	if err := b.lick.Validate(); err != nil {
		return nil, err
	}
	b.lick.Sort()
	b.run.Lick, b.run.End, b.run.accented = b.lick, b.at, b.Accent > 0
	return b.run, nil
}

// builder collects the notes. It goes forward only: at is the time of the next step, and what
// was played is touched again just by a hold, a cut or a mirror.
type builder struct {
	*plan
	run    *Run
	lick   lick.Lick
	at     lick.Time
	steps  int // counted for the lengths that take turns
	onsets int
	column []int // the notes that sounded last, as indices
	down   bool
	end    lick.Time // of the bars asked for
	last   station   // where the last cell was played
	fewer  bool      // the landing came before the layout ended
	held   span      // what the hand holds on the string of the note before
}

// setting writes what surrounds the notes: key, title, feel, tempo, and the recipe itself, so that the lick can be
// grown again. The recipe is written as it was given, so that what the player left to the default stays open to it.
func (b *builder) setting() {
	b.lick.Key = b.key(b.palette)
	b.lick.Recipe = b.Recipe.asGiven().String()
	b.lick.Feel, b.lick.Loop = lick.Feel(b.Feel), b.Loop
	if b.Tempo > 0 {
		b.lick.Tempo = b.Tempo
	}
	b.lick.Title = b.Recipe.Title()
	b.at, b.lick.Pickup = b.offset, b.lead
}

// usual are the values that an argument has where nothing is said.
var usual = map[string]string{
	"dir":    "up",
	"feel":   "straight",
	"turn":   "once",
	"repeat": "1",
	"follow": "key",
}

// asGiven drops what is a default.
func (r Recipe) asGiven() Recipe {
	for name, value := range usual {
		if r.Get(name) == value {
			_ = r.Set(name, "") // nothing can be wrong with an empty value
		}
	}
	return r
}

// key is the chosen tones of one of the run's palettes.
func (p *plan) key(palette music.Palette) lick.Key {
	return lick.Key{Tonic: palette.Tonic.String(), Scale: palette.Scale.Name, Add: list(p.Add), Drop: list(p.Drop)}
}

// cells plays the cell at every station of the way.
//
// Three things can end it: the cells asked for are played, the bars are full, or the stations are used up. Only the
// last can be against the player's wish, and then the error says how much room there was. A cell is played more than
// once at a station where the recipe repeats it, and once more where the strings are to be left on one stroke (see
// odd); its mirror belongs to it and is not counted.
func (b *builder) cells() error {
	legs, err := b.legs()
	if err != nil {
		return err
	}
	limit := b.Times
	if limit == 0 {
		limit = maxTimes
	}
	end := b.lick.Meter.Bar().Times(int64(b.Bars)).Add(b.offset).Add(b.lead)
	if b.From != "" && b.land != nil && b.land.Beat > 1 {
		end = end.Add(lick.NewTime(int64(b.land.Beat-1), int64(b.lick.Meter.Unit)))
	}
	b.end = end
	played := 0
	for _, leg := range legs {
		b.down = leg.down
		for k, st := range leg.stations {
			for again, first := b.Repeat, true; again > 0; again-- {
				if played == limit {
					return nil
				}
				if b.Bars > 0 && !b.at.Before(end) {
					b.cut(end)
					return nil
				}
				cell := b.cellOf(leg.first+k, leg.down)
				if b.landsInBar() && b.Times == 0 && (b.starts() && !b.at.Before(b.landsAt()) ||
					!b.starts() && !b.roomToLand(cell)) {
					b.fewer = true
					if played == 0 {
						return phrase.Wrong(b.Land, "not one cell ends before that")
					}
					return nil
				}
				over, ok := st.(within)
				if ok && over.key != nil {
					b.tones(*over.key)
				}
				began := b.at
				if err := b.play(st, cell, false); err != nil {
					return err
				}
				if b.Mirror {
					if err := b.mirror(st, cell); err != nil {
						return err
					}
				}
				b.last = st
				b.under(over.chord, began)
				if played++; b.Even && played > 1 && first && odd(b.lick, b.run.Cells[len(b.run.Cells)-1]) {
					again++
				}
				first = false
			}
		}
	}
	if b.Bars > 0 && b.at.Before(end) {
		return fmt.Errorf("the layout has room for %s, not for %d bars", say.Count(played, "cell"), b.Bars)
	}
	if b.Times > 0 && played < b.Times {
		return phrase.Wrong(fmt.Sprint(b.Times),
			fmt.Sprintf("times: from there the layout has room for %s", say.Count(played, "cell")))
	}
	if played == 0 {
		return b.noRoom(nil)
	}
	if b.Bars > 0 {
		b.cut(end)
	}
	return nil
}

// landsInBar says whether the run is as long as it takes to land in a bar.
func (p *plan) landsInBar() bool { return p.land != nil && p.land.Bar > 0 }

// mirror answers the cell just played with its mirror: it begins where the cell's slides have
// brought the hand and leads back to where the cell began, so that the two go round as a
// loop. A cell without slides is answered a tone lower.
func (b *builder) mirror(st station, cell []phrase.Step) error {
	notes := func(from int) (out []*lick.Note) {
		for i := from; i < len(b.lick.Notes); i++ {
			out = append(out, &b.lick.Notes[i])
		}
		return out
	}
	p, _ := b.lick.PaletteAt(b.at)
	higher, slid := shape.Slid(b.guitar, p, notes(b.run.Cells[len(b.run.Cells)-1].From))
	if !slid {
		higher = -1
	}
	from := len(b.lick.Notes)
	if err := b.play(st, cell, false); err != nil {
		return err
	}
	if err := shape.Mirror(b.guitar, p, notes(from), higher); err != nil {
		return fmt.Errorf("the run has no room for the mirror: %w", err)
	}
	return nil
}

// under has a chord last from a time up to now.
func (b *builder) under(chord string, from lick.Time) {
	if chord == "" {
		return
	}
	if k := len(b.lick.Chords) - 1; k >= 0 && b.lick.Chords[k].Name == chord {
		b.lick.Chords[k].Len = b.at.Sub(b.lick.Chords[k].At)
		return
	}
	b.lick.Chords = append(b.lick.Chords, lick.Chord{At: from, Len: b.at.Sub(from), Name: chord})
}

// chordsByBar lays the chords of a run that does not move by chords under it, a bar each, round and
// round up to its end; those of one that does last as long as their cells, the last with what follows.
func (b *builder) chordsByBar() {
	end := b.lick.End()
	if k := len(b.lick.Chords) - 1; k >= 0 {
		b.lick.Chords[k].Len = end.Sub(b.lick.Chords[k].At)
		return
	}
	bar, at := b.lick.Meter.Bar(), b.lick.Pickup
	for k := 0; len(b.chords) > 0 && at.Before(end); k++ {
		b.lick.Chords = append(b.lick.Chords, lick.Chord{At: at, Len: bar, Name: b.chords[k%len(b.chords)].chord.Name})
		at = at.Add(bar)
	}
}

// tones has the lick's tones be those of a scale from here on.
func (b *builder) tones(k lick.Key) {
	switch {
	case len(b.lick.Notes) == 0:
		b.lick.Key = k
	case b.lick.KeyAt(b.at).Scale != k.Scale || b.lick.KeyAt(b.at).Tonic != k.Tonic:
		b.lick.Keys = append(b.lick.Keys, lick.KeySpan{At: b.at, Key: k})
	}
}

// odd says whether a cell lies on one string and picks an odd number of notes there: played
// twice, the string's count is even. A cell over several strings leaves each of them as
// often as it comes back, so that playing it again would not help.
func odd(l lick.Lick, c Played) bool {
	picked := 0
	for _, n := range l.Notes[c.From:c.To] {
		if n.String != l.Notes[c.From].String {
			return false
		}
		if !n.Slur.Slurred() {
			picked++
		}
	}
	return picked%2 == 1
}

// cut takes away what lies beyond a time: notes that begin at it or later, and of those that reach over it the rest.
// The cells are shortened with them, and those that lose all of their notes go, so that Cells still names notes.
func (b *builder) cut(end lick.Time) {
	for n := len(b.lick.Notes); n > 0 && !b.lick.Notes[n-1].At.Before(end); n-- {
		b.lick.Notes = b.lick.Notes[:n-1]
	}
	for i := range b.lick.Notes {
		if n := &b.lick.Notes[i]; end.Before(n.End()) {
			n.Len = end.Sub(n.At)
		}
	}
	b.run.Cells = slices.DeleteFunc(b.run.Cells, func(c Played) bool { return c.From >= len(b.lick.Notes) })
	for i := range b.run.Cells {
		b.run.Cells[i].To = min(b.run.Cells[i].To, len(b.lick.Notes))
	}
	b.column = slices.DeleteFunc(b.column, func(i int) bool { return i >= len(b.lick.Notes) })
	b.lick.Chords = slices.DeleteFunc(b.lick.Chords, func(c lick.Chord) bool { return !c.At.Before(end) })
	b.at = lick.Earlier(b.at, end)
}

// leg is a way in one direction.
type leg struct {
	stations []station
	down     bool
	first    int // the number of its first station, for cells that take turns
}

// errTooLong is a run that goes on for longer than anybody practises.
var errTooLong = fmt.Errorf("the run would have more than %d notes; play fewer cells", MaxNotes)

// play adds the notes of one cell. Each step takes the next of the lengths, which go round
// through the whole run: with eighth and two sixteenths in turn a cell of four steps shifts
// against them. A hold lengthens what sounded last, a rest ends it. The last places, as many
// as there are strings, are handed to the station, which may have to choose among several.
func (b *builder) play(st station, cell []phrase.Step, tail bool) error {
	from := len(b.lick.Notes)
	var before []neck.Place
	index := 0
	for _, s := range cell {
		length := b.lengths[b.steps%len(b.lengths)]
		b.steps++
		switch {
		case s.Rest:
			b.column = nil
		case s.Hold:
			for _, i := range b.column {
				b.lick.Notes[i].Len = b.lick.Notes[i].Len.Add(length)
			}
		default:
			places, err := b.step(st, s, index, before, length)
			if err != nil {
				return err
			}
			before = append(before, places...)
			before = before[max(0, len(before)-neck.MaxStrings):]
			index += len(s.Tones)
		}
		b.at = b.at.Add(length)
		// What lies beyond the bars asked for is cut.
		if len(b.lick.Notes) > MaxNotes && (b.Bars == 0 || tail || !b.end.Before(b.at)) {
			return errTooLong
		}
	}
	b.run.Cells = append(b.run.Cells, Played{from, len(b.lick.Notes), tail})
	return nil
}

// step adds the notes of one step that sound together. Two tones of a chord may fall on one
// string; the second is then taken to another string within the reach of the hand, or the step
// is refused by name. The bend of a step is that of its first tone.
func (b *builder) step(st station, s phrase.Step, index int, before []neck.Place,
	length lick.Time) ([]neck.Place, error) {
	var places []neck.Place
	var column []int
	for k, t := range s.Tones {
		found, err := st.find(t, index+k, append(slices.Clone(before), places...))
		if err != nil {
			return nil, err
		}
		for _, f := range found {
			if taken(places, f.place.String) {
				var ok bool
				if f.place, ok = b.elsewhere(f.place, places); !ok {
					return nil, phrase.Wrong(s.Text(b.phrase.Kind),
						"two of its tones fall on one string, and no other string near has one")
				}
			}
			n := lick.Note{At: b.at, Len: length, String: f.place.String, Fret: f.place.Fret, Accent: s.Accent}
			if s.Stroke != "" {
				n.Stroke, n.Lock = s.Stroke, lick.LockSet{lick.FieldStroke}
			}
			if s.Vibrato > 0 && f.place.Fret > 0 {
				n.Vibrato = &lick.Vibrato{Width: [...]lick.Width{lick.Narrow, lick.Wide}[s.Vibrato-1], Speed: lick.Slow}
			}
			if s.In != "" && f.place.Fret > 1 {
				n.SlideIn = &lick.SlideIn{Frets: 1, From: s.In}
			}
			b.slur(&n, s, f)
			b.byRule(&n, s)
			if k == 0 && s.Bend != nil {
				if err := b.bend(&n, st, s, index, before); err != nil {
					return nil, err
				}
			}
			places, column = append(places, f.place), append(column, len(b.lick.Notes))
			b.lick.Notes = append(b.lick.Notes, n)
		}
	}
	if b.Accent > 0 && b.onsets%b.Accent == 0 {
		for _, i := range column {
			b.lick.Notes[i].Accent = true
		}
	}
	b.onsets++
	b.column = column
	return places, nil
}

// chordSpan is how many frets a chord taken from a shape may span.
const chordSpan = 5
