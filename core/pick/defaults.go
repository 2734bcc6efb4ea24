package pick

import "ornamen/core/defaults"

// Defaults lists what the model assumes of a picking hand.
func Defaults() []defaults.Row {
	rows := []defaults.Row{
		{Name: "one string, strokes in turn", Value: TurnNeed, Unit: "ms"},
		{Name: "one string, the same stroke again", Value: againNeed, Unit: "ms"},
		{Name: "outside change, more", Value: outsideExtra, Unit: "ms"},
		{Name: "inside change, more", Value: insideExtra, Unit: "ms"},
		{Name: "sweep to the next string", Value: sweepNeed, Unit: "ms"},
		{Name: "sweep over a skipped string", Value: sweepSkipNeed, Unit: "ms"},
		{Name: "change against the stroke, more", Value: againstExtra, Unit: "ms"},
		{Name: "each skipped string, more", Value: skipExtra, Unit: "ms"},
		{Name: "the exit that the pick angle does not serve, more", Value: ExitExtra, Unit: "ms"},
		{Name: "a rake before the note", Value: rakeNeed, Unit: "ms"},
		{Name: "fingers in turn", Value: fingerNeed, Unit: "ms"},
		{Name: "the same finger again", Value: fingerAgainNeed, Unit: "ms"},
		{Name: "effort: a finger passes over another one", Value: crossEffort, Unit: "ms"},
		{Name: "effort: the ring finger", Value: ringEffort, Unit: "ms"},
		{Name: "effort: an upstroke at the start, on a beat", Value: upStart, Unit: "ms"},
	}
	for i := range rows {
		rows[i].From = defaults.Model
	}
	return rows
}
