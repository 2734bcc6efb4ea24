package propose

import (
	"cmp"
	"context"
	"math"
	"slices"

	"ornamen/core/hand"
	"ornamen/core/lick"
)

// slurrer slurs one line. It is made for the line and gone with it; what it has found out comes back from legato.
type slurrer struct {
	question
	hand    *hand.Model
	columns [][2]int               // of the line
	groups  map[string]groupResult // that were measured: runs come back to the same ones
}

// legato slurs every note that follows another on its string, unless the player set its slur or its stroke: hammers up,
// pulls down. Four tones on a string need a slide (common practice): where a slide makes such a group, or one that no
// hand can do, easier, it is put where the group becomes easiest; the other slides that would do come back beside the
// line, each a row of moves. What still cannot be done is picked.
func (e question) legato(ctx context.Context, m *hand.Model, l lick.Lick) (out lick.Lick, others [][]slideAt) {
	out = l.Clone()
	s := slurrer{question: e, hand: m, columns: out.Columns(), groups: map[string]groupResult{}}
	var slides []slid
	for _, g := range groups(l) {
		if x, ok := s.slurGroup(ctx, &out, g); ok {
			slides = append(slides, x)
		}
	}
	return out, s.slideAlike(&out, slides)
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
// where that does not help, the note that stands in the way is picked again. ok says that it slides.
func (s *slurrer) slurGroup(ctx context.Context, out *lick.Lick, g group) (x slid, ok bool) {
	cols := s.columns
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
		load, broken := s.groupLoad(ctx, *out, g)
		if broken >= 0 {
			load = math.Inf(1)
		} else if g.to-g.from < manyTones || s.inPosition(*out, g) {
			return slid{}, false
		}
		if x, ok := s.slideIn(ctx, out, added, g, load); ok || broken < 0 {
			return x, ok
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
	return slid{}, false
}

// inPosition says whether the tones of a group lie a finger a fret, without strain: then no slide is
// asked for, wherever on the neck (common practice).
func (s *slurrer) inPosition(l lick.Lick, g group) bool {
	low, high := lick.MaxFret, 0
	for c := g.from; c < g.to; c++ {
		fret := l.Notes[s.columns[c][0]].Fret
		low, high = min(low, fret), max(high, fret)
	}
	return low > 0 && high-low < 4 && s.hand.Easy(hand.Frame{low, low + 1, low + 2, low + 3})
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

// slideIn turns one added slur into the slide that makes the group easiest, if it then weighs clearly less than load,
// and says what other slides would do; ok is false where none helps.
func (s *slurrer) slideIn(ctx context.Context, out *lick.Lick, added []int, g group, load float64) (x slid, ok bool) {
	x = slid{group: g, best: -1, works: map[int]int{}, loads: map[int]float64{}}
	least := load / slideGain
	for _, i := range added {
		j := out.Before(i)
		if out.Notes[i].Fret == 0 || j < 0 || out.Notes[j].Fret == 0 {
			continue
		}
		was := out.Notes[i].Slur
		out.Notes[i].Slur = lick.Slide
		if l, broken := s.groupLoad(ctx, *out, g); broken < 0 && l < load/slideGain {
			step := i - s.columns[g.from][0]
			x.works[step], x.loads[step] = i, l
			if l < least*(1-1e-9) {
				x.best, least = step, l
			}
		}
		out.Notes[i].Slur = was
	}
	if x.best < 0 {
		return x, false
	}
	out.Notes[x.works[x.best]].Slur = lick.Slide
	return x, true
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
func (s *slurrer) slideAlike(out *lick.Lick, slides []slid) (others [][]slideAt) {
	like := map[[2]int][]slid{}
	var order [][2]int
	for _, x := range slides {
		first, last := s.columns[x.group.from][0], s.columns[x.group.to-1][0]
		key := [2]int{x.group.to - x.group.from, cmp.Compare(out.Notes[last].Fret, out.Notes[first].Fret)}
		if like[key] == nil {
			order = append(order, key)
		}
		like[key] = append(like[key], x)
	}
	for _, key := range order {
		all := like[key]
		steps := inAll(all)
		if len(steps) == 0 {
			continue
		}
		chosen := steps[0]
		for _, x := range all {
			move(out, x.works[x.best], x.works[chosen])
		}
		for _, step := range steps[1:] {
			var moves []slideAt
			for _, x := range all {
				moves = append(moves, slideAt{x.works[chosen], x.works[step]})
			}
			others = append(others, moves)
		}
	}
	return others
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
func (s *slurrer) groupLoad(ctx context.Context, l lick.Lick, g group) (load float64, broken int) {
	cols := s.columns
	from, to := max(0, g.from-1), min(len(cols), g.to+1)
	part := l
	part.Loop = false
	part.Notes = l.Notes[cols[from][0]:cols[to-1][1]]
	key := groupKey(part)
	known, ok := s.groups[key]
	if !ok {
		path := s.hand.Frames(ctx, s.LayOut(part, false).Hand, false)
		known = groupResult{path.Bound, slices.IndexFunc(path.Steps, func(x hand.Step) bool { return !x.Possible })}
		if ctx.Err() != nil {
			return known.load, -1
		}
		s.groups[key] = known
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
