package find

import (
	"context"
	"strconv"

	"ornamen/core/phrase"
	"ornamen/core/shape"
)

// downCells looks for a cell that climbs and another one that comes down again: the longest
// stretch from the beginning in which a cell moves evenly, and the longest one to the end in
// which another moves the other way, where the two meet.
//
// Both are counted once for every length, from the beginning forward and from the end
// backward, and then matched: a way up that ends at item m and a way down that begins there.
// So the cost is n²/4 comparisons and not one for every pair of lengths. Worked example: cells
// 1 2 3 | 2 3 4 | 3 4 5 and then 5 4 | 4 3 | 3 2: three cells of three steps up by one end at
// item 9, three of two steps come down by one to the end.
func (f *finder) downCells(ctx context.Context, c candidate, at []int) {
	n := len(f.items)
	type stretch struct{ length, cells, by int }
	up := map[int][]stretch{} // by where it ends
	for length := 1; length <= min(maxCell, n/4); length++ {
		cells, by := f.evenly(at, 0, length, 1)
		for k := 2; k <= cells; k++ {
			up[k*length] = append(up[k*length], stretch{length, k, by})
		}
	}
	for length := 1; length <= min(maxCell, n/4) && ctx.Err() == nil; length++ {
		cells, by := f.evenly(at, n-length, length, -1)
		for k := 2; k <= cells; k++ {
			for _, u := range up[n-k*length] {
				if u.by != -by || by == 0 {
					continue
				}
				f.thereAndBack(c, at, u.length, u.cells, u.by, length, k)
			}
		}
	}
}

// evenly counts how often the cell that begins at item from is played on in one direction of
// time, each time by as many steps, and by how many.
func (f *finder) evenly(at []int, from, length, way int) (cells, by int) {
	cells, known := 1, false
	for {
		next := from + way*cells*length
		if next < 0 || next+length > len(f.items) {
			return cells, by
		}
		for i := range length {
			a, b := from+way*(cells-1)*length+i, next+i
			if !f.items[a].like(f.items[b]) {
				return cells, by
			}
			if len(f.items[a].notes) == 0 {
				continue
			}
			if at[a] < 0 || at[b] < 0 {
				return cells, by
			}
			d := way * (at[b] - at[a])
			if known && d != by {
				return cells, by
			}
			by, known = d, true
		}
		cells++
	}
}

// thereAndBack tries the two cells as one recipe: the top place played once or twice.
//
// The cell of the way down is written from the place where a run would begin to come back: one
// place under the top where the top is played once, the top itself where it is played twice.
func (f *finder) thereAndBack(c candidate, at []int, length, cells, by, back, backs int) {
	base := f.lowest(at, 0, length)
	cell, ok := f.cellOf(c, at, 0, length, base)
	if !ok || cell[0].Rest {
		return
	}
	f.addMarks(cell, 0, cells*length)
	r := f.base(c)
	r.Cell = phrase.Phrase{Kind: phrase.Tones, Cells: [][]phrase.Step{cell}}.String()
	r.Dir, r.Times = "updown", cells+backs
	if by < 0 {
		r.Dir = "downup"
	}
	if by != 1 && by != -1 {
		r.Move = strconv.Itoa(max(by, -by))
	}
	for _, x := range []struct {
		turn string
		rung int
	}{{"", base + (cells-2)*by}, {"twice", base + (cells-1)*by}} {
		down, ok := f.cellOf(c, at, cells*length, cells*length+back, x.rung)
		if !ok || down[0].Rest || !near(down, max(length, back)) {
			continue
		}
		f.addMarks(down, cells*length, len(f.items))
		r.DownCell = phrase.Phrase{Kind: phrase.Tones, Cells: [][]phrase.Step{down}}.String()
		if by < 0 {
			// A run that begins downward plays the cell of the way down first.
			r.Cell, r.DownCell = r.DownCell, r.Cell
		}
		r.Turn = x.turn
		for _, r.Start = range []int{0, base + 1} {
			f.add(r, 0, len(f.items))
		}
		if by < 0 {
			r.Cell, r.DownCell = r.DownCell, r.Cell
		}
	}
}

// near says whether a cell lies about where it is played: farther off it is another part of
// the line, not the way back. Without this bound any two halves of a line would do, as a cell
// may name any tone, and what is found would say nothing.
func near(cell []phrase.Step, reach int) bool {
	for _, s := range cell {
		for _, t := range s.Tones {
			if t.N-1 > reach || 1-t.N > reach {
				return false
			}
		}
	}
	return true
}

// lowest is the lowest step of some items.
func (f *finder) lowest(at []int, from, to int) int {
	base := 1 << 30
	for i := from; i < to; i++ {
		if len(f.items[i].notes) > 0 {
			base = min(base, at[i])
		}
	}
	return base
}

// longCell is how many steps a cell may have that is played once: more are a line.
const longCell = 12

// itself tries the whole line as one statement of a cell, on a layout of the hand's size. Any
// short line is one, so this is asked only where nothing is played twice; on a layout that
// runs along the neck it would say no more than the line does.
func (f *finder) itself(c candidate) {
	if len(f.items) > longCell || len(f.items) < 3 {
		return
	}
	if layout, err := shape.ParseLayout(c.layout); c.layout != "" && err == nil && shape.Long(layout) {
		return
	}
	cell, base, ok := f.cellAt(c, 0, len(f.items))
	if !ok {
		return
	}
	r := f.base(c)
	r.Cell = phrase.Phrase{Kind: phrase.Tones, Cells: [][]phrase.Step{cell}}.String()
	r.Move, r.Times = "stay", 1
	for _, r.Start = range []int{0, base + 1} {
		f.add(r, 0, len(f.items))
	}
}
