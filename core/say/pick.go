package say

import (
	"fmt"

	"ornamen/core/lick"
	"ornamen/core/pick"
)

// StrokeRepeats is a stroke in the direction of the one before it on its string; its times follow.
func StrokeRepeats(l lick.Lick, i int) Words {
	n := l.Notes[i]
	return words("the same stroke again", "Two %ss in a row on %s", Stroke(n.Stroke), l.StringName(n.String))
}

// LoopRepeats is a loop of an odd number of strokes in turn, which begins as it ends.
func LoopRepeats(strokes int, s lick.Stroke) Words {
	return words("the loop repeats a stroke", "%d strokes: the loop turns on two %ss in a row.", strokes, Stroke(s))
}

// changeTitles are the titles of the string changes that can hold a line back.
var changeTitles = map[pick.StringChange]string{pick.Inside: "an inside change", pick.Against: "against the stroke",
	pick.Sweep: "the sweep is too fast"}

// TooFastChange is a string change that comes too quickly; its times follow.
func TooFastChange(kind pick.StringChange, l lick.Lick, from, to int) Words {
	m, n := l.Notes[from], l.Notes[to]
	return words(changeTitles[kind], "After the %s on %s, then %s on %s", Stroke(m.Stroke), l.StringName(m.String),
		Stroke(n.Stroke), l.StringName(n.String))
}

// StrokeFast is a stroke that comes too quickly with no change in its way; its times follow.
func StrokeFast(l lick.Lick, i int) Words {
	n := l.Notes[i]
	return words("picked too fast", "A picked %s on %s", Stroke(n.Stroke), l.StringName(n.String))
}

// BothExits is a line of which no one pick angle clears every change: of so many changes some
// leave the string after the odd stroke, the others after the other.
func BothExits(some, changes int, odd lick.Stroke) Words {
	return words("needs two pick angles",
		"%d of %d string changes leave after %s, the others after %s: one pick angle does not serve both.", some,
		changes, AStroke(odd), AStroke(odd.Other()))
}

// EconomyClean is economy where each of the string changes comes out as a sweep.
func EconomyClean(sweeps int) string {
	if sweeps == 1 {
		return "Economy: the change is a sweep, none is inside"
	}
	return fmt.Sprintf("Economy: all %d changes are sweeps, none is inside", sweeps)
}

// SlursForExits are slurs on notes, counted from 0, after which every change leaves alike.
func SlursForExits(notes []int, leaves lick.Stroke) string {
	lead := "A slur into note "
	if len(notes) > 1 {
		lead = "Slurs into notes "
	}
	return lead + Numbers(notes) + ": every change leaves after " + AStroke(leaves)
}

// BothWays is a pick that is to go down and up at one instant.
func BothWays() Words {
	return Words{"down and up at once",
		"One pick cannot go down and up at the same time: one stroke for both, or the pick and a finger."}
}

// OneFingerTwoStrings is one picking finger asked of two strings at one instant.
func OneFingerTwoStrings() Words {
	return Words{"one finger for two strings",
		"One picking finger plucks one string at a time: another finger for each of the others."}
}

// StringsApart is one stroke asked of strings with another between them.
func StringsApart() Words {
	return Words{"one stroke for strings apart",
		"These strings do not touch, so one stroke cannot play them: take fingers, or the pick and a finger."}
}
