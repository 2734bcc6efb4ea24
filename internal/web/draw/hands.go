package draw

import (
	"fmt"
	"html/template"
	"slices"
	"strconv"
	"unicode/utf8"

	"ornamen/core/lick"
	"ornamen/core/music"
)

// Sizes of a line drawn with both hands.
const (
	handsStep = 30.0
	handsGap  = 15.0
	handsTop  = 17.0
	palmRow   = 13.0 // over the strings, where there is palm muting
)

// HandsSVG draws a line on its strings with fingers and strokes under it. What differs from the line it is compared
// with is marked. Notes of the two lines belong together where they sound at one time at one pitch; bottleneck counts
// notes from 1. A column is 30 units wide, so that a phrase of 16 fits beside another.
func HandsSVG(l lick.Lick, with *lick.Lick, bottleneck []int) template.HTML {
	return handsSVG(l, with, bottleneck, 0)
}

// StandSVG draws a part with both hands for the stand, the number of each note under it: the first note is number
// first of its lick.
func StandSVG(l lick.Lick, missed []int, first int) template.HTML {
	return handsSVG(l, nil, missed, first)
}

// handsSVG draws both; first is the number of the first note, 0 for none.
func handsSVG(l lick.Lick, with *lick.Lick, bottleneck []int, first int) template.HTML {
	var c canvas
	strings := len(l.Tuning)
	cols := l.Columns()
	palm := func(n lick.Note) bool { return n.Palm }
	palms := func(k int) bool { return k >= 0 && slices.ContainsFunc(l.Notes[cols[k][0]:cols[k][1]], palm) }
	top := handsTop
	if slices.ContainsFunc(l.Notes, palm) {
		top += palmRow
	}
	y := func(s int) float64 { return top + handsGap*float64(s-1) }
	bottom := y(strings)
	w := handsStep * float64(max(1, len(cols)))
	for s := 1; s <= strings; s++ {
		c.line(0, y(s), w, y(s), "stave")
	}
	differs, most := 0, 1
	for k, col := range cols {
		most = max(most, col[1]-col[0])
		x := handsStep * (float64(k) + 0.5)
		if palms(k) && palms(k-1) {
			c.line(x-handsStep+11, palmRow-4, x+4, palmRow-4, "palmline")
		} else if palms(k) {
			c.text(x, palmRow, "palm", "PM")
		}
		for i := col[0]; i < col[1]; i++ {
			n := l.Notes[i]
			class := classed("small", slices.Contains(bottleneck, i+1), "neck-of-it")
			f := fretSign(n.Fret, n.Mute, n.Ghost)
			bw := 4 + 9*float64(utf8.RuneCountInString(f))
			c.open("g", "class", "handnote", "data-note", i+1)
			c.rect(x-bw/2, y(n.String)-8, bw, 16, "behind")
			c.text(x, y(n.String)+5, class, f)
			c.close("g")
			if n.Slur != "" && k > 0 {
				c.path("arc", "M%s %sq%s -7 %s 0", x-handsStep+8, y(n.String)-8, handsStep/2-8, handsStep-16)
			}
			if n.Bend != nil {
				c.handBend(x+8+3*float64(len(f)-1), y(n.String), *n.Bend)
			}
			if n.Vibrato != nil {
				c.path("arc", "M%s %sq2 -4 4 0t4 0t4 0", x-6, y(n.String)-9)
			}
			fingerClass, strokeClass := "handfinger", false
			if m, ok := sameNote(l, n, with); ok {
				if m.Place() != n.Place() || m.Finger != n.Finger {
					fingerClass += " differs"
					differs++
				}
				strokeClass = m.Stroke != n.Stroke || m.Slur != n.Slur
			}
			row := bottom + 24 + 18*float64(col[1]-1-i)
			c.text(x, row, fingerClass, n.Finger.String())
			if i == col[1]-1 {
				c.handStroke(x, bottom+24+18*float64(most-1)+20, n, strokeClass)
			}
		}
	}
	h := bottom + 24 + 18*float64(most-1) + 34
	if first > 0 {
		h += 16
		for k, col := range cols {
			c.text(handsStep*(float64(k)+0.5), h-4, "handnumber", strconv.Itoa(first+col[0]))
		}
	}
	label := fmt.Sprintf("%d notes with fingers and strokes", len(l.Notes))
	if with != nil {
		label += fmt.Sprintf(", %d of them with other fingers or places", differs)
	}
	return c.svg(w, h, "hands", label, "width", w, "height", h)
}

// bendSteps are the sizes of bends in whole steps.
var bendSteps = map[float64]string{0.5: "¼", 1: "½", 2: "1", 3: "1½", 4: "2"}

// handBend draws an arrow from a fret to how far it is bent: upright where the string is bent
// before it sounds, and down again where it is released.
func (c *canvas) handBend(x, y float64, b lick.Bend) {
	rise := "q6 0 6 -9"
	if b.Pre() {
		rise = "m6 0v-9"
	}
	c.path("arc", "M%s %s"+rise+"m-2.5 3l2.5 -3l2.5 3", x, y)
	if b.Release() {
		c.path("arc", "M%s %sq5 0 5 9m-2.5 -3l2.5 3l2.5 -3", x+6, y-9)
	}
	c.text(x+6, y-11, "handbend", bendSteps[b.Semitones])
}

// handStroke draws a stroke sign, marked where it differs from the first proposal's.
// A slurred note has the slur's word instead, a finger of the picking hand its letter.
func (c *canvas) handStroke(x, y float64, n lick.Note, differs bool) {
	class := classed("stroke", differs, "differs")
	switch {
	case n.Slur.Slurred():
		c.text(x, y+5, "handslur", slurWords[n.Slur])
	case n.Stroke == lick.Down:
		c.path(class, "M%s %sv-10h12v10", x-6, y+5)
	case n.Stroke == lick.Up:
		c.path(class, "M%s %sl5 11l5 -11", x-5, y-6)
	default:
		c.text(x, y+5, "handslur", string(n.Stroke))
	}
}

// sameNote finds the note of another line that sounds at the same time with the same pitch.
func sameNote(l lick.Lick, n lick.Note, with *lick.Lick) (lick.Note, bool) {
	if with == nil {
		return n, false
	}
	pitch := l.Tuning[n.String-1] + music.Pitch(n.Fret)
	for _, m := range with.Notes {
		if m.At.Cmp(n.At) == 0 && with.Tuning[m.String-1]+music.Pitch(m.Fret) == pitch {
			return m, true
		}
	}
	return n, false
}
