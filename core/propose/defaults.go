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
		{"The verdict", defaults.Ours([]defaults.Row{
			{Name: "tight over a load of", Value: load.Tight},
			{Name: "breaks over a load of", Value: load.Breaks},
			{Name: "tight over a strain of the frame of", Value: load.Strain},
			{Name: "legato: tones on a string that may take a slide, from", Value: manyTones},
			{Name: "legato: a slide must ease them by a factor of", Value: slideGain},
			{Name: "restring: a note moves along by up to", Value: restringFrets, Unit: "frets"},
			{Name: "restring: others are looked for of lines up to", Value: longestRestrung, Unit: "notes"},
			{Name: "restring: the largest load may rise by a factor of", Value: restringCost},
			{Name: "other places are worth it for a ceiling higher by a factor of", Value: worthMoving},
			{Name: "effort: a note moved to another place", Value: movedNote, Unit: "moves of 100 ms"},
			{Name: "a cell that comes back has at least", Value: figure.CellFrom, Unit: "notes"},
			{Name: "… and at most", Value: figure.CellTo, Unit: "notes"},
			{Name: "places that a file leaves open are found for, at a time", Value: layStretch, Unit: "notes"},
			{Name: "… with those around them", Value: layContext, Unit: "notes"},
			{Name: "… of more than so many only by the hand's positions", Value: LaidWell, Unit: "notes"},
			{Name: "… where the hand goes elsewhere", Value: alongShift, Unit: "shifts"},
			{Name: "… … by each fret", Value: alongFar, Unit: "shifts"},
			{Name: "… … a finger reaches a fret beyond its own", Value: alongStretch, Unit: "shifts"},
			{Name: "… … each string between two notes", Value: alongString, Unit: "shifts"},
			{Name: "… … an open string with the hand up the neck", Value: alongOpen, Unit: "shifts"},
			{Name: "… … each fret up the neck", Value: alongUp, Unit: "shifts"},
			{Name: "proposals that are offered, at most", Value: mostOffered},
			{Name: "an alternative raises the ceiling by, times", Value: worthOther},
			{Name: "one fingering for every cell is recommended where it costs so much of the ceiling at most",
				Value: uniformCost},
			{Name: "a slide elsewhere keeps so much of the ceiling", Value: slideCost},
			{Name: "fingers behind a bend, at most, by habit", Value: player.MaxHelpers},
			{Name: "corrections alike that are offered as a habit", Value: player.HabitAfter},
		}...)},
		{"Findings and fixes", judge.Defaults()},
	}
}
