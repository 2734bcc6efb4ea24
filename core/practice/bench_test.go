package practice

import (
	"fmt"
	"math/rand/v2"
	"testing"
)

// tenYears is a log of 150,000 rounds: forty parts of a dozen licks, forty rounds a day.
func tenYears() (log []Entry) {
	rng := rand.New(rand.NewPCG(10, 10))
	for n := range 150_000 {
		e := Entry{
			Lick:     uint(1 + rng.IntN(12)),
			Title:    "x",
			Part:     fmt.Sprint("part ", rng.IntN(4)),
			Tempo:    float64(60 + rng.IntN(60)),
			Picking:  float64(80 + 5*rng.IntN(10)),
			Fretting: float64(80 + 5*rng.IntN(10)),
			Move:     []string{"jump", "shift", "stroke"}[rng.IntN(3)],
			Minutes:  0.7,
			Time:     now.AddDate(0, 0, n/40-3750),
		}
		if rng.IntN(4) == 0 {
			e.Missed = 1
		} else {
			e.Clean = 1
		}
		log = append(log, e)
	}
	return log
}

// Ten years of rounds: what is made of them once, and what a round more costs.
func BenchmarkTenYears(b *testing.B) {
	log := tenYears()
	book := NewBook(log)
	rng := rand.New(rand.NewPCG(1, 1))
	pieces := notebookOf(12, rng)
	for i := range pieces {
		for k := range pieces[i].Parts {
			pieces[i].Parts[k].Name = fmt.Sprint("part ", k)
		}
	}
	b.Run("book", func(b *testing.B) {
		for b.Loop() {
			NewBook(log)
		}
	})
	b.Run("plan", func(b *testing.B) {
		for b.Loop() {
			Plan(30, pieces, book, now.AddDate(0, 0, 1))
		}
	})
	b.Run("round", func(b *testing.B) {
		e := log[len(log)-1]
		for b.Loop() {
			book.With(e).Climb(pieces[0].Parts[0], 120, 1, DateOf(now))
		}
	})
	b.Run("calibration", func(b *testing.B) {
		for b.Loop() {
			Calibrate(log)
		}
	})
}
