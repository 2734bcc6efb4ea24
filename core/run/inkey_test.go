package run

import (
	"strings"
	"testing"

	"ornamen/core/neck"
)

// A key is taken as it is typed, with the shape and the place that fit it, whatever the run was before: every
// root in both kinds and the modes, from a scale of seven tones and from one of five.
func TestInKey(t *testing.T) {
	g := neck.Standard()
	for _, from := range []Recipe{
		{Key: "C# natural minor", Layout: "3nps", At: "6:9", Cell: "3 2 1 4", Times: 8, Land: "4"},
		{Key: "A minor pentatonic", Layout: "box", At: "6:5", Cell: "1 2 3"},
		{Key: "G major", Layout: "pairs:3,1:6", Cell: "1 2"},
	} {
		for _, root := range strings.Fields("C C# Db D Eb E F F# Gb G Ab A Bb B") {
			for _, scale := range []string{"", "m", " minor", " major", " minor pentatonic", " blues", " mixolydian", " dorian",
				" harmonic minor", "m pentatonic", " minor pent", "maj"} {
				r, err := from.InKey(g, root+scale)
				if err != nil {
					t.Errorf("%s%s from %s: %v", root, scale, from.Key, err)
					continue
				}
				if _, err := Grow(r, g); err != nil {
					t.Errorf("%s%s from %s: %s: %v", root, scale, from.Key, r, err)
				}
				if !strings.HasPrefix(r.Key, root) {
					t.Errorf("%s%s is read as %s", root, scale, r.Key)
				}
			}
		}
	}
	// The nearest root on the string where the run begins, the same degree where there is one.
	for _, c := range []struct{ at, key, want string }{
		{"6:9", "A natural minor", "6:5"}, {"6:9", "E minor", "6:12"}, {"6:9", "B♭", "6:6"}, {"6:9", "D dorian", "6:10"},
		{"6:12", "A natural minor", "6:8"}, // the third
		{"6:9", "G minor pentatonic", "6:3"},
	} {
		r, err := Recipe{Key: "C# natural minor", Layout: "3nps", At: c.at, Cell: "1 2 3 4"}.InKey(g, c.key)
		if err != nil || r.At != c.want {
			t.Errorf("%s from %s in %s begins at %s, want %s (%v)", c.key, c.at, r.Key, r.At, c.want, err)
		}
	}
	for text, want := range map[string]string{"Am": "A minor pentatonic", "A": "A minor pentatonic", "Amaj": "A major",
		"bb minor": "Bb natural minor", "f# pentatonic minor": "F# minor pentatonic"} {
		r, err := Recipe{Key: "E minor pentatonic", Cell: "1 2 3"}.InKey(g, text)
		if err != nil || r.Key != want {
			t.Errorf("%q is read as %s, want %s (%v)", text, r.Key, want, err)
		}
	}
	for _, text := range []string{"", "H minor", "A dorain", "minor", "7"} {
		if r, err := (Recipe{Key: "E minor pentatonic", Cell: "1 2 3"}).InKey(g, text); err == nil {
			t.Errorf("%q is read as %s", text, r.Key)
		}
	}
}
