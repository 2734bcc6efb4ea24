package hand

import (
	"context"
	"math"
	"slices"

	"ornamen/core/layers"
)

// Laid is a line whose bound is known from both ends, so that the bound of the
// same line with a few events changed takes only the work of those events.
//
// Invariant: before[k][p] is the least possible largest load of the line up to node k when the hand stands there in
// posture p, after[k][p] that of the line from node k on. The bound of a changed line is the least over the postures
// where the two meet, which is exact because the largest load of a path is the larger of its parts' (the principle of
// optimality; Bellman 1957, from memory).
type Laid struct {
	c             *chain
	events        []Event
	loop          bool
	before, after [][]float64
	opens         []float64 // load of each event's move to open strings
}

// Lay works the bounds of a line out from both ends. Cost: two passes over its moves. For the context see Solve.
func (m *Model) Lay(ctx context.Context, events []Event, loop bool) *Laid {
	ld := &Laid{c: m.newChain(ctx, events, loop), events: events, loop: loop, opens: make([]float64, len(events))}
	for i, e := range events {
		if i > 0 || loop {
			ld.opens[i] = m.opensOf(e)
		}
	}
	c := ld.c
	if len(c.nodes) == 0 {
		return ld
	}
	ld.before, ld.after = c.line(ctx, nil).Ends(layers.Largest(never))
	return ld
}

// opensOf is the largest load of an event's moves to open strings.
func (m *Model) opensOf(e Event) (worst float64) {
	for _, t := range e.Touches {
		if !t.fretted() {
			worst = max(worst, m.scale(m.toOpen(t))/e.Have)
		}
	}
	return worst
}

// With is the bound of the line with its events [from, to) changed to others of the same number, and whether every step
// of the changed part can be done at some tempo. Of a bound above most it is enough to know that it is: a loop is
// worked out anew only where it may lie below, which the same line with its ends open tells, as a lower bound. Where
// the context has ended there is no bound.
func (ld *Laid) With(ctx context.Context, from, to int, changed []Event, most float64) (bound float64, ok bool) {
	if len(changed) != to-from || len(ld.c.nodes) == 0 {
		return ld.anew(ctx, from, to, changed)
	}
	bound, ok = ld.joined(ctx, from, to, changed)
	if !ld.loop || ctx.Err() != nil {
		return bound, ok
	}
	if turns := from <= ld.c.nodes[0].event; ok && !turns && bound > most {
		return bound, ok
	}
	return ld.anew(ctx, from, to, changed)
}

// anew is With without what is known of the line.
func (ld *Laid) anew(ctx context.Context, from, to int, changed []Event) (bound float64, ok bool) {
	events := slices.Concat(ld.events[:from], changed, ld.events[to:])
	return ld.c.m.Bound(ctx, events, ld.loop)
}

// joined is the bound of a line whose changed part is joined to what is known of the rest; of a
// loop with its ends open.
func (ld *Laid) joined(ctx context.Context, from, to int, changed []Event) (bound float64, ok bool) {
	c := ld.c
	// The nodes outside the changed part.
	last := slices.IndexFunc(c.nodes, func(n node) bool { return n.event >= from }) - 1
	next := slices.IndexFunc(c.nodes, func(n node) bool { return n.event >= to })
	if next < 0 {
		next = len(c.nodes)
	}
	if last < -1 {
		last = len(c.nodes) - 1
	}
	// The part as a chain of its own, with the nodes beside it at its ends.
	lo, hi := from, to
	if last >= 0 {
		lo = c.nodes[last].event
	}
	if next < len(c.nodes) {
		hi = c.nodes[next].event + 1
	}
	events := slices.Concat(ld.events[lo:from], changed, ld.events[to:hi])
	part := c.m.newChain(ctx, events, false)
	if ctx.Err() != nil {
		return never, false // neither the part nor the line around it need be whole
	}
	ok = !part.lost && !slices.ContainsFunc(part.nodes, func(n node) bool { return n.broken })
	opens := 0.0
	for i := range ld.events {
		if i >= from && i < to {
			if i > 0 || ld.loop {
				opens = max(opens, c.m.opensOf(changed[i-from]))
			}
			continue
		}
		opens = max(opens, ld.opens[i])
	}
	if len(part.nodes) == 0 {
		return opens, ok
	}
	var come, rest []float64
	if last >= 0 {
		come = ld.before[last]
	}
	if next < len(c.nodes) {
		rest = ld.after[next]
	}
	bound = part.line(ctx, nil).Span(layers.Largest(never), come, rest)
	return max(bound, opens), ok && !math.IsInf(bound, 1)
}
