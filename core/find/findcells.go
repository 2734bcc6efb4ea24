package find

import (
	"context"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/phrase"
	"ornamen/core/run"
)

// maxCell is the longest cell that is looked for, in steps.
const maxCell = 48

// tonesOn looks for cells over the steps of a ladder.
func (f *finder) tonesOn(ctx context.Context, c candidate) {
	at := make([]int, len(f.items)) // ladder step of each item, −1 none
	for i, it := range f.items {
		at[i] = -1
		if len(it.notes) == 0 {
			continue
		}
		if k, ok := c.step[it.notes[0].Place()]; ok {
			at[i] = k
		}
		if len(it.notes) > 1 && (at[i] < 0 || len(c.Steps[at[i]]) != len(it.notes)) {
			if _, all := f.group(c, it); !all {
				at[i] = -1
			}
		}
	}
	moves := func(i, k int) (int, bool) { // how far item k lies from item i
		a, b := f.items[i], f.items[k]
		if !a.like(b) {
			return 0, false
		}
		if len(a.notes) == 0 {
			return 0, true
		}
		return at[k] - at[i], at[i] >= 0 && at[k] >= 0
	}
	f.periods(ctx, moves, f.silent, func(from, to, length, by int) {
		f.tonesTry(c, at, from, to, length, by)
	})
	f.turns(ctx, c, at)
	f.downCells(ctx, c, at)
	f.mirrors(ctx, c, at)
}

// group reads notes that sound together as steps of the ladder.
func (f *finder) group(c candidate, it item) ([]int, bool) {
	var out []int
	for _, n := range it.notes {
		k, ok := c.step[n.Place()]
		if !ok {
			return nil, false
		}
		out = append(out, k)
	}
	return out, true
}

// periods finds, for every length of cell, the longest stretch in which the cell
// moves evenly, and calls try for it. moves says how far one item lies
// from another of its kind, and free which pairs agree with any distance.
//
// A line made of one cell of length p that moves by d is periodic: item i+p lies d beyond
// item i, for every i. So for each length the items are walked once and the distance from i
// to i+p is compared with the one before. While it stays the same the stretch grows; where it
// changes, or where a note stands against a rest, the stretch is closed and another begins at
// this item. A stretch counts from two cells on; the longest of each length is tried, the
// first of equals. Rests and holds agree with any distance, as they lie nowhere.
//
// Cost: n²/2 comparisons for n items. Worked example: 1 2 3 2 3 4 3 4 5 with length 3 has the
// distances 1 1 1 1 1 1, one stretch of nine items, moved by one; with length 2 they are
// 2 0 0 2 0 0 2, and the longest stretch is 2 3 2 3, a cell that stays where it is.
func (f *finder) periods(ctx context.Context, moves func(i, k int) (int, bool), free func(i, k int) bool,
	try func(from, to, length, by int),
) {
	n := len(f.items)
	for length := 1; length <= min(maxCell, n/2) && ctx.Err() == nil; length++ {
		from, by, known := -1, 0, false
		bestFrom, bestTo, bestBy := 0, 0, 0
		flush := func(end int) {
			if from >= 0 && end-from >= 2*length && end-from > bestTo-bestFrom {
				bestFrom, bestTo, bestBy = from, end, by
			}
			from, known = -1, false
		}
		for i := 0; i+length < n; i++ {
			d, ok := moves(i, i+length)
			silent := free(i, i+length)
			switch {
			case !ok:
				flush(i + length)
			case !silent && known && d != by:
				// A new stretch may begin inside the last one.
				flush(i + length)
				from, by, known = i, d, true
			default:
				if from < 0 {
					from = i
				}
				if !silent && !known {
					by, known = d, true
				}
			}
		}
		flush(n)
		if bestTo > bestFrom {
			try(bestFrom, bestTo, length, bestBy)
		}
	}
}

// silent says that an item lies nowhere, as a rest or a hold does.
func (f *finder) silent(i, _ int) bool { return len(f.items[i].notes) == 0 }

// cellOf writes items as a tones cell whose tone 1 is step base.
func (f *finder) cellOf(c candidate, at []int, from, to, base int) ([]phrase.Step, bool) {
	var cell []phrase.Step
	for i := from; i < to; i++ {
		it := f.items[i]
		switch {
		case it.rest:
			cell = append(cell, phrase.Step{Rest: true})
		case it.hold:
			if len(cell) == 0 {
				return nil, false
			}
			cell = append(cell, phrase.Step{Hold: true})
		default:
			if at[i] < 0 {
				return nil, false
			}
			s := f.marks(it)
			s.Tones = []phrase.Tone{{N: at[i] - base + 1}}
			if len(it.notes) > 1 && len(c.Steps[at[i]]) != len(it.notes) {
				group, ok := f.group(c, it)
				if !ok {
					return nil, false
				}
				s.Tones = nil
				for _, k := range group {
					s.Tones = append(s.Tones, phrase.Tone{N: k - base + 1})
				}
			}
			cell = append(cell, s)
		}
	}
	return cell, true
}

// marks are what the cell says of a step beside its tone: slur, accent, a stroke that the
// player has set, a bend of up to a full step, vibrato, a slide into it. What the notation of
// cells has no word for is left out here, and the line is then not given back by this try.
func (f *finder) marks(it item) phrase.Step {
	n := it.notes[0]
	s := phrase.Step{Slur: n.Slur, Accent: n.Accent}
	if n.Locked(lick.FieldStroke) && (n.Stroke == lick.Down || n.Stroke == lick.Up) {
		s.Stroke = n.Stroke
	}
	if n.Bend != nil && (n.Bend.Semitones <= 2 && n.Bend.Semitones != 4) {
		s.Bend = &phrase.Bend{Semitones: n.Bend.Semitones, Release: n.Bend.Release()}
	}
	if n.Vibrato != nil {
		s.Vibrato = 1
		if n.Vibrato.Width == lick.Wide {
			s.Vibrato = 2
		}
	}
	if n.SlideIn != nil {
		s.In = n.SlideIn.From
	}
	return s
}

// addMarks takes the marks of later cells too: a slur that the first cell has no
// string for. Where the first cell changes the string a pull-off cannot sound, and the player
// picks there; a later cell that stays on one string shows that the figure is slurred.
func (f *finder) addMarks(cell []phrase.Step, from, to int) {
	for i := from; i < to; i++ {
		s := &cell[(i-from)%len(cell)]
		if len(f.items[i].notes) > 0 && s.Slur == "" && len(s.Tones) > 0 {
			s.Slur = f.items[i].notes[0].Slur
		}
	}
}

// base is the recipe of a candidate.
func (f *finder) base(c candidate) run.Recipe {
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

// tonesTry writes one stretch as a recipe. What is left over at its end becomes
// the tail, and a last note the landing.
//
// Tone 1 of the cell is the lowest step that its first statement touches: this is how players
// count, and how a run finds where its layout ends. A stretch that stays where it is is a cell
// repeated, one that moves down a run that descends, and a move of one tone need not be said.
func (f *finder) tonesTry(c candidate, at []int, from, to, length, by int) {
	base := f.lowest(at, from, from+length)
	cell, ok := f.cellOf(c, at, from, from+length, base)
	if !ok || len(cell) == 0 || cell[0].Rest {
		return
	}
	f.addMarks(cell, from, to)
	cells := (to - from) / length
	r := f.base(c)
	f.moved(&r, cell, by, cells)
	f.addTries(c, r, from, to, cells, length, base, func(i int) ([]phrase.Step, bool) {
		return f.cellOf(c, at, from+cells*length, i, base+by*(cells-1))
	})
}

// addTries adds a recipe with and without a start, a number of cells and what
// follows the last whole cell.
//
// Each is tried in its shortest words first: a run that goes as far as its layout does needs
// no number, one that begins at the layout's lowest tone no start. Which of them gives the
// line back is not computed here; they are grown and compared (verify), and of those that
// agree the shortest is taken. At most a dozen tries come of one stretch.
func (f *finder) addTries(c candidate, r run.Recipe, from, to, cells, length, start int,
	tail func(to int) ([]phrase.Step, bool)) {
	end := from + cells*length
	if r.Move != "stay" {
		bare := r
		f.add(bare, from, end)
		r.Times = cells
	}
	f.add(r, from, end)
	begun := r
	begun.Start = start + 1
	f.add(begun, from, end)
	for _, x := range []run.Recipe{r, begun} {
		f.addLanding(x, from, end, end)
		if end < len(f.items) {
			if t, ok := tail(len(f.items)); ok && shortTail(len(t), length, cells) {
				x.Tail = phrase.Phrase{Kind: phraseKind(x.Cell), Cells: [][]phrase.Step{t}}.String()
				f.add(x, from, len(f.items))
			}
			if t, ok := tail(len(f.items) - 1); ok && shortTail(len(t), length, cells) {
				x.Tail = phrase.Phrase{Kind: phraseKind(x.Cell), Cells: [][]phrase.Step{t}}.String()
				f.addLanding(x, from, len(f.items)-1, len(f.items)-1)
			}
		}
	}
}

// shortTail says whether what is left over is a tail, and not another line: no longer than a
// cell (or four steps), and than half of what the cells cover.
func shortTail(steps, length, cells int) bool {
	return steps > 0 && steps <= max(length, 4) && 2*steps <= length*cells
}

// phraseKind is what the steps of a written cell name.
func phraseKind(cell string) phrase.Kind {
	p, err := phrase.ParsePhrase(cell)
	if err != nil {
		return phrase.Tones
	}
	return p.Kind
}

// addLanding adds the recipe with the line's last note as its landing.
func (f *finder) addLanding(r run.Recipe, from, end, at int) {
	if at != len(f.items)-1 || len(f.items[at].notes) != 1 {
		return
	}
	pitch := f.line.Pitch(f.items[at].first)
	r.Land = f.palette.At(pitch).Degree.String()
	if !f.line.Pickup.IsZero() {
		pos := f.line.Position(f.items[at].notes[0].At)
		r.Land += fmt.Sprintf("@%d", pos.Beat)
	}
	f.add(r, from, at+1)
}

// add keeps a try once, with how many notes it may cover.
func (f *finder) add(r run.Recipe, from, to int) {
	notes := 0
	for _, it := range f.items[from:to] {
		notes += len(it.notes)
	}
	text := r.String()
	if key := fmt.Sprint(from, to, text); !f.seen[key] {
		f.seen[key] = true
		f.tries = append(f.tries, try{r, from, to, notes, text})
	}
}

// mirrors looks for cells that are answered by their mirror, from the beginning: halves of equal
// steps with equal marks, a slide among them, as a mirror begins where the slides have led the hand.
// Where the answer lies is not compared: the recipe is grown.
func (f *finder) mirrors(ctx context.Context, c candidate, at []int) {
	n := len(f.items)
	for length := 2; length <= min(maxCell, n/2) && ctx.Err() == nil; length++ {
		if !f.answered(length) {
			continue
		}
		base := f.lowest(at, 0, length)
		cell, ok := f.cellOf(c, at, 0, length, base)
		if !ok || cell[0].Rest {
			continue
		}
		cells, by := n/(2*length), 1
		if cells > 1 && at[0] >= 0 && at[2*length] >= 0 {
			by = at[2*length] - at[0]
		}
		r := f.base(c)
		r.Mirror = true
		f.moved(&r, cell, by, cells)
		r.Times = 0
		for _, r.Start = range []int{0, base + 1} {
			f.add(r, 0, cells*2*length)
			whole := r
			whole.Times = cells
			f.add(whole, 0, cells*2*length)
		}
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
		x, y := f.marks(a), f.marks(b)
		if x.Slur != y.Slur || x.Stroke != y.Stroke || x.Accent != y.Accent {
			return false
		}
		slid = slid || x.Slur == lick.Slide || x.Slur == lick.Shift
	}
	return slid
}

// moved writes into a recipe its cell, and how far each statement lies from the one before. A move of
// one tone need not be said.
func (f *finder) moved(r *run.Recipe, cell []phrase.Step, by, cells int) {
	r.Cell = phrase.Phrase{Kind: phrase.Tones, Cells: [][]phrase.Step{cell}}.String()
	switch {
	case by == 0:
		r.Move, r.Times = "stay", cells
		return
	case by < 0:
		r.Dir = "down"
	}
	if by != 1 && by != -1 {
		r.Move = strconv.Itoa(max(by, -by))
	}
}
