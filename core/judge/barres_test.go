package judge

import (
	"fmt"
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/player"
	"ornamen/core/testline"
)

// Where fingers lie flat, and for how long: laid a column early and lifted a column late
// where the hand stays and nothing behind them sounds (common practice).
func TestBarres(t *testing.T) {
	for _, c := range []struct{ line, want string }{
		// Early over 3:7, late over 2:8; 3:7 is not under it.
		{"4:7 3:7 2:5+1:5 2:8 1:8", "1@5 2-1 cols 1-3"},
		// One finger flat.
		{"4:5+3:5+2:5+1:5", "1@5 4-1 cols 0-0"},
		// Rolled: nothing is laid flat.
		{"2:5/f1 1:5/f1 2:8 1:5/f1", ""},
		// Marked, kept through.
		{"2:5/f1/B 1:5/f1/B 2:8/f4 1:5/f1/B", "1@5 2-1 cols 0-3"},
		// An open string before and after.
		{"2:0 2:5/f1+1:5/f1 2:0", "1@5 2-1 cols 1-1"},
		// Two fingers.
		{"6:3+5:5 6:5+5:7", ""},
		// The barre moves.
		{"2:5+1:5 2:7+1:7 2:9+1:9", "1@5 2-1 cols 0-0, 1@7 2-1 cols 1-1, 1@9 2-1 cols 2-2"},
		// The ring finger's beside the index, that stays.
		{"2:5+1:5 2:7+1:7", "1@5 2-1 cols 0-1, 3@7 2-1 cols 1-1"},
	} {
		r := check(usual, testline.Build(t, 60, c.line))
		var got []string
		for _, b := range r.Barres {
			got = append(got, fmt.Sprintf("%s@%d %d-%d cols %d-%d", b.Finger, b.Fret, b.Thick, b.Thin, b.First, b.Last))
		}
		if s := strings.Join(got, ", "); s != c.want {
			t.Errorf("%s: %q, want %q", c.line, s, c.want)
		}
	}
}

// The habits of bending (common practice): which finger, how many behind it, and the
// index laid flat behind two.
func TestBendingHabits(t *testing.T) {
	const line = "2:17/b2 1:14 2:17 2:14"
	for _, c := range []struct{ finger, helpers, hands, with, flat string }{
		{helpers: "many", hands: "4 1 4 1|3 1 3 1", with: "3 2|2 1"},
		{finger: "ring", helpers: "many", hands: "3 1 3 1", with: "2 1"},
		{finger: "little", helpers: "many", hands: "4 1 4 1", with: "3 2"},
		{finger: "ring", helpers: "few", hands: "3 1 3 1", with: "2"},
		{helpers: "flat", hands: "3 1 3 1", with: "2", flat: "1@14 2-1 cols 0-3"},
	} {
		p := player.Default()
		if err := p.Bend(c.finger, c.helpers); err != nil {
			t.Fatal(err)
		}
		r := check(NewEngine(p), testline.Build(t, 80, line))
		var with, flat []string
		for _, f := range r.Notes[0].Helpers {
			with = append(with, f.String())
		}
		for _, b := range r.Barres {
			flat = append(flat,
				fmt.Sprintf("%s@%d %d-%d cols %d-%d", b.Finger, b.Fret, b.Thick, b.Thin, b.First, b.Last))
		}
		oneOf := func(got, want string) bool { return strings.Contains("|"+want+"|", "|"+got+"|") }
		if !oneOf(fingersOf(r.Lick), c.hands) || !oneOf(strings.Join(with, " "), c.with) ||
			strings.Join(flat, ", ") != c.flat {
			t.Errorf("%s, %s: %s with %v, flat %v", c.finger, c.helpers, fingersOf(r.Lick), with, flat)
		}
	}
	var p player.Player
	if err := p.Bend("thumb", ""); err == nil {
		t.Error("a thumb that bends is taken")
	}
	if err := p.Bend("", "none"); err == nil {
		t.Error("helpers by a word that is none are taken")
	}
	// A half step is one finger's.
	if r := check(usual, testline.Build(t, 80, "3:7/b1")); len(r.Notes[0].Helpers) != 0 ||
		r.Lick.Notes[0].Finger == lick.NoFinger {
		t.Errorf("a half bend with %v", r.Notes[0].Helpers)
	}
}

// Push, hold and release each have their share of the note; a vibrato comes after its bend.
func TestShares(t *testing.T) {
	for _, c := range []struct {
		line, want string
		side       Side
	}{
		{"1:8/b2*1/4", "push 146 ms, hold 604 ms", Bending},
		{"1:8/r2*1/4", "push 146 ms, hold 458 ms, release 146 ms", Bending},
		{"1:8/r2", "push 146 ms, hold 0 ms, release 146 ms", Bending},
		{"1:8/b2/v*1/2", "bend 146 ms, vibrato 300 ms", Shaking},
	} {
		r := check(usual, testline.Build(t, 80, c.line))
		got := ""
		for _, l := range r.Notes[0].Loads {
			if l.Side == c.side {
				got = l.Words()
			}
		}
		if got != c.want {
			t.Errorf("%s: %q, want %q", c.line, got, c.want)
		}
	}
}
