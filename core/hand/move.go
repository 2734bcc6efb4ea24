package hand

import (
	"math"
	"slices"

	"ornamen/core/lick"
	"ornamen/core/neck"
)

// posture is one way to stand in an event: a stance and a finger a touch
// (0 to 3; noFinger for open strings and the thumb).
type posture struct {
	stance  int
	fingers [maxTouches]int8
}

// maxTouches is how many notes may sound at once.
const maxTouches = neck.MaxStrings

// noFinger is a finger that a posture does not use.
const noFinger int8 = -1

// never is the need of what no hand can do.
var never = math.Inf(1)

// part is the need of bringing finger fb of stance b onto touch tb when finger
// fa of stance a was on touch ta, without b's standing cost. The table of moves is the model's.
//
// One finger again: it stays, rolls to the next string at the same fret, is guided along its string, or jumps to
// another one, and a jump takes as long as the slower of finger and hand. A slide and a guided shift keep their finger,
// and cost what the hand must move beyond the fingertip. Another finger: otherFinger, by whether the hand shifts. Over
// an open string the hand has let go and may move while that rings: then only the finger has to be set down. What
// cannot be (a hammer by the finger that is down) needs forever.
func (m *Model) part(ta Touch, fa int8, a *stance, tb Touch, fb int8, b *stance, viaOpen bool) (float64, Kind) {
	w := m.Guitar.Cell(tb.Place.Fret)
	shift := neck.MM(math.Abs(float64(b.centre - a.centre)))
	if viaOpen {
		need := placeFinger + fitts(shift, w, wristSlope)
		if tb.Slur == lick.Hammer {
			return need + hammerExtra, Hammer
		}
		return need, Move
	}
	strings := ta.Place.String - tb.Place.String
	if strings < 0 {
		strings = -strings
	}
	if fa != fb {
		if tb.Slur == lick.Slide || tb.Slur == lick.Shift {
			return never, Slide
		}
		return m.otherFinger(ta, fa, a, tb, fb, b, shift, w, strings)
	}
	again := m.again(ta, tb)
	if again.alongItsString() {
		tip := m.Guitar.Press(tb.Place.Fret) - m.Guitar.Press(ta.Place.Fret)
		shift = neck.MM(math.Abs(float64(b.centre - a.centre - tip)))
	}
	return again.need(fitts(shift, w, 1)), again.kind
}

// otherFinger is the need in ms of a move from one finger to another one: the base of placing a finger, what this pair
// of fingers and the strings between cost, and Fitts' law over the way of the hand. A finger that already stands over
// the fret in frame b moves with the finger's slope; one that does not lets go and moves with the wrist's. A hammer can
// only come from a finger that stands ready, a pull only to one that lies below already.
func (m *Model) otherFinger(ta Touch, fa int8, a *stance, tb Touch, fb int8, b *stance, shift, w neck.MM,
	strings int) (float64, Kind) {
	need := placeFinger + pairCost[pairOf[fa][fb]] + farString*float64(max(0, strings-1))
	if ta.Place.Fret == tb.Place.Fret && (fa-fb == 1 || fb-fa == 1) {
		need += sameFret
	}
	held := b.frame[fa] == ta.Place.Fret
	switch tb.Slur {
	case lick.Hammer:
		if !held {
			return never, Hammer
		}
		return need + fitts(shift, w, fingerSlope) + hammerExtra, Hammer
	case lick.Pull:
		// The lower finger is already down, so the frame stays.
		if a.frame != b.frame {
			return never, Pull
		}
		return need + pullExtra, Pull
	}
	if held {
		return need + fitts(shift, w, fingerSlope), Place
	}
	return need + letGo + fitts(shift, w, wristSlope), Move
}

// transition is the need in ms of going from posture p of event x to posture q of event y: the largest of its parts and
// the standing cost of the new stance. kind and part name the part that sets it, by its place in y.
func (m *Model) transition(x []Touch, p posture, y []Touch, q posture,
	viaOpen bool) (need float64, kind Kind, part int) {
	a, b := &m.stances[p.stance], &m.stances[q.stance]
	worst, comesDown := 0.0, false
	kind = Hold
	if !viaOpen && block(x, p, y, q) {
		w := m.Guitar.Cell(y[0].Place.Fret)
		return m.scale(slideBase + fitts(m.Guitar.Way(x[0].Place, y[0].Place), w, wristSlope) + b.standing), Grips, 0
	}
	for j, tb := range y {
		comesDown = comesDown || tb.fretted() && !tb.Held
		need, k := m.into(x, p, a, tb, q.fingers[j], b, viaOpen, len(y) > 1)
		if need > worst {
			worst, kind, part = need, k, j
		}
		if worst == never {
			return never, k, j
		}
	}
	if !comesDown {
		// Only open strings are new: the frame stays and costs nothing.
		if p.stance != q.stance {
			return never, kind, part
		}
		return m.scale(worst), kind, part
	}
	return m.scale(worst + b.standing), kind, part
}

// block says whether a whole grip moves: the same fingers in the same shape on other
// frets or strings, its notes new and not slurred.
func block(x []Touch, p posture, y []Touch, q posture) bool {
	if len(x) < 2 || len(x) != len(y) || x[0].Place == y[0].Place {
		return false
	}
	for i := range y {
		if !x[i].fretted() || !y[i].fretted() || y[i].Held || y[i].Slur != "" || p.fingers[i] != q.fingers[i] ||
			x[i].Place.String-x[0].Place.String != y[i].Place.String-y[0].Place.String ||
			x[i].Place.Fret-x[0].Place.Fret != y[i].Place.Fret-y[0].Place.Fret {
			return false
		}
	}
	return true
}

// into finds where finger fb comes from: its own last touch; else, of the fingers that were down, the one it follows
// most easily. From grip to grip a finger that keeps its string stays on it and guides the hand. A slur must come from
// its own string, and a note that is held needs nothing as long as the same finger stays on it.
func (m *Model) into(x []Touch, p posture, a *stance, tb Touch, fb int8, b *stance,
	viaOpen, grip bool) (float64, Kind) {
	if !tb.fretted() {
		return m.toOpen(tb), ToOpen
	}
	if tb.Held {
		for i, ta := range x {
			if ta.Place == tb.Place && p.fingers[i] == fb {
				return 0, Hold
			}
		}
		return never, Hold
	}
	best, kind := never, Move
	for i, ta := range x {
		fa := p.fingers[i]
		if fa == noFinger && !viaOpen {
			continue
		}
		slurred := tb.Slur != "" && !viaOpen
		if slurred && ta.Place.String != tb.Place.String {
			continue
		}
		need, k := m.part(ta, fa, a, tb, fb, b, viaOpen)
		if fa == fb && !slurred && !viaOpen {
			if k == Guided && grip && len(x) > 1 && ta.Place.String == tb.Place.String {
				w := m.Guitar.Cell(tb.Place.Fret)
				return slideBase + fitts(m.Guitar.Way(ta.Place, tb.Place), w, wristSlope), Grips
			}
			return need, k
		}
		if need < best {
			best, kind = need, k
		}
	}
	return best, kind
}

// toOpen is the need of sounding an open string: a finger lifts or pulls, the hand stays.
func (m *Model) toOpen(t Touch) float64 {
	if t.Held {
		return 0
	}
	if t.Slur == lick.Pull {
		return openPullNeed
	}
	return openNeed
}

// speed is how much faster this hand is than the model's.
func (m *Model) speed() float64 {
	if m.Hand.Speed > 0 {
		return m.Hand.Speed
	}
	return 1
}

// scale turns the model player's need into this hand's.
func (m *Model) scale(need float64) float64 { return need / m.speed() }

// postures lists the ways to stand in an event, whatever the locks say, in rising order of frame, then finger.
func (m *Model) postures(touches []Touch) []posture {
	var out []posture
	first := slices.IndexFunc(touches, Touch.fretted)
	if first < 0 || len(touches) > maxTouches {
		return nil
	}
	fret := touches[first].Place.Fret
	var seen []bool
	for f := range 4 {
		if fret >= len(m.at[f]) {
			continue
		}
		for _, s := range m.at[f][fret] {
			if seen == nil {
				seen = make([]bool, len(m.stances))
			}
			seen[s] = true
		}
	}
	for s, ok := range seen {
		// Fingers stand closer than a frame spans only for notes together.
		if ok && (len(touches) > 1 || !m.stances[s].narrow) {
			p := posture{stance: s}
			for i := range p.fingers {
				p.fingers[i] = noFinger
			}
			out = m.assign(out, touches, 0, p)
		}
	}
	return out
}

// assign gives the touches from i on their fingers in every way that stance allows: a finger plays the fret it stands
// over, two notes share one only under a barre, and on one fret the lower finger takes the thicker string.
func (m *Model) assign(out []posture, touches []Touch, i int, p posture) []posture {
	if i == len(touches) {
		return append(out, p)
	}
	t := touches[i]
	if !t.fretted() {
		return m.assign(out, touches, i+1, p)
	}
	for f := range int8(4) {
		if m.stances[p.stance].frame[f] != t.Place.Fret || !fits(touches, p, i, f) {
			continue
		}
		p.fingers[i] = f
		out = m.assign(out, touches, i+1, p)
		p.fingers[i] = noFinger
	}
	return out
}

// laidFlat says whether one finger laid flat may hold two touches of one fret: as the player set it, or because they
// lie on neighbouring strings, or with notes between them at its fret or beyond.
func laidFlat(touches []Touch, i, j int) bool {
	if touches[i].Barre && touches[j].Barre {
		return true
	}
	lo, hi := touches[i].Place.String, touches[j].Place.String
	if lo > hi {
		lo, hi = hi, lo
	}
	held := 0
	for _, t := range touches {
		if s := t.Place.String; s > lo && s < hi && t.Place.Fret >= touches[i].Place.Fret {
			held++
		}
	}
	return held == hi-lo-1
}

// fits says whether finger f may take touch i beside the fingers that posture p has given to the touches before it.
func fits(touches []Touch, p posture, i int, f int8) bool {
	for j := range i {
		g := p.fingers[j]
		if g == noFinger || touches[j].Place.Fret != touches[i].Place.Fret {
			continue
		}
		thicker := touches[j].Place.String > touches[i].Place.String
		switch {
		case g == f && !laidFlat(touches, i, j):
			return false
		case g != f && (g < f) != thicker:
			return false
		}
	}
	return true
}

// allows says whether the posture keeps the fingers that are set.
func allows(touches []Touch, p posture) bool {
	for i, t := range touches {
		if !t.fretted() {
			continue
		}
		if t.Finger != lick.NoFinger && (!t.Finger.Fretting() || p.fingers[i] != int8(t.Finger-lick.Index)) {
			return false
		}
		if t.Finger == lick.NoFinger && t.Only != 0 && t.Only&Only(lick.Index+lick.Finger(p.fingers[i])) == 0 {
			return false
		}
	}
	return true
}
