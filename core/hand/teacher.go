package hand

import (
	"context"
	"slices"

	"ornamen/core/load"
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

// teacher picks the path of least effort with no load above the limit that slack gives: without
// strain where there is such a path within slack of the bound, and with one fingering for every
// figure. With no slack the bound itself is asked for, whatever it takes.
func (c *chain) teacher(ctx context.Context, bound, slack float64, figures bool) []int {
	near := load.Limit(bound, slack)
	limit := near
	switch {
	case slack > 1 && figures && c.goesAlong():
		limit = bound * slack * alongSlack
	case slack > 1:
		limit = load.Limit(bound, slack*FigureSlack)
	}
	if easy, ok := c.unstrained(); ok {
		picks, found := easy.best(ctx, limit, nil)
		if found && (easy.heaviest(picks) <= near || easy.bound(ctx) <= near*(1+slight)) {
			return easy.settled(ctx, picks, limit, figures)
		}
	}
	picks, _ := c.best(ctx, limit, nil)
	return c.settled(ctx, picks, limit, figures)
}

// settled repeats the search with penalties from the path before: on the fingers that leap over a string, and on those
// that are not its places' usual ones. A path that avoids what another one did may do the same elsewhere, so that of
// all that were seen the one is taken that costs least when its own leaps and departures are counted.
func (c *chain) settled(ctx context.Context, picks []int, limit float64, figures bool) []int {
	if !figures {
		return picks
	}
	far := c.leapPenalties(picks)
	if far != nil {
		if next, found := c.best(ctx, limit, far); found {
			picks, far = next, c.leapPenalties(next)
		}
	}
	best, least := picks, never
	for range maxRounds {
		if ctx.Err() != nil {
			break
		}
		penalties := c.departures(c.usual(picks), far)
		if t := c.effortOf(picks) + penaltyOf(penalties, picks); t < least*(1-slight) {
			best, least = picks, t
		}
		next, found := c.best(ctx, limit, penalties)
		if !found || slices.Equal(next, picks) {
			break
		}
		picks, far = next, c.leapPenalties(next)
	}
	return best
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
	easy := *c
	easy.known = 0
	easy.nodes = slices.Clone(c.nodes)
	for k := range easy.nodes {
		n := &easy.nodes[k]
		kept := make([]int, 0, len(n.allowed))
		for _, j := range n.allowed {
			if !c.m.stances[n.stand[j].stance].strained() {
				kept = append(kept, j)
			}
		}
		if len(kept) == 0 {
			return nil, false
		}
		n.allowed = kept
	}
	return &easy, true
}
