package tab

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// playedSign is one note of a string line: what leads into it, its fret, what follows.
// before is h p S / \ t or empty; to is a fret or c.
type playedSign struct {
	col, fretCol int // in the line, from 0
	before       string
	mute         bool
	dead         bool // x alone
	fret         string
	around       string // "(" for a note in brackets, "<" for a harmonic
	pre, bent    bool
	to           string // fret that it is bent to, c for a curl, empty where none is said
	release      bool
	vibrato      string
	accent       bool
	written      int // characters that say how far a bend goes
}

// sign matches one note: h p S / \ t or b before it, perhaps some dashes away; x; the fret,
// perhaps in brackets; a bend b or ^, to a fret if one is said; r and perhaps a fret; vibrato;
// accent. A lone x is a dead note. The groups are 1 before, 2–4 brackets with the fret, 5 x, 6
// the fret, 7 p of a pre-bend, 8 b or ^, 9–10 its target, 11 release, 12 vibrato, 13 accent.
var sign = regexp.MustCompile(`(?:([hpS/\\t])-{0,3})?(?:([(<])(\d+)([)>])|(x?)(\d+))` +
	`(?:(p?)([b^])(?:\((\d+)\)|(\d+|c))?(r(?:\(?\d+\)?)?)?)?(~{0,2}|v)(>?)|x`)

// signsOf finds the notes of a line from its first bar line on, and the columns of what is neither a note nor filling.
// The label and the bar line before the body are blanked rather than cut off, so that columns stay columns of the page.
func signsOf(line string, body int) (out []playedSign, left []int) {
	text := strings.Repeat(" ", body) + line[body:]
	used := make([]bool, len(text))
	for _, m := range sign.FindAllStringSubmatchIndex(text, -1) {
		g := func(k int) string {
			if m[2*k] < 0 {
				return ""
			}
			return text[m[2*k]:m[2*k+1]]
		}
		for i := m[0]; i < m[1]; i++ {
			used[i] = true
		}
		s := playedSign{col: m[0], fretCol: m[0]}
		if g(3)+g(6) == "" {
			s.dead = true
			out = append(out, s)
			continue
		}
		s.before, s.around, s.fret = g(1), g(2), g(3)+g(6)
		s.mute = g(5) == "x"
		s.fretCol = max(m[6], m[12])
		s.pre, s.bent, s.to, s.release = g(7) == "p", g(8) != "", g(9)+g(10), g(11) != ""
		s.vibrato, s.accent = g(12), g(13) == ">"
		out = append(out, s)
	}
	for i := range text {
		if !used[i] && !strings.ContainsRune("-| =:*.", rune(text[i])) {
			left = append(left, i)
		}
	}
	return out, left
}

// note reads one note's signs; what was taken for something else is remarked.
// An error is a fret of too many digits or a bend that goes nowhere.
func (r *reader) note(n *lick.Note, s playedSign) (err error) {
	if s.dead {
		n.Mute = true
		return nil
	}
	if len(s.fret) > 3 {
		return fmt.Errorf("fret %s… is none", s.fret[:3])
	}
	n.Fret, _ = strconv.Atoi(s.fret)
	n.Mute, n.Accent = s.mute, s.accent
	switch s.around {
	case "(":
		if n.Ghost = true; !r.own {
			r.remark("A fret in brackets is read as a ghost note.")
		}
	case "<":
		r.remark("A harmonic is read as a plain note at its fret.")
	}
	r.leadIn(n, s.before)
	if s.bent {
		if n.Bend, err = bendTo(n.Fret, s.to, s.pre, s.release); err != nil {
			return err
		}
		if s.to == "" {
			r.remark("A bend that does not say how far is read as a full step.")
		}
	}
	if v := s.vibrato; v != "" {
		n.Vibrato = &lick.Vibrato{Width: lick.Narrow, Speed: lick.Slow}
		if v == "~~" {
			n.Vibrato.Width = lick.Wide
		}
	}
	return nil
}

// leadIn reads the sign before a note. A slide from nowhere comes from a fret away.
// Whether it can sound (a hammer that falls) is for the judge: what is written is what is read.
func (r *reader) leadIn(n *lick.Note, before string) {
	last, has := r.lastOn[n.String]
	switch before {
	case "h", "p", "S":
		n.Slur = map[string]lick.Slur{"h": lick.Hammer, "p": lick.Pull, "S": lick.Shift}[before]
	case "t":
		r.remark("A tapped note is read as a plain one.")
	case "/", `\`:
		switch {
		case has && (r.own || r.l.Notes[last].Fret != n.Fret):
			n.Slur = lick.Slide
		case before == "/":
			n.SlideIn = &lick.SlideIn{Frets: 1, From: lick.FromBelow}
		default:
			n.SlideIn = &lick.SlideIn{Frets: 1, From: lick.FromAbove}
		}
	}
}

// bendTo is a bend to the pitch of another fret of the string, a full step where none is said. "b12" from fret 10 goes
// two half steps up. A target that is lower, or more than four frets up, is an error: it is not a bend that was meant.
func bendTo(fret int, to string, pre, release bool) (*lick.Bend, error) {
	b := &lick.Bend{Shape: lick.ShapeOf(pre, release), Semitones: 2}
	switch to {
	case "":
		return b, nil
	case "c":
		b.Semitones = 0.5
		return b, nil
	}
	target, err := strconv.Atoi(to)
	if err != nil || target <= fret || target > fret+4 {
		return nil, fmt.Errorf("a bend from fret %d to %s is none: it goes one to four frets up", fret, to)
	}
	b.Semitones = float64(target - fret)
	return b, nil
}

// usual is the tuning of the usual instrument with so many strings, nil for none: a bass with four and five, a guitar
// with more.
func usual(strings int) []music.Pitch {
	name := map[int]string{4: "bass4", 5: "bass5", 6: "guitar", 7: "guitar7", 8: "guitar8"}[strings]
	if i, err := neck.ParseInstrument(name); err == nil {
		return i.Guitar.Tuning
	}
	return nil
}
