package propose

import (
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/pick"
	"ornamen/core/testline"
)

// The ways of a line are sorted, differ, and say what holds each back.
func TestWays(t *testing.T) {
	l := testline.Build(t, 112, "6:12 11 9 5:9 9 6:12 11 5:11 11 9 6:12 5:12 12 11 9 4:9 9")
	ways := waysOf(usual, l)
	if len(ways) < 4 {
		t.Fatalf("only %d ways", len(ways))
	}
	names := map[string]WayToPlay{}
	for i, w := range ways {
		names[w.Name] = w
		if i > 0 && w.Ceiling > ways[i-1].Ceiling {
			t.Errorf("%s (%v) stands below %s (%v)", w.Name, w.Ceiling, ways[i-1].Name, ways[i-1].Ceiling)
		}
		if w.Held == "" || w.Why == "" {
			t.Errorf("%s says nothing: %q, %q", w.Name, w.Held, w.Why)
		}
		if w.Ceiling > w.Report.BestPossible*(1+1e-9) && w.Report.Slurs == 0 {
			t.Errorf("%s: %v beats the best possible %v", w.Name, w.Ceiling, w.Report.BestPossible)
		}
		if got := check(usual, w.Lick).Ceiling; got != w.Ceiling {
			t.Errorf("%s: ceiling %v, checked %v", w.Name, w.Ceiling, got)
		}
	}
	if _, s := hands(names["alternate, from up"].Lick); !strings.HasPrefix(s, "UDUDUD") {
		t.Errorf("alternate from up picks %s", s)
	}
	if w := names["economy, from down"]; w.Report.StringChanges.Sweep == 0 {
		t.Errorf("economy sweeps nowhere: %s", w.Why)
	}
}

// A pattern that the cell fixes is a way of its own, the others replace it.
func TestOwnPattern(t *testing.T) {
	l := testline.Build(t, 100, "6:5/D 8/h 5:5/U 7/D 5/p 6:8/U")
	for i := range l.Notes {
		if l.Notes[i].Stroke != "" {
			l.Notes[i].Lock = lick.LockSet{lick.FieldStroke}
		}
	}
	for _, w := range waysOf(usual, l) {
		_, s := hands(w.Lick)
		if (w.Name == OwnPattern) != (s == "DhUDpU") {
			t.Errorf("%s picks %s", w.Name, s)
		}
	}
}

// Counts on the strings that fit: two a string is no economy, three are.
func TestRestring(t *testing.T) {
	for _, c := range []struct {
		line string
		way  pick.Way
		want int
	}{
		// Two and two going up: every change of economy picking is inside.
		{"5:5 7 4:5 7 3:5 7", pick.Economy, 0},
		{"6:5 7 8 5:5 7 8 4:5 7 9", pick.Alternate, 0},
	} {
		l := testline.Build(t, 100, c.line)
		r, err := restring(usual, l, c.way)
		if err != nil {
			t.Fatal(err)
		}
		if r.Clean[1] > c.want || r.Clean[1] >= r.Clean[0] {
			t.Errorf("%s, %s: %d unclean changes before, %d after", c.line, c.way, r.Clean[0], r.Clean[1])
		}
		for i, n := range r.After.Lick.Notes {
			if r.After.Lick.Pitch(i) != l.Pitch(i) || n.At != l.Notes[i].At {
				t.Errorf("%s: note %d is another", c.line, i+1)
			}
		}
	}
	if _, err := restring(usual, lick.New(), pick.Economy); err == nil {
		t.Error("an empty line is restrung")
	}
	// One string with one note cannot get cleaner.
	clean := testline.Build(t, 100, "3:5 7 9")
	if r, _ := restring(usual, clean, pick.Economy); r.After.Lick.Notes[2].Place() != clean.Notes[2].Place() {
		t.Error("a clean line was changed")
	}
}
