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
		{"C major", "Dm7b5", "locrian", ""},
		{"C natural minor", "Dm7b5", "locrian", ""},
		{"C major", "C+", "", "phrygian dominant"},
		{"C major", "G7#5", "whole tone", ""},
		{"C major", "G7alt", "altered", ""},
		{"C major", "Dm7", "dorian", "altered"},
		{"C major", "G7", "mixolydian", "altered"},
		{"C major", "Fmaj7", "lydian", "lydian augmented"},
		{"A harmonic minor", "E7b9", "phrygian dominant", ""},
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
