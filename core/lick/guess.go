package lick

import "ornamen/core/music"

// GuessKey guesses the key of a line from its notes, at the pitch that a bend holds, and from the chords under it;
// false if they say too little.
func (l Lick) GuessKey() (music.KeyGuess, bool) {
	h := music.Heard{First: -1, Last: -1, Chord: -1}
	for _, n := range l.Notes {
		if n.Mute || n.Voice == VoiceBass {
			continue
		}
		pitch := l.Tuning[n.String-1] + music.Pitch(n.Fret)
		if b := n.Bend; b != nil && !b.Release() && b.Semitones >= 1 {
			pitch += music.Pitch(b.Semitones)
		}
		class := pitch.Class()
		h.Long[class] += min(n.Len.Float(), 1)
		if h.First < 0 {
			h.First = class
		}
		h.Last = class
	}
	if l.Loop {
		h.Last = h.First // where it comes home
	}
	for i, c := range l.Chords {
		ch, err := music.ParseChord(c.Name)
		if err != nil {
			continue // a chord of a lick is one
		}
		if i == 0 {
			h.Chord = ch.Root.Class()
		}
		for _, d := range ch.Degrees {
			h.Long[(ch.Root.Class()+d.Semitones())%12] += guessedChord * c.Len.Float()
		}
	}
	return music.GuessKey(h)
}

// guessedChord is what a tone of a chord says of the key, against one of the line that sounds as long (model
// default).
const guessedChord = 0.3
