package lick

// Sounding is when a note sounds, in seconds from the lick's start at its tempo, feel applied.
type Sounding struct{ At, Len float64 }

// Timeline is when every note sounds, one entry a note. It is what is heard and what
// lights up; the hands are judged by the same times (Milliseconds).
func (l Lick) Timeline() []Sounding {
	out := make([]Sounding, len(l.Notes))
	for i, n := range l.Notes {
		at := l.Milliseconds(Time{}, n.At) / 1000
		out[i] = Sounding{at, l.Milliseconds(Time{}, n.End())/1000 - at}
	}
	return out
}

// ChordAt is the chord that holds at a time; ok is false where none is written.
// A chord holds from its beginning up to its end, which is no longer its own.
func (l Lick) ChordAt(at Time) (c Chord, ok bool) {
	for _, c := range l.Chords {
		if !at.Before(c.At) && at.Before(c.End()) {
			return c, true
		}
	}
	return Chord{}, false
}
