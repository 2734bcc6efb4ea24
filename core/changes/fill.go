package changes

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/say"
)

// Fill answers the line with partial chords: in every rest of a beat or more, up to three tones of the chord that
// holds, on strings 4, 3 and 2, near where the line lies (common practice: chords fill the rests of a line). A rest
// over two chords is filled with both. With a rhythm, as ParseRhythm reads it, the chord is struck there, each time for
// an eighth. A bass goes on under it: the chord takes none of its strings and lies within its reach. said names them by
// bar. The error is that there are no chords, or no rest that long.
func Fill(g neck.Guitar, l lick.Lick, rhythm string) (out lick.Lick, said string, err error) {
	r := Read(l)
	bars, err := ParseRhythm(rhythm, l.Meter)
	if err != nil {
		return l, "", err
	}
	if len(r.Chords) == 0 {
		return l, "", errors.New("there are no chords to fill the rests with: write the changes first")
	}
	g = g.WithTuning(l.Tuning)
	out = l.Clone()
	beat := lick.NewTime(1, int64(l.Meter.Unit))
	var words []string
	for _, rest := range rests(l, r) {
		k := slices.IndexFunc(r.Chords,
			func(c ChordChange) bool { return !rest[0].Before(c.At) && rest[0].Before(c.End) })
		if k < 0 || rest[1].Sub(rest[0]).Before(beat) {
			continue
		}
		end := lick.Earlier(rest[1], r.Chords[k].End)
		places := partial(g, r.Chords[k].Chord, fretNear(l, rest[0]), bassIn(l, rest[0], end))
		if len(places) < 2 {
			continue
		}
		struck := strikes(l, bars, rest[0], end)
		for _, at := range struck {
			for _, p := range places {
				out.Notes = append(out.Notes,
					lick.Note{At: at[0], Len: at[1].Sub(at[0]), String: p.String, Fret: p.Fret})
			}
		}
		if struck != nil {
			words = append(words, fmt.Sprintf("bar %d %s", l.Position(rest[0]).Bar, r.Chords[k].Name))
		}
	}
	if words == nil {
		return l, "", errors.New("the line has no rest of a beat to fill")
	}
	if slices.ContainsFunc(out.Notes, func(n lick.Note) bool { return n.Voice == lick.VoiceBass }) {
		line := slices.DeleteFunc(slices.Clone(out.Notes), func(n lick.Note) bool { return n.Voice == lick.VoiceBass })
		byFingers(line)
		out.Notes = append(
			slices.DeleteFunc(out.Notes, func(n lick.Note) bool { return n.Voice != lick.VoiceBass }),
			line...)
	}
	out.Parts, out.Recipe = nil, ""
	out.Sort()
	return out, "filled: " + strings.Join(words, ", "), out.Validate()
}

// ParseRhythm reads when an answering chord is struck, by the beats of a bar and the bars in turn: "2& | 1 1& 2",
// or as it is said, "and of 2, then 1 and 2 and". Nothing is no rhythm.
func ParseRhythm(text string, m lick.Meter) (bars [][]lick.Time, err error) {
	if strings.TrimSpace(text) == "" {
		return nil, nil
	}
	for _, bar := range strings.Split(strings.ReplaceAll(text, "then", "|"), "|") {
		var at []lick.Time
		words := strings.Fields(strings.ReplaceAll(bar, ",", " "))
		beat := ""
		for k := 0; k < len(words); k++ {
			word := words[k]
			switch and := word == "and" || word == "&"; {
			case and && k+2 < len(words) && words[k+1] == "of":
				beat, word = words[k+2], words[k+2]+"&"
				k += 2
			case and:
				word = beat + "&"
			default:
				beat = strings.TrimRight(word, "&ea+")
			}
			t, err := lick.ParseBeat(word, m)
			if err != nil {
				return nil, fmt.Errorf("the rhythm %q: %w", strings.TrimSpace(bar), err)
			}
			at = append(at, t)
		}
		if len(at) == 0 {
			return nil, errors.New("a bar of the rhythm has no beat: write one, as in 2& | 1 2&")
		}
		slices.SortFunc(at, func(a, b lick.Time) int { return a.Cmp(b) })
		bars = append(bars, at)
	}
	return bars, nil
}

// strikes are the times from, to of an answering chord in a rest: all of it without a rhythm, else each beat of
// the rhythm for an eighth, the bars of the line taking the rhythm's bars in turn.
func strikes(l lick.Lick, bars [][]lick.Time, from, to lick.Time) (out [][2]lick.Time) {
	if bars == nil {
		return [][2]lick.Time{{from, to}}
	}
	bar := l.Meter.Bar()
	for k := l.Position(from).Bar; ; k++ {
		start := l.Pickup.Add(bar.Times(k - 1))
		if !start.Before(to) {
			return out
		}
		for _, beat := range bars[int(max(k-1, 0))%len(bars)] {
			at := start.Add(beat)
			end := lick.Earlier(at.Add(lick.NewTime(1, 8)), to)
			if !at.Before(from) && at.Before(to) {
				out = append(out, [2]lick.Time{at, end})
			}
		}
	}
}

// bassIn are the bass notes that sound in a stretch of time.
func bassIn(l lick.Lick, from, to lick.Time) (out []lick.Note) {
	for _, n := range l.Notes {
		if n.Voice == lick.VoiceBass && n.At.Before(to) && from.Before(n.End()) {
			out = append(out, n)
		}
	}
	return out
}

// rests are the times from, to in which no note of the line sounds, whatever the bass does, up to the end of the
// chords, each cut where the chord changes. A time before the first chord is none: nothing could fill it.
func rests(l lick.Lick, r Report) (out [][2]lick.Time) {
	end := r.Chords[0].At
	gap := func(from, to lick.Time) {
		for _, c := range r.Chords {
			if a, b := lick.Later(from, c.At), lick.Earlier(to, c.End); a.Before(b) {
				out = append(out, [2]lick.Time{a, b})
			}
		}
	}
	for _, n := range l.Notes {
		if n.Voice == lick.VoiceBass {
			continue
		}
		if end.Before(n.At) {
			gap(end, n.At)
		}
		end = lick.Later(end, n.End())
	}
	gap(end, r.Chords[len(r.Chords)-1].End)
	return out
}

// fretNear is where the hand lies at a time: the fret of the last fretted note before it.
func fretNear(l lick.Lick, at lick.Time) int {
	fret := 5
	for _, n := range l.Notes {
		if n.Fret > 0 && n.Voice != lick.VoiceBass && n.At.Before(at) {
			fret = n.Fret
		}
	}
	return fret
}

// bassReach is how many frets a chord may lie from a bass tone that the same hand holds.
const bassReach = 3

// partial is a chord on strings 4, 3 and 2 within four frets: third and seventh before the others, as they tell the
// chord, as near to a fret as that allows. Each string takes the tone that is worth most and is not there yet; a tone
// outweighs any distance, so that the hand moves for it. Under a bass it takes only strings thinner than the bass's,
// and frets within its reach. At least one fret away from the nut, since the shape must move with the chords.
//
// Cost: nine positions by twelve places. As an example, A7 near fret 5 is G on string 4, C♯ on
// 3 and E on 2: 4:5 3:6 2:5.
func partial(g neck.Guitar, c music.Chord, near int, bass []lick.Note) []neck.Place {
	thick, from, to := 4, 1, g.Frets // the strings and frets that the bass leaves
	for _, n := range bass {
		thick = min(thick, n.String-1)
		if n.Fret > 0 {
			from, to = max(from, n.Fret-bassReach), min(to, n.Fret+bassReach)
		}
	}
	worth := map[int]int{}
	for _, d := range c.Degrees {
		w := 1
		switch d.Number {
		case 3, 7:
			w = 5
		case 5, 9:
			w = 2
		}
		worth[d.Over(c.Root).Class()] = w
	}
	best, most := []neck.Place(nil), 0
	for low := max(1, near-5); low <= near+3; low++ {
		var places []neck.Place
		got, value := map[int]bool{}, 0
		for _, s := range []int{4, 3, 2} {
			if s > len(g.Tuning) || s > thick {
				continue
			}
			pick, w := neck.Place{}, 0
			for f := max(low, from); f < low+4 && f <= to; f++ {
				p := neck.Place{String: s, Fret: f}
				class := g.Pitch(p).Class()
				if x := worth[class]; x > w && !got[class] {
					pick, w = p, x
				}
			}
			if w > 0 {
				places, value = append(places, pick), value+10*w
				got[g.Pitch(pick).Class()] = true
			}
		}
		if value -= max(low-near, near-low-3, 0); value > most {
			best, most = places, value
		}
	}
	return best
}

// Only keeps the notes whose degree is named, "1 b3 5" in the key: a limit to practise with.
// said tells what the line leaves out.
func Only(l lick.Lick, degrees string) (out lick.Lick, said string, err error) {
	p, ok := l.Palette()
	if !ok {
		return l, "", errors.New("the line has no key whose degrees could be kept")
	}
	keep := map[int]bool{}
	for _, w := range strings.FieldsFunc(degrees, func(r rune) bool { return r == ' ' || r == ',' }) {
		d, err := music.ParseDegree(w)
		if err != nil {
			return l, "", err
		}
		keep[d.Over(p.Tonic).Class()] = true
	}
	if len(keep) == 0 {
		return l, "", errors.New("name the degrees to keep, as in only:1 b3 5")
	}
	stay := map[int]bool{}
	var gone []string
	for i := range l.Notes {
		pitch := Sounding(l, i)
		stay[i] = keep[pitch.Class()]
		if d := p.At(pitch).Degree.Pretty(); !stay[i] && !slices.Contains(gone, d) {
			gone = append(gone, d)
		}
	}
	out, said, err = kept(l, stay, "none of the line's notes is among those degrees")
	if said != "" {
		said += ", the " + strings.Join(gone, " ")
	}
	return out, said, err
}

// limitPairs is how many different pairs a limit to pairs keeps (common practice: the first three
// are enough for solos).
const limitPairs = 3

// OnlyPairs keeps the first three different pairs of tones that sound together, wherever they
// come; said tells what the line leaves out.
func OnlyPairs(l lick.Lick) (out lick.Lick, said string, err error) {
	keep := map[int]bool{}
	var seen []string
	for _, c := range columnsOf(l) {
		if len(c) != 2 {
			continue
		}
		name := l.Notes[c[0]].Place().Notation() + "+" + l.Notes[c[1]].Place().Notation()
		if !slices.Contains(seen, name) {
			if len(seen) == limitPairs {
				continue
			}
			seen = append(seen, name)
		}
		keep[c[0]], keep[c[1]] = true, true
	}
	return kept(l, keep, "the line has no pairs of tones")
}

// OnlyBends keeps the notes that are bent; said tells what the line leaves out.
func OnlyBends(l lick.Lick) (out lick.Lick, said string, err error) {
	keep := map[int]bool{}
	for i, n := range l.Notes {
		keep[i] = n.Bend != nil
	}
	return kept(l, keep, "the line has no bends")
}

// kept is the line with some of its notes, each where it was in time: the gaps are the limit. none is the error where
// nothing is left. Recipes no longer hold; slurs that have lost their note go.
func kept(l lick.Lick, keep map[int]bool, none string) (out lick.Lick, said string, err error) {
	out = l.Clone()
	out.Notes, out.Parts, out.Recipe = nil, nil, ""
	for i, n := range l.Notes {
		if keep[i] {
			out.Notes = append(out.Notes, n)
		}
	}
	if len(out.Notes) == 0 {
		return l, "", errors.New(none)
	}
	if left := len(l.Notes) - len(out.Notes); left > 0 {
		said = "left out: " + say.Some(left, "note")
	}
	fit(&out)
	return out, said, out.Validate()
}
