package changes

import (
	"cmp"
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
)

// maxBars is how long changes may be with their repeats written out.
const maxBars = 512

// Parse reads changes as players write them, with bars between signs, for a line's meter,
// pick-up and key (without one: A):
//
//	C#m7 | F#7 . G#7 . | C#m7     names; a point goes on, % repeats the bar before
//	1m7 | 4 | 57 | b6maj7         degrees of the tonic, each with its sign
//	ii7 | V7 | Imaj7              the same in Roman numbers, small letters minor
//	Am7*3 D7                      three beats and what is left
//	|: 1m7 | 4 :|                 played twice, :|x3 three times
//	57 || 1m7 | 4                 what stands before the double bar lies over the pick-up
//	Am7 | N.C. | D7               no chord, until the next one
//
// The name of a form stands for its degrees. The signs of a bar share it evenly. An error is
// a sentence that names the sign.
func Parse(text string, meter lick.Meter, pickup lick.Time, key lick.Key) ([]lick.Chord, error) {
	if f, ok := FormNamed(strings.ToLower(strings.TrimSpace(text))); ok {
		text = f.Text
	}
	text = undashed(text)
	before, rest, double := strings.Cut(text, "||")
	if !double {
		before, rest = "", text
	}
	bars, err := repeated(rest)
	if err != nil {
		return nil, err
	}
	for i, bar := range bars {
		switch {
		case bar == "%" && i > 0:
			bars[i] = bars[i-1]
		case bar == "%":
			return nil, errors.New("% repeats the bar before, but none stands before it")
		default:
			if bars[i], err = named(bar, key); err != nil {
				return nil, err
			}
		}
	}
	out, err := lick.ParseChords(strings.Join(bars, " | "), meter, pickup)
	if err != nil || strings.TrimSpace(before) == "" {
		return out, err
	}
	if pickup.IsZero() {
		return nil, errors.New("a chord stands before the double bar, but the line has no pick-up")
	}
	up, err := overPickup(before, pickup, key)
	return append(up, out...), err
}

// overPickup spreads signs over the pick-up evenly, as a bar's are over the bar.
func overPickup(text string, pickup lick.Time, key lick.Key) ([]lick.Chord, error) {
	text, err := named(text, key)
	if err != nil {
		return nil, err
	}
	words := strings.Fields(text)
	num, den := pickup.Parts()
	part := lick.NewTime(num, den*int64(len(words)))
	var out []lick.Chord
	for k, w := range words {
		if lick.IsNoChord(w) {
			continue
		}
		c, err := music.ParseChord(w)
		if err != nil {
			return nil, err
		}
		out = append(out, lick.Chord{At: part.Times(int64(k)), Len: part, Name: c.Name})
	}
	return out, nil
}

// dash is a line between two chords, as many write them: "Am - F - C - G".
var dash = regexp.MustCompile(`\s[-–—]\s`)

// undashed takes dashes between chords for bar lines or, where there are bar lines too, for the space within a bar.
func undashed(text string) string {
	if strings.Contains(text, "|") {
		return dash.ReplaceAllString(text, " ")
	}
	return dash.ReplaceAllString(text, " | ")
}

// sign is what stands between bars: a bar line, or the begin and the end of a repeat.
var sign = regexp.MustCompile(`\|:|:\|(?:\s*x([1-9]))?|\|`)

// repeated writes out what stands between repeat signs: the bars in playing order. A repeat
// that does not say where it begins does so at the beginning.
func repeated(text string) ([]string, error) {
	var out []string
	from, open, last := 0, -1, "" // where the bar begins, the bar at which |: stands, the sign before
	bar := func(to int, sign string) error {
		b := strings.TrimSpace(text[from:to])
		if b != "" {
			out = append(out, b)
		} else if last == "|" && sign == "|" {
			return errors.New("a bar without a chord: write a sign, or . for the one before")
		}
		return nil
	}
	for _, m := range sign.FindAllStringSubmatchIndex(text, -1) {
		s := text[m[0]:m[1]]
		if err := bar(m[0], s); err != nil {
			return nil, err
		}
		switch from, last = m[1], s; {
		case s == "|:" && open >= 0:
			return nil, errors.New("a repeat begins inside another one")
		case s == "|:":
			open = len(out)
		case s != "|":
			times := 2
			if m[2] >= 0 {
				times = int(text[m[2]] - '0')
			}
			again := slices.Clone(out[max(0, open):])
			if len(out)+len(again)*(times-1) > maxBars {
				return nil, fmt.Errorf("the changes are longer than %d bars", maxBars)
			}
			for range times - 1 {
				out = append(out, again...)
			}
			open = -1
		}
	}
	if err := bar(len(text), ""); err != nil {
		return nil, err
	}
	switch {
	case open >= 0:
		return nil, errors.New("a repeat begins and does not end: write :| where it does")
	case len(out) == 0:
		return nil, errors.New("write a chord for each bar, as in C#m7 | F#7 | G#7")
	}
	return out, nil
}

// named writes the degrees of a bar as names on the key's tonic. A point, a stroke and % stay.
func named(bar string, key lick.Key) (string, error) {
	words := strings.Fields(bar)
	for i, w := range words {
		w, beats, timed := strings.Cut(w, "*")
		name, err := Sign(w, key)
		switch {
		case w == "." || w == "/" || w == "%" || lick.IsNoChord(w):
		case err != nil:
			return "", err
		case timed:
			words[i] = name + "*" + beats
		default:
			words[i] = name
		}
	}
	return strings.Join(words, " "), nil
}

// degreeLike is a word that can be meant for a degree alone.
var degreeLike = regexp.MustCompile(`^[b#♭♯]?[1-9IViv]`)

// Sign reads one chord: a name, or a degree of the key with its sign.
func Sign(word string, key lick.Key) (string, error) {
	word = strings.TrimSpace(word)
	p, err := music.NewPalette(cmp.Or(key.Tonic, "A"), cmp.Or(key.Scale, "major"), nil, nil)
	if err != nil {
		return "", err
	}
	if d, sign, ok := music.OnDegree(word, p.Minor()); ok {
		return d.Over(p.Tonic).String() + sign, nil
	}
	if degreeLike.MatchString(word) {
		return "", fmt.Errorf("%q is no degree with a chord's sign, as 1m7, b6maj7 and ii7 are", word)
	}
	c, err := music.ParseChord(word)
	return c.Name, err
}

// Text writes a line's changes as Parse reads them, in names. Parse of it gives the same chords, whatever the number of
// signs in a bar; over the pick-up they are spread evenly again.
func Text(l lick.Lick) string {
	var up, bars []string
	for _, c := range l.Chords {
		if c.At.Before(l.Pickup) {
			up = append(up, c.Name)
		}
	}
	end := l.Pickup
	for _, c := range l.Chords {
		end = lick.Later(end, c.End())
	}
	signs, bar := withSilence(l), l.Meter.Bar()
	for at := l.Pickup; at.Before(end); at = at.Add(bar) {
		bars = append(bars, barText(signs, at, bar))
	}
	if up != nil {
		return strings.Join(up, " ") + " || " + strings.Join(bars, " | ")
	}
	return strings.Join(bars, " | ")
}

// withSilence are the chords of a line and a sign for silence where one ends and none begins,
// at the end of them too where that is not the end of a bar.
func withSilence(l lick.Lick) (out []lick.Chord) {
	for i, c := range l.Chords {
		out = append(out, c)
		over := c.End()
		_, into := over.Sub(l.Pickup).Div(l.Meter.Bar())
		last := i+1 == len(l.Chords)
		if !last && over.Before(l.Chords[i+1].At) || last && !into.IsZero() {
			out = append(out, lick.Chord{At: over, Name: lick.NoChord})
		}
	}
	return out
}

// mostParts is into how many even parts a bar is cut so that each chord begins with one.
const mostParts = 96

// barText writes one bar: its chords where they begin, points where one goes on, in the fewest even parts that hold
// them. Three chords in a bar of four beats are three parts; one on the last eighth makes eight. Chords that no such
// cut holds, as a file may have them, are named in a row: a time is lost then, and no chord.
func barText(signs []lick.Chord, at, bar lick.Time) string {
	var in []lick.Chord
	for _, c := range signs {
		if !c.At.Before(at) && c.At.Before(at.Add(bar)) {
			in = append(in, c)
		}
	}
	num, den := bar.Parts()
	for parts := int64(1); parts <= mostParts; parts++ {
		part := lick.NewTime(num, den*parts)
		words := slices.Repeat([]string{"."}, int(parts))
		held := true
		for _, c := range in {
			k, rest := c.At.Sub(at).Div(part)
			words[k] = c.Name
			held = held && rest.IsZero()
		}
		if held {
			return strings.Join(words, " ")
		}
	}
	var names []string
	for _, c := range in {
		if c.Name != lick.NoChord {
			names = append(names, c.Name)
		}
	}
	return strings.Join(names, " ")
}
