package hand

import (
	"context"
	"math"
	"slices"

	"ornamen/core/figure"
	"ornamen/core/lick"
)

// node is one fretted event of the line with the postures it may take.
type node struct {
	event   int
	touches []Touch
	stand   []posture
	allowed []int // into stand, rising
	broken  bool  // no posture, or no move into it, keeps what is asked
	cell    int   // of the recipe, see Event
}

// keep lets only postures of a sort be taken; false, and nothing is changed, where there is none.
func (n *node) keep(is func(posture) bool) bool {
	kept := make([]int, 0, len(n.allowed))
	for _, j := range n.allowed {
		if is(n.stand[j]) {
			kept = append(kept, j)
		}
	}
	if len(kept) == 0 {
		return false
	}
	n.allowed = kept
	return true
}

// link leads from a node to the next one. It names its moves and does not hold
// them, so that a long line needs no more memory than the model keeps.
type link struct {
	m       *Model
	key     string
	from    []Touch
	touches []Touch // of the node it leads to, as the moves take them
	have    float64
	viaOpen bool
	inCell  bool // both nodes are of one cell
}

// newLink names the moves from one node's touches to the next one's, in the time there is;
// viaOpen says that open strings sound between the two.
func (m *Model) newLink(from, to []Touch, have float64, viaOpen bool) link {
	return link{m: m, key: moveKey(from, to, viaOpen), from: from, touches: to, have: have, viaOpen: viaOpen}
}

// weighed is the link's moves with the time there is.
func (l *link) weighed() weighed {
	return weighed{m: l.m, matrix: l.m.matrix(l.key, l.from, l.touches, l.viaOpen), have: l.have, inCell: l.inCell}
}

// weighed is a matrix with the time that its moves have.
type weighed struct {
	m *Model
	*matrix
	have   float64
	inCell bool
}

// load is the move's need over the time there is.
func (w weighed) load(i, j int) float64 { return w.need[i*len(w.to)+j] / w.have }

// chain is the line as the search sees it: fretted events only, since an open string leaves the hand where it is.
type chain struct {
	m      *Model
	nodes  []node
	links  []link  // links[k] leads from nodes[k] to nodes[k+1]
	close  *link   // from the last node back to the first, in a loop
	leadIn float64 // ms the first node needs when open strings come before it
	leadBy float64 // have of that move
	waits  bool    // open strings lie among its notes
	opens  float64 // largest load of moves to open strings
	lost   bool    // a fretted event has no node: no stance reaches any of it
	known  float64 // the bound, once it was found; 0 before

	figured [][]figure.Usual // by node and touch, once they were asked for

	celled    bool // the cells were looked for
	tiedCells []cell
	solo      [][]int8 // by node, its finger in its cell by itself; nil for none
}

// copied is the chain with nodes of its own, for fewer postures to be allowed.
func (c *chain) copied() *chain {
	h := *c
	h.known = 0
	h.nodes = slices.Clone(c.nodes)
	return &h
}

// newChain lays the events out. Postures and moves that nothing can satisfy are marked broken and judged as if the lock
// or the slur were not there, so that the rest of the line still gets its hand. Once the context has ended the search
// stops and means nothing.
func (m *Model) newChain(ctx context.Context, events []Event, loop bool) *chain {
	c := &chain{m: m}
	for i, e := range events {
		if i > 0 || loop {
			c.opens = max(c.opens, m.opensOf(e))
		}
		if n, ok := m.newNode(i, e.Touches); ok {
			n.cell = e.Cell
			c.nodes = append(c.nodes, n)
		} else if e.fretted() {
			c.lost = true
		} else {
			c.waits = true
		}
	}
	if len(c.nodes) == 0 {
		return c
	}
	reach := c.nodes[0].allowed
	for k := 1; k < len(c.nodes); k++ {
		if ctx.Err() != nil {
			c.nodes = c.nodes[:k]
			return c
		}
		l, next := c.connect(k-1, k, events[c.nodes[k].event].Have, c.nodes[k].event > c.nodes[k-1].event+1, reach)
		c.links = append(c.links, l)
		reach = next
	}
	first, last := c.nodes[0].event, c.nodes[len(c.nodes)-1].event
	switch {
	case loop:
		c.closeLoop(ctx, events, first > 0 || last < len(events)-1, reach)
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

// newNode lists the postures that may play the touches of event i; ok is false where nothing of it is fretted. Where no
// hand stands so, fretted touches are let go from the last on until one does, and the node is marked broken; so it is
// where no posture keeps the fingers that are set.
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
	n.allowed = m.allowed(n.touches, n.stand)
	if len(n.allowed) == 0 {
		n.broken = true
		for j := range n.stand {
			n.allowed = append(n.allowed, j)
		}
	}
	return n, true
}

// allowed lists the postures that keep the fingers that are set. Fingers stand
// behind the first fret only where nothing else keeps them.
func (m *Model) allowed(touches []Touch, stand []posture) []int {
	out := make([]int, 0, len(stand))
	for _, back := range []bool{false, true} {
		for j, p := range stand {
			if (m.stances[p.stance].frame[0] < 1) == back && allows(touches, p) {
				out = append(out, j)
			}
		}
		if len(out) > 0 {
			break
		}
	}
	return out
}

// connect finds the moves between two nodes and which postures of the second can be reached. Where none can, the slurs
// and held notes of the second are let go and it is marked broken.
func (c *chain) connect(from, to int, have float64, viaOpen bool, reach []int) (link, []int) {
	a, b := &c.nodes[from], &c.nodes[to]
	l := c.m.newLink(a.touches, b.touches, have, viaOpen)
	next := l.weighed().reachable(reach, b.allowed)
	if len(next) == 0 {
		b.broken = true
		l = c.m.newLink(a.touches, plainTouches(b.touches), have, viaOpen)
		next = l.weighed().reachable(reach, b.allowed)
	}
	return l, next
}

// reachable are those of to that some posture of from can move to.
func (w weighed) reachable(from, to []int) []int {
	var out []int
	for _, j := range to {
		for _, i := range from {
			if w.load(i, j) < never {
				out = append(out, j)
				break
			}
		}
	}
	return out
}

// plainTouches are the places alone, without what is asked of them.
func plainTouches(touches []Touch) []Touch {
	out := slices.Clone(touches)
	for i := range out {
		out[i].Slur, out[i].Held = "", false
	}
	return out
}

// closeLoop adds the move from the last node back to the first one.
func (c *chain) closeLoop(ctx context.Context, events []Event, viaOpen bool, reach []int) {
	n := len(c.nodes)
	l, _ := c.connect(n-1, 0, events[c.nodes[0].event].Have, viaOpen, reach)
	c.close = &l
	if math.IsInf(c.bound(ctx), 1) {
		// Each half can be done, but not the round: let the turn go.
		c.nodes[0].broken, c.known = true, 0
		l = c.m.newLink(c.nodes[n-1].touches, plainTouches(c.nodes[0].touches), l.have, viaOpen)
	}
}
