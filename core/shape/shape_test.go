package shape

import (
	"fmt"
	"strings"
	"testing"

	"ornamen/core/bend"
	"ornamen/core/hand"
	"ornamen/core/music"
	"ornamen/core/neck"
)

func lay(t *testing.T, key, layout, at string, add ...string) []Placed {
	t.Helper()
	p, err := music.ParseKey(key, add, nil)
	if err != nil {
		t.Fatal(err)
	}
	l, err := ParseLayout(layout)
	if err != nil {
		t.Fatal(err)
	}
	var place neck.Place
	fmt.Sscanf(at, "%d:%d", &place.String, &place.Fret)
	out, err := Lay(neck.Standard(), p, l, place)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

func draw(placed []Placed) string {
	rows := map[int][]string{}
	for _, t := range placed {
		f := fmt.Sprint(t.Place.Fret)
		if t.Tone.Role == music.Colour {
			f += "*"
		}
		rows[t.Place.String] = append(rows[t.Place.String], f)
	}
	var out []string
	for s := 9; s > 0; s-- {
		if rows[s] != nil {
			out = append(out, strings.Join(rows[s], " "))
		}
	}
	return strings.Join(out, ", ")
}

// Common practice: the shapes every player knows, in standard tuning.
func TestUsualShapes(t *testing.T) {
	for _, c := range []struct{ key, layout, at, want string }{
		{"A minor pentatonic", "box", "6:5", "5 8, 5 7, 5 7, 5 7, 5 8, 5 8"},
		{"A minor pentatonic", "box", "6:8", "8 10, 7 10, 7 10, 7 9, 8 10, 8 10"},
		{"A minor pentatonic", "box", "6:10", "10 12, 10 12, 10 12, 9 12, 10 13, 10 12"},
		{"A minor pentatonic", "box", "6:12", "12 15, 12 15, 12 14, 12 14, 13 15, 12 15"},
		{"A minor pentatonic", "box", "6:3", "3 5, 3 5, 2 5, 2 5, 3 5, 3 5"},
		{"C major pentatonic", "box", "6:8", "8 10, 7 10, 7 10, 7 9, 8 10, 8 10"},
		{"A natural minor", "3nps", "6:5", "5 7 8, 5 7 8, 5 7 9, 5 7 9, 6 8 10, 7 8 10"},
		{"G major", "3nps", "6:3", "3 5 7, 3 5 7, 4 5 7, 4 5 7, 5 7 8, 5 7 8"},
		{"A blues", "box", "6:5", "5 8, 5 6* 7, 5 7, 5 7 8*, 5 8, 5 8"},
	} {
		if got := draw(lay(t, c.key, c.layout, c.at)); got != c.want {
			t.Errorf("%s %s at %s: %s, want %s", c.key, c.layout, c.at, got, c.want)
		}
	}
}

func TestColours(t *testing.T) {
	got := draw(lay(t, "C# minor pentatonic", "box", "6:9", "9", "b5"))
	if want := "9 11* 12, 9 10* 11, 9 11, 8* 9 11 12*, 9 12, 9 11* 12"; got != want {
		t.Errorf("%s, want %s", got, want)
	}
	got = draw(lay(t, "A minor pentatonic", "box", "6:5", "7@below"))
	if !strings.HasPrefix(got, "4* 5 8, 5 7, 5 7, 5 7") || strings.Count(got, "*") != 1 {
		t.Errorf("7 below the lowest root: %s", got)
	}
	got = draw(lay(t, "A minor pentatonic", "box", "6:5", "3@2"))
	if got != "5 8, 5 7, 5 7, 5 6* 7, 5 8, 5 8" {
		t.Errorf("3 in the second octave: %s", got)
	}
}

func TestBends(t *testing.T) {
	placed := lay(t, "C# minor pentatonic", "box", "6:9")
	g := neck.Standard()
	Finger(hand.NewModel(hand.Medium(), g), placed)
	p, _ := music.ParseKey("C# minor pentatonic", nil, nil)
	AddBends(g, bend.DefaultStrength(), p, placed)
	for _, x := range placed {
		if x.Place != (neck.Place{String: 3, Fret: 11}) {
			continue
		}
		if x.Finger.String() != "3" || len(x.Bends) == 0 {
			t.Fatalf("3:11 has finger %s and %d bends", x.Finger, len(x.Bends))
		}
		b := x.Bends[0]
		if b.To.Degree.String() != "5" || b.Semitones != 2 || b.Rating != Common || b.Fingers != 2 || !b.ToThick {
			t.Errorf("3:11 %+v", b)
		}
		if want := []neck.Place{{String: 3, Fret: 13}, {String: 2, Fret: 9}}; fmt.Sprint(b.Hear) != fmt.Sprint(want) {
			t.Errorf("heard at %v, want %v", b.Hear, want)
		}
		return
	}
	t.Error("3:11 is missing")
}

func TestRefusals(t *testing.T) {
	p, _ := music.ParseKey("A minor pentatonic", nil, nil)
	box, _ := ParseLayout("box")
	for _, at := range []neck.Place{{String: 6, Fret: 6}, {String: 7, Fret: 5}, {String: 6, Fret: 22}} {
		if _, err := Lay(neck.Standard(), p, box, at); err == nil {
			t.Errorf("a box at %v was laid", at)
		}
	}
	for _, s := range []string{"", "boxes", "counts:", "counts:3,x", "counts:-1"} {
		if _, err := ParseLayout(s); err == nil {
			t.Errorf("layout %q was taken", s)
		}
	}
}
