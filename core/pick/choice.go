package pick

import "ornamen/core/lick"

// Choice is one way to pick an event, for a search that chooses places too.
type Choice struct {
	Notes   []Note
	Strokes []lick.Stroke // one a note
}

// Choices lists the ways to pick notes (thick strings first) around the strokes that are set, a downstroke first.
func Choices(notes []Note) []Choice {
	var out []Choice
	for _, s := range options(Event{Notes: notes}) {
		out = append(out, Choice{notes, s})
	}
	return out
}

// Load is the load of going from one choice to the next with have ms between
// them, the pick held at an angle; fresh says that the second begins anew after a rest.
func (pl Hand) Load(x, y Choice, have float64, fresh bool, angle Angle) float64 {
	return pl.move(Event{Notes: x.Notes}, x.Strokes, Event{Notes: y.Notes, Have: have, Begins: fresh}, y.Strokes,
		angle).Load
}

// Breach says whether the second choice leaves the way although the player has not set both.
func (w Way) Breach(x, y Choice) bool {
	return w.breaches(Event{Notes: x.Notes}, x.Strokes, Event{Notes: y.Notes}, y.Strokes)
}

// Begin is the penalty of a choice where the line starts on a beat, in effort.
func Begin(c Choice) float64 {
	if stroke, ok := state(c.Strokes).pick(); ok && stroke == lick.Up {
		return upStart
	}
	return 0
}

// Between is the step from one choice to the next, whatever the time.
func (pl Hand) Between(x, y Choice, angle Angle) Step {
	return pl.move(Event{Notes: x.Notes}, x.Strokes, Event{Notes: y.Notes, Have: 1}, y.Strokes, angle)
}
