package practice

import (
	"fmt"
	"math"

	"ornamen/core/say"
)

// How a day by which a tempo is wanted paces a ladder (model defaults).
const (
	stepsADay  = 3    // of a part that hold until the next day
	cleanShare = 0.8  // of rounds on a ladder, before the log says more
	shareOf    = 12   // rounds that this counts as
	roundTime  = 0.75 // minutes of a round with the breath before it, before the log says more
	lookRounds = 60   // last rounds of a part that are looked at
	mostPaced  = 90   // minutes a day of one lick, beyond which it is no plan
)

// Pace is what it takes to have a lick at its wanted tempo by a day.
type Pace struct {
	Now, Wanted float64
	Steps       int     // up the ladders of the whole and of the parts that are being practised
	Minutes     float64 // a day
	Days        int     // of practice that are left, today among them
	Takes       int     // days of practice at least
	Ceiling     float64 // of the player's hand
	Never       Never   // why it will not do; empty where it will
	Done        bool    // it is there
}

// Never says why a tempo is not reached by a day.
type Never string

// The reasons: the hand's ceiling lies below, the ladder does not climb at the share of clean rounds that the log has,
// the days are too few, the minutes too many.
const (
	TooHigh    Never = "ceiling"
	TooUnclean Never = "unclean"
	TooSoon    Never = "days"
	TooMuch    Never = "minutes"
)

// PaceOf says how many minutes a day a lick needs to be at its wanted tempo within so many days of practice, by where
// its ladders stand and by how the player's rounds of it went lately. The whole counts, and each part of which the log
// has rounds.
//
// A step up takes three clean rounds in a row; two misses at a step go down. If a share p of the rounds is clean, a
// step is tried with p³ without a miss and once more after the first miss: u = p³ + (1 − p³)·p³ go up, the others
// down, so that a step net takes 1/(2u − 1) tries of (1 + p + p²)(2 − p³) rounds each (a walk of two outcomes; its
// ends are left out). With four clean rounds in five that are 6.9 rounds a step, with nine in ten 4.1.
//
// Common practice: what a part gains beyond a few steps a day is mostly gone the next.
func PaceOf(p Piece, b *Book, today Date, days int) Pace {
	out := Pace{Wanted: p.Wanted, Days: days, Done: true}
	minutes := 0.0
	for _, part := range p.Parts {
		if rung := b.Climb(part, p.Wanted, p.Lick, today); part.Name == "" && (rung.Top || rung.Done) {
			return Pace{Now: rung.Tempo, Wanted: p.Wanted, Days: days, Ceiling: part.Ceiling, Done: true}
		}
	}
	for _, part := range p.Parts {
		rounds := b.Part(p.Lick, part.Name)
		r := b.read(part, p.Wanted, p.Lick).climber
		rung := r.on(today)
		whole := part.Name == ""
		if whole {
			out.Now, out.Ceiling = rung.Tempo, part.Ceiling
		}
		if rung.Top || rung.Done || !whole && lastRound(rounds) < 0 || part.Backwards {
			continue
		}
		out.Done = out.Done && !whole
		if part.Ceiling > 0 && p.Wanted > part.Ceiling && whole {
			out.Never = TooHigh
			return out
		}
		if part.Ceiling > 0 && p.Wanted > part.Ceiling {
			continue // what is not clean at that tempo by itself is not what the day waits for
		}
		steps := stepsTo(r, today, p.Wanted)
		share, length := lately(rounds)
		each, climbs := roundsAStep(share)
		if !climbs {
			out.Never = TooUnclean
			return out
		}
		out.Steps += steps
		out.Takes = max(out.Takes, (steps+stepsADay-1)/stepsADay)
		minutes += (float64(steps) + 1) * each * length // and once more at the top
	}
	if out.Done {
		return out
	}
	out.Minutes = minutes / float64(max(1, days))
	switch {
	case days < out.Takes || days < 1:
		out.Never = TooSoon
	case out.Minutes > mostPaced:
		out.Never = TooMuch
	}
	return out
}

// stepsTo counts the steps of a ladder to a tempo when nothing is missed on the way. r is a copy.
func stepsTo(r climber, today Date, wanted float64) int {
	r.on(today)
	r.pause(today)
	n := 0
	for r.Tempo < wanted && n < 1000 {
		r.Tempo = r.up()
		n++
	}
	return n
}

// roundsAStep is how many rounds a step up takes net of those down, at a share of clean rounds; climbs is false where
// as many steps go down as up.
func roundsAStep(clean float64) (rounds float64, climbs bool) {
	cube := clean * clean * clean
	up := cube + (1-cube)*cube
	if up <= 0.55 {
		return 0, false // closer to even it takes for ever
	}
	return (1 + clean + clean*clean) * (2 - cube) / (2*up - 1), true
}

// lately is the share of clean rounds of a part and how long one takes, in minutes, by its last rounds.
func lately(entries []Entry) (share, minutes float64) {
	clean, all, took, timed := cleanShare*shareOf, float64(shareOf), roundTime*shareOf, float64(shareOf)
	seen := 0
	for k := len(entries) - 1; k >= 0 && seen < lookRounds; k-- {
		e := entries[k]
		n := e.Clean + e.Missed
		if e.Kind != "" || n == 0 {
			continue
		}
		seen += n
		clean, all = clean+float64(e.Clean), all+float64(n)
		if e.Minutes > 0 {
			took, timed = took+e.Minutes, timed+float64(n)
		}
	}
	return clean / all, took / timed
}

// Words says it in a sentence: "112 by 12 December needs 15 minutes a day".
func (x Pace) Words(by, today Date) string {
	day := by.Word(today)
	switch {
	case x.Done:
		return fmt.Sprintf("%.0f is there", x.Wanted)
	case x.Never == TooHigh:
		return fmt.Sprintf("%.0f will not do by %s: this hand is clean up to %.0f; "+
			"take other hands, another place or a lower tempo", x.Wanted, day, math.Floor(x.Ceiling))
	case x.Never == TooUnclean:
		return fmt.Sprintf("%.0f will not do by %s: too many rounds are missed to climb; begin slower", x.Wanted, day)
	case x.Never == TooSoon && x.Days < 1:
		return fmt.Sprintf("%.0f by %s: that day is over", x.Wanted, day)
	case x.Never == TooSoon:
		return fmt.Sprintf("%.0f will not do by %s: from %.0f it takes %s, and there %s", x.Wanted,
			day, x.Now, say.Count(x.Takes, "day of practice"), areDays(x.Days))
	case x.Never == TooMuch:
		return fmt.Sprintf("%.0f will not do by %s: it would need %.0f minutes a day", x.Wanted, day,
			math.Ceil(x.Minutes))
	}
	n := math.Max(1, math.Ceil(x.Minutes))
	return fmt.Sprintf("%.0f by %s needs %s a day", x.Wanted, day, say.Count(int(n), "minute"))
}

// areDays says how many days there are.
func areDays(n int) string {
	if n == 1 {
		return "is 1"
	}
	return fmt.Sprintf("are %d", n)
}
