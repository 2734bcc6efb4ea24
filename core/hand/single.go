package hand

import (
	"math"
	"sync"

	"ornamen/core/lick"
	"ornamen/core/neck"
)

// logTables keeps log2(1 + H/W) from a stance to every posture over a fret:
// logarithms are most of the work of a matrix, and every move from that stance to
// that fret shares them, whatever finger it leaves, its strings and its slur.
type logTables struct {
	mu   sync.Mutex
	rows map[int][][]float64 // by the fret, then by the stance; nil until asked for
}

// logRow is the row from a stance to the postures over fret b. Postures of a single touch depend on its fret alone.
func (m *Model) logRow(stance, b int, to []posture) []float64 {
	m.logs.mu.Lock()
	defer m.logs.mu.Unlock()
	if m.logs.rows == nil {
		m.logs.rows = map[int][][]float64{}
	}
	rows := m.logs.rows[b]
	if rows == nil {
		rows = make([][]float64, len(m.stances))
		m.logs.rows[b] = rows
	}
	if rows[stance] != nil {
		return rows[stance]
	}
	row := make([]float64, len(to))
	w, centre := float64(m.Guitar.Cell(b)), m.stances[stance].centre
	before, last := -1, 0.0
	for j := range to {
		// Several fingers may share a stance; its way is the same.
		if s := to[j].stance; s != before {
			before = s
			last = log2(1 + math.Abs(float64(m.stances[s].centre-centre))/w)
		}
		row[j] = last
	}
	rows[stance] = row
	return row
}

// single is the matrix of a move from one fretted note to another: the same
// needs as transition, with all that does not depend on the stances taken out.
//
// This is where the search spends its time, so the loop over pairs of postures holds one sum
// and one comparison. The bases by finger and the logarithms of the ways by stance are computed
// once for a row or a column; what is left depends only on which finger was down (fa), which
// one comes (b.finger), and whether the stance that is taken still has fa where it was (b.held):
// then only the finger moves, else the hand does. TestSingleIsTheTable holds it to transition.
func (m *Model) single(ta Touch, from []posture, tb Touch, to []posture, viaOpen bool) []float64 {
	need := make([]float64, len(from)*len(to))
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
	w := float64(m.Guitar.Cell(tb.Place.Fret))
	ends := m.ends(ta, tb, to)
	for i := range from {
		p := &from[i]
		a, fa := &m.stances[p.stance], p.fingers[0]
		logs := m.logRow(p.stance, tb.Place.Fret, to)
		row := need[i*len(to) : (i+1)*len(to)]
		beyond := a.centre - m.pressAt(max(1, ta.Place.Fret))
		plain := tb.Slur == "" && !viaOpen
		for j := range row {
			b, log := &ends[j], logs[j]
			x := never
			switch {
			case !viaOpen && again.guided && fa == b.finger:
				x = again.base + fingerSlope*log2(1+math.Abs(float64(b.beyond-beyond))/w)
			case plain && fa == b.finger:
				x = again.need(log)
			case plain && b.held[fa]:
				x = base[fa][b.finger] + fingerSlope*log
			case plain:
				x = base[fa][b.finger] + letGo + wristSlope*log
			case viaOpen:
				x = placeFinger + wristSlope*log
				if tb.Slur == lick.Hammer {
					x += hammerExtra
				}
			case fa == b.finger:
				x = again.need(log)
			case slides:
			case tb.Slur == lick.Pull:
				if p.stance == to[j].stance {
					x = base[fa][b.finger] + pullExtra
				}
			case b.held[fa]: // a hammer
				x = base[fa][b.finger] + fingerSlope*log + hammerExtra
			}
			row[j] = x + b.standing
		}
	}
	for k := range need {
		need[k] = m.scale(need[k])
	}
	return need
}

// end is what a move asks of the posture it ends in.
type end struct {
	finger   int8
	held     [4]bool // by finger: it still stands where the note before was
	standing float64
	beyond   neck.MM // the centre's place beyond the fingertip's
}

// ends are the postures in which a single note may be reached, with what of each does not depend on the hand before.
func (m *Model) ends(ta, tb Touch, to []posture) []end {
	out := make([]end, len(to))
	for j := range to {
		b := &m.stances[to[j].stance]
		e := end{finger: to[j].fingers[0], standing: b.standing, beyond: b.centre - m.pressAt(tb.Place.Fret)}
		for f, fret := range b.frame {
			e.held[f] = fret == ta.Place.Fret
		}
		out[j] = e
	}
	return out
}

// sameFingerNeed is the need of one finger twice, by the way of the hand.
type sameFingerNeed struct {
	base, slope float64 // base + slope·log
	finger      float64 // a jump needs at least this
	fixed       bool    // a barre: base alone
	guided      bool    // along its string: base and what the hand moves beyond the fingertip
}

// need is the finger's own move in ms, log the Fitts term of its way.
func (s sameFingerNeed) need(log float64) float64 {
	if s.fixed {
		return s.base
	}
	return max(s.finger, s.base+s.slope*log)
}

// guidedBase is what a finger that goes along its string needs for its own way.
func (m *Model) guidedBase(ta, tb Touch) float64 {
	tip := neck.MM(math.Abs(float64(m.Guitar.Press(tb.Place.Fret) - m.Guitar.Press(ta.Place.Fret))))
	need := slideBase + fitts(tip, m.Guitar.Cell(tb.Place.Fret), wristSlope)
	if tb.Slur != lick.Slide {
		need += shiftExtra
	}
	return need
}

// fingerBases is what two different fingers cost before the hand moves, and what one finger costs twice.
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
	case ta.Place == tb.Place && tb.Slur == "":
		again = sameFingerNeed{slope: fingerSlope}
	case gap == 0:
		again = sameFingerNeed{base: m.guidedBase(ta, tb), guided: true}
	case ta.Barre && tb.Barre && ta.Place.Fret == tb.Place.Fret:
		again = sameFingerNeed{base: barreBase, fixed: true}
	case ta.Place.Fret == tb.Place.Fret && gap == 1:
		again = sameFingerNeed{base: rollBase, slope: fingerSlope}
	default:
		way := fitts(m.Guitar.Way(ta.Place, tb.Place), m.Guitar.Cell(tb.Place.Fret), fingerSlope)
		again = sameFingerNeed{base: jumpHand, slope: wristSlope, finger: jumpFinger + way}
	}
	return base, again
}
