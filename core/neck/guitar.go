package neck

import (
	"fmt"
	"math"
	"slices"

	"ornamen/core/music"
)

// MM is a length in millimetres. Distances along the neck are from the nut.
type MM float64

// Newtons is a force, or a string's tension.
type Newtons float64

// Guitar describes an instrument. Slices are indexed by string−1.
type Guitar struct {
	Tuning       []music.Pitch // string 1 (thinnest) first
	Scale        MM            // nut to bridge
	Frets        int
	Strings      []Gauge
	NutSpread    MM // string 1 to the last string, at the nut
	BridgeSpread MM // the same at the bridge
	EdgeRoom     MM // outer strings to the fretboard's edge
	LeftHanded   bool
}

// Limits of an instrument that the model is meant for.
const (
	MinStrings, MaxStrings = 4, 9
	MinFrets, MaxFrets     = 12, 36
	MinScale, MaxScale     = MM(400), MM(900)
)

// standardTuning is E4 B3 G3 D3 A2 E2, string 1 first.
var standardTuning = []music.Pitch{64, 59, 55, 50, 45, 40}

// StandardTuning returns E4 B3 G3 D3 A2 E2, string 1 first.
func StandardTuning() []music.Pitch { return slices.Clone(standardTuning) }

// Standard is the default guitar: 648 mm, 22 frets, standard tuning, 10–46
// strings (model default; a common size of electric guitar).
func Standard() Guitar {
	return Guitar{Tuning: StandardTuning(), Scale: 648, Frets: 22, Strings: DefaultStrings(6),
		NutSpread: 35.5, BridgeSpread: 52.5, EdgeRoom: 3.2}
}

// WithTuning is the same guitar with other strings; the spread grows or
// shrinks with their number and the default gauges fill what is missing.
func (g Guitar) WithTuning(tuning []music.Pitch) Guitar {
	n, was := len(tuning), len(g.Tuning)
	g.Tuning = slices.Clone(tuning)
	if n != was {
		g.Strings = DefaultStrings(n)
		if was > 1 {
			g.NutSpread *= MM(n-1) / MM(was-1)
			g.BridgeSpread *= MM(n-1) / MM(was-1)
		}
	}
	return g
}

// Validate says in one sentence what is impossible about the guitar.
func (g Guitar) Validate() error {
	switch n := len(g.Tuning); {
	case n < MinStrings || n > MaxStrings:
		return fmt.Errorf("a guitar here has %d to %d strings, not %d", MinStrings, MaxStrings, n)
	case len(g.Strings) != n:
		return fmt.Errorf("there are %d strings but %d gauges", n, len(g.Strings))
	case g.Frets < MinFrets || g.Frets > MaxFrets:
		return fmt.Errorf("a guitar here has %d to %d frets, not %d", MinFrets, MaxFrets, g.Frets)
	case !(g.Scale >= MinScale && g.Scale <= MaxScale):
		return fmt.Errorf("the scale length must be %g to %g mm", MinScale, MaxScale)
	case !(g.NutSpread > 0 && g.BridgeSpread > 0 && g.EdgeRoom >= 0):
		return fmt.Errorf("string spread and edge must be positive lengths")
	}
	return nil
}

// FretX is the distance of fret n from the nut: L·(1 − 2^(−n/12)), the luthiers' rule; x(12) is
// half the scale. On 648 mm fret 1 lies 36.4 mm from the nut and fret 5 162.5.
func (g Guitar) FretX(n int) MM { return g.Scale * MM(1-math.Exp2(-float64(n)/12)) }

// Cell is the width of fret n's cell, from fret n−1 to fret n.
func (g Guitar) Cell(n int) MM { return g.FretX(n) - g.FretX(n-1) }

// How far behind the wire a fingertip presses: so many mm, or this part of the cell where that is less (model default).
const (
	pressBehind MM = 6
	pressPart   MM = 0.3
)

// Press is where the fingertip presses for fret n: a little behind its wire, where the least
// force makes it sound (common practice). The open string's is the nut.
func (g Guitar) Press(n int) MM {
	if n <= 0 {
		return 0
	}
	return g.FretX(n) - min(pressBehind, pressPart*g.Cell(n))
}

// StringY is how far the string lies from string 1 at x.
func (g Guitar) StringY(str int, x MM) MM {
	n := len(g.Tuning)
	if n < 2 {
		return 0
	}
	spread := g.NutSpread + (g.BridgeSpread-g.NutSpread)*x/g.Scale
	return spread * MM(str-1) / MM(n-1)
}

// Room is the way from the string at x to the fretboard's edge, toward the thick strings or toward the thin ones. A
// bend needs it: what is pushed further falls off the fretboard.
func (g Guitar) Room(str int, x MM, towardThick bool) MM {
	if towardThick {
		return g.StringY(len(g.Tuning), x) - g.StringY(str, x) + g.EdgeRoom
	}
	return g.StringY(str, x) + g.EdgeRoom
}

// Way is the straight way of a fingertip between two places on the plan of the neck.
func (g Guitar) Way(a, b Place) MM {
	xa, xb := g.Press(a.Fret), g.Press(b.Fret)
	dy := g.StringY(b.String, xb) - g.StringY(a.String, xa)
	return MM(math.Hypot(float64(xb-xa), float64(dy)))
}

// Pitch is what sounds at the place; the place must be on a string.
func (g Guitar) Pitch(p Place) music.Pitch { return g.Tuning[p.String-1] + music.Pitch(p.Fret) }

// Has says whether the place is on the neck.
func (g Guitar) Has(p Place) bool {
	return p.String >= 1 && p.String <= len(g.Tuning) && p.Fret >= 0 && p.Fret <= g.Frets
}

// Places lists every place where a pitch lies, thin strings first. At most one on a string.
func (g Guitar) Places(pitch music.Pitch) []Place {
	var out []Place
	for s, open := range g.Tuning {
		if p := (Place{s + 1, int(pitch - open)}); g.Has(p) {
			out = append(out, p)
		}
	}
	return out
}

// OutOfReach is the cost of a place that is not to be taken.
const OutOfReach = math.MaxInt

// Best is the place of a pitch that costs least, of equals the one on the thinnest string; ok is false where there is
// none.
func (g Guitar) Best(pitch music.Pitch, cost func(at Place) int) (best Place, ok bool) {
	least := OutOfReach
	for _, p := range g.Places(pitch) {
		if c := cost(p); c < least {
			best, least, ok = p, c, true
		}
	}
	return best, ok
}

// Nearest is the place of a pitch nearest to another place, as Apart measures it.
func (g Guitar) Nearest(pitch music.Pitch, from Place) (best Place, ok bool) {
	return g.Best(pitch, func(at Place) int { return Apart(at, from) })
}

// Octaves moves a place by octaves, two strings for each; ok is false where the neck ends before it.
func (g Guitar) Octaves(at Place, n int) (to Place, ok bool) {
	s := at.String - 2*n
	if s < 1 || s > len(g.Tuning) {
		return at, false
	}
	to = Place{String: s, Fret: int(g.Pitch(at)) + 12*n - int(g.Tuning[s-1])}
	return to, g.Has(to)
}
