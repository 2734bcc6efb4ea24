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
)

// Ask says what a proposal may change and how many are wanted.
type Ask struct {
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
	Why          string        `json:"why"`
	Lick         lick.Lick     `json:"lick"`
	Report       *judge.Report `json:"-"`
}

// worthMoving is by how much a ceiling must rise for notes to be moved elsewhere on
// the neck (model default).
const worthMoving = 1.03

// MaxFreePlaces is how many notes a line may have when its places are free too.
const MaxFreePlaces = 2048

// Hands decides the hands of a line around what is locked. The first proposal is the
// recommended one: with each hand's largest load within load.Slack of its least possible,
// the least effort (see hand.Solve and pick.Solve). The others differ from it on the moves
// around the bottleneck, in the way of picking or in the places, the highest ceiling
// first, with the one that reaches the bound among them. The error is the context's, or
// ErrTooFree.
func Hands(ctx context.Context, e *judge.Engine, l lick.Lick, a Ask) ([]Proposal, error) {
	if len(l.Notes) == 0 {
		return []Proposal{}, nil
	}
	if len(l.Notes) > judge.MaxNotes {
		return nil, fmt.Errorf("the line has %d notes, and hands are found for at most %d together: choose a part of it",
			len(l.Notes), judge.MaxNotes)
	}
	p := question{e.Ask(ctx)}.newProposer(l, a)
	steps := []func(){p.recommend}
	if a.Best > 1 {
		steps = append(steps, p.reachBound, p.oneFingering, p.otherFingers, p.otherSlides, p.otherWays)
	}
	for _, step := range steps {
		if p.err == nil && p.Ctx.Err() == nil {
			step()
		}
	}
	if err := cmp.Or(p.Done(), p.err); err != nil {
		return nil, err
	}
	return p.best(a.Best), nil
}

// question is a task that proposals answer.
type question struct{ judge.Task }

// proposer collects proposals for one line.
type proposer struct {
	question
	hand  *hand.Model
	base  lick.Lick // what is locked, the rest open
	way   pick.Way
	asked bool // the way was asked for
	place bool
	out   []Proposal
	err   error
	worth bool      // other places are worth moving to
	cells string    // the hands that play every cell alike; empty where the recommended do
	bound float64   // the least possible largest load, bends not counted
	least lick.Lick // the places that reach it

	written lick.Lick              // the base at the places it came with
	columns [][2]int               // of the line that legato works on
	groups  map[string]groupResult // that legato has measured
	slid    []slid                 // groups that legato slides in
	slides  [][]slideAt            // other slides that legato could take
}

// newProposer prepares the line for what is asked: hands open but for what is locked, and
// for a selection the hands of all other notes fixed as they are filled in now.
func (e question) newProposer(l lick.Lick, a Ask) *proposer {
	player := e.Player
	way := cmp.Or(a.Way, player.Way)
	player.Pick.Angle = cmp.Or(a.Angle, player.Pick.Angle)
	e = question{e.As(player).Ask(e.Ctx)}
	p := &proposer{question: e, hand: e.Hand(e.Guitar(l)), way: way, asked: a.Way != "", place: a.Place}
	p.base = openHands(l)
	if len(a.Notes) > 0 {
		p.base = keepOthers(p.base, e.Fill(l, p.hand, way), a.Notes)
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

// keepOthers fixes the hands of every note that is not named.
// Their places are locked for this search alone.
func keepOthers(open, filled lick.Lick, notes []int) lick.Lick {
	for i := range open.Notes {
		if !slices.Contains(notes, i) {
			open.Notes[i].Finger, open.Notes[i].Stroke = filled.Notes[i].Finger, filled.Notes[i].Stroke
			for _, f := range []lick.Field{lick.FieldString, lick.FieldFret} {
				if !open.Notes[i].Locked(f) {
					open.Notes[i].Lock = append(open.Notes[i].Lock, f)
				}
			}
		}
	}
	return open
}

// recommend makes the first proposal and finds the bound.
func (p *proposer) recommend() {
	if p.way == pick.Legato {
		p.base = p.legato(p.base)
	}
	p.written, p.least = p.base, p.base
	given := p.FillWithin(p.base, p.hand, p.way, load.Slack)
	p.bound = given.Bound
	if p.place && len(p.base.Notes) <= MaxFreePlaces {
		j := p.newJoint(p.base, p.hand, p.way)
		res, ok := j.solve(given.Bound, given.Breaches)
		if j.work > maxWork {
			p.err = ErrTooFree
			return
		}
		if ok && p.Ctx.Err() == nil {
			p.worth = res.bound*worthMoving <= given.Bound
		}
		if ok && p.Ctx.Err() == nil {
			p.bound, p.least = res.bound, atPlaces(p.base, res.least)
			if !p.worth {
				p.add(given.Lick, p.bound, "", p.way) // the written places are as good
				return
			}
			p.base = atPlaces(p.base, res.calm)
			given = p.FillWithin(p.base, p.hand, p.way, load.Slack)
		}
	}
	p.add(given.Lick, p.bound, "", p.way)
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

// decide fills in both hands, each with its largest load within slack of its own
// bound.
func (p *proposer) decide(l lick.Lick, way pick.Way, slack float64) lick.Lick {
	if p.Ctx.Err() != nil {
		return l
	}
	return p.FillWithin(l, p.hand, way, slack).Lick
}

// add judges a decided line and keeps it, unless its hands are kept already.
func (p *proposer) add(l lick.Lick, bound float64, why string, way pick.Way) {
	if p.Ctx.Err() != nil && len(p.out) > 0 {
		return
	}
	r := p.Measure(l, p.hand).Alone()
	if r.Verdict == judge.Breaks && r.Ceiling == 0 && len(p.out) > 0 {
		return
	}
	for _, o := range p.out {
		if judge.HandsKey(o.Lick) == judge.HandsKey(l) {
			return
		}
	}
	most := bound
	for _, n := range r.Notes {
		for _, x := range n.Loads {
			if x.Side == judge.Bending || x.Side == judge.Shaking {
				most = max(most, x.Load)
			}
		}
	}
	prop := Proposal{Ceiling: r.Ceiling, Lick: l, Report: r, Why: why}
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

// best is the recommended proposal and the highest of the others, the one that
// reaches the bound among them.
// n is how many at most; the first is the recommended one in any case.
func (p *proposer) best(n int) []Proposal {
	n = max(n, 1)
	rest := p.out[1:]
	slices.SortStableFunc(rest, func(a, b Proposal) int { return cmp.Compare(b.Ceiling, a.Ceiling) })
	out := p.out[:min(n, len(p.out))]
	if !slices.ContainsFunc(out, p.reaches) && n > 1 {
		if k := slices.IndexFunc(p.out, p.reaches); k >= 0 {
			out[len(out)-1] = p.out[k]
		}
	}
	// One fingering for the cell is what a player asks for: it is never left out.
	alike := func(o Proposal) bool { return judge.HandsKey(o.Lick) == p.cells }
	if k := slices.IndexFunc(p.out, alike); p.cells != "" && n > 2 && k > 0 && !slices.ContainsFunc(out, alike) {
		out = slices.Insert(slices.Clone(out[:len(out)-1]), 1, p.out[k])
	}
	return out
}
