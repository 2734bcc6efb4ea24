package changes

import (
	"slices"
	"strings"
	"testing"

	"ornamen/core/music"
	"ornamen/core/neck"
)

// The usual grips of chords on four strings, as chord books have them (common practice).
func TestGrips(t *testing.T) {
	g := neck.Standard()
	for _, c := range []struct {
		chord string
		thick int
		want  string
	}{
		{"C6", 4, "2 2 1 3 | 5 5 5 5 | 7 9 8 8 | 10 12 10 12"},
		{"Am7", 4, "2 2 1 3 | 5 5 5 5 | 7 9 8 8 | 10 12 10 12"},
		{"G7", 4, "3 4 3 3 | 5 7 6 7 | 9 10 8 10 | 12 12 12 13"},
	} {
		chord, err := music.ParseChord(c.chord)
		if err != nil {
			t.Fatal(err)
		}
		var got []string
		for _, x := range Grips(g, chord, c.thick) {
			got = append(got, x.Text())
		}
		if strings.Join(got, " | ") != c.want {
			t.Errorf("%s: %s, want %s", c.chord, strings.Join(got, " | "), c.want)
		}
	}
	// Every grip of every usual chord has only its tones, and is called by its name among others.
	for _, sign := range gripSigns[:14] {
		chord, err := music.ParseChord("D" + sign)
		if err != nil {
			t.Fatal(err)
		}
		grips := append(Grips(g, chord, 4), Grips(g, chord, 5)...)
		if len(grips) < 3 && sign != "aug" && sign != "dim7" {
			t.Errorf("D%s has only %d grips", sign, len(grips))
		}
		for _, x := range grips {
			if names := NamesOf(g, x.Places); !slices.Contains(names, chord.Name) {
				t.Errorf("%s of %s is called %v", x.Text(), chord.Name, names)
			}
		}
	}
}

// What a grip that is written is called.
func TestNamesOf(t *testing.T) {
	g := neck.Standard()
	for text, want := range map[string]string{
		"5 5 5 5": "Am7 C6", "4 5 3 5": "D7", "2 2 1 3": "C6 Am7", "3 4 3 4": "dim", "5 7 5 8": "Cadd9",
		"12 12 12 12": "Em7 G6",
	} {
		places, err := ParseGrip(g, text)
		if err != nil {
			t.Fatal(err)
		}
		names := NamesOf(g, places)
		switch {
		case want == "dim":
			if len(names) != 4 || !strings.HasSuffix(names[0], "dim7") {
				t.Errorf("%s is %v", text, names)
			}
		case want != "" && !sameWords(names, want):
			t.Errorf("%s is %v, want %s", text, names, want)
		}
	}
	for _, bad := range []string{"", "5", "5 x", "1 2 3 4 5 6 7", "5 99", "a b"} {
		if _, err := ParseGrip(g, bad); err == nil {
			t.Errorf("%q is a grip", bad)
		}
	}
}

// sameWords says whether two lists have the same words.
func sameWords(names []string, want string) bool {
	a, b := slices.Clone(names), strings.Fields(want)
	slices.Sort(a)
	slices.Sort(b)
	return slices.Equal(a, b)
}

// A line on top of one moved grip keeps its pitches, and every chord under it the same shape.
func TestGripUnder(t *testing.T) {
	l := over(t, "A minor pentatonic", "Am7", "1:5*1/4 1:8*1/4 2:8*1/4 1:5*1/4") // A C G A
	out, said, err := Move(neck.Standard(), l, "grip:5 5 5 5")
	if err != nil || len(out.Notes) != 16 || !strings.Contains(said, "Am7") || !strings.Contains(said, "C6") {
		t.Fatalf("%v %d %q", err, len(out.Notes), said)
	}
	for c, notes := range columnsOf(out) {
		if out.Pitch(highest(out, notes)) != l.Pitch(c) {
			t.Errorf("chord %d is not topped by the line", c+1)
		}
		for _, i := range notes {
			if out.Notes[i].Fret != out.Notes[notes[0]].Fret {
				t.Errorf("chord %d is another shape", c+1)
			}
		}
	}
	// A line under the grip's string is carried an octave higher; one that spans more than the neck is refused.
	low := over(t, "A minor", "Am", "3:5*1/4")
	out, _, err = Move(neck.Standard(), low, "grip:5 5 5 5")
	if err != nil || out.Pitch(highest(out, columnsOf(out)[0])) != low.Pitch(0)+12 {
		t.Errorf("a low line is not carried an octave higher: %v", err)
	}
	if _, _, err := Move(neck.Standard(), over(t, "A minor", "Am", "6:0*1/4 1:20*1/4"), "grip:5 5 5 5"); err == nil {
		t.Error("a line that spans four octaves is carried")
	}
}
