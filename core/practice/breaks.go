package practice

import (
	"slices"
	"time"
)

// RestAfter is after how many minutes of playing without a break one is due (common practice:
// short rests often, before the hands ask for them).
const RestAfter = 20

// restGap is the silence that counts as a break.
const restGap = 3 * time.Minute

// PlayedSince is how many minutes were played without a break, up to now: from the first round
// after a silence of restGap or a rest that was said. The log is in its order of time.
//
// Rounds at 18:00, 18:02 and 18:04 are four minutes at 18:05, and none at 18:08: the silence was the break.
func PlayedSince(log []Entry, now time.Time) int {
	if len(log) == 0 {
		return 0
	}
	last := log[len(log)-1].Time
	begun, next := last, now
	for _, e := range slices.Backward(log) {
		if next.Sub(e.Time) > restGap || e.Lick == 0 && e.Comfort != "" {
			break
		}
		begun, next = e.Time, e.Time
	}
	return int(last.Sub(begun).Minutes())
}
