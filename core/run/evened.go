package run

import (
	"cmp"
	"context"
	"slices"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/pick"
	"ornamen/core/propose"
)

// EvenedName is the name of the way that Evened finds.
const EvenedName = "each string's count made even"

// Evened is a run whose later cells are played twice where they pick an odd number of notes on a string, begun down and
// picked in alternation, so that the strings are always left on one stroke; the first cell, played once, sets which. ok
// is false where the run has no such cell, repeats cells anyway or has no room. The error is the context's.
//
// Why it helps (common practice): in alternation an even number of strokes on a string leaves it on an upstroke
// wherever it was entered on a downstroke, so every change is of one kind, and a slant of the pick that suits the first
// one suits them all. Three notes a string do not do that; three notes played twice do.
func Evened(ctx context.Context, e *judge.Engine, l lick.Lick, r Recipe,
	g neck.Guitar) (w propose.WayToPlay, ok bool, err error) {
	if r.Then != "" || r.Repeat > 1 || r.Bars > 0 || r.Even {
		return w, false, nil
	}
	plain, err := Grow(r, g)
	if err != nil {
		return w, false, nil
	}
	twice := 0
	for k, c := range plain.Cells {
		if k > 0 && !c.Tail && odd(plain.Lick, c) {
			twice++
		}
	}
	if twice == 0 {
		return w, false, nil
	}
	r.Even = true
	if r.Times > 0 {
		r.Times += twice
	}
	run, err := Grow(r, g)
	if err != nil {
		return w, false, nil // longer than a run may be
	}
	run.Lick.Tempo = l.Tempo
	r.Pick = string(pick.Alternate)
	run.Lick.Recipe = r.asGiven().String()
	all, err := propose.Ways(ctx, e, run.Lick)
	if err != nil {
		return w, false, err
	}
	for _, x := range all {
		if x.Way == pick.Alternate && x.Start == lick.Down {
			x.Name = EvenedName
			return x, true, nil
		}
	}
	return w, false, nil
}

// Ways are the ways to play a run, the highest ceiling first, with each string's count made
// even among them where that is another one. The error is the context's.
func Ways(ctx context.Context, e *judge.Engine, l lick.Lick, r Recipe, g neck.Guitar) ([]propose.WayToPlay, error) {
	list, err := propose.Ways(ctx, e, l)
	if err != nil || len(l.Notes) > maxEvened {
		return list, err
	}
	w, ok, err := Evened(ctx, e, l, r, g)
	if ok {
		list = append(list, w)
		slices.SortStableFunc(list, func(a, b propose.WayToPlay) int { return cmp.Compare(b.Ceiling, a.Ceiling) })
	}
	return list, err
}

// maxEvened is how long a run may be to be tried with cells twice.
const maxEvened = 256
