package sound

import (
	"ornamen/core/defaults"
	"ornamen/core/lick"
)

// Defaults lists what the model assumes of hearing and of what a line sounds like.
func Defaults() []defaults.Row {
	return defaults.Ours(append(
		touches(),
		defaults.Row{Name: "a bend is in tune within", Value: inTune, Unit: "cents"},
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
		defaults.Row{Name: "an amplifier evens out, of the loudness that a string loses", Value: ampEven},
		defaults.Row{Name: "… by at most", Value: ampMost, Unit: "times"},
		defaults.Row{Name: "… its gain, driven fully", Value: ampGain},
		defaults.Row{Name: "… its loudspeaker is deaf above", Value: ampCabinet, Unit: "Hz"},
		defaults.Row{Name: "… its box answers at", Value: ampBody, Unit: "Hz"},
		defaults.Row{Name: "… less goes into it below", Value: ampTight, Unit: "Hz"},
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
		defaults.Row{Name: "from one string of a rake to the next", Value: rakeStep, Unit: "s"},
		defaults.Row{Name: "a ghost note is as loud as another, times", Value: ghostLevel},
		defaults.Row{Name: "under the palm the fundamental sounds, at 110 Hz", Value: palmFade, Unit: "s"},
		defaults.Row{Name: "… of it, an octave higher", Value: palmUp},
		defaults.Row{Name: "… its partials at 3 kHz", Value: palmHigh, Unit: "s"},
		defaults.Row{Name: "… is left of the pick's sharpness", Value: palmSharp},
		defaults.Row{Name: "a band plays a ballad up to", Value: slowBand, Unit: "quarters a minute"},
		defaults.Row{Name: "a half step that a chord's voice moves weighs, of a tone", Value: nearVoices},
		defaults.Row{Name: "a string sounds, the open low E", Value: fadeLow, Unit: "s"},
		defaults.Row{Name: "… of it, an octave higher from string to string", Value: fadeUp},
		defaults.Row{Name: "… of it, an octave higher on one string", Value: fadeFret},
		defaults.Row{Name: "… its partials at 3 kHz, of a plain string", Value: fadePlain, Unit: "s"},
		defaults.Row{Name: "… … of a wound one", Value: fadeWound, Unit: "s"},
		defaults.Row{Name: "a wound string's core, of its diameter", Value: woundCore},
		defaults.Row{Name: "a room answers, of what is heard", Value: roomWet},
		defaults.Row{Name: "… each round leaves of it", Value: roomLeft},
		defaults.Row{
			Name:  "… its echoes go round in",
			Value: float64(roomLoops[0]),
			Unit:  "samples, the shortest of four",
		},
		defaults.Row{Name: "… and are blurred by", Value: float64(roomBlurs[0]), Unit: "samples, the shorter of two"},
	)...)
}

// touches are the rows of how strings are set going.
func touches() (out []defaults.Row) {
	for _, x := range []struct {
		name string
		touch
	}{{"a downstroke", pickDown}, {"an upstroke", pickUp}, {"a finger", byFinger}, {"the thumb", byThumb},
		{"a hammer", byHammer}, {"a pull", byPull}, {"a dead note", deadened}, {"the bass player", onBass}} {
		out = append(
			out,
			defaults.Row{Name: x.name + " sets going, from the bridge, as a part of the open string", Value: x.at},
			defaults.Row{Name: "… is sharp up to", Value: x.sharp, Unit: "Hz"},
			defaults.Row{Name: "… is as loud as a downstroke, times", Value: x.loud},
			defaults.Row{Name: "… its noise", Value: x.noise},
		)
	}
	return out
}
