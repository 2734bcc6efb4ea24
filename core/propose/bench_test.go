package propose

import (
	"fmt"
	"testing"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/player"
	"ornamen/core/testline"
)

// longLine goes up and down natural minor, three a string, in sixteenths.
func longLine(n int) lick.Lick {
	shape := [][2]int{
		{6, 5},
		{6, 7},
		{6, 8},
		{5, 5},
		{5, 7},
		{5, 8},
		{4, 5},
		{4, 7},
		{4, 9},
		{3, 5},
		{3, 7},
		{3, 9},
		{2, 6},
		{2, 8},
		{2, 10},
		{1, 7},
		{1, 8},
		{1, 10},
		{1, 8},
		{1, 7},
		{2, 10},
		{2, 8},
		{2, 6},
		{3, 9},
		{3, 7},
		{3, 5},
		{4, 9},
		{4, 7},
		{4, 5},
		{5, 8},
		{5, 7},
		{5, 5},
		{6, 8},
		{6, 7},
	}
	l := lick.New()
	step := lick.NewTime(1, 16)
	for i := range n {
		p := shape[i%len(shape)]
		l.Notes = append(l.Notes, lick.Note{At: step.Times(int64(i)), Len: step, String: p[0], Fret: p[1]})
	}
	return l
}

// The proposal with places given: cold is a hand that has judged nothing yet,
// edit is a line that was judged before and has one finger set since.
func BenchmarkPropose(b *testing.B) {
	for _, n := range []int{16, 64, 256, 1024} {
		l := longLine(n)
		b.Run(fmt.Sprintf("cold/%d", n), func(b *testing.B) {
			for b.Loop() {
				propose(judge.NewEngine(player.Default()), l, Request{})
			}
		})
		b.Run(fmt.Sprintf("edit/%d", n), func(b *testing.B) {
			e := judge.NewEngine(player.Default())
			propose(e, l, Request{})
			for i := 0; b.Loop(); i++ {
				c := l.Clone()
				c.Notes[i%n].Fret++
				propose(e, c, Request{})
			}
		})
	}
}

// The same with places free.
func BenchmarkProposePlaces(b *testing.B) {
	for _, n := range []int{16, 64, 256, 1024} {
		l := longLine(n)
		e := judge.NewEngine(player.Default())
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			for b.Loop() {
				propose(e, l, Request{Place: true})
			}
		})
	}
}

// The judgement with fixes for its worst findings, the hand's moves not known
// before (cold) and known.
func BenchmarkCheckWithFixes(b *testing.B) {
	for _, n := range []int{64, 256, 2048} {
		l := testline.Wild(n)
		b.Run(fmt.Sprintf("cold/%d", n), func(b *testing.B) {
			for b.Loop() {
				e := judge.NewEngine(player.Default())
				mend(e, l, check(e, l))
			}
		})
		b.Run(fmt.Sprintf("warm/%d", n), func(b *testing.B) {
			e := judge.NewEngine(player.Default())
			for b.Loop() {
				mend(e, l, check(e, l))
			}
		})
	}
}
