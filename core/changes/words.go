package changes

import (
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/neck"
)

// Moves are the words of Move with what each does, in the order in which they are offered.
func Moves() []struct{ Word, Title string } {
	return []struct{ Word, Title string }{
		{"each:degrees", "To each chord, same degrees"}, {"each:shape", "To each chord, same shape"},
		{"each:key", "To each chord, by steps of the key"},
		{"each:degrees+pentatonic", "To each chord, then in its pentatonic"},
		{"each:degrees+scale", "To each chord, then in its scale"},
		{"later:1/4", "A beat later"}, {"later:-1/4", "A beat earlier"},
		{"double", "In doubled values"}, {"halve", "In halved values"},
		{"answer:2", "Call and answer in 2 bars"}, {"answer:4", "Call and answer in 4 bars"},
		{"tones:3", "Only the third of each chord"}, {"only:pairs", "Only its first three pairs"},
		{"only:bends", "Only its bends"}, {"only:string", "On one string"},
		{"pairs", "A pair of tones for each chord"},
		{"fill", "Chords in the rests"}, {"fill:2& | 1 1& 2 2&", "Chords in the rests, in rhythm"},
		{"bass:steady", "A thumb bass under it"}, {"bass:alternating", "Root and fifth in turn under it"},
		{"bass:walking", "A walking bass under it"},
	}
}

// NeedsChords says whether a word of Move asks for the chords under the line.
func NeedsChords(word string) bool {
	name, _, _ := strings.Cut(word, ":")
	return slices.Contains([]string{"each", "tones", "pairs", "fill", "bass", "add"}, name)
}

// Move does what a word says with a line over its changes: each:degrees, each:shape or each:key, each with +pentatonic
// or +scale for what follows there, later:1/4 (below zero earlier), double, halve, answer:4 (bars), tones:3 (one tone
// of each chord), pairs, fill, only:1 b3 5 (degrees of the key; or pairs, bends, string 3), bass:steady. said tells
// what is not seen in the line. An error is one sentence. The lick that comes with an error is the one that was passed.
func Move(g neck.Guitar, l lick.Lick, word string) (out lick.Lick, said string, err error) {
	name, value, _ := strings.Cut(word, ":")
	switch name {
	case "each":
		if m, ok := ParseManner(value); ok {
			return unsaid(EachChord(g, l, m))
		}
	case "later":
		by, e := lick.ParseTime(strings.TrimPrefix(value, "-"))
		if e != nil {
			return l, "", e
		}
		if strings.HasPrefix(value, "-") {
			by = lick.Time{}.Sub(by)
		}
		return unsaid(Displace(l, by))
	case "double":
		return unsaid(Stretch(l, 2, 1))
	case "halve":
		return unsaid(Stretch(l, 1, 2))
	case "answer":
		bars, e := strconv.ParseInt(value, 10, 64)
		if e != nil || bars != 2 && bars != 4 {
			return l, "", errors.New("call and answer take 2 or 4 bars, as in answer:4")
		}
		return CallAnswer(l, bars)
	case "tones":
		n, e := strconv.Atoi(value)
		if e != nil || n < 1 || n > 13 {
			return l, "", errors.New("name a tone of the chords by its number, as in tones:3")
		}
		return unsaid(GuideTones(g, l, n))
	case "pairs":
		return Pairs(g, l)
	case "fill":
		return Fill(g, l, value)
	case "add":
		return unsaid(AddOver(l, value))
	case "grip":
		return GripUnder(g, l, value)
	case "only":
		switch strings.TrimSpace(value) {
		case "pairs":
			return OnlyPairs(l)
		case "bends":
			return OnlyBends(l)
		}
		if rest, ok := strings.CutPrefix(strings.TrimSpace(value), "string"); ok {
			on, e := readString(rest)
			if e != nil {
				return l, "", e
			}
			return OneString(g, l, on)
		}
		return Only(l, value)
	case "bass":
		return unsaid(Bass(g, l, Pattern(value)))
	}
	return l, "", fmt.Errorf(
		"%q is no way to move a line over its changes; there are each:degrees, each:shape, each:key, "+
			"later:1/4, double, halve, answer:4, tones:3, pairs, fill, grip:5 5 5 5, add:G7: b9, only:1 b3 5, only:string 3, "+
			"bass:steady",
		word,
	)
}

// unsaid is a move of which nothing needs to be said.
func unsaid(l lick.Lick, err error) (lick.Lick, string, error) { return l, "", err }

// FollowChords has a line judged by each chord's own scale, the nearest to its key, instead of
// the key's all along: the school that plays the chord, not the key (common practice). Notes
// stay as they are; a chord that no known scale holds keeps the scale before it.
func FollowChords(l lick.Lick) lick.Lick {
	p, ok := l.Palette()
	if !ok {
		return l
	}
	out := l.Clone()
	out.Keys = nil
	for _, c := range Read(l).Chords {
		if scales := ScalesFor(c.Chord, p); len(scales) > 0 {
			key := lick.Key{Tonic: c.Chord.Root.String(), Scale: scales[0]}
			if c.At.IsZero() {
				out.Key = key
			} else {
				out.Keys = append(out.Keys, lick.KeySpan{At: c.At, Key: key})
			}
		}
	}
	return out
}
