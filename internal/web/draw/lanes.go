package draw

import "strings"

// Lane is a row of the ledger.
type Lane struct {
	Name   string // as requests name it
	Title  string
	Y, H   float64
	String int // of a place lane
}

// Sizes of the ledger's drawing.
const (
	ColumnWidth  = 48.0
	valueWidth   = 24.0 // of one value among those of a column
	chordHeight  = 22.0
	countHeight  = 53.0 // the note's number, its count and its length
	stringHeight = 19.0
	laneHeight   = 25.0
	bendHeight   = 38.0
	loadHeight   = 58.0
)

// Lanes lays the rows out for a number of strings. The lane of string s has the index s.
func Lanes(tuned int) []Lane {
	lanes := []Lane{{Name: "count", Title: "Count", H: countHeight}}
	for s := 1; s <= tuned; s++ {
		lanes = append(lanes, Lane{Name: "place", H: stringHeight, String: s})
	}
	for _, title := range []string{"Degree", "Finger", "Stroke", "Slur", "Bend"} {
		high := laneHeight
		if title == "Bend" {
			high = bendHeight // how far, and to which tone
		}
		lanes = append(lanes, Lane{Name: strings.ToLower(title), Title: title, H: high})
	}
	lanes = append(lanes, Lane{Name: "load", Title: "Load", H: loadHeight},
		Lane{Name: "chord", Title: "Chord", H: chordHeight})
	y := chordHeight // the chords stand on top, listed last so that a string's number is its lane's
	for i := range lanes[:len(lanes)-1] {
		lanes[i].Y = y
		y += lanes[i].H
		if lanes[i].Name == "count" || lanes[i].String == tuned {
			y += 4
		}
	}
	return lanes
}

// lanes are the rows of this ledger.
func (l Ledger) lanes() []Lane { return Lanes(len(l.Strings)) }

// height is how far the lanes reach down.
func height(lanes []Lane) float64 { last := lanes[len(lanes)-2]; return last.Y + last.H }
