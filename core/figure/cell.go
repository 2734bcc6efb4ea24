package figure

import "slices"

// The cells that are looked for, in columns (model defaults).
const (
	CellFrom = 3
	CellTo   = 12
)

// Cells are a line cut into cells of one length.
type Cells struct {
	Size   int     // columns of each; 0 where none comes back
	Groups [][]int // the first columns of cells that are alike, in order; each group has two or more
}

// FindCells finds the length of cell, and where the first begins, with which most columns lie in cells of a shape that
// comes back: as many strings and frets apart from their first notes, played alike, at another place, in another key or
// on another pair of strings. Less than half of the line is no such length. Notes together and open strings take no
// part. Cost: the length of the line times that of the longest cell.
func FindCells(columns [][]Note) (best Cells) {
	most := len(columns)/2 - 1
	for size := CellFrom; size <= CellTo && 2*size <= len(columns); size++ {
		shapes := shapesOf(columns, size)
		for start := range size {
			groups := map[int][]int{}
			covered := 0
			for k := start; k+size <= len(columns); k += size {
				if s := shapes[k]; s >= 0 {
					if groups[s] = append(groups[s], k); len(groups[s]) == 2 {
						covered += size
					}
					if len(groups[s]) > 1 {
						covered += size
					}
				}
			}
			if covered <= most {
				continue
			}
			most, best = covered, Cells{Size: size}
			for _, g := range groups {
				if len(g) > 1 {
					best.Groups = append(best.Groups, g)
				}
			}
		}
	}
	slices.SortFunc(best.Groups, func(a, b []int) int { return a[0] - b[0] })
	return best
}

// shapesOf numbers the shape of the cell that begins at each column, equal numbers for equal shapes;
// −1 where none can begin.
func shapesOf(columns [][]Note, size int) []int {
	out := make([]int, len(columns))
	numbers := map[string]int{}
	var key []byte
	for k := range columns {
		key, out[k] = key[:0], -1
		whole := k+size <= len(columns)
		for i := 0; whole && i < size; i++ {
			c := columns[k+i]
			if len(c) != 1 || !c[0].Pressed {
				whole = false
				break
			}
			n, from := c[0], columns[k][0]
			key = append(key, byte(n.Place.String-from.Place.String), byte(n.Place.Fret-from.Place.Fret))
			if i > 0 {
				key = append(key, n.Mark...) // how the first one is reached is the cell's before it
			}
			key = append(key, 0)
		}
		if whole {
			s, known := numbers[string(key)]
			if !known {
				s = len(numbers)
				numbers[string(key)] = s
			}
			out[k] = s
		}
	}
	return out
}
