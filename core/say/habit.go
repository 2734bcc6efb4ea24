package say

import (
	"fmt"
	"strings"

	"ornamen/core/figure"
)

// HabitOf says what a player does in a situation, as on the list of habits: "Fingers 1 3 4 on three
// tones of a string, 2 and 4 frets above the lowest".
func HabitOf(h figure.Habit) string {
	words := strings.Fields(h.Situation)
	switch {
	case len(words) == 3:
		return fmt.Sprintf("Fingers %s on three tones of a string, the upper two %s and %s frets above the lowest",
			h.Fingers, words[1], words[2])
	case len(words) == 2 && words[0] == "fret":
		return fmt.Sprintf("Finger %s %s above the index in a position", h.Fingers, Count(int(words[1][0]-'0'), "fret"))
	case len(words) == 2:
		return fmt.Sprintf("Fingers %s for octaves over %s frets", h.Fingers, words[1])
	case h.Fingers == "4":
		return "The little finger for full bends"
	}
	return "The ring finger for full bends"
}

// HabitOffer asks whether what was corrected so many times is to be a habit.
func HabitOffer(h figure.Habit) string {
	return HabitOf(h) + ": you have set it so three times. Shall it be your habit?"
}
