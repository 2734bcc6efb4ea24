package pick

import (
	"slices"

	"ornamen/core/lick"
)

// With the thumb on a bass voice the hand holds no pick: the line above is played by index, middle and ring finger in
// turn; on a bass, by index and middle finger in turn, whatever the string (common practice).

// lineFingers play the line, in the order in which they lie over the strings, thick to thin.
var lineFingers = []lick.Stroke{lick.PIndex, lick.PMid, lick.PRing}

// Effort in ms of the fingers beside their need (model defaults).
const (
	crossEffort = 15.0 // a finger passes over another one to a string beyond it
	ringEffort  = 4.0  // the ring finger, the weakest of the three
)

// byFingers lists the ways to play an event whose open notes are the fingers': each of them
// another finger, the order of fingers that of the strings.
func byFingers(e Event) (out []state) {
	var free []lick.Stroke
	open := 0
	fingers := lineFingers
	if len(e.Notes) < len(lineFingers) && e.Notes[0].Turns {
		fingers = lineFingers[:2]
	}
	for _, f := range fingers {
		if !slices.ContainsFunc(e.Notes, func(n Note) bool { return n.Stroke == f }) {
			free = append(free, f)
		}
	}
	for _, n := range e.Notes {
		if n.Stroke == "" {
			open++
		}
	}
	for _, row := range rows(free, open) {
		s, k := make(state, len(e.Notes)), 0
		for i, n := range e.Notes {
			if s[i] = n.Stroke; n.Stroke == "" {
				s[i] = row[k]
				k++
			}
		}
		out = append(out, s)
	}
	return out
}

// rows are the ways to take so many fingers in order; where there are too few, the last one plays the rest too.
func rows(free []lick.Stroke, n int) [][]lick.Stroke {
	switch {
	case n == 0:
		return [][]lick.Stroke{nil}
	case len(free) == 0:
		free = lineFingers
	}
	if n >= len(free) {
		row := slices.Clone(free)
		for len(row) < n {
			row = append(row, row[len(row)-1])
		}
		return [][]lick.Stroke{row}
	}
	var out [][]lick.Stroke
	for i := range free[:len(free)-n+1] {
		for _, rest := range rows(free[i+1:], n-1) {
			out = append(out, append([]lick.Stroke{free[i]}, rest...))
		}
	}
	return out
}

// fingerEffort is the effort of the fingers of a step beside its need, in ms.
func fingerEffort(x Event, p state, y Event, q state) (ms float64) {
	if len(q) != 1 || y.Notes[0].Turns {
		return 0
	}
	k := slices.Index(lineFingers, q[0])
	if k < 0 {
		return 0
	}
	if q[0] == lick.PRing {
		ms += ringEffort
	}
	if len(p) == 1 {
		from := slices.Index(lineFingers, p[0])
		thinner := x.Notes[0].String - y.Notes[0].String
		if from >= 0 && (thinner > 0 && k < from || thinner < 0 && k > from) {
			ms += crossEffort
		}
	}
	return ms
}
