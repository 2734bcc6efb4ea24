package hand

import (
	"context"
	"slices"
)

// heaviest is the largest load of a path.
func (c *chain) heaviest(picks []int) float64 {
	worst := c.opens
	if c.leadIn > 0 {
		s := &c.m.stances[c.nodes[0].stand[picks[0]].stance]
		worst = max(worst, (c.m.scale(c.leadIn)+c.m.scale(s.standing))/c.leadBy)
	}
	for a := range c.links {
		worst = max(worst, c.links[a].weighed().load(picks[a], picks[a+1]))
	}
	if c.close != nil {
		worst = max(worst, c.close.weighed().load(picks[len(picks)-1], picks[0]))
	}
	return worst
}

// maxRounds bounds how often the usual fingers are looked for.
const maxRounds = 6

// How much more than slack a path may load the hand (model defaults): a figure keeps its hand, and a line its fingers
// straight or swung, where single moves could be made sooner otherwise. A line that goes along one string for a while
// shifts by positions, even where a hand that creeps from fret to fret would still be in time.
const (
	FigureSlack = 1.5
	alongSlack  = 2.2
)

// taught picks the path of least effort within the limit that near gives: without strain where there is such a path
// within near, with one fingering for every figure and one for the cells of each shape. The limit is never cut at what
// the tempo allows.
func (c *chain) taught(ctx context.Context, near float64) []int {
	limit := near * FigureSlack
	if c.goesAlong() {
		limit = near * alongSlack
	}
	return c.least(ctx, near, limit, true)
}

// prepare tells the cells' moves from others, and what each cell would have for fingers by itself.
func (c *chain) prepare(ctx context.Context) {
	alone := map[int][]int8{}
	for _, x := range c.cells() {
		for k := x.from; k+1 < x.to; k++ {
			c.links[k].inCell = true
		}
		f, known := alone[x.shape]
		if !known {
			if f = nil; x.grip {
				f = c.asGrip(ctx, x)
			} else {
				f = c.alone(ctx, x)
			}
			alone[x.shape] = f
		}
		if f == nil {
			continue
		}
		if c.solo == nil {
			c.solo = make([][]int8, len(c.nodes))
		}
		for i := range f {
			c.solo[x.from+i] = f[i : i+1]
		}
	}
}

// least is the path of least effort within a limit, figures and, if asked, tied cells counted.
func (c *chain) least(ctx context.Context, near, limit float64, ties bool) []int {
	x, picks := c.byMoves(ctx, near, limit)
	picks, _ = x.settle(ctx, picks, limit)
	if ties {
		return x.tied(ctx, picks, limit)
	}
	return picks
}

// byMoves is the path of least effort within a limit by its moves alone, and the chain it is found in: one without
// strain where that has a path within near.
func (c *chain) byMoves(ctx context.Context, near, limit float64) (*chain, []int) {
	if easy, ok := c.unstrained(); ok {
		picks, found := easy.best(ctx, limit, nil)
		if found && (easy.heaviest(picks) <= near || easy.bound(ctx) <= near*(1+slight)) {
			return easy, picks
		}
	}
	picks, _ := c.best(ctx, limit, nil)
	return c, picks
}

// fingersBound is the least possible largest load of a path's fingers, whatever the frames.
func (c *chain) fingersBound(ctx context.Context, picks []int) float64 {
	h := c.copied()
	for k := range h.nodes {
		n := &h.nodes[k]
		n.keep(func(p posture) bool { return p.fingers == n.stand[picks[k]].fingers })
	}
	return h.bound(ctx)
}

// settle repeats the search with penalties from the path before: on the fingers that leap over a string, and on those
// that are not its places' usual ones. A path that avoids what another one did may do the same elsewhere, so that of
// all that were seen the one is taken that costs least when its own leaps and departures are counted; sum is that cost.
func (c *chain) settle(ctx context.Context, picks []int, limit float64) (best []int, sum float64) {
	far := c.leapPenalties(picks)
	if far != nil {
		if next, found := c.best(ctx, limit, far); found {
			picks, far = next, c.leapPenalties(next)
		}
	}
	best, sum = picks, never
	for range maxRounds {
		if ctx.Err() != nil {
			break
		}
		penalties := c.departures(c.usual(picks), far)
		if t := c.effortOf(picks) + penaltyOf(penalties, picks); t < sum*(1-slight) {
			best, sum = picks, t
		}
		next, found := c.best(ctx, limit, penalties)
		if !found || slices.Equal(next, picks) {
			break
		}
		picks, far = next, c.leapPenalties(next)
	}
	return best, sum
}

// slight is the rounding that two equal sums may differ by.
const slight = 1e-9

// penaltyOf is what a path pays of a table.
func penaltyOf(penalties [][]float64, picks []int) (sum float64) {
	for k := range penalties {
		sum += penalties[k][picks[k]]
	}
	return sum
}

// unstrained is the chain with its unstrained postures alone; ok is false where an event has none.
func (c *chain) unstrained() (*chain, bool) {
	easy := c.copied()
	for k := range easy.nodes {
		if !easy.nodes[k].keep(func(p posture) bool { return !c.m.stances[p.stance].strained() }) {
			return nil, false
		}
	}
	return easy, true
}
