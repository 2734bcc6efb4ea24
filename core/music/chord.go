package music

import (
	"cmp"
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strings"

	"ornamen/core/text"
)

// Chord is a root with its tones, and a bass where another tone lies lowest.
type Chord struct {
	Name    string // as written
	Root    Name
	Degrees []Degree // over the root, rising
	Bass    *Name    // nil: the root
}

// The grammar of a chord's sign, read from the left (common practice):
//
//	root quality extension { sus | add | alteration | no | alt } [ /bass ]
//
// quality: m, min, mi, -, maj, ma, M, Δ, dim, °, aug, +, ø, 5, or nothing for major, with a capital where players write
// one. extension: 2 (an added ninth), 6, 6/9, 7, 9, 11, 13, with maj before it for the major seventh; each brings the
// ones below it, the third stays away from a dominant eleventh and the eleventh from a major or dominant thirteenth, as
// they are played. alt, of a dominant chord, alters all that can be: ♭9, ♯9, ♭5 and ♭13.

// qualities are the triads by their words.
var qualities = []quality{
	{words: "Maj maj MA Ma ma M", third: 0, fifth: 0, seventh: 0},
	{words: "Min min MI mi m -", third: -1, fifth: 0, seventh: -1},
	{words: "aug +", third: 0, fifth: 1, seventh: -1},
	{words: "dim ° o", third: -1, fifth: -1, seventh: -2},
	{words: "ø", third: -1, fifth: -1, seventh: -1, with7: true},
	{words: "Δ", third: 0, fifth: 0, seventh: 0, with7: true},
}

// quality is what its words make of third, fifth and seventh, in half steps from the
// major third, the fifth and the major seventh.
type quality struct {
	words                 string
	third, fifth, seventh int
	with7                 bool // the word alone brings the seventh
}

// qualityOf is the quality with which a sign begins, and its longest word there; without one the chord is major, and a
// seventh a minor one.
func qualityOf(sign string) (q quality, word string) {
	q.seventh = -1
	for _, x := range qualities {
		for _, w := range strings.Fields(x.words) {
			minorAdd := w == "ma" && strings.HasPrefix(sign, "madd") // a minor chord with a tone added
			if strings.HasPrefix(sign, w) && len(w) > len(word) && !minorAdd {
				q, word = x, w
			}
		}
	}
	return q, word
}

// ParseChord reads a chord by its sign: "C#m7", "E♭", "C7sus4", "B♭m7♭5", "E7#9",
// "Am11", "Cadd9", "G5", "C/E". What is none is an error that names the sign.
func ParseChord(s string) (Chord, error) {
	text := strings.TrimSpace(s)
	root, sign, err := scanName(text)
	if err != nil {
		return Chord{}, err
	}
	c := Chord{Name: text, Root: root}
	if strings.Count(sign, "(") != strings.Count(sign, ")") || strings.Index(sign, ")") < strings.Index(sign, "(") {
		return Chord{}, fmt.Errorf("%q is no chord that I know: a bracket is not closed", text)
	}
	if i := strings.LastIndex(sign, "/"); i >= 0 {
		if bass, err := ParseName(sign[i+1:]); err == nil {
			c.Bass, sign = &bass, sign[:i]
		}
	}
	b := chordBuilder{tones: map[int]int{1: 0}}
	if err := b.read(signOf(sign)); err != nil {
		return Chord{}, fmt.Errorf("%q is no chord that I know: %w", text, err)
	}
	for number, alter := range b.tones {
		c.Degrees = append(c.Degrees, Degree{Number: number, Alter: alter})
	}
	slices.SortFunc(c.Degrees, func(a, b Degree) int { return cmp.Compare(a.Number, b.Number) })
	return c, nil
}

// spellings are other ways to write a sign, each with what the grammar above has for it, in the order in which they are
// taken (common practice).
var spellings = []struct {
	other *regexp.Regexp
	ours  string
}{
	{regexp.MustCompile("[–—−]"), "-"},
	{regexp.MustCompile("(?i)minor"), "min"},
	{regexp.MustCompile("(?i)major"), "maj"},
	{regexp.MustCompile("(?i)dom"), ""},
	{regexp.MustCompile(`[(,]\s*(9|11|13)\b`), "(add$1"},       // 7(13), 7(9,13)
	{regexp.MustCompile(`([79])/(9|11|13)`), "${1}add$2"},      // maj7/9
	{regexp.MustCompile("/([b♭#♯])(5|9|11|13)"), "$1$2"},       // 7/b9
	{regexp.MustCompile("/(maj|Maj|M)7"), "${1}7"},             // m/maj7
	{regexp.MustCompile("sus2/?4|sus24"), "sus2sus4"},          // both stand for the third
	{regexp.MustCompile(`(\d\(?|[,(])\+(5|9|11|13)`), "$1#$2"}, // 7+9
	{regexp.MustCompile(`(\d\(?|[,(])-(5|9|11|13)`), "${1}b$2"},
	{regexp.MustCompile(`([79])\+$`), "${1}#5"}, // 7+
}

// raised are digits as they stand above the line.
var raised = strings.NewReplacer("⁰", "0", "¹", "1", "²", "2", "³", "3", "⁴", "4", "⁵", "5", "⁶", "6", "⁷", "7",
	"⁸", "8", "⁹", "9")

// plain writes the accidentals as typed and takes brackets and commas away.
var plain = strings.NewReplacer("♭", "b", "♯", "#", "△", "Δ", "(", "", ")", "", ",", "", " ", "", "º", "°")

// signOf is a sign in the one spelling that the grammar reads: "7-9" is 7b9, "maj7/9" maj7add9, "dom7" 7.
func signOf(sign string) string {
	sign = raised.Replace(sign)
	for _, x := range spellings {
		sign = x.other.ReplaceAllString(sign, x.ours)
	}
	return plain.Replace(sign)
}

// chordBuilder collects the tones: how much each degree is altered.
type chordBuilder struct{ tones map[int]int }

// read takes the words of a chord's name off one after the other; what is left over is no chord.
func (b chordBuilder) read(s string) error {
	if s == "5" {
		b.tones[5] = 0
		return nil
	}
	q, word := qualityOf(s)
	rest := s[len(word):]
	b.tones[3], b.tones[5] = q.third, q.fifth
	if q.third == -1 || q.fifth == 1 {
		// The seventh may be major all the same: mmaj7, mM7, +maj7, °maj7.
		for _, w := range []string{"maj", "Maj", "M", "Δ"} {
			if r, ok := strings.CutPrefix(rest, w); ok {
				q.seventh, rest, q.with7 = 0, r, w == "Δ"
				break
			}
		}
	}
	if q.with7 {
		b.tones[7] = q.seventh
	}
	rest, err := b.extend(rest, q.seventh, q.third == 0)
	if err != nil {
		return err
	}
	return b.modify(rest)
}

// extend reads 6, 6/9, 7, 9, 11 or 13. A plain major chord's "maj" is followed by one.
func (b chordBuilder) extend(s string, seventh int, major bool) (rest string, err error) {
	for _, x := range []string{"6/9", "69", "13", "11", "6", "7", "9", "2"} {
		r, ok := strings.CutPrefix(s, x)
		if !ok {
			continue
		}
		switch x {
		case "6":
			b.tones[6] = 0
			return r, nil
		case "2": // the ninth beside the third (the registry's music-theory library has it so)
			b.tones[9] = 0
			return r, nil
		case "6/9", "69":
			b.tones[6], b.tones[9] = 0, 0
			return r, nil
		}
		b.tones[7] = seventh
		if x == "9" || x == "11" || x == "13" {
			b.tones[9] = 0
		}
		if x == "11" || x == "13" && !major {
			b.tones[11] = 0
		}
		if x == "11" && major {
			delete(b.tones, 3)
		}
		if x == "13" {
			b.tones[13] = 0
		}
		return r, nil
	}
	return s, nil
}

// part is one part of what follows a chord's root and kind: "sus4" is sus with 4, "b9" a 9 that is lowered.
type part struct {
	word  string // sus, add, no, omit, or nothing before an alteration
	n     int    // the degree, 0 where none is named
	alter int    // half steps
	after string // what follows the word, from the signs on
}

// nextPart takes the first part off a sign: of "addb13no5" it is add, 13, −1, and "no5" is left.
func nextPart(s string) (p part, rest string) {
	for _, w := range []string{"sus", "add", "no", "omit"} {
		if r, ok := strings.CutPrefix(s, w); ok {
			p.word, s = w, r
			break
		}
	}
	p.after = s
	for strings.HasPrefix(s, "b") || strings.HasPrefix(s, "#") {
		if s[0] == 'b' {
			p.alter--
		} else {
			p.alter++
		}
		s = s[1:]
	}
	for p.n < 10 && s != "" && s[0] >= '0' && s[0] <= '9' {
		p.n, s = 10*p.n+int(s[0]-'0'), s[1:]
	}
	return p, s
}

// modify reads what follows: sus, add, no and alterations, in any order, until nothing is left.
func (b chordBuilder) modify(s string) error {
	for s != "" {
		if r, ok := strings.CutPrefix(s, "alt"); ok && b.dominant() {
			b.tones[5], b.tones[7], b.tones[13] = -1, -1, -1
			b.tones[9], b.tones[10] = -1, -1 // as both ninths are kept
			s = r
			continue
		}
		p, rest := nextPart(s)
		if p.word == "sus" && p.alter != 0 && p.n != 4 && p.n != 2 {
			// In 7susb9 the b9 is an alteration of its own: sus stands alone, and is read on from there.
			p, rest = part{word: "sus"}, p.after
		}
		if !b.take(p) {
			if p.after == "" {
				return errors.New("its sign ends in the middle")
			}
			return fmt.Errorf("%q is no part of a sign", p.after)
		}
		s = rest
	}
	return nil
}

// take puts one part into the chord; false where it is none.
func (b chordBuilder) take(p part) bool {
	slight := p.alter >= -1 && p.alter <= 1
	switch {
	case p.word == "sus" && (p.n == 0 || p.n == 4) && p.alter == 0:
		delete(b.tones, 3)
		b.tones[4] = 0
	case p.word == "sus" && p.n == 2 && p.alter == 0:
		delete(b.tones, 3)
		b.tones[2] = 0
	case p.word == "add" && slight && slices.Contains([]int{2, 4, 6, 9, 11, 13}, p.n):
		b.tones[p.n] = p.alter
	case (p.word == "no" || p.word == "omit") && (p.n == 3 || p.n == 5) && p.alter == 0:
		delete(b.tones, p.n)
	case p.word == "" && slight && p.alter != 0 && slices.Contains([]int{5, 9, 11, 13}, p.n):
		b.alter(p.n, p.alter)
	default:
		return false
	}
	return true
}

// dominant says whether the chord so far is a major one with a plain seventh, or none yet.
func (b chordBuilder) dominant() bool {
	third, has3 := b.tones[3]
	seventh, has7 := b.tones[7]
	return has3 && third == 0 && (!has7 || seventh == -1)
}

// alter raises or lowers a tone; of a ninth both may stand beside each other.
func (b chordBuilder) alter(n, alter int) {
	if had, ok := b.tones[n]; ok && had != 0 && had != alter && n == 9 {
		// ♭9 and ♯9 together: the ♯9 is kept as the ♭10, an octave over the minor third.
		b.tones[9], b.tones[10] = -1, -1
		return
	}
	b.tones[n] = alter
}

// Over names what a tone is over the chord, and whether it is one of its tones.
func (c Chord) Over(n Name) (degree Degree, inChord bool) {
	semi := mod(n.Class()-c.Root.Class(), 12)
	for _, d := range c.Degrees {
		if mod(d.Semitones(), 12) != semi {
			continue
		}
		if d == (Degree{Number: 10, Alter: -1}) {
			d = Degree{Number: 9, Alter: 1} // as players call it
		}
		return d, true
	}
	d := ChromaticDegree(semi)
	if d.Number == 2 && d.Alter == 0 {
		d.Number = 9
	}
	return d, false
}

// Clashes says whether a tone lies a half step above a tone of the chord and is none of its
// own, which is harsh unless it is meant: the ♭9 and the major 7 over a seventh chord, the 4
// over a major one (common practice). above is the tone of the chord.
func (c Chord) Clashes(n Name) (above Degree, ok bool) {
	if _, in := c.Over(n); in {
		return above, false
	}
	semi := mod(n.Class()-c.Root.Class(), 12)
	for _, d := range c.Degrees {
		if mod(d.Semitones()+1, 12) == semi {
			return d, true
		}
	}
	return above, false
}

// Up is the chord's sign so many half steps higher, its roots by their usual names.
// The rest of the sign stays as it was typed.
func (c Chord) Up(halfSteps int) string {
	root, sign, err := scanName(c.Name)
	if err != nil {
		return c.Name
	}
	minor := slices.ContainsFunc(c.Degrees, func(d Degree) bool { return d.Number == 3 && d.Alter < 0 })
	to := UsualName(root.Class()+halfSteps, minor)
	if c.Bass != nil {
		// The bass keeps its letter's distance from the root: a third stays a third.
		bass := Name{Letter: (to.Letter + c.Bass.Letter - root.Letter + 7) % 7}
		bass.Alter = mod(c.Bass.Class()+halfSteps-bass.Class()+6, 12) - 6
		sign = sign[:strings.LastIndex(sign, "/")] + "/" + bass.String()
	}
	return to.String() + sign
}

// arpeggio is the chord's tones as a scale: by name where it has one, else by degrees.
func (c Chord) arpeggio() string {
	text := text.Join(c.Degrees, " ", Degree.String)
	for _, r := range scaleTable {
		if sameTones(r.degrees, text) {
			return r.name
		}
	}
	return text
}

// sameTones compares two rows of degrees, whatever their order.
func sameTones(a, b string) bool {
	x, y := strings.Fields(a), strings.Fields(b)
	slices.Sort(x)
	slices.Sort(y)
	return slices.Equal(x, y)
}
