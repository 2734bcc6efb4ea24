package say

import (
	"fmt"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// BendSize names how far a bend goes in half steps: a curl is half of one, a full bend two.
func BendSize(semitones float64) string {
	switch semitones {
	case 0.5:
		return "curl"
	case 1:
		return "half"
	case 2:
		return "full"
	case 3:
		return "one and a half"
	case 4:
		return "double"
	}
	return fmt.Sprintf("%g half steps", semitones)
}

// OpenBent is a bend of an open string.
func OpenBent() Words {
	return Words{"an open string is bent", "There is no finger on an open string to push it."}
}

// NoPush is a bend to a pitch that no push of the string makes.
func NoPush() Words {
	return Words{"the bend cannot be made", "No push of this string reaches that pitch."}
}

// OffEdge is a push beyond the edge of the fretboard.
func OffEdge(l lick.Lick, i int, way, room neck.MM) Words {
	return words("off the edge",
		"The bend pushes %s %.1f mm, but the edge of the fretboard is %.1f mm away on that side.",
		l.StringName(l.Notes[i].String), way, room)
}

// TooHeavy is a bend with more force than its finger holds with so many others behind it. A
// finger alone is another finding, as its fix is a helper. Forces in N.
func TooHeavy(l lick.Lick, i, helpers int, force, holds neck.Newtons) Words {
	n := l.Notes[i]
	title, with := "a heavy bend", Count(helpers, "helper")
	switch helpers {
	case 0:
		title, with = "a finger alone", "no helper"
	case 1:
		with = "one helper"
	}
	return words(title, "A %s bend at %s takes %.1f N; the %s with %s holds %.1f.", BendSize(n.Bend.Semitones),
		Place(l, i), force, n.Finger.Word(), with, holds)
}

// BendLate is a push with its hold and release that does not fit into its note; parts lists
// them with their times, and the sum follows.
func BendLate(semitones float64, way neck.MM, parts string) Words {
	return words("the bend comes late", "A %s bend of %.1f mm, %s", BendSize(semitones), way, parts)
}

// Aimless is a bend to a tone that was not chosen.
func Aimless(to music.Tone, p music.Palette) Words {
	return words("a bend without a target", "It goes to %s, the %s, which is not among the tones of %s.",
		to.Name.Pretty(), to.Degree.Pretty(), p.Pretty())
}

// VibratoShort is a note that is over before a vibrato is heard; its times follow.
func VibratoShort() Words { return Words{"too short for vibrato", "A vibrato wants a long note"} }
