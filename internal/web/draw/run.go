package draw

import (
	"fmt"
	"html/template"
	"slices"
	"strings"
	"unicode/utf8"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/pick"
)

// Sizes of a run drawn with its cells.
const (
	runLeft   = 64.0
	runRight  = 1196.0
	runStep   = 27.0 // least width of a column
	runGap    = 22.0
	runTop    = 54.0
	bracketAt = 30.0
)

// RunCell is one cell of a run for the drawing: notes [From, To), and what stands over its bracket. A run's cells do
// not overlap; the drawing takes them as they are.
type RunCell struct {
	From, To int
	Label    string
	Last     bool // the tail or the landing
}

// stringChangeWords are the string changes as the run shows them.
var stringChangeWords = map[pick.StringChange]string{
	pick.Outside: "out", pick.Inside: "in", pick.Sweep: "sweep", pick.Against: "against",
}

// RunSVG draws a run on the strings it uses, its cells bracketed, with fingers, strokes and string changes under it.
// Columns are as wide as the screen has room for, and never narrower than two figures need: a longer run scrolls. names
// has a name for each string of the tuning, thin first.
//
// Strings that the run does not touch are left out. The bottleneck's notes are marked. A change
// of strings stands between its two columns, in a word and a class.
//
// boxes are stretches of notes with the box in which they lie, drawn in a row of their own; none leaves it out.
func RunSVG(r *judge.Report, cells, boxes []RunCell, names []string) template.HTML {
	var c canvas
	l := r.Lick
	cols := l.Columns()
	columnOf := make([]int, len(l.Notes))
	thin, thick := len(l.Tuning), 1
	for k, col := range cols {
		for i := col[0]; i < col[1]; i++ {
			columnOf[i] = k
			thin, thick = min(thin, l.Notes[i].String), max(thick, l.Notes[i].String)
		}
	}
	step := max(runStep, min(44, (runRight-runLeft)/float64(max(1, len(cols)))))
	width := max(runRight+12, runLeft+step*float64(len(cols))+12)
	x := func(k int) float64 { return runLeft + step*(float64(k)+0.5) }
	y := func(s int) float64 { return runTop + runGap*float64(s-thin) }
	bottom := y(thick)
	for s := thin; s <= thick; s++ {
		c.line(runLeft-8, y(s), width-8, y(s), "stave")
		c.text(runLeft-18, y(s)+5, "runstring", names[s-1])
	}
	for _, cell := range cells {
		if cell.From >= cell.To {
			continue
		}
		a, b := x(columnOf[cell.From])-step*0.4, x(columnOf[cell.To-1])+step*0.4
		c.path(classed("bracket", cell.Last, "last"), "M%s %sv-11H%sv11", a, bracketAt+11, b)
		c.text((a+b)/2, bracketAt-7, "bracketname", cell.Label)
	}
	fingers, strokes, changes := bottom+36, bottom+66, bottom+92
	for _, row := range []struct {
		y    float64
		name string
	}{{fingers, "Finger"}, {strokes, "Stroke"}, {changes, "Change"}} {
		c.line(0, row.y-20, width, row.y-20, "rule")
		c.text(0, row.y, "runrow", row.name)
	}
	end := changes
	if len(boxes) > 0 {
		end += 26
		c.line(0, end-20, width, end-20, "rule")
		c.text(0, end, "runrow", "Box")
		for _, b := range boxes {
			from, to := x(columnOf[b.From])-step*0.4, x(columnOf[b.To-1])+step*0.4
			c.boxSpan(from, to, end-15, b.Label)
		}
	}
	for k, col := range cols {
		for i := col[0]; i < col[1]; i++ {
			c.runNote(r, i, x(k), y, step)
			c.text(x(k), fingers-15*float64(i-col[0]), "handfinger", r.Lick.Notes[i].Finger.String())
			if i == col[1]-1 {
				c.handStroke(x(k), strokes-5, l.Notes[i], false)
			}
			if w := stringChangeWords[r.Notes[i].StringChange]; w != "" && i == col[0] && k > 0 {
				c.text(x(k)-step/2, changes, "change "+string(r.Notes[i].StringChange), w)
			}
		}
	}
	return c.svg(width, end+10, "run", fmt.Sprintf("A run of %d notes in %d cells", len(l.Notes), len(cells)),
		"width", width, "height", end+10)
}

// boxSpan draws how long a line stays in a box, with its name, or where that has no room its number.
func (c *canvas) boxSpan(from, to, y float64, name string) {
	c.path("boxspan", "M%s %sH%s", from, y, to)
	if to-from < 8*float64(len(name)) {
		name = name[strings.LastIndex(name, " ")+1:]
	}
	c.text(from, y+15, "boxname", name)
}

// runNote draws a note of the run with what stands under it.
func (c *canvas) runNote(r *judge.Report, i int, x float64, y func(int) float64, step float64) {
	n := r.Lick.Notes[i]
	class := classed("small", n.Accent, "accent")
	if slices.Contains(r.Bottleneck, i+1) {
		class = classed(class+" neck-of-it", r.Verdict == judge.Breaks, "breaks")
	}
	c.open("g", "class", "runnote", "data-note", i+1)
	defer c.close("g")
	f := fretSign(n.Fret, n.Mute, n.Ghost)
	w := 4 + 10*float64(utf8.RuneCountInString(f))
	c.rect(x-w/2, y(n.String)-9, w, 18, "behind")
	c.text(x, y(n.String)+6, class, f)
	switch {
	case n.Slur == lick.Slide || n.Slur == lick.Shift:
		// A slide rises or falls with the frets.
		from, to := y(n.String)-4, y(n.String)-10
		if j := r.Lick.Before(i); j >= 0 && r.Lick.Notes[j].Fret > n.Fret {
			from, to = to, from
		}
		c.line(x-step+10, from, x-10, to, "slide")
	case n.Slur != "":
		c.path("arc", "M%s %sq%s -8 %s 0", x-step+8, y(n.String)-9, step/2-8, step-16)
	}
	if n.Bend != nil {
		c.path("bend", "M%s %sq6 0 8 -10", x+8, y(n.String)-2)
		if n.Bend.Release() { // and comes down again
			c.path("bend", "M%s %sq6 0 8 10", x+16, y(n.String)-12)
		}
	}
}
