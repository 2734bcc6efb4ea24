package propose

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/player"
)

// scattered is a line of random notes, the hardest that a search meets: no two moves are alike.
func scattered(seed uint64, n int, loop bool) lick.Lick {
	rng := rand.New(rand.NewPCG(seed, 19))
	l := lick.New()
	l.Loop = loop
	at := lick.Time{}
	for range n {
		length := lick.NewTime(int64(1+rng.IntN(3)), 16)
		l.Notes = append(l.Notes, lick.Note{At: at, Len: length, String: 1 + rng.IntN(6), Fret: 1 + rng.IntN(17)})
		at = at.Add(length)
	}
	return l
}

// How long a line takes to judge, to mend and to find hands for, straight and as a loop: 64 notes
// are to take 60 ms, 256 notes 0.3 s and 2,048 notes 3 s, looped at most twice that.
func BenchmarkLoops(b *testing.B) {
	for _, n := range []int{12, 64, 256, 2048} {
		for _, way := range []string{"line", "loop"} {
			l := scattered(1, n, way == "loop")
			run := func(what string, f func(e *judge.Engine) error) {
				b.Run(fmt.Sprintf("%s/%s/%d", what, way, n), func(b *testing.B) {
					for b.Loop() {
						if err := f(judge.NewEngine(player.Default())); err != nil {
							b.Fatal(err)
						}
					}
				})
			}
			run("check", func(e *judge.Engine) error { _, err := e.Check(b.Context(), l); return err })
			run("mend", func(e *judge.Engine) error {
				r, err := e.Check(b.Context(), l)
				if err != nil {
					return err
				}
				return e.Mend(b.Context(), l, r)
			})
			run("hands", func(e *judge.Engine) error { _, err := Hands(b.Context(), e, l, Request{}); return err })
		}
	}
}

// Work on a line is bounded whatever it is: what was not tried is said, beyond the limit the
// beginning is judged, and hands are refused in a sentence.
func TestBoundedWork(t *testing.T) {
	e := judge.NewEngine(player.Default())
	l := scattered(2, 100, true)
	r, err := e.Check(t.Context(), l)
	if err == nil {
		err = e.Mend(t.Context(), l, r)
	}
	if err != nil || r.LeftOut == "" {
		t.Errorf("%q %v", r.LeftOut, err)
	}
	long := scattered(3, judge.MaxNotes+100, false)
	part := long
	part.Notes = long.Notes[:judge.MaxNotes]
	whole, err := e.Check(t.Context(), long)
	if err != nil {
		t.Fatal(err)
	}
	begins, err := e.Check(t.Context(), part)
	if err != nil {
		t.Fatal(err)
	}
	if whole.Ceiling != begins.Ceiling || len(whole.Notes) != len(long.Notes) ||
		len(whole.Lick.Notes) != len(long.Notes) ||
		whole.LeftOut != "The line has 2148 notes: its first 2048 were judged, "+
			"and no fixes were tried; work on a part of it." {
		t.Errorf("clean up to %v, its beginning %v; %d notes; %q", whole.Ceiling, begins.Ceiling, len(whole.Notes),
			whole.LeftOut)
	}
	if _, err := Hands(t.Context(), e, long, Request{}); err == nil {
		t.Error("hands are found for more notes than there is time for")
	}
}
