package shape

import (
	"slices"

	"ornamen/core/music"
	"ornamen/core/neck"
)

// addColours adds each colour pitch of the palette once.
func addColours(b board, scale []Placed) []Placed {
	g, p, ladder := b.guitar, b.palette, b.ladder
	box := boundsOf(scale)
	taken := map[music.Pitch]bool{}
	lowestRoot := music.Pitch(-1)
	for _, t := range scale {
		taken[t.Pitch] = true
		if t.Tone.Role == music.Root && (lowestRoot < 0 || t.Pitch < lowestRoot) {
			lowestRoot = t.Pitch
		}
	}
	out := slices.Clone(scale)
	for pitch := music.Pitch(0); pitch <= music.MaxPitch; pitch++ {
		t := p.At(pitch)
		if t.Role == music.Outside || ladder[pitch.Class()] != nil || taken[pitch] ||
			!holds(t.Hold, pitch, lowestRoot) {
			continue
		}
		if place, ok := box.colourPlace(g, pitch); ok {
			t.Role = music.Colour
			out = append(out, Placed{Place: place, Pitch: pitch, Tone: t})
		}
	}
	return out
}

// holds says whether a tone that is held to a part of the line may stand at the pitch. Up and down are for the line to
// keep; the place is shown. Octaves are counted from the lowest root of the shape: 1 is the octave that begins there.
func holds(h music.Hold, pitch, lowestRoot music.Pitch) bool {
	switch {
	case lowestRoot < 0:
		return h.Octave == 0 && h.Only != "below"
	case h.Only == "below":
		return pitch < lowestRoot
	case h.Octave > 0:
		return pitch >= lowestRoot && int(pitch-lowestRoot)/12+1 == h.Octave
	}
	return true
}

// bounds are the frets and strings of a shape, and each string's own frets.
type bounds struct {
	lo, hi, thin, thick int
	string              map[int][2]int
	hand                [2]int // the frets under the four fingers where most tones lie
}

// boundsOf measures a shape.
func boundsOf(scale []Placed) bounds {
	b := bounds{lo: neck.MaxFrets + 1, thin: neck.MaxStrings + 1, string: map[int][2]int{}}
	for _, t := range scale {
		f, s := t.Place.Fret, t.Place.String
		b.lo, b.hi, b.thin, b.thick = min(b.lo, f), max(b.hi, f), min(b.thin, s), max(b.thick, s)
		r, ok := b.string[s]
		if !ok {
			r = [2]int{f, f}
		}
		b.string[s] = [2]int{min(r[0], f), max(r[1], f)}
	}
	b.hand = [2]int{b.lo, b.hi}
	if b.hi-b.lo > oneHand {
		return b // the hand moves within the shape
	}
	most := 0
	for lo := b.lo; lo <= max(b.lo, b.hi-fingerFrets+1); lo++ {
		n := 0
		for _, t := range scale {
			if t.Place.Fret >= lo && t.Place.Fret < lo+fingerFrets {
				n++
			}
		}
		if n > most {
			most, b.hand = n, [2]int{lo, lo + fingerFrets - 1}
		}
	}
	return b
}

// How many frets a shape spans at most that one hand holds without moving, and how many lie under its
// four fingers (common practice).
const (
	oneHand     = 5
	fingerFrets = 4
)

// colourPlace chooses the place of a colour pitch: inside the shape's frets, else one fret
// below, else one above. Where two places serve alike, the one between its string's own tones
// is taken, then one under the fingers, then the lower fret. The ♭5 of an A minor box at 5 to 8 lies
// on 5:6, between 5 and 7, and on 3:8, above 5 and 7 of its string but within the frets of the shape:
// in the natural minor scale too, whose box has a stretch to fret 4, where 2:4 is the same tone.
func (b bounds) colourPlace(g neck.Guitar, pitch music.Pitch) (neck.Place, bool) {
	return g.Best(pitch, func(p neck.Place) int {
		rank := p.Fret
		switch {
		case p.String < b.thin || p.String > b.thick || p.Fret < b.lo-1 || p.Fret > b.hi+1:
			return neck.OutOfReach
		case p.Fret == b.lo-1:
			rank += 1000
		case p.Fret == b.hi+1:
			rank += 2000
		}
		if own, ok := b.string[p.String]; !ok || p.Fret < own[0] || p.Fret > own[1] {
			rank += 100
		}
		if p.Fret < b.hand[0] || p.Fret > b.hand[1] {
			rank += 50
		}
		return rank
	})
}
