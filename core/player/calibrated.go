package player

import (
	"math"

	"ornamen/core/pick"
)

// WithSpeeds is the profile with the speeds of picking and fretting that practice has shown, 1
// being the model's player: written as the measurements that would have given them, so that
// they are seen and changed like those.
func (p Profile) WithSpeeds(picking, fretting float64) (Profile, error) {
	pl, err := p.Player()
	if err != nil {
		return p, err
	}
	p.Sixteenths = clampTapped(picking * sixteenthTempo(pick.TurnNeed))
	p.Hammering = clampTapped(fretting * hammerCeiling(pl))
	_, err = p.Player()
	return p, err
}

// clampTapped is a tempo within what a hand taps, to a tenth.
func clampTapped(tempo float64) float64 {
	return math.Round(10*max(minTapped, min(maxTapped, tempo))) / 10
}
