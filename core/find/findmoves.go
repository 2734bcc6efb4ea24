package find

import (
	"cmp"
	"context"
	"fmt"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/phrase"
)

// stringsOn looks for cells over the strings of a layout.
//
// A place is here a string and which of the layout's tones on it: two places correspond if
// they are the same tone of their strings, and the distance is how many strings lie between.
// With that the search is the one of tones (periods). The cell is counted from the string on
// which it goes on: the thickest of its first statement on the way to the thin strings, the
// thinnest on the way back. Worked example: 6:5 6:8 5:5 5:7 and 5:5 5:7 4:5 4:7 in a box are
// the cell a1 a2 b1 b2, one string on.
func (f *finder) stringsOn(ctx context.Context, c candidate) {
	row := func(i int) ([2]int, bool) {
		if len(f.items[i].notes) != 1 {
			return [2]int{}, false
		}
		r, ok := c.row[f.items[i].notes[0].Place()]
		return r, ok
	}
	moves := func(i, k int) (int, bool) {
		a, b := f.items[i], f.items[k]
		if !a.like(b) {
			return 0, false
		}
		if len(a.notes) == 0 {
			return 0, true
		}
		x, ok1 := row(i)
		y, ok2 := row(k)
		return y[0] - x[0], ok1 && ok2 && x[1] == y[1]
	}
	f.periods(ctx, moves, f.silent, func(from, to, length, by int) {
		if by == 0 {
			return
		}
		cells := (to - from) / length
		lo, hi := 1<<30, -1
		for i := from; i < from+length; i++ {
			if x, ok := row(i); ok {
				lo, hi = min(lo, x[0]), max(hi, x[0])
			}
		}
		first := lo
		if by < 0 {
			first = hi
		}
		write := func(a, b, first int) ([]phrase.Step, bool) {
			var cell []phrase.Step
			for i := a; i < b; i++ {
				it := f.items[i]
				switch {
				case it.rest:
					cell = append(cell, phrase.Step{Rest: true})
				case it.hold:
					cell = append(cell, phrase.Step{Hold: true})
				default:
					x, ok := row(i)
					str := x[0] - first
					if by < 0 {
						str = first - x[0]
					}
					if !ok || str < 0 || str > 8 {
						return nil, false
					}
					s := f.marks(it)
					s.Tones = []phrase.Tone{{N: x[1], String: str}}
					cell = append(cell, s)
				}
			}
			return cell, len(cell) > 0 && !cell[0].Hold
		}
		cell, ok := write(from, from+length, first)
		if !ok || cell[0].Rest {
			return
		}
		f.addMarks(cell, from, to)
		r := f.base(c)
		r.Cell = phrase.Phrase{Kind: phrase.Strings, Cells: [][]phrase.Step{cell}}.String()
		if by < 0 {
			r.Dir = "down"
		}
		if by != 1 && by != -1 {
			r.Move = fmt.Sprintf("string:%d", max(by, -by))
		}
		f.addTries(c, r, from, to, cells, length, first, func(i int) ([]phrase.Step, bool) {
			return write(from+cells*length, i, first+by*(cells-1))
		})
		if by == 2 || by == -2 {
			// Two strings over may be an octave in the same fingering.
			r.Move = "octave"
			f.add(r, from, from+cells*length)
		}
	})
	f.octaveCells(ctx, c)
}

// octaveCells looks for a cell repeated two strings over, an octave up or down. The octave of
// a place is where a hand finds it: two strings over and two frets up, three across the step
// between strings 3 and 2 (neck.Guitar.Octaves, which reads the tuning).
func (f *finder) octaveCells(ctx context.Context, c candidate) {
	f.alike(ctx, c, "octave", func(a, b lick.Note) (int, bool) {
		for _, up := range []int{1, -1} {
			if to, ok := f.guitar.Octaves(a.Place(), up); ok && to == b.Place() {
				return up, true
			}
		}
		return 0, false
	})
}

// positions looks for a cell that keeps its strings and moves along the neck. In a scale the
// distances in frets differ from place to place, so only the direction is compared: every note
// of a statement lies on the string of its forerunner and none goes the other way. Whether the
// tones are those of the scale is left to the growing.
//
// As an example, 6:5 6:8 5:5 and 6:8 6:10 5:7 are one cell moved up the neck: by three frets,
// two and two, and so by a position.
func (f *finder) positions(ctx context.Context, c candidate) {
	f.alike(ctx, c, "position", func(a, b lick.Note) (int, bool) {
		return cmp.Compare(b.Fret, a.Fret), a.String == b.String
	})
}

// alike looks for cells whose notes lie from statement to statement as related says: on, back (1, −1)
// or neither. A cell is tried as far as the layout goes and so many times, from where it fits and from
// where it begins; those that come out as the line is written are kept.
func (f *finder) alike(ctx context.Context, c candidate, move string, related func(a, b lick.Note) (int, bool)) {
	apart := func(i, k int) (by int, ok bool) {
		a, b := f.items[i], f.items[k]
		if !a.like(b) {
			return 0, false
		}
		for n := range a.notes {
			d, ok := related(a.notes[n], b.notes[n])
			if !ok || d != 0 && by == -d {
				return 0, false
			}
			by = cmp.Or(by, d)
		}
		return by, true
	}
	still := func(i, k int) bool { by, ok := apart(i, k); return ok && by == 0 }
	f.periods(ctx, apart, still, func(from, to, length, by int) {
		if by == 0 || length < 2 {
			return
		}
		cell, base, ok := f.cellAt(c, from, length)
		if !ok {
			return
		}
		cells := (to - from) / length
		f.addMarks(cell, from, to) // a silent shift leads to the second statement, not to the first
		r := f.base(c)
		r.Cell = phrase.Phrase{Kind: phrase.Tones, Cells: [][]phrase.Step{cell}}.String()
		r.Move = move
		if by < 0 {
			r.Dir = "down"
		}
		for _, r.Start = range []int{0, base + 1} {
			for _, r.Times = range []int{0, cells} {
				f.add(r, from, from+cells*length)
			}
		}
	})
}

// cellAt writes some items as a cell of a ladder, tone 1 its lowest.
func (f *finder) cellAt(c candidate, from, length int) (cell []phrase.Step, base int, ok bool) {
	at := make([]int, from+length)
	base = 1 << 30
	for i := from; i < from+length; i++ {
		at[i] = -1
		if len(f.items[i].notes) > 0 {
			k, on := c.step[f.items[i].notes[0].Place()]
			if !on {
				return nil, 0, false
			}
			at[i] = k
			base = min(base, k)
		}
	}
	cell, ok = f.cellOf(c, at, from, from+length, base)
	return cell, base, ok && !cell[0].Rest
}

// chords looks for one figure over the chords of the key: the first note is the
// root, the strings stay.
//
// The first statement is read as degrees over its first note; the first note of each later
// statement names the chord. Three recipes are tried: as far as the chords of the key go, so
// many of them, and these very chords. Worked example: C E G | D F A | E G B in C is the figure
// 1 3 5 over the chords 1 2 3.
func (f *finder) chords() {
	n := len(f.items)
	for length := 3; length <= min(24, n/2); length++ {
		root := f.items[0]
		if len(root.notes) != 1 {
			return
		}
		name := f.palette.At(f.line.Pitch(root.first)).Name
		var cell []phrase.Step
		var strs []int
		ok := true
		for i := 0; i < length && ok; i++ {
			it := f.items[i]
			switch {
			case it.rest:
				cell = append(cell, phrase.Step{Rest: true})
			case it.hold:
				cell = append(cell, phrase.Step{Hold: true})
			case len(it.notes) > 1:
				ok = false
			default:
				s := f.marks(it)
				t, is := chordTone(f.palette, name, int(f.line.Pitch(it.first)-f.line.Pitch(root.first)))
				ok = is
				s.Tones = []phrase.Tone{t}
				cell, strs = append(cell, s), append(strs, it.notes[0].String)
			}
		}
		if !ok {
			continue
		}
		cells := n / length
		var degrees []string
		for k := range cells {
			it := f.items[k*length]
			if len(it.notes) != 1 || it.notes[0].String != root.notes[0].String {
				break
			}
			t := f.palette.At(f.line.Pitch(it.first))
			if t.Role == music.Outside {
				break
			}
			degrees = append(degrees, t.Degree.String())
		}
		if len(degrees) < 2 {
			continue
		}
		r := f.base(candidate{at: root.notes[0].Place().Notation()})
		r.Cell = phrase.Phrase{Kind: phrase.Chord, Cells: [][]phrase.Step{cell}, Strings: strs}.String()
		end := len(degrees) * length
		f.add(r, 0, end)
		r.Times = len(degrees)
		f.add(r, 0, end)
		r.Times = 0
		r.Chords = strings.Join(degrees, " ")
		f.add(r, 0, end)
	}
}

// chordTone names a height over a chord's root: the degree of the key's own tones that lies
// so high over it, or where none does the plain chromatic one, marked so that it stays when the
// chord changes.
func chordTone(p music.Palette, root music.Name, semitones int) (phrase.Tone, bool) {
	octave := 0
	for semitones < 0 {
		semitones, octave = semitones+12, octave-1
	}
	octave, semitones = octave+semitones/12, semitones%12
	if octave < -3 || octave > 3 {
		return phrase.Tone{}, false
	}
	for n := 1; n <= 7; n++ {
		d := music.Degree{Number: n}
		if h, is := p.Over(root, d); is && h == semitones {
			return phrase.Tone{Degree: d, Octave: octave}, true
		}
	}
	d := music.ChromaticDegree(semitones)
	return phrase.Tone{Degree: d, Octave: octave, Plain: d.Alter == 0}, true
}
