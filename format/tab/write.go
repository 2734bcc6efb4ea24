package tab

import (
	"bytes"
	"cmp"
	"fmt"
	"slices"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/text"
)

// pageWidth is where a system is broken into a new one, in characters.
const pageWidth = 92

// Encode writes the lick as text tab. Decode reads it back as it was. Two licks with the same text are the same lick.
func Encode(l lick.Lick) []byte {
	var b bytes.Buffer
	header(&b, l)
	cols := columnsOf(l)
	labels := rowLabels(l)
	for start := 0; start < len(cols); {
		width, end := 0, start
		for end < len(cols) && (end == start || width+cols[end].width() <= pageWidth) {
			width += cols[end].width()
			end++
		}
		b.WriteByte('\n')
		writeSystem(&b, l, labels, cols[start:end])
		start = end
	}
	noteLines(&b, l)
	return b.Bytes()
}

// header writes what stands above the strings, each as "name: value": title, tags, key, chords,
// tempo, meter, feel, tuning, recipe. What is as usual (no pick-up, no loop) is left out. Text
// that could be taken for something else is quoted.
func header(b *bytes.Buffer, l lick.Lick) {
	fmt.Fprintf(b, "Title: %s\n", quoted(l.Title))
	for _, t := range l.Tags {
		fmt.Fprintf(b, "Tag: %s\n", quoted(t))
	}
	if l.Key.Tonic != "" {
		fmt.Fprintf(b, "Key: %s %s\n", l.Key.Tonic, l.Key.Scale)
		if len(l.Key.Add) > 0 {
			fmt.Fprintf(b, "Added: %s\n", strings.Join(l.Key.Add, " "))
		}
		if len(l.Key.Drop) > 0 {
			fmt.Fprintf(b, "Dropped: %s\n", strings.Join(l.Key.Drop, " "))
		}
	}
	for _, k := range l.Keys {
		fmt.Fprintf(b, "Key from %s: %s %s", k.At, k.Key.Tonic, k.Key.Scale)
		if len(k.Key.Add) > 0 {
			fmt.Fprintf(b, "; added %s", strings.Join(k.Key.Add, " "))
		}
		if len(k.Key.Drop) > 0 {
			fmt.Fprintf(b, "; dropped %s", strings.Join(k.Key.Drop, " "))
		}
		b.WriteByte('\n')
	}
	for _, c := range l.Chords {
		fmt.Fprintf(b, "Chord: %s %s %s\n", c.At, c.Len, quoted(c.Name))
	}
	fmt.Fprintf(b, "Tempo: %g\nMeter: %s\nFeel: %s\n", l.Tempo, l.Meter, l.Feel)
	if !l.Pickup.IsZero() {
		fmt.Fprintf(b, "Pick-up: %s\n", l.Pickup)
	}
	if l.Loop {
		b.WriteString("Loop: yes\n")
	}
	fmt.Fprintf(b, "Tuning: %s\n", neck.TuningText(l.Tuning))
	if l.Recipe != "" {
		fmt.Fprintf(b, "Recipe: %s\n", quoted(l.Recipe))
	}
	for _, p := range l.Parts {
		fmt.Fprintf(b, "Part %d-%d: %s\n", p.From+1, p.To, quoted(p.Recipe))
	}
}

// column is one time of the line as text: a cell a string, and the rows around them. bar counts two characters more,
// for the line and what fills up after it.
type column struct {
	cells                      map[int]string
	count, finger, stroke, len string
	bar                        bool // a bar line stands before it
}

// width is how many characters the column takes. One more than the widest value, so that two never touch.
func (c column) width() int {
	w := max(len(c.count), len(c.finger), len(c.stroke), len(c.len))
	for _, s := range c.cells {
		w = max(w, len(s))
	}
	if c.bar {
		w += 2
	}
	return w + 1
}

// columnsOf writes every column's cells, without their places on the page. The length row says
// only what the reader could not tell: a column's length, after @ the time up to the next
// column where that is another one, and before _ the time at which the first begins.
//
// As an example, a column of an eighth note at 3/16 with a sixteenth of rest after it says "3/16_1/8@3/16".
func columnsOf(l lick.Lick) []column {
	var out []column
	cols := l.Columns()
	lastBar := int64(-1)
	for k, col := range cols {
		c := column{cells: map[int]string{}}
		at := l.Notes[col[0]].At
		pos := l.Position(at)
		c.count, c.bar = pos.Count(l.Meter), k > 0 && pos.Bar != lastBar
		lastBar = pos.Bar
		var fingers, strokes, lens []string
		for i := col[0]; i < col[1]; i++ {
			n := l.Notes[i]
			c.cells[n.String] = cell(l, i)
			fingers, strokes = append(fingers, cmp.Or(n.Finger.String(), ".")),
				append(strokes, cmp.Or(strokeSign[n.Stroke], "."))
			lens = append(lens, n.Len.String())
		}
		c.finger, c.stroke, c.len = join(fingers), join(strokes), join(lens)
		step := l.Notes[col[0]].Len
		if k+1 < len(cols) {
			step = l.Notes[cols[k+1][0]].At.Sub(at)
		}
		if c.len != step.String() {
			c.len += "@" + step.String()
		}
		if k == 0 && !at.IsZero() {
			c.len = at.String() + "_" + c.len
		}
		out = append(out, c)
	}
	return out
}

// join writes a chord's values with commas, or once where they agree.
func join(values []string) string {
	if len(slices.Compact(slices.Clone(values))) == 1 {
		return values[0]
	}
	return strings.Join(values, ",")
}

// strokeSign are the strokes as the row under the tab has them.
var strokeSign = map[lick.Stroke]string{lick.Down: "D", lick.Up: "U", lick.PThumb: "p", lick.PIndex: "i",
	lick.PMid: "m", lick.PRing: "a"}

// slurSign are the slurs that stand before a fret; a slide is written by its direction.
var slurSign = map[lick.Slur]string{lick.Hammer: "h", lick.Pull: "p", lick.Shift: "S"}

// cell writes one note as it stands on its string: what leads into it, the fret, the bend and the marks after. As in
// "h12" a hammer-on, "/9" a slide up, "10b12r10~~" bent a full step, released, with a wide vibrato (common practice,
// but for S, a silent shift, and bc, a curl). What has no sign stands in a line of the note's own below.
func cell(l lick.Lick, i int) string {
	n := l.Notes[i]
	s := slurSign[n.Slur]
	if n.Slur == lick.Slide {
		s = "/"
		if j := l.Before(i); j >= 0 && l.Notes[j].Fret > n.Fret {
			s = `\`
		}
	}
	if n.Mute {
		s += "x"
	}
	if fret := fmt.Sprint(n.Fret); n.Ghost && !n.Mute {
		s += "(" + fret + ")"
	} else {
		s += fret
	}
	if b := n.Bend; b != nil {
		if b.Pre() {
			s += "p"
		}
		if b.Semitones < 1 {
			s += "bc"
		} else {
			s += fmt.Sprintf("b%d", n.Fret+int(b.Semitones))
		}
		if b.Release() {
			s += fmt.Sprintf("r%d", n.Fret)
		}
	}
	if v := n.Vibrato; v != nil {
		s += "~"
		if v.Width == lick.Wide {
			s += "~"
		}
	}
	if n.Accent {
		s += ">"
	}
	return s
}

// rowLabels names the string lines; all labels of a system have one width.
func rowLabels(l lick.Lick) []string {
	return text.Map(l.Tuning, func(p music.Pitch) string { return music.NameOf(p.Class()).String() })
}

// labelWidth is how many characters stand before the first bar line of a row.
const labelWidth = 7

// writeSystem writes some columns as one block: counts, strings, fingers, strokes, lengths. All
// rows pad a column to its widest value, so that a value can be found by the column alone.
func writeSystem(b *bytes.Buffer, l lick.Lick, labels []string, cols []column) {
	row := func(name string, sep, fill string, text func(c column) string) {
		var r strings.Builder
		fmt.Fprintf(&r, "%*s%s", labelWidth-1, name, sep)
		for _, c := range cols {
			if c.bar {
				r.WriteString(sep + fill)
			}
			s := text(c)
			w := c.width()
			if c.bar {
				w -= 2
			}
			r.WriteString(s + strings.Repeat(fill, w-len(s)))
		}
		b.WriteString(strings.TrimRight(r.String(), " "))
		if sep == "|" {
			b.WriteString("|")
		}
		b.WriteByte('\n')
	}
	row("count", " ", " ", func(c column) string { return c.count })
	for s := range l.Tuning {
		row(labels[s], "|", "-", func(c column) string { return c.cells[s+1] })
	}
	row("finger", " ", " ", func(c column) string { return c.finger })
	row("stroke", " ", " ", func(c column) string { return c.stroke })
	row("length", " ", " ", func(c column) string { return c.len })
}
