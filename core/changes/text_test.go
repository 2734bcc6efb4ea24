package changes

import (
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/music"
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

// Chords by Roman numbers, in minor keys by the key's own, and with their beats; what is no chord is
// refused by name (common practice).
func TestNumerals(t *testing.T) {
	for _, c := range []struct{ key, text, want string }{
		{"C major", "ii7 | V7 | Imaj7", "Dm7 | G7 | Cmaj7"},
		{"A natural minor", "i iv V | VI VII | i", "Am Dm E | F G | Am"},
		{"A natural minor", "iiø7 V7(b9) | im6", "Bø7 E7(b9) | Am6"},
		{"E major", "I . bVII IV", "E . D A"},
		{"C major", "vii° | #iv°7 | V+", "B° | F#°7 | G+"},
		{"C major", "CMaj7 C-7 | Cø7 C7(b9) | C2 C69 | C°7", "CMaj7 C-7 | Cø7 C7(b9) | C2 C69 | C°7"},
		{"C major", "Am7*3 D7 | Am7 / / D7", "Am7 . . D7 | Am7 . . D7"},
		{"C major", "C*1 F | G", "C F . . | G"},
	} {
		l := over(t, c.key, c.text, "1:0")
		if got := Text(l); got != c.want {
			t.Errorf("%s in %s is %s, want %s", c.text, c.key, got, c.want)
		}
	}
	for _, bad := range []string{"Axyz", "C(b9", "ii7 | VIIIx", "C*9", "C*x", "C*2 F*1", "C*4 F", "8m"} {
		inC := lick.Key{Tonic: "C", Scale: "major"}
		if _, err := Parse(bad, lick.Meter{Beats: 4, Unit: 4}, lick.Time{}, inC); err == nil {
			t.Errorf("%q is changes", bad)
		}
	}
	l := over(t, "C major", "C", "1:0")
	l.Chords[0].Name = "Axyz"
	if _, err := lick.Parse(l.Encode()); err == nil {
		t.Error("a file with a chord Axyz is taken")
	}
}

// Chords may be parted by dashes: by themselves a bar each, between bar lines within the bar; a minor chord’s own dash
// is none of them.
func TestChordsBetweenDashes(t *testing.T) {
	inC := lick.Key{Tonic: "C", Scale: "major"}
	for text, same := range map[string]string{
		"Am - F - C - G":    "Am | F | C | G",
		"A-7 – D7 — G":      "Am7 | D7 | G",
		"Am - F | C - G":    "Am F | C G",
		"C-7 - F7 - Bbmaj7": "Cm7 | F7 | Bbmaj7",
	} {
		got, err := Parse(text, lick.Meter{Beats: 4, Unit: 4}, lick.Time{}, inC)
		want, err2 := Parse(same, lick.Meter{Beats: 4, Unit: 4}, lick.Time{}, inC)
		if err != nil || err2 != nil || len(got) != len(want) {
			t.Errorf("%s: %v %v %v", text, got, err, err2)
			continue
		}
		for i := range got {
			a, _ := music.ParseChord(got[i].Name)
			b, _ := music.ParseChord(want[i].Name)
			if got[i].At != want[i].At || got[i].Len != want[i].Len || a.Root != b.Root || !slices.Equal(a.Degrees, b.Degrees) {
				t.Errorf("%s: chord %d is %+v, not %+v", text, i+1, got[i], want[i])
			}
		}
	}
}
