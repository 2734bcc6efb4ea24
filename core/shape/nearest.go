package shape

import "ornamen/core/neck"

// Nearest finds the place of a pitch class nearest to a place: the fewest half steps away, then the nearest fret, then
// the nearest string. ok is false where the tone does not lie on the neck.
func Nearest(g neck.Guitar, class int, from neck.Place) (best neck.Place, ok bool) {
	least := 1 << 30
	for s := 1; s <= len(g.Tuning); s++ {
		for f := 0; f <= g.Frets; f++ {
			p := neck.Place{String: s, Fret: f}
			if g.Pitch(p).Class() != class {
				continue
			}
			away := 1000*abs(int(g.Pitch(p)-g.Pitch(from))) + 10*abs(f-from.Fret) + abs(s-from.String)
			if away < least {
				best, least, ok = p, away, true
			}
		}
	}
	return best, ok
}

// abs is the absolute value.
func abs(n int) int {
	if n < 0 {
		return -n
	}
	return n
}
