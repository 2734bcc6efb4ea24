package sound

import (
	"ornamen/core/defaults"
	"ornamen/core/lick"
)

// Defaults lists what the model assumes of what a line sounds like.
func Defaults() []defaults.Row {
	return defaults.Ours(append(
		touches(),
		defaults.Row{Name: "an amplifier evens out, of the loudness that a string loses", Value: ampEven},
		defaults.Row{Name: "… by at most", Value: ampMost, Unit: "times"},
		defaults.Row{Name: "… its gain, driven fully", Value: ampGain},
		defaults.Row{Name: "… its loudspeaker is deaf above", Value: ampCabinet, Unit: "Hz"},
		defaults.Row{Name: "… its box answers at", Value: ampBody, Unit: "Hz"},
		defaults.Row{Name: "… less goes into it below", Value: ampTight, Unit: "Hz"},
		defaults.Row{Name: "a narrow vibrato, to either side", Value: vibratoCents[lick.Narrow], Unit: "cents"},
		defaults.Row{Name: "a wide one", Value: vibratoCents[lick.Wide], Unit: "cents"},
		defaults.Row{Name: "a slow vibrato", Value: vibratoHertz[lick.Slow], Unit: "Hz"},
		defaults.Row{Name: "a fast one", Value: vibratoHertz[lick.Fast], Unit: "Hz"},
		defaults.Row{Name: "sliding into a note", Value: slideInTime, Unit: "s"},
		defaults.Row{Name: "a slide's way before it arrives", Value: glideTime, Unit: "s"},
		defaults.Row{Name: "from one string of a rake to the next", Value: rakeStep, Unit: "s"},
		defaults.Row{Name: "a string that a finger stops is still in", Value: stopTime, Unit: "s"},
		defaults.Row{Name: "… that is struck dead", Value: deadTime, Unit: "s"},
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
		defaults.Row{Name: "… its echoes go round in", Value: float64(roomLoops[0]), Unit: "samples, the shortest of four"},
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
		out = append(out,
			defaults.Row{Name: x.name + " sets going, from the bridge, as a part of the open string", Value: x.at},
			defaults.Row{Name: "… is sharp up to", Value: x.sharp, Unit: "Hz"},
			defaults.Row{Name: "… is as loud as a downstroke, times", Value: x.loud},
			defaults.Row{Name: "… its noise", Value: x.noise})
	}
	return out
}
