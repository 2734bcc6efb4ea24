package turn_test

import (
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/run"
	"ornamen/core/shape"
	"ornamen/core/testline"
	"ornamen/core/turn"
)

func TestTurn(t *testing.T) {
	l := testline.Read(t, "A natural minor", "6:5 7h 8s")
	for _, c := range []struct{ how, want string }{
		{"backwards", "6:8 7s 5p"}, {"rotate:2", "6:7 8s 5"}, {"octave", "4:7 9h 10s"}, {"mirror", "6:5 7h 5s"},
	} {
		got, err := turn.Turn(neck.Standard(), l, c.how, 0, 0)
		if err != nil {
			t.Errorf("%s: %v", c.how, err)
			continue
		}
		if s := testline.Written(got, nil); s != c.want {
			t.Errorf("%s: %s, want %s", c.how, s, c.want)
		}
	}
	for _, bad := range []string{"sideways", "rotate:9", "rotate:x", "-octave"} {
		if _, err := turn.Turn(neck.Standard(), l, bad, 0, 0); err == nil {
			t.Errorf("%s passes", bad)
		}
	}
	twice, _ := turn.Turn(neck.Standard(), l, "backwards", 0, 0)
	twice, _ = turn.Turn(neck.Standard(), twice, "backwards", 0, 0)
	if a, b := testline.Written(twice, nil), testline.Written(l, nil); a != b {
		t.Errorf("backwards twice: %s, not %s", a, b)
	}
}

// A bend keeps its frame and takes on another colour.
func TestOtherBends(t *testing.T) {
	grown, err := run.Grow(
		run.Recipe{Key: "A minor pentatonic", Add: "b5", At: "6:5", Cell: "1^full 2", Start: 6, Times: 1},
		neck.Standard(),
	)
	if err != nil {
		t.Fatal(err)
	}
	l := grown.Lick
	l.Notes[0].Bend = &lick.Bend{Semitones: 2, Shape: "bend-release"}
	bends := turn.OtherBends(neck.Standard(), l, 0)
	found, last := map[string]bool{}, false
	for _, b := range bends {
		if err := b.Lick.Validate(); err != nil {
			t.Fatalf("%s: %v", b.What, err)
		}
		n := b.Lick.Notes[0]
		p, _ := b.Lick.Palette()
		outside := p.At(b.Lick.Pitch(0)+music.Pitch(n.Bend.Semitones)).Role == music.Outside
		if n.Bend == nil || outside != strings.HasSuffix(b.What, "a colour from outside") || last && !outside {
			t.Errorf("%s leads outside, or comes after one that does", b.What)
		}
		last = last || outside
		found[b.What] = true
	}
	if len(bends) < 3 {
		t.Errorf("only %v", found)
	}
	// A figure that comes back is bent the other way every time.
	again := testline.Read(t, "A minor pentatonic", "3:7 5 7 2:5")
	for _, k := range []int{0, 2} {
		again.Notes[k].Bend = &lick.Bend{Semitones: 2, Shape: "bend"}
	}
	both := turn.OtherBends(neck.Standard(), again, 2)[0].Lick
	if both.Notes[0].Bend.Semitones != both.Notes[2].Bend.Semitones || both.Notes[0].Place() != both.Notes[2].Place() {
		t.Errorf("one of two is changed: %+v %+v", both.Notes[0].Bend, both.Notes[2].Bend)
	}
	if got := turn.OtherBends(neck.Standard(), l, 1); got != nil {
		t.Errorf("a note without a bend has %d other ones", len(got))
	}
}

// One opening grows several tails (common practice), each of which ends on its
// root and fills the time of what it replaces.
func TestOtherTails(t *testing.T) {
	l := testline.Read(t, "A natural minor", "3:5 7 2:5 6 8 1:5 3:5 7")
	l.Chords = []lick.Chord{{Len: lick.NewTime(1, 1), Name: "Dm"}}
	tails := turn.OtherTails(neck.Standard(), l, 3)
	if len(tails) != 4 {
		t.Fatalf("%d tails", len(tails))
	}
	for i, c := range []struct {
		what  string
		class int
		rises bool
	}{{"Walk down to the root of D", 2, false}, {"Climb", 2, true},
		{"On in the pentatonic of D, down", 2, false}, {"On in the pentatonic of D, up", 2, true}} {
		x := tails[i]
		last := len(x.Lick.Notes) - 1
		if !strings.HasPrefix(x.What, c.what) || x.Lick.Pitch(last).Class() != c.class ||
			(x.Lick.Pitch(last) > x.Lick.Pitch(3)) != c.rises {
			t.Errorf("%s ends on %v after %v", x.What, x.Lick.Pitch(last), x.Lick.Pitch(3))
		}
		if x.Lick.End().Before(l.End()) || x.Lick.Notes[3].Place() != l.Notes[3].Place() {
			t.Errorf("%s ends at %v, not at %v", x.What, x.Lick.End(), l.End())
		}
		// Walked to, not leapt to: each step is one of a scale of five or seven tones.
		for k := 4; k <= last; k++ {
			if d := x.Lick.Pitch(k) - x.Lick.Pitch(k-1); d > 4 || d < -4 {
				t.Errorf("%s leaps %d half steps into note %d", x.What, d, k+1)
			}
		}
	}
	// Over Em in C a walk down ends on E, and there is one after the last note as well.
	c := testline.Read(t, "C major", "3:5 7 2:5 6")
	c.Chords = []lick.Chord{{Len: lick.NewTime(2, 1), Name: "Em"}}
	for _, i := range []int{1, 3} {
		x := turn.OtherTails(neck.Standard(), c, i)[0].Lick
		if x.Pitch(len(x.Notes)-1).Class() != 4 {
			t.Errorf("after note %d the walk ends on %v", i+1, x.Pitch(len(x.Notes)-1))
		}
	}
}

// The same frets on the next string, and the same figure on other degrees (common practice).
func TestElsewhere(t *testing.T) {
	l := testline.Read(t, "A natural minor", "3:5 7h 2:5 6h")
	for _, c := range []struct{ how, want string }{
		{"string:1", "4:5 4:7 3:5 3:6"}, {"string:-1", "2:5 2:7 1:5 1:6"}, {"degree:1", "3:7 3:9 2:6 2:8"},
		{"degree:-1", "3:4 3:5 2:3 2:5"},
	} {
		x, err := turn.Turn(neck.Standard(), l, c.how, 0, 0)
		if err != nil {
			t.Errorf("%s: %v", c.how, err)
			continue
		}
		var got []string
		for _, n := range x.Notes {
			got = append(got, n.Place().Notation())
		}
		if s := strings.Join(got, " "); s != c.want || x.Notes[1].Slur != lick.Hammer {
			t.Errorf("%s: %s, want %s", c.how, s, c.want)
		}
	}
	for _, how := range []string{"string:4", "string:x", "degree:0", "degree:-9"} {
		if _, err := turn.Turn(neck.Standard(), l, how, 0, 0); err == nil {
			t.Errorf("%s passes", how)
		}
	}
}

// A run in another key keeps its recipe where that grows the very line, and a title that the recipe
// gave; where it does not, neither says what is no longer so.
func TestRecolourKeepsTheRecipeTrue(t *testing.T) {
	g := neck.Standard()
	r, err := run.Parse(`--key "A minor pentatonic" --cell "1 2 3" --times 4`)
	if err != nil {
		t.Fatal(err)
	}
	x, err := run.Grow(r, g)
	if err != nil {
		t.Fatal(err)
	}
	for key, want := range map[string]string{
		"C minor pentatonic": "C minor pentatonic, 1 2 3",
		"A major pentatonic": "A major pentatonic",
	} {
		p, err := music.ParseKey(key, nil, nil)
		if err != nil {
			t.Fatal(err)
		}
		out, err := turn.Recolour(x.Lick, g, p, shape.NearestPlace)
		if err != nil || out.Lick.Title != want {
			t.Errorf("in %s: %v, %q", key, err, out.Lick.Title)
		}
		if out.Lick.Recipe == "" {
			continue
		}
		again, err := run.Parse(out.Lick.Recipe)
		if err != nil {
			t.Fatal(err)
		}
		grown, err := run.Grow(again, g)
		if err != nil || len(grown.Lick.Notes) != len(out.Lick.Notes) ||
			grown.Lick.Notes[5].Place() != out.Lick.Notes[5].Place() {
			t.Errorf("in %s: %v, %s", key, err, out.Lick.Recipe)
		}
	}
}

// Over a minor pentatonic a bend may go to the 9, the 6 and the major third, as neighbouring scales have them,
// after its own tones and before any other tone outside (common practice).
func TestBendsToNeighbouringColours(t *testing.T) {
	l := testline.Read(t, "A minor pentatonic", "3:5 3:7")
	l.Notes[1].Bend = &lick.Bend{Semitones: 2, Shape: lick.BendUp} // from the 4 to the 5
	own, colours, others := -1, map[string]int{}, 100
	for k, b := range turn.OtherBends(neck.Standard(), l, 1) {
		_, to, _ := strings.Cut(b.What, "to the ")
		to = strings.TrimSuffix(to, ", a colour from outside")
		switch {
		case !strings.HasSuffix(b.What, "outside"):
			own = k
		case to == "2" || to == "3" || to == "6" || to == "9":
			if _, seen := colours[to]; !seen {
				colours[to] = k
			}
		default:
			others = min(others, k)
		}
	}
	if len(colours) == 0 || own < 0 {
		t.Fatalf("own %d, colours %v", own, colours)
	}
	for d, k := range colours {
		if k > others {
			t.Errorf("the %s comes after a tone that no neighbouring scale has", d)
		}
	}
}
