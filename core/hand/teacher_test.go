package hand

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/load"
	"ornamen/core/neck"
)

// taught is a line with the fingers most players and teachers write; some lines have
// two fingerings (common practice).
type taught struct {
	Name    string
	Notes   [][2]int
	Fingers [][]int
}

func taughtLines(t testing.TB) (out []taught) {
	t.Helper()
	data, err := os.ReadFile(filepath.Join("testdata", "hands.json"))
	if err != nil {
		t.Fatal(err)
	}
	if err := json.Unmarshal(data, &out); err != nil {
		t.Fatal(err)
	}
	return out
}

// events gives the line a time for every note, in ms since the one before.
func (l taught) events(have func(i int) float64) []Event {
	var out []Event
	for i, n := range l.Notes {
		out = append(out, Event{Touches: []Touch{{Place: neck.Place{String: n[0], Fret: n[1]}}}, Have: have(i)})
	}
	return out
}

// agree counts the notes of a path that have the usual finger, by the fingering that
// fits best.
func (l taught) agree(p Path) int {
	best := 0
	for _, want := range l.Fingers {
		n := 0
		for i, s := range p.Steps {
			got := 0
			if f := s.Fingers[0]; f.Fretting() {
				got = 1 + int(f-lick.Index)
			}
			if got == want[i] {
				n++
			}
		}
		best = max(best, n)
	}
	return best
}

func straight(int) float64 { return 150 }

// swung is a shuffle: long, short.
func swung(i int) float64 {
	if i%2 == 1 {
		return 260
	}
	return 130
}

// The usual fingers of standard lines, straight and swung alike: at least 998 notes of
// a thousand, and 54 of the 55 lines whole.
func TestTaughtHands(t *testing.T) {
	m := NewModel(Medium(), neck.Standard())
	for _, feel := range []struct {
		name string
		have func(int) float64
	}{{"straight", straight}, {"swung", swung}} {
		notes, right, whole := 0, 0, 0
		for _, l := range taughtLines(t) {
			p := m.Solve(context.Background(), l.events(feel.have), false, load.Slack)
			n := l.agree(p)
			notes, right = notes+len(l.Notes), right+n
			if n == len(l.Notes) {
				whole++
			} else {
				t.Logf("%s, %s: %d of %d\n%s", l.Name, feel.name, n, len(l.Notes), l.beside(p))
			}
		}
		t.Logf("%s: %.1f %% of the notes, %d lines whole", feel.name, 100*float64(right)/float64(notes), whole)
		if 1000*right < 998*notes || whole < 54 {
			t.Errorf("%s: %d of %d notes, %d lines whole", feel.name, right, notes, whole)
		}
	}
}

// beside writes what differs: place: got, want.
func (l taught) beside(p Path) (out string) {
	for i, s := range p.Steps {
		got := 0
		if f := s.Fingers[0]; f.Fretting() {
			got = 1 + int(f-lick.Index)
		}
		if got != l.Fingers[0][i] {
			out += fmt.Sprintf(" %d:%d@%d %d(%d)", l.Notes[i][0], l.Notes[i][1], i+1, got, l.Fingers[0][i])
		}
	}
	return out
}

// The fingers of a line do not depend on the tempo nor on the swing, as long as it can
// be played.
func TestFingersDoNotDependOnTime(t *testing.T) {
	m := NewModel(Medium(), neck.Standard())
	for _, l := range taughtLines(t) {
		var first []lick.Finger
		for _, scale := range []float64{1, 1.5, 3, 10, -1, -2} {
			have := func(i int) float64 { return 160 * scale }
			if scale < 0 { // swung
				have = func(i int) float64 { return -scale * swung(i) }
			}
			p := m.Solve(context.Background(), l.events(have), false, load.Slack)
			var got []lick.Finger
			for _, s := range p.Steps {
				got = append(got, s.Fingers[0])
			}
			if first == nil {
				first = got
			} else if !slices.Equal(first, got) {
				t.Errorf("%s: other fingers at a %g times slower tempo (below 0: swung)", l.Name, scale)
			}
		}
	}
}
