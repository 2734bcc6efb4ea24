package lick

import "sort"

// quarter is the beat that a shuffle divides.
var quarter, eighth = NewTime(1, 4), NewTime(1, 8)

// warp is where a written time is played, as a fraction of a whole note. In a shuffle the off-beat eighth comes on the
// last third of its quarter; quarters that hold anything but eighths are played as written (common practice): a triplet
// or four sixteenths within the beat are played even.
//
// Beats are counted from the end of the pick-up. A large number of quarters is added before the
// division, so that times within the pick-up are counted back from there and stay above 0. The
// cost is a binary search for the quarter and a look at its notes.
func (l Lick) warp(t Time) float64 {
	if l.Feel != Shuffle {
		return t.Float()
	}
	_, off := t.Sub(l.Pickup).Add(NewTime(MaxPart, 4)).Div(quarter)
	if off.Cmp(eighth) != 0 {
		return t.Float()
	}
	start := t.Sub(eighth)
	stop := start.Add(quarter)
	first := sort.Search(len(l.Notes), func(i int) bool { return start.Before(l.Notes[i].At) })
	for _, n := range l.Notes[first:] {
		if !n.At.Before(stop) {
			break
		}
		if n.At.Cmp(t) != 0 {
			return t.Float()
		}
	}
	return start.Float() + 2.0/3/4
}
