package turn_test

import (
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/run"
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
	found := map[string]bool{}
	for _, b := range bends {
		if err := b.Lick.Validate(); err != nil {
			t.Fatalf("%s: %v", b.What, err)
		}
		n := b.Lick.Notes[0]
		p, _ := b.Lick.Palette()
		if n.Bend == nil || p.At(b.Lick.Pitch(0)+music.Pitch(n.Bend.Semitones)).Role == music.Outside {
			t.Errorf("%s leads outside", b.What)
		}
		found[b.What] = true
	}
	if len(bends) < 3 {
		t.Errorf("only %v", found)
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
	if len(tails) != 3 {
		t.Fatalf("%d tails", len(tails))
	}
	for i, c := range []struct {
		what  string
		class int
		rises bool
	}{{"Walk down", 9, false}, {"Climb", 9, true}, {"On in the pentatonic of D", 2, false}} {
		x := tails[i]
		last := len(x.Lick.Notes) - 1
		if !strings.HasPrefix(x.What, c.what) || x.Lick.Pitch(last).Class() != c.class ||
			(x.Lick.Pitch(last) > x.Lick.Pitch(3)) != c.rises {
			t.Errorf("%s ends on %v after %v", x.What, x.Lick.Pitch(last), x.Lick.Pitch(3))
		}
		if x.Lick.End().Cmp(l.End()) != 0 || x.Lick.Notes[3].Place() != l.Notes[3].Place() {
			t.Errorf("%s ends at %v, not at %v", x.What, x.Lick.End(), l.End())
		}
	}
	if got := turn.OtherTails(neck.Standard(), l, len(l.Notes)-1); got != nil {
		t.Errorf("after the last note there are %d tails", len(got))
	}
}
