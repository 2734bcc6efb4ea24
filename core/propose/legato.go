package propose

import (
	"cmp"
	"context"
	"math"
	"slices"

	"ornamen/core/hand"
	"ornamen/core/lick"
)

// legato slurs every note that follows another on its string, unless the player set its slur or its stroke: hammers up,
// pulls down. Four tones on a string need a slide (common practice): where a slide makes such a group, or one that no
// hand can do, easier, it is put where the group becomes easiest; the other slides that would do are kept as
// alternatives. What still cannot be done is picked.
func (p *proposer) legato(ctx context.Context, l lick.Lick) lick.Lick {
	out := l.Clone()
	p.columns = out.Columns()
	for _, g := range groups(l) {
		p.slurGroup(ctx, &out, g)
	}
	p.slideAlike(&out)
	return out
}

// group is a run of single notes on one string: columns [from, to).
type group struct{ from, to int }

// groups finds the runs of more than one note.
func groups(l lick.Lick) []group {
	cols := l.Columns()
	single := func(c int) bool { return cols[c][1]-cols[c][0] == 1 }
	var out []group
	for c := 0; c < len(cols); {
		g := group{c, c + 1}
		for single(c) && g.to < len(cols) && single(g.to) &&
			l.Notes[cols[g.to][0]].String == l.Notes[cols[c][0]].String {
			g.to++
		}
		if g.to-g.from > 1 {
			out = append(out, g)
		}
		c = g.to
	}
	return out
}

// slurGroup slurs the notes of a string that follow one another, from the second on:
// hammers up, pulls down. What the player has locked or muted stays picked. A group that
// the hand cannot play so, or that has many tones and more than a position holds, tries one of its slurs as a slide;
// where that does not help, the note that stands in the way is picked again.
func (p *proposer) slurGroup(ctx context.Context, out *lick.Lick, g group) {
	cols := p.columns
	var added []int
	for c := g.from + 1; c < g.to; c++ {
		i := cols[c][0]
		if n := out.Notes[i]; n.Slur != "" || n.Locked(lick.FieldSlur) || n.Locked(lick.FieldStroke) || n.Mute {
			continue
		}
		if setSlur(out, i, cols[c-1][0]) {
			added = append(added, i)
		}
	}
	for len(added) > 0 {
		load, broken := p.groupLoad(ctx, *out, g)
		if broken >= 0 {
			load = math.Inf(1)
		} else if g.to-g.from < manyTones || p.inPosition(*out, g) {
			return
		}
		if p.slideIn(ctx, out, added, g, load) || broken < 0 {
			return
		}
		// Nothing helps as a slide: pick the note that cannot be slurred.
		k := 0
		for n, i := range added {
			if i <= cols[broken][0] {
				k = n
			}
		}
		out.Notes[added[k]].Slur = ""
		added = append(added[:k], added[k+1:]...)
	}
}

// inPosition says whether the tones of a group lie a finger a fret, without strain: then no slide is
// asked for, wherever on the neck (common practice).
func (p *proposer) inPosition(l lick.Lick, g group) bool {
	low, high := lick.MaxFret, 0
	for c := g.from; c < g.to; c++ {
		fret := l.Notes[p.columns[c][0]].Fret
		low, high = min(low, fret), max(high, fret)
	}
	return low > 0 && high-low < 4 && p.hand.Easy(hand.Frame{low, low + 1, low + 2, low + 3})
}

// setSlur leads into note i from a note of its string as the frets allow; false where the fret repeats.
func setSlur(l *lick.Lick, i, from int) bool {
	n := &l.Notes[i]
	slur := lick.Hammer.Between(l.Notes[from].Fret, n.Fret)
	if slur == "" {
		return false
	}
	n.Slur, n.Stroke = slur, ""
	return true
}

// manyTones on one string are likely to need a slide; a slide must make them
// easier by slideGain to be put in (model default).
const (
	manyTones = 4
	slideGain = 1.06
)

// slideIn turns one added slur into the slide that makes the group easiest, if
// it then weighs clearly less than load, and keeps what other slides would do.
func (p *proposer) slideIn(ctx context.Context, out *lick.Lick, added []int, g group, load float64) bool {
	s := slid{group: g, best: -1, works: map[int]int{}, loads: map[int]float64{}}
	least := load / slideGain
	for _, i := range added {
		j := out.Before(i)
		if out.Notes[i].Fret == 0 || j < 0 || out.Notes[j].Fret == 0 {
			continue
		}
		was := out.Notes[i].Slur
		out.Notes[i].Slur = lick.Slide
		if l, broken := p.groupLoad(ctx, *out, g); broken < 0 && l < load/slideGain {
			step := i - p.columns[g.from][0]
			s.works[step], s.loads[step] = i, l
			if l < least*(1-1e-9) {
				s.best, least = step, l
			}
		}
		out.Notes[i].Slur = was
	}
	if s.best < 0 {
		return false
	}
	out.Notes[s.works[s.best]].Slur = lick.Slide
	p.slid = append(p.slid, s)
	return true
}

// slid is a group that takes a slide, and the notes that may be slid into, by how many steps they lie from its first.
type slid struct {
	group group
	best  int
	works map[int]int
	loads map[int]float64 // by step
}

// slideAlike lets groups of one size and direction slide at the same step, so that the hand does one thing on every
// string, at a step that does in all of them. Any other such step is an alternative for all.
func (p *proposer) slideAlike(out *lick.Lick) {
	like := map[[2]int][]slid{}
	var order [][2]int
	for _, s := range p.slid {
		first, last := p.columns[s.group.from][0], p.columns[s.group.to-1][0]
		key := [2]int{s.group.to - s.group.from, cmp.Compare(out.Notes[last].Fret, out.Notes[first].Fret)}
		if like[key] == nil {
			order = append(order, key)
		}
		like[key] = append(like[key], s)
	}
	for _, key := range order {
		all := like[key]
		steps := inAll(all)
		if len(steps) == 0 {
			continue
		}
		chosen := steps[0]
		for _, s := range all {
			move(out, s.works[s.best], s.works[chosen])
		}
		for _, step := range steps[1:] {
			var moves []slideAt
			for _, s := range all {
				moves = append(moves, slideAt{s.works[chosen], s.works[step]})
			}
			p.slides = append(p.slides, moves)
		}
	}
}

// inAll lists the steps at which every one of the groups may slide: the last one first and the first one next, as most
// players do it (common practice), but for those that are clearly harder than the easiest.
func inAll(all []slid) []int {
	var steps []int
	worst := map[int]float64{}
	least, last := math.Inf(1), all[0].group.to-all[0].group.from-1
	for step := range all[0].works {
		if slices.ContainsFunc(all, func(s slid) bool { _, ok := s.works[step]; return !ok }) {
			continue
		}
		steps = append(steps, step)
		for _, s := range all {
			worst[step] = max(worst[step], s.loads[step])
		}
		least = min(least, worst[step])
	}
	place := func(step int) int {
		switch {
		case worst[step] > least*slideGain:
			return 3
		case step == last:
			return 0
		case step == 1:
			return 1
		}
		return 2
	}
	slices.SortFunc(steps, func(a, b int) int { return cmp.Or(cmp.Compare(place(a), place(b)), cmp.Compare(a, b)) })
	return steps
}

// slideAt puts a group's slide elsewhere: on note to instead of note from.
type slideAt struct{ from, to int }

// move takes a group's slide from one note to another.
func move(l *lick.Lick, from, to int) {
	if from == to {
		return
	}
	setSlur(l, from, l.Before(from))
	l.Notes[to].Slur = lick.Slide
}

// elsewhere is the line with its slides at other steps.
func elsewhere(l lick.Lick, moves []slideAt) lick.Lick {
	out := l.Clone()
	for _, m := range moves {
		move(&out, m.from, m.to)
	}
	return out
}

// groupLoad is the least possible largest load of a group with the columns beside it, and the column that cannot be
// done (−1: all can). Runs come back to the same groups, so they are remembered.
func (p *proposer) groupLoad(ctx context.Context, l lick.Lick, g group) (load float64, broken int) {
	cols := p.columns
	from, to := max(0, g.from-1), min(len(cols), g.to+1)
	part := l
	part.Loop = false
	part.Notes = l.Notes[cols[from][0]:cols[to-1][1]]
	key := groupKey(part)
	known, ok := p.groups[key]
	if !ok {
		path := p.hand.Frames(ctx, p.LayOut(part, false).Hand, false)
		known = groupResult{path.Bound, slices.IndexFunc(path.Steps, func(s hand.Step) bool { return !s.Possible })}
		if ctx.Err() != nil {
			return known.load, -1
		}
		if p.groups == nil {
			p.groups = map[string]groupResult{}
		}
		p.groups[key] = known
	}
	if known.broken < 0 {
		return known.load, -1
	}
	return known.load, from + known.broken
}

// groupResult is what a group of notes costs alone: its largest load, and its first column
// that cannot be done, −1 for none.
type groupResult struct {
	load   float64
	broken int
}

// groupKey is what a group's load depends on.
func groupKey(l lick.Lick) string {
	var b []byte
	for i, n := range l.Notes {
		b = append(b, byte(n.String), byte(n.Fret), byte(n.Finger))
		b = append(b, n.Slur...)
		if i > 0 {
			b = append(b, n.At.Sub(l.Notes[i-1].At).String()...)
		}
		b = append(b, '/')
		b = append(b, n.Len.String()...)
		b = append(b, ';')
	}
	return string(b)
}
