package practice

import (
	"ornamen/core/defaults"
)

// Defaults lists what the model assumes of practising: how a ladder is climbed, a day is filled and a log is read.
func Defaults() []defaults.Row {
	rows := []defaults.Row{
		{Name: "a ladder begins at, of the ceiling", Value: atEase},
		{Name: "… and not below, of the wanted tempo", Value: asPhrase},
		{Name: "clean rounds in a row that go a step up", Value: cleanUp, Unit: "rounds"},
		{Name: "missed rounds at a step that go down", Value: missDown, Unit: "rounds"},
		{Name: "a step up while nothing is missed, of the tempo", Value: wideStep},
		{Name: "a step up or down, of the tempo", Value: usualStep},
		{Name: "a step near the ceiling, of the tempo", Value: narrow},
		{Name: "near the ceiling from, of it", Value: nearTop},
		{Name: "a day: playing before a rest", Value: restEvery, Unit: "min"},
		{Name: "a day: a rest", Value: restTime, Unit: "min"},
		{Name: "a day: the warm-up, at most", Value: warmTime, Unit: "min"},
		{Name: "a day: something for the ear", Value: earTime, Unit: "min"},
		{Name: "a day: something new", Value: newTime, Unit: "min"},
		{Name: "a day: a part that is due", Value: dueTime, Unit: "min"},
		{Name: "heavy things stay away after it is well", Value: soreDays, Unit: "days"},
		{Name: "a part waits at most", Value: longest, Unit: "days"},
		{Name: "a rest is due after", Value: RestAfter, Unit: "min"},
		{Name: "a silence that counts as a rest", Value: restGap.Minutes(), Unit: "min"},
		{Name: "heavy is a frame strained by more than", Value: heavyStrain},
		{Name: "heavy is a bend of at least", Value: heavyBend, Unit: "half steps"},
		{Name: "a line played backwards is as easy as forwards at, of its ceiling", Value: harder},
		{Name: "calibration: a round is clean by a logistic of the margin, its steepness", Value: steepness},
		{Name: "calibration: an ability before any round, standard deviation of its logarithm", Value: spread},
		{Name: "calibration: an interval, in standard deviations", Value: sure},
		{Name: "a forecast looks back over", Value: lookBack, Unit: "days of practice"},
		{Name: "… and needs", Value: leastDays, Unit: "days of practice"},
		{Name: "… and sees as far as", Value: farthest, Unit: "days of practice"},
	}
	for i := range rows {
		rows[i].From = defaults.Model
	}
	return rows
}
