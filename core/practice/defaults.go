package practice

import (
	"fmt"

	"ornamen/core/defaults"
)

// Defaults lists what the model assumes of practising: how a ladder is climbed, a day is filled and a log is read.
func Defaults() []defaults.Row {
	return defaults.Ours(append(hypotheses(),
		defaults.Row{Name: "a ladder begins at, of the ceiling", Value: atEase},
		defaults.Row{Name: "… and goes down to", Value: slowest, Unit: "quarters a minute"},
		defaults.Row{Name: "slower the phrase is lost, of the wanted tempo", Value: asPhrase},
		defaults.Row{Name: "a wanted tempo that is reached is raised by", Value: raise},
		defaults.Row{Name: "after a week without a round the tempo steps back by", Value: pauses[3].back},
		defaults.Row{Name: "… after two weeks", Value: pauses[2].back},
		defaults.Row{Name: "… after a month", Value: pauses[1].back},
		defaults.Row{Name: "… after three months", Value: pauses[0].back},
		defaults.Row{Name: "clean rounds in a row that go a step up", Value: cleanUp, Unit: "rounds"},
		defaults.Row{Name: "missed rounds at a step that go down", Value: missDown, Unit: "rounds"},
		defaults.Row{Name: "a step up while nothing is missed, of the tempo", Value: wideStep},
		defaults.Row{Name: "a step up or down, of the tempo", Value: usualStep},
		defaults.Row{Name: "a step near the ceiling, of the tempo", Value: narrow},
		defaults.Row{Name: "near the ceiling from, of it", Value: nearTop},
		defaults.Row{Name: "a day: playing before a rest", Value: restEvery, Unit: "min"},
		defaults.Row{Name: "a day: a rest", Value: restTime, Unit: "min"},
		defaults.Row{Name: "a day: the warm-up, at most", Value: warmTime, Unit: "min"},
		defaults.Row{Name: "a day: something for the ear", Value: earTime, Unit: "min"},
		defaults.Row{Name: "a day: something new", Value: newTime, Unit: "min"},
		defaults.Row{Name: "a day: a part that is due", Value: dueTime, Unit: "min"},
		defaults.Row{Name: "something for the ear within", Value: earEvery, Unit: "days"},
		defaults.Row{Name: "nothing new while it would be full within", Value: ahead, Unit: "days"},
		defaults.Row{Name: "… or while a part has waited", Value: backlog, Unit: "days"},
		defaults.Row{Name: "easy parts that take turns as warm-up", Value: warmest},
		defaults.Row{Name: "a part that is scheduled by itself has at least", Value: leastPart, Unit: "notes"},
		defaults.Row{Name: "bad days in a row after which a part is laid aside", Value: laidAside, Unit: "days"},
		defaults.Row{Name: "an item grows to at most", Value: wholeItem, Unit: "min"},
		defaults.Row{Name: "heavy things stay away after it is well", Value: soreDays, Unit: "days"},
		defaults.Row{Name: "a part waits at most", Value: longest, Unit: "days"},
		defaults.Row{Name: "a rest is due after", Value: RestAfter, Unit: "min"},
		defaults.Row{Name: "a silence that counts as a rest", Value: restGap.Minutes(), Unit: "min"},
		defaults.Row{Name: "heavy is a frame strained by more than", Value: heavyStrain},
		defaults.Row{Name: "heavy is a bend of at least", Value: heavyBend, Unit: "half steps"},
		defaults.Row{Name: "a line played backwards is as easy as forwards at, of its ceiling", Value: harder},
		defaults.Row{Name: "calibration: how steeply the chance of a clean round falls, of what else a round asks for",
			Value: steepness},
		defaults.Row{Name: "calibration: the grid of an ability's logarithm, its step", Value: gridStep},
		defaults.Row{Name: "… and its half width, in steps", Value: gridHalf},
		defaults.Row{Name: "calibration: an ability drifts in a day by a standard deviation of", Value: drift},
		defaults.Row{Name: "calibration: shown when surer than, of what it was before", Value: shownAt},
		defaults.Row{Name: "calibration: a hypothesis is dropped below, of the evidence", Value: tooLittle},
		defaults.Row{Name: "calibration: a margin counts up to, in steps", Value: marginMax},
		defaults.Row{Name: "calibration: rounds of one margin a day tell apart up to", Value: manyRounds, Unit: "rounds"},
		defaults.Row{Name: "calibration: an ability before any round, standard deviation of its logarithm", Value: spread},
		defaults.Row{Name: "a day that is wanted: steps of a part that hold until the next day", Value: stepsADay},
		defaults.Row{Name: "… clean rounds before the log says more, of all", Value: cleanShare},
		defaults.Row{Name: "… which counts as", Value: shareOf, Unit: "rounds"},
		defaults.Row{Name: "… a round before the log says more", Value: roundTime, Unit: "min"},
		defaults.Row{Name: "… last rounds of a part that are looked at", Value: lookRounds, Unit: "rounds"},
		defaults.Row{Name: "… at most, of one lick a day", Value: mostPaced, Unit: "min"},
		defaults.Row{Name: "a forecast looks back over", Value: lookBack, Unit: "days of practice"},
		defaults.Row{Name: "… and needs", Value: leastDays, Unit: "days of practice"},
		defaults.Row{Name: "… and sees as far as", Value: farthest, Unit: "days of practice"},
	)...)
}

// hypotheses are the rows of how rounds may fail: each value with its weight before any round.
func hypotheses() (out []defaults.Row) {
	for _, x := range []struct {
		name string
		list []hypothesis
	}{{"steepness", steeps}, {"share of lapses", lapses}, {"form of the day", forms}} {
		for _, h := range x.list {
			out = append(out,
				defaults.Row{Name: fmt.Sprintf("calibration: %s %g, its weight", x.name, h.value), Value: h.weight})
		}
	}
	return out
}
