package pick

import (
	"slices"

	"ornamen/core/lick"
	"ornamen/core/text"
)

// TurnNeed is the need of strokes in turn on one string, in ms (model default).
const TurnNeed = 85.0

// ExitExtra is what a change takes more that the pick angle does not serve, in ms (model default).
const ExitExtra = 10.0

// Needs from picked note to picked note, in ms (model defaults).
const (
	againNeed       = 150.0 // one string, the same stroke again
	outsideExtra    = 10.0
	insideExtra     = 15.0
	sweepNeed       = 60.0 // with the stroke to the next string
	sweepSkipNeed   = 110.0
	againstExtra    = 45.0
	skipExtra       = 15.0 // each skipped string
	fingerNeed      = 100.0
	rakeNeed        = 60.0 // the sweep over muted strings before a note
	fingerAgainNeed = 160.0
)

// Way is a way of picking.
type Way string

// The ways. Pattern means that the strokes are given.
const (
	Alternate Way = "alternate"
	Economy   Way = "economy"
	Legato    Way = "legato"
	Free      Way = "free"
)

// ParseWay reads a way by name.
func ParseWay(s string) (Way, error) {
	return text.Word(s, string(Alternate), "way %q is none: use alternate, economy, legato, free",
		Alternate, Economy, Legato, Free)
}

// Angle is the side on which the pick leaves the strings easily.
type Angle string

// The angles.
const (
	LeavesDown Angle = "down"
	LeavesUp   Angle = "up"
	Either     Angle = "either"
)

// ParseAngle reads an angle by name.
func ParseAngle(s string) (Angle, error) {
	return text.Word(s, string(LeavesDown), "angle %q is none: use down, up, either", LeavesDown, LeavesUp, Either)
}

// Hand is what the model knows of a picking hand.
type Hand struct {
	Angle Angle
	Speed float64 // needs are divided by it; 1 is the model's player
}

// Note is one picked note of an event.
type Note struct {
	String int
	Stroke lick.Stroke // empty leaves it free
	Finger lick.Stroke // a free note may be played by this finger of the picking hand too
	Rake   bool        // muted strings are swept before it
	Line   bool        // the thumb has the bass: this note is the fingers'
	Turns  bool        // of these, index and middle finger alone, in turn on whatever strings, as on a bass
}

// Event is what is picked at one time, thick strings first. Have is the time in
// ms since the picked event before it (for the first, from the last of a loop).
type Event struct {
	Notes  []Note
	Have   float64
	Begins bool // it begins on a beat: a start, or after a rest or a held note
}

// StringChange names a string change by its two strokes.
type StringChange string

// The changes.
const (
	NoChange StringChange = ""
	Outside  StringChange = "outside"
	Inside   StringChange = "inside"
	Sweep    StringChange = "sweep"
	Against  StringChange = "against"
)

// StringChangeOf names the change between two strokes. A downstroke travels from the
// thick strings toward the thin ones (common practice).
func StringChangeOf(before, after lick.Stroke, toThinner bool) StringChange {
	with := lick.Up
	if toThinner {
		with = lick.Down
	}
	switch {
	case before == after && before == with:
		return Sweep
	case before == after:
		return Against
	case before == with:
		return Outside
	}
	return Inside
}

// Step is the picking hand at one event.
type Step struct {
	Strokes      []lick.Stroke // one a note
	StringChange StringChange
	Exit         lick.Stroke // the stroke after which the pick left the strings
	Skipped      int         // strings passed over by the change
	Need         float64     // ms
	Load         float64     // Need over Have
}

// Path is the whole line's picking.
type Path struct {
	Steps    []Step
	Bound    float64 // least possible largest load
	Angle    Angle   // the angle it was judged with, down or up
	Breaches int     // steps that had to leave the way, as they count: see InnerBreach
}

// Load is the largest load of the path's steps.
func (p Path) Load() (most float64) {
	for _, s := range p.Steps {
		most = max(most, s.Load)
	}
	return most
}

// stroke states: one stroke for each note of the event.
type state []lick.Stroke

// pick is the stroke that the pick made last; ok is false where it has made none or fingers play.
func (s state) pick() (lick.Stroke, bool) {
	for _, k := range s {
		if isPick(k) {
			return k, true
		}
	}
	return "", false
}

// isPick says whether the stroke is one of the pick.
func isPick(s lick.Stroke) bool { return s == lick.Down || s == lick.Up }

// enter and leave are the strings on which a stroke meets and leaves the event.
func enter(e Event, s state, stroke lick.Stroke) int { return edge(e, s, stroke == lick.Down) }

// leave is the string of the event from which the pick goes on: a downstroke ends on its
// thinnest one, an upstroke on its thickest one.
func leave(e Event, s state, stroke lick.Stroke) int { return edge(e, s, stroke == lick.Up) }

// edge is the thickest or thinnest string that the pick itself plays.
func edge(e Event, s state, thickest bool) int {
	best := 0
	for i, n := range e.Notes {
		if isPick(s[i]) && (best == 0 || thickest == (n.String > best)) {
			best = n.String
		}
	}
	return best
}

// move judges the step from event x played with p to event y played with q. Where y begins afresh the
// pick has been lifted: the same stroke again is a new start, no sweep and nothing against it, and its
// way back lies in the time before.
func (pl Hand) move(x Event, p state, y Event, q state, angle Angle) Step {
	st := Step{Strokes: q}
	before, okA := p.pick()
	after, okB := q.pick()
	switch {
	case !okA || !okB:
	case y.Begins && before == after:
		st.Need = TurnNeed
	default:
		st.Need = pl.pickNeed(leave(x, p, before), enter(y, q, after), before, after, angle, &st)
	}
	for _, k := range q {
		if isPick(k) {
			continue
		}
		need := fingerNeed
		if slices.Contains(p, k) {
			need = fingerAgainNeed
		}
		st.Need = max(st.Need, need)
	}
	if okB && !okA {
		st.Need = max(st.Need, fingerNeed)
	}
	if slices.ContainsFunc(y.Notes, func(n Note) bool { return n.Rake }) {
		st.Need += rakeNeed
	}
	if pl.Speed > 0 {
		st.Need /= pl.Speed
	}
	st.Load = st.Need / y.Have
	return st
}

// pickNeed is what a stroke needs in ms after the one before, from string to string at a
// pick angle, and notes in st how the change goes.
func (pl Hand) pickNeed(from, to int, before, after lick.Stroke, angle Angle, st *Step) float64 {
	if from == to {
		if before == after {
			return againNeed
		}
		return TurnNeed
	}
	st.Skipped = max(from-to, to-from) - 1
	st.StringChange = StringChangeOf(before, after, to < from)
	skip := skipExtra * float64(st.Skipped)
	need := TurnNeed + skip
	switch st.StringChange {
	case Sweep:
		if st.Skipped > 0 {
			return sweepSkipNeed + skipExtra*float64(st.Skipped-1)
		}
		return sweepNeed
	case Against:
		return need + againstExtra
	case Outside:
		need += outsideExtra
	case Inside:
		need += insideExtra
	}
	st.Exit = before
	if Angle(before) != angle {
		need += ExitExtra
	}
	return need
}

// Touching says whether one stroke can play the strings together.
func Touching(notes []Note) bool {
	for i := 1; i < len(notes); i++ {
		if d := notes[i-1].String - notes[i].String; d > 1 || d < -1 {
			return false
		}
	}
	return true
}
