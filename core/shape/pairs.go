package shape

import (
	"fmt"
	"strconv"
	"strings"

	"ornamen/core/music"
	"ornamen/core/neck"
)

// pairs harmonises the scale in double stops: a tone on the upper string with
// the tone so many scale steps below it on the lower one.
type pairs struct {
	low, high int // strings: low is the one with the lower tone
	interval  int // 3 for thirds, 6 for sixths
}

// readPairs reads "3,1:6": two strings and the interval between them.
func readPairs(rest string) (Layout, error) {
	strs, interval, ok := strings.Cut(rest, ":")
	n, err := readNumbers(strs, 1, neck.MaxStrings)
	if err != nil {
		return nil, err
	}
	i, err := strconv.Atoi(interval)
	if !ok || err != nil || i < 2 || i > 10 || len(n) != 2 || n[0] == n[1] {
		return nil, fmt.Errorf("%q names no two strings and an interval from 2 to 10", rest)
	}
	return pairs{low: max(n[0], n[1]), high: min(n[0], n[1]), interval: i}, nil
}

// Name implements Layout.
func (p pairs) Name() string    { return fmt.Sprintf("pairs:%d,%d:%d", p.low, p.high, p.interval) }
func (p pairs) everyTone() bool { return false }

// start is the lowest root on the thicker string.
func (p pairs) start(b board) neck.Place {
	return LowestRoot(b.guitar, b.palette, min(p.low, len(b.guitar.Tuning)))
}

// usualSize is how many half steps an interval may have where the scale has no seven steps to count by.
var usualSize = map[int][2]int{2: {1, 2}, 3: {3, 4}, 4: {5, 6}, 5: {6, 7}, 6: {8, 9}, 7: {10, 11}, 8: {12, 12},
	9: {13, 14}, 10: {15, 16}}

// lay climbs the upper string from the start on and puts the lower tone of each pair beside it. The two are one step.
func (p pairs) lay(b board) ([]Placed, error) {
	if p.low > len(b.guitar.Tuning) {
		return nil, fmt.Errorf("there is no string %d", p.low)
	}
	if err := b.needTone(); err != nil {
		return nil, err
	}
	if b.at.String != p.low && b.at.String != p.high {
		return nil, fmt.Errorf("the pairs lie on strings %d and %d, not on %d", p.low, p.high, b.at.String)
	}
	var out []Placed
	step := 0
	for f := 0; f <= b.guitar.Frets; f++ {
		top, ok := b.tone(neck.Place{String: p.high, Fret: f})
		if !ok {
			continue
		}
		low, ok := p.below(b, top.Pitch)
		if !ok || b.at.String == p.high && f < b.at.Fret || b.at.String == p.low && low.Place.Fret < b.at.Fret {
			continue
		}
		top.Step, low.Step = step, step
		out = append(out, low, top)
		step++
	}
	if len(out) == 0 {
		return nil, fmt.Errorf("no pair of that size lies on strings %d and %d there", p.low, p.high)
	}
	return out, nil
}

// below finds the lower tone of a pair: in a scale of seven tones so many of its steps down, a sixth being six letters
// and five steps; in another scale the tone of the scale that lies within the usual size of the interval, the nearer
// one first. In C major a sixth below C is E; in C minor pentatonic it is E♭, nine half steps down.
func (p pairs) below(b board, top music.Pitch) (Placed, bool) {
	pitch := top
	if len(b.ladder) == 7 {
		for range p.interval - 1 {
			for pitch--; b.ladder[pitch.Class()] == nil; pitch-- {
			}
		}
	} else {
		size := usualSize[p.interval]
		for pitch = top - music.Pitch(size[0]); pitch >= top-music.Pitch(size[1]); pitch-- {
			if b.ladder[pitch.Class()] != nil {
				break
			}
		}
		if pitch < top-music.Pitch(size[1]) {
			return Placed{}, false
		}
	}
	place := neck.Place{String: p.low, Fret: int(pitch - b.guitar.Tuning[p.low-1])}
	if !b.guitar.Has(place) {
		return Placed{}, false
	}
	return b.tone(place)
}
