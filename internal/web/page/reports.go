package page

import (
	"context"
	"errors"
	"fmt"
	"slices"

	"ornamen/core/cache"
	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/pick"
	"ornamen/core/propose"
	"ornamen/internal/store"
)

// judged names a report: for which player and of which revision. A revision never changes and a generation is never
// used twice, so that a report under this name is never wrong, only forgotten.
type judged struct {
	generation uint64
	revision   uint
	bar        int // that its window begins with
}

// Bounds of what is kept in memory, in bytes.
// A report of 64 notes takes about 70 kB, so that a hundred and fifty are at hand.
const (
	keptReports = 10 << 20
	keptOffers  = 6 << 20
)

// LongLine is from how many notes on judging a line waits for its turn.
const LongLine = 256

// reports keeps judgements, and what was offered for them, by revision and player.
type reports struct {
	plain  *cache.Cache[judged, *judge.Report]
	mended *cache.Cache[judged, *judge.Report]
	offers *cache.Cache[string, []propose.Proposal]
}

// newReports keeps the judgements of the licks that were looked at last.
func newReports() reports {
	return reports{
		plain:  cache.New[judged](keptReports, reportBytes),
		mended: cache.New[judged](keptReports, reportBytes),
		offers: cache.New[string](keptOffers, func(list []propose.Proposal) int {
			n := 0
			for _, p := range list {
				n += reportBytes(p.Report)
			}
			return n
		}),
	}
}

// reportBytes is about how much memory a report takes. Fixes carry a line each and weigh the most.
func reportBytes(r *judge.Report) int {
	n := 1000 + 1000*len(r.Notes)
	for _, f := range r.Findings {
		n += 500 + len(f.Fixes)*500*len(r.Notes)
	}
	return n
}

// Report judges a lick, or remembers the judgement of its revision. Two requests for one
// revision may both judge it; the later one is kept, and they are the same. A long line waits
// for a slot, so that ten tabs do not make each other wait for all of their lines.
func (a *Site) Report(ctx context.Context, e store.Entry) (*judge.Report, error) {
	c := Playing(ctx)
	key := judged{c.Generation, e.Revision, barOf(ctx)}
	if r, ok := a.reports.plain.Get(key); ok {
		return r, nil
	}
	var r *judge.Report
	check := func(ctx context.Context) (*judge.Report, error) { return c.Engine.Check(ctx, e.Lick) }
	var err error
	if len(e.Lick.Notes) < LongLine {
		r, err = check(ctx)
	} else {
		r, err = Queued(ctx, a, e.ID, check)
	}
	if err != nil {
		return nil, err
	}
	a.reports.plain.Put(key, r)
	return r, nil
}

// JudgedBy is what is remembered of an entry's judgement for another player.
func (a *Site) JudgedBy(c *Player, e store.Entry) (*judge.Report, bool) {
	return a.reports.plain.Get(judged{c.Generation, e.Revision, 0})
}

// Mended is the report of an entry with its fixes tried, which takes a while. The
// report that is kept without them is not touched.
func (a *Site) Mended(ctx context.Context, e store.Entry) (*judge.Report, error) {
	c := Playing(ctx)
	key := judged{c.Generation, e.Revision, barOf(ctx)}
	if r, ok := a.reports.mended.Get(key); ok {
		return r, nil
	}
	r, err := a.Report(ctx, e)
	if err != nil {
		return nil, err
	}
	m := *r
	m.Findings = slices.Clone(r.Findings)
	err = a.Work.Do(ctx, e.ID, func(ctx context.Context) error { return c.Engine.Mend(ctx, e.Lick, &m) })
	if err != nil {
		return nil, err
	}
	a.reports.mended.Put(key, &m)
	return &m, nil
}

// Proposed is what is proposed for an entry, which takes a while.
func (a *Site) Proposed(ctx context.Context, e store.Entry, f HandsForm) ([]propose.Proposal, error) {
	ask, err := f.request(e.Lick)
	if err != nil {
		return nil, Refuse(err)
	}
	c := Playing(ctx)
	key := fmt.Sprint(c.Generation, e.Revision, barOf(ctx), f)
	if list, ok := a.reports.offers.Get(key); ok {
		return list, nil
	}
	list, err := Queued(ctx, a, e.ID, func(ctx context.Context) ([]propose.Proposal, error) {
		return propose.Hands(ctx, c.Engine, e.Lick, ask)
	})
	if err != nil {
		return nil, err
	}
	a.reports.offers.Put(key, list)
	return list, nil
}

// Queued is what f finds for a lick (0 for none), as work that waits for its turn (jobs.Do).
func Queued[T any](ctx context.Context, a *Site, lick uint, f func(context.Context) (T, error)) (out T, err error) {
	err = a.Work.Do(ctx, lick, func(ctx context.Context) (err error) {
		out, err = f(ctx)
		return err
	})
	return out, err
}

// maxOffered is how many proposals stand side by side.
const maxOffered = 4

// HandsForm is what a proposal may change. It is part of the name under which proposals are remembered, so that taking
// one finds exactly what was shown.
type HandsForm struct {
	Way   string `form:"way"`  // of picking; empty for the player's habit
	Place bool   `form:"free"` // other places for the same pitches too
	From  int    `form:"from"` // the selection, from 1; 0 for the whole line
	Upto  int    `form:"upto"`
}

// request reads what the proposals may change. A selection becomes the notes that may change; the rest of the line is
// judged with them and stays. Free places are searched exactly and so have a limit of length.
func (f HandsForm) request(l lick.Lick) (propose.Request, error) {
	a := propose.Request{Place: f.Place, Best: maxOffered}
	if f.Way != "" {
		way, err := pick.ParseWay(f.Way)
		if err != nil {
			return a, err
		}
		a.Way = way
	}
	if f.Place && len(l.Notes) > propose.MaxFreePlaces {
		return a, fmt.Errorf("free places take lines of up to %d notes, this one has %d", propose.MaxFreePlaces, len(l.Notes))
	}
	for i := max(1, f.From); f.From > 0 && i <= min(f.Upto, len(l.Notes)); i++ {
		a.Notes = append(a.Notes, i-1)
	}
	return a, nil
}

// Handed is a line with the hands that are recommended.
func Handed(ctx context.Context, l lick.Lick) (lick.Lick, error) {
	list, err := propose.Hands(ctx, EngineOf(ctx), l, propose.Request{})
	if err != nil || len(list) == 0 {
		return l, err
	}
	return list[0].Lick, nil
}

// FixEdit takes a fix of the judgement by its name: exactly what was shown.
func (a *Site) FixEdit(ctx context.Context, base store.Entry, name string) (lick.Edit, error) {
	r, err := a.Mended(ctx, base)
	if err != nil {
		return nil, err
	}
	for _, x := range r.Findings {
		for _, fix := range x.Fixes {
			if fix.ID == name {
				return EngineOf(ctx).Take(ctx, base.Lick, fix.Edit, fix.Small())
			}
		}
	}
	return nil, errors.New("that fix is no longer there; look again")
}
