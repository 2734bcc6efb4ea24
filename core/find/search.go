package find

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/phrase"
	"ornamen/core/run"
	"ornamen/core/shape"
)

// maxCell is the longest cell that is looked for, in steps.
const maxCell = 48

// stretch is a part of the line in which a cell of a length moves evenly: steps from to to.
type stretch struct{ from, to, length, by int }

// cells are how many whole statements it has.
func (s stretch) cells() int { return (s.to - s.from) / s.length }

// stretches finds, for every length of cell from the least on, the longest stretch in which the cell moves evenly.
//
// A line made of one cell of length p that moves by d is periodic: item i+p lies d beyond item i, for every i. So for
// each length the items are walked once and the distance from i to i+p is compared with the one before. While it
// stays the same the stretch grows; where it changes, or where a note stands against a rest, the stretch is closed
// and another begins at this item. A stretch counts from two cells on; the longest of each length is taken, the first
// of equals. Rests and holds agree with any distance, as they lie nowhere.
//
// Cost: n²/2 comparisons for n items. Worked example: 1 2 3 2 3 4 3 4 5 with length 3 has the distances 1 1 1 1 1 1,
// one stretch of nine items, moved by one; with length 2 they are 2 0 0 2 0 0 2, and the longest stretch is 2 3 2 3, a
// cell that stays where it is.
func (f *finder) stretches(ctx context.Context, apart distance, least int) (out []stretch) {
	n := len(f.items)
	for length := least; length <= min(maxCell, n/2) && ctx.Err() == nil; length++ {
		var best stretch
		now, known := stretch{from: -1}, false
		flush := func(end int) {
			if now.from >= 0 && end-now.from >= 2*length && end-now.from > best.to-best.from {
				best = stretch{from: now.from, to: end, length: length, by: now.by}
			}
			now, known = stretch{from: -1}, false
		}
		for i := 0; i+length < n; i++ {
			d, says, ok := f.apart(apart, i, i+length)
			if !ok {
				flush(i + length)
				continue
			}
			if says && known && d != now.by {
				flush(i + length) // a new stretch may begin inside the last one
			}
			if now.from < 0 {
				now.from = i
			}
			if says && !known {
				now.by, known = d, true
			}
		}
		if flush(n); best.length > 0 {
			out = append(out, best)
		}
	}
	return out
}

// apart is how far step k lies beyond step i; rests and holds lie nowhere.
func (f *finder) apart(apart distance, i, k int) (by int, known, ok bool) {
	switch a := f.items[i]; {
	case !a.like(f.items[k]):
		return 0, false, false
	case len(a.notes) == 0:
		return 0, false, true
	}
	return apart(i, k)
}

// evenly counts the statements of a cell from a step on, each by as many steps beyond the one before; by is how many,
// where there are two.
func (f *finder) evenly(apart distance, from, length int) (cells, by int) {
	cells, known := 1, false
	for ; from+(cells+1)*length <= len(f.items); cells++ {
		for i := from + (cells-1)*length; i < from+cells*length; i++ {
			d, says, ok := f.apart(apart, i, i+length)
			if !ok || says && known && d != by {
				return cells, by
			}
			if says {
				by, known = d, true
			}
		}
	}
	return cells, by
}

// statement writes the cell of a stretch, and where it is counted from.
func (f *finder) statement(r reading, s stretch) (cell []phrase.Step, base int, ok bool) {
	if base, ok = r.base(s.from, s.from+s.length, s.by); !ok {
		return nil, 0, false
	}
	if cell, ok = f.from(r, s.from, s.from+s.length, base, s.by); !ok || cell[0].Rest {
		return nil, 0, false
	}
	f.laterSlurs(cell, s)
	return cell, base, true
}

// laterSlurs gives a cell the slurs that only later statements have: where the first one changes the string a pull-off
// cannot sound, and the player picks there; a later one that stays on one string shows that the figure is slurred.
func (f *finder) laterSlurs(cell []phrase.Step, s stretch) {
	for i := s.from; i < s.to; i++ {
		x := &cell[(i-s.from)%s.length]
		if len(f.items[i].notes) > 0 && x.Slur == "" && len(x.Tones) > 0 {
			x.Slur = f.items[i].notes[0].Slur
		}
	}
}

// from writes steps as a cell that is counted from base.
func (f *finder) from(r reading, from, to, base, by int) ([]phrase.Step, bool) {
	return f.cell(from, to, func(i int) ([]phrase.Tone, bool) { return r.tones(i, base, by) })
}

// written is a cell in words.
func written(k phrase.Kind, cell []phrase.Step) string {
	return phrase.Phrase{Kind: k, Cells: [][]phrase.Step{cell}}.String()
}

// runs are the parts of a line that one way of comparing its steps makes out: cells that move evenly, and such that
// come back from the top, as two stretches each.
type runs struct {
	even []stretch
	back [][2]stretch
}

// runs compares the steps of the line, for cells from the least length on.
func (f *finder) runs(ctx context.Context, apart distance, least int) runs {
	return runs{f.stretches(ctx, apart, least), f.thereAndBack(ctx, apart)}
}

// tryRuns tries what was made out as recipes.
func (f *finder) tryRuns(c candidate, r reading, all runs) {
	for _, s := range all.even {
		x := f.recipe(c)
		var ok bool
		if x.Move, ok = r.move(s.by); !ok {
			continue
		}
		cell, base, ok := f.statement(r, s)
		if !ok {
			continue
		}
		if s.by < 0 {
			x.Dir = "down"
		}
		if x.Cell = written(r.kind, cell); r.kind == phrase.Chord {
			f.overChords(x, s, cell)
			continue
		}
		end := s.from + s.cells()*s.length
		f.tryAll(x, s.from, end, s.cells(), base, f.tail(r, s.from, end, s.length, s.by))
	}
	for _, s := range all.back {
		f.tryBack(c, r, s[0], s[1])
	}
}

// overChords tries a figure over the chords of the key: as far as they go, so many of them, and these very ones.
func (f *finder) overChords(x run.Recipe, s stretch, cell []phrase.Step) {
	roots := f.rootsOf(s.from, s.to, s.length)
	if len(roots) < 2 || s.length > maxCell/2 {
		return
	}
	var strs []int
	for _, it := range f.items[s.from : s.from+s.length] {
		for _, n := range it.notes {
			strs = append(strs, n.String)
		}
	}
	x.At = f.items[s.from].notes[0].Place().Notation()
	x.Cell = phrase.Phrase{Kind: phrase.Chord, Cells: [][]phrase.Step{cell}, Strings: strs}.String()
	end := s.from + len(roots)*s.length
	named := x
	named.Chords = strings.Join(roots, " ")
	counted := x
	counted.Times = len(roots)
	for _, x := range []run.Recipe{x, counted, named} {
		f.add(x, s.from, end)
		f.addLanding(x, s.from, end)
	}
}

// tryAll adds a recipe for the steps from to end with and without a start, a number of cells and what follows them: a
// tail, the line's last note as its landing.
//
// Each is tried in its shortest words first: a run that goes as far as its layout does needs no number, one that
// begins at the layout's lowest tone no start. Which of them gives the line back is not computed here; they are grown
// and compared (verify), and of those that agree the shortest is taken. At most a dozen tries come of one stretch.
func (f *finder) tryAll(x run.Recipe, from, end, cells, base int, tail func(to int) (string, bool)) {
	n := len(f.items)
	if x.Move != "stay" {
		f.add(x, from, end)
	}
	x.Times = cells
	for _, start := range []int{0, base + 1} {
		x.Start = start
		f.add(x, from, end)
		f.addLanding(x, from, end)
		var ok bool
		if x.Tail, ok = tail(n); ok {
			f.add(x, from, n)
		}
		if x.Tail, ok = tail(n - 1); ok {
			f.addLanding(x, from, n-1)
		}
		x.Tail = ""
	}
}

// tail says what is left over behind statements of a length as a part of the next one. What is longer than a cell (or
// four steps), or than half of what the statements cover, is another line.
func (f *finder) tail(r reading, from, end, length, by int) func(to int) (string, bool) {
	base, based := r.base(end-length, end, by)
	return func(to int) (string, bool) {
		if !based || to <= end || to-end > max(length, 4) || 2*(to-end) > end-from {
			return "", false
		}
		t, ok := f.from(r, end, to, base, by)
		return written(r.kind, t), ok
	}
}

// noTail is what follows where nothing may.
func noTail(int) (string, bool) { return "", false }

// addLanding adds the recipe with the line's last note as its landing, which is step at.
func (f *finder) addLanding(x run.Recipe, from, at int) {
	if at != len(f.items)-1 || len(f.items[at].notes) != 1 {
		return
	}
	x.Land = f.palette.At(f.line.Pitch(f.items[at].first)).Degree.String()
	if !f.line.Pickup.IsZero() {
		x.Land += fmt.Sprintf("@%d", f.line.Position(f.items[at].notes[0].At).Beat)
	}
	f.add(x, from, at+1)
}

// add keeps a try once, with how many notes it may cover.
func (f *finder) add(x run.Recipe, from, to int) {
	notes := 0
	for _, it := range f.items[from:to] {
		notes += len(it.notes)
	}
	text := x.String()
	if key := fmt.Sprint(from, to, text); !f.seen[key] {
		f.seen[key] = true
		f.tries = append(f.tries, try{recipe: x, from: from, to: to, covers: notes, text: text})
	}
}

// recipe is what the recipes over a ladder share.
func (f *finder) recipe(c candidate) run.Recipe {
	r := run.Recipe{Key: f.key, Layout: c.layout, At: c.at}
	r.Loop = f.line.Loop
	r.Add, r.Drop = strings.Join(f.line.Key.Add, ","), strings.Join(f.line.Key.Drop, ",")
	if f.count != "16" {
		r.Count = f.count
	}
	if f.line.Feel == lick.Shuffle {
		r.Feel = "shuffle"
	}
	if !slices.Equal(f.guitar.Tuning, neck.Standard().Tuning) {
		r.Tuning = neck.TuningText(f.guitar.Tuning)
	}
	return r
}

// thereAndBack looks for cells that go up and come down again, or the other way: a cell that moves evenly from the
// beginning, and from where it stops the same one or another the other way, as far as to a tail of the line.
//
// On the way back a run keeps the cell's contour, so that statements on steps 0 1 2 1 0 turn once at the top, 0 1 2 2
// 1 0 with the top place played twice. Another cell is written from the place where the run would begin to come back:
// cells 1 2 3 | 2 3 4 | 3 4 5 and then 5 4 | 4 3 | 3 2 are three of three steps, moved by one, and three of two steps
// back.
func (f *finder) thereAndBack(ctx context.Context, apart distance) (out [][2]stretch) {
	n := len(f.items)
	for length := 1; length <= min(maxCell, n/3) && ctx.Err() == nil; length++ {
		most, by := f.evenly(apart, 0, length)
		if by == 0 {
			continue
		}
		for cells := 2; cells <= most; cells++ {
			top := cells * length
			for back := 1; back <= min(maxCell, n-top); back++ {
				backs, down := f.evenly(apart, top, back)
				if end := top + backs*back; n-end <= max(back, 4)+1 &&
					(backs > 1 && down == -by || backs == 1 && back == length) {
					out = append(out, [2]stretch{
						{from: 0, to: top, length: length, by: by},
						{from: top, to: end, length: back, by: -by},
					})
				}
			}
		}
	}
	return out
}

// tryBack tries stretches there and back as one recipe, the top place played once or twice.
func (f *finder) tryBack(c candidate, r reading, up, down stretch) {
	cell, base, ok := f.statement(r, up)
	if !ok {
		return
	}
	x := f.recipe(c)
	x.Dir, x.Cell = "updown", written(r.kind, cell)
	if x.Move, ok = r.move(up.by); !ok {
		return
	}
	if up.by < 0 {
		x.Dir = "downup"
	}
	cells := up.cells() + down.cells()
	for k, turn := range []string{"", "twice"} {
		x := x
		x.Turn = turn
		last := up.to - (2-k)*up.length
		rung, based := r.base(last, last+up.length, up.by)
		back, ok := f.from(r, down.from, down.from+down.length, rung, up.by)
		if !ok || !based || back[0].Rest {
			continue
		}
		f.laterSlurs(back, down)
		if written(r.kind, bare(cell)) == written(r.kind, bare(back)) {
			f.laterSlurs(cell, stretch{from: 0, to: down.to, length: up.length, by: 0})
			x.Cell = written(r.kind, cell)
		} else {
			if !near(back, max(up.length, down.length)) || down.cells() < 2 {
				continue
			}
			// A run that begins downward plays the cell of the way down first.
			if x.DownCell = written(r.kind, back); up.by < 0 {
				x.Cell, x.DownCell = x.DownCell, x.Cell
			}
		}
		f.tryAll(x, 0, down.to, cells, base, f.tail(r, 0, down.to, down.length, down.by))
	}
}

// bare is a cell without its slurs.
func bare(cell []phrase.Step) []phrase.Step {
	out := slices.Clone(cell)
	for i := range out {
		out[i].Slur = ""
	}
	return out
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

// mirrors looks for cells that are answered by their mirror, from the beginning: halves of equal steps with equal
// marks, a slide among them, as a mirror begins where the slides have led the hand. Where the answer lies is not
// compared: the recipe is grown.
func (f *finder) mirrors(ctx context.Context, c candidate, r reading) {
	n := len(f.items)
	for length := 2; length <= min(maxCell, n/2) && ctx.Err() == nil; length++ {
		cell, base, ok := f.statement(r, stretch{from: 0, to: length, length: length, by: 0})
		if !ok || !f.answered(length) {
			continue
		}
		cells, by := n/(2*length), 1
		if cells > 1 {
			if d, _, ok := f.apart(r.apart, 0, 2*length); ok {
				by = d
			}
		}
		x := f.recipe(c)
		x.Mirror, x.Cell = true, written(r.kind, cell)
		x.Move, _ = r.move(by)
		if by < 0 {
			x.Dir = "down"
		}
		f.tryAll(x, 0, cells*2*length, cells, base, noTail)
	}
}

// answered says whether the line's first steps may be followed by their mirror.
func (f *finder) answered(length int) bool {
	slid := false
	for i := range length {
		a, b := f.items[i], f.items[length+i]
		if !a.like(b) {
			return false
		}
		if len(a.notes) == 0 || i == 0 {
			continue
		}
		x, y := marks(a), marks(b)
		if x.Slur != y.Slur || x.Stroke != y.Stroke || x.Accent != y.Accent {
			return false
		}
		slid = slid || x.Slur == lick.Slide || x.Slur == lick.Shift
	}
	return slid
}

// longCell is how many steps a cell may have that is played once: more are a line.
const longCell = 12

// itself tries the whole line as one statement of a cell, on a layout of the hand's size. Any short line is one, so
// this is asked only where nothing is played twice; on a layout that runs along the neck it would say no more than the
// line does.
func (f *finder) itself(c candidate) {
	n := len(f.items)
	if n > longCell || n < 3 {
		return
	}
	if layout, err := shape.ParseLayout(c.layout); c.layout != "" && err == nil && shape.Long(layout) {
		return
	}
	r := f.onSteps(c)
	cell, base, ok := f.statement(r, stretch{from: 0, to: n, length: n, by: 0})
	if !ok {
		return
	}
	x := f.recipe(c)
	x.Cell, x.Move = written(r.kind, cell), "stay"
	f.tryAll(x, 0, n, 1, base, noTail)
}
