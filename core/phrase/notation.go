package phrase

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// Kind says what the steps of a phrase name. What a cell counts in decides how it goes on: tones along the layout,
// strings across the neck, degrees from chord to chord.
type Kind string

// The kinds: tones of the layout counted from where the cell starts, strings and
// the tones on them, or degrees over a chord's root.
const (
	Tones   Kind = "tones"
	Strings Kind = "strings"
	Chord   Kind = "chord"
)

// Phrase is one cell, or several that take turns. Several cells, written with | between them, are played in turn.
type Phrase struct {
	Kind    Kind
	Strings []int // chord: the string of each tone, if given
	Cells   [][]Step
}

// Tone is what a step names, by the kind of its phrase; fields of the other kinds are zero. As an example, "b3'" of a
// chord cell is Degree ♭3 with Octave 1, "hb2" of a string cell String 1 with N 2 and, in its step, a hammer.
type Tone struct {
	N      int          // tones: counted from the cell's start, 1 is the start; strings: from the string's lowest
	String int          // strings: 0 is the cell's first string, in the run's direction
	Degree music.Degree // chord
	Octave int          // chord: octaves up
	Plain  bool         // chord: the degree of the major scale, whatever the key gives (n2)
}

// Step is one step of a cell. A step lasts one count. Hold lengthens the tone before it by one, Rest is silence of one.
type Step struct {
	Rest, Hold bool
	Stroke     lick.Stroke // fixed, or empty
	Slur       lick.Slur
	In         lick.From // slid into from a half step away
	Tones      []Tone    // more than one sound together
	Bend       *Bend
	Vibrato    int // 0, 1 narrow, 2 wide
	Accent     bool
}

// Bend is a bend by an amount, or to a tone.
type Bend struct {
	Semitones float64 // 0 when To names the target
	To        Tone
	Release   bool
}

// WordError points at the word that is not understood. Screens mark the word where it was typed; errors.As finds it.
type WordError struct {
	Word string
	Why  string
}

// Wrong is the error that a word of a phrase or a recipe cannot be read, and why; its type is *WordError.
func Wrong(word, why string) error { return &WordError{word, why} }

// Error is one sentence: the word, and what is wrong with it.
func (e *WordError) Error() string { return fmt.Sprintf("%q: %s", e.Word, e.Why) }

// MaxSteps bounds a phrase, rests and holds counted.
const MaxSteps = 256

// ParsePhrase reads the notation: an optional kind and a colon, then steps with spaces between them, | between cells.
// An error points at its word; the phrase that comes with it is not to be used.
//
// "chord@5,4,3: 1 3 1'" plays root, third and the root an octave up on strings 5, 4 and 3.
// What String prints is read as the same phrase.
func ParsePhrase(text string) (Phrase, error) {
	p := Phrase{Kind: Tones}
	body := strings.TrimSpace(text)
	if head, rest, ok := strings.Cut(body, ":"); ok {
		name, strs, at := strings.Cut(strings.TrimSpace(head), "@")
		p.Kind = Kind(name)
		switch {
		case p.Kind != Tones && p.Kind != Strings && p.Kind != Chord:
			return p, Wrong(head, "a cell names tones:, strings: or chord:")
		case at && p.Kind != Chord:
			return p, Wrong(head, "only chord@ gives the string of each step")
		case at:
			for _, w := range strings.Split(strs, ",") {
				n, err := strconv.Atoi(strings.TrimSpace(w))
				if err != nil || n < 1 || n > 9 {
					return p, Wrong(w, "a string is a number from 1 to 9")
				}
				p.Strings = append(p.Strings, n)
			}
		}
		body = rest
	}
	count := 0
	for _, cell := range strings.Split(body, "|") {
		steps, err := p.parseCell(cell)
		if err != nil {
			return p, err
		}
		if count += len(steps); count > MaxSteps {
			return p, fmt.Errorf("a phrase has at most %d steps", MaxSteps)
		}
		p.Cells = append(p.Cells, steps)
	}
	return p, p.check()
}

// parseCell reads the steps between two bars.
func (p Phrase) parseCell(cell string) ([]Step, error) {
	var steps []Step
	for _, w := range words(cell) {
		s, err := p.parseStep(w)
		if err != nil {
			return nil, err
		}
		steps = append(steps, s)
	}
	if len(steps) == 0 {
		return nil, Wrong(cell, "a cell needs a step")
	}
	return steps, nil
}

// words splits a cell at its spaces, those inside brackets aside. A bracket that is not closed
// takes the rest of the cell with it, and the word is then refused whole.
func words(cell string) []string {
	depth := 0
	return strings.FieldsFunc(cell, func(r rune) bool {
		switch r {
		case '(':
			depth++
		case ')':
			depth--
		}
		return depth <= 0 && (r == ' ' || r == '\t' || r == '\n' || r == '\r')
	})
}

var (
	strokes = map[string]lick.Stroke{"D": lick.Down, "U": lick.Up}
	slurs   = map[byte]lick.Slur{'h': lick.Hammer, 'p': lick.Pull, 's': lick.Slide, 'S': lick.Shift}
	amounts = []amount{{"curl", 0.5}, {"half", 1}, {"full", 2}}
)

// amount is a bend by its word.
type amount struct {
	word      string
	semitones float64
}

// expects says what a step of this kind looks like.
func (p Phrase) expects() string {
	switch p.Kind {
	case Strings:
		return "a step names a string and a tone on it, such as a1 or hb2"
	case Chord:
		return "a step names a degree over the chord, such as 5 or 3' or b7,"
	}
	return "a step names a tone counted from the cell's start, such as 3 or h4"
}

// parseStep reads one word: marks before, the tone, marks after. Each mark is one letter that
// cannot begin a tone of the phrase's kind, so that no word reads two ways; the one exception
// is the string h, which a digit after it tells from a hammer.
func (p Phrase) parseStep(w string) (s Step, err error) {
	switch w {
	case ".":
		return Step{Rest: true}, nil
	case "-":
		return Step{Hold: true}, nil
	}
	rest := w
	if k, ok := strokes[rest[:1]]; ok {
		s.Stroke, rest = k, rest[1:]
	}
	if strings.HasPrefix(rest, "<") {
		s.In, rest = lick.FromBelow, rest[1:]
	} else if strings.HasPrefix(rest, `\`) {
		s.In, rest = lick.FromAbove, rest[1:]
	}
	// h2 is the second tone of string h, ha2 hammers string a.
	if rest != "" {
		if k, ok := slurs[rest[0]]; ok && !(p.Kind == Strings && rest[0] == 'h' && len(rest) > 1 && isDigit(rest[1])) {
			s.Slur, rest = k, rest[1:]
		}
	}
	var ok bool
	if s.Tones, rest, ok = p.parseTones(rest); !ok {
		return s, Wrong(w, p.expects())
	}
	if strings.HasPrefix(rest, "^") {
		if len(s.Tones) > 1 {
			return s, Wrong(w, "one tone alone is bent")
		}
		if s.Bend, rest, ok = p.parseBend(rest[1:]); !ok {
			return s, Wrong(w, "after ^ stands curl, half, full or a tone")
		}
	}
	for _, r := range rest {
		switch {
		case r == '~' && s.Vibrato < 2:
			s.Vibrato++
		case r == '>' && !s.Accent:
			s.Accent = true
		default:
			return s, Wrong(w, "after the tone stand ^, _, ~, ~~ or >")
		}
	}
	return s, nil
}

// parseTones reads one tone, or several in brackets. rest is what follows the tone or the bracket; ok is false where
// there is none, or more of them than strings.
func (p Phrase) parseTones(w string) (tones []Tone, rest string, ok bool) {
	inner, rest, group := strings.Cut(strings.TrimPrefix(w, "("), ")")
	if !strings.HasPrefix(w, "(") {
		t, rest, ok := p.parseTone(w)
		return []Tone{t}, rest, ok
	}
	for _, one := range strings.Fields(inner) {
		t, left, ok := p.parseTone(one)
		if !ok || left != "" || len(tones) == neck.MaxStrings {
			return nil, w, false
		}
		tones = append(tones, t)
	}
	return tones, rest, group && len(tones) > 0
}

// parseBend reads what follows ^: an amount by its word or a tone, and _ for a release.
func (p Phrase) parseBend(rest string) (*Bend, string, bool) {
	b := &Bend{}
	ok := true
	if k := slices.IndexFunc(amounts, func(a amount) bool { return strings.HasPrefix(rest, a.word) }); k >= 0 {
		b.Semitones, rest = amounts[k].semitones, rest[len(amounts[k].word):]
	} else if b.To, rest, ok = p.parseTone(rest); !ok {
		return nil, rest, false
	}
	rest, b.Release = strings.CutPrefix(rest, "_")
	return b, rest, true
}

// isDigit says whether the byte is a decimal digit.
func isDigit(c byte) bool { return c >= '0' && c <= '9' }

// MaxTone bounds how far a step may lie from the cell's start, in tones.
const MaxTone = 99

// parseTone reads the tone off the front of a word.
//
// A letter a to i is a string of the cell, the digits after it the tone; a degree may have
// accidentals before it and octaves after, ' up and , down, four at most.
func (p Phrase) parseTone(w string) (t Tone, rest string, ok bool) {
	switch p.Kind {
	case Strings:
		if len(w) < 2 || w[0] < 'a' || w[0] > 'i' {
			return t, w, false
		}
		t.String = int(w[0] - 'a')
		t.N, rest, ok = number(w[1:])
		return t, rest, ok && t.N >= 1
	case Chord:
		w, t.Plain = strings.CutPrefix(w, "n")
		i := 0
		for i < len(w) && !t.Plain && (w[i] == 'b' || w[i] == '#') {
			i++
		}
		end := i
		for end < len(w) && isDigit(w[end]) {
			end++
		}
		d, err := music.ParseDegree(w[:end])
		if err != nil {
			return t, w, false
		}
		t.Degree, rest = d, w[end:]
		for rest != "" && (rest[0] == '\'' || rest[0] == ',') && t.Octave > -4 && t.Octave < 4 {
			if rest[0] == ',' {
				t.Octave--
			} else {
				t.Octave++
			}
			rest = rest[1:]
		}
		return t, rest, true
	}
	t.N, rest, ok = number(w)
	return t, rest, ok
}

// ParseDegree reads one degree as a chord cell names it: 3, b3, n3, 5'.
func ParseDegree(text string) (Tone, error) {
	t, rest, ok := Phrase{Kind: Chord}.parseTone(strings.TrimSpace(text))
	if !ok || rest != "" {
		return t, Wrong(text, "a degree is 1 to 7, 9, 11 or 13, with b, # or n before it")
	}
	return t, nil
}

// number reads a whole number off the front of a word, three digits at most, so that a number
// too large is refused as one and not read as two.
func number(w string) (n int, rest string, ok bool) {
	i := 0
	if strings.HasPrefix(w, "-") {
		i = 1
	}
	end := i
	for end < len(w) && isDigit(w[end]) && end < i+3 {
		end++
	}
	n, err := strconv.Atoi(w[:end])
	return n, w[end:], err == nil && n >= -MaxTone && n <= MaxTone
}

// check refuses what has no tone to hold, or another number of strings than steps. A hold at
// the head of a cell would lengthen the cell before, which is another one each time.
func (p Phrase) check() error {
	sounding := 0
	for _, c := range p.Cells {
		own := 0
		for i, s := range c {
			if s.Hold && i == 0 {
				return Wrong("-", "a hold needs a tone before it")
			}
			own += len(s.Tones)
		}
		if own == 0 {
			return Wrong(CellText(p.Kind, c), "a cell needs a tone")
		}
		sounding = own
	}
	if p.Strings != nil && (len(p.Cells) != 1 || sounding < len(p.Strings)) {
		return fmt.Errorf("chord@ names %d strings for %d tones", len(p.Strings), sounding)
	}
	return nil
}
