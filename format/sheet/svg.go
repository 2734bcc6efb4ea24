package sheet

import (
	"bytes"
	"fmt"
	"html"
	"math"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/format/read"
)

// The drawing of a line as tab, for a page or another program: one system under the other.
// Everything stands in the file itself, no style or script beside it.
const (
	svgColumn  = 34 // width of a column
	svgNames   = 64 // what stands at the left
	svgString  = 15 // between two strings
	svgHead    = 44 // chords and counts above the strings
	svgHands   = 74 // fingers, strokes and note values below
	svgColumns = 16 // of a system
	svgGap     = 22
)

// Drawing draws a lick: chords and counts above, places with slurs and bends, fingers, strokes and note values below.
// It needs no style sheet; its fonts are taken from the page, or else from the machine.
func Drawing(l lick.Lick) []byte {
	s := sheet{lick: l, columns: l.Columns()}
	systems := max(1, (len(s.columns)+svgColumns-1)/svgColumns)
	height := svgHead + svgString*(len(l.Tuning)-1) + svgHands
	wide := svgNames + svgColumn*max(1, min(svgColumns, len(s.columns))) + 8
	all := systems*(height+svgGap) - svgGap + 8
	s.open(wide, all, l.Title)
	for k := range systems {
		from := k * svgColumns
		s.system(from, min(len(s.columns), from+svgColumns), k*(height+svgGap))
	}
	s.b.WriteString("</svg>\n")
	return s.b.Bytes()
}

// sheet is a drawing under way. Coordinates are units of the viewBox from the upper left corner.
type sheet struct {
	b       bytes.Buffer
	lick    lick.Lick
	columns [][2]int
}

// open begins a drawing of a size.
func (s *sheet) open(wide, high int, title string) {
	fmt.Fprintf(&s.b, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %d %d" width="%d" height="%d" `+
		`font-family="Accidentals, Figtree, Helvetica, Arial, sans-serif" font-size="13" fill="#1d2329" role="img">`,
		wide, high, wide, high)
	fmt.Fprintf(&s.b, "<title>%s</title>\n", html.EscapeString(read.Clip(title, read.MaxTitle)))
}

// text writes a word in the middle of a place.
func (s *sheet) text(x, y float64, more, word string) {
	fmt.Fprintf(&s.b, `<text x="%s" y="%s" text-anchor="middle"%s>%s</text>`, px(x), px(y), more,
		html.EscapeString(word))
}

// px is a length without needless digits.
func px(x float64) string { return strconv.FormatFloat(math.Round(x*10)/10, 'f', -1, 64) }

// stringY is where a string lies in a system.
func (s *sheet) stringY(str, top int) float64 { return float64(top + svgHead + svgString*(str-1)) }

// system draws the columns [from, to). Names of strings and rows stand at its left, in every system anew.
func (s *sheet) system(from, to, top int) {
	count := len(s.lick.Tuning)
	right := float64(svgNames + svgColumn*max(1, to-from))
	for str := 1; str <= count; str++ {
		y := s.stringY(str, top)
		fmt.Fprintf(&s.b, `<path d="M%d %sH%s" stroke="#b9b5aa" fill="none"/>`, svgNames-12, px(y), px(right))
		s.text(svgNames-30, y+4, ` fill="#5f656d" font-size="12"`, s.lick.Tuning[str-1].String())
	}
	low := s.stringY(count, top)
	s.text(26, low+24, ` fill="#5f656d" font-size="11"`, "finger")
	s.text(26, low+42, ` fill="#5f656d" font-size="11"`, "stroke")
	s.text(26, low+66, ` fill="#5f656d" font-size="11"`, "length")
	for k := from; k < to; k++ {
		fmt.Fprintf(&s.b, `<g data-col="%d">`, k)
		s.column(k, float64(svgNames+svgColumn*(k-from)+svgColumn/2), top, k > from)
		s.b.WriteString("</g>")
	}
	s.b.WriteByte('\n')
}

// column draws the notes that begin together. joined is false for the first of a system: nothing is drawn back from
// there to a column that is not on it.
func (s *sheet) column(k int, x float64, top int, joined bool) {
	l, c := s.lick, s.columns[k]
	first := l.Notes[c[0]]
	pos := l.Position(first.At)
	weight := ` fill="#5f656d"`
	if pos.Off.IsZero() {
		weight = ` font-weight="700"`
	}
	s.text(x, float64(top+svgHead-16), weight, pos.Count(l.Meter))
	if pos.Off.IsZero() && pos.Beat == 1 && joined {
		fmt.Fprintf(&s.b, `<path d="M%s %sV%s" stroke="#8d897f"/>`, px(x-svgColumn/2), px(s.stringY(1, top)),
			px(s.stringY(len(l.Tuning), top)))
	}
	if chord, ok := l.ChordAt(first.At); ok && (k == 0 || chord.At.Cmp(first.At) == 0) {
		s.text(x, float64(top+12), ` font-weight="600"`, chord.Name)
	}
	var fingers []string
	for i := c[0]; i < c[1]; i++ {
		n := l.Notes[i]
		y := s.stringY(n.String, top)
		word := strconv.Itoa(n.Fret)
		if n.Mute {
			word = "×"
		}
		if n.Ghost {
			word = "(" + word + ")"
		}
		fmt.Fprintf(&s.b, `<rect x="%s" y="%s" width="%d" height="14" fill="#fff"/>`, px(x-float64(4*len(word))-1),
			px(y-7), 8*len(word)+2)
		bold := ""
		if n.Accent {
			bold = ` font-weight="700"`
		}
		s.text(x, y+4.5, bold, word)
		if n.Slur != "" && joined {
			fmt.Fprintf(&s.b, `<path d="M%s %sq%d -9 %d 0" stroke="#1d2329" fill="none"/>`, px(x-svgColumn+6), px(y-8),
				(svgColumn-12)/2, svgColumn-12)
			s.text(x-svgColumn/2, y-14, ` font-size="9"`,
				map[lick.Slur]string{lick.Hammer: "h", lick.Pull: "p", lick.Slide: "s", lick.Shift: "S"}[n.Slur])
		}
		if b := n.Bend; b != nil {
			fmt.Fprintf(&s.b, `<path d="M%s %sq7 0 7 -13" stroke="#9a4f10" fill="none"/>`, px(x+5), px(y-2))
			s.text(x+13, y-17, ` font-size="10" fill="#9a4f10"`, bendSign(*b))
		}
		if n.Vibrato != nil {
			fmt.Fprintf(&s.b, `<path d="M%s %sq2 -4 4 0t4 0t4 0" stroke="#1d2329" fill="none"/>`, px(x+5), px(y-9))
		}
		fingers = append(fingers, n.Finger.String())
	}
	low := s.stringY(len(l.Tuning), top)
	if y := s.stringY(1, top) - 4; s.palm(k) && joined && k > 0 && s.palm(k-1) {
		fmt.Fprintf(&s.b, `<path d="M%s %sH%s" stroke="#5f656d" stroke-dasharray="3 3"/>`, px(x-svgColumn+10), px(y-4),
			px(x+6))
	} else if s.palm(k) {
		s.text(x, y, ` font-size="10"`, "PM")
	}
	s.text(x, low+24, "", strings.TrimSpace(strings.Join(fingers, " ")))
	s.value(x, low+68, first.Len)
	switch st := first.Stroke; {
	case first.Slur.Slurred():
		s.text(x, low+42, ` fill="#5f656d"`, "·")
	case st == lick.Down:
		fmt.Fprintf(&s.b, `<path d="M%s %sv-8h9v8" stroke="#1d2329" stroke-width="1.6" fill="none"/>`, px(x-4.5),
			px(low+43))
	case st == lick.Up:
		fmt.Fprintf(&s.b, `<path d="M%s %sl4 9l4 -9" stroke="#1d2329" stroke-width="1.6" fill="none"/>`, px(x-4),
			px(low+34))
	case st != "":
		s.text(x, low+42, "", string(st))
	}
}

// palm says whether the notes of column k are palm muted.
func (s *sheet) palm(k int) bool {
	c := s.columns[k]
	return slices.ContainsFunc(s.lick.Notes[c[0]:c[1]], func(n lick.Note) bool { return n.Palm })
}

// value draws a length as a note: head, stem, flags, a dot, and the number of a group that shares a beat
// otherwise, as 3 for triplets. What no such note says is written as a fraction.
func (s *sheet) value(x, y float64, length lick.Time) {
	v, ok := noteOf(length)
	if !ok {
		s.text(x, y, ` font-size="11"`, length.String())
		return
	}
	fill := ` fill="#1d2329"`
	if v.base <= 2 {
		fill = ` fill="none"`
	}
	fmt.Fprintf(&s.b, `<ellipse cx="%s" cy="%s" rx="3.6" ry="2.6" stroke="#1d2329"%s/>`, px(x), px(y), fill)
	if v.base > 1 {
		fmt.Fprintf(&s.b, `<path d="M%s %sv-15" stroke="#1d2329"/>`, px(x+3.4), px(y))
	}
	for flag, of := 0.0, 8; of <= v.base; flag, of = flag+1, 2*of {
		fmt.Fprintf(&s.b, `<path d="M%s %sq1 3 5 4" stroke="#1d2329" stroke-width="1.4" fill="none"/>`, px(x+3.4),
			px(y-15+4*flag))
	}
	if v.dotted {
		fmt.Fprintf(&s.b, `<circle cx="%s" cy="%s" r="1.3"/>`, px(x+7), px(y-1))
	}
	if v.group > 0 {
		s.text(x-5, y-8, ` font-size="9"`, strconv.Itoa(v.group))
	}
}

// note is a length as it is written: the part of a whole note, dotted, one of a group in the time of the
// next lower power of two.
type note struct {
	base, group int
	dotted      bool
}

// noteOf finds the note of a length; false if a single one does not have it.
func noteOf(length lick.Time) (note, bool) {
	num, den := length.Parts()
	for base := 1; base <= 64; base *= 2 {
		switch b := int64(base); {
		case num*b == den:
			return note{base: base}, true
		case 2*num*b == 3*den:
			return note{base: base, dotted: true}, true
		}
	}
	for _, g := range []struct{ in, of int64 }{{3, 2}, {5, 4}, {7, 4}} {
		for base := int64(2); base <= 64; base *= 2 {
			if num*base*g.in == den*g.of {
				return note{base: int(base), group: int(g.in)}, true
			}
		}
	}
	return note{}, false
}

// bendSign says how far a bend goes, and that it comes down again.
// In steps, as tablature prints it (common practice): a curl is a quarter of a step.
func bendSign(b lick.Bend) string {
	out := map[float64]string{0.5: "¼", 1: "½", 2: "full", 3: "1½", 4: "2"}[b.Semitones]
	if out == "" {
		out = px(b.Semitones/2) + " step"
	}
	if b.Pre() {
		out = "(" + out + ")"
	}
	if b.Release() {
		out += " ↓"
	}
	return out
}
