package propose

import (
	"context"
	"math"
	"slices"

	"ornamen/core/hand"
	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/load"
	"ornamen/core/pick"
	"ornamen/core/say"
)

// reachBound adds the hands, and the places where they are free, that play the line as fast as any can. The bound is
// proved by the searches of both hands; hands that reach it may ask more effort, which is why they are not the ones
// recommended.
func (p *proposer) reachBound(ctx context.Context) {
	l := p.decide(ctx, p.least, p.way, 1)
	if !p.reaches(p.out[0]) {
		p.add(ctx, fastest, say.AsFast(), l, p.bound, p.other(ctx, say.Fastest(p.place), l), p.way)
	}
	if p.place {
		given := p.decide(ctx, p.written, p.way, load.Slack)
		p.add(ctx, asPlaced, say.AsPlaced(), given, p.bound, p.other(ctx, say.AsPlaced(), given), p.way)
	}
}

// beside is how many notes to either side of another finger may change theirs for it: further
// away the line keeps the recommended ones, so that a long one costs no more than a phrase.
const beside = 16

// apart is how many notes lie between two, round a loop by the shorter way.
func (p *proposer) apart(i, k int) int {
	d := max(i-k, k-i)
	if p.base.Loop {
		d = min(d, len(p.base.Notes)-d)
	}
	return d
}

// fingered is the line with the recommended fingers on some of its open notes.
func (p *proposer) fingered(on func(note int) bool) lick.Lick {
	l := p.base.Clone()
	for i := range l.Notes {
		if n := &l.Notes[i]; n.Finger == lick.NoFinger && on(i) {
			n.Finger, n.Barre = p.out[0].Lick.Notes[i].Finger, p.out[0].Lick.Notes[i].Barre
		}
	}
	return l
}

// allNotes is all notes of a line.
func allNotes(int) bool { return true }

// otherFingers tries other fingers on the two notes of the hardest move of the fretting hand. The best of them on the
// note it leads to answers, under the recommended hands, what a player would ask there: why not the other finger? A
// finger that the player has set is not questioned.
func (p *proposer) otherFingers(ctx context.Context) {
	r := p.out[0].Report
	for k, i := range hardest(r) {
		var next *judge.Report
		was := r.Lick.Notes[i].Finger
		if p.base.Notes[i].Finger != lick.NoFinger || !was.Fretting() {
			continue
		}
		for f := lick.Index; f <= lick.Little; f++ {
			if f == was {
				continue
			}
			l := p.fingered(func(k int) bool { return p.apart(k, i) > beside })
			l.Notes[i].Finger = f
			got := p.decide(ctx, l, p.way, load.Slack)
			if ctx.Err() != nil || got.Notes[i].Finger != f {
				continue
			}
			if x := p.Measure(ctx, got, p.hand).Alone(); x.Ceiling > 0 && (next == nil || x.Ceiling > next.Ceiling) {
				next = x
			}
			p.add(ctx, otherFinger, say.FingerOn(f, i), got, p.bound, p.other(ctx, say.OtherFinger(f, was, i), got),
				p.way)
		}
		if k == 0 && next != nil {
			does := handWords(next)
			if does == handWords(r) {
				does = ""
			}
			p.out[0].Why += " " + say.WhyNot(next.Lick.Notes[i].Finger, i, next.Ceiling.Whole(), r.Ceiling.Whole(),
				does)
		}
	}
}

// hardest is the fretting hand's heaviest move that can be done.
func hardest(r *judge.Report) []int {
	worst, notes := 0.0, []int(nil)
	for i, n := range r.Notes {
		for _, x := range n.Loads {
			if x.Side == judge.Fretting && x.Possible && x.Load > worst {
				worst, notes = x.Load, []int{i}
				if x.From >= 0 && x.From != i {
					notes = append(notes, x.From)
				}
			}
		}
	}
	return notes
}

// otherSlides puts a slide that legato needs elsewhere in its group.
func (p *proposer) otherSlides(ctx context.Context) {
	for _, moves := range p.slides {
		l := elsewhere(p.base, moves)
		got := p.decide(ctx, l, p.way, load.Slack)
		bound := p.boundOf(ctx, l, p.way)
		why := say.OtherSlides(say.Slides(got)) + "; " + p.against(ctx, got)
		p.add(ctx, otherSlide, say.SlideElsewhere(), got, bound, why, p.way)
	}
}

// otherWays picks the same places another way, or starts on the other stroke. The fretting hand does not mind how it is
// picked, and keeps its fingers. A way that was asked for is not doubted; only its start is.
func (p *proposer) otherWays(ctx context.Context) {
	if !p.asked {
		for _, way := range []pick.Way{pick.Alternate, pick.Economy, pick.Free} {
			if way != p.way {
				l := p.decide(ctx, p.fingered(allNotes), way, load.Slack)
				why := p.other(ctx, say.OtherWay(way, p.way), l)
				p.add(ctx, otherWay, say.PickedBy(way), l, p.boundOf(ctx, p.base, way), why, way)
			}
		}
	}
	p.otherStart(ctx)
}

// otherStart begins on the other stroke, where that is worth a word: the line gets faster by it.
func (p *proposer) otherStart(ctx context.Context) {
	first := p.LayOut(p.out[0].Lick, false)
	if len(first.Pick) == 0 || !pick.Touching(first.Pick[0].Notes) {
		return // pick and fingers together: the pick goes down
	}
	l := p.fingered(allNotes)
	stroke := lick.Stroke("")
	col := first.Columns[first.Picked[0]]
	for i := col[0]; i < col[1]; i++ {
		n := p.out[0].Lick.Notes[i]
		if n.Stroke != lick.Down && n.Stroke != lick.Up || p.base.Notes[i].Stroke != "" {
			return
		}
		stroke = n.Stroke.Other()
		l.Notes[i].Stroke = stroke
	}
	got := p.decide(ctx, l, p.way, load.Slack)
	if r := p.Measure(ctx, got, p.hand); r.Ceiling > p.out[0].Ceiling {
		p.add(ctx, otherStart, say.OtherStart(stroke), got, p.bound, p.other(ctx, say.OtherStart(stroke), got), p.way)
	}
}

// boundOf is the least possible largest load at the given places.
func (p *proposer) boundOf(ctx context.Context, l lick.Lick, way pick.Way) float64 {
	ln := p.LayOut(l, false)
	bound, ok := p.hand.Bound(ctx, ln.Hand, l.Loop)
	if !ok {
		return math.Inf(1)
	}
	return max(bound, p.Player.Pick.Solve(ln.Pick, l.Loop, way, 1).Bound)
}

// explain says what the recommended hands do.
func (p *proposer) explain(prop Proposal, way pick.Way) string {
	r := prop.Report
	if r.Ceiling == 0 && r.Verdict == judge.Breaks {
		return say.NoHands(firstBreak(r))
	}
	parts := []string{handWords(r)}
	if r.Strokes > 1 {
		parts = append(parts, pickWords(r, string(way)))
	}
	elsewhere := 0
	if p.place {
		elsewhere = moved(p.written, prop.Lick)
	}
	return say.Recommended(parts, elsewhere)
}

// firstBreak is the text of the worst finding that breaks, empty where none does.
func firstBreak(r *judge.Report) string {
	for _, f := range r.Findings {
		if f.Severity == judge.Breaks {
			return f.Text
		}
	}
	return ""
}

// handWords counts what the fretting hand does beside placing fingers.
func handWords(r *judge.Report) string {
	kinds := map[hand.Kind]int{}
	seen := hand.Frame{}
	frames := 0
	for i, n := range r.Notes {
		kinds[n.Kind]++
		if n.Frame != seen && r.Lick.Notes[i].Fret > 0 {
			seen, frames = n.Frame, frames+1
		}
	}
	return say.FrettingHand(kinds, frames, r.Reach)
}

// pickWords counts the string changes of a line that is picked as how says, and after which stroke they leave.
func pickWords(r *judge.Report, how string) string {
	if plucked(r) {
		return say.Plucked(slices.ContainsFunc(r.Lick.Notes, func(n lick.Note) bool { return n.Stroke == lick.PThumb }))
	}
	return say.PickingHand(how, r.StringChanges.Words(), r.Exits)
}

// plucked says whether fingers play all of a line, and no pick.
func plucked(r *judge.Report) bool {
	return !slices.ContainsFunc(r.Lick.Notes,
		func(n lick.Note) bool { return n.Stroke == lick.Down || n.Stroke == lick.Up })
}

// moved counts the notes of b that lie elsewhere than in a.
func moved(a, b lick.Lick) int {
	n := 0
	for _, x := range b.Notes {
		if !slices.ContainsFunc(a.Notes,
			func(y lick.Note) bool { return y.At.Cmp(x.At) == 0 && y.Place() == x.Place() }) {
			n++
		}
	}
	return n
}

// against says how other hands differ from the recommended ones. It names what differs enough to be felt: the hardest
// move, a reach that is a millimetre other, the string changes.
func (p *proposer) against(ctx context.Context, l lick.Lick) string {
	if ctx.Err() != nil {
		return ""
	}
	was, r := p.out[0].Report, p.Measure(ctx, l, p.hand).Alone()
	var parts []string
	if at, need := hardestOf(was), hardestOf(r); at.need > 0 && need.need > 0 {
		parts = append(parts, say.Hardest(need.where, need.need, need.have))
	}
	if diff := r.Reach - was.Reach; diff > 1 || diff < -1 {
		parts = append(parts, say.ReachInstead(r.Reach, was.Reach))
	}
	if r.StringChanges != was.StringChanges {
		parts = append(parts, pickWords(r, say.Strokes(r.StringChanges.Sweep > 0)))
	}
	return say.Against(parts)
}

// other says how hands differ from the recommended ones, led by what they are.
func (p *proposer) other(ctx context.Context, lead string, l lick.Lick) string {
	return lead + ": " + p.against(ctx, l)
}

// hardestMove is the move that sets the ceiling: which notes, what it needs and has, in ms.
type hardestMove struct {
	where      string
	need, have float64
}

// hardestOf finds it; where nothing moves its need is 0.
func hardestOf(r *judge.Report) hardestMove {
	worst, out := 0.0, hardestMove{}
	for i, n := range r.Notes {
		for _, x := range n.Loads {
			if !x.Possible || x.Load <= worst {
				continue
			}
			worst, out = x.Load, hardestMove{say.Notes(x.From, i), x.Need, x.Have}
		}
	}
	return out
}
