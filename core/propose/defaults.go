package propose

import (
	"ornamen/core/bend"
	"ornamen/core/defaults"
	"ornamen/core/figure"
	"ornamen/core/hand"
	"ornamen/core/judge"
	"ornamen/core/load"
	"ornamen/core/neck"
	"ornamen/core/pick"
	"ornamen/core/player"
)

// Defaults lists every value that the model assumes, part by part.
func Defaults() []struct {
	Part string
	Rows []defaults.Row
} {
	return []struct {
		Part string
		Rows []defaults.Row
	}{
		{"The guitar", neck.Defaults()},
		{"The fretting hand", hand.Defaults()},
		{"The picking hand", pick.Defaults()},
		{"Bends", bend.Defaults()},
		{"The verdict", []defaults.Row{
			{Name: "tight over a load of", Value: load.Tight, From: defaults.Model},
			{Name: "breaks over a load of", Value: load.Breaks, From: defaults.Model},
			{Name: "tight over a strain of the frame of", Value: load.Strain, From: defaults.Model},
			{Name: "legato: tones on a string that may take a slide, from", Value: manyTones, From: defaults.Model},
			{Name: "legato: a slide must ease them by a factor of", Value: slideGain, From: defaults.Model},
			{Name: "restring: a note moves along by up to", Value: restringFrets, Unit: "frets", From: defaults.Model},
			{Name: "restring: others are looked for of lines up to", Value: longestRestrung, Unit: "notes",
				From: defaults.Model},
			{Name: "restring: the largest load may rise by a factor of", Value: restringCost, From: defaults.Model},
			{
				Name:  "other places are worth it for a ceiling higher by a factor of",
				Value: worthMoving,
				From:  defaults.Model,
			},
			{
				Name:  "effort: a note moved to another place",
				Value: movedNote,
				Unit:  "moves of 100 ms",
				From:  defaults.Model,
			},
			{Name: "a cell that comes back has at least", Value: figure.CellFrom, Unit: "notes", From: defaults.Model},
			{Name: "… and at most", Value: figure.CellTo, Unit: "notes", From: defaults.Model},
			{Name: "places that a file leaves open are found for, at a time", Value: layStretch, Unit: "notes",
				From: defaults.Model},
			{Name: "… with those around them", Value: layContext, Unit: "notes", From: defaults.Model},
			{
				Name:  "… of more than so many only by the hand's positions",
				Value: LaidWell,
				Unit:  "notes",
				From:  defaults.Model,
			},
			{Name: "… where the hand goes elsewhere", Value: alongShift, Unit: "shifts", From: defaults.Model},
			{Name: "… … by each fret", Value: alongFar, Unit: "shifts", From: defaults.Model},
			{
				Name:  "… … a finger reaches a fret beyond its own",
				Value: alongStretch,
				Unit:  "shifts",
				From:  defaults.Model,
			},
			{Name: "… … each string between two notes", Value: alongString, Unit: "shifts", From: defaults.Model},
			{
				Name:  "… … an open string with the hand up the neck",
				Value: alongOpen,
				Unit:  "shifts",
				From:  defaults.Model,
			},
			{Name: "… … each fret up the neck", Value: alongUp, Unit: "shifts", From: defaults.Model},
			{Name: "proposals that are offered, at most", Value: mostOffered, From: defaults.Model},
			{Name: "an alternative raises the ceiling by, times", Value: worthOther, From: defaults.Model},
			{Name: "one fingering for every cell is recommended where it costs so much of the ceiling at most",
				Value: uniformCost, From: defaults.Model},
			{Name: "a slide elsewhere keeps so much of the ceiling", Value: slideCost, From: defaults.Model},
			{Name: "fingers behind a bend, at most, by habit", Value: player.MaxHelpers, From: defaults.Model},
			{Name: "corrections alike that are offered as a habit", Value: player.HabitAfter, From: defaults.Model},
		}},
		{"Findings and fixes", judge.Defaults()},
	}
}
