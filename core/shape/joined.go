package shape

import (
	"errors"
	"fmt"
	"slices"

	"ornamen/core/music"
	"ornamen/core/neck"
)

// joined climbs the neck: on every other string one tone more than the usual count, reached by a slide that brings the
// hand into the next place. Of the two ways to begin, the one whose slides land more often on root, third or fifth is
// taken (common practice: a join lands on a tone of the chord).
type joined struct{}

// Name implements Layout.
func (joined) Name() string    { return "joined" }
func (joined) everyTone() bool { return false }

// lay tries both ways to begin and keeps the one whose slides land better: a landing on root,
// third or fifth counts more than any number of others. In A minor pentatonic from 6:5 the
// strings have 3 2 3 2 3 2 tones, and the third of string 6, fret 10, is slid to from fret 8.
func (joined) lay(b board) ([]Placed, error) {
	if err := b.needTone(); err != nil {
		return nil, err
	}
	usual := 2
	if len(b.ladder) > 5 {
		usual = 3
	}
	var best []Placed
	bestRank := -1
	var failed error
	for _, first := range []int{1, 0} {
		row := make([]int, b.at.String)
		for i := range row {
			row[i] = usual + (i+first)%2
		}
		placed, err := counts{row: row}.lay(b)
		if err != nil {
			failed = err
			continue
		}
		rank := 0
		for i := 1; i < len(placed); i++ {
			last := i == len(placed)-1 || placed[i+1].Place.String != placed[i].Place.String
			if !last || row[b.at.String-placed[i].Place.String] == usual {
				continue
			}
			placed[i].Slide = placed[i-1].Place.Fret
			rank++
			if chordTone(placed[i].Tone) {
				rank += 100
			}
		}
		if rank > bestRank {
			best, bestRank = placed, rank
		}
	}
	if best == nil {
		return nil, failed
	}
	return best, nil
}

// chordTone says whether a tone is root, third or fifth.
func chordTone(t music.Tone) bool { return slices.Contains([]int{1, 3, 5}, t.Degree.Number) }

// Slides lists the joins of a shape in words: which finger, from where to where.
func Slides(placed []Placed) []Join {
	var out []Join
	for _, t := range placed {
		if t.Slide > 0 {
			from := neck.Place{String: t.Place.String, Fret: t.Slide}
			out = append(out, Join{Finger: t.Finger.String(), From: from, To: t.Place, Lands: t.Tone})
		}
	}
	return out
}

// Join is a slide from one position into the next.
type Join struct {
	Finger   string
	From, To neck.Place
	Lands    music.Tone
}

// spread opens an arpeggio: root, fifth and seventh, then the ninth and the third an octave up, each on a thinner
// string, or on the same one where that keeps it closer to the hand (common practice).
type spread struct{}

// Name implements Layout.
func (spread) Name() string    { return "spread" }
func (spread) everyTone() bool { return true }

// lay starts on the root at the given place and takes each further tone on a thinner string.
func (spread) lay(b board) ([]Placed, error) {
	root, ok := b.tone(b.at)
	if !ok || root.Tone.Role != music.Root {
		return nil, fmt.Errorf("a spread arpeggio starts on a root; on string %d they lie at other frets than %d",
			b.at.String, b.at.Fret)
	}
	out := []Placed{root}
	str := b.at.String
	for _, want := range []struct{ number, octave int }{{5, 0}, {7, 0}, {9, 1}, {3, 1}} {
		for _, t := range b.palette.Tones {
			if t.Degree.Number != want.number && !(want.number == 9 && t.Degree.Number == 2) {
				continue
			}
			pitch := root.Pitch + music.Pitch(t.Degree.Semitones()+12*want.octave)
			best, ok := b.guitar.Best(pitch, func(p neck.Place) int {
				switch d := 2 * abs(p.Fret-b.at.Fret); {
				case p.String > str:
					return neck.OutOfReach
				case p.String == str:
					return d + 1 // of two as close, the one on a string of its own
				default:
					return d
				}
			})
			if ok {
				x, _ := b.tone(best)
				x.Step = len(out)
				out, str = append(out, x), best.String
			}
		}
	}
	if len(out) < 3 {
		return nil, errors.New("this palette has no fifth and third to spread")
	}
	return out, nil
}
