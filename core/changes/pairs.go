package changes

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// Pairs is a double stop for each chord on strings 3 and 1, a sixth or the like apart, both of them tones of the chord,
// the third among them where that can be, each as near as may be to the one before (common practice). Each lasts as
// long as its chord; said names the pair of each chord, the lower tone first.
func Pairs(g neck.Guitar, l lick.Lick) (out lick.Lick, said string, err error) {
	r := Read(l)
	if len(r.Chords) == 0 {
		return l, "", errors.New("there are no chords to take pairs from: write the changes first")
	}
	g = g.WithTuning(l.Tuning)
	out = l.Clone()
	out.Notes, out.Parts, out.Recipe = nil, nil, ""
	near := 7
	if len(l.Notes) > 0 {
		near = l.Notes[0].Fret
	}
	var words []string
	for _, c := range r.Chords {
		low, high, degrees, ok := pairOf(g, c.Chord, near)
		if !ok {
			return l, "", fmt.Errorf("no pair of %s lies under one hand on strings 3 and 1", c.Name)
		}
		near = low.Fret
		for _, p := range []neck.Place{low, high} {
			out.Notes = append(out.Notes, lick.Note{At: c.At, Len: c.End.Sub(c.At), String: p.String, Fret: p.Fret})
		}
		words = append(words, c.Name+": "+degrees)
	}
	out.Sort()
	return out, strings.Join(slices.Compact(words), ", "), out.Validate()
}

// widestPair is how many frets the two tones of a pair may lie apart.
const widestPair = 2

// pairOf is the pair of a chord nearest to a fret, with its two degrees. Both are tones of the
// chord and different ones; a pair without the third is taken only where it is at least four
// frets nearer. Every pair of frets of the two strings is looked at: five times the neck.
func pairOf(g neck.Guitar, c music.Chord, near int) (low, high neck.Place, degrees string, ok bool) {
	least := 1 << 30
	for f := 1; f <= g.Frets; f++ {
		for h := f - widestPair; h <= f+widestPair; h++ {
			if h < 1 || h > g.Frets {
				continue
			}
			a, b := neck.Place{String: 3, Fret: f}, neck.Place{String: 1, Fret: h}
			da, ra := Of(c, nil, g.Pitch(a))
			db, rb := Of(c, nil, g.Pitch(b))
			if !ra.Chordal() || !rb.Chordal() || da.Number == db.Number {
				continue
			}
			cost := 2 * max(f-near, near-f)
			if ra != Third && rb != Third {
				cost += 7
			}
			if cost < least {
				low, high, degrees, least, ok = a, b, da.Pretty()+" and "+db.Pretty(), cost, true
			}
		}
	}
	return low, high, degrees, ok
}
