package propose

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"math"
	"slices"

	"ornamen/core/hand"
	"ornamen/core/judge"
	"ornamen/core/layers"
	"ornamen/core/lick"
	"ornamen/core/load"
	"ornamen/core/neck"
	"ornamen/core/pick"
)

// joint searches places, fretting hand and strokes at once: a layer a column, an option for each row of places its
// notes may take, a cell for each option with what the pick did last, and in it the least cost to the end for every
// posture of the hand. The two hands meet only through the places, so that each hand's tables serve as they are.
//
// Invariant: the cost of a cell and a posture is the least over all ways to finish the line from there, with no load
// above the limit and no more breaches of the way than are left (the principle of optimality; Bellman 1957, from
// memory). So the least cost of the first layer is exact for the whole line, which the tests check against every row of
// places tried one by one.
//
// Cost: layers · cells² · postures² moves at most; a pair of options whose quick bound (hand.Model.LeastLoad) lies
// above the limit is never weighed. A loop is searched once for every state it may begin in, best promise first, until
// no other start can be better.
type joint struct {
	hand   *hand.Model
	pick   pick.Hand
	way    pick.Way
	line   *judge.Line
	layers []layer
	memos  []pick.Choice
	memoAt map[string]int
	angle  pick.Angle
	within int      // breaches of the way that are allowed
	clean  pick.Way // the way whose unclean changes are counted, or empty
	work   int      // moves that were weighed
	found  float64  // the cost of the places found last
}

// maxWork is how many moves a search over free places may weigh: some seconds. A loop is searched once for every state
// it may begin in, so that a long one with all its places free would take minutes.
const maxWork = 1000e6

// measuring is how many moves it is worth to measure one that is not kept. A long line
// of notes far apart has more moves than are kept, and measures them again and again.
const measuring = 5

// ErrTooFree says that a search over free places was given up.
var ErrTooFree = errors.New(
	"with so many places free this line takes too long to search; set some of its strings, select fewer notes, or " +
		"take the loop off",
)

// stopped says whether the search is given up: its answers mean nothing then.
func (j *joint) stopped(ctx context.Context) bool { return j.given(ctx) != nil }

// layerTimes is the time in ms that each hand has to come to a layer.
type layerTimes struct{ have, pickHave float64 }

// layer is one column of the line with every way to place it.
type layer struct {
	layerTimes
	begins  bool  // an upstroke costs more: the line starts there on a beat
	notes   []int // held ones first
	held    int
	options []option // the one at the given places first, if it is one
	cells   []cell
	at      []int // where each cell's states begin, and the number of all
}

// option is one row of places that a column may take, with the hand's grips there and the strokes that can sound it.
type option struct {
	places  []neck.Place // one a note of the layer
	grip    *hand.Grip
	choices []int // memos, when something is picked
}

// cell is a state of the pick at an option: what it did last (memo), which decides what
// the next stroke costs, and how often it has left its way so far.
type cell struct{ option, memo, breaches int }

// noMemo is the pick before its first stroke.
const noMemo = -1

// widestSpan is how many frets any frame spans at most.
const widestSpan = 7

// newJoint lays out the columns with every place that is free.
func (e question) newJoint(ctx context.Context, l lick.Lick, m *hand.Model, way pick.Way) *joint {
	j := &joint{hand: m, pick: e.Player.Pick, way: way, line: e.LayOut(l, false), memoAt: map[string]int{}}
	free := j.freePlaces()
	var before []int
	for c, col := range j.line.Columns {
		y := layer{}
		for _, i := range before {
			if j.line.Start(c).Before(l.Notes[i].End()) {
				y.notes = append(y.notes, i)
			}
		}
		y.held = len(y.notes)
		for i := col[0]; i < col[1]; i++ {
			y.notes = append(y.notes, i)
		}
		before = y.notes
		y.have = j.line.Hand[c].Have
		if p := slices.Index(j.line.Picked, c); p >= 0 {
			y.pickHave, y.begins = j.line.Pick[p].Have, j.line.Pick[p].Begins
		}
		if ctx.Err() == nil {
			j.addOptions(&y, free, make([]neck.Place, 0, len(y.notes)))
		}
		j.layers = append(j.layers, y)
	}
	j.rotate()
	return j
}

// rotate lets a loop begin at a picked column, so that every state knows what the pick did last. Notes keep their own
// numbers, so that places need no turning back.
func (j *joint) rotate() {
	if !j.line.Written.Loop || len(j.line.Picked) == 0 {
		return
	}
	at := j.line.Picked[0]
	j.layers = slices.Concat(j.layers[at:], j.layers[:at])
}

// memo numbers what the pick may have done last.
func (j *joint) memo(c pick.Choice) int {
	key := fmt.Sprint(c)
	k, ok := j.memoAt[key]
	if !ok {
		k = len(j.memos)
		j.memoAt[key], j.memos = k, append(j.memos, c)
	}
	return k
}

// follows says whether option b of layer y can come after option a of layer x:
// held notes stay, slurs keep their string.
func (j *joint) follows(x *layer, a int, y *layer, b int) bool {
	for k, i := range y.notes {
		p := y.options[b].places[k]
		from := -1
		if k < y.held {
			from = i
		} else if s := j.line.SlurOf[i]; s.Code == "" {
			from = s.From
		}
		if from < 0 {
			continue
		}
		at := slices.Index(x.notes, from)
		if at < 0 {
			continue // both stand where they were given
		}
		q := x.options[a].places[at]
		if k < y.held && p != q || p.String != q.String {
			return false
		}
		slur := j.line.Written.Notes[i].Slur
		if k >= y.held && (slur == lick.Slide || slur == lick.Shift) && (p.Fret == 0 || q.Fret == 0) {
			return false
		}
	}
	return true
}

// addCells lists, layer by layer, the states that can be reached: an option of places and
// fingers, what the pick remembers of its last stroke, how many of the breaches that are allowed
// are spent. A state is listed once, however many ways lead to it.
func (j *joint) addCells(ctx context.Context) {
	for l := range j.layers {
		y := &j.layers[l]
		y.cells = nil
		if j.stopped(ctx) {
			continue
		}
		seen := map[cell]bool{}
		add := func(c cell) {
			if c.breaches <= j.within && !seen[c] {
				seen[c] = true
				y.cells = append(y.cells, c)
			}
		}
		for o := range y.options {
			if l == 0 {
				for _, m := range y.options[o].next(noMemo) {
					add(cell{o, m, 0})
				}
				continue
			}
			x := &j.layers[l-1]
			ok := make([]bool, len(x.options))
			for a := range x.options {
				ok[a] = j.follows(x, a, y, o)
			}
			for _, c := range x.cells {
				if !ok[c.option] {
					continue
				}
				for _, m := range y.options[o].next(c.memo) {
					add(cell{o, m, c.breaches + j.breach(c.memo, m, y)})
				}
			}
		}
	}
}

// picked says whether the pick does anything in the layer.
func (y *layer) picked() bool {
	return y.pickHave > 0 || len(y.options) > 0 && len(y.options[0].choices) > 0
}

// next lists the memos after an option: one for each choice, or what it was.
func (o *option) next(memo int) []int {
	if len(o.choices) > 0 {
		return o.choices
	}
	return []int{memo}
}

// breach is what a step inside the line counts that leaves the way.
func (j *joint) breach(from, to int, y *layer) int {
	if y.picked() && !y.begins && j.leaves(from, to) {
		return pick.InnerBreach
	}
	return 0
}

// leaves says whether a step between two memos leaves the way.
func (j *joint) leaves(from, to int) bool {
	return from != noMemo && j.way.Breach(j.memos[from], j.memos[to])
}

// pickLoad is the load of the step from a cell to one of layer y.
func (j *joint) pickLoad(from, to cell, y *layer, have float64) float64 {
	if !y.picked() || from.memo == noMemo {
		return 0
	}
	return j.pick.Load(j.memos[from.memo], j.memos[to.memo], have, y.begins && y != &j.layers[0], j.angle)
}

// pickMS is the effort in ms of a stroke with a load.
func (j *joint) pickMS(load, have float64) float64 {
	return load * have * cmp.Or(j.pick.Speed, 1)
}

// beside is what the step to a cell costs beside its effort, in a search for the least.
func (j *joint) beside(k layers.Cost, c, d cell, y *layer) float64 {
	if !k.Sum {
		return 0
	}
	return j.penalty(c, d, y.picked()) + j.begun(y, d)
}

// begun is what the places and the first stroke of a cell cost.
func (j *joint) begun(y *layer, d cell) float64 {
	cost := j.moved(y, d.option)
	if !y.begins || d.memo == noMemo {
		return cost
	}
	up := pick.Begin(j.memos[d.memo])
	if up > 0 && j.clean != "" {
		up = startFirst
	}
	return cost + up
}

// movedNote is what a note away from its written place costs, in effort: as much as a
// shift of the hand (model default).
const movedNote = 4.0

// A restringing moves the fewest notes before anything else counts, and then begins with a downstroke on a beat.
const (
	startFirst = 1e4
	movedFirst = 1e6
)

// steps says whether cell c can come before cell d of a layer.
func (j *joint) steps(c, d cell, y *layer) bool {
	if !y.picked() {
		return c.memo == d.memo && c.breaches == d.breaches
	}
	return c.breaches+j.breach(c.memo, d.memo, y) == d.breaches
}

// relax lowers the costs of layer x by the ways on to layer y. The hand's moves
// are weighed once for each option of x and cell of y, then every stroke before.
//
// out[i][h] is the cost to go from cell i of x in posture h, and afterwards holds min over the cells d of y of
// Join(pick load of c→d, hand load of h→·, rest[d]). Join is the larger of the loads when a bound is sought and the sum
// when effort is: both only grow along the way, which is what makes a least way of least ways (Bellman's principle). A
// pair of options that no load under the bound joins is left out before its postures are looked at.
func (j *joint) relax(stopped func() bool, k layers.Cost, x, y *layer, t layerTimes,
	rest, out [][]float64, steps func(c, d cell) bool,
) {
	way := map[[2]int]bool{}
	for b, d := range y.cells {
		if stopped() {
			return
		}
		if !finite(rest[b]) {
			continue
		}
		to := y.options[d.option].grip
		for a := range x.options {
			key := [2]int{a, d.option}
			ok, known := way[key]
			from := x.options[a].grip
			if !known {
				ok = k.Join(j.hand.LeastLoad(from, to, t.have), 0, 0) < math.Inf(1) && j.follows(x, a, y, d.option)
				way[key] = ok
			}
			if !ok {
				continue
			}
			var r []float64
			for i, c := range x.cells {
				if c.option != a || !steps(c, d) {
					continue
				}
				p := j.pickLoad(c, d, y, t.pickHave)
				if math.IsInf(k.Join(p, 0, 0), 1) {
					continue
				}
				if r == nil {
					r = infinite(j.hand.Size(from))
					weight := 1
					if j.hand.Relax(k, from, to, t.have, rest[b], r) {
						weight = measuring
					}
					j.work += weight * j.hand.Size(from) * j.hand.Size(to)
				}
				extra := j.beside(k, c, d, y)
				strokes := load.Effort(j.pickMS(p, t.pickHave)) + extra
				for h, cost := range r {
					if cost < out[i][h] {
						out[i][h] = min(out[i][h], k.Join(p, strokes, cost))
					}
				}
			}
		}
	}
}
