package hand

import (
	"slices"

	"ornamen/core/lick"
	"ornamen/core/load"
)

// Need says how fast a move can be and makes loads, ceilings and verdicts. Effort says which of the good enough hands a
// teacher would write, and chooses among them alone: it is computed from need, never from load, so that uneven time
// does not change fingers. A line's effort is the sum of its moves', so the search stays exact.

// What a move's effort adds to its need, in ms (model defaults, chosen on lines with the fingers most players write).
const (
	frameChange  = 15.0 // the hand takes another frame
	changeInCell = 10.0 // more inside a cell: the hand moves between cells
	jumpAgain    = 30.0 // one finger goes to another string without roll or barre
	guidedAgain  = 50.0 // or along its string without a slide: for a figure's sake, not to creep
	openGap      = 2.0  // each fret a gap of the new frame opens beyond one
	closedGap    = 6.0  // each closed gap of it

	// A barre is the index's, or the middle finger's beside one, sooner than another's (common practice).
	barreEffort = 8.0  // a finger is laid flat
	barreHigh   = 12.0 // more where it is the ring or the little one

	// A bend is the ring finger's, then the little one's; the other two bend where
	// nothing else serves (common practice).
	bendByIndex  = 130.0
	bendByMiddle = 110.0
	bendByLittle = 6.0
	// A slide is the index's, or the ring or little finger's, sooner than the middle finger's (common practice).
	slideByMiddle = 60.0
	// Less than a full step is any finger's but the index's, sooner the ring finger's.
	lightByIndex  = 30.0
	lightByMiddle = 18.0
	// bendOther is what the other of ring and little finger asks where the player has the
	// habit of bending with one of them.
	bendOther = 150.0

	// departure is what a note pays, in effort, that departs from the finger that its place has elsewhere in the line.
	departure = 4.0
	// departsInSlide is what the first note of a slide pays that departs from the finger of the
	// line's slides over as many frets: it is told at once, as the finger is in use for two notes.
	departsInSlide = 30.0
	// departsOnString is what a note pays that departs from the finger of its string's shape, and
	// departsInPosition from its own in the position that holds the notes around it.
	departsOnString   = 6.0
	departsInPosition = 3.0
	// departsFromHabit is what it pays more that departs from a habit of the player's own.
	departsFromHabit = 30.0
	// departsAlong is what it pays that departs from its position's or cell's along one string.
	departsAlong = 20.0
	// departsFromShape is what a note of a run of octaves or of grips pays that departs from its shape's finger.
	departsFromShape = 30.0
	// departsFromCell is what a note of a tied cell pays that departs from the finger of the cell by itself.
	departsFromCell = 8.0
	// leap is what it pays where its finger was on another string a note before the last one, two strings away, or at
	// another fret of the next one and goes back there: the moves from note to note do not see it jump.
	leap = 2.0
)

// strained frames are looked at only where no others will do.
func (s *stance) strained() bool { return s.strain > load.Strain }

// spread is what the gaps of a frame add.
func spread(f Frame) (ms float64) {
	for i := range 3 {
		switch gap := f[i+1] - f[i]; {
		case gap == 0:
			ms += closedGap
		case gap > 1:
			ms += openGap * float64(gap-1)
		}
	}
	return ms
}

// postureEffort is what a posture asks in effort beside its frame: fingers laid flat, slides by the middle finger, and
// bends by others than the ring finger.
func (m *Model) postureEffort(touches []Touch, q posture) (ms float64) {
	for i, t := range touches {
		if t.Bent {
			kind := 0
			if t.Light {
				kind = 1
			}
			ms += m.bendEfforts[kind][max(0, q.fingers[i])]
		}
		if t.Slur == lick.Slide && q.fingers[i] == int8(lick.Middle-lick.Index) {
			ms += slideByMiddle
		}
	}
	return ms + flatEffort(touches, q)
}

// bendEfforts are the efforts of a full and of a light bend by each finger, as the hand has the habit.
func bendEfforts(h Hand) [2][4]float64 {
	ring, little := 0.0, bendByLittle
	switch h.Bender {
	case lick.Ring:
		little = bendOther
	case lick.Little:
		ring, little = bendOther, 0
	}
	return [2][4]float64{{bendByIndex, bendByMiddle, ring, little}, {lightByIndex, lightByMiddle, ring, little}}
}

// effort of a move of so many ms.
func effort(ms float64) float64 { return load.Effort(ms) }

// moveEfforts is what the moves of a matrix ask in effort, beside their need.
type moveEfforts struct {
	add        []float64 // ms, by posture moved to: its frame's spread and what it asks beside
	least      float64   // of add
	repeats    []uint8   // row by row like the needs, into repeatEfforts; nil where postures tell
	repeatsAll uint8     // the same for one finger again, of single notes
}

// moveEfforts works out what a matrix's moves ask beside their need. It takes an eighth of
// the memory of the needs, or none of it.
func (mx *matrix) moveEfforts(m *Model) *moveEfforts {
	mx.effortsOnce.Do(func() {
		t := &mx.efforts
		t.add = make([]float64, len(mx.to))
		for j, q := range mx.to {
			t.add[j] = m.stances[q.stance].spread + m.postureEffort(mx.y, q)
		}
		if len(t.add) > 0 {
			t.least = slices.Min(t.add)
		}
		if len(mx.x) == 1 && len(mx.y) == 1 && !mx.y[0].Held {
			if !mx.viaOpen {
				t.repeatsAll = repeatKind(mx.x[0], mx.y[0])
			}
			return
		}
		if mx.from == nil {
			return
		}
		t.repeats = make([]uint8, 0, len(mx.need))
		for _, p := range mx.from {
			for _, q := range mx.to {
				_, kind, _ := m.transition(mx.x, p, mx.y, q, mx.viaOpen)
				t.repeats = append(t.repeats, repeatOf(kind))
			}
		}
	})
	return &mx.efforts
}

// effortRow is the effort in ms of the moves from one posture: a move's need, whatever
// the hand's speed, and the penalties beside it.
type effortRow struct {
	need, add  []float64
	to         []posture
	speed      float64
	stance     int     // moved from; -1 for a hand that comes from nowhere
	finger     int8    // that jumps or is guided when it plays again; jumpless for none
	repeatsAll uint8   // which of them, into repeatEfforts
	repeats    []uint8 // or nil
	floor      float64 // the least of add
	change     float64 // of frame
}

// jumpless marks a row of moves in which no finger can jump, so that nothing has to be looked up.
const jumpless int8 = -2

// effortRow is the effort of every move out of posture i, worked out once and kept with its matrix.
func (w weighed) effortRow(i int) effortRow {
	t, width := w.moveEfforts(w.m), len(w.to)
	r := effortRow{
		need:   w.need[i*width : (i+1)*width],
		add:    t.add,
		to:     w.to,
		speed:  w.m.speed(),
		floor:  t.least,
		change: frameChange,
		stance: -1,
		finger: jumpless,
	}
	if w.inCell {
		r.change += changeInCell
	}
	switch {
	case w.from != nil:
		r.stance = w.from[i].stance
		if t.repeatsAll > 0 {
			r.finger, r.repeatsAll = w.from[i].fingers[0], t.repeatsAll
		}
		if t.repeats != nil {
			r.repeats = t.repeats[i*width : (i+1)*width]
		}
	case i < len(w.m.stances): // from an open string
		r.stance = i
	}
	return r
}

// ms is the effort of the move to posture j.
func (r *effortRow) ms(j int) float64 {
	ms := r.need[j]*r.speed + r.add[j]
	q := &r.to[j]
	if q.stance != r.stance && r.stance >= 0 {
		ms += r.change
	}
	if q.fingers[0] == r.finger {
		ms += repeatEfforts[r.repeatsAll]
	}
	if r.repeats != nil {
		ms += repeatEfforts[r.repeats[j]]
	}
	return ms
}

// flatEffort is what the fingers ask that lie flat over several strings.
func flatEffort(touches []Touch, q posture) (ms float64) {
	var on [4]int
	for i := range touches {
		if f := q.fingers[i]; f != noFinger {
			if on[f]++; on[f] == 2 {
				if ms += barreEffort; f >= 2 {
					ms += barreHigh
				}
			}
		}
	}
	return ms
}

// repeatEfforts are those of one finger that plays again: nothing, for a jump, for a guided shift.
var repeatEfforts = [...]float64{0, jumpAgain, guidedAgain}

// repeatOf is the index of a kind of move into repeatEfforts.
func repeatOf(k Kind) uint8 {
	switch k {
	case Jump:
		return 1
	case Guided:
		return 2
	}
	return 0
}

// repeatKind is that of one finger that plays both touches, into repeatEfforts.
func repeatKind(x, y Touch) uint8 {
	if y.Slur != "" || !x.fretted() || !y.fretted() {
		return repeatOf(Same)
	}
	return repeatOf(againKind(x, y))
}

// usual is the finger that each place has most often in the picked path; the lower one where two are as many.
func (c *chain) usual(picks []int) map[placeKey]int8 {
	counts := map[placeKey]*[4]int{}
	for k := range c.nodes {
		n := &c.nodes[k]
		for i, t := range n.touches {
			f := n.stand[picks[k]].fingers[i]
			for _, key := range c.keys(k, t) {
				if f == noFinger {
					continue
				}
				if counts[key] == nil {
					counts[key] = new([4]int)
				}
				counts[key][f]++
			}
		}
	}
	out := map[placeKey]int8{}
	for key, n := range counts {
		best := 0
		for f := range n {
			if n[f] > n[best] {
				best = f
			}
		}
		out[key] = int8(best)
	}
	return out
}

// placeKey names what keeps one fingering: a place, a skip over strings by its shape or a slide by
// its frets, wherever they lie. A bent note stands apart: it takes the finger that holds it.
type placeKey struct {
	str, fret int
	only      Fingers
	skip      [2]int // strings and frets to the next note, of a skip's first note
	slide     int    // frets to the next note, of a slide's first note
	cell      int    // of moved cells each has its own places, from 1
}

// departs is what a note pays that departs from the usual finger of a key.
func (k placeKey) departs() float64 {
	if k.slide != 0 {
		return departsInSlide
	}
	return departure
}

// keys are what touch t of node k is counted by.
func (c *chain) keys(k int, t Touch) []placeKey {
	keys := []placeKey{{str: t.Place.String, fret: t.Place.Fret, only: t.Only, cell: c.movedCell(k)}}
	if k+1 < len(c.nodes) && len(c.nodes[k].touches) == 1 && len(c.nodes[k+1].touches) == 1 {
		if to := c.nodes[k+1].touches[0]; to.Slur == lick.Slide && to.Place.String == t.Place.String &&
			to.Place.Fret != t.Place.Fret {
			keys = append(keys, placeKey{slide: to.Place.Fret - t.Place.Fret})
		}
	}
	for side, o := range []int{k + 1, k - 1} {
		if o < 0 || o >= len(c.nodes) || len(c.nodes[o].touches) > 1 || len(c.nodes[k].touches) > 1 {
			continue
		}
		to := c.nodes[o].touches[0].Place
		d := [2]int{to.String - t.Place.String, to.Fret - t.Place.Fret}
		// Octaves and their kin: over a string, going up with the pitch.
		if side == 0 && d[0] <= -2 && d[1] >= 0 || side == 1 && d[0] >= 2 && d[1] <= 0 {
			keys = append(keys, placeKey{skip: d})
		}
	}
	return keys
}

// movedCell is the number of the moved cell that node k lies in, from 1; 0 for none.
func (c *chain) movedCell(k int) int {
	for i, x := range c.cells() {
		if x.moved && k >= x.from && k < x.to {
			return i + 1
		}
	}
	return 0
}

// leapPenalties is what each posture of each node pays for a finger that the picked path has on
// another string two notes before or after, out of its reach; nil where there is none.
func (c *chain) leapPenalties(picks []int) (out [][]float64) {
	for k := range c.nodes {
		for _, o := range []int{k - 2, k + 2} {
			if o < 0 || o >= len(c.nodes) || c.nodes[o].event-c.nodes[k].event != o-k || len(c.nodes[k].touches) > 1 ||
				len(c.nodes[o].touches) > 1 {
				continue
			}
			n, far := &c.nodes[k], &c.nodes[o]
			f := far.stand[picks[o]].fingers[0]
			at, was := n.touches[0].Place, far.touches[0].Place
			if near := at.String-was.String > -2 && at.String-was.String < 2; f == noFinger || near &&
				(at.String == was.String || at.Fret == was.Fret || !c.sameAround(k, picks)) {
				continue
			}
			if mid := (k + o) / 2; c.nodes[mid].stand[picks[mid]].fingers[0] == f {
				continue // it rolls
			}
			if n.touches[0].Bent || far.touches[0].Bent {
				continue // a bend is the stronger finger's, wherever it was before
			}
			if out == nil {
				out = make([][]float64, len(c.nodes))
				for i := range out {
					out[i] = make([]float64, len(c.nodes[i].stand))
				}
			}
			for j, p := range n.stand {
				if p.fingers[0] == f {
					out[k][j] += leap
				}
			}
		}
	}
	return out
}

// sameAround says whether the notes two before and two after node k are one place under one
// finger of the picked path: what plays node k goes there and back.
func (c *chain) sameAround(k int, picks []int) bool {
	if k < 2 || k+2 >= len(c.nodes) {
		return false
	}
	a, b := &c.nodes[k-2], &c.nodes[k+2]
	return len(a.touches) == 1 && len(b.touches) == 1 && a.touches[0].Place == b.touches[0].Place &&
		a.stand[picks[k-2]].fingers[0] == b.stand[picks[k+2]].fingers[0]
}

// departures is what each posture of each node pays for the notes that depart from
// the usual fingers, beside what it pays anyway.
func (c *chain) departures(usual map[placeKey]int8, beside [][]float64) [][]float64 {
	figures := c.figures()
	out := make([][]float64, len(c.nodes))
	for k := range c.nodes {
		n := &c.nodes[k]
		if out[k] = make([]float64, len(n.stand)); beside != nil {
			copy(out[k], beside[k])
		}
		for i, t := range n.touches {
			pays := departurePenalties(figures[k][i]) // by finger
			if c.solo != nil && c.solo[k] != nil {
				for f := range pays {
					if int8(f) != c.solo[k][0] {
						pays[f] += departsFromCell
					}
				}
			}
			for _, key := range c.keys(k, t) {
				is := usual[key]
				for f := range pays {
					if int8(f) != is {
						pays[f] += key.departs()
					}
				}
			}
			for j := range n.stand {
				if f := n.stand[j].fingers[i]; f != noFinger {
					out[k][j] += pays[f]
				}
			}
		}
	}
	return out
}

// effortOf is the sum of effort of a path.
func (c *chain) effortOf(picks []int) (sum float64) {
	for a := range c.links {
		row := c.links[a].weighed().effortRow(picks[a])
		sum += effort(row.ms(picks[a+1]))
	}
	return sum
}
