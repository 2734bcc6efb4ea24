package hand

import (
	"ornamen/core/layers"
	"ornamen/core/lick"
	"ornamen/core/neck"
)

// Grip is every way to stand in one event at given places, for a search that chooses the places too. An event without a
// fretted note leaves the hand where it is, so it may stand anywhere, or not have come down yet.
type Grip struct {
	touches []Touch
	stand   []posture // nil for an open event
	allowed []int
	lo, hi  neck.MM // the range of its centres
}

// Grip lists the ways to stand; ok is false where none keeps the fingers that are set.
func (m *Model) Grip(touches []Touch) (g *Grip, ok bool) {
	g = &Grip{touches: touches, lo: neck.MM(never), hi: -neck.MM(never)}
	if !(Event{Touches: touches}).fretted() {
		for i := range m.stances {
			g.allowed = append(g.allowed, i)
			g.widen(m.stances[i].centre)
		}
		return g, true
	}
	g.stand = m.stand(touches)
	g.allowed = m.allowed(touches, g.stand)
	for _, i := range g.allowed {
		g.widen(m.stances[g.stand[i].stance].centre)
	}
	return g, len(g.allowed) > 0
}

// widen makes the grip's bounds hold one more place of the hand.
func (g *Grip) widen(c neck.MM) { g.lo, g.hi = min(g.lo, c), max(g.hi, c) }

// Open says whether the event leaves the hand where it is.
func (g *Grip) Open() bool { return g.stand == nil }

// Size is how many postures a grip numbers, those that are not allowed
// included. In an open grip the last one is the hand that has not come down yet.
func (m *Model) Size(g *Grip) int {
	if g.Open() {
		return len(m.stances) + 1
	}
	return len(g.stand)
}

// Allowed lists the postures that keep what is set. Down says whether the hand has come down before.
func (m *Model) Allowed(g *Grip, down bool) []int {
	if g.Open() && !down {
		return []int{len(m.stances)}
	}
	return g.allowed
}

// LeastLoad is a quick lower bound of every move between two grips.
func (m *Model) LeastLoad(from, to *Grip, have float64) float64 {
	var apart neck.MM
	switch {
	case from.Open() || to.Open() || len(from.touches) > 1:
		return 0
	case from.hi < to.lo:
		apart = to.lo - from.hi
	case to.hi < from.lo:
		apart = from.lo - to.hi
	default:
		return 0
	}
	least := 0.0
	for _, t := range to.touches {
		if t.Held || t.Slur != "" {
			return 0
		}
		if t.fretted() {
			least = max(least, m.leastShift(from.touches[0], t, apart))
		}
	}
	return m.scale(least) / have
}

// leastShift is what a move of the hand by so much needs at least. A finger that stays would put the new stance into
// the old grip, where it is not: so the hand shifts or a finger jumps, or the finger is guided along its string.
func (m *Model) leastShift(from, to Touch, apart neck.MM) float64 {
	w := m.Guitar.Cell(to.Place.Fret)
	least := min(jumpHand, placeFinger+letGo) + fitts(apart, w, wristSlope)
	if from.Place.String == to.Place.String {
		tip := m.Guitar.Press(to.Place.Fret) - m.Guitar.Press(from.Place.Fret)
		beyond := max(0, apart-max(tip, -tip))
		least = min(least, m.guidedBase(from, to)+fitts(beyond, w, fingerSlope))
	}
	return least
}

// Relax lowers out[i], for every allowed posture i of from, to the least cost of going on to a posture of to and paying
// rest there. It says whether the moves between the grips had to be measured first, which takes longer than the rest.
func (m *Model) Relax(k layers.Cost, from, to *Grip, have float64, rest, out []float64) (measured bool) {
	switch {
	case to.Open():
		m.relaxToOpen(k, from, to, have, rest, out)
	case from.Open():
		m.relaxFromOpen(k, to, have, rest, out)
	default:
		mx := m.between(from.touches, to.touches, false)
		mx.relaxedOnce.Do(func() { measured = true })
		weighed{m: m, matrix: mx, have: have}.relax(k, from.allowed, within(to.allowed, rest), rest, nil, out)
	}
	return measured
}

// within keeps the postures from which there is a way on.
func within(allowed []int, rest []float64) []int {
	out := make([]int, 0, len(allowed))
	for _, j := range allowed {
		if rest[j] < never {
			out = append(out, j)
		}
	}
	return out
}

// relaxToOpen is Relax into a layer of open strings: the hand stays where it is, the need is that of letting go.
func (m *Model) relaxToOpen(k layers.Cost, from, to *Grip, have float64, rest, out []float64) {
	need := m.openNeed(to)
	lower := func(i, stance int) { out[i] = min(out[i], k.Join(need/have, effort(need*m.speed()), rest[stance])) }
	if from.Open() {
		for i := range out {
			lower(i, i)
		}
		return
	}
	for _, i := range from.allowed {
		lower(i, from.stand[i].stance)
	}
}

// openNeed is what an open event needs.
func (m *Model) openNeed(to *Grip) float64 {
	need := 0.0
	for _, t := range to.touches {
		need = max(need, m.scale(m.toOpen(t)))
	}
	return need
}

// relaxFromOpen is Relax out of a layer of open strings: from every stance in which the
// hand may have stayed, or from one that has not come down yet.
func (m *Model) relaxFromOpen(k layers.Cost, to *Grip, have float64, rest, out []float64) {
	to2 := within(to.allowed, rest)
	if len(to2) == 0 {
		return
	}
	l := weighed{m: m, matrix: m.fromOpen(to), have: have}
	rows := make([]int, len(out))
	for i := range rows {
		rows[i] = i
	}
	l.relax(k, rows, to2, rest, nil, out)
}

// fromOpen is the matrix of moves from every stance, and from a hand that has
// not come down yet, to a grip after an open string.
func (m *Model) fromOpen(to *Grip) *matrix {
	touches := to.touches
	single := len(touches) == 1 && !touches[0].Held
	if single {
		// The string does not matter to a hand that comes down from nowhere.
		t := touches[0]
		t.Place.String = 0
		touches = []Touch{t}
	}
	key := appendKey([]byte("open/"), touches)
	return m.keep(string(key), func() *matrix {
		mx := &matrix{to: to.stand, y: to.touches, viaOpen: true,
			need: make([]float64, 0, (len(m.stances)+1)*len(to.stand))}
		wait, hammer := 0.0, 0.0
		for _, t := range to.touches {
			if t.Slur == lick.Hammer {
				hammer = hammerExtra
			}
			if t.Held {
				wait = never
			}
		}
		for i := range m.stances {
			if single {
				logs := m.logRow(i, touches[0].Place.Fret, to.stand)
				for j, q := range to.stand {
					mx.need = append(mx.need,
						m.scale(placeFinger+wristSlope*logs[j]+hammer+m.stances[q.stance].standing))
				}
				continue
			}
			for _, q := range to.stand {
				need, _, _ := m.transition([]Touch{{}}, posture{stance: i}, to.touches, q, true)
				mx.need = append(mx.need, need)
			}
		}
		for _, q := range to.stand {
			mx.need = append(mx.need, m.scale(placeFinger+hammer+m.stances[q.stance].standing)+wait)
		}
		return mx
	})
}

// Begin is the effort of a line that begins in posture i of a grip.
func (m *Model) Begin(g *Grip, i int) float64 {
	if g.Open() {
		return 0
	}
	s := &m.stances[g.stand[i].stance]
	return effort(s.standing + s.spread + m.postureEffort(g.touches, g.stand[i]))
}

// Costs writes into out[j] the cost of going from posture i of from to each posture j of to, Never where
// that cannot be.
func (m *Model) Costs(k layers.Cost, from, to *Grip, have float64, i int, out []float64) {
	for j := range out {
		out[j] = never
	}
	if to.Open() {
		j := i
		if !from.Open() {
			j = from.stand[i].stance
		}
		need := m.openNeed(to)
		out[j] = k.Join(need/have, effort(need*m.speed()), 0)
		return
	}
	l := weighed{m: m, have: have}
	if from.Open() {
		l.matrix = m.fromOpen(to)
	} else {
		l.matrix = m.between(from.touches, to.touches, false)
	}
	efforts := l.effortRow(i)
	for _, q := range to.allowed {
		out[q] = k.Join(l.load(i, q), effort(efforts.ms(q)), 0)
	}
}
