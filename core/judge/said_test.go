package judge

import (
	"math/rand/v2"
	"slices"
	"testing"

	"ornamen/core/hand"
	"ornamen/core/lick"
	"ornamen/core/testline"
)

// Whatever kind of move the fretting hand makes, one that is tight or breaks is said: a finding
// names its note.
func TestEveryHardMoveIsSaid(t *testing.T) {
	rng := rand.New(rand.NewPCG(11, 29))
	seen := map[hand.Kind]int{}
	for range 60 {
		l := lick.New()
		l.Tempo = 200
		for i := range 24 {
			l.Notes = append(l.Notes, lick.Note{At: lick.NewTime(int64(i), 16), Len: lick.NewTime(1, 16),
				String: 1 + rng.IntN(2), Fret: rng.IntN(9), Finger: lick.NoFinger + lick.Finger(rng.IntN(5))})
		}
		r := check(usual, l)
		for i, n := range r.Notes {
			if !slices.ContainsFunc(n.Loads,
				func(x Load) bool { return x.Side == Fretting && loadSeverity(x.Load) > Flows }) {
				continue
			}
			seen[n.Kind]++
			if !slices.ContainsFunc(r.Findings, func(f Finding) bool { return slices.Contains(f.Notes, i+1) }) {
				t.Fatalf("note %d is reached by %s and nothing says so\n%s", i+1, n.Kind, l.Encode())
			}
		}
	}
	for _, k := range []hand.Kind{hand.Guided, hand.Jump, hand.Move, hand.Place} {
		if seen[k] == 0 {
			t.Errorf("no move of kind %s was hard", k)
		}
	}
}

// A remark stands by itself, not among the moves that are too fast.
func TestRemarksStandAlone(t *testing.T) {
	l := testline.Build(t, 100, "4:9/f1*1/4 3:10/f1*1/4 4:9/f1*1/16 3:12/f1*1/16 4:9/f1*1/8")
	var hops, jumps int
	for _, g := range Grouped(check(usual, l).Findings) {
		if g.Code != FingerJump {
			continue
		}
		if g.Severity == Flows {
			hops++
		} else {
			jumps++
		}
	}
	if hops != 1 || jumps != 1 {
		t.Errorf("%d remarks and %d findings of a finger that jumps", hops, jumps)
	}
}

// The pick comes to rest while a note is held, for a half note or for twice the note before it, and
// begins on the beat with a downstroke; a line of even quarters takes its strokes in turn (common
// practice).
func TestStrokesAfterAHeldNote(t *testing.T) {
	for _, c := range []struct{ line, want string }{
		{"6:5*1/2 8*1/2 5*1/2", "ddd"},
		{"6:5*1/4 8*1/4 5*1/4 8*1/4", "dudu"},
		{"6:5 7 8*1/8 5:5 7 8", "duddud"},
		{"6:5*1/8 7*1/8 8*1/4 5:5*1/8 7*1/8", "duddu"},
		{"6:5 7 8 5:5 7 8", "dududu"},
	} {
		got := ""
		for _, n := range check(usual, testline.Build(t, 80, c.line)).Lick.Notes {
			got += string(n.Stroke[:1])
		}
		if got != c.want {
			t.Errorf("%s: %s, want %s", c.line, got, c.want)
		}
	}
}
