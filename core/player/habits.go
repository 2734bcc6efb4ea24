package player

import (
	"strings"

	"ornamen/core/figure"
)

// BendSituation is the situation of a habit of bending: its finger is 3 or 4.
const BendSituation = "bend"

// HabitAfter is how many corrections alike are offered as a habit (model default).
const HabitAfter = 3

// Own are the habits of the profile; what cannot be read is none.
func (p Profile) Own() figure.Habits {
	hs, _ := figure.ParseHabits(p.Habits)
	return hs
}

// Knows says whether the player was asked about a habit before: it is one, or was declined.
func (p Profile) Knows(h figure.Habit) bool {
	if h.Situation == BendSituation && bendWord(h) == p.BendFinger {
		return true
	}
	for _, text := range []string{p.Habits, p.Declined} {
		for _, word := range strings.Split(text, ";") {
			if strings.TrimSpace(word) == h.String() {
				return true
			}
		}
	}
	return false
}

// Accept is the profile with one habit more.
func (p Profile) Accept(h figure.Habit) Profile {
	if h.Situation == BendSituation {
		p.BendFinger = bendWord(h)
		return p
	}
	p.Habits = p.Own().With(h).String()
	return p
}

// Decline is the profile of a player who does not want to be asked for a habit again.
func (p Profile) Decline(h figure.Habit) Profile {
	if !p.Knows(h) {
		p.Declined = strings.TrimPrefix(p.Declined+"; "+h.String(), "; ")
	}
	return p
}

// bendWord is the bending finger as the profile names it.
func bendWord(h figure.Habit) string {
	return map[string]string{"3": "ring", "4": "little"}[h.Fingers]
}

// Offered are the habits that a player may be asked about, of all corrections there are: those seen
// HabitAfter times or more that were not asked about, the most frequent first.
func (p Profile) Offered(corrections []figure.Habit) (out []figure.Habit) {
	seen := map[figure.Habit]int{}
	for _, h := range corrections {
		if seen[h]++; seen[h] == HabitAfter && !p.Knows(h) {
			out = append(out, h)
		}
	}
	return out
}
