package shape

import (
	"testing"

	"ornamen/core/hand"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/player"
)

// Which bends are common, which are played now and then (common practice): full bends
// from the upper tone of a plain string to root, fourth or fifth, in scales of seven tones
// too; half steps; never a step and a half, a thick string or the index.
func TestRatings(t *testing.T) {
	g := neck.Standard()
	for _, c := range []struct {
		key, add, layout, at, place string
		semitones                   int
		want                        Rating
	}{
		{"A minor pentatonic", "", "box", "6:5", "2:8", 2, Common}, // ♭7 to the root
		{"A minor pentatonic", "", "box", "6:5", "3:7", 2, Common}, // 4 to the fifth
		{"A minor pentatonic", "", "box", "6:5", "6:8", 2, Usable}, // hardly ever on a bass string
		{"A minor pentatonic", "", "box", "6:5", "5:7", 3, Wide},
		{"A minor pentatonic", "b5", "box", "6:5", "3:7", 1, Common}, // a half step to the colour note
		{"A natural minor", "", "3nps", "6:5", "2:8", 2, Common},     // in seven tones too
		{"A natural minor", "", "3nps", "6:5", "3:7", 2, Common},     // 4 to the fifth
		{"A natural minor", "", "3nps", "6:5", "1:8", 2, Common},     // ♭3 to the fourth, the highest there
		{"C major", "", "3nps", "6:8", "2:12", 1, Common},            // 7 to the root, a half step
		{"A minor pentatonic", "", "box", "6:5", "1:5", 3, Hard},     // the index
	} {
		p, err := music.ParseKey(c.key, fields(c.add), nil)
		if err != nil {
			t.Fatal(err)
		}
		layout, err := ParseLayout(c.layout)
		if err != nil {
			t.Fatal(err)
		}
		at, err := neck.ParsePlace(c.at)
		if err != nil {
			t.Fatal(err)
		}
		placed, err := Lay(g, p, layout, at)
		if err != nil {
			t.Fatal(err)
		}
		Finger(hand.NewModel(hand.Medium(), g), placed)
		AddBends(g, player.Default(), p, placed)
		got := Rating("not there")
		for _, x := range placed {
			if x.Place.Notation() != c.place {
				continue
			}
			for _, b := range x.Bends {
				if b.Semitones == c.semitones {
					got = b.Rating
				}
			}
		}
		if got != c.want {
			t.Errorf("%s %s at %s, %s bent %d: %s, want %s", c.key, c.layout, c.at, c.place, c.semitones, got, c.want)
		}
	}
}

func fields(s string) []string {
	if s == "" {
		return nil
	}
	return []string{s}
}
