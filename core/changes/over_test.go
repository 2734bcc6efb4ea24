package changes

import (
	"strings"
	"testing"

	"ornamen/core/music"
)

// The scale that a chord takes by itself does not gainsay it: locrian over m7♭5, one without a
// plain fifth over an augmented chord, the altered scale over an altered chord, and the mode of
// the key where the chord is one of the key's (common practice).
func TestScalesFor(t *testing.T) {
	for _, c := range []struct{ key, chord, first, never string }{
		{key: "C major", chord: "Dm7b5", first: "locrian"},
		{key: "C natural minor", chord: "Dm7b5", first: "locrian"},
		{key: "C major", chord: "C+", never: "phrygian dominant"},
		{key: "C major", chord: "G7#5", first: "whole tone"},
		{key: "C major", chord: "G7alt", first: "altered"},
		{key: "C major", chord: "Dm7", first: "dorian", never: "altered"},
		{key: "C major", chord: "G7", first: "mixolydian", never: "altered"},
		{key: "C major", chord: "Fmaj7", first: "lydian", never: "lydian augmented"},
		{key: "A harmonic minor", chord: "E7b9", first: "phrygian dominant"},
	} {
		p, err := music.ParseKey(c.key, nil, nil)
		if err != nil {
			t.Fatal(err)
		}
		chord, err := music.ParseChord(c.chord)
		if err != nil {
			t.Fatal(err)
		}
		got := ScalesFor(chord, p)
		if len(got) == 0 || c.first != "" && got[0] != c.first {
			t.Errorf("%s in %s takes %v, want %s first", c.chord, c.key, got, c.first)
		}
		if c.never != "" && strings.Contains(strings.Join(got, ", ")+", ", c.never+", ") {
			t.Errorf("%s in %s takes %v, with %s", c.chord, c.key, got, c.never)
		}
	}
}
