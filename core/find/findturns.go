package find

import (
	"context"
	"strconv"

	"ornamen/core/phrase"
)

// turns looks for cells that go up and come down again, or the other way.
//
// Here a cell keeps its contour on the way back, so that only where each begins has to be
// looked at: base(0), base(1) = base(0) + by, then by more each time, until one lies by less,
// or twice on the same tone at the turn. From then on each must lie by less than the one
// before. Worked example: cells that begin on steps 0 1 2 1 0 turn once at the top; 0 1 2 2 1 0
// turn with the top place played twice. Cost: n/length comparisons of cells for each length.
func (f *finder) turns(ctx context.Context, c candidate, at []int) {
	n := len(f.items)
	for length := 1; length <= min(maxCell, n/3) && ctx.Err() == nil; length++ {
		shape := func(k int) (int, bool) { // base of cell k, if it has the first one's contour
			a, b := at[0], at[k*length]
			if a < 0 || b < 0 {
				return 0, false
			}
			for i := range length {
				x, y := f.items[i], f.items[k*length+i]
				if !x.like(y) || len(x.notes) > 0 && (at[k*length+i] < 0 || at[i] < 0 || at[k*length+i]-b != at[i]-a) {
					return 0, false
				}
			}
			return b, true
		}
		first, ok := shape(0)
		second, ok2 := shape(1)
		if !ok || !ok2 || second == first {
			continue
		}
		by := second - first
		top, cells, last, turned, twice := 1, 2, second, false, false
		for ; (cells+1)*length <= n; cells++ {
			b, ok := shape(cells)
			if !ok {
				break
			}
			switch {
			case !turned && b == last+by:
				top++
			case !turned && b == last && cells == top+1:
				turned, twice = true, true
			case b == last-by:
				turned = true
			default:
				ok = false
			}
			if !ok {
				break
			}
			last = b
		}
		if !turned {
			continue
		}
		base := 1 << 30
		for i := range length {
			if len(f.items[i].notes) > 0 {
				base = min(base, at[i])
			}
		}
		cell, ok := f.cellOf(c, at, 0, length, base)
		if !ok || cell[0].Rest {
			continue
		}
		f.addMarks(cell, 0, cells*length)
		r := f.base(c)
		r.Cell = phrase.Phrase{Kind: phrase.Tones, Cells: [][]phrase.Step{cell}}.String()
		r.Dir = "updown"
		if by < 0 {
			r.Dir = "downup"
		}
		if by != 1 && by != -1 {
			r.Move = strconv.Itoa(max(by, -by))
		}
		if twice {
			r.Turn = "twice"
		}
		f.addTries(c, r, 0, cells*length, cells, length, base, func(i int) ([]phrase.Step, bool) {
			return f.cellOf(c, at, cells*length, i, base+last-first)
		})
	}
}
