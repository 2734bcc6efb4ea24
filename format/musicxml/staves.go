package musicxml

import (
	"encoding/xml"
	"fmt"
	"slices"
)

// maxStaves is how many staves of a part are told apart; one with more is read as one line.
const maxStaves = 8

// staves cuts a part into its staves, each a line of its own. Where one of them is tablature
// the others are the same notes in another notation (common practice), and it stands for all.
//
// A score gives the notes of all staves in one row, with steps back in time between them. What
// is left out of a staff is a step forward in it, so that the rest stays where it was.
func (p xPart) staves() map[int]xPart {
	out := map[int]xPart{}
	tablature := false
	for _, m := range p.Measures {
		for _, i := range m.Items {
			if i.Note != nil && i.Note.Pitch != nil {
				out[i.Note.staff()] = xPart{}
				tablature = tablature || i.Note.placed()
			}
		}
	}
	if len(out) > maxStaves {
		return map[int]xPart{1: p}
	}
	for number := range out {
		staff := p.onStaff(number)
		if out[number] = staff; tablature && !staff.placed() {
			delete(out, number)
		}
	}
	return out
}

// onStaff is the part with the notes of one staff alone.
func (p xPart) onStaff(number int) xPart {
	out := xPart{ID: p.ID}
	for _, m := range p.Measures {
		items := make([]xItem, 0, len(m.Items))
		for _, i := range m.Items {
			switch {
			case i.Note == nil || i.Note.staff() == number:
				items = append(items, i)
			case i.Note.Chord == nil && i.Note.Duration > 0:
				items = append(items, xItem{XMLName: xml.Name{Local: "forward"}, Move: i.Note.Duration})
			}
		}
		m.Items = items
		out.Measures = append(out.Measures, m)
	}
	return out
}

// staff is on which staff of its part a note stands, from 1 at the top.
func (n xNote) staff() int { return max(1, n.Staff) }

// placed says whether some note of the part names its string and fret.
func (p xPart) placed() bool {
	return slices.ContainsFunc(p.Measures, func(m xMeasure) bool {
		return slices.ContainsFunc(m.Items, func(i xItem) bool { return i.Note != nil && i.Note.placed() })
	})
}

// staffName names a line by its part, and where the part has several by its staff.
func staffName(part string, number, of int) string {
	if of < 2 {
		return part
	}
	if part == "" {
		part = "part"
	}
	return fmt.Sprintf("%s, staff %d", part, number)
}
