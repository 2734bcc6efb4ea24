package propose

import (
	"fmt"
	"math/rand/v2"
	"testing"
	"time"

	"ornamen/core/judge"
	"ornamen/core/player"
	"ornamen/core/testline"
	"ornamen/core/lick"
)

func TestLoopTimes(t *testing.T) {
	for _, n := range []int{12, 64, 256} {
		for kind, make := range map[string]func(*rand.Rand, int) lick.Lick{"even": even, "uneven": uneven, "wild": func(_ *rand.Rand, n int) lick.Lick { return testline.Wild(n) }, "narrow": narrow, "chords": double} {
			for _, loop := range []bool{false, true} {
				worst, worstM := time.Duration(0), time.Duration(0)
				for seed := range uint64(3) {
					rng := rand.New(rand.NewPCG(seed, 7))
					l := make(rng, n)
					l.Loop = loop
					e := judge.NewEngine(player.DefaultPlayer())
					b := time.Now()
					r, err := e.Check(t.Context(), l)
					if err != nil { t.Fatal(err) }
					worst = max(worst, time.Since(b))
					if n <= 64 {
					b = time.Now()
					e.Mend(t.Context(), l, r)
					worstM = max(worstM, time.Since(b))
					}
				}
				fmt.Println(n, kind, "loop", loop, "check", worst, "mend", worstM)
			}
		}
	}
}

func line(rng *rand.Rand, n int, lens []int64, frets int, two bool) lick.Lick {
	l := lick.New()
	at := lick.Time{}
	for range n {
		ln := lick.NewTime(lens[rng.IntN(len(lens))], 16)
		s := 1 + rng.IntN(6)
		l.Notes = append(l.Notes, lick.Note{At: at, Len: ln, String: s, Fret: 1 + rng.IntN(frets)})
		if two && rng.IntN(3) == 0 {
			l.Notes = append(l.Notes, lick.Note{At: at, Len: ln, String: s%6 + 1, Fret: 1 + rng.IntN(frets)})
		}
		at = at.Add(ln)
	}
	l.Sort()
	return l
}
func even(rng *rand.Rand, n int) lick.Lick { return line(rng, n, []int64{1}, 17, false) }
func narrow(rng *rand.Rand, n int) lick.Lick { return line(rng, n, []int64{1}, 5, false) }
func uneven(rng *rand.Rand, n int) lick.Lick { return line(rng, n, []int64{1, 2, 3, 4}, 20, false) }
func double(rng *rand.Rand, n int) lick.Lick { return line(rng, n, []int64{1, 2}, 8, true) }
