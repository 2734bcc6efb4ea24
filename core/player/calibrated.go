package player

import (
	"math"

	"ornamen/core/bend"
	"ornamen/core/hand"
	"ornamen/core/neck"
	"ornamen/core/pick"
)

// Shown are the player's numbers that practice has shown, 1 being the model's player; 0 is one that it has not shown.
type Shown struct{ Picking, Fretting, Reach, Bends float64 }

// With is the profile with the numbers that practice has shown, written as the measurements that would have given them,
// so that they are seen and changed like those: the tempos of two exercises, the hold of index and little finger that
// comes nearest, the full bend whose force comes nearest. What was not shown is left as it is.
func (p Profile) With(x Shown) (Profile, error) {
	pl, err := p.Player()
	if err != nil {
		return p, err
	}
	if x.Reach > 0 {
		p.HoldFrom, p.HoldTo = nearestHold(pl.Guitar, x.Reach)
		if pl, err = p.Player(); err != nil {
			return p, err
		}
	}
	if x.Picking > 0 {
		p.Sixteenths = clampTapped(x.Picking * sixteenthTempo(pick.TurnNeed))
	}
	if x.Fretting > 0 {
		p.Hammering = clampTapped(x.Fretting * hammerCeiling(pl))
	}
	if x.Bends > 0 {
		p.BendString, p.BendFret = nearestBend(pl.Guitar, x.Bends)
	}
	_, err = p.Player()
	return p, err
}

// clampTapped is a tempo within what a hand taps, to a tenth.
func clampTapped(tempo float64) float64 {
	return math.Round(10*max(minTapped, min(maxTapped, tempo))) / 10
}

// nearestHold is the hold of two frets whose span is nearest to so much of the medium hand's comfort, within the limits
// of what is measured; 0, 0 where no two frets of the neck are. All pairs of frets are tried: frets lie where they lie,
// and the nearest span may be a per cent or two off.
func nearestHold(g neck.Guitar, reach float64) (from, to int) {
	comfort := hand.Medium().Comfort[hand.P14]
	best := math.Inf(1)
	for a := 1; a < g.Frets; a++ {
		for b := a + 1; b <= g.Frets; b++ {
			span := float64((g.Press(b) - g.Press(a)) / comfort)
			if off := math.Abs(span - reach); span >= minReach && span <= maxReach && off < best {
				best, from, to = off, a, b
			}
		}
	}
	return from, to
}

// nearestBend is the full bend whose force is nearest to so much of what the model's ring finger
// holds with two behind it, within the limits of what is measured; 0, 0 where none is.
func nearestBend(g neck.Guitar, strength float64) (on, fret int) {
	best := math.Inf(1)
	for s := range g.Tuning {
		for f := 1; f <= g.Frets; f++ {
			push, ok := bend.Solve(g, neck.Place{String: s + 1, Fret: f}, 2)
			by := float64(push.Force / bend.DefaultStrength().Three)
			if off := math.Abs(by - strength); ok && by >= minForce && by <= maxForce && off < best {
				best, on, fret = off, s+1, f
			}
		}
	}
	return on, fret
}
