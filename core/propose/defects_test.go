package propose

import (
	"errors"
	"math/rand/v2"
	"strings"
	"testing"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/pick"
	"ornamen/core/player"
	"ornamen/core/testline"
)

// The verdict is never better than the worst finding, and what breaks at any tempo
// has no ceiling.
func TestVerdictIsNoBetterThanItsFindings(t *testing.T) {
	seen := 0
	try := func(l lick.Lick) {
		r := check(usual, l)
		for _, f := range r.Findings {
			if f.Severity > r.Verdict || f.Always && f.Severity == judge.Breaks && r.Ceiling > 0 {
				t.Errorf("%s, clean up to %v, with a finding that %s: %s", r.Verdict, r.Ceiling, f.Severity, f.Text)
			}
		}
		if r.Verdict > judge.Flows && len(r.Findings) == 0 {
			t.Errorf("%s without a finding\n%s", r.Verdict, l.Encode())
		}
		seen++
	}
	beyond := testline.Build(t, 60, "1:22 21")
	beyond.Notes[0].Fret = 24
	noFinger := testline.Build(t, 60, "1:5 7")
	noFinger.Notes[0].Finger = lick.Open
	try(beyond)
	try(noFinger)
	for f := lick.Index; f <= lick.Little; f++ {
		l := testline.Build(t, 60, "2:1")
		l.Notes[0].Finger = f
		if r := check(usual, l); r.Verdict != judge.Flows {
			t.Errorf("a note at the first fret with finger %s: %s, %v", f, r.Verdict, r.Findings)
		}
	}
	randomLicks(80, func(rng *rand.Rand, l lick.Lick) {
		if rng.IntN(4) == 0 {
			l.Notes[rng.IntN(len(l.Notes))].Fret = 20 + rng.IntN(6)
		}
		if l.Validate() == nil {
			try(l)
		}
	})
	if seen < 60 {
		t.Errorf("only %d lines", seen)
	}
	if check(usual, beyond).Verdict != judge.Breaks || check(usual, noFinger).Verdict != judge.Breaks {
		t.Error("a fret that is not there, or a fretted note without a finger, does not break")
	}
}

// The words of a finding are sentences that a usual would say.
func TestSentences(t *testing.T) {
	never := []string{"moves 0 mm", "0 mm apart", "a upstroke", "Two times"}
	lines := []string{"3:5/D 5/D 7/U 7/U", "1:1/f1 3/f2/h 5/f4/h", "6:3/f1 5/f2/h 7/f4/h", "2:5/f1 1:8/f1 2:5/f1"}
	for _, text := range lines {
		for _, f := range check(usual, testline.Build(t, 300, text)).Findings {
			for _, bad := range never {
				if strings.Contains(f.Text, bad) {
					t.Errorf("%s: %s", text, f.Text)
				}
			}
		}
	}
	r := check(usual, testline.Build(t, 300, "3:5/U 7/U"))
	if !strings.Contains(r.Findings[0].Text, "Two upstrokes in a row") {
		t.Errorf("%s", r.Findings[0].Text)
	}
}

// The turn of a loop can be marked as meant.
func TestTurnMeant(t *testing.T) {
	l := testline.Build(t, 200, "6:3 1:15")
	l.Loop = true
	find := func() judge.Finding {
		for _, f := range check(usual, l).Findings {
			if f.Code == "loop-turn" {
				return f
			}
		}
		t.Fatal("the turn is not found")
		return judge.Finding{}
	}
	f := find()
	l.Notes[f.Notes[len(f.Notes)-1]-1].Meant = []lick.Code{judge.LoopTurn}
	if !find().Meant {
		t.Error("the turn of the loop cannot be meant")
	}
}

// A search over free places that would take minutes is given up, and says so.
func TestTooManyFreePlaces(t *testing.T) {
	cell := " 6:5 7 8 5:5 7 8 4:5 7 9 3:5 7 9 2:7 8 10 1:7 8 10 8 7 2:10 8 7 3:9 7 5 4:9 7 5 5:8 7 5 6:8 7 5"
	l := testline.Build(t, 120, strings.Repeat(cell, 9)) // an odd number of strokes
	l.Loop = true
	if _, err := Hands(t.Context(), usual, l, Request{Place: true}); !errors.Is(err, ErrTooFree) {
		t.Errorf("%v", err)
	}
}

// What is taken is what was shown: of a fix and of a proposal, with added slurs and
// the fingers of the picking hand.
func TestTakenIsShown(t *testing.T) {
	legato := judge.NewEngine(func() player.Player { p := player.Default(); p.Way = pick.Legato; return p }())
	for _, e := range []*judge.Engine{usual, legato} {
		for _, text := range []string{"3:5 7 9 7 5 2:6 8 10", "6:3+2:5 1:7 2:8",
			"3:11/f3 1:9 2:12 9/p 2:9/f1 1:12/f1 14/h"} {
			l := testline.Build(t, 130, text)
			if len(l.Columns()) < len(l.Notes) {
				l.Notes[0].Stroke, l.Notes[1].Stroke = lick.PThumb, lick.PMid
			}
			for k, p := range propose(e, l, Request{Best: 3}) {
				var small lick.Edit
				if k == 0 {
					small = lick.OpenHands{}
				}
				edit, err := e.Take(t.Context(), l, lick.Replace{Lick: p.Lick}, small)
				if err != nil {
					t.Fatal(err)
				}
				got, err := edit.Apply(l)
				if err != nil {
					t.Fatal(err)
				}
				if filled := check(e, got).Lick; judge.HandsID(filled) != judge.HandsID(p.Lick) {
					t.Errorf("%s: proposal %d is taken as something else", text, k)
				}
			}
			r := check(e, l)
			mend(e, l, r)
			for _, f := range r.Findings {
				for _, x := range f.Fixes {
					edit, err := e.Take(t.Context(), l, x.Edit, x.Small())
					if err != nil {
						t.Fatal(err)
					}
					got, err := edit.Apply(l)
					if err != nil {
						t.Fatal(err)
					}
					if filled := check(e, got).Lick; judge.HandsID(filled) != x.ID {
						t.Errorf("%s: %q is taken as something else", text, x.Text)
					}
				}
			}
		}
	}
}
