package propose

import (
	"math"
	"slices"

	"ornamen/core/hand"
	"ornamen/core/lick"
)

// legato slurs every note that follows another on its string, unless the player
// set its slur or its stroke: hammers up, pulls down. Four tones on a string need
// a slide (common practice): where a slide makes such a group, or one that no
// hand can do, easier, it is put where the group becomes easiest; the other
// slides that would do are kept as alternatives. What still cannot be done is
// picked.
func (p *proposer) legato(l lick.Lick) lick.Lick {
	out := l.Clone()
	p.columns = out.Columns()
	for _, g := range groups(l) {
		p.slurGroup(&out, g)
	}
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

func (p *proposer) slurGroup(out *lick.Lick, g group) {
	cols := p.columns
	var added []int
	for c := g.from + 1; c < g.to; c++ {
		i := cols[c][0]
		if n := out.Notes[i]; n.Slur != "" || n.Locked("slur") || n.Locked("stroke") || n.Mute {
			continue
		}
		if setSlur(out, i, cols[c-1][0]) {
			added = append(added, i)
		}
	}
	for len(added) > 0 {
		load, broken := p.groupLoad(*out, g)
		if broken >= 0 {
			load = math.Inf(1)
		} else if g.to-g.from < manyTones {
			return
		}
		if p.slideIn(out, added, g, load) || broken < 0 {
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

func setSlur(l *lick.Lick, i, from int) bool {
	n := &l.Notes[i]
	switch before := l.Notes[from]; {
	case n.Fret > before.Fret:
		n.Slur = lick.Hammer
	case n.Fret < before.Fret:
		n.Slur = lick.Pull
	default:
		return false
	}
	n.Stroke = ""
	return true
}

// manyTones on one string are likely to need a slide; a slide must make them
// easier by slideGain to be put in (model default).
const (
	manyTones = 4
	slideGain = 1.06
)

// slideIn turns one added slur into the slide that makes the group easiest, if
// it then weighs clearly less than load, and keeps the other slides.
func (p *proposer) slideIn(out *lick.Lick, added []int, g group, load float64) bool {
	best, least := -1, load/slideGain
	var works []int
	for _, i := range added {
		j := out.Before(i)
		if out.Notes[i].Fret == 0 || j < 0 || out.Notes[j].Fret == 0 {
			continue
		}
		was := out.Notes[i].Slur
		out.Notes[i].Slur = lick.Slide
		if l, broken := p.groupLoad(*out, g); broken < 0 && l < load/slideGain {
			works = append(works, i)
			if l < least*(1-1e-9) {
				best, least = i, l
			}
		}
		out.Notes[i].Slur = was
	}
	if best < 0 {
		return false
	}
	for _, i := range works {
		if i != best {
			p.slides = append(p.slides, slideAt{best, i})
		}
	}
	out.Notes[best].Slur = lick.Slide
	return true
}

// slideAt puts a group's slide elsewhere: on note to instead of note from.
type slideAt struct{ from, to int }

func (s slideAt) apply(l lick.Lick) lick.Lick {
	out := l.Clone()
	setSlur(&out, s.from, out.Before(s.from))
	out.Notes[s.to].Slur = lick.Slide
	return out
}

// groupLoad is the least possible largest load of a group with the columns
// beside it, and the column that cannot be done (−1: all can). Runs come back to
// the same groups, so they are remembered.
func (p *proposer) groupLoad(l lick.Lick, g group) (load float64, broken int) {
	cols := p.columns
	from, to := max(0, g.from-1), min(len(cols), g.to+1)
	part := l
	part.Loop = false
	part.Notes = l.Notes[cols[from][0]:cols[to-1][1]]
	key := groupKey(part)
	known, ok := p.groups[key]
	if !ok {
		path := p.hand.Frames(p.Ctx, p.LayOut(part, false).Hand, false)
		known = groupResult{path.Bound, slices.IndexFunc(path.Steps, func(s hand.Step) bool { return !s.Possible })}
		if p.Ctx.Err() != nil {
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
