package judge

import (
	"ornamen/core/defaults"
)

// Defaults lists what the model assumes of what is worth a finding and a fix.
func Defaults() []defaults.Row {
	rows := []defaults.Row{
		{Name: "a jump is worth a word over a load of", Value: JumpWarning},
		{Name: "fixes that a finding offers", Value: maxFixes},
		{Name: "findings that fixes are tried for", Value: mendedFindings},
		{Name: "edits that are tried for one finding", Value: triedFixes},
		{Name: "columns around an edit whose hands are found again", Value: mendWindow, Unit: "columns"},
		{Name: "columns that all tries together may work on", Value: mendedColumns, Unit: "columns"},
		{Name: "a loop worked out whole counts, times", Value: roundWork},
		{Name: "landings that are mended", Value: mendedLandings},
		{Name: "notes of all lines tried for them", Value: landingNotes, Unit: "notes"},
		{Name: "a fix is worth offering for a ceiling higher by a factor of", Value: rises},
		{Name: "a fix of a remark keeps, of the ceiling", Value: remarkCost},
		{Name: "notes of a line that are judged together", Value: MaxNotes, Unit: "notes"},
	}
	for i := range rows {
		rows[i].From = defaults.Model
	}
	return rows
}
