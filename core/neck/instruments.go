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
	{
		name:   "guitar",
		tuning: "E4 B3 G3 D3 A2 E2",
		gauges: "10 13 17 26w 36w 46w",
		scale:  648,
		frets:  22,
		nut:    35.5,
		bridge: 52.5,
	},
	{
		name:   "guitar7",
		tuning: "E4 B3 G3 D3 A2 E2 B1",
		gauges: "10 13 17 26w 36w 46w 60w",
		scale:  648,
		frets:  24,
		nut:    41.5,
		bridge: 63,
	},
	{
		name:   "guitar8",
		tuning: "E4 B3 G3 D3 A2 E2 B1 F#1",
		gauges: "10 13 17 26w 36w 46w 60w 74w",
		scale:  686,
		frets:  24,
		nut:    48,
		bridge: 73.5,
	},
	{
		name:   "baritone",
		tuning: "B3 F#3 D3 A2 E2 B1",
		gauges: "13 17 26w 36w 46w 62w",
		scale:  686,
		frets:  22,
		nut:    35.5,
		bridge: 52.5,
	},
	{
		name:    "bass4",
		tuning:  "G2 D2 A1 E1",
		gauges:  "45w 65w 80w 105w",
		scale:   864,
		frets:   20,
		nut:     31,
		bridge:  57,
		fingers: true,
	},
	{
		name:    "bass5",
		tuning:  "G2 D2 A1 E1 B0",
		gauges:  "45w 65w 80w 105w 130w",
		scale:   864,
		frets:   20,
		nut:     38,
		bridge:  72,
		fingers: true,
	},
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
