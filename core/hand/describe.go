package hand

import (
	"math"
	"slices"

	"ornamen/core/lick"
	"ornamen/core/neck"
)

// describe fills in the steps of the picked path.
func (c *chain) describe(path *Path, events []Event, loop bool, picks []int) {
	at := make([]int, len(events)) // node of an event, plus one
	for k := range c.nodes {
		at[c.nodes[k].event] = k + 1
	}
	var frame Frame
	for i, e := range events {
		s := &path.Steps[i]
		s.Possible, s.Kind = true, Start
		s.Fingers = make([]lick.Finger, len(e.Touches))
		if at[i] == 0 {
			c.describeOpen(s, e, i > 0 || loop)
			s.Frame = frame
			continue
		}
		k := at[i] - 1
		c.describeNode(s, k, picks)
		frame = s.Frame
	}
	if loop && len(c.nodes) > 0 {
		// The hand comes back to leading open strings from the end.
		for i := 0; i < c.nodes[0].event; i++ {
			path.Steps[i].Frame = frame
		}
	}
	c.stretches(path.Steps, loop)
}

// stretches gives each fretted step the stretch of its stance: the widest one among the fingers
// that stand over a fret which they play before they leave it, or have played since they came.
// A finger that merely hovers stretches nothing. A loop's seam is a place like any other.
func (c *chain) stretches(steps []Step, loop bool) {
	playing := make([]Fingers, len(steps))
	for f := range lick.Little {
		mark(steps, loop, lick.Index+f, playing)
	}
	for i := range steps {
		if s := &steps[i]; slices.ContainsFunc(s.Fingers, lick.Finger.Fretting) {
			s.Stretch = c.m.Hand.Widest(c.m.Guitar, s.Frame, playing[i])
		}
	}
}

// mark adds a finger to the steps through which it stays over a fret that it plays in one of them.
func mark(steps []Step, loop bool, f lick.Finger, playing []Fingers) {
	n, first := len(steps), 0
	at := func(k int) int { return (k + n) % n }
	fret := func(k int) int { return steps[at(k)].Frame[f-lick.Index] }
	for loop && first < n && fret(first) == fret(first-1) {
		first++ // to begin where the finger comes to a fret
	}
	for a := first; a < first+n; {
		b, plays := a, false
		for ; b < first+n && fret(b) == fret(a); b++ {
			plays = plays || slices.Contains(steps[at(b)].Fingers, f)
		}
		for ; a < b; a++ {
			if plays {
				playing[at(a)] |= Only(f)
			}
		}
	}
}

// describeOpen fills the step of an event of open strings: the hand stays, the finger before lets go.
func (c *chain) describeOpen(s *Step, e Event, moves bool) {
	for j, t := range e.Touches {
		switch {
		case t.Finger == lick.Thumb:
			s.Fingers[j] = lick.Thumb
		case t.Place.Fret == 0:
			s.Fingers[j] = lick.Open
		default:
			s.Possible = false // no stance reaches it
		}
		if moves {
			s.Kind, s.Need = ToOpen, max(s.Need, c.m.scale(c.m.toOpen(t)))
		}
	}
	if moves {
		s.Load = s.Need / e.Have
	}
}

// describeNode fills the step of a fretted event: fingers, frame and the move into it.
func (c *chain) describeNode(s *Step, k int, picks []int) {
	n := &c.nodes[k]
	q := n.stand[picks[k]]
	b := &c.m.stances[q.stance]
	s.Frame, s.Possible = b.frame, !n.broken
	for j, t := range n.touches {
		switch {
		case t.fretted():
			s.Fingers[j] = lick.Index + lick.Finger(q.fingers[j])
		case t.Place.Fret == 0:
			s.Fingers[j] = lick.Open
		case t.Finger == lick.Thumb && !n.broken:
			s.Fingers[j] = lick.Thumb
		}
	}
	l, from := c.into(k)
	if l == nil {
		if k == 0 && c.leadIn > 0 {
			s.Kind, s.Need = Move, c.m.scale(c.leadIn)+c.m.scale(b.standing)
			s.Load = s.Need / c.leadBy
		}
		s.Reach = c.m.reach(nil, posture{}, n.touches, q)
		return
	}
	a := &c.nodes[from]
	p := a.stand[picks[from]]
	s.Need, s.Kind, s.Part = c.m.transition(a.touches, p, l.touches, q, l.viaOpen)
	s.Load = s.Need / l.have
	s.Way = neck.MM(math.Abs(float64(b.centre - c.m.stances[p.stance].centre)))
	if l.viaOpen {
		s.Reach = c.m.reach(nil, p, n.touches, q)
	} else {
		s.Reach = c.m.reach(a.touches, p, n.touches, q)
	}
}

// into is the link that leads into node k and the node it comes from.
func (c *chain) into(k int) (*link, int) {
	if k > 0 {
		return &c.links[k-1], k - 1
	}
	return c.close, len(c.nodes) - 1
}

// reach is the widest distance between two fingers that are in use at once:
// those of one event, and those still standing from the event before it.
func (m *Model) reach(x []Touch, p posture, y []Touch, q posture) neck.MM {
	lo, hi := neck.MM(never), neck.MM(0)
	span := func(t Touch) {
		lo, hi = min(lo, m.Guitar.Press(t.Place.Fret)), max(hi, m.Guitar.Press(t.Place.Fret))
	}
	for _, t := range y {
		if t.fretted() {
			span(t)
		}
	}
	for i, t := range x {
		if f := p.fingers[i]; f != noFinger && m.stances[q.stance].frame[f] == t.Place.Fret {
			span(t)
		}
	}
	return max(0, hi-lo)
}
