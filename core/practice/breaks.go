package practice

import "time"

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
	begun, last := time.Time{}, time.Time{}
	for from := len(log) - 1; from > 0; from-- {
		if log[from].Time.Sub(log[from-1].Time) > restGap {
			log = log[from:] // what lies before the last silence says nothing
			break
		}
	}
	for _, e := range log {
		if e.Lick == 0 && e.Comfort != "" {
			begun = time.Time{} // a rest was taken
			continue
		}
		if begun.IsZero() || e.Time.Sub(last) > restGap {
			begun = e.Time
		}
		last = e.Time
	}
	if begun.IsZero() || now.Sub(last) > restGap {
		return 0
	}
	return int(last.Sub(begun).Minutes())
}
