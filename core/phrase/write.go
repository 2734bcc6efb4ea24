package phrase

import (
	"fmt"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/text"
)

// String writes the phrase as ParsePhrase reads it. The kind is left out for tones, as it is when one types.
func (p Phrase) String() string {
	var b strings.Builder
	switch {
	case p.Kind == Chord && p.Strings != nil:
		b.WriteString("chord@" + strings.Trim(strings.ReplaceAll(fmt.Sprint(p.Strings), " ", ","), "[]") + ": ")
	case p.Kind != Tones:
		b.WriteString(string(p.Kind) + ": ")
	}
	for i, c := range p.Cells {
		if i > 0 {
			b.WriteString(" | ")
		}
		b.WriteString(CellText(p.Kind, c))
	}
	return b.String()
}

// CellText writes the steps of one cell as ParsePhrase reads them.
func CellText(k Kind, steps []Step) string {
	return text.Join(steps, " ", func(s Step) string { return s.Text(k) })
}

// Text writes a step: stroke, slide in, slur, tones, bend, vibrato, accent, in that order. It is the order in which
// parseStep takes them off again: what is written is read as the same step, which a fuzz test holds.
func (s Step) Text(k Kind) string {
	switch {
	case s.Rest:
		return "."
	case s.Hold:
		return "-"
	}
	before := map[lick.Stroke]string{lick.Down: "D", lick.Up: "U"}[s.Stroke]
	mark := map[lick.From]string{lick.FromBelow: "<", lick.FromAbove: `\`}[s.In]
	for c, slur := range slurs {
		if slur == s.Slur {
			mark += string(c)
		}
	}
	after := ""
	if b := s.Bend; b != nil {
		after = "^" + b.To.Text(k)
		for _, a := range amounts {
			if a.semitones == b.Semitones {
				after = "^" + a.word
			}
		}
		if b.Release {
			after += "_"
		}
	}
	after += strings.Repeat("~", s.Vibrato)
	if s.Accent {
		after += ">"
	}
	tones := text.Join(s.Tones, " ", func(t Tone) string { return t.Text(k) })
	if len(s.Tones) != 1 {
		tones = "(" + tones + ")"
	}
	return before + mark + tones + after
}

// Text writes a tone by the kind of its phrase. "3" of tones, "b2" of strings, "b3'" of a chord.
func (t Tone) Text(k Kind) string {
	switch k {
	case Strings:
		return string(rune('a'+t.String)) + strconv.Itoa(t.N)
	case Chord:
		s := t.Degree.String()
		if t.Plain {
			s = "n" + s
		}
		if t.Octave < 0 {
			return s + strings.Repeat(",", -t.Octave)
		}
		return s + strings.Repeat("'", t.Octave)
	}
	return strconv.Itoa(t.N)
}
