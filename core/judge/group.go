package judge

import "slices"

// Group is findings of one shape: what is found again and again in a line is one
// trouble for the player, with all its notes.
type Group struct {
	Finding           // the worst of them, with the fixes of all, each once
	Others  []Finding // the rest, worst first
}

// Grouped puts findings of one code together, those that are meant and those that only remark apart from the others:
// what a teacher would say of a move that is in time stands by itself. The order is that of the worst of each.
func Grouped(list []Finding) []Group {
	var out []Group
	for _, f := range list {
		k := slices.IndexFunc(out, func(g Group) bool {
			return g.Code == f.Code && g.Meant == f.Meant && (g.Severity == Flows) == (f.Severity == Flows)
		})
		if k < 0 {
			f.Fixes = slices.Clone(f.Fixes)
			out = append(out, Group{Finding: f})
			continue
		}
		g := &out[k]
		g.Others = append(g.Others, f)
		for _, x := range f.Fixes {
			if !slices.ContainsFunc(g.Fixes, func(y Fix) bool { return y.ID == x.ID }) {
				g.Fixes = append(g.Fixes, x)
			}
		}
	}
	for i := range out {
		out[i].Fixes = out[i].Fixes[:min(len(out[i].Fixes), maxFixes)]
	}
	return out
}

// AllNotes are the notes of every finding of the group, in playing order, each once.
func (g Group) AllNotes() []int {
	notes := slices.Clone(g.Notes)
	for _, f := range g.Others {
		notes = append(notes, f.Notes...)
	}
	slices.Sort(notes)
	return slices.Compact(notes)
}
