package find

import (
	"cmp"
	"fmt"
	"strconv"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/phrase"
)

// reading is one way in which the steps of a line are counted: how far one lies from another, and what a cell that is
// counted so names. Over a ladder a note lies on a step, on a string as one of its tones, an octave from another one,
// or on the string of another one up or down the neck; over the chords of the key it has its string. All are
// searched alike (search.go).
type reading struct {
	kind  phrase.Kind
	apart distance
	// base is where tone 1 of a statement lies.
	base func(from, to, by int) (int, bool)
	// tones are what a step names, counted from there.
	tones func(i, base, by int) ([]phrase.Tone, bool)
	// move is the word for statements that lie so far apart; ok is false where there is none.
	move func(by int) (word string, ok bool)
}

// distance is how far step k lies beyond step i, which are of one kind. known is false where that fits any distance;
// ok is false where the two cannot be the same step of two statements.
type distance func(i, k int) (by int, known, ok bool)

// onSteps reads notes as steps of a ladder, a double stop as one where the ladder has it so, else as several.
func (f *finder) onSteps(c candidate) reading {
	at := make([]int, len(f.items)) // ladder step of each item, −1 none
	group := func(it item) (out []int) {
		for _, n := range it.notes {
			if k, ok := c.step[n.Place()]; ok {
				out = append(out, k)
			}
		}
		return out
	}
	for i, it := range f.items {
		at[i] = -1
		if all := group(it); len(all) > 0 && len(all) == len(it.notes) {
			at[i] = all[0]
		} else if len(it.notes) > 1 {
			if k, ok := c.step[it.notes[0].Place()]; ok && len(c.Steps[k]) == len(it.notes) {
				at[i] = k
			}
		}
	}
	return reading{
		kind: phrase.Tones,
		apart: func(i, k int) (int, bool, bool) {
			return at[k] - at[i], true, at[i] >= 0 && at[k] >= 0
		},
		// Players count from the lowest step that a statement touches, and so a run finds where its layout ends.
		base: func(from, to, _ int) (int, bool) {
			base, ok := 1<<30, true
			for i := from; i < to; i++ {
				if len(f.items[i].notes) > 0 {
					base, ok = min(base, at[i]), ok && at[i] >= 0
				}
			}
			return base, ok
		},
		tones: func(i, base, _ int) (out []phrase.Tone, ok bool) {
			if at[i] < 0 {
				return nil, false
			}
			steps := []int{at[i]}
			if it := f.items[i]; len(it.notes) > 1 && len(c.Steps[at[i]]) != len(it.notes) {
				steps = group(it)
			}
			for _, k := range steps {
				out = append(out, phrase.Tone{N: k - base + 1})
			}
			return out, true
		},
		// A stretch that stays where it is is a cell repeated; a move of one tone need not be said.
		move: func(by int) (string, bool) {
			switch by {
			case 0:
				return "stay", true
			case 1, -1:
				return "", true
			}
			return strconv.Itoa(max(by, -by)), true
		},
	}
}

// moved is a reading whose statements go on by a word of their own; strings go on by an octave two at a time.
func (r reading) moved(word string) reading {
	strs := r.kind == phrase.Strings
	r.move = func(by int) (string, bool) { return word, by != 0 && (!strs || by == 2 || by == -2) }
	return r
}

// octaves compares notes that lie an octave apart as a hand finds it: two strings over and two frets up, three across
// the step between strings 3 and 2 (neck.Guitar.Octaves, which reads the tuning).
func (f *finder) octaves(i, k int) (by int, known, ok bool) {
	return f.alike(i, k, func(a, b lick.Note) (int, bool) {
		for _, up := range []int{1, -1} {
			if to, ok := f.guitar.Octaves(a.Place(), up); ok && to == b.Place() {
				return up, true
			}
		}
		return 0, false
	})
}

// along compares notes of a cell that keeps its strings and moves along the neck. In a scale the distances in frets
// differ from place to place, so only the direction is compared: every note lies on the string of its forerunner and
// none goes the other way. Whether the tones are those of the scale is left to the growing.
//
// As an example, 6:5 6:8 5:5 and 6:8 6:10 5:7 are one cell moved up the neck: by three frets, two and two, and so by a
// position.
func (f *finder) along(i, k int) (by int, known, ok bool) {
	return f.alike(i, k, func(a, b lick.Note) (int, bool) { return cmp.Compare(b.Fret, a.Fret), a.String == b.String })
}

// alike joins what related says of the notes of two steps.
func (f *finder) alike(i, k int, related func(a, b lick.Note) (int, bool)) (by int, known, ok bool) {
	a, b := f.items[i], f.items[k]
	for n := range a.notes {
		d, ok := related(a.notes[n], b.notes[n])
		if !ok || d != 0 && by == -d {
			return 0, false, false
		}
		by = cmp.Or(by, d)
	}
	return by, by != 0, true
}

// onStrings reads notes by their string and which of the layout's tones on it they are: two correspond if they are the
// same tone of their strings, and the distance is how many strings lie between. The cell is counted from the string
// on which it goes on: the thickest of its first statement on the way to the thin strings, the thinnest on the way
// back. Worked example: 6:5 6:8 5:5 5:7 and 5:5 5:7 4:5 4:7 in a box are the cell a1 a2 b1 b2, one string on.
func (f *finder) onStrings(c candidate) reading {
	row := func(i int) ([2]int, bool) {
		if len(f.items[i].notes) != 1 {
			return [2]int{}, false
		}
		r, ok := c.row[f.items[i].notes[0].Place()]
		return r, ok
	}
	return reading{
		kind: phrase.Strings,
		apart: func(i, k int) (int, bool, bool) {
			x, ok1 := row(i)
			y, ok2 := row(k)
			return y[0] - x[0], true, ok1 && ok2 && x[1] == y[1]
		},
		base: func(from, to, by int) (int, bool) {
			lo, hi := 1<<30, -1
			for i := from; i < to; i++ {
				if x, ok := row(i); ok {
					lo, hi = min(lo, x[0]), max(hi, x[0])
				}
			}
			if by < 0 {
				return hi, true
			}
			return lo, true
		},
		tones: func(i, base, by int) ([]phrase.Tone, bool) {
			x, ok := row(i)
			str := x[0] - base
			if by < 0 {
				str = -str
			}
			return []phrase.Tone{{N: x[1], String: str}}, ok && str >= 0 && str <= 8
		},
		move: func(by int) (string, bool) {
			if by == 1 || by == -1 {
				return "", true
			}
			return fmt.Sprintf("string:%d", max(by, -by)), by != 0
		},
	}
}

// overRoots reads one figure over the chords of the key: its strings stay, its first note is the root that the others
// are degrees over. Worked example: C E G | D F A | E G B in C is the figure 1 3 5 over the chords 1 2 3.
func (f *finder) overRoots() reading {
	return reading{
		kind: phrase.Chord,
		apart: func(i, k int) (int, bool, bool) {
			a, b := f.items[i].notes, f.items[k].notes
			return 0, false, len(a) == 1 && a[0].String == b[0].String
		},
		base: func(from, _, _ int) (int, bool) { return from, len(f.items[from].notes) == 1 },
		tones: func(i, base, _ int) ([]phrase.Tone, bool) {
			root := f.line.Pitch(f.items[base].first)
			t, ok := chordTone(f.palette, f.palette.At(root).Name, int(f.line.Pitch(f.items[i].first)-root))
			return []phrase.Tone{t}, ok && len(f.items[i].notes) == 1
		},
		move: func(int) (string, bool) { return "", true },
	}
}

// rootsOf are the degrees of the key on which statements of a length begin, up to the first that begins on none.
func (f *finder) rootsOf(from, to, length int) (out []string) {
	for ; from+length <= to && len(f.items[from].notes) == 1; from += length {
		t := f.palette.At(f.line.Pitch(f.items[from].first))
		if t.Role == music.Outside {
			break
		}
		out = append(out, t.Degree.String())
	}
	return out
}

// chordTone names a height over a chord's root: the degree of the key's own tones that lies so high over it, or where
// none does the plain chromatic one, marked so that it stays when the chord changes.
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
