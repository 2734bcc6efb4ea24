package judge

import (
	"ornamen/core/defaults"
)

// Defaults lists what the model assumes of what is worth a finding and a fix.
func Defaults() []defaults.Row {
	return defaults.Ours(defaults.Row{Name: "a jump is worth a word over a load of", Value: JumpWarning},
		defaults.Row{Name: "other hands than the taught ones are faster by a factor of", Value: fastWorth},
		defaults.Row{Name: "fixes that a finding offers", Value: maxFixes},
		defaults.Row{Name: "findings that fixes are tried for", Value: mendedFindings},
		defaults.Row{Name: "edits that are tried for one finding", Value: triedFixes},
		defaults.Row{Name: "columns around an edit whose hands are found again", Value: mendWindow, Unit: "columns"},
		defaults.Row{Name: "columns that all tries together may work on", Value: mendedColumns, Unit: "columns"},
		defaults.Row{Name: "a figure is taken elsewhere with other fingers up to", Value: longestFigure, Unit: "notes"},
		defaults.Row{Name: "a loop worked out whole counts, times", Value: roundWork},
		defaults.Row{Name: "landings that are mended", Value: mendedLandings},
		defaults.Row{Name: "exits are mended of lines up to", Value: mendedExits, Unit: "notes"},
		defaults.Row{Name: "… by slurs, at most", Value: slurredAway},
		defaults.Row{Name: "notes of all lines tried for them", Value: landingNotes, Unit: "notes"},
		defaults.Row{Name: "a fix is worth offering for a ceiling higher by a factor of", Value: rises},
		defaults.Row{Name: "a fix of a remark keeps, of the ceiling", Value: remarkCost},
		defaults.Row{Name: "notes of a line that are judged together", Value: MaxNotes, Unit: "notes"})
}
