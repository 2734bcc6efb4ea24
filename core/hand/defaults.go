package hand

import (
	"ornamen/core/defaults"
	"ornamen/core/figure"
	"ornamen/core/load"
)

// Defaults lists what the model assumes of a fretting hand: its reach, Fitts' slopes, what each kind of move costs
// beside them, and the penalties of a proposal. docs/model.md shows this list, and a test holds the two together.
//
// Values are those of the constants that the sums use, never copies, so that the page cannot
// say another number than the program computes with. A row without a source is a model default:
// chosen so that the facts of the trade come out (see the tests), not measured.
func Defaults() []defaults.Row {
	m := Medium()
	var rows []defaults.Row
	for i, name := range []string{"1–2", "1–3", "1–4", "2–3", "2–4", "3–4"} {
		p := Pair(i)
		rows = append(rows,
			defaults.Row{Name: "reach of fingers " + name + ", comfortable", Value: float64(m.Comfort[p]), Unit: "mm"},
			defaults.Row{Name: "reach of fingers " + name + ", limit", Value: float64(m.Limit[p]), Unit: "mm"})
	}
	for _, s := range sizes {
		rows = append(rows, defaults.Row{Name: "reach of a " + s.name + " hand, times", Value: float64(s.scale)})
	}
	const langolf = "Langolf, Chaffin and Foulke 1976, from memory"
	rows = append(rows, []defaults.Row{
		{Name: "Fitts' slope of the wrist", Value: wristSlope, Unit: "ms a bit", From: langolf},
		{Name: "Fitts' slope of a finger", Value: fingerSlope, Unit: "ms a bit", From: langolf},
		{Name: "another finger comes down", Value: placeFinger, Unit: "ms"},
		{Name: "… while the hand shifts, more", Value: letGo, Unit: "ms"},
		{Name: "hammer, more", Value: hammerExtra, Unit: "ms"},
		{Name: "pull, more", Value: pullExtra, Unit: "ms"},
		{Name: "roll", Value: rollBase, Unit: "ms"},
		{Name: "same finger under a barre", Value: barreBase, Unit: "ms"},
		{Name: "jump, by the finger", Value: jumpFinger, Unit: "ms"},
		{Name: "jump, by the hand", Value: jumpHand, Unit: "ms"},
		{Name: "slide", Value: slideBase, Unit: "ms"},
		{Name: "silent shift, more", Value: shiftExtra, Unit: "ms"},
		{Name: "to an open string", Value: openNeed, Unit: "ms"},
		{Name: "pull to an open string", Value: openPullNeed, Unit: "ms"},
		{Name: "each string beyond the next one", Value: farString, Unit: "ms"},
		{Name: "two neighbouring fingers on one fret", Value: sameFret, Unit: "ms"},
		{Name: "fingers 1 and 4 in turn", Value: pairCost[P14], Unit: "ms"},
		{Name: "fingers 2 and 3 in turn", Value: pairCost[P23], Unit: "ms"},
		{Name: "fingers 2 and 4 in turn", Value: pairCost[P24], Unit: "ms"},
		{Name: "fingers 3 and 4 in turn", Value: pairCost[P34], Unit: "ms"},
		{Name: "a frame at its limit of strain", Value: strainCost, Unit: "ms"},
		{Name: "each fret a gap opens beyond one", Value: gapCost, Unit: "ms"},
		{Name: "each closed gap", Value: closedCost, Unit: "ms"},
		{Name: "width of a fingertip", Value: float64(Fingertip), Unit: "mm"},
		{Name: "each mm that fingertips crowd", Value: crowdCost, Unit: "ms"},
		{Name: "widest gap of fingers 1 and 2", Value: maxGap12, Unit: "frets"},
		{Name: "widest gap of fingers 2 and 3", Value: maxGap23, Unit: "frets"},
		{Name: "widest gap of fingers 3 and 4", Value: maxGap34, Unit: "frets"},
		{Name: "least span of the four fingers", Value: minSpan, Unit: "frets"},
		{Name: "frets beyond the last that an idle finger hovers over", Value: hover, Unit: "frets"},
		{Name: "frets left of the first one that an idle finger hovers over", Value: behind, Unit: "frets"},
		{Name: "effort of one is a move of", Value: load.EffortUnit, Unit: "ms"},
		{Name: "largest load of a proposal over the least possible, times", Value: load.Slack},
		{Name: "… more for the fingers of a figure, times", Value: FigureSlack},
		{Name: "… more where it goes along one string, times", Value: alongSlack},
		{Name: "… a string's tones are looked for among its neighbours, to either side", Value: figure.StringReach,
			Unit: "notes"},
		{Name: "… as long as the hand stays within", Value: figure.StringFrets, Unit: "frets"},
		{Name: "… or, in a cell that keeps its own hand, within", Value: figure.CellFrets, Unit: "frets"},
		{Name: "… a position holds its neighbours, to either side", Value: figure.PositionReach, Unit: "notes"},
		{Name: "… and so many frets", Value: figure.PositionFrets, Unit: "frets"},
		{Name: "… a line goes along its string by positions from so many notes on", Value: figure.AlongLeast,
			Unit: "notes"},
		{Name: "… a position's frets from its lowest to its highest", Value: figure.PositionSpan, Unit: "frets"},
		{Name: "… the shortest cell that comes back along a string", Value: figure.CellLeast, Unit: "notes"},
		{Name: "… the longest", Value: figure.CellMost, Unit: "notes"},
		{Name: "moved cells that are tied have at least", Value: shortCell, Unit: "notes"},
		{Name: "… and at most", Value: longCell, Unit: "notes"},
		{Name: "… each note lies as in the first cell but for", Value: offBy, Unit: "frets"},
		{Name: "… and where no recipe names them, they cover of the line", Value: coverCells},
		{Name: "a chord's tones one after the other are a grip from so many strings on", Value: gripNotes},
		{Name: "… within", Value: gripFrets, Unit: "frets"},
		{Name: "tied cells may load the hand more, times", Value: tiedLoad},
		{Name: "… and ask more effort, times", Value: tiedSum},
		{Name: "… a grip may load it, times", Value: gripLoad},
		{Name: "… fingerings that are tried of those that cells have", Value: triedFingerings},
		{Name: "a finger that has bent a full step stands away from its string by", Value: float64(pushedFull), Unit: "mm"},
		{Name: "three fingers take the first frets of strings longer than", Value: float64(longScale), Unit: "mm"},
		{Name: "… up to fret", Value: figure.LongFrets},
	}...)
	return append(defaults.Ours(rows...), terms()...)
}
