package neck

import (
	"fmt"
	"strings"
)

// Instrument is an instrument by its name: a guitar and how it is usually picked.
type Instrument struct {
	Name    string
	Guitar  Guitar
	Fingers bool // the fingers pluck it rather than a pick (common practice)
}

// instruments are the usual ones (tunings: common practice; sizes, frets and gauges:
// model defaults, common ones of electric instruments).
var instruments = []struct {
	name, tuning, gauges string
	scale                MM
	frets                int
	nut, bridge          MM // spread of the outer strings
	fingers              bool
}{
	{"guitar", "E4 B3 G3 D3 A2 E2", "10 13 17 26w 36w 46w", 648, 22, 35.5, 52.5, false},
	{"guitar7", "E4 B3 G3 D3 A2 E2 B1", "10 13 17 26w 36w 46w 60w", 648, 24, 41.5, 63, false},
	{"guitar8", "E4 B3 G3 D3 A2 E2 B1 F#1", "10 13 17 26w 36w 46w 60w 74w", 686, 24, 48, 73.5, false},
	{"baritone", "B3 F#3 D3 A2 E2 B1", "13 17 26w 36w 46w 62w", 686, 22, 35.5, 52.5, false},
	{"bass4", "G2 D2 A1 E1", "45w 65w 80w 105w", 864, 20, 31, 57, true},
	{"bass5", "G2 D2 A1 E1 B0", "45w 65w 80w 105w 130w", 864, 20, 38, 72, true},
}

// InstrumentNames lists the instruments.
func InstrumentNames() []string {
	out := make([]string, len(instruments))
	for i, x := range instruments {
		out[i] = x.name
	}
	return out
}

// ParseInstrument finds an instrument by name.
func ParseInstrument(name string) (Instrument, error) {
	for _, x := range instruments {
		if x.name != name {
			continue
		}
		g := Standard()
		tuning, err := ParseTuning(x.tuning)
		if err != nil {
			return Instrument{}, err
		}
		gauges, err := ParseGauges(x.gauges)
		if err != nil {
			return Instrument{}, err
		}
		g.Tuning, g.Strings, g.Scale, g.Frets = tuning, gauges, x.scale, x.frets
		g.NutSpread, g.BridgeSpread = x.nut, x.bridge
		return Instrument{x.name, g, x.fingers}, g.Validate()
	}
	return Instrument{}, fmt.Errorf("instrument %q is none: use %s", name, strings.Join(InstrumentNames(), ", "))
}
