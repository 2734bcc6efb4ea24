package propose

import (
	"context"
	"fmt"
	"slices"

	"ornamen/core/figure"
	"ornamen/core/hand"
	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/load"
	"ornamen/core/say"
)

// A run repeats a cell, moved over the strings or along the neck. The recommended hands take
// the least effort at each place; a player who learns one cell may want the same fingers in
// all of them. Where the two differ, both stand side by side with their ceilings.

// oneFingering finds the hands that play every cell of a shape with the same fingers, those that
// most of them have in the recommended hands. Of cells that are moved along the neck they are the
// recommended ones where they cost next to nothing; else, as where cells lie on other strings of one
// position, which has fingers of its own, they stand beside with what they cost.
func (p *proposer) oneFingering(ctx context.Context) {
	is, hands := p.out[0], p.out[0].Lick
	if p.late { // the hands that are taught are others, and have one fingering where that can be
		hands = p.base.Clone()
		p.Fingers(ctx, &hands, p.LayOut(hands, false), p.hand, load.Slack)
	}
	found := figure.FindCells(figuresOf(is.Lick))
	l, same, along := p.base.Clone(), true, true
	for _, cells := range found.Groups {
		way, all := usualFingers(hands, cells, found.Size)
		all = all && judge.HandsKey(hands) == judge.HandsKey(is.Lick)
		same, along = same && all, along && (all || onSameStrings(is.Lick, cells))
		if !all && !hold(&l, cells, way) {
			return
		}
	}
	if same || p.few && !along {
		return
	}
	got := p.decide(ctx, l, p.way, load.Slack)
	r := p.Measure(ctx, got, p.hand).Alone()
	switch {
	case r.Ceiling <= 0:
	case along && r.Ceiling >= is.Ceiling*(1-uniformCost) && r.Verdict <= is.Report.Verdict &&
		leaps(r) <= leaps(is.Report):
		p.out = nil
		p.add(ctx, recommended, say.Recommendation(), got, p.bound, "", p.way)
	default:
		p.add(ctx, uniform, say.OneFingering(), got, p.bound,
			p.other(ctx, say.SameFingers(r.Ceiling.Whole(), is.Ceiling.Whole()), got), p.way)
	}
}

// onSameStrings says whether cells lie on the same strings, moved along the neck.
func onSameStrings(l lick.Lick, cells []int) bool {
	return !slices.ContainsFunc(cells, func(k int) bool { return l.Notes[k].String != l.Notes[cells[0]].String })
}

// leaps counts the moves in which one finger goes elsewhere.
func leaps(r *judge.Report) (n int) {
	for _, x := range r.Notes {
		if x.Kind == hand.Jump || x.Kind == hand.Guided {
			n++
		}
	}
	return n
}

// figuresOf is a line as figures see it, a column a note: notes that sound together make no cell.
func figuresOf(l lick.Lick) [][]figure.Note {
	out := make([][]figure.Note, len(l.Notes))
	for i, n := range l.Notes {
		alone := (i == 0 || l.Notes[i-1].At.Cmp(n.At) != 0) && (i+1 == len(l.Notes) || l.Notes[i+1].At.Cmp(n.At) != 0)
		mark := string(n.Slur)
		if n.Bend != nil {
			mark += "bent"
		}
		out[i] = []figure.Note{{Place: n.Place(), Pressed: n.Fret > 0 && alone, Mark: mark}}
	}
	return out
}

// usualFingers are the fingers that most of the cells have, the first ones of several; all
// says that they all have them.
func usualFingers(l lick.Lick, cells []int, size int) (way []lick.Finger, all bool) {
	counts := map[string]int{}
	most := 0
	for _, k := range cells {
		fingers := make([]lick.Finger, size)
		for i := range fingers {
			fingers[i] = l.Notes[k+i].Finger
		}
		key := fmt.Sprint(fingers)
		if counts[key]++; counts[key] > most {
			most, way = counts[key], fingers
		}
	}
	return way, most == len(cells)
}

// hold sets the fingers of cells; false where one is set otherwise.
func hold(l *lick.Lick, cells []int, way []lick.Finger) bool {
	for _, k := range cells {
		for i, f := range way {
			n := &l.Notes[k+i]
			if n.Finger != lick.NoFinger && n.Finger != f {
				return false
			}
			n.Finger = f
		}
	}
	return true
}
