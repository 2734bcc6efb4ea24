package hand

import (
	"slices"

	"ornamen/core/figure"
	"ornamen/core/lick"
	"ornamen/core/neck"
)

// Gaps that a frame may open between neighbouring fingers, in frets, and the least it spans (model default).
const (
	maxGap12, maxGap23, maxGap34 = 3, 2, 2
	minSpan                      = 2
	hover                        = 3 // frets beyond the last one that an idle finger may stand over
	behind                       = 2 // frets before the first one, for hovering fingers
)

// stance is a frame with what it costs to stand in it.
type stance struct {
	frame    Frame
	strain   float64
	standing float64 // ms
	spread   float64 // ms, see spread
	narrow   bool    // it spans less than a frame, for notes together on one fret or two
	centre   neck.MM // mean of the four press points
}

// Model is one hand on one guitar: the frames it can stand in, and the moves between them, kept once computed within a
// bound of memory. It is safe for concurrent use.
type Model struct {
	Hand    Hand
	Guitar  neck.Guitar
	press   []neck.MM  // where a finger presses, by fret, from behind frets before the first
	stances []stance   // in rising order of their frames
	at      [4][][]int // at[finger][fret]: the stances whose finger stands there
	number  uint64     // tells it from other models in what is kept
	logs    logTables

	bendEfforts [2][4]float64 // effort in ms of a full and of a light bend, by finger
	whose       figure.Of
}

// NewModel prepares the frames of a hand on a guitar.
func NewModel(h Hand, g neck.Guitar) *Model {
	m := &Model{Hand: h, Guitar: g, bendEfforts: bendEfforts(h), number: models.Add(1)}
	habits, _ := figure.ParseHabits(h.Habits) // a text that cannot be read is no habit
	m.whose = figure.Of{LongScale: g.Scale > longScale, Habits: habits}
	last := g.Frets + hover
	for fret := 1 - behind; fret <= last; fret++ {
		m.press = append(m.press, g.Press(fret))
	}
	for f := range m.at {
		m.at[f] = make([][]int, last+1)
	}
	for r1 := 1 - behind; r1 <= last; r1++ {
		for r2 := r1; r2 <= min(last, r1+maxGap12); r2++ {
			for r3 := r2; r3 <= min(last, r2+maxGap23); r3++ {
				for r4 := r3; r4 <= min(last, r3+maxGap34); r4++ {
					m.addStance(Frame{r1, r2, r3, r4})
				}
			}
		}
	}
	return m
}

// addStance keeps a frame that every pair of fingers reaches, with its strain, its centre,
// and under which fret of which finger it is found.
func (m *Model) addStance(f Frame) {
	s := stance{frame: f, strain: m.strain(f), narrow: f[3]-f[0] < minSpan}
	if s.strain > 1 {
		return
	}
	s.standing, s.spread = standing(m.Guitar, f, s.strain), spread(f)
	for finger, fret := range f {
		s.centre += m.pressAt(fret) / 4
		if fret > 0 {
			m.at[finger][fret] = append(m.at[finger][fret], len(m.stances))
		}
	}
	m.stances = append(m.stances, s)
}

// pressAt is where a finger over a fret presses.
func (m *Model) pressAt(fret int) neck.MM { return m.press[fret+behind-1] }

// strain is how far the widest pair is between comfortable (0) and its limit (1); above 1 the hand cannot stand so.
func (m *Model) strain(f Frame) float64 {
	worst := 0.0
	for a := range 3 {
		for b := a + 1; b < 4; b++ {
			p := pairOf[a][b]
			reach := m.pressAt(f[b]) - m.pressAt(f[a])
			worst = max(worst, float64((reach-m.Hand.Comfort[p])/(m.Hand.Limit[p]-m.Hand.Comfort[p])))
		}
	}
	return worst
}

// Easy says whether the hand can stand so without strain.
func (m *Model) Easy(f Frame) bool {
	if f[0] < 1 || f[3]+behind > len(m.press) {
		return false
	}
	s := stance{strain: m.strain(f)}
	return !s.strained()
}

// Touch is one note as the fretting hand sees it.
type Touch struct {
	Place  neck.Place
	Finger lick.Finger // NoFinger leaves it free
	Only   Fingers     // the fingers a free touch may take; none means all
	Slur   lick.Slur   // how it is reached from the touch before it on its string
	Barre  bool        // the player laid this finger flat
	Held   bool        // it sounds on from an earlier event
	Bent   bool        // its string is pushed
	Light  bool        // by less than a full step, which one finger does
}

// Fingers is a set of fretting fingers.
type Fingers uint8

// Only is the set of one finger.
func Only(f lick.Finger) Fingers { return 1 << f }

// Has says whether a finger is one of the set.
func (s Fingers) Has(f lick.Finger) bool { return s&Only(f) != 0 }

// fretted says whether one of the four fingers must press.
func (t Touch) fretted() bool { return t.Place.Fret > 0 && t.Finger != lick.Thumb }

// Event is what sounds at one time. Have is the time in ms since the event
// before it (for the first one, the time from the last event of a loop).
type Event struct {
	Touches []Touch
	Have    float64
	Cell    int // of the line's recipe in which it lies, from 1; 0 for none
}

// fretted says whether the hand has anything to press.
func (e Event) fretted() bool {
	return slices.ContainsFunc(e.Touches, Touch.fretted)
}

// Kind says what sort of move leads into a step.
type Kind string

// The kinds of move.
const (
	Start  Kind = "start"
	Place  Kind = "place" // another finger, the one before still down
	Move   Kind = "move"  // another finger, the hand shifts
	Same   Kind = "same"  // same finger, same place
	Roll   Kind = "roll"
	Barre  Kind = "bar"
	Jump   Kind = "jump"
	Slide  Kind = "slide"
	Shift  Kind = "shift"  // a silent slide, so marked
	Guided Kind = "guided" // the same without a mark: the finger keeps its string and leads the hand
	Hammer Kind = "hammer"
	Pull   Kind = "pull"
	Grips  Kind = "grip" // a whole grip moved as one
	ToOpen Kind = "open"
	Hold   Kind = "hold"
)

// Step is the hand at one event.
type Step struct {
	Fingers  []lick.Finger // one a touch
	Frame    Frame         // zero until the first fretted event
	Stretch  Stretch       // of the stance, when the event is fretted
	Kind     Kind          // of the part that needs most
	Part     int           // the touch that needs most
	Need     float64       // ms, the standing cost in it
	Load     float64       // Need over Have
	Way      neck.MM       // how far the hand's centre moves
	Reach    neck.MM       // widest distance of two fingers in use at once
	Possible bool          // false: this hand cannot do it at any tempo
}

// Path is the whole line's hand.
type Path struct {
	Steps []Step
	Bound float64 // least possible largest load; every step of it possible
	// Load is the largest load of the fingers of a proposal at the best frames; it is exact where it is above 1.
	Load float64
}

// Possible says whether every step can be done at some tempo.
func (p Path) Possible() bool {
	return !slices.ContainsFunc(p.Steps, func(s Step) bool { return !s.Possible })
}
