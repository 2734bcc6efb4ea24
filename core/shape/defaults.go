package shape

import (
	"ornamen/core/defaults"
)

// Defaults lists what the model assumes of the places that a shape may lie at.
func Defaults() []defaults.Row {
	return defaults.Ours(defaults.Row{Name: "bends are heavy from", Value: heavyFrom, Unit: "N"},
		defaults.Row{Name: "fingertips crowd by half a point at, of a fingertip", Value: crowdedHalf})
}
