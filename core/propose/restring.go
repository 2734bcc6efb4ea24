package propose

import (
	"cmp"
	"context"
	"errors"
	"math"
	"slices"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/load"
	"ornamen/core/neck"
	"ornamen/core/pick"
	"ornamen/core/say"
)

// Restrung is a line on other strings beside the original, both with hands. After is Before where no neighbouring
// strings make it cleaner; the two counts are the same then.
type Restrung struct {
	Before, After Proposal
	Others        []Proposal // on other strings again, as clean as After
	Clean         [2]int     // changes that do not come out clean, before and after
}

// How far a note may move when a line is restrung: to the neighbouring string, and
// so many frets along (model default). What gets this much harder is not taken.
const (
	restringFrets = 6
	restringCost  = 1.1
)

// Restring plays the same pitches with some of them on the neighbouring string, so that a way of picking comes out
// clean: for economy every change sweeps, for alternate every change leaves the strings on the same stroke. The fewest
// changes that do not come first, then the least sum of load⁴.
func Restring(ctx context.Context, e *judge.Engine, l lick.Lick, way pick.Way) (Restrung, error) {
	t := question{e}
	out, err := t.restrung(ctx, l, way)
	if stopped := judge.Done(ctx); stopped != nil {
		return Restrung{}, stopped
	}
	return out, err
}

// longestRestrung is how many notes a line may have for other restrings to be looked for (model default).
const longestRestrung = 32

// restrung is Restring, without a look at the context. Of the places near the written ones it looks first for the
// fewest changes that are not clean for the way of picking, then for the fewest notes moved, then for the least load,
// which may not lie above what the line asks as written by more than restringCost.
func (e question) restrung(ctx context.Context, l lick.Lick, way pick.Way) (Restrung, error) {
	var out Restrung
	if len(l.Notes) < 2 {
		return out, errors.New("a line needs two notes to be restrung")
	}
	if len(l.Notes) > MaxFreePlaces {
		return out, errors.New("the line is too long to be restrung")
	}
	p := e.newProposer(ctx, l, Request{Way: way})
	before := p.FillWithin(ctx, p.base, p.hand, way, load.Slack)
	p.written, p.bound = p.base, before.Bound
	p.add(ctx, recommended, say.AsWritten(), before.Lick, before.Bound, say.AsWritten(), way)
	out.Before = p.out[0]
	out.Clean[0] = e.unclean(before.Lick, way)
	limit := math.Inf(1)
	if !math.IsInf(before.Bound, 1) {
		limit = max(before.Bound*restringCost, load.Tight)
	}
	j := e.newJoint(ctx, p.base, p.hand, way)
	j.near()
	j.clean = way
	j.within = before.Breaches
	places, ok := j.easiest(ctx, p, limit)
	if j.work > maxWork {
		return out, ErrTooFree
	}
	if !ok {
		out.After, out.Clean[1] = out.Before, out.Clean[0]
		return out, nil
	}
	after := p.FillWithin(ctx, atPlaces(p.base, places), p.hand, way, load.Slack)
	out.Clean[1] = e.unclean(after.Lick, way)
	if out.Clean[1] >= out.Clean[0] {
		out.After, out.Clean[1] = out.Before, out.Clean[0]
		return out, nil
	}
	q := e.newProposer(ctx, l, Request{Way: way})
	q.written = p.base
	add := func(f judge.Filled) {
		words := movedWords(p.base, f.Lick)
		q.add(ctx, restrung, words, f.Lick, f.Bound, words, way)
	}
	add(after)
	if len(l.Notes) <= longestRestrung {
		for _, f := range e.otherStrings(ctx, p, places, limit, before.Breaches) {
			if e.unclean(f.Lick, way) <= out.Clean[1] && moved(p.base, f.Lick) <= moved(p.base, after.Lick)+1 {
				add(f)
			}
		}
	}
	// Of those that move as few notes and are as fast, the one that keeps the beginning as it was written the longest.
	first := q.out[0]
	slices.SortStableFunc(q.out, func(a, b Proposal) int {
		return cmp.Compare(keptFrom(p.base, b, first), keptFrom(p.base, a, first))
	})
	out.After, out.Others = q.out[0], q.out[1:min(len(q.out), 1+otherRestrings)]
	return out, nil
}

// keptFrom is how many notes of the beginning stay where they were, of a restringing that
// is as good as the best one; 0 for others.
func keptFrom(base lick.Lick, p, best Proposal) int {
	if moved(base, p.Lick) > moved(base, best.Lick) || p.Ceiling < best.Ceiling*(1-1e-9) {
		return 0
	}
	n := 0
	for n < len(base.Notes) && p.Lick.Notes[n].Place() == base.Notes[n].Place() {
		n++
	}
	return n
}

// otherRestrings is how many more ways to restring a line stand beside the best.
const otherRestrings = 2

// otherStrings restrings a line again and again, each time without one of the moves that the best restringing makes.
func (e question) otherStrings(ctx context.Context, p *proposer, best []neck.Place, limit float64,
	breaches int,
) (out []judge.Filled) {
	for i, at := range best {
		if at == p.base.Notes[i].Place() {
			continue
		}
		j := e.newJoint(ctx, p.base, p.hand, p.way)
		j.near()
		j.clean, j.within = p.way, breaches
		j.forbid(i, at)
		if places, ok := j.easiest(ctx, p, limit); ok {
			out = append(out, p.FillWithin(ctx, atPlaces(p.base, places), p.hand, p.way, load.Slack))
		}
	}
	return out
}

// forbid takes a place away from a note.
func (j *joint) forbid(note int, at neck.Place) {
	for l := range j.layers {
		y := &j.layers[l]
		k := slices.Index(y.notes, note)
		if k < 0 {
			continue
		}
		y.options = slices.DeleteFunc(y.options, func(o option) bool { return o.places[k] == at })
	}
}

// movedWords says which notes lie elsewhere: "Note 3 on 5:12, note 7 on 3:12.".
func movedWords(a, b lick.Lick) string {
	var out []say.Moved
	for i, n := range a.Notes {
		k := -1
		for x, m := range b.Notes {
			if m.At == n.At && b.Pitch(x) == a.Pitch(i) {
				k = x
			}
		}
		if k >= 0 && b.Notes[k].Place() != n.Place() {
			out = append(out, say.Moved{Note: i, Place: b.Notes[k].Place()})
		}
	}
	return say.Restrung(out)
}

// unclean counts the changes of a decided line that do not come out clean. An alternate line is judged by the angle
// that serves most of its changes. For economy and the others a change is clean if it sweeps; for alternate, if it
// leaves the strings on the stroke that most do.
func (e question) unclean(l lick.Lick, way pick.Way) int {
	path := e.Player.Pick.Solve(e.LayOut(l, false).Pick, l.Loop, pick.Free, 1)
	exits := map[lick.Stroke]int{}
	others := 0
	for _, s := range path.Steps {
		if s.Exit != "" {
			exits[s.Exit]++
		}
		if s.StringChange != pick.NoChange && s.StringChange != pick.Sweep {
			others++
		}
	}
	if way == pick.Alternate {
		return min(exits[lick.Down], exits[lick.Up])
	}
	return others
}

// near keeps the places close to the written ones.
func (j *joint) near() {
	for l := range j.layers {
		y := &j.layers[l]
		y.options = slices.DeleteFunc(y.options, func(o option) bool {
			for k, i := range y.notes {
				if !closeTo(o.places[k], j.line.Written.Notes[i].Place()) {
					return true
				}
			}
			return false
		})
	}
}

// closeTo says whether a note may be restrung from a place to p: the same place, or a
// fretted one on a neighbouring string.
func closeTo(p, from neck.Place) bool {
	ds, df := p.String-from.String, p.Fret-from.Fret
	return p == from || ds >= -1 && ds <= 1 && df >= -restringFrets && df <= restringFrets && p.Fret > 0
}

// uncleanCost outweighs every effort of the longest line.
const uncleanCost = 1e10

// easiestRounds bounds how often a restringing is made easier.
const easiestRounds = 12

// easiest is cleanest, then of as few notes moved the places of the least load: the
// search is repeated below the load it came to, as long as that costs nothing.
func (j *joint) easiest(ctx context.Context, p *proposer, limit float64) (places []neck.Place, ok bool) {
	rank := math.Inf(1)
	for range easiestRounds {
		next, found := j.cleanest(ctx, limit)
		if !found || math.Floor(j.found/startFirst) > rank {
			break
		}
		places, ok, rank = next, true, math.Floor(j.found/startFirst)
		if len(p.base.Notes) > longestRestrung {
			break
		}
		limit = min(limit, p.boundOf(ctx, atPlaces(p.base, places), p.way)) * (1 - 1e-6)
	}
	return places, ok
}

// cleanest finds the places with the fewest unclean changes, no load above limit.
func (j *joint) cleanest(ctx context.Context, limit float64) ([]neck.Place, bool) {
	for _, y := range j.layers {
		if len(y.options) == 0 {
			return nil, false
		}
	}
	j.addCells(ctx)
	places := j.leastSum(ctx, limit, []pick.Angle{pick.LeavesDown, pick.LeavesUp})
	return places, places != nil
}

// penalty is what an unclean change costs beside its load.
// It outweighs all effort, so that a search for the least sum finds the fewest of them first.
func (j *joint) penalty(from, to cell, picked bool) float64 {
	if j.clean == "" || !picked || from.memo == noMemo {
		return 0
	}
	s := j.pick.Between(j.memos[from.memo], j.memos[to.memo], j.angle)
	switch {
	case j.clean == pick.Alternate && s.Exit != "" && pick.Angle(s.Exit) != j.angle,
		j.clean != pick.Alternate && s.StringChange != pick.NoChange && s.StringChange != pick.Sweep:
		return uncleanCost
	}
	return 0
}
