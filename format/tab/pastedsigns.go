package tab

import (
	"regexp"
	"strconv"
	"strings"

	"ornamen/core/lick"
)

// pastedSign matches one note as people write it, in small letters: h p s sl t / \ before it, some dashes away; the
// fret, in brackets for a ghost note or a harmonic, or x; a bend b or ^, by so much (full, 1/2, 1.5, a sign of
// fractionSigns), to a fret, or unsaid; r and perhaps a fret; a trill; vibrato; an accent. The groups are 1 before,
// 2–3 brackets and the fret, 4 x, 5 the fret, 6 p of a pre-bend, 7 b, 8 its target in brackets, 9 without them,
// 10 release, 11 trill, 12 vibrato, 13 accent.
var pastedSign = regexp.MustCompile(`(?:(sl|[hpst/\\])-{0,2})?` +
	`(?:([(<\[{])(x|\d{1,2})[)>\]}]|(x?)(\d+))` +
	`(?:(p?)([b^])-?(?:\(([^()]{1,6})\)|(full|\d/\d|\d(?:\.\d+)?\d?|[dq]|c))?(-{0,3}r(?:\(?\d+\)?)?)?)?` +
	`(tr\(?\d*\)?)?((?:[~vw]+))?(>?)|x`)

// bracketed is a bend in brackets, which says that it is not picked anew, or softly.
var bracketed = regexp.MustCompile(`\((\d{1,2}b[^()|]{1,6})\)`)

// signs finds the notes of a bar's text, and the columns of what is neither a note nor filling. A wave by itself is
// the vibrato of the note before it.
func (p *pasted) signs(text string, line, at int) (out []playedSign, left []int) {
	low := bracketed.ReplaceAllString(strings.ToLower(text), "-$1-")
	used := make([]bool, len(low))
	for _, m := range pastedSign.FindAllStringSubmatchIndex(low, -1) {
		g := func(k int) string {
			if m[2*k] < 0 {
				return ""
			}
			return low[m[2*k]:m[2*k+1]]
		}
		for i := m[0]; i < m[1]; i++ {
			used[i] = true
		}
		s := playedSign{col: m[0], fretCol: m[0], before: g(1)}
		if g(3)+g(5) == "" || g(3) == "x" {
			s.dead = true
			out = append(out, s)
			continue
		}
		if s.before == "sl" || s.before == "s" {
			s.before = "/" // down as well as up: where it comes from is known
		}
		s.around, s.fret, s.mute = g(2), g(3)+g(5), g(4) == "x"
		if s.around == "[" || s.around == "{" {
			s.around = "<"
		}
		s.fretCol = max(m[6], m[10])
		s.pre, s.bent, s.to, s.release = g(6) == "p", g(7) != "", strings.TrimSpace(g(8)+g(9)), g(10) != ""
		if s.bent {
			s.written = max(m[2*7+1], m[2*8+1], m[2*9+1], m[2*10+1]) - m[2*6]
		}
		if g(11) != "" {
			p.remark("line %d: a trill is read as its first note.", line)
		}
		if g(12) != "" {
			s.vibrato = "~"
		}
		s.accent = g(13) == ">"
		out = append(out, s)
	}
	for i := range low {
		switch c := low[i]; {
		case used[i] || strings.IndexByte("-| =:.", c) >= 0:
		case c == '~' && len(out) > 0:
			for k := len(out) - 1; k >= 0; k-- {
				if out[k].col < i {
					out[k].vibrato = "~"
					break
				}
			}
		case (c == '/' || c == '\\' || c == 's') && len(out) > 0:
			p.remark("line %d: a slide out of a note is not kept.", line)
		case c == '*':
			p.remark("line %d: a harmonic or a mark * is read as a plain note.", line)
		default:
			left = append(left, i)
		}
	}
	return out, left
}

// pastedNote gives a note what its sign says.
func (p *pasted) pastedNote(n *lick.Note, s playedSign) error {
	bent, to := s.bent, s.to
	s.bent = false
	if err := p.note(n, s); err != nil {
		return err
	}
	if bent {
		n.Bend = &lick.Bend{Shape: lick.ShapeOf(s.pre, s.release), Semitones: p.bendBy(n.Fret, to)}
	}
	if !n.Mute {
		n.Fret += p.capo
	}
	return nil
}

// steps are amounts of a bend in half steps, by how they are written.
var steps = map[string]float64{"full": 2, "full step": 2, "1": 2, "1.0": 2, "half": 1, "1/2": 1, "½": 1, "d": 1,
	".5":  1,
	"0.5": 1, "1/4": 0.5, "q": 0.5, "0.25": 0.5, "c": 0.5, "1.5": 3, "1 1/2": 3, "1d": 3, "3/2": 3, "2": 4}

// bendBy is how far a bend goes: to the pitch of another fret, or by so many whole steps. What is neither is read
// as a full step, and said.
func (p *pasted) bendBy(fret int, to string) float64 {
	if to == "" {
		p.remark("A bend that does not say how far is read as a full step.")
		return 2
	}
	if target, err := strconv.Atoi(to); err == nil && target > fret && target <= fret+4 {
		return float64(target - fret)
	}
	if by, ok := steps[to]; ok {
		return by
	}
	p.remark("A bend from %d by %q is read as a full step.", fret, to)
	return 2
}
