package bend

import "ornamen/core/defaults"

// Defaults lists what the model assumes of bends.
func Defaults() []defaults.Row {
	s := DefaultStrength()
	return defaults.Ours(defaults.Row{Name: "the index alone holds", Value: float64(s.Index), Unit: "N"},
		defaults.Row{Name: "any other finger alone holds", Value: float64(s.One), Unit: "N"},
		defaults.Row{Name: "two fingers hold", Value: float64(s.Two), Unit: "N"},
		defaults.Row{Name: "three fingers hold", Value: float64(s.Three), Unit: "N"},
		defaults.Row{Name: "a bend breaks over that, times", Value: Breaking},
		defaults.Row{Name: "a bend takes at least", Value: startTime, Unit: "ms"},
		defaults.Row{Name: "each mm of push, more", Value: mmTime, Unit: "ms"},
		defaults.Row{Name: "vibrato needs a note of", Value: VibratoTime, Unit: "ms"},
		defaults.Row{Name: "room left to the edge", Value: float64(EdgeSpare), Unit: "mm"})
}
