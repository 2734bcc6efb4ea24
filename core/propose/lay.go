package propose

import (
	"context"
	"math"
	"slices"

	"ornamen/core/judge"
	"ornamen/core/lick"
)

// How a long line is laid: so many notes at a time, the last few of those before in their
// places (model defaults; a stretch of 48 free notes takes well under a second).
const (
	layStretch = 48
	layContext = 6
	LaidWell   = 144 // of more notes only the hand's positions are looked at
)

// Lay lays notes that name no string where both hands have it easiest. chosen are their indices, rising; every other
// note keeps its place. A line is laid stretch by stretch, each exactly (see joint), with the end of the one before
// held, so that the time grows with the length alone. A stretch whose places no hand can play, or that has too many of
// them, stays as it was. More notes than LaidWell, and lines with grips, are laid along the hand's positions alone,
// 3,000 notes in half a second. The error is the context's.
func Lay(ctx context.Context, e *judge.Engine, l lick.Lick, chosen []int) (lick.Lick, error) {
	l = l.Clone()
	free := make([]bool, len(l.Notes))
	for _, i := range chosen {
		free[i] = true
	}
	if len(chosen) > LaidWell || grips(l, free) {
		layAlong(e, &l, free)
		cutShort(&l)
		l.Sort()
		return l, l.Validate()
	}
	for from := 0; from < len(l.Notes); {
		to := min(from+layStretch, len(l.Notes))
		for to < len(l.Notes) && l.Notes[to].At.Cmp(l.Notes[to-1].At) == 0 {
			to++ // what sounds together is laid together
		}
		if slices.Contains(free[from:to], true) {
			if err := layPart(ctx, e, &l, free, max(0, from-layContext), from, to); err != nil {
				return l, err
			}
		}
		from = to
	}
	cutShort(&l)
	l.Sort()
	return l, l.Validate()
}

// grips says whether three notes or more sound together somewhere, whose places would take too long to try.
func grips(l lick.Lick, free []bool) bool {
	for _, c := range l.Columns() {
		if c[1]-c[0] > 2 && slices.Contains(free[c[0]:c[1]], true) {
			return true
		}
	}
	return false
}

// cutShort ends a note where the next one on its string begins, as a string sounds one.
func cutShort(l *lick.Lick) {
	last := map[int]int{} // string → its note before
	for i, n := range l.Notes {
		if k, ok := last[n.String]; ok && n.At.Before(l.Notes[k].End()) && l.Notes[k].At.Before(n.At) {
			l.Notes[k].Len = n.At.Sub(l.Notes[k].At)
		}
		last[n.String] = i
	}
}

// layPart lays the notes [from, to) behind those from before on.
func layPart(ctx context.Context, e *judge.Engine, l *lick.Lick, free []bool, before, from, to int) error {
	part := l.Clone()
	part.Notes, part.Parts, part.Loop = slices.Clone(part.Notes[before:to]), nil, false
	start := part.Notes[0].At
	for i := range part.Notes {
		n := &part.Notes[i]
		n.At = n.At.Sub(start)
		if before+i < from || !free[before+i] {
			n.Lock = n.Lock.With(lick.FieldString, true).With(lick.FieldFret, true)
		}
	}
	part.Pickup = lick.Time{}
	part.Chords, part.Keys = nil, nil
	p := question{e}.newProposer(ctx, part, Request{Place: true})
	breaches := len(part.Notes) // places that cannot be played set no limit
	base := p.base.Clone()
	for i, n := range p.Fill(ctx, p.base, p.hand, p.way).Notes {
		base.Notes[i].Stroke = n.Stroke // strokes in turn are the same wherever the notes lie
	}
	j := p.newJoint(ctx, base, p.hand, p.way)
	res, ok := j.solve(ctx, math.Inf(1), breaches)
	if err := judge.Done(ctx); err != nil {
		return err
	}
	if !ok || j.stopped(ctx) || res.leastSum == nil {
		return nil
	}
	for i, at := range res.leastSum {
		if before+i >= from && free[before+i] {
			l.Notes[before+i].String, l.Notes[before+i].Fret = at.String, at.Fret
		}
	}
	return nil
}
