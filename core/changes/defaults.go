package changes

import (
	"ornamen/core/defaults"
)

// Defaults lists what the model assumes of a line over its chords.
func Defaults() []defaults.Row {
	return defaults.Ours(
		defaults.Row{Name: "a landing is early by at most", Value: mostEarly.Float(), Unit: "whole notes"},
		defaults.Row{Name: "a rest at a change ends within", Value: restLate.Float(), Unit: "whole notes"},
	)
}
