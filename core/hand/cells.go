package hand

import (
	"context"
	"slices"

	"ornamen/core/figure"
	"ornamen/core/lick"
	"ornamen/core/neck"
)

// A player learns a figure with one hand and takes it everywhere: cells of a shape are tied to one fingering, where
// that costs little. Which notes are a cell the recipe knows that has grown them; else it is found.
//
// What is tied are moved cells, which follow one another along the neck, and cells of three tones and more on one
// string each, wherever they lie. Cells on other strings of one position are not: a position has fingers of its own.

// cell is the nodes [from, to) of a cell; those with one shape are tied.
type cell struct {
	from, to, shape int
	grip            bool // a chord's tones one after the other, a string each
	moved           bool // it follows another one along the neck
}

// Limits of the cells that are looked for where no recipe names them (model defaults).
const (
	shortCell  = 3
	longCell   = 24
	offBy      = 2       // frets by which a note may lie elsewhere in its cell than in the first one
	coverCells = 2. / 3. // of the line, that moved cells cover at least
	gripNotes  = 3       // of a chord that is a grip
	gripFrets  = 4
)

// cells are the chain's cells that are tied, in order; they do not overlap.
func (c *chain) cells() []cell {
	if c.celled {
		return c.tiedCells
	}
	c.celled = true
	cols := c.singles()
	switch spans := c.recipeCells(); {
	case len(spans) > 0:
		c.tiedCells = cellsOf(cols, spans)
	case slices.ContainsFunc(figure.Fingers(cols, c.m.whose), alongItsString):
		// It goes by positions, which have figures of their own.
	default:
		if spans := foundCells(cols); len(spans) > 0 {
			c.tiedCells = cellsOf(cols, spans)
		} else {
			c.tiedCells = stringCells(cols)
		}
	}
	return c.tiedCells
}

// alongItsString says whether a note goes along its string by positions or by a cell.
func alongItsString(us []figure.Usual) bool {
	return slices.ContainsFunc(us, func(u figure.Usual) bool { return u.Along > 0 })
}

// singles are the nodes as figures see them; what an open string or another rest of the hand lies before is marked, so
// that no cell goes over it.
func (c *chain) singles() [][]figure.Note {
	out := make([][]figure.Note, len(c.nodes))
	for k, n := range c.nodes {
		out[k] = make([]figure.Note, len(n.touches))
		for i, t := range n.touches {
			out[k][i] = noteOf(t)
			if k > 0 && n.event != c.nodes[k-1].event+1 {
				out[k][i].Mark += "open"
			}
		}
	}
	return out
}

// span is the nodes [from, to).
type span struct{ from, to int }

// recipeCells are the spans of nodes that the recipe names as cells.
func (c *chain) recipeCells() (out []span) {
	for k := 0; k < len(c.nodes); {
		to := k + 1
		for to < len(c.nodes) && c.nodes[to].cell == c.nodes[k].cell {
			to++
		}
		if c.nodes[k].cell > 0 && to-k > 1 {
			out = append(out, span{k, to})
		}
		k = to
	}
	return out
}

// whole says whether a span is of single pressed notes without an open string between them.
func whole(cols [][]figure.Note, x span) bool {
	if x.to > len(cols) {
		return false
	}
	for k := x.from; k < x.to; k++ {
		c := cols[k]
		if len(c) != 1 || !c[0].Pressed || k > x.from && len(c[0].Mark) >= 4 && c[0].Mark[len(c[0].Mark)-4:] == "open" {
			return false
		}
	}
	return true
}

// lowest is the lowest fret of a span.
func lowest(cols [][]figure.Note, x span) int {
	low := lick.MaxFret
	for _, c := range cols[x.from:x.to] {
		low = min(low, c[0].Place.Fret)
	}
	return low
}

// alike says whether two spans lie on the same strings and are played alike, each note's way from the first one within
// offBy frets of the other's.
func alike(cols [][]figure.Note, a, b span) bool {
	if a.to-a.from != b.to-b.from {
		return false
	}
	for i := range a.to - a.from {
		x, y := cols[a.from+i][0], cols[b.from+i][0]
		if x.Place.String != y.Place.String || i > 0 && x.Mark != y.Mark {
			return false
		}
		off := x.Place.Fret - cols[a.from][0].Place.Fret - (y.Place.Fret - cols[b.from][0].Place.Fret)
		if off < -offBy || off > offBy {
			return false
		}
	}
	return true
}

// repeated says whether a span is played at the same places as another.
func repeated(cols [][]figure.Note, a, b span) bool {
	for i := range a.to - a.from {
		if cols[a.from+i][0].Place != cols[b.from+i][0].Place {
			return false
		}
	}
	return true
}

// movedRun is how many spans from the first on are alike and either come back or lie at another lowest fret each, two
// of them at least at different ones, unless they are grips; 1 where the first stands alone.
func movedRun(cols [][]figure.Note, spans []span) (n int) {
	if !whole(cols, spans[0]) {
		return 1
	}
	moved := 1 // the number of spans up to the last that moved
	for n = 1; n < len(spans); n++ {
		a, b := spans[n-1], spans[n]
		if !whole(cols, b) || !alike(cols, a, b) || !alike(cols, spans[0], b) {
			break
		}
		if repeated(cols, a, b) {
			continue
		}
		if lowest(cols, a) == lowest(cols, b) {
			break
		}
		moved = n + 1
	}
	if moved == 1 && !gripped(cols[spans[0].from:spans[0].to]) {
		return 1
	}
	return n
}

// foundCells cuts a line into moved cells: the length, and where the first begins, with which most of it lies in cells
// that follow one another along the neck. None where they cover less than two thirds.
func foundCells(cols [][]figure.Note) (best []span) {
	most := int(float64(len(cols)) * coverCells)
	for size := shortCell; size <= longCell && 2*size <= len(cols); size++ {
		for start := range size {
			var spans []span
			for at := start; at+size <= len(cols); at += size {
				spans = append(spans, span{at, at + size})
			}
			if len(spans)*size <= most {
				continue
			}
			if n := movedRun(cols, spans); n > 1 && n*size > most {
				most, best = n*size, spans[:n]
			}
		}
	}
	return best
}

// cellsOf are the tied cells among spans: runs of moved ones, and grips by themselves.
func cellsOf(cols [][]figure.Note, spans []span) (out []cell) {
	shapes := map[string]int{}
	for i := 0; i < len(spans); {
		n := movedRun(cols, spans[i:])
		for _, x := range spans[i : i+n] {
			grip := whole(cols, x) && gripped(cols[x.from:x.to])
			if n == 1 && !grip {
				continue
			}
			key := shapeOf(cols[x.from:x.to])
			if _, known := shapes[key]; !known {
				shapes[key] = len(shapes)
			}
			out = append(out, cell{from: x.from, to: x.to, shape: shapes[key], grip: grip, moved: n > 1})
		}
		i += n
	}
	return out
}

// stringCells are the stretches on one string that have three tones or more, where two have one shape.
func stringCells(cols [][]figure.Note) (out []cell) {
	shapes, counts := map[string]int{}, map[int]int{}
	for from := 0; from < len(cols); {
		x := span{from, from + 1}
		for whole(cols, span{from, x.to + 1}) && !cols[x.to][0].Led &&
			cols[x.to][0].Place.String == cols[from][0].Place.String {
			x.to++
		}
		from = x.to
		if !whole(cols, x) || tonesOf(cols[x.from:x.to]) < 3 {
			continue
		}
		key := shapeOf(cols[x.from:x.to])
		if _, known := shapes[key]; !known {
			shapes[key] = len(shapes)
		}
		counts[shapes[key]]++
		out = append(out, cell{from: x.from, to: x.to, shape: shapes[key]})
	}
	return slices.DeleteFunc(out, func(x cell) bool { return counts[x.shape] < 2 })
}

// tonesOf is how many frets single notes are played at.
func tonesOf(cols [][]figure.Note) int {
	var frets []int
	for _, c := range cols {
		if !slices.Contains(frets, c[0].Place.Fret) {
			frets = append(frets, c[0].Place.Fret)
		}
	}
	return len(frets)
}

// gripped says whether notes are a chord's, one after the other and as often as may be: a fret a string, within a hand.
func gripped(cols [][]figure.Note) bool {
	frets := map[int]int{}
	low, high := lick.MaxFret, 0
	for _, c := range cols {
		p := c[0].Place
		if f, seen := frets[p.String]; !c[0].Plain || seen && f != p.Fret {
			return false
		}
		frets[p.String] = p.Fret
		low, high = min(low, p.Fret), max(high, p.Fret)
	}
	return high-low <= gripFrets && len(frets) >= gripNotes
}

// shapeOf names a cell's shape: strings and frets from its first note, and how the others are played.
func shapeOf(cols [][]figure.Note) string {
	var key []byte
	for i, c := range cols {
		key = append(key, byte(c[0].Place.String-cols[0][0].Place.String), byte(c[0].Place.Fret-cols[0][0].Place.Fret))
		if i > 0 {
			key = append(key, c[0].Mark...)
		}
		key = append(key, 0)
	}
	return string(key)
}

// What tying may cost (model defaults): the ceiling, and the sum of effort; a grip's line is slow, and may cost more.
const (
	tiedLoad = 1.15
	tiedSum  = 1.25
	gripLoad = 2.0

	// triedFingerings is how many of those that cells have are tried for all of them.
	triedFingerings = 4
)

// tied is the path in which the cells of each shape have one fingering. Tried are the fingerings that they have in the
// picked path, the most frequent first, and what the first and the last of them would have alone; of those within the
// limits the one of least effort is taken, or none.
func (c *chain) tied(ctx context.Context, picks []int, limit float64) []int {
	groups := c.groups()
	if len(groups) == 0 {
		return picks
	}
	held := c
	free := never // the effort of the untied path, once it is asked for
	load := c.fingersBound(ctx, picks)
	for _, group := range groups {
		if ctx.Err() != nil {
			break
		}
		options := c.fingerings(ctx, picks, group)
		if len(options) == 1 && !group[0].grip {
			if h, ok := held.holding(group, options[0]); ok {
				held = h // they agree already; what is tied next is not to part them
			}
			continue
		}
		within, most := max(limit, load*tiedLoad), load*tiedLoad
		if group[0].grip {
			within, most = max(limit, load*gripLoad), load*gripLoad
		} else if free == never {
			_, free = c.settle(ctx, picks, within)
		}
		best, least := (*chain)(nil), never
		var bestPicks []int
		for _, fingers := range options {
			h, ok := held.holding(group, fingers)
			if !ok {
				continue
			}
			next, found := h.best(ctx, within, nil)
			if !found {
				continue
			}
			next, sum := h.settle(ctx, next, within)
			if sum >= least || h.fingersBound(ctx, next) > most || !group[0].grip && sum > free*tiedSum {
				continue
			}
			best, bestPicks, least = h, next, sum
		}
		if best != nil {
			held, picks = best, bestPicks
		}
	}
	return picks
}

// groups are the cells whose fingers are the search's to choose, by shape, the most frequent first: two of a shape, or
// one grip.
func (c *chain) groups() (out [][]cell) {
	at := map[int]int{}
	for _, x := range c.cells() {
		if c.set(x) {
			continue
		}
		if _, known := at[x.shape]; !known {
			at[x.shape] = len(out)
			out = append(out, nil)
		}
		out[at[x.shape]] = append(out[at[x.shape]], x)
	}
	out = slices.DeleteFunc(out, func(g []cell) bool { return len(g) < 2 && !g[0].grip })
	slices.SortStableFunc(out, func(a, b []cell) int { return len(b) - len(a) })
	return out
}

// set says whether a finger of a cell is the player's.
func (c *chain) set(x cell) bool {
	for _, n := range c.nodes[x.from:x.to] {
		for _, t := range n.touches {
			if t.Finger != lick.NoFinger {
				return true
			}
		}
	}
	return false
}

// fingerings are those that are tried for a group of cells, each once.
func (c *chain) fingerings(ctx context.Context, picks []int, group []cell) (out [][]int8) {
	if group[0].grip {
		if f := c.asGrip(ctx, group[0]); f != nil {
			return [][]int8{f}
		}
	}
	counts := map[string]int{}
	name := func(f []int8) string {
		b := make([]byte, len(f))
		for i := range f {
			b[i] = byte(f[i])
		}
		return string(b)
	}
	for _, x := range group {
		f := c.fingersOf(picks, x)
		if counts[name(f)]++; counts[name(f)] == 1 {
			out = append(out, f)
		}
	}
	if len(out) == 1 {
		return out
	}
	slices.SortStableFunc(out, func(a, b []int8) int { return counts[name(b)] - counts[name(a)] })
	out = out[:min(len(out), triedFingerings)]
	for _, x := range []cell{group[0], group[len(group)-1]} {
		if f := c.alone(ctx, x); f != nil && !slices.ContainsFunc(out, func(o []int8) bool { return slices.Equal(o, f) }) {
			out = append(out, f)
		}
	}
	return out
}

// fingersOf is a picked path's fingering of a cell.
func (c *chain) fingersOf(picks []int, x cell) []int8 {
	out := make([]int8, 0, x.to-x.from)
	for k := x.from; k < x.to; k++ {
		out = append(out, c.nodes[k].stand[picks[k]].fingers[0])
	}
	return out
}

// holding is the chain with the fingers of some cells set; false where one cannot stand so.
func (c *chain) holding(group []cell, fingers []int8) (*chain, bool) {
	h := c.copied()
	for _, x := range group {
		for k := x.from; k < x.to; k++ {
			n, f := &h.nodes[k], fingers[k-x.from]
			if !n.keep(func(p posture) bool { return p.fingers[0] == f }) {
				return nil, false
			}
		}
	}
	return h, true
}

// alone is the best fingering of a cell by itself, nil where it has none.
func (c *chain) alone(ctx context.Context, x cell) []int8 {
	events := make([]Event, 0, x.to-x.from)
	for k := x.from; k < x.to; k++ {
		e := Event{Touches: slices.Clone(c.nodes[k].touches)}
		if k > x.from {
			e.Have = c.links[k-1].have
		} else {
			for i := range e.Touches {
				e.Touches[i].Slur = ""
			}
		}
		events = append(events, e)
	}
	one := c.m.newChain(ctx, events, false)
	one.celled = true // it is one cell
	if len(one.nodes) != len(events) {
		return nil
	}
	picks := one.taught(ctx, one.bound(ctx)*oneCellSlack)
	if len(picks) == 0 {
		return nil
	}
	return one.fingersOf(picks, cell{from: 0, to: len(one.nodes)})
}

// asGrip is the fingering of a cell whose notes are pressed together, nil where no hand can.
func (c *chain) asGrip(ctx context.Context, x cell) []int8 {
	order := make([]int, x.to-x.from) // of the notes, the thick strings first
	for i := range order {
		order[i] = x.from + i
	}
	slices.SortFunc(order, func(a, b int) int {
		return c.nodes[b].touches[0].Place.String - c.nodes[a].touches[0].Place.String
	})
	var e Event
	at := map[neck.Place]int{} // of the touches
	for _, k := range order {
		t := c.nodes[k].touches[0]
		t.Slur, t.Held = "", false
		if _, again := at[t.Place]; !again {
			at[t.Place] = len(e.Touches)
			e.Touches = append(e.Touches, t)
		}
	}
	p := c.m.Solve(ctx, []Event{e}, false, oneCellSlack)
	if !p.Possible() {
		return nil
	}
	out := make([]int8, len(order))
	for _, k := range order {
		f := p.Steps[0].Fingers[at[c.nodes[k].touches[0].Place]]
		if !f.Fretting() {
			return nil
		}
		out[k-x.from] = int8(f - lick.Index)
	}
	return out
}

// oneCellSlack is the slack of a cell by itself.
const oneCellSlack = 1.15
