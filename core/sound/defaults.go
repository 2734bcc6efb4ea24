package sound

import (
	"ornamen/core/defaults"
	"ornamen/core/lick"
)

// Defaults lists what the model assumes of hearing and of what a line sounds like.
func Defaults() []defaults.Row {
	rows := []defaults.Row{
		{Name: "a bend is in tune within", Value: inTune, Unit: "cents"},
		{Name: "a bend has arrived within", Value: near, Unit: "cents"},
		{Name: "a bend is slow to arrive after", Value: slowBend, Unit: "s"},
		{Name: "a held bend strays from", Value: strays, Unit: "cents"},
		{Name: "a vibrato is heard from, to either side", Value: leastSway, Unit: "cents"},
		{Name: "a vibrato turns at least", Value: swayFrom, Unit: "Hz"},
		{Name: "… and at most", Value: swayTo, Unit: "Hz"},
		{Name: "a bend is listened to for", Value: longestTry, Unit: "s"},
		{Name: "a note of a line may be off by", Value: looseTime, Unit: "s"},
		{Name: "a line is listened to every", Value: listen, Unit: "s"},
		{Name: "a string is struck again where it is louder by a factor of", Value: rises},
		{Name: "notes are told apart from", Value: shortestHeard, Unit: "s"},
		{Name: "a line is listened to for", Value: longestHeard, Unit: "s"},
		{Name: "the lowest pitch that is looked for", Value: lowest, Unit: "Hz"},
		{Name: "the highest", Value: highest, Unit: "Hz"},
		{Name: "a pitch is a dip of the difference function below", Value: unclear},
		{Name: "silence below a root mean square of", Value: loudEnough},
		{Name: "a narrow vibrato, to either side", Value: vibratoCents[lick.Narrow], Unit: "cents"},
		{Name: "a wide one", Value: vibratoCents[lick.Wide], Unit: "cents"},
		{Name: "a slow vibrato", Value: vibratoHertz[lick.Slow], Unit: "Hz"},
		{Name: "a fast one", Value: vibratoHertz[lick.Fast], Unit: "Hz"},
		{Name: "sliding into a note", Value: slideInTime, Unit: "s"},
		{Name: "a slide's way before it arrives", Value: glideTime, Unit: "s"},
		{Name: "from one string of a rake to the next", Value: rakeStep, Unit: "s"},
	}
	for i := range rows {
		rows[i].From = defaults.Model
	}
	return rows
}
