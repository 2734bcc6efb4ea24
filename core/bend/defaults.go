package bend

import "ornamen/core/defaults"

// Defaults lists what the model assumes of bends.
func Defaults() []defaults.Row {
	s := DefaultStrength()
	rows := []defaults.Row{
		{Name: "the index alone holds", Value: float64(s.Index), Unit: "N"},
		{Name: "any other finger alone holds", Value: float64(s.One), Unit: "N"},
		{Name: "two fingers hold", Value: float64(s.Two), Unit: "N"},
		{Name: "three fingers hold", Value: float64(s.Three), Unit: "N"},
		{Name: "a bend breaks over that, times", Value: Breaking},
		{Name: "a bend takes at least", Value: startTime, Unit: "ms"},
		{Name: "each mm of push, more", Value: mmTime, Unit: "ms"},
		{Name: "vibrato needs a note of", Value: VibratoTime, Unit: "ms"},
		{Name: "room left to the edge", Value: float64(EdgeSpare), Unit: "mm"},
	}
	for i := range rows {
		rows[i].From = defaults.Model
	}
	return rows
}
