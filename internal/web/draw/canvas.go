package draw

import (
	"fmt"
	"html"
	"html/template"
	"strconv"
	"strings"
)

// canvas collects SVG. Text and attribute values are escaped.
// It knows no drawing; each drawing's own words are methods in its file.
type canvas struct {
	strings.Builder
	wide float64 // the width of a column of the ledger, where one is drawn
}

// open starts an element with attributes given as name, value pairs.
func (c *canvas) open(name string, attrs ...any) {
	c.WriteByte('<')
	c.WriteString(name)
	c.attrs(attrs)
	c.WriteByte('>')
}

// close ends an element.
func (c *canvas) close(name string) {
	c.WriteString("</")
	c.WriteString(name)
	c.WriteByte('>')
}

// el writes an empty element.
func (c *canvas) el(name string, attrs ...any) {
	c.WriteByte('<')
	c.WriteString(name)
	c.attrs(attrs)
	c.WriteString("/>")
}

// attrs writes names and values in turn; numbers have at most two decimals.
func (c *canvas) attrs(attrs []any) {
	for i := 0; i+1 < len(attrs); i += 2 {
		c.WriteByte(' ')
		c.WriteString(attrs[i].(string))
		c.WriteString(`="`)
		switch v := attrs[i+1].(type) {
		case float64:
			c.WriteString(num(v))
		case string:
			c.WriteString(html.EscapeString(v))
		default:
			c.WriteString(html.EscapeString(fmt.Sprint(v)))
		}
		c.WriteByte('"')
	}
}

// fretSign is how a fret is written: a dead note as a cross, a ghost note in brackets (common practice).
func fretSign(fret int, dead, ghost bool) string {
	s := strconv.Itoa(fret)
	if dead {
		s = "×"
	}
	if ghost {
		s = "(" + s + ")"
	}
	return s
}

// path draws the outline that format writes of its numbers, "M%s %sh%s".
func (c *canvas) path(class, format string, at ...float64) {
	words := make([]any, len(at))
	for i, v := range at {
		words[i] = num(v)
	}
	c.el("path", "class", class, "d", fmt.Sprintf(format, words...))
}

// course is a path from point to point, in the order in which they come.
type course struct{ strings.Builder }

// to leads the course on to a point.
func (p *course) to(x, y float64) {
	verb := "L"
	if p.Len() == 0 {
		verb = "M"
	}
	p.WriteString(verb + num(x) + " " + num(y))
}

// circle draws one.
func (c *canvas) circle(class string, x, y, r float64) {
	c.el("circle", "class", class, "cx", x, "cy", y, "r", r)
}

// classed is a class, with more of them where that is so.
func classed(class string, so bool, more string) string {
	if so {
		return class + " " + more
	}
	return class
}

// text writes a word; what a player has typed is escaped.
func (c *canvas) text(x, y float64, class, s string) {
	c.open("text", "x", x, "y", y, "class", class)
	c.WriteString(html.EscapeString(s))
	c.close("text")
}

// line draws from one point to another.
func (c *canvas) line(x1, y1, x2, y2 float64, class string) {
	c.el("line", "x1", x1, "y1", y1, "x2", x2, "y2", y2, "class", class)
}

// rect draws a box.
func (c *canvas) rect(x, y, w, h float64, class string, more ...any) {
	c.el("rect", append([]any{"x", x, "y", y, "width", w, "height", h, "class", class}, more...)...)
}

// title names what it stands in, for a pointer that rests there and for a screen reader.
func (c *canvas) title(s string) {
	c.open("title")
	c.WriteString(html.EscapeString(s))
	c.close("title")
}

// roleOf is what a drawing is to a screen reader: a picture, unless there are links in it.
func roleOf(class string) string {
	if class == "changes" {
		return "group"
	}
	return "img"
}

// svg wraps the drawing, size pixels large, with a label for screen readers.
func (c *canvas) svg(w, h float64, class, label string, more ...any) template.HTML {
	var out canvas
	out.open("svg", append([]any{"class", class, "viewBox", "0 0 " + num(w) + " " + num(h), "role", roleOf(class),
		"aria-label", label}, more...)...)
	out.WriteString(c.String())
	out.close("svg")
	return template.HTML(out.String()) // every value above is escaped
}

// num writes a coordinate as short as it can be.
func num(v float64) string { return strings.TrimSuffix(strconv.FormatFloat(v, 'f', 1, 64), ".0") }
