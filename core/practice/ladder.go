package practice

import "math"

// How a ladder is climbed (common practice; the numbers are model defaults).
const (
	atEase    = 0.5    // of the ceiling: where every move is at ease
	asPhrase  = 1. / 3 // of the wanted tempo: slower, the phrase is lost
	cleanUp   = 3      // clean rounds in a row go up
	missDown  = 2      // missed rounds at a step go down
	wideStep  = 0.06   // while it goes well
	usualStep = 0.04
	narrow    = 0.02 // near the ceiling
	nearTop   = 0.9  // of the ceiling
)

// Rung is where a part stands on its ladder.
type Rung struct {
	Tempo  float64 // to play now
	Next   float64 // after the clean rounds that are left; the same at the top
	Left   int     // clean rounds to go up
	Missed int     // rounds missed at this step
	Fell   bool    // the last thing that happened was a step down
	Note   int     // that was missed last, from 1; 0 for none
	Top    bool    // the wanted tempo is reached and clean
	Start  float64
}

// Start is where a ladder begins: half of what is clean, and never so slow that the phrase is
// lost, in whole quarters a minute.
func Start(p Part, wanted float64) float64 {
	s := max(atEase*p.Ceiling, asPhrase*wanted)
	return math.Round(max(20, min(s, wanted)))
}

// Climb reads a part's rounds in their order and says where it stands. Rounds that were played
// at another tempo than the ladder's move it there: the player knows best.
//
// As an example, a part with a ceiling of 120 that is wanted at 100 begins at 60. Nine clean
// rounds go to 62, 64 and, as nothing was missed on the way, 68; two missed there go back to
// 65.
func Climb(p Part, wanted float64, log []Entry, lick uint) Rung {
	r := Rung{Tempo: Start(p, wanted), Left: cleanUp}
	r.Start = r.Tempo
	streak := 0 // steps gone up without a miss
	for _, e := range of(log, lick, p.Name) {
		if e.Tempo > 0 && math.Abs(e.Tempo-r.Tempo) > 0.5 {
			r.Tempo, r.Left, r.Missed = math.Round(e.Tempo), cleanUp, 0
		}
		// A line of the log is several rounds; those that were missed came first, as a player
		// goes on until it is clean.
		for range e.Missed {
			r.Left, r.Top, streak = cleanUp, false, 0
			if r.Missed++; r.Missed >= missDown {
				r.Tempo, r.Missed, r.Fell = max(r.Start, math.Round(r.Tempo/(1+usualStep))), 0, true
			}
			r.Note = e.Note
		}
		for range e.Clean {
			if r.Left--; r.Left > 0 {
				continue
			}
			r.Left, r.Missed, r.Fell, r.Note = cleanUp, 0, false, 0
			if r.Tempo >= wanted {
				r.Top = true
				continue
			}
			r.Tempo = up(p, r.Tempo, wanted, streak)
			streak++
		}
	}
	r.Next = up(p, r.Tempo, wanted, streak)
	return r
}

// up is the next tempo: wider steps while nothing is missed, narrow ones near the ceiling.
func up(p Part, tempo, wanted float64, streak int) float64 {
	step := usualStep
	switch {
	case p.Ceiling > 0 && tempo >= nearTop*p.Ceiling:
		step = narrow
	case streak >= 2:
		step = wideStep
	}
	return min(wanted, max(tempo+1, math.Round(tempo*(1+step))))
}
