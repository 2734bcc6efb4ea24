package propose

import (
	"fmt"
	"slices"

	"ornamen/core/hand"
	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/load"
	"ornamen/core/say"
)

// A run repeats a cell, moved over the strings or along the neck. The recommended hands take
// the least effort at each place; a player who learns one cell may want the same fingers in
// all of them. Where the two differ, both stand side by side with their ceilings.

// The cells that are looked for, in notes (model defaults).
const (
	leastCell = 3
	mostCell  = 12
)

// oneFingering finds the hands that play every cell of a shape with the same fingers, those that
// most of them have in the recommended hands. Of cells that are moved along the neck they are the
// recommended ones where they cost next to nothing; else, as where cells lie on other strings of one
// position, which has fingers of its own, they stand beside with what they cost.
func (p *proposer) oneFingering() {
	is := p.out[0]
	size, from := cellSize(is.Lick)
	if size == 0 {
		return
	}
	l, same, along := p.base.Clone(), true, true
	for _, cells := range cellsOf(is.Lick, size, from) {
		way, all := usualFingers(is.Lick, cells, size)
		same, along = same && all, along && (all || onSameStrings(is.Lick, cells))
		if !all && !hold(&l, cells, way) {
			return
		}
	}
	if same {
		return
	}
	got := p.decide(l, p.way, load.Slack)
	r := p.Measure(got, p.hand).Alone()
	switch {
	case r.Ceiling <= 0:
	case along && r.Ceiling >= is.Ceiling*(1-uniformCost) && r.Verdict <= is.Report.Verdict && leaps(r) <= leaps(is.Report):
		p.out = nil
		p.add(recommended, say.Recommendation(), got, p.bound, "", p.way)
	default:
		p.add(uniform, say.OneFingering(), got, p.bound,
			p.other(say.SameFingers(r.Ceiling.Whole(), is.Ceiling.Whole()), got), p.way)
	}
}

// onSameStrings says whether cells lie on the same strings, moved along the neck.
func onSameStrings(l lick.Lick, cells []int) bool {
	return !slices.ContainsFunc(cells, func(k int) bool { return l.Notes[k].String != l.Notes[cells[0]].String })
}

// leaps counts the moves in which one finger goes elsewhere.
func leaps(r *judge.Report) (n int) {
	for _, x := range r.Notes {
		if x.Kind == hand.Jump || x.Kind == hand.Guided {
			n++
		}
	}
	return n
}

// cellSize is the length of cell, and its first note, with which the most notes lie in cells
// of a shape that comes back; 0 where that is less than half of the line.
func cellSize(l lick.Lick) (size, from int) {
	most := len(l.Notes)/2 - 1
	for n := leastCell; n <= mostCell && 2*n <= len(l.Notes); n++ {
		for start := range n {
			covered := 0
			for _, cells := range cellsOf(l, n, start) {
				covered += n * len(cells)
			}
			if covered > most {
				size, from, most = n, start, covered
			}
		}
	}
	return size, from
}

// cellsOf are the cells of a length by their first notes, grouped by shape; shapes that come
// once are left out.
func cellsOf(l lick.Lick, size, start int) [][]int {
	var groups [][]int
	for k := start; k+size <= len(l.Notes); k += size {
		g := slices.IndexFunc(groups, func(cells []int) bool { return sameShape(l, cells[0], k, size) })
		switch {
		case g >= 0:
			groups[g] = append(groups[g], k)
		case sameShape(l, k, k, size):
			groups = append(groups, []int{k})
		}
	}
	return slices.DeleteFunc(groups, func(cells []int) bool { return len(cells) < 2 })
}

// sameShape says whether two cells are one shape: as many strings and frets apart from their
// first notes, with the same slurs and bends, no notes together and no open string.
func sameShape(l lick.Lick, a, b, size int) bool {
	strings, frets := l.Notes[b].String-l.Notes[a].String, l.Notes[b].Fret-l.Notes[a].Fret
	for i := range size {
		x, y := l.Notes[a+i], l.Notes[b+i]
		if y.String-x.String != strings || y.Fret-x.Fret != frets || x.Fret == 0 || y.Fret == 0 ||
			i > 0 && x.Slur != y.Slur || (x.Bend == nil) != (y.Bend == nil) {
			return false
		}
		if i > 0 && (x.At.Cmp(l.Notes[a+i-1].At) == 0 || y.At.Cmp(l.Notes[b+i-1].At) == 0) {
			return false
		}
	}
	return true
}

// usualFingers are the fingers that most of the cells have, the first ones of several; all
// says that they all have them.
func usualFingers(l lick.Lick, cells []int, size int) (way []lick.Finger, all bool) {
	counts := map[string]int{}
	most := 0
	for _, k := range cells {
		fingers := make([]lick.Finger, size)
		for i := range fingers {
			fingers[i] = l.Notes[k+i].Finger
		}
		key := fmt.Sprint(fingers)
		if counts[key]++; counts[key] > most {
			most, way = counts[key], fingers
		}
	}
	return way, most == len(cells)
}

// hold sets the fingers of cells; false where one is set otherwise.
func hold(l *lick.Lick, cells []int, way []lick.Finger) bool {
	for _, k := range cells {
		for i, f := range way {
			n := &l.Notes[k+i]
			if n.Finger != lick.NoFinger && n.Finger != f {
				return false
			}
			n.Finger = f
		}
	}
	return true
}
