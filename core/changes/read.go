package changes

import (
	"ornamen/core/lick"
	"ornamen/core/music"
)

// Note is a note over its chord.
type Note struct {
	Note   int          // from 0
	Chord  int          // of Report.Chords; −1 where none holds
	Degree music.Degree // over the chord
	Role   Role         // empty for a dead note and where no chord holds
	Passes bool         // it goes on by step before it can be heard as an end
}

// Report is a line against its changes.
type Report struct {
	Chords   []Change
	Notes    []Note // one for each note of the line, in its order
	Landings []Landing
}

// Change is a chord with its time. A chord that is written again goes on.
type Change struct {
	Name    string
	Chord   music.Chord
	At, End lick.Time
}

// Read judges a line against its own chords. A chord whose name cannot be read is passed over.
func Read(l lick.Lick) Report {
	var r Report
	for _, c := range l.Chords {
		chord, err := music.ParseChord(c.Name)
		if err != nil {
			continue
		}
		if k := len(r.Chords) - 1; k >= 0 && r.Chords[k].Name == chord.Name && r.Chords[k].End.Cmp(c.At) == 0 {
			r.Chords[k].End = c.At.Add(c.Len)
			continue
		}
		r.Chords = append(r.Chords, Change{chord.Name, chord, c.At, c.At.Add(c.Len)})
	}
	r.notes(l)
	r.landings(l)
	return r
}

// notes finds every note's role. Notes and chords both rise in time, so that one walk over
// the chords serves all notes.
func (r *Report) notes(l lick.Lick) {
	at := 0
	palettes := map[int]*music.Palette{} // by the key span that holds
	for i, n := range l.Notes {
		for at < len(r.Chords) && !n.At.Before(r.Chords[at].End) {
			at++
		}
		x := Note{Note: i, Chord: -1}
		if at < len(r.Chords) && !n.At.Before(r.Chords[at].At) {
			x.Chord = at
			if !n.Mute {
				x.Degree, x.Role = Of(r.Chords[at].Chord, paletteAt(l, n.At, palettes), Sounding(l, i))
			}
		}
		x.Passes = passes(l, i)
		r.Notes = append(r.Notes, x)
	}
}

// paletteAt is the palette that holds at a time, each span's read once.
func paletteAt(l lick.Lick, at lick.Time, read map[int]*music.Palette) *music.Palette {
	span := 0
	for k, s := range l.Keys {
		if !at.Before(s.At) {
			span = k + 1
		}
	}
	p, done := read[span]
	if !done {
		if x, ok := l.PaletteAt(at); ok {
			p = &x
		}
		read[span] = p
	}
	return p
}

// Sounding is the pitch that note i is heard by: a bend counts by where it arrives.
func Sounding(l lick.Lick, i int) music.Pitch {
	p := l.Pitch(i)
	if b := l.Notes[i].Bend; b != nil && !b.Pre() {
		p += music.Pitch(b.Semitones)
	}
	return p
}

// passes says whether the next note of the voice follows without a rest, a step of at most two
// half steps away, before a quarter is over: a tone that passes is not heard as an end (common
// practice).
func passes(l lick.Lick, i int) bool {
	n := l.Notes[i]
	if !n.Len.Before(lick.NewTime(1, 4)) {
		return false
	}
	for k := i + 1; k < len(l.Notes); k++ {
		m := l.Notes[k]
		if m.Voice != n.Voice || !n.At.Before(m.At) {
			continue
		}
		d := l.Pitch(k) - Sounding(l, i)
		return !n.End().Before(m.At) && d >= -2 && d <= 2
	}
	return false
}
