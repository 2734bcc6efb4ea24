package practice

import (
	"math"
)

// How a ladder is climbed (common practice; the numbers are model defaults).
const (
	atEase    = 0.5 // of the ceiling: where every move is at ease
	slowest   = 20  // quarters a minute: no ladder goes lower
	asPhrase  = 1. / 3
	cleanUp   = 3    // clean rounds in a row go up
	missDown  = 2    // missed rounds at a step go down
	wideStep  = 0.06 // while it goes well
	usualStep = 0.04
	narrow    = 0.02 // near the ceiling
	nearTop   = 0.9  // of the ceiling
	raise     = 0.05 // by which a wanted tempo that is reached may be raised
)

// pauses are by how much a tempo steps back after so many days without a round (model defaults).
var pauses = []struct {
	days Date
	back float64
}{{90, 0.25}, {30, 0.15}, {14, 0.08}, {7, 0.04}}

// Rung is where a part stands on its ladder.
type Rung struct {
	Tempo  float64 // to play now
	Next   float64 // after the clean rounds that are left; the same at the top
	Left   int     // clean rounds to go up
	Missed int     // rounds missed at this step
	Fell   bool    // the last thing that happened was a step down
	Note   int     // that was missed last, from 1; 0 for none
	Top    bool    // the wanted tempo is reached and clean
	Done   bool    // and the player is done with it: it is planned no more
	Start  float64
	Wanted float64 // the line's own tempo, or what the player has raised it to
	Paused int     // days of the pause after which it stepped back, 0 for none
	Slow   bool    // slower than a third of the wanted tempo, where the phrase is lost
}

// Start is where a ladder begins of which the log knows nothing: half of what is clean, in whole quarters a minute.
func Start(p Part, wanted float64) float64 {
	return math.Round(max(slowest, min(atEase*p.Ceiling, wanted)))
}

// climber is a ladder under way.
type climber struct {
	Rung
	part   Part
	streak int     // steps gone up without a miss
	before float64 // the tempo before a pause, which is climbed back to twice as fast; 0 for none
	last   Date    // of the round before
}

// Climb reads a part's rounds in their order and says where it stands on the day today.
//
// Three clean rounds in a row go up, two misses at a step go down, with no floor but 20 a minute. A
// round that was clean at another tempo than the ladder's moves it there, and so does one that was
// missed more slowly; a miss at a faster one does not raise it. A tempo that the player sets holds
// from then on. A warm-up is no rung. After a week without a round the tempo steps back by 4 %, after
// two by 8, a month 15, three 25, and climbs back in steps twice as wide.
//
// As an example, a part with a ceiling of 120 that is wanted at 100 begins at 60. Nine clean rounds go to 62, 64 and,
// as nothing was missed on the way, 68; two missed there go back to 65.
func Climb(p Part, wanted float64, log []Entry, lick uint, today Date) Rung {
	return climb(p, wanted, of(log, lick, p.Name), today)
}

// climb is Climb of the part's own entries.
func climb(p Part, wanted float64, rounds []Entry, today Date) Rung {
	return climbed(p, wanted, rounds).on(today)
}

// climbed is the ladder after a part's entries.
func climbed(p Part, wanted float64, rounds []Entry) climber {
	c := climber{part: p, Rung: Rung{Tempo: Start(p, wanted), Left: cleanUp, Wanted: wanted}}
	c.Start = c.Tempo
	for _, e := range rounds {
		c.read(e)
	}
	return c
}

// on is where it stands on a day: after a pause, if it was one.
func (c climber) on(today Date) Rung {
	if today > 0 {
		c.pause(today)
	}
	c.Next = c.up()
	c.Slow = c.Tempo < asPhrase*c.Wanted
	return c.Rung
}

// read takes in an entry of the log.
func (c *climber) read(e Entry) {
	day := DateOf(e.Time)
	if c.last > 0 {
		c.pause(day)
	}
	switch e.Kind {
	case WarmUp, Ear:
		return
	case SetTempo:
		c.begin(e.Tempo)
		c.last = day
		return
	case Raised:
		c.Wanted, c.Top, c.Done, c.Left = e.Tempo, false, false, cleanUp
		return
	case Finished:
		c.Done = true
		return
	case TakenUp:
		c.Done = false
		return
	}
	c.last, c.Paused, c.Done = day, 0, false
	faster := e.Tempo > c.Tempo+0.5
	if e.Tempo > 0 && (e.Tempo < c.Tempo-0.5 || faster && e.Clean > 0) {
		c.begin(e.Tempo)
	} else if faster {
		c.Note = e.Note
		return // missed faster than the ladder: it says nothing of this step
	}
	// A line of the log is several rounds; those that were missed came first, as a player goes on until it is clean.
	for range e.Missed {
		c.Left, c.Top, c.streak, c.before = cleanUp, false, 0, 0
		c.Note = e.Note
		if c.Missed++; c.Missed >= missDown {
			c.Tempo, c.Missed, c.Fell = max(slowest, min(c.Tempo-1, math.Round(c.Tempo/(1+usualStep)))), 0, true
		}
	}
	for range e.Clean {
		if c.Left--; c.Left > 0 {
			continue
		}
		c.Left, c.Missed, c.Fell, c.Note = cleanUp, 0, false, 0
		if c.Tempo >= c.Wanted {
			c.Top = true
			continue
		}
		c.Tempo = c.up()
		c.streak++
	}
}

// begin stands at a tempo that the ladder did not lead to.
func (c *climber) begin(tempo float64) {
	c.Tempo, c.Left, c.Missed, c.Fell, c.Top, c.before = math.Round(max(slowest, tempo)), cleanUp, 0, false, false, 0
}

// pause steps back for the days since the last round.
func (c *climber) pause(day Date) {
	for _, p := range pauses {
		if c.last > 0 && day-c.last >= p.days {
			before := max(c.before, c.Tempo)
			c.begin(c.Tempo * (1 - p.back))
			c.before, c.Paused, c.streak = before, int(day-c.last), 0
			c.last = day
			return
		}
	}
}

// up is the next tempo: wider steps while nothing is missed, twice as wide on the way back after a pause,
// narrow ones near the ceiling.
func (c *climber) up() float64 {
	step := usualStep
	switch {
	case c.before > c.Tempo:
		step = 2 * usualStep
	case c.part.Ceiling > 0 && c.Tempo >= nearTop*c.part.Ceiling:
		step = narrow
	case c.streak >= 2:
		step = wideStep
	}
	to := max(c.Tempo+1, math.Round(c.Tempo*(1+step)))
	if c.before > c.Tempo {
		to = min(to, max(c.before, c.Tempo+1))
	}
	return min(max(c.Wanted, c.Tempo), to)
}

// RaiseTo is what a wanted tempo that was reached may be raised to.
func RaiseTo(wanted float64) float64 { return max(wanted+1, math.Round(wanted*(1+raise))) }
