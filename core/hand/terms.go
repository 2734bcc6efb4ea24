package hand

import "ornamen/core/defaults"

// terms are the penalties of a proposal beside its need: the one table of all of them, each with its value,
// its unit and the test that fails without it. Terms in ms are added to the need of a move before its
// effort is taken; those in moves of 100 ms are added to the sum of effort, by a note's posture.
func terms() (rows []defaults.Row) {
	const ms, moves = "ms", "moves of 100 ms"
	for _, t := range []struct {
		name  string
		value float64
		unit  string
		check string
	}{
		{"another frame", frameChange, ms, "TestUnseenLines"},
		{"one finger goes to another string's fret", jumpAgain, ms, "TestTeachersFingers"},
		{"… or to another fret of its own string, without a slide", guidedAgain, ms, "TestUnseenLines"},
		{"each fret a gap opens beyond one", openGap, ms, "TestTeachersFingers"},
		{"each closed gap", closedGap, ms, "TestTeachersFingers"},
		{"a barre", barreEffort, ms, "TestTeachersFingers"},
		{"… by ring or little finger, more", barreHigh, ms, "TestTeachersFingers"},
		{"a full bend by the index", bendByIndex, ms, "TestWhoBends"},
		{"a full bend by the middle finger", bendByMiddle, ms, "TestTeachersFingers"},
		{"a lighter one by the index", lightByIndex, ms, "TestTeachersFingers"},
		{"a lighter one by the middle finger", lightByMiddle, ms, "TestTeachersFingers"},
		{"a bend by the little finger", bendByLittle, ms, "TestWhoBends"},
		{"a bend by ring or little finger where the habit is the other", bendOther, ms, "TestBendingHabits"},
		{"a note departs from its place's finger", departure, moves, "TestTaughtHands"},
		{"a slide departs from the finger of the line's slides over as many frets", departsInSlide, moves,
			"TestUnseenLines"},
		{"a note departs from the finger of its string's shape", departsOnString, moves, "TestTaughtHands"},
		{"a note departs from its own finger in a position", departsInPosition, moves, "TestUnseenLines"},
		{"a note departs from its position's or cell's finger along a string", departsAlong, moves,
			"TestTeachersFingers"},
		{"a note departs from the finger of its octave's or grip's shape", departsFromShape, moves,
			"TestTeachersFingers"},
		{"a note departs from a habit of the player's own, more", departsFromHabit, moves, "TestHabitsAreLearned"},
		{"a finger leaps over a string, or to another fret of the next one and back, within two notes", leap, moves,
			"TestTaughtHands"},
	} {
		rows = append(rows, defaults.Row{Name: "effort: " + t.name, Value: t.value, Unit: t.unit, From: defaults.Model,
			Check: t.check})
	}
	return rows
}
