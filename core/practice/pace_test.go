package practice

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
	"time"
)

// The sum of a step agrees with a ladder that is walked round by round.
func TestRoundsAStep(t *testing.T) {
	rng := rand.New(rand.NewPCG(26, 2))
	for _, p := range []float64{0.75, 0.8, 0.9, 0.97} {
		want, climbs := roundsAStep(p)
		if !climbs {
			t.Errorf("a share of %g does not climb", p)
		}
		c := climber{part: Part{}, Rung: Rung{Tempo: 1000, Left: cleanUp, Wanted: 1e9}}
		level, rounds := 0, 0
		for level < 400 {
			before := c.Tempo
			e := Entry{Tempo: c.Tempo, Clean: 1, Time: time.Unix(1e9, 0)}
			if rng.Float64() > p {
				e.Clean, e.Missed = 0, 1
			}
			c.read(e)
			rounds++
			switch {
			case c.Tempo > before:
				level++
			case c.Tempo < before:
				level--
			}
			c.Tempo = 1000 // the step's size is no matter here
		}
		if got := float64(rounds) / 400; math.Abs(got/want-1) > 0.15 {
			t.Errorf("at %g clean a step takes %.2f rounds, by the sum %.2f", p, got, want)
		}
	}
	for _, p := range []float64{0, 0.4, 0.65} {
		if _, climbs := roundsAStep(p); climbs {
			t.Errorf("a share of %g climbs", p)
		}
	}
}

// Simulated players who practise for the minutes that are named are at the wanted tempo by the day, most of them, and
// not long before it.
func TestPaceHolds(t *testing.T) {
	var late []float64
	for seed := range 60 {
		rng := rand.New(rand.NewPCG(26, uint64(seed)))
		share := 0.74 + 0.2*rng.Float64()
		p := Piece{Lick: 1, Wanted: 125, Parts: []Part{{From: 1, To: 8, Ceiling: 130}}}
		at := time.Date(2026, 11, 2, 18, 0, 0, 0, time.UTC)
		var log []Entry
		play := func() Rung {
			r := Climb(p.Parts[0], p.Wanted, log, 1, DateOf(at))
			e := Entry{Lick: 1, Tempo: r.Tempo, Clean: 1, Minutes: 0.6, Time: at}
			if rng.Float64() > share {
				e.Clean, e.Missed = 0, 1
			}
			log = append(log, e)
			return Climb(p.Parts[0], p.Wanted, log, 1, DateOf(at))
		}
		for range 20 { // what the log knows of the player
			play()
		}
		at = at.AddDate(0, 0, 1)
		const days = 14
		pace := PaceOf(p, NewBook(log), DateOf(at), days)
		if pace.Done || pace.Never != "" {
			t.Fatalf("seed %d: %+v", seed, pace)
		}
		took, top := 0.0, false
		for day := 0; !top && day < 60; day++ {
			for spent := 0.0; !top && spent < pace.Minutes; spent += 0.6 {
				top = play().Top
				took += 0.6
			}
			at = at.AddDate(0, 0, 1)
		}
		ratio := took / (pace.Minutes * days)
		late = append(late, ratio)
	}
	slices.Sort(late)
	if m := late[len(late)/2]; m < 0.7 || m > 1.2 {
		t.Errorf("half of the players take %.2f of what was named", m)
	}
	if m := late[len(late)*8/10]; m > 1.6 {
		t.Errorf("one in five takes more than %.2f of it", m)
	}
	t.Logf("of what was named: 10%% %.2f, half %.2f, 90%% %.2f", late[6], late[30], late[54])
}

// What will not do is said, with why.
func TestPaceNever(t *testing.T) {
	day := DateOf(time.Date(2026, 12, 1, 9, 0, 0, 0, time.UTC))
	of := func(wanted, ceiling float64, days int, log ...Entry) Pace {
		p := Piece{Lick: 1, Wanted: wanted, Parts: []Part{{From: 1, To: 8, Ceiling: ceiling}}}
		return PaceOf(p, NewBook(log), day, days)
	}
	at := day.Time().Add(-24 * time.Hour)
	missed := Entry{Lick: 1, Tempo: 60, Missed: 40, Clean: 10, Time: at}
	top := Entry{Lick: 1, Tempo: 100, Clean: 3, Time: at}
	for _, c := range []struct {
		pace Pace
		want string
	}{
		{of(112, 130, 12), "112 by 12 December needs "},
		{of(112, 98.7, 12), "this hand is clean up to 98"},
		{of(112, 130, 1), "days of practice, and there is 1"},
		{of(112, 130, 0), "that day is over"},
		{of(112, 130, 12, missed), "too many rounds are missed"},
		{of(100, 130, 12, top), "100 is there"},
	} {
		if got := c.pace.Words(day+11, day); !strings.Contains(got, c.want) {
			t.Errorf("%q does not say %q: %+v", got, c.want, c.pace)
		}
	}
	// What is there is there, however badly one of its parts goes.
	p := Piece{
		Lick:   1,
		Wanted: 100,
		Parts:  []Part{{Name: "bottleneck", From: 1, To: 4, Ceiling: 130}, {From: 1, To: 8, Ceiling: 130}},
	}
	bad := missed
	bad.Part = "bottleneck"
	if got := PaceOf(p, NewBook([]Entry{bad, top}), day, 9); !got.Done || got.Never != "" {
		t.Errorf("%+v", got)
	}
	// More days need less a day, and a higher tempo more.
	last := math.Inf(1)
	for _, days := range []int{5, 8, 13, 21, 34} {
		p := of(110, 130, days)
		if p.Never != "" || p.Minutes >= last {
			t.Errorf("%d days: %+v", days, p)
		}
		last = p.Minutes
	}
	if a, b := of(90, 130, 20), of(115, 130, 20); a.Minutes >= b.Minutes {
		t.Error(fmt.Sprint(a, b))
	}
}
