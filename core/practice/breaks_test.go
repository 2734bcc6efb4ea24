package practice

import (
	"testing"
	"time"
)

// A silence is a break, and so is a rest that is said; words about the hand are no rounds.
func TestPlayedSince(t *testing.T) {
	begin := time.Date(2026, 3, 2, 18, 0, 0, 0, time.UTC)
	at := func(minutes ...float64) (log []Entry) {
		for _, m := range minutes {
			log = append(log, Entry{Lick: 1, Clean: 1, Time: begin.Add(time.Duration(m * float64(time.Minute)))})
		}
		return log
	}
	rested := Entry{Comfort: Fine, Time: begin.Add(5 * time.Minute)}
	for name, c := range map[string]struct {
		log  []Entry
		now  float64
		want int
	}{
		"nothing":          {nil, 5, 0},
		"three rounds":     {at(0, 2, 4), 5, 4},
		"the silence":      {at(0, 2, 4), 8, 0},
		"after a silence":  {at(0, 2, 9, 11), 12, 2},
		"after a rest":     {append(at(0, 2, 4), append([]Entry{rested}, at(6, 8)...)...), 9, 2},
		"a rest and no go": {append(at(0, 2, 4), rested), 6, 0},
	} {
		if got := PlayedSince(c.log, begin.Add(time.Duration(c.now*float64(time.Minute)))); got != c.want {
			t.Errorf("%s: %d minutes, want %d", name, got, c.want)
		}
	}
}
