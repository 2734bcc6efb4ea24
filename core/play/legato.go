package play

import "ornamen/core/lick"

// legato slurs every note that follows another on its string, unless the player
// set its slur or its stroke: hammers up, pulls down. Where no hand can do a
// group so, one of its slurs becomes a slide, the one that leaves the group
// easiest; the other slides that would do are kept as alternatives. What still
// cannot be done is picked.
func (p *proposer) legato(l lick.Lick) lick.Lick {
	out := l.Clone()
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
		for single(c) && g.to < len(cols) && single(g.to) && l.Notes[cols[g.to][0]].String == l.Notes[cols[c][0]].String {
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
	cols := out.Columns()
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
		_, broken := p.groupLoad(*out, g)
		if broken < 0 {
			return
		}
		if p.slideIn(out, g, added) {
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

// slideIn turns one added slur into the best slide and keeps the other ones.
func (p *proposer) slideIn(out *lick.Lick, g group, added []int) bool {
	best, least := -1, 0.0
	var works []int
	for _, i := range added {
		j := out.Before(i)
		if out.Notes[i].Fret == 0 || j < 0 || out.Notes[j].Fret == 0 {
			continue
		}
		was := out.Notes[i].Slur
		out.Notes[i].Slur = lick.Slide
		if load, broken := p.groupLoad(*out, g); broken < 0 {
			works = append(works, i)
			if best < 0 || load < least*(1-1e-9) {
				best, least = i, load
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
// beside it, and the column that cannot be done (−1: all can).
func (p *proposer) groupLoad(l lick.Lick, g group) (load float64, broken int) {
	events := p.layOut(l, false).hand
	from, to := max(0, g.from-1), min(len(events), g.to+1)
	path := p.hand.Solve(events[from:to], false, 1)
	for c, s := range path.Steps {
		if !s.Possible {
			return path.Bound, from + c
		}
	}
	return path.Bound, -1
}
