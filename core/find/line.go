package find

import (
	"context"
	"slices"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/phrase"
	"ornamen/core/run"
)

// item is one step of the written line: notes that sound together, a hold or a rest.
type item struct {
	rest, hold bool
	notes      []lick.Note
	first      int // index of its first note in the line
}

// like says whether two items are of one kind: rests, holds, or as many notes.
func (a item) like(b item) bool {
	return a.rest == b.rest && a.hold == b.hold && len(a.notes) == len(b.notes)
}

// newFinder cuts the line into steps; nil where it has no even step or no notes.
func newFinder(ctx context.Context, g neck.Guitar, l lick.Lick) *finder {
	f := &finder{guitar: g, line: l, seen: map[string]bool{}}
	if len(l.Notes) < 2 || len(l.Notes) > run.MaxNotes || !f.tones() || !f.steps() {
		return nil
	}
	return f
}

// tones takes the lick's palette, or the scale that holds all of the line: the scales in the order in which players
// think of them (five tones before seven), over the line's first note, its last one, and then any.
func (f *finder) tones() bool {
	if p, ok := f.line.Palette(); ok {
		f.palette = p
		f.key = p.Tonic.String() + " " + p.Scale.Name
		return true
	}
	first := f.line.Pitch(0)
	for _, name := range []string{"minor pentatonic", "major pentatonic", "blues", "natural minor", "major", "dorian",
		"mixolydian", "harmonic minor", "melodic minor", "phrygian", "lydian"} {
		for _, root := range []int{first.Class(), f.line.Pitch(len(f.line.Notes) - 1).Class(), 0, 1, 2, 3, 4, 5, 6, 7,
			8, 9, 10, 11} {
			p, err := music.NewPalette(music.NameOf(root).String(), name, nil, nil)
			if err != nil {
				continue
			}
			in := func(n lick.Note) bool { return p.Has(music.ChromaticDegree(f.guitar.Pitch(n.Place()).Class() - root)) }
			if !slices.ContainsFunc(f.line.Notes, func(n lick.Note) bool { return !in(n) }) {
				f.palette, f.key = p, p.Tonic.String()+" "+name
				return true
			}
		}
	}
	return false
}

// steps finds the longest step that all times and lengths are whole numbers of. Eighths and
// sixteenths together are sixteenths, every eighth one step and a hold.
func (f *finder) steps() bool {
	cols := f.line.Columns()
	start := f.line.Notes[0].At
	// The last column may ring on: a landing.
	for _, word := range run.CountWords {
		unit := run.StepLength(word)
		items, ok := f.cutInto(cols, start, unit)
		if ok {
			f.count, f.items = word, items
			return true
		}
	}
	return false
}

// silence is how many steps a note of a line that has a recipe may take on average.
const silence = 16

// cutInto writes the columns as steps of one unit: notes, the holds after them and the rests between. ok is false where
// a time or a length is no whole number of units, where notes that sound together differ in length, or where most of it
// would be silence. The last column may ring on as long as it likes.
func (f *finder) cutInto(cols [][2]int, start, unit lick.Time) ([]item, bool) {
	// A cell may hold and rest, but a line of silence is no run.
	most := int64(silence * (len(cols) + silence))
	var items []item
	for k, c := range cols {
		notes := f.line.Notes[c[0]:c[1]]
		at, rest := notes[0].At.Sub(start).Div(unit)
		if !rest.IsZero() || at > most {
			return nil, false
		}
		for int64(len(items)) < at {
			items = append(items, item{rest: true})
		}
		n, rest := notes[0].Len.Div(unit)
		if !rest.IsZero() || n < 1 {
			if k < len(cols)-1 || notes[0].Len.Before(unit) {
				return nil, false
			}
			n = 1
		}
		if slices.ContainsFunc(notes, func(m lick.Note) bool { return m.Len != notes[0].Len }) {
			return nil, false
		}
		items = append(items, item{notes: notes, first: c[0]})
		for range n - 1 {
			if int64(len(items)) > most {
				return nil, false
			}
			items = append(items, item{hold: true})
		}
	}
	// Holds at the very end say nothing of the cell.
	for len(items) > 0 && items[len(items)-1].hold {
		items = items[:len(items)-1]
	}
	return items, true
}

// cell writes steps as a cell; tones says what of a ladder, a string or a chord the notes of one are. ok is false where
// it cannot, and where the cell would begin in the middle of a note.
func (f *finder) cell(from, to int, tones func(i int) ([]phrase.Tone, bool)) (cell []phrase.Step, ok bool) {
	for i := from; i < to; i++ {
		it := f.items[i]
		s := phrase.Step{Rest: it.rest, Hold: it.hold}
		if len(it.notes) > 0 {
			s = marks(it)
			if s.Tones, ok = tones(i); !ok {
				return nil, false
			}
		}
		cell = append(cell, s)
	}
	return cell, len(cell) > 0 && !cell[0].Hold
}

// marks are what the cell says of a step beside its tone: slur, accent, a stroke that the
// player has set, a bend of up to a full step, vibrato, a slide into it. What the notation of
// cells has no word for is left out here, and the line is then not given back by this try.
func marks(it item) phrase.Step {
	n := it.notes[0]
	s := phrase.Step{Slur: n.Slur, Accent: n.Accent}
	if n.Locked(lick.FieldStroke) && (n.Stroke == lick.Down || n.Stroke == lick.Up) {
		s.Stroke = n.Stroke
	}
	if n.Bend != nil && (n.Bend.Semitones <= 2 && n.Bend.Semitones != 4) {
		s.Bend = &phrase.Bend{Semitones: n.Bend.Semitones, Release: n.Bend.Release()}
	}
	if n.Vibrato != nil {
		s.Vibrato = 1
		if n.Vibrato.Width == lick.Wide {
			s.Vibrato = 2
		}
	}
	if n.SlideIn != nil {
		s.In = n.SlideIn.From
	}
	return s
}
