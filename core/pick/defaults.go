package pick

import "ornamen/core/defaults"

// Defaults lists what the model assumes of a picking hand.
func Defaults() []defaults.Row {
	return defaults.Ours(defaults.Row{Name: "one string, strokes in turn", Value: TurnNeed, Unit: "ms"},
		defaults.Row{Name: "one string, the same stroke again", Value: againNeed, Unit: "ms"},
		defaults.Row{Name: "outside change, more", Value: outsideExtra, Unit: "ms"},
		defaults.Row{Name: "inside change, more", Value: insideExtra, Unit: "ms"},
		defaults.Row{Name: "sweep to the next string", Value: sweepNeed, Unit: "ms"},
		defaults.Row{Name: "sweep over a skipped string", Value: sweepSkipNeed, Unit: "ms"},
		defaults.Row{Name: "change against the stroke, more", Value: againstExtra, Unit: "ms"},
		defaults.Row{Name: "each skipped string, more", Value: skipExtra, Unit: "ms"},
		defaults.Row{Name: "the exit that the pick angle does not serve, more", Value: ExitExtra, Unit: "ms"},
		defaults.Row{Name: "a rake before the note", Value: rakeNeed, Unit: "ms"},
		defaults.Row{Name: "fingers in turn", Value: fingerNeed, Unit: "ms"},
		defaults.Row{Name: "the same finger again", Value: fingerAgainNeed, Unit: "ms"},
		defaults.Row{Name: "effort: a finger passes over another one", Value: crossEffort, Unit: "ms"},
		defaults.Row{Name: "effort: the ring finger", Value: ringEffort, Unit: "ms"},
		defaults.Row{Name: "effort: an upstroke at the start, on a beat", Value: upStart, Unit: "ms"})
}
