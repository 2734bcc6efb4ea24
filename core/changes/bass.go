package changes

import (
	"errors"
	"fmt"
	"slices"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// Pattern is what the thumb plays under a line.
type Pattern string

// The patterns of the thumb, a tone a beat (common practice): roots on 1 and 2, fifths on 3 and 4 with the ♭7 as an
// answer; root and fifth in turn; or walking through the chord to a half step below the next root.
const (
	Steady      Pattern = "steady"
	Alternating Pattern = "alternating"
	Walking     Pattern = "walking"
)

// Patterns lists them.
func Patterns() []Pattern { return []Pattern{Steady, Alternating, Walking} }

// bassFrets is how far up the neck the thumb's tones lie, and bassStrings on how many of the thickest strings.
const (
	bassFrets   = 12
	bassStrings = 3
)

// Bass lays a thumb bass under the line: a voice of its own, struck by the thumb, on the three thickest strings: an
// open string that has the chord's root or fifth first, then the place nearest to the one before that the hand which
// plays the line can reach. The line is struck by the fingers then, i, m and a by string, and its strokes of the pick
// go. A bass that was there gives way. A line that takes all of those strings is refused.
func Bass(g neck.Guitar, l lick.Lick, pattern Pattern) (lick.Lick, error) {
	if !slices.Contains(Patterns(), pattern) {
		return l, fmt.Errorf("%q is no pattern of the thumb; there are steady, alternating, walking", pattern)
	}
	r := Read(l)
	if len(r.Chords) == 0 {
		return l, errors.New("there are no chords to lay a bass under: write the changes first")
	}
	g = g.WithTuning(l.Tuning)
	out := l.Clone()
	out.Notes = slices.DeleteFunc(out.Notes, func(n lick.Note) bool { return n.Voice == lick.VoiceBass })
	byFingers(out.Notes)
	line := slices.Clone(out.Notes)
	beat := lick.NewTime(1, int64(l.Meter.Unit))
	last := neck.Place{String: len(g.Tuning), Fret: 3}
	for k, c := range r.Chords {
		end := lick.Earlier(c.End, l.End())
		var next *music.Chord
		if k+1 < len(r.Chords) {
			next = &r.Chords[k+1].Chord
		}
		total, _ := c.End.Sub(c.At).Div(beat)
		for n, at := int64(0), c.At; at.Before(end); n, at = n+1, at.Add(beat) {
			class := bassTone(c.Chord, next, pattern, n, total, int64(l.Meter.Beats))
			place, ok := bassPlace(g, line, c.Chord, class, at, at.Add(beat), last)
			if !ok {
				continue // the line has those strings: the bass leaves the beat out
			}
			last = place
			out.Notes = append(out.Notes, lick.Note{At: at, Len: beat, String: place.String, Fret: place.Fret,
				Stroke: lick.PThumb, Voice: lick.VoiceBass})
		}
	}
	out.Parts, out.Recipe = nil, ""
	out.Sort()
	if !slices.ContainsFunc(out.Notes, func(n lick.Note) bool { return n.Voice == lick.VoiceBass }) {
		return l, errors.New("the line lies on the thick strings, so that there is no room for a bass")
	}
	return out, out.Validate()
}

// byFingers has the notes of a line struck by i, m and a, from thick to thin by string: i on string 3, m on 2
// and a on 1 where it lies there; on its own three strings where it has no more; else i on all that are thicker
// than its third string from the thin side (common practice). What a player has set with i, m or a stays;
// strokes of a pick, locked or not, do not fit any more.
func byFingers(notes []lick.Note) {
	var strings []int
	for _, n := range notes {
		if !slices.Contains(strings, n.String) {
			strings = append(strings, n.String)
		}
	}
	slices.Sort(strings)
	thin := 1
	if len(strings) > 0 && strings[len(strings)-1] > 3 && strings[len(strings)-1]-strings[0] <= 2 {
		thin = strings[len(strings)-1] - 2
	}
	for i := range notes {
		n := &notes[i]
		if n.Slur.Slurred() ||
			n.Locked(lick.FieldStroke) && slices.Contains([]lick.Stroke{lick.PIndex, lick.PMid, lick.PRing}, n.Stroke) {
			continue
		}
		n.Lock = slices.DeleteFunc(slices.Clone(n.Lock), func(f lick.Field) bool { return f == lick.FieldStroke })
		n.Stroke = fromThin[min(2, max(0, n.String-thin))]
	}
	fingersApart(notes)
}

// fromThin are the picking fingers from the thinnest string on.
var fromThin = [3]lick.Stroke{lick.PRing, lick.PMid, lick.PIndex}

// fingersApart gives up to three notes that sound together a finger each, as one finger plucks one string at a time:
// the thickest string has the index, the next thinner one the middle finger.
func fingersApart(notes []lick.Note) {
	for from := 0; from < len(notes); {
		to := from + 1
		for to < len(notes) && notes[to].At.Cmp(notes[from].At) == 0 {
			to++
		}
		group := make([]*lick.Note, 0, to-from)
		used := map[lick.Stroke]bool{}
		for i := from; i < to; i++ {
			group, used[notes[i].Stroke] = append(group, &notes[i]), true
		}
		locked := slices.ContainsFunc(group, func(n *lick.Note) bool { return n.Locked(lick.FieldStroke) })
		if len(group) > 1 && len(group) <= len(fromThin) && len(used) < len(group) && !locked {
			slices.SortFunc(group, func(a, b *lick.Note) int { return b.String - a.String })
			for k, n := range group { // thick strings first
				n.Stroke = fromThin[len(fromThin)-1-k]
			}
		}
		from = to
	}
}

// bassTone is the pitch class of the pattern's n-th beat of total over a chord.
func bassTone(c music.Chord, next *music.Chord, pattern Pattern, n, total, bar int64) int {
	root := c.Root.Class()
	if c.Bass != nil {
		root = c.Bass.Class()
	}
	of := func(number, usual int) int {
		if i := slices.IndexFunc(c.Degrees, func(d music.Degree) bool { return d.Number == number }); i >= 0 {
			usual = c.Degrees[i].Semitones()
		}
		return (c.Root.Class() + usual) % 12
	}
	switch pattern {
	case Alternating:
		return []int{root, of(5, 7)}[n%2]
	case Walking:
		if next != nil && n == total-1 && total > 1 {
			return (next.Root.Class() + 11) % 12
		}
		return []int{root, of(3, 4), of(5, 7), of(3, 4)}[n%4]
	}
	beat := n % max(1, bar)
	switch {
	case beat*2 < bar:
		return root
	case beat == bar-1 && n == total-1 && kindOf(c).flat7:
		return of(7, 10)
	}
	return of(5, 7)
}

// bassPlace is the place of a tone on the thick strings, on one that the line leaves free then:
// an open string first, else where the hand that holds the line reaches it, near the last one.
func bassPlace(
	g neck.Guitar, line []lick.Note, c music.Chord, class int, from, to lick.Time, last neck.Place,
) (best neck.Place, ok bool) {
	low, high := lick.MaxFret, 0 // frets that the line holds meanwhile
	for _, n := range line {
		if n.Fret > 0 && n.At.Before(to) && from.Before(n.End()) {
			low, high = min(low, n.Fret), max(high, n.Fret)
		}
	}
	least := 1 << 30
	for s := len(g.Tuning); s > len(g.Tuning)-bassStrings; s-- {
		taken := slices.ContainsFunc(line, func(n lick.Note) bool {
			return n.String == s && n.At.Before(to) && from.Before(n.End())
		})
		for f := 0; f <= bassFrets && !taken; f++ {
			p := neck.Place{String: s, Fret: f}
			if g.Pitch(p).Class() != class {
				continue
			}
			cost := int(neck.Apart(p, last))
			if f == 0 && (class == c.Root.Class() || class == (c.Root.Class()+7)%12) {
				cost -= openFirst
			}
			if f > 0 && high > 0 {
				cost += 100 * max(0, high-f-spanBelow, f-low-spanBelow)
			}
			if cost < least {
				best, least, ok = p, cost, true
			}
		}
	}
	return best, ok
}

// openFirst is by how much an open root or fifth comes before every fretted one.
const openFirst = 1 << 20

// spanBelow is how many frets the thumb's tone may lie from what the line holds.
const spanBelow = 3
