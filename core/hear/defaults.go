package hear

import "ornamen/core/defaults"

// Defaults lists what the model assumes of hearing.
func Defaults() []defaults.Row {
	return defaults.Ours(defaults.Row{Name: "a bend is in tune within", Value: inTune, Unit: "cents"},
		defaults.Row{Name: "playing in: a hum lies below", Value: humBelow, Unit: "Hz"},
		defaults.Row{Name: "… pitch is looked for below", Value: dullAbove, Unit: "Hz"},
		defaults.Row{Name: "… a pitch is a dip under", Value: playDip},
		defaults.Row{Name: "… looked at every", Value: playStep, Unit: "s"},
		defaults.Row{Name: "… an attack is a rise of the log energy by", Value: attackRise},
		defaults.Row{Name: "… or, of what lies above", Value: brightAbove, Unit: "Hz"},
		defaults.Row{Name: "… … by", Value: brightRise},
		defaults.Row{Name: "… attacks are apart by", Value: attackApart, Unit: "s"},
		defaults.Row{Name: "… another note without an attack is away by", Value: newNote, Unit: "half steps"},
		defaults.Row{Name: "… its pitch is heard from", Value: pitchFrom, Unit: "s after it begins"},
		defaults.Row{Name: "… a change is a bend if it takes", Value: gradual, Unit: "s"},
		defaults.Row{Name: "… silence is below, of the loudest moment", Value: quietest},
		defaults.Row{Name: "… the shortest note", Value: shortestNote, Unit: "s"},
		defaults.Row{Name: "… a line has a clear pitch in, of its moments", Value: toneFrom},
		defaults.Row{Name: "… it is a chord if so many moments have other tones", Value: chordAbove},
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
		defaults.Row{Name: "silence below a root mean square of", Value: loudEnough})
}
