package changes

import (
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"ornamen/core/lick"
)

// Changes come back as they were typed, however many signs a bar has: what is shown in the
// field is what is there.
func TestTextComesBack(t *testing.T) {
	rng := rand.New(rand.NewPCG(9, 9))
	for range 500 {
		l := lick.New()
		l.Meter, _ = lick.ParseMeter([]string{"4/4", "3/4", "6/8", "7/8"}[rng.IntN(4)])
		var bars []string
		sounds := false
		for range 1 + rng.IntN(5) {
			var signs []string
			for range 1 + rng.IntN(9) {
				s := []string{"C", "F#m7", "Bb7", ".", "N.C."}[rng.IntN(5)]
				signs, sounds = append(signs, s), sounds || !strings.HasSuffix(s, ".")
			}
			bars = append(bars, strings.Join(signs, " "))
		}
		typed := strings.Join(bars, " | ")
		chords, err := Parse(typed, l.Meter, l.Pickup, lick.Key{Tonic: "A"})
		if !sounds {
			if err == nil {
				t.Errorf("%q is taken for changes", typed)
			}
			continue
		}
		if err != nil {
			t.Fatalf("%q: %v", typed, err)
		}
		l.Chords = chords
		text := Text(l)
		again, err := Parse(text, l.Meter, l.Pickup, lick.Key{Tonic: "A"})
		if err != nil || !slices.Equal(again, chords) {
			t.Fatalf("%q is shown as %q, which reads %v (%v)", typed, text, again, err)
		}
	}
}

// The fewest parts are shown, silence before the first chord as points, and a chord at a time
// that no even cut has is named all the same.
func TestText(t *testing.T) {
	for typed, want := range map[string]string{
		"C . . .":       "C",
		"C . F .":       "C F",
		"C F G":         "C F G",
		". C | F":       ". C | F",
		"C . . G . . .": "C . . G . . .",
		"C | nc | F":    "C | N.C. | F",
		"C NC | . F":    "C N.C. | . F",
		"C N.C. F .":    "C N.C. F .",
		"C . N.C. .":    "C N.C.",
	} {
		l := lick.New()
		var err error
		if l.Chords, err = Parse(typed, l.Meter, l.Pickup, lick.Key{Tonic: "A"}); err != nil {
			t.Fatal(err)
		}
		if got := Text(l); got != want {
			t.Errorf("%q is shown as %q, want %q", typed, got, want)
		}
	}
	l := lick.New()
	l.Chords = []lick.Chord{
		{Len: lick.NewTime(1, 101), Name: "C"},
		{At: lick.NewTime(1, 101), Len: lick.NewTime(1, 2), Name: "G"},
	}
	if got := Text(l); got != "C G" {
		t.Errorf("%q", got)
	}
}
