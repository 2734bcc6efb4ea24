package hand

import (
	"math"
	"sync"

	"ornamen/core/lick"
)

// logTables keeps log2(1 + H/W) between the stances that reach one fret and
// those that reach another: logarithms are most of the work of a matrix, and
// every move between the two frets shares them, whatever its strings and slur.
type logTables struct {
	mu   sync.Mutex
	kept map[[2]int][]float64
}

// hops is the table from postures over fret a to postures over fret b, row by
// row. Postures of a single touch depend on its fret alone.
func (m *Model) hops(a, b int, from, to []posture) []float64 {
	key := [2]int{a, b}
	m.logs.mu.Lock()
	t, ok := m.logs.kept[key]
	m.logs.mu.Unlock()
	if ok {
		return t
	}
	t = make([]float64, len(from)*len(to))
	w := float64(m.Guitar.Cell(b))
	k := 0
	for i := range from {
		centre := m.stances[from[i].stance].centre
		before, last := -1, 0.0
		for j := range to {
			// Several fingers may share a stance; its way is the same.
			if s := to[j].stance; s != before {
				before = s
				last = log2(1 + math.Abs(float64(m.stances[s].centre-centre))/w)
			}
			t[k] = last
			k++
		}
	}
	m.logs.mu.Lock()
	defer m.logs.mu.Unlock()
	if m.logs.kept == nil || len(m.logs.kept) >= maxMatrices {
		m.logs.kept = map[[2]int][]float64{}
	}
	m.logs.kept[key] = t
	return t
}

// single is the matrix of a move from one fretted note to another: the same
// needs as transition, with all that does not depend on the stances taken out.
func (m *Model) single(ta Touch, from []posture, tb Touch, to []posture, viaOpen bool) []float64 {
	logs := m.hops(ta.Place.Fret, tb.Place.Fret, from, to)
	need := make([]float64, len(logs))
	gap := ta.Place.String - tb.Place.String
	if gap < 0 {
		gap = -gap
	}
	if !viaOpen && tb.Slur != "" && gap != 0 {
		for k := range need {
			need[k] = never
		}
		return need
	}
	base, again := m.fingerBases(ta, tb, gap)
	slides := tb.Slur == lick.Slide || tb.Slur == lick.Shift
	k := 0
	for i := range from {
		p := &from[i]
		a, fa := &m.stances[p.stance], p.fingers[0]
		for j := range to {
			q := &to[j]
			b, fb := &m.stances[q.stance], q.fingers[0]
			x := never
			switch {
			case viaOpen:
				x = placeFinger + wristSlope*logs[k]
				if tb.Slur == lick.Hammer {
					x += hammerExtra
				}
			case fa == fb:
				x = again.need(logs[k])
				if slides {
					x, _ = m.part(ta, fa, a, tb, fb, b, false)
				}
			case slides:
			case tb.Slur == lick.Pull:
				if p.stance == q.stance {
					x = base[fa][fb] + pullExtra
				}
			case b.frame[fa] == ta.Place.Fret:
				x = base[fa][fb] + fingerSlope*logs[k]
				if tb.Slur == lick.Hammer {
					x += hammerExtra
				}
			case tb.Slur != lick.Hammer:
				x = base[fa][fb] + letGo + wristSlope*logs[k]
			}
			need[k] = m.scale(x + b.standing)
			k++
		}
	}
	return need
}

// sameFingerNeed is the need of one finger twice, by the way of the hand.
type sameFingerNeed struct {
	base, slope float64 // base + slope·log
	finger      float64 // a jump needs at least this
	fixed       bool    // a bar: base alone
}

func (s sameFingerNeed) need(log float64) float64 {
	if s.fixed {
		return s.base
	}
	return max(s.finger, s.base+s.slope*log)
}

// fingerBases is what two different fingers cost before the hand moves, and what
// one finger costs twice.
func (m *Model) fingerBases(ta, tb Touch, gap int) (base [4][4]float64, again sameFingerNeed) {
	for a := range 4 {
		for b := range 4 {
			if a == b {
				continue
			}
			base[a][b] = placeFinger + pairCost[pairOf[a][b]] + farString*float64(max(0, gap-1))
			if ta.Place.Fret == tb.Place.Fret && (a-b == 1 || b-a == 1) {
				base[a][b] += sameFret
			}
		}
	}
	switch {
	case tb.Slur == lick.Hammer || tb.Slur == lick.Pull:
		again = sameFingerNeed{base: never, fixed: true}
	case ta.Place == tb.Place:
		again = sameFingerNeed{slope: fingerSlope}
	case ta.Bar && tb.Bar && ta.Place.Fret == tb.Place.Fret:
		again = sameFingerNeed{base: barBase, fixed: true}
	case ta.Place.Fret == tb.Place.Fret && gap == 1:
		again = sameFingerNeed{base: rollBase, slope: fingerSlope}
	default:
		w := m.Guitar.Cell(tb.Place.Fret)
		again = sameFingerNeed{base: jumpHand, slope: wristSlope, finger: jumpFinger + fitts(m.Guitar.Way(ta.Place, tb.Place), w, fingerSlope)}
	}
	return base, again
}
