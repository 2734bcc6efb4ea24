package hand

import (
	"fmt"
	"math"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/neck"
)

// Pair names two fretting fingers, index to little.
type Pair int

// The six pairs of fingers.
const (
	P12 Pair = iota
	P13
	P14
	P23
	P24
	P34
)

// pairOf finds the pair of two different fingers, 0 (index) to 3 (little).
var pairOf = [4][4]Pair{{0, P12, P13, P14}, {P12, 0, P23, P24}, {P13, P23, 0, P34}, {P14, P24, P34, 0}}

// Hand is a fretting hand. Its defaults are model defaults for an intermediate player; measurements replace them.
type Hand struct {
	Name    string
	Comfort [6]neck.MM // by Pair: reach that is comfortable
	Limit   [6]neck.MM // by Pair: reach that is the limit
	Speed   float64    // needs are divided by it; 1 is the model's player

	Bender lick.Finger // that bends where several could, a habit; NoFinger is what is usual
	Habits string      // other habits, see figure.ParseHabits
}

// Medium is the default hand (model default).
func Medium() Hand {
	return Hand{
		Name:    "medium",
		Comfort: [6]neck.MM{P12: 56, P13: 84, P14: 104, P23: 36, P24: 66, P34: 36},
		Limit:   [6]neck.MM{P12: 80, P13: 108, P14: 132, P23: 56, P24: 88, P34: 56},
		Speed:   1,
	}
}

// sizes scale the medium hand (model default).
var sizes = []struct {
	name  string
	scale neck.MM
}{{"small", 0.9}, {"medium", 1}, {"large", 1.1}}

// Named returns the small, medium or large hand.
func Named(name string) (Hand, error) {
	var names []string
	for _, s := range sizes {
		if s.name == name {
			h := Medium().Scaled(s.scale)
			h.Name = name
			return h, nil
		}
		names = append(names, s.name)
	}
	return Hand{}, fmt.Errorf("hand %q is none: use %s", name, strings.Join(names, ", "))
}

// Scaled is the hand with every reach made so much larger.
func (h Hand) Scaled(by neck.MM) Hand {
	for i := range h.Comfort {
		h.Comfort[i] *= by
		h.Limit[i] *= by
	}
	return h
}

// Costs of the fretting hand (model defaults; needs in ms). Fitts' slopes come from indices of performance of about 23
// bit/s for the wrist and 38 bit/s for a finger (Langolf, Chaffin and Foulke 1976, from memory).
const (
	wristSlope  = 43.0 // ms a bit
	fingerSlope = 26.0 // ms a bit

	placeFinger  = 75.0 // another finger comes down
	letGo        = 20.0 // it comes down while the hand shifts
	hammerExtra  = 10.0
	pullExtra    = 15.0
	rollBase     = 95.0
	barreBase    = 55.0
	jumpFinger   = 95.0
	jumpHand     = 110.0
	slideBase    = 25.0
	shiftExtra   = 15.0
	openNeed     = 30.0
	openPullNeed = 45.0
	farString    = 5.0  // each string beyond the next one
	sameFret     = 30.0 // two neighbouring fingers on one fret

	strainCost = 40.0 // at strain 1
	gapCost    = 16.0 // each fret a gap opens beyond one
	closedCost = 3.0  // each closed gap
	crowdCost  = 3.75 // each mm a cell is narrower than a fingertip
)

// Fingertip is the width of a fingertip (model default); cells narrower than it crowd two neighbouring fingers.
const Fingertip neck.MM = 14

// pairCost is what two fingers one after the other cost more, in ms.
var pairCost = [6]float64{P14: 8, P23: 8, P24: 5, P34: 14}

// fitts is t = b·log2(1 + D/W) in ms (Fitts 1954 in MacKenzie's 1992 form, from
// memory): D the way, W the width of the target.
func fitts(d, w neck.MM, slope float64) float64 {
	if d == 0 {
		return 0
	}
	return slope * log2(1+float64(d/w))
}

// log2 is math.Log2 without its exactness at powers of two, which costs time.
func log2(x float64) float64 { return math.Log(x) * (1 / math.Ln2) }

// Frame is the fret each finger stands over, index to little.
type Frame [4]int

// standing is what a frame costs every move that ends in it, in ms.
func standing(g neck.Guitar, f Frame, strain float64) float64 {
	cost := strainCost * strain
	for i := range 3 {
		switch gap := f[i+1] - f[i]; {
		case gap == 0:
			cost += closedCost
		case gap == 1:
			cost += crowdCost * max(0, float64(Fingertip-g.Cell(f[i+1])))
		default:
			cost += gapCost * float64(gap-1)
		}
	}
	return cost
}

// LimitOf is the limit of the reach between two fingers, the lower one first;
// ok is false where they are not two fretting fingers.
func (h Hand) LimitOf(lo, hi lick.Finger) (limit neck.MM, ok bool) {
	if !lo.Fretting() || !hi.Fretting() || lo == hi {
		return 0, false
	}
	return h.Limit[pairOf[lo-lick.Index][hi-lick.Index]], true
}

// Stretch is two fingers of a stance and how far apart they stand. Its zero value stands for a
// hand of which no two fingers play.
type Stretch struct {
	Lo, Hi         lick.Finger
	Reach          neck.MM
	Comfort, Limit neck.MM // of this pair
}

// Strain is how far a stretch is between comfortable (0) and its limit (1).
func (s Stretch) Strain() float64 {
	if s.Reach <= s.Comfort {
		return 0
	}
	return float64((s.Reach - s.Comfort) / (s.Limit - s.Comfort))
}

// Widest is the pair that a frame strains most, of the fingers that play. A finger that merely
// hovers could stand closer: where it does not, that is to save time, and no stretch to tell of.
func (h Hand) Widest(g neck.Guitar, f Frame, playing Fingers) (out Stretch) {
	worst := math.Inf(-1)
	for a := range 3 {
		for b := a + 1; b < 4; b++ {
			s := Stretch{Lo: lick.Index + lick.Finger(a), Hi: lick.Index + lick.Finger(b)}
			if !playing.Has(s.Lo) || !playing.Has(s.Hi) {
				continue
			}
			p := pairOf[a][b]
			s.Reach, s.Comfort, s.Limit = g.Press(f[b])-g.Press(f[a]), h.Comfort[p], h.Limit[p]
			if x := float64((s.Reach - s.Comfort) / (s.Limit - s.Comfort)); x > worst {
				worst, out = x, s
			}
		}
	}
	return out
}

// Span is how far the little finger reaches with the index at fret from: the
// highest fret with ease and the highest at all, as if the frets went on.
func (h Hand) Span(g neck.Guitar, from int) (ease, most int) {
	ease, most = from, from
	for g.Press(most+1)-g.Press(from) <= h.Limit[P14] {
		most++
		if g.Press(most)-g.Press(from) <= h.Comfort[P14] {
			ease = most
		}
	}
	return ease, most
}
