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
		{name: "another frame", value: frameChange, unit: ms, check: "TestUnseenLines"},
		{name: "… inside a cell, more", value: changeInCell, unit: ms, check: "TestTaughtHands"},
		{name: "one finger goes to another string's fret", value: jumpAgain, unit: ms, check: "TestTeachersFingers"},
		{
			name:  "… or to another fret of its own string, without a slide",
			value: guidedAgain,
			unit:  ms,
			check: "TestUnseenLines",
		},
		{name: "each fret a gap opens beyond one", value: openGap, unit: ms, check: "TestTeachersFingers"},
		{name: "each closed gap", value: closedGap, unit: ms, check: "TestTeachersFingers"},
		{name: "a barre", value: barreEffort, unit: ms, check: "TestTeachersFingers"},
		{name: "… by ring or little finger, more", value: barreHigh, unit: ms, check: "TestTeachersFingers"},
		{name: "a full bend by the index", value: bendByIndex, unit: ms, check: "TestWhoBends"},
		{name: "a full bend by the middle finger", value: bendByMiddle, unit: ms, check: "TestTeachersFingers"},
		{name: "a lighter one by the index", value: lightByIndex, unit: ms, check: "TestTeachersFingers"},
		{name: "a lighter one by the middle finger", value: lightByMiddle, unit: ms, check: "TestTeachersFingers"},
		{name: "a bend by the little finger", value: bendByLittle, unit: ms, check: "TestWhoBends"},
		{name: "a slide by the middle finger", value: slideByMiddle, unit: ms, check: "TestPromisedLines"},
		{
			name:  "a bend by ring or little finger where the habit is the other",
			value: bendOther,
			unit:  ms,
			check: "TestBendingHabits",
		},
		{name: "a note departs from its place's finger", value: departure, unit: moves, check: "TestTaughtHands"},
		{
			name:  "a slide departs from the finger of the line's slides over as many frets",
			value: departsInSlide,
			unit:  moves,
			check: "TestUnseenLines",
		},
		{
			name:  "a note departs from the finger of its string's shape",
			value: departsOnString,
			unit:  moves,
			check: "TestTaughtHands",
		},
		{
			name:  "a note departs from its own finger in a position",
			value: departsInPosition,
			unit:  moves,
			check: "TestUnseenLines",
		},
		{
			name:  "a note of a tied cell departs from its finger in the cell by itself",
			value: departsFromCell,
			unit:  moves,
			check: "TestPromisedLines",
		},
		{
			name:  "a note departs from its position's or cell's finger along a string",
			value: departsAlong,
			unit:  moves,
			check: "TestTeachersFingers",
		},
		{
			name:  "a note departs from the finger of its octave's or grip's shape",
			value: departsFromShape,
			unit:  moves,
			check: "TestTeachersFingers",
		},
		{
			name:  "a note departs from a habit of the player's own, more",
			value: departsFromHabit,
			unit:  moves,
			check: "TestHabitsAreLearned",
		},
		{
			name:  "a finger leaps over a string, or to another fret of the next one and back, within two notes",
			value: leap,
			unit:  moves,
			check: "TestTaughtHands",
		},
	} {
		rows = append(rows, defaults.Row{
			Name:  "effort: " + t.name,
			Value: t.value,
			Unit:  t.unit,
			From:  defaults.Model,
			Check: t.check,
		})
	}
	return rows
}
