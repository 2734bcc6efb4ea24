package propose

import (
	"fmt"
	"slices"
	"strings"

	"ornamen/core/hand"
	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/load"
	"ornamen/core/pick"
)

// reachBound adds the hands, and the places where they are free, that play the
// line as fast as any can.
func (p *proposer) reachBound() {
	l := p.decide(p.least, p.way, 1)
	why := "As fast as any hands can play it here"
	if p.place {
		why = "As fast as it can be played anywhere on the neck"
	}
	if !p.reaches(p.out[0]) {
		p.add(l, p.bound, why+": "+p.against(l), p.way)
	}
	if p.place {
		given := p.decide(p.written, p.way, load.Slack)
		p.add(given, p.bound, "At the places as written: "+p.against(given), p.way)
	}
}

// otherFingers tries other fingers on the two notes of the hardest move of the
// fretting hand. The best of them on the note it leads to answers, under the recommended
// hands, what a player would ask there: why not the other finger?
func (p *proposer) otherFingers() {
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
			l := p.base.Clone()
			l.Notes[i].Finger = f
			got := p.decide(l, p.way, load.Slack)
			if p.Ctx.Err() != nil || got.Notes[i].Finger != f {
				continue
			}
			if x := p.Measure(got, p.hand).Alone(); x.Ceiling > 0 && (next == nil || x.Ceiling > next.Ceiling) {
				next = x
			}
			p.add(got, p.bound, fmt.Sprintf("Finger %s instead of %s on note %d: %s", f, was, i+1, p.against(got)),
				p.way)
		}
		if k == 0 && next != nil {
			p.out[0].Why += " " + whyNot(p.out[0].Report, next, i)
		}
	}
}

// whyNot says what the next best finger on note i would come to.
func whyNot(r, next *judge.Report, i int) string {
	f := next.Lick.Notes[i].Finger
	switch was, is := r.Ceiling.Whole(), next.Ceiling.Whole(); {
	case is < was:
		return fmt.Sprintf("Finger %s on note %d would hold it back: %s.", f, i+1, next.Ceiling)
	case is > was:
		return fmt.Sprintf("Finger %s on note %d would be faster, %s, for more effort: %s.", f, i+1, next.Ceiling,
			handWords(next))
	}
	return fmt.Sprintf(
		"Finger %s on note %d would do as well up to there, for more effort: %s.",
		f,
		i+1,
		handWords(next),
	)
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
func (p *proposer) otherSlides() {
	for _, moves := range p.slides {
		l := elsewhere(p.base, moves)
		got := p.decide(l, p.way, load.Slack)
		bound := p.boundOf(l, p.way)
		p.add(got, bound, "The slide elsewhere: "+slidesOf(got)+"; "+p.against(got), p.way)
	}
}

// otherWays picks the same places another way, or starts on the other stroke.
func (p *proposer) otherWays() {
	if !p.asked {
		for _, way := range []pick.Way{pick.Alternate, pick.Economy, pick.Free} {
			if way != p.way {
				l := p.decide(p.base, way, load.Slack)
				p.add(l, p.boundOf(p.base, way), sentenceWay(way)+" instead of "+string(p.way)+": "+p.against(l), way)
			}
		}
	}
	p.otherStart()
}

// otherStart begins on the other stroke, where that is worth a word: the line gets
// faster by it.
func (p *proposer) otherStart() {
	first := p.LayOut(p.out[0].Lick, false)
	if len(first.Pick) == 0 || !pick.Touching(first.Pick[0].Notes) {
		return // pick and fingers together: the pick goes down
	}
	l := p.base.Clone()
	stroke := lick.Stroke("")
	col := first.Columns[first.Picked[0]]
	for i := col[0]; i < col[1]; i++ {
		n := p.out[0].Lick.Notes[i]
		if n.Stroke != lick.Down && n.Stroke != lick.Up || p.base.Notes[i].Stroke != "" {
			return
		}
		stroke = judge.Other(n.Stroke)
		l.Notes[i].Stroke = stroke
	}
	got := p.decide(l, p.way, load.Slack)
	if r := p.Measure(got, p.hand); r.Ceiling > p.out[0].Ceiling {
		p.add(got, p.bound, "Starts on "+judge.AnA(stroke)+": "+p.against(got), p.way)
	}
}

// boundOf is the least possible largest load at the given places.
func (p *proposer) boundOf(l lick.Lick, way pick.Way) float64 {
	return p.FillWithin(l, p.hand, way, 1).Bound
}

// sentenceWay names a way of picking at the head of a sentence.
func sentenceWay(w pick.Way) string {
	if w == pick.Free {
		return "Strokes as they fall"
	}
	return strings.ToUpper(string(w[:1])) + string(w[1:])
}

// explain says what the recommended hands do.
func (p *proposer) explain(prop Proposal, way pick.Way) string {
	r := prop.Report
	if r.Ceiling == 0 && r.Verdict == judge.Breaks {
		return "No hands can play all of it at any tempo; this is the closest: " + firstBreak(r)
	}
	parts := []string{handWords(r)}
	if r.Strokes > 1 {
		parts = append(parts, pickWords(r, way))
	}
	text := "Recommended, the least effort: " + strings.Join(parts, "; ")
	if p.place {
		if n := moved(p.written, prop.Lick); n > 0 {
			text += fmt.Sprintf("; %s elsewhere on the neck", judge.Count(n, "note"))
		}
	}
	return text + "."
}

// firstBreak is the sentence of the worst finding that breaks.
func firstBreak(r *judge.Report) string {
	for _, f := range r.Findings {
		if f.Severity == judge.Breaks {
			return f.Text
		}
	}
	return "see what breaks."
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
	var parts []string
	for _, k := range []struct {
		kind hand.Kind
		word string
	}{{hand.Move, "shift"}, {hand.Jump, "jump"}, {hand.Slide, "slide"}, {hand.Shift, "silent shift"}, {hand.Grips,
		"moved grip"}, {hand.Roll, "roll"}} {
		if n := kinds[k.kind]; n > 0 {
			parts = append(parts, judge.Count(n, k.word))
		}
	}
	if len(parts) == 0 {
		if frames <= 1 {
			return "the hand stays where it is"
		}
		return fmt.Sprintf("every finger comes down within reach, %.0f mm at the widest", r.Reach)
	}
	return strings.Join(parts, ", ") + fmt.Sprintf(", reach %.0f mm at the widest", r.Reach)
}

// pickWords counts the string changes of a way, and after which stroke they leave.
func pickWords(r *judge.Report, way pick.Way) string {
	parts := r.Changes.Words()
	picked := func(n lick.Note) bool { return n.Stroke == lick.Down || n.Stroke == lick.Up }
	if !slices.ContainsFunc(r.Lick.Notes, picked) {
		return "thumb and fingers"
	}
	if len(parts) == 0 {
		return string(way) + " on one string"
	}
	text := string(way) + " with " + strings.Join(parts, ", ")
	switch r.Exits {
	case "down", "up":
		text += ", leaves on " + r.Exits
	case "mixed":
		text += ", leaves both ways"
	}
	return text
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

// against says how other hands differ from the recommended ones.
func (p *proposer) against(l lick.Lick) string {
	if p.Ctx.Err() != nil {
		return ""
	}
	was, r := p.out[0].Report, p.Measure(l, p.hand).Alone()
	var parts []string
	if at, need := hardestOf(was), hardestOf(r); at.need > 0 && need.need > 0 {
		parts = append(parts,
			fmt.Sprintf("the hardest move is %s and needs %.0f of %.0f ms", need.where, need.need, need.have))
	}
	if diff := r.Reach - was.Reach; diff > 1 || diff < -1 {
		parts = append(parts, fmt.Sprintf("reach %.0f instead of %.0f mm", r.Reach, was.Reach))
	}
	if r.Changes != was.Changes {
		parts = append(parts, pickWords(r, p.wayOf(r)))
	}
	if len(parts) == 0 {
		return "the same needs, other fingers."
	}
	return strings.Join(parts, "; ") + "."
}

// wayOf names how a report's strokes go.
func (p *proposer) wayOf(r *judge.Report) pick.Way {
	switch {
	case r.Changes.Sweep > 0:
		return "strokes"
	default:
		return "strokes in turn"
	}
}

// hardestMove is the move that sets the ceiling: which notes, what it needs and has, in
// ms.
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
			worst, out = x.Load, hardestMove{fmt.Sprintf("note %d", i+1), x.Need, x.Have}
			if x.From >= 0 && x.From != i {
				out.where = fmt.Sprintf("%d → %d", x.From+1, i+1)
			}
		}
	}
	return out
}

// slidesOf names the slides of a line: "finger 1 from 3 to 5 on note 2".
func slidesOf(l lick.Lick) string {
	var parts []string
	for i, n := range l.Notes {
		if n.Slur != lick.Slide {
			continue
		}
		if j := l.Before(i); j >= 0 {
			parts = append(parts,
				fmt.Sprintf("finger %s from %d to %d on note %d", n.Finger, l.Notes[j].Fret, n.Fret, i+1))
		}
	}
	if len(parts) > 2 {
		parts = append(parts[:2], fmt.Sprintf("%d more", len(parts)-2))
	}
	return strings.Join(parts, ", ")
}
