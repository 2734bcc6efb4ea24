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
		{key: "A minor pentatonic", layout: "box", at: "6:5", place: "2:8", semitones: 2, want: Common}, // ♭7 to the root
		{key: "A minor pentatonic", layout: "box", at: "6:5", place: "3:7", semitones: 2, want: Common}, // 4 to the fifth
		{
			key:       "A minor pentatonic",
			layout:    "box",
			at:        "6:5",
			place:     "6:8",
			semitones: 2,
			want:      Usable,
		}, // hardly ever on a bass string
		{key: "A minor pentatonic", layout: "box", at: "6:5", place: "5:7", semitones: 3, want: Wide},
		{
			key:       "A minor pentatonic",
			add:       "b5",
			layout:    "box",
			at:        "6:5",
			place:     "3:7",
			semitones: 1,
			want:      Common,
		}, // a half step to the colour note
		{
			key:       "A natural minor",
			layout:    "3nps",
			at:        "6:5",
			place:     "2:8",
			semitones: 2,
			want:      Common,
		}, // in seven tones too
		{
			key:       "A natural minor",
			layout:    "3nps",
			at:        "6:5",
			place:     "3:7",
			semitones: 2,
			want:      Common,
		}, // 4 to the fifth
		{
			key:       "A natural minor",
			layout:    "3nps",
			at:        "6:5",
			place:     "1:8",
			semitones: 2,
			want:      Common,
		}, // ♭3 to the fourth, the highest there
		{
			key:       "C major",
			layout:    "3nps",
			at:        "6:8",
			place:     "2:12",
			semitones: 1,
			want:      Common,
		}, // 7 to the root, a half step
		{key: "A minor pentatonic", layout: "box", at: "6:5", place: "1:5", semitones: 3, want: Hard}, // the index
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
