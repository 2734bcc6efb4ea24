package hand

import (
	"math"
	"slices"

	"ornamen/core/lick"
)

// node is one fretted event of the line with the postures it may take.
type node struct {
	event   int
	touches []Touch
	stand   []posture
	allowed []int // into stand, rising
	broken  bool  // no posture, or no move into it, keeps what is asked
}

// link leads from a node to the next one.
type link struct {
	*matrix
	have    float64
	viaOpen bool
	touches []Touch // of the node it leads to, as the matrix took them
}

// load is the move's need over the time there is.
func (l *link) load(i, j int) float64 { return l.need[i*len(l.to)+j] / l.have }

// chain is the line as the search sees it: fretted events only, since an open
// string leaves the hand where it is.
type chain struct {
	m      *Model
	nodes  []node
	links  []link  // links[k] leads from nodes[k] to nodes[k+1]
	close  *link   // from the last node back to the first, in a loop
	leadIn float64 // ms the first node needs when open strings come before it
	leadBy float64 // have of that move
	opens  float64 // largest load of moves to open strings
	lost   bool    // a fretted event has no node: no stance reaches any of it
}

// newChain lays the events out. Postures and moves that nothing can satisfy are
// marked broken and judged as if the lock or the slur were not there, so that
// the rest of the line still gets its hand.
func (m *Model) newChain(events []Event, loop bool) *chain {
	c := &chain{m: m}
	for i, e := range events {
		if i > 0 || loop {
			for _, t := range e.Touches {
				if !t.fretted() {
					c.opens = max(c.opens, m.scale(m.toOpen(t))/e.Have)
				}
			}
		}
		if n, ok := m.newNode(i, e.Touches); ok {
			c.nodes = append(c.nodes, n)
		} else if e.fretted() {
			c.lost = true
		}
	}
	if len(c.nodes) == 0 {
		return c
	}
	reach := c.nodes[0].allowed
	for k := 1; k < len(c.nodes); k++ {
		l, next := c.connect(k-1, k, events[c.nodes[k].event].Have, c.nodes[k].event > c.nodes[k-1].event+1, reach)
		c.links = append(c.links, l)
		reach = next
	}
	first, last := c.nodes[0].event, c.nodes[len(c.nodes)-1].event
	switch {
	case loop:
		c.closeLoop(events, first > 0 || last < len(events)-1, reach)
	case first > 0:
		c.leadIn, c.leadBy = placeFinger, events[first].Have
		for _, t := range c.nodes[0].touches {
			if t.Slur == lick.Hammer {
				c.leadIn = placeFinger + hammerExtra
			}
		}
	}
	return c
}

func (m *Model) newNode(i int, touches []Touch) (node, bool) {
	n := node{event: i, touches: touches}
	if !(Event{Touches: touches}).fretted() {
		return n, false
	}
	n.stand = m.stand(touches)
	for len(n.stand) == 0 {
		// No hand stands so: let go of the last finger that must press.
		n.broken = true
		n.touches = slices.Clone(n.touches)
		for j := len(n.touches) - 1; j >= 0; j-- {
			if n.touches[j].fretted() {
				n.touches[j].Finger = lick.Thumb
				break
			}
		}
		if !(Event{Touches: n.touches}).fretted() {
			return n, false
		}
		n.stand = m.stand(n.touches)
	}
	n.allow(false)
	if len(n.allowed) == 0 {
		n.broken = true
		n.allow(true)
	}
	return n, true
}

func (n *node) allow(all bool) {
	n.allowed = make([]int, 0, len(n.stand))
	for j, p := range n.stand {
		if all || allows(n.touches, p) {
			n.allowed = append(n.allowed, j)
		}
	}
}

// connect finds the moves between two nodes and which postures of the second
// can be reached. Where none can, the slurs and held notes of the second are
// let go and it is marked broken.
func (c *chain) connect(from, to int, have float64, viaOpen bool, reach []int) (link, []int) {
	a, b := &c.nodes[from], &c.nodes[to]
	l := link{have: have, viaOpen: viaOpen, touches: b.touches}
	l.matrix = c.m.between(a.touches, b.touches, viaOpen)
	next := l.reachable(reach, b.allowed)
	if len(next) == 0 {
		b.broken = true
		l.touches = plainTouches(b.touches)
		l.matrix = c.m.between(a.touches, l.touches, viaOpen)
		next = l.reachable(reach, b.allowed)
	}
	return l, next
}

func (l *link) reachable(from, to []int) []int {
	var out []int
	for _, j := range to {
		for _, i := range from {
			if l.load(i, j) < never {
				out = append(out, j)
				break
			}
		}
	}
	return out
}

func plainTouches(touches []Touch) []Touch {
	out := slices.Clone(touches)
	for i := range out {
		out[i].Slur, out[i].Held = "", false
	}
	return out
}

func (c *chain) closeLoop(events []Event, viaOpen bool, reach []int) {
	n := len(c.nodes)
	l, _ := c.connect(n-1, 0, events[c.nodes[0].event].Have, viaOpen, reach)
	c.close = &l
	if math.IsInf(c.bound(), 1) {
		// Each half can be done, but not the round: let the turn go.
		c.nodes[0].broken = true
		l.touches = plainTouches(c.nodes[0].touches)
		l.matrix = c.m.between(c.nodes[n-1].touches, l.touches, viaOpen)
	}
}
