package propose

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"ornamen/core/hand"
	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/load"
	"ornamen/core/neck"
	"ornamen/core/pick"
	"ornamen/core/say"
)

// Request says what a proposal may change and how many are wanted.
type Request struct {
	Way   pick.Way   // empty: the player's habit, and other ways may be offered too
	Angle pick.Angle // empty: the player's
	Place bool       // strings and frets that are not locked are free too
	Best  int        // how many at most; less than one means one
	Notes []int      // only these notes' hands (indices); none means all
}

// Proposal is one way to play a line with everything decided.
// Its ceiling and report are of the line as it stands in Lick, all hands decided.
type Proposal struct {
	Ceiling      judge.Ceiling `json:"ceiling"`
	BestPossible judge.Ceiling `json:"best_possible"` // under its way of picking and the locks
	Title        string        `json:"title"`         // what a player would call it
	Why          string        `json:"why"`
	Lick         lick.Lick     `json:"lick"`
	Report       *judge.Report `json:"-"`

	kind kind
}

// kind is what sets a proposal apart. One of a kind is offered, but for other strings and other slides.
type kind int

const (
	recommended kind = iota
	restrung         // notes on other strings
	fastest          // reaches the bound
	asPlaced         // where the notes are written, with the places free
	uniform          // the same fingers wherever a cell comes back
	otherFinger
	otherSlide
	otherWay
	otherStart
)

// The most proposals that a player weighs against each other, and by how much an alternative must
// raise the ceiling to be one, times (model defaults).
const (
	mostOffered = 4
	worthOther  = 1.01
	// uniformCost is how much of the ceiling one fingering for every cell may cost and still be the recommended one.
	uniformCost = 0.02
	slideCost   = 0.9 // of the ceiling that a slide elsewhere must keep
)

// worthMoving is by how much a ceiling must rise for notes to be moved elsewhere on the neck (model default).
const worthMoving = 1.03

// MaxFreePlaces is how many notes a line may have when its places are free too.
const MaxFreePlaces = 2048

// Hands decides the hands of a line around what is locked. The first proposal is the recommended one: with each hand's
// largest load within load.Slack of its least possible, the least effort (see hand.Solve and pick.Solve). The others
// differ from it on the moves around the bottleneck, in the way of picking or in the places, the highest ceiling first,
// with the one that reaches the bound among them. The error is the context's, or ErrTooFree.
func Hands(ctx context.Context, e *judge.Engine, l lick.Lick, a Request) ([]Proposal, error) {
	if len(l.Notes) == 0 {
		return []Proposal{}, nil
	}
	if len(l.Notes) > judge.MaxNotes {
		return nil, fmt.Errorf("the line has %d notes, and hands are found for at most %d together: choose a part of it",
			len(l.Notes), judge.MaxNotes)
	}
	p := question{e}.newProposer(ctx, l, a)
	p.few = a.Best <= 1
	if err := p.recommend(ctx); err != nil {
		return nil, cmp.Or(judge.Done(ctx), err)
	}
	steps := []func(context.Context){p.oneFingering}
	if a.Best > 1 {
		steps = append(steps, p.reachBound, p.otherFingers, p.otherSlides, p.otherWays)
	}
	for _, step := range steps {
		if ctx.Err() == nil {
			step(ctx)
		}
	}
	if err := judge.Done(ctx); err != nil {
		return nil, err
	}
	return p.best(a.Best), nil
}

// question is the engine with what proposals ask of it.
type question struct{ *judge.Engine }

// proposer collects proposals for one line.
type proposer struct {
	question
	hand  *hand.Model
	base  lick.Lick // what is locked, the rest open
	way   pick.Way
	asked bool // the way was asked for
	place bool
	late  bool // the hands that are taught would be late, so that others are recommended
	out   []Proposal
	few   bool      // the recommended proposal is all that is asked for
	bound float64   // the least possible largest load, bends not counted
	least lick.Lick // the places that reach it

	written lick.Lick   // the base at the places it came with
	slides  [][]slideAt // other slides that legato could take
}

// newProposer prepares the line for what is asked: hands open but for what is locked, and
// for a selection the hands of all other notes fixed as they are filled in now.
func (e question) newProposer(ctx context.Context, l lick.Lick, a Request) *proposer {
	player := e.Player
	way := cmp.Or(a.Way, player.Way)
	player.Pick.Angle = cmp.Or(a.Angle, player.Pick.Angle)
	e = question{e.As(player)}
	p := &proposer{question: e, hand: e.Hand(e.Guitar(l)), way: way, asked: a.Way != "", place: a.Place}
	p.base = openHands(l)
	if len(a.Notes) > 0 {
		p.base = keepOthers(p.base, e.Fill(ctx, l, p.hand, way), a.Notes)
	}
	return p
}

// openHands leaves open what is not locked. Fingers of the picking hand and the
// thumb are how a line is meant, so they stay.
func openHands(l lick.Lick) lick.Lick {
	out := l.Clone()
	for i := range out.Notes {
		n := &out.Notes[i]
		if !n.Locked(lick.FieldFinger) && n.Finger != lick.Thumb {
			n.Finger = lick.NoFinger
		}
		if !n.Locked(lick.FieldStroke) && (n.Stroke == lick.Down || n.Stroke == lick.Up) {
			n.Stroke = ""
		}
	}
	return out
}

// keepOthers fixes the hands of every note that is not named. Their places are locked for this search alone.
func keepOthers(open, filled lick.Lick, notes []int) lick.Lick {
	for i := range open.Notes {
		if !slices.Contains(notes, i) {
			n := &open.Notes[i]
			n.Finger, n.Stroke = filled.Notes[i].Finger, filled.Notes[i].Stroke
			n.Lock = n.Lock.With(lick.FieldString, true).With(lick.FieldFret, true)
		}
	}
	return open
}

// recommend makes the first proposal and finds the bound. The error is ErrTooFree.
func (p *proposer) recommend(ctx context.Context) error {
	if p.way == pick.Legato {
		p.base, p.slides = p.legato(ctx, p.hand, p.base)
	}
	p.written, p.least = p.base, p.base
	given := p.FillWithin(ctx, p.base, p.hand, p.way, load.Slack)
	p.bound = given.Bound
	if p.place && len(p.base.Notes) <= MaxFreePlaces {
		j := p.newJoint(ctx, p.base, p.hand, p.way)
		res, ok := j.solve(ctx, given.Bound, given.Breaches)
		if j.work > maxWork {
			return ErrTooFree
		}
		if ok && ctx.Err() == nil {
			worth := res.bound*worthMoving <= given.Bound // else the written places are as good
			p.bound, p.least = res.bound, atPlaces(p.base, res.least)
			if worth {
				p.base = atPlaces(p.base, res.leastSum)
				given = p.FillWithin(ctx, p.base, p.hand, p.way, load.Slack)
			}
		}
	}
	p.late = given.Taught > 0
	p.add(ctx, recommended, say.Recommendation(), given.Lick, p.bound, "", p.way)
	return nil
}

// atPlaces moves every note to its place.
func atPlaces(l lick.Lick, places []neck.Place) lick.Lick {
	out := l.Clone()
	for i, at := range places {
		out.Notes[i].String, out.Notes[i].Fret = at.String, at.Fret
	}
	out.Sort()
	return out
}

// decide fills in both hands, each with its largest load within slack of its own bound.
func (p *proposer) decide(ctx context.Context, l lick.Lick, way pick.Way, slack float64) lick.Lick {
	if ctx.Err() != nil {
		return l
	}
	return p.FillWithin(ctx, l, p.hand, way, slack).Lick
}

// add judges a decided line and keeps it, unless its hands are kept already. Without a why it is
// explained as the recommended one.
func (p *proposer) add(ctx context.Context, k kind, title string, l lick.Lick, bound float64,
	why string, way pick.Way,
) {
	if ctx.Err() != nil && len(p.out) > 0 {
		return
	}
	r := p.Measure(ctx, l, p.hand).Alone()
	if r.Verdict == judge.Breaks && r.Ceiling == 0 && len(p.out) > 0 {
		return
	}
	key := judge.HandsKey(l)
	if slices.ContainsFunc(p.out, func(o Proposal) bool { return judge.HandsKey(o.Lick) == key }) {
		return
	}
	most := bound
	for _, n := range r.Notes {
		for _, x := range n.Loads {
			if x.Side == judge.Bending || x.Side == judge.Shaking {
				most = max(most, x.Load)
			}
		}
	}
	prop := Proposal{Ceiling: r.Ceiling, Title: title, Lick: l, Report: r, Why: why, kind: k}
	if r.Ceiling > 0 {
		prop.BestPossible = max(judge.CeilingOf(l.Tempo, most), r.Ceiling)
	}
	if why == "" {
		prop.Why = p.explain(prop, way)
	}
	p.out = append(p.out, prop)
}

// reaches says whether a proposal is as fast as the bound allows.
func (p *proposer) reaches(o Proposal) bool { return o.Ceiling >= o.BestPossible*(1-1e-9) }

// best is the recommended proposal and those of the others that a player would weigh against it,
// the highest ceiling first: n at most, and never more than mostOffered.
func (p *proposer) best(n int) []Proposal {
	first := p.out[0]
	rest := slices.Clone(p.out[1:])
	slices.SortStableFunc(rest, func(a, b Proposal) int { return cmp.Compare(b.Ceiling, a.Ceiling) })
	out := []Proposal{first}
	for _, o := range rest {
		if p.gains(o) && !slices.ContainsFunc(out[1:], func(x Proposal) bool { return p.beats(x, o) }) {
			out = append(out[:1], slices.DeleteFunc(out[1:], func(x Proposal) bool { return p.beats(o, x) })...)
			out = append(out, o)
		}
	}
	// The fastest and the one fingering for every cell are what players ask for: they stay.
	n = min(max(n, 1), mostOffered)
	for k := len(out) - 1; k > 0 && len(out) > n; k-- {
		if x := out[k].kind; n == 1 || x != fastest && (x != uniform || n < 3) {
			out = slices.Delete(out, k, k+1)
		}
	}
	return out[:min(n, len(out))]
}

// gains says whether a proposal has something that the recommended one has not: it is faster, its
// changes are cleaner, or it keeps what a player may want kept.
func (p *proposer) gains(o Proposal) bool {
	first := p.out[0]
	faster := o.Ceiling > first.Ceiling*worthOther
	switch o.kind {
	case restrung, asPlaced, uniform:
		return true
	case otherSlide:
		return o.Ceiling >= first.Ceiling*slideCost
	case otherWay:
		return faster || o.Ceiling*worthOther >= first.Ceiling &&
			unclean(o.Report) < unclean(first.Report)
	}
	return faster
}

// unclean counts the string changes that do not leave by the way the pick goes: against the stroke, or inside.
func unclean(r *judge.Report) int { return r.StringChanges.Inside + r.StringChanges.Against }

// beats says whether proposal a leaves nothing to proposal b: they are of one kind, or both are only
// faster than the recommended one and b changes more of its hands.
func (p *proposer) beats(a, b Proposal) bool {
	if a.kind == b.kind && a.kind != restrung && a.kind != otherSlide {
		return a.Ceiling >= b.Ceiling
	}
	faster := []kind{fastest, otherFinger, otherStart}
	if !slices.Contains(faster, a.kind) || !slices.Contains(faster, b.kind) {
		return false
	}
	return a.Ceiling*worthOther >= b.Ceiling && changed(p.out[0].Lick, a.Lick) <= changed(p.out[0].Lick, b.Lick)
}

// changed counts the notes whose hands or places differ.
func changed(a, b lick.Lick) (n int) {
	if len(a.Notes) != len(b.Notes) {
		return len(b.Notes)
	}
	for i, x := range a.Notes {
		if y := b.Notes[i]; x.Place() != y.Place() || x.Finger != y.Finger || x.Stroke != y.Stroke || x.Slur != y.Slur {
			n++
		}
	}
	return n
}
