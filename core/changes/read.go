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
	Passes bool         // it resolves: it goes on by step, or belongs to an enclosure
}

// Report is a line against its changes.
type Report struct {
	Chords   []ChordChange
	Notes    []Note // one for each note of the line, in its order
	Landings []Landing
	Rests    []Resting // where phrases come to rest, in playing order
}

// ChordChange is a chord with its time. A chord that is written again goes on.
type ChordChange struct {
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
			r.Chords[k].End = c.End()
			continue
		}
		r.Chords = append(r.Chords, ChordChange{Name: chord.Name, Chord: chord, At: c.At, End: c.End()})
	}
	r.notes(l)
	r.resolve(l)
	r.landings(l)
	r.rests(l)
	return r
}

// notes finds every note's role. Notes and chords both rise in time, so that one walk over the chords serves all notes.
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
		p = paletteOf(l, at)
		read[span] = p
	}
	return p
}

// paletteOf is the palette that holds at a time, nil where no key does.
func paletteOf(l lick.Lick, at lick.Time) *music.Palette {
	p, ok := l.PaletteAt(at)
	if !ok {
		return nil
	}
	return &p
}

// Sounding is the pitch that note i is heard by: a bend counts by where it arrives.
func Sounding(l lick.Lick, i int) music.Pitch {
	p := l.Pitch(i)
	if b := l.Notes[i].Bend; b != nil && !b.Pre() {
		p += music.Pitch(b.Semitones)
	}
	return p
}
