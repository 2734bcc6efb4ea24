package draw

import (
	"fmt"
	"html/template"
	"math"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/hand"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// Mark is a tone drawn on the neck. Its shape is its role, so that the neck can be read without colour.
type Mark struct {
	Place neck.Place
	Label string
	Role  music.Role
	Notes []int // of the lick that lie there, from 1; empty for a tone of the palette
	Main  bool  // drawn bright without belonging to a lick
	Dot   bool  // only a small dot, without a label
}

// Neck is what the neck shows. The same drawing serves the bench (a window of frets, a selection) and the tones (the
// whole neck, an area lifted out).
type Neck struct {
	Guitar   neck.Guitar
	From, To int // frets shown; From 0 shows the nut and the open strings
	Marks    []Mark
	Select   *Selection

	Width      float64 // of the drawing; 0 means the bench's
	LowOnTop   bool    // the thick strings above
	LeftHanded bool    // the nut at the right
	Still      bool    // it is looked at, and takes no clicks
	Area       [2]int  // frets to lift out, when the second is more than 0
	Label      string  // for screen readers; "" means the bench's
}

// width is the drawing's own width in units; the page scales it.
func (n Neck) width() float64 {
	if n.Width > 0 {
		return n.Width
	}
	return neckWidth
}

// Selection is the note the player stands on and the move into it. Now and Before are the frets under the four fingers;
// Way is how far the hand's centre moved between them.
type Selection struct {
	Place, From neck.Place
	HasFrom     bool
	Now, Before hand.Frame // zero frames are not drawn
	Way         neck.MM
	Bad         bool // the move breaks

	SlideFrom     *neck.Place // the place on its string that the note slides from, or nil
	Bent, Release bool        // it is bent, and comes down again
}

// Sizes of the neck's drawing.
const (
	neckWidth  = 912.0
	neckTop    = 27.0 // fret numbers
	neckString = 25.5 // between strings
	neckBottom = 9.0
	openRoom   = 38.0 // left of the nut
	markRadius = 11.5
	tipsHeight = 42.0
)

// scaler turns frets into pixels, true to the fret spacing.
type scaler struct {
	n        Neck
	left     float64
	perMM    float64
	from, to int
}

// newScaler fits the frets that are shown into the width, to scale. Frets narrow toward the bridge as they do on the
// guitar, so that a stretch looks as wide as it is.
func newScaler(n Neck) scaler {
	s := scaler{n: n, from: max(1, n.From), to: n.To}
	if n.From <= 0 {
		s.left = openRoom
	}
	width := float64(n.Guitar.FretX(s.to) - n.Guitar.FretX(s.from-1))
	s.perMM = (n.width() - s.left) / width
	return s
}

// wire is where a fret lies. In units from the left edge; the nut is fret 0.
func (s scaler) wire(fret int) float64 {
	return s.side(s.left + float64(s.n.Guitar.FretX(fret)-s.n.Guitar.FretX(s.from-1))*s.perMM)
}

// side mirrors a place along the neck for a left-handed drawing.
func (s scaler) side(x float64) float64 {
	if s.n.LeftHanded {
		return s.n.width() - x
	}
	return x
}

// span is the left edge and the width of a fret's cell; fret 0 is left of the nut.
func (s scaler) span(fret int) (x, w float64) {
	a, b := s.side(0), s.wire(0)
	if fret > 0 {
		a, b = s.wire(fret-1), s.wire(fret)
	}
	return min(a, b), math.Abs(b - a)
}

// y is the height of a string.
func (s scaler) y(str int) float64 {
	if s.n.LowOnTop {
		str = len(s.n.Guitar.Tuning) + 1 - str
	}
	return stringY(str)
}

// edges are the left and the right edge of a stretch of frets.
func (s scaler) edges(from, to int) (left, right float64) {
	x1, w1 := s.span(from)
	x2, w2 := s.span(to)
	return min(x1, x2), max(x1+w1, x2+w2)
}

// cell is the middle of a fret's cell; the open string's lies left of the nut.
func (s scaler) cell(fret int) float64 {
	if fret <= 0 {
		return s.side(openRoom / 2)
	}
	return (s.wire(fret-1) + s.wire(fret)) / 2
}

// shows says whether a place lies within what is drawn.
func (s scaler) shows(p neck.Place) bool {
	return p.Fret >= s.from && p.Fret <= s.to || p.Fret == 0 && s.left > 0
}

// stringY is where a string lies, 1 on top.
func stringY(str int) float64 { return neckTop + neckString*(float64(str)-0.5) }

// dotted are the frets that necks mark on their edge (common practice).
func dotted(fret int) bool { return fret > 0 && slices.Contains([]int{0, 3, 5, 7, 9}, fret%12) }

// NeckSVG draws the neck. Layers from below: board, tones of the palette, notes of the line, the way into the selected
// note, and the places that take a click.
func NeckSVG(n Neck) template.HTML {
	var c canvas
	s := newScaler(n)
	h := neckTop + neckString*float64(len(n.Guitar.Tuning)) + neckBottom
	c.board(s, h)
	for _, m := range n.Marks {
		if s.shows(m.Place) && len(m.Notes) == 0 && !m.Main {
			c.mark(s, m, false)
		}
	}
	for _, m := range n.Marks {
		if s.shows(m.Place) && (len(m.Notes) > 0 || m.Main) {
			c.mark(s, m, n.Select != nil && n.Select.Place == m.Place)
		}
	}
	if sel := n.Select; sel != nil {
		c.selection(s, *sel)
	}
	if !n.Still {
		c.hits(s)
	}
	label := n.Label
	if label == "" {
		label = fmt.Sprintf("The neck from fret %d to %d with the tones of this lick", n.From, n.To)
	}
	return c.svg(n.width(), h, "neck", label)
}

// board draws frets, inlays and strings.
// A string is drawn as thick as it is, times a factor that keeps the thinnest visible.
func (c *canvas) board(s scaler, h float64) {
	c.rect(0, 0, s.n.width(), h, "board", "rx", 8.0, "fill", "url(#ebony)")
	if a := s.n.Area; a[1] > 0 {
		from := max(a[0], s.from)
		if a[0] == 0 {
			from = 0
		}
		left, right := s.edges(from, min(a[1], s.to))
		c.rect(left, neckTop-6, right-left, h-neckTop+1, "lifted", "rx", 8.0)
	}
	bottom := h - 6
	for f := s.from - 1; f <= s.to; f++ {
		class := "wire"
		if f == 0 {
			class = "nut"
		} else if f == s.from-1 || f == s.to {
			continue
		}
		c.line(s.wire(f), neckTop-4, s.wire(f), bottom, class)
	}
	for f := s.from; f <= s.to; f++ {
		c.text(s.cell(f), 19, classed("fretno", dotted(f), "dotted"), strconv.Itoa(f))
	}
	for i, g := range s.n.Guitar.Strings {
		class := "plain"
		if g.Wound {
			class = "wound"
		}
		y := s.y(i + 1)
		c.el("line", "x1", s.side(s.left), "y1", y, "x2", s.side(s.n.width()), "y2", y, "class", class, "stroke-width",
			0.8+float64(g.Inches)*55)
	}
}

// mark draws a tone: root a disc with a ring, scale tone a disc, colour note a
// lozenge, outside an open triangle; faint where only the palette has it.
func (c *canvas) mark(s scaler, m Mark, selected bool) {
	x, y := s.cell(m.Place.Fret), s.y(m.Place.String)
	if m.Dot {
		c.dot(x, y, m)
		return
	}
	c.open("g", "class", classed("tone "+m.Role.String(), len(m.Notes) > 0 || m.Main, "played"),
		"data-notes", strings.Trim(fmt.Sprint(m.Notes), "[]"), "data-at", m.Place.Notation())
	c.title(placeTitle(m))
	// High up the cells are narrower than a full mark.
	r := markRadius
	if m.Place.Fret > 0 {
		_, w := s.span(m.Place.Fret)
		r = min(r, w/2-0.5)
	}
	switch m.Role {
	case music.Root:
		c.el("circle", "cx", x, "cy", y, "r", r)
		c.el("circle", "cx", x, "cy", y, "r", r-3, "class", "ring")
	case music.ScaleTone:
		c.el("circle", "cx", x, "cy", y, "r", r)
	case music.Colour:
		c.el("path", "d", lozenge(x, y, r+3))
	default:
		c.el("path", "d",
			fmt.Sprintf("M%s %sL%s %sL%s %sZ", num(x), num(y-r-1), num(x+r+1), num(y+r-3), num(x-r-1), num(y+r-3)))
		y += 2
	}
	c.text(x, y+5, "label", m.Label)
	if selected {
		c.el("circle", "cx", x, "cy", y, "r", r+5, "class", "here")
	}
	c.close("g")
}

// dot is a tone of the palette that is not part of what is shown.
func (c *canvas) dot(x, y float64, m Mark) {
	switch m.Role {
	case music.Root:
		c.circle("dot root", x, y, 4.5)
	case music.Colour:
		c.el("path", "class", "dot colour", "d", lozenge(x, y, 5))
	default:
		c.circle("dot", x, y, 3.5)
	}
}

// lozenge is the outline of a colour note.
func lozenge(x, y, r float64) string {
	return fmt.Sprintf("M%s %sL%s %sL%s %sL%s %sZ", num(x), num(y-r), num(x+r), num(y), num(x), num(y+r), num(x-r),
		num(y))
}

// placeTitle is what a pointer that rests on a place reads. "string 3, fret 9: ♭3, outside".
func placeTitle(m Mark) string {
	t := fmt.Sprintf("string %d, fret %d", m.Place.String, m.Place.Fret)
	if m.Label != "" {
		t += ": " + m.Label
	}
	if m.Role == music.Colour || m.Role == music.Outside {
		t += ", " + m.Role.String()
	}
	return t
}

// selection draws the way into the selected note. A bow with a head at its end, above the strings or below so that it
// stays on the board; none where the note is played where the hand already was.
func (c *canvas) selection(s scaler, sel Selection) {
	if sel.Bent && s.shows(sel.Place) {
		c.bend(s, sel)
	}
	if sel.SlideFrom != nil && s.shows(*sel.SlideFrom) && s.shows(sel.Place) {
		c.slide(s, *sel.SlideFrom, sel.Place)
		return
	}
	if !sel.HasFrom || sel.From == sel.Place || !s.shows(sel.From) || !s.shows(sel.Place) {
		return
	}
	x1, y1 := s.cell(sel.From.Fret), s.y(sel.From.String)
	x2, y2 := s.cell(sel.Place.Fret), s.y(sel.Place.String)
	lift := 26.0
	if y1 > neckTop+neckString*3 && y2 > neckTop+neckString*3 {
		lift = -26
	}
	// The way runs from the rim of one tone to the rim of the other.
	cx, cy := (x1+x2)/2, (y1+y2)/2-lift
	sx, sy := toward(x1, y1, cx, cy, markRadius+3)
	ex, ey := toward(x2, y2, cx, cy, markRadius+9)
	c.path(classed("way", sel.Bad, "bad"), "M%s %sQ%s %s %s %s", sx, sy, cx, cy, ex, ey)
	tx, ty := toward(x2, y2, cx, cy, markRadius+4)
	nx, ny := (ey-ty)/5*5.5, (tx-ex)/5*5.5
	c.path(classed("wayhead", sel.Bad, "bad"), "M%s %sL%s %sL%s %sZ", tx, ty, ex+nx+(ex-tx), ey+ny+(ey-ty),
		ex-nx+(ex-tx), ey-ny+(ey-ty))
}

// slide draws the way of a finger that stays on its string: along the string, with a head where it arrives.
func (c *canvas) slide(s scaler, from, to neck.Place) {
	x1, x2, y := s.cell(from.Fret), s.cell(to.Fret), s.y(to.String)
	dir := 1.0
	if x2 < x1 {
		dir = -1
	}
	end := x2 - dir*(markRadius+4)
	c.line(x1+dir*(markRadius+2), y, end-dir*6, y, "neckslide")
	c.path("neckslidehead", "M%s %sL%s %sL%s %sZ", end, y, end-dir*8, y-5, end-dir*8, y+5)
}

// bend draws that the string of the selected note is pushed, as the tablature does: a bow up beside the note and, where
// it comes down again, one down.
func (c *canvas) bend(s scaler, sel Selection) {
	x, y := s.cell(sel.Place.Fret)+markRadius+3, s.y(sel.Place.String)
	c.path("neckbend", "M%s %sq8 0 9 -14", x, y)
	c.path("neckbendhead", "M%s %sl-4 6h8Z", x+9, y-19)
	if sel.Release {
		c.path("neckbend", "M%s %sq7 0 9 14", x+13, y-16)
		c.path("neckbendhead", "M%s %sl-4 -6h8Z", x+22, y+4)
	}
}

// toward is the point r from (x, y) on the way to (tx, ty).
func toward(x, y, tx, ty, r float64) (float64, float64) {
	d := math.Hypot(tx-x, ty-y)
	if d == 0 {
		return x, y
	}
	return x + (tx-x)*r/d, y + (ty-y)*r/d
}

// hits are the places that a click adds.
// They lie on top of everything, so that a click on a tone is a click on its place.
func (c *canvas) hits(s scaler) {
	for str := 1; str <= len(s.n.Guitar.Tuning); str++ {
		y := s.y(str) - neckString/2
		first := s.from
		if s.left > 0 {
			first = 0
		}
		for f := first; f <= s.to; f++ {
			x, w := s.span(f)
			c.rect(x, y, w, neckString, "hit", "data-place", fmt.Sprintf("%d:%d", str, f))
		}
	}
}

// TipsSVG draws where the four fingertips stood before the selected note, hollow, and where they stand now, filled,
// under the neck's frets. A frame names the fret of each finger, the index first.
func TipsSVG(n Neck) template.HTML {
	var c canvas
	s := newScaler(n)
	label := "Choose a note to see the hand"
	if sel := n.Select; sel != nil && sel.Now != (hand.Frame{}) {
		label = fmt.Sprintf("Fingertips over frets %d %d %d %d", sel.Now[0], sel.Now[1], sel.Now[2], sel.Now[3])
		if sel.Before != (hand.Frame{}) && sel.Before != sel.Now {
			c.tips(s, sel.Before, 10, "tip before")
		}
		c.tips(s, sel.Now, 31, classed("tip now", sel.Bad, "bad"))
	}
	return c.svg(neckWidth, tipsHeight, "tips", label)
}

// TipsAtLeft says whether fingertips stand at the left end of their drawing and not at its right, so that words
// on them cover none at the right.
func TipsAtLeft(n Neck) bool {
	s := newScaler(n)
	if n.Select == nil {
		return false
	}
	left, right := false, false
	for _, f := range append(n.Select.Now[:], n.Select.Before[:]...) {
		if f > 0 && s.shows(neck.Place{Fret: f}) {
			x := s.cell(f) / neckWidth
			left, right = left || x < 0.27, right || x > 0.7
		}
	}
	return left && !right
}

// tips draws the four fingertips of a frame to scale. A fingertip is at most 26 units wide and shrinks with the cell;
// two fingers over one fret stand side by side in it.
func (c *canvas) tips(s scaler, f hand.Frame, y float64, class string) {
	for i := 0; i < 4; {
		j := i + 1
		for j < 4 && f[j] == f[i] {
			j++
		}
		if p := (neck.Place{Fret: f[i]}); s.shows(p) {
			// Fingers on one fret share its cell.
			_, cell := s.span(f[i])
			w := min(26, (cell-4)/float64(j-i))
			x := s.cell(f[i]) - w*float64(j-i)/2
			for k := i; k < j; k++ {
				c.open("g", "class", class)
				c.rect(x+1, y-10, w-2, 20, "", "rx", 6.0)
				c.text(x+w/2, y+5, "", strconv.Itoa(k+1))
				c.close("g")
				x += w
			}
		}
		i = j
	}
}
