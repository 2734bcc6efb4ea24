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
	base, again := fingerBases(ta, tb, gap), m.again(ta, tb)
	along := again.alongItsString()
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
			case !viaOpen && along && fa == b.finger:
				x = again.need(log2(1 + math.Abs(float64(b.beyond-beyond))/w))
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

// again is one finger that plays twice: which kind of move that is, and what it needs by the way of the hand. It is the
// one place where the rule stands: single notes, grips and effort all read it.
type again struct {
	kind        Kind
	base, slope float64 // ms: base + slope times the Fitts term of the way
	least       float64 // a jump needs as long as the finger alone takes
}

// need is the finger's move in ms, log the Fitts term of the hand's way; of a guided shift or slide, of what the hand
// moves beyond the fingertip.
func (a again) need(log float64) float64 {
	if a.slope == 0 {
		return a.base
	}
	return max(a.least, a.base+a.slope*log)
}

// alongItsString says whether the finger keeps its string, so that its own way is in the base.
func (a again) alongItsString() bool { return a.kind == Slide || a.kind == Shift || a.kind == Guided }

// againKind is what it is when one finger plays both touches: it stays, rolls to the next string at the same fret, lies
// flat over both, is guided along its string, or jumps to another one. It can neither hammer nor pull on itself.
func againKind(ta, tb Touch) Kind {
	strings := ta.Place.String - tb.Place.String
	switch {
	case tb.Slur == lick.Hammer || tb.Slur == lick.Pull:
		return Hammer
	case ta.Place == tb.Place && tb.Slur == "":
		return Same
	case strings == 0 && tb.Slur == lick.Slide:
		return Slide
	case strings == 0 && tb.Slur == lick.Shift:
		return Shift
	case strings == 0:
		return Guided
	case ta.Place.Fret != tb.Place.Fret:
		return Jump
	case ta.Barre && tb.Barre:
		return Barre
	case ta.Bent:
		return Jump // the finger stands where it has pushed the string
	case strings == 1 || strings == -1:
		return Roll
	}
	return Jump
}

// pushedFull is how far from its string's place a finger stands that has bent it a full step, which is about one
// string's distance more; a lighter bend is half of that (model default).
const pushedFull neck.MM = 15

// pushed is how far a finger that has bent stands from its string.
func pushed(t Touch) neck.MM {
	switch {
	case !t.Bent:
		return 0
	case t.Light:
		return pushedFull / 2
	}
	return pushedFull
}

// again is one finger on touch ta and then on tb.
func (m *Model) again(ta, tb Touch) again {
	kind := againKind(ta, tb)
	switch kind {
	case Hammer:
		return again{kind: kind, base: never}
	case Same:
		return again{kind: kind, slope: fingerSlope}
	case Slide, Shift, Guided:
		return again{kind: kind, base: m.guidedBase(ta, tb), slope: fingerSlope}
	case Barre:
		return again{kind: kind, base: barreBase}
	case Roll:
		return again{kind: kind, base: rollBase, slope: fingerSlope}
	}
	way := fitts(m.Guitar.Way(ta.Place, tb.Place)+pushed(ta), m.Guitar.Cell(tb.Place.Fret), fingerSlope)
	return again{kind: kind, base: jumpHand, slope: wristSlope, least: jumpFinger + way}
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

// fingerBases is what two different fingers cost before the hand moves, by the one before and the one after.
func fingerBases(ta, tb Touch, gap int) (base [4][4]float64) {
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
	return base
}
