package draw

import (
	"fmt"
	"html/template"
	"math"
	"slices"
	"unicode/utf8"

	"ornamen/core/lick"
)

// Sizes of a line drawn small.
const (
	rowWidth  = 420.0
	rowHeight = 76.0
	rowNotes  = 16 // notes shown
	moreNotes = 2  // notes that give way to the number of the others, where there are some
)

// LineSVG draws the start of a line small on its strings, with the notes of the bottleneck marked. It is kept with a
// lick's summary, whose key has the program in it: a later one draws it anew. Sixteen columns are shown, or fourteen
// and the number of the others; threads lead from note to note, so that leaps can be seen from afar.
func LineSVG(l lick.Lick, bottleneck []int, breaks bool) template.HTML {
	var c canvas
	n := len(l.Tuning)
	gap := (rowHeight - 14) / float64(n-1)
	y := func(s int) float64 { return 7 + gap*float64(s-1) }
	cols := l.Columns()
	shown := min(len(cols), rowNotes)
	step := (rowWidth - 32) / float64(rowNotes-1)
	wide := rowWidth
	if len(cols) > shown {
		shown -= moreNotes
		wide -= moreNotes * step
	}
	// Rows come by the fifty: what is alike is one path.
	staves := ""
	for s := 1; s <= n; s++ {
		staves += fmt.Sprintf("M0 %sH%s", num(y(s)), num(wide))
	}
	c.el("path", "d", staves, "class", "stave")
	x := func(k int) float64 { return math.Round(16 + step*float64(k)) }
	threads, behind := "", ""
	for k := 1; k < shown; k++ {
		a, b := l.Notes[cols[k-1][0]], l.Notes[cols[k][0]]
		x1, y1, x2, y2 := x(k-1), y(a.String), x(k), y(b.String)
		threads += fmt.Sprintf("M%.0f %.0fL%.0f %.0f", x1+(x2-x1)*0.38, y1+(y2-y1)*0.38, x1+(x2-x1)*0.62,
			y1+(y2-y1)*0.62)
	}
	c.el("path", "d", threads, "class", "thread")
	var figures canvas
	for k := range shown {
		for i := cols[k][0]; i < cols[k][1]; i++ {
			f := fretSign(l.Notes[i].Fret, l.Notes[i].Mute, l.Notes[i].Ghost)
			w := 4 + 9.5*float64(utf8.RuneCountInString(f))
			behind += fmt.Sprintf("M%.0f %.0fh%.0fv16h-%.0fz", x(k)-w/2, y(l.Notes[i].String)-8, w, w)
			at := []any{"x", x(k), "y", math.Round(y(l.Notes[i].String) + 6)}
			if slices.Contains(bottleneck, i+1) {
				at = append(at, "class", classed("neck-of-it", breaks, "breaks"))
			}
			figures.open("text", at...)
			figures.WriteString(f)
			figures.close("text")
		}
	}
	c.el("path", "d", behind, "class", "behind")
	c.open("g", "class", "small")
	c.WriteString(figures.String())
	c.close("g")
	if len(cols) > shown {
		c.text(rowWidth-2, rowHeight/2+5, "more", fmt.Sprintf("+%d", len(cols)-shown))
	}
	return c.svg(rowWidth, rowHeight, "row-line", fmt.Sprintf("The first %d of %d columns", shown, len(cols)))
}

// BarSVG draws clean against wanted: filled up to the ceiling, hatched where it is tight, a mark at the wanted tempo
// and a dashed one at the best possible. All on one scale, of which the largest of them takes nine tenths. Clean ends
// at 85 % of the ceiling, where a load is tight; a best of 0 has no mark.
func BarSVG(ceiling, tempo, best float64, w float64) template.HTML {
	var c canvas
	const h = 26.0
	scale := w / (1.12 * max(ceiling, tempo, best, 1))
	c.rect(0, 7, w, 12, "track", "rx", 6.0)
	label := "No tempo is clean"
	if ceiling > 0 {
		clean := ceiling * 0.85 * scale
		c.rect(0, 7, ceiling*scale, 12, "tightbar", "rx", 6.0, "fill", "url(#hatch)")
		c.rect(0, 7, clean, 12, "cleanbar", "rx", 6.0)
		c.rect(clean-6, 7, 6, 12, "cleanbar")
		label = fmt.Sprintf("Clean up to %.0f, wanted %.0f", ceiling, tempo)
	}
	if best > 0 {
		c.line(best*scale, 2, best*scale, 24, "bestmark")
		label += fmt.Sprintf(", best possible %.0f", best)
	}
	c.line(tempo*scale, 1, tempo*scale, 25, "wantmark")
	return c.svg(w, h, "tempobar", label)
}

// MeterSVG draws a part of a whole as a short bar.
func MeterSVG(part float64, class string) template.HTML {
	var c canvas
	const w, h = 70.0, 14.0
	part = max(0.02, min(1, part))
	c.rect(0, 2, w*part, 10, "meter meter-"+class, "rx", 3.0)
	return c.svg(w, h, "meterbox", fmt.Sprintf("%.0f %%", part*100))
}
