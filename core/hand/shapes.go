package hand

import (
	"slices"

	"ornamen/core/lick"
)

// Octaves and pairs of notes are played by shape: the same shape takes the same fingers
// wherever it lies on the neck, so that the hand moves as one piece (common practice).
// It may cost more than other lines' usual fingers.
const shapeSlack = 1.4

// byShape picks the fingers of its shapes for a line of octaves or of pairs, or nothing:
// where the line is neither, where a finger is set otherwise, or where a load would lie
// above the limit.
func (c *chain) byShape(limit float64) []int {
	want := c.octaves()
	if want == nil {
		want = c.pairs()
	}
	if want == nil {
		return nil
	}
	shaped := *c
	shaped.known = 0
	shaped.nodes = slices.Clone(c.nodes)
	for k := range shaped.nodes {
		n := &shaped.nodes[k]
		n.allowed = slices.DeleteFunc(slices.Clone(n.allowed), func(j int) bool {
			for i, f := range want[k] {
				if n.stand[j].fingers[i] != f {
					return true
				}
			}
			return false
		})
		if len(n.allowed) == 0 {
			return nil
		}
	}
	if picks, ok := shaped.best(limit, nil); ok {
		return picks
	}
	return nil
}

// octaves are the fingers of a line of single notes that make octaves over a string: the
// index on the thick string, the ring finger on the thin one, or the little finger where
// the octave spans three frets. Nothing where other moves are many.
func (c *chain) octaves() [][]int8 {
	want := make([][]int8, len(c.nodes))
	pairs := 0
	for k := 1; k < len(c.nodes); k++ {
		x, y := c.nodes[k-1].touches, c.nodes[k].touches
		if len(x) != 1 || len(y) != 1 {
			return nil
		}
		frets, rises, ok := octave(x[0], y[0])
		if !ok {
			continue
		}
		pairs++
		low, high := []int8{0}, []int8{2}
		if frets == 3 {
			high[0] = 3
		}
		if !rises {
			low, high = high, low
		}
		if want[k-1] == nil {
			want[k-1] = low
		}
		want[k] = high
	}
	if pairs < 2 || 2*pairs < len(c.nodes) || slices.ContainsFunc(want, func(f []int8) bool { return f == nil }) {
		return nil
	}
	return want
}

// octave says whether two notes stand as an octave over a string, by how many frets,
// and whether the first of them is the lower one.
func octave(x, y Touch) (frets int, rises, ok bool) {
	low, high := x.Place, y.Place
	if rises = low.String > high.String; !rises {
		low, high = high, low
	}
	frets = high.Fret - low.Fret
	plain := x.fretted() && y.fretted() && x.Slur == "" && y.Slur == ""
	return frets, rises, plain && low.String-high.String == 2 && (frets == 2 || frets == 3)
}

// pairs are the fingers of a line of two notes at a time on the same two strings. On
// neighbouring strings the index takes the lower fret, and lies flat where both are on
// one; over a string the middle finger keeps the thick one.
func (c *chain) pairs() [][]int8 {
	if len(c.nodes) < 2 {
		return nil
	}
	want := make([][]int8, len(c.nodes))
	for k, n := range c.nodes {
		if len(n.touches) != 2 {
			return nil
		}
		thick, thin := n.touches[0], n.touches[1]
		for i, t := range n.touches {
			if !t.fretted() || t.Held || t.Slur != "" || t.Bent || t.Finger == lick.Thumb ||
				t.Place.String != c.nodes[0].touches[i].Place.String {
				return nil
			}
		}
		up := int8(thin.Place.Fret - thick.Place.Fret)
		switch apart := thick.Place.String - thin.Place.String; {
		case apart == 1 && up >= 0 && up <= 3:
			want[k] = []int8{0, up}
		case apart == 1 && up < 0 && up >= -3:
			want[k] = []int8{-up, 0}
		case apart == 2 && up == 0:
			want[k] = []int8{1, 2}
		case apart == 2 && up == -1:
			want[k] = []int8{1, 0}
		default:
			return nil
		}
	}
	return want
}
