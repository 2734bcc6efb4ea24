package sound

import (
	"ornamen/core/defaults"
	"ornamen/core/lick"
)

// Defaults lists what the model assumes of hearing and of what a line sounds like.
func Defaults() []defaults.Row {
	return defaults.Ours(defaults.Row{Name: "a bend is in tune within", Value: inTune, Unit: "cents"},
		defaults.Row{Name: "a bend has arrived within", Value: near, Unit: "cents"},
		defaults.Row{Name: "a bend is slow to arrive after", Value: slowBend, Unit: "s"},
		defaults.Row{Name: "a held bend strays from", Value: strays, Unit: "cents"},
		defaults.Row{Name: "a vibrato is heard from, to either side", Value: leastSway, Unit: "cents"},
		defaults.Row{Name: "a vibrato turns at least", Value: swayFrom, Unit: "Hz"},
		defaults.Row{Name: "… and at most", Value: swayTo, Unit: "Hz"},
		defaults.Row{Name: "a bend is listened to for", Value: longestTry, Unit: "s"},
		defaults.Row{Name: "a note of a line may be off by", Value: looseTime, Unit: "s"},
		defaults.Row{Name: "a line is listened to every", Value: listen, Unit: "s"},
		defaults.Row{Name: "a string is struck again where it is louder by a factor of", Value: rises},
		defaults.Row{Name: "notes are told apart from", Value: shortestHeard, Unit: "s"},
		defaults.Row{Name: "a line is listened to for", Value: longestHeard, Unit: "s"},
		defaults.Row{Name: "the lowest pitch that is looked for", Value: lowest, Unit: "Hz"},
		defaults.Row{Name: "the highest", Value: highest, Unit: "Hz"},
		defaults.Row{Name: "a pitch is a dip of the difference function below", Value: unclear},
		defaults.Row{Name: "silence below a root mean square of", Value: loudEnough},
		defaults.Row{Name: "a narrow vibrato, to either side", Value: vibratoCents[lick.Narrow], Unit: "cents"},
		defaults.Row{Name: "a wide one", Value: vibratoCents[lick.Wide], Unit: "cents"},
		defaults.Row{Name: "a slow vibrato", Value: vibratoHertz[lick.Slow], Unit: "Hz"},
		defaults.Row{Name: "a fast one", Value: vibratoHertz[lick.Fast], Unit: "Hz"},
		defaults.Row{Name: "sliding into a note", Value: slideInTime, Unit: "s"},
		defaults.Row{Name: "a slide's way before it arrives", Value: glideTime, Unit: "s"},
		defaults.Row{Name: "from one string of a rake to the next", Value: rakeStep, Unit: "s"})
}
