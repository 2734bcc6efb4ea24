package edit

import (
	"cmp"
	"slices"

	"ornamen/core/figure"
	"ornamen/core/lick"
)

// Around are the selections that one key steps through from note i, counted from 0: the smallest figure
// that holds it, all figures that are alike, larger figures, and so on up to the note's bar and
// the whole line. A line without notes, or a note that is none, has no selections.
func Around(l lick.Lick, i int) (out []lick.Ranges) {
	if i < 0 || i >= len(l.Notes) {
		return nil
	}
	cols := l.Columns()
	at, _ := slices.BinarySearchFunc(cols, i, func(c [2]int, i int) int {
		switch {
		case c[1] <= i:
			return -1
		case c[0] > i:
			return 1
		}
		return 0
	})
	notes, rests := figured(l, cols)
	found := figure.Find(notes, func(k int) bool { return rests[k] })
	ranges := func(f figure.Figure) lick.Range { return lick.Range{From: cols[f.From][0], To: cols[f.To-1][1]} }
	add := func(rs lick.Ranges) {
		if !slices.ContainsFunc(out, func(o lick.Ranges) bool { return slices.Equal(o, rs) }) {
			out = append(out, rs)
		}
	}
	here := slices.DeleteFunc(slices.Clone(found), func(f figure.Figure) bool {
		return at < f.From || at >= f.To || f.To-f.From < 2
	})
	slices.SortStableFunc(here, func(a, b figure.Figure) int { return cmp.Compare(a.To-a.From, b.To-b.From) })
	for _, f := range here {
		add(lick.Ranges{ranges(f)})
		var all lick.Ranges
		for _, o := range found {
			if o.Kind != f.Kind || o.Of != f.Of {
				continue
			}
			if r := ranges(o); len(all) > 0 && r.From <= all[len(all)-1].To {
				all[len(all)-1].To = max(all[len(all)-1].To, r.To)
			} else {
				all = append(all, r)
			}
		}
		add(all)
	}
	bar := l.Position(l.Notes[i].At).Bar
	from, to := i, i+1
	for from > 0 && l.Position(l.Notes[from-1].At).Bar == bar {
		from--
	}
	for to < len(l.Notes) && l.Position(l.Notes[to].At).Bar == bar {
		to++
	}
	add(lick.Ranges{{From: from, To: to}})
	slices.SortStableFunc(out, func(a, b lick.Ranges) int { return cmp.Compare(a.Notes(), b.Notes()) })
	add(lick.Ranges{{From: 0, To: len(l.Notes)}})
	return out
}

// figured is a line as figures see it, and which columns begin a phrase: the first one, and each after a rest.
func figured(l lick.Lick, cols [][2]int) (notes [][]figure.Note, begins []bool) {
	notes, begins = make([][]figure.Note, len(cols)), make([]bool, len(cols))
	var end lick.Time
	for k, c := range cols {
		begins[k] = k == 0 || end.Before(l.Notes[c[0]].At)
		for _, n := range l.Notes[c[0]:c[1]] {
			mark := string(n.Slur)
			if n.Bend != nil {
				mark += "bent"
			}
			notes[k] = append(notes[k], figure.Note{Place: n.Place(), Pressed: n.Fret > 0, Mark: mark,
				Plain: n.Slur == "" && n.Bend == nil})
			end = lick.Later(end, n.End())
		}
	}
	return notes, begins
}
