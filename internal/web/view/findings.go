package view

import (
	"fmt"
	"strconv"

	"ornamen/core/judge"
	"ornamen/core/text"
)

// Finding is a card of the judgement: a group of findings, its fixes. Notes is for people ("12 → 13"), NoteList for the
// page, which lights them; First is where the caret goes.
type Finding struct {
	Code, Severity, Title, Text, Notes string
	NoteList                           string
	Also                               string // where else: "Also 9 → 10, 15 → 16 and 4 more."
	First                              int
	Meant                              bool
	CanMean                            bool
	Fixes                              []fixView
}

// fixView is one fix that was tried.
type fixView struct {
	Text    string
	Ceiling int
	Upto    string // "clean up to 98"
	Ref     string // names the fix, for the edit
	Main    bool
}

// Cards is how many findings are shown at once; the rest are a click away.
const Cards = 5

// FindingOf writes one group of findings.
func FindingOf(f judge.Group) Finding {
	fv := Finding{Code: string(f.Code), Severity: f.Severity.String(), Title: f.Title, Text: f.Text,
		Notes: FindingNotes(f.Finding), Meant: f.Meant, CanMean: f.Severity == judge.Flows}
	fv.NoteList = text.Join(f.AllNotes(), " ", strconv.Itoa)
	fv.Also = alsoAt(f.Others)
	if len(f.Notes) > 0 {
		fv.First = f.Notes[len(f.Notes)-1]
	}
	for _, x := range f.Fixes {
		fv.Fixes = append(fv.Fixes,
			fixView{Text: x.Text, Ceiling: x.Ceiling.Whole(), Ref: x.ID, Upto: x.Ceiling.String()})
	}
	return fv
}

// FindingNotes writes the notes of a finding: "12 → 13" for a move, "3, 6" else. A load in ms is about a move; two
// notes of another unit, or of what holds at any tempo, are two notes.
func FindingNotes(f judge.Finding) string {
	if len(f.Notes) == 2 && f.Unit != "ms" && !f.Always {
		return fmt.Sprintf("%d, %d", f.Notes[0], f.Notes[1])
	}
	return noteNumbers(f.Notes)
}

// alsoAt says where else something is found.
func alsoAt(others []judge.Finding) string {
	const few = 4
	if len(others) == 0 {
		return ""
	}
	s := "Also " + text.Join(others[:min(len(others), few)], ", ", FindingNotes)
	if len(others) > few {
		s += fmt.Sprintf(" and %d more", len(others)-few)
	}
	return s + "."
}
