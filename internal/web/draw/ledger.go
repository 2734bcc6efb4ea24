package draw

import (
	"cmp"
	"fmt"
	"html/template"
	"strconv"
	"unicode/utf8"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/text"
)

// Cell is one note of a ledger column: what is set and what is proposed, told apart. The drawing tells three states
// apart without colour: what the player locked (bold, a dot), what is proposed (light), what is missing (a middle dot).
type Cell struct {
	Number                       int // from 1
	String, Fret                 int
	Degree                       string
	Role                         music.Role
	Finger                       string
	FingerLocked, FingerProposed bool
	Stroke                       lick.Stroke
	StrokeLocked, StrokeProposed bool
	Slur                         lick.Slur
	SlurFrom                     int // column the slur comes from, −1 if none
	Bend                         *lick.Bend
	BendTo                       string
	Vibrato, Mute, Accent, Barre bool
	Palm, Ghost                  bool
	SlideIn                      string
	Severity                     judge.Severity
	Load                         float64
	Have                         float64
	Possible                     bool
	Shares                       []judge.Share // of the load, in ms
}

// Column is one time of the line. Columns have one width whatever their time: the ledger is read like a page of facts,
// and the times stand in its head.
type Column struct {
	Count    string
	Length   string // shown where it differs from the column before
	BarStart bool
	Beat     bool
	Chord    string // that begins here
	RestFor  string // a rest of this length lies before it
	Cells    []Cell // thick strings first
}

// Ledger is what the ledger shows. Slices of names and lanes count from the thinnest string.
type Ledger struct {
	Strings []string // names, thin first
	Columns []Column
	Barres  []judge.Barre
	Boxes   []RunCell // columns [From, To) with the box in which they lie, under the lanes; none leaves them out
	Have    float64   // ms that most moves have, 0 when they differ
	Next    string    // length of the next note
	Ahead   []string  // counts of the columns that are left to write in
}

// boxHeight is the room under the lanes for the names of boxes.
const boxHeight = 26.0

// height is how far the drawing reaches down.
func (l Ledger) height() float64 {
	h := height(l.lanes())
	if len(l.Boxes) > 0 {
		h += boxHeight
	}
	return h
}

// namesWidth is the width of the fixed lane names.
const namesWidth = 84.0

// NamesSVG draws the lane names, which stay while the columns scroll.
// It has the ledger's height, lane by lane, and the time that most moves have beside the loads.
func NamesSVG(l Ledger) template.HTML {
	var c canvas
	lanes := l.lanes()
	for _, ln := range lanes {
		mid := ln.Y + ln.H/2
		switch {
		case ln.String > 0:
			c.text(namesWidth-8, mid+5, "stringname", l.Strings[ln.String-1])
			if ln.String == 1 {
				c.text(2, lanes[1].Y+float64(len(l.Strings))*stringHeight/2+5, "lanename", "Place")
			}
		case ln.Name == "load":
			c.text(2, ln.Y+ln.H-12, "lanename", ln.Title)
			if l.Have > 0 {
				c.text(namesWidth-8, fullY(ln)+5, "have", fmt.Sprintf("%.0f ms", l.Have))
			}
		default:
			c.text(2, mid+5, "lanename", ln.Title)
		}
		if ln.String <= 1 && ln.Y > 0 {
			c.line(0, ln.Y, namesWidth, ln.Y, "rule")
		}
	}
	if len(l.Boxes) > 0 {
		c.text(2, height(lanes)+18, "lanename", "Box")
	}
	return c.svg(namesWidth, l.height(), "names", "Lanes", "width", namesWidth, "height", l.height())
}

// columnWidth is how wide a column of the line is: wider than usual where more than two notes sound together,
// as their values stand side by side.
func (l Ledger) columnWidth() float64 {
	wide := ColumnWidth
	for _, col := range l.Columns {
		wide = max(wide, valueWidth*float64(len(col.Cells)))
	}
	return wide
}

// fullY is the height at which a load fills the time there is.
func fullY(load Lane) float64 { return load.Y + 26 }

// LedgerSVG draws the columns, one more than there are: the empty one takes the next note. The attributes data-lanes,
// data-columns and data-width tell the script where a click or an arrow lands: "name:string:y:height" of every lane,
// and "number.string" of every note of a column.
func LedgerSVG(l Ledger) template.HTML {
	c := canvas{wide: l.columnWidth()}
	lanes := l.lanes()
	w, h := c.wide*float64(len(l.Columns)+max(1, len(l.Ahead))), height(lanes)
	for _, b := range l.Boxes {
		from, to := float64(b.From)*c.wide+6, float64(b.To)*c.wide-6
		c.boxSpan(from, to, h+6, b.Label)
	}
	c.grid(l, lanes, w, h)
	for _, b := range l.Barres {
		c.barre(lanes, b)
	}
	for k := range l.Columns {
		c.column(l, lanes, k)
	}
	lane := func(ln Lane) string { return fmt.Sprintf("%s:%d:%s:%s", ln.Name, ln.String, num(ln.Y), num(ln.H)) }
	cell := func(c Cell) string { return fmt.Sprintf("%d.%d", c.Number, c.String) }
	column := func(c Column) string { return text.Join(c.Cells, "+", cell) }
	chord := len(lanes) - 1 // stands on top
	return c.svg(w, l.height(), "ledger", fmt.Sprintf("The ledger: %d columns", len(l.Columns)), "width", w,
		"height", l.height(), "data-lanes", lane(lanes[chord])+" "+text.Join(lanes[:chord], " ", lane),
		"data-columns", text.Join(l.Columns, " ", column), "data-width", c.wide)
}

// grid draws what lies behind the notes: lanes, strings, beats and bars.
// The line across the loads is where a load fills the time there is.
func (c *canvas) grid(l Ledger, lanes []Lane, w, h float64) {
	for _, ln := range lanes {
		switch {
		case ln.String > 0:
			c.line(0, ln.Y+ln.H/2, w, ln.Y+ln.H/2, "stave")
			if ln.String == 1 {
				c.line(0, ln.Y, w, ln.Y, "rule")
			}
		case ln.Y > 0:
			c.line(0, ln.Y, w, ln.Y, "rule")
		}
		if ln.Name == "load" && len(l.Columns) > 0 {
			c.line(0, fullY(ln), c.wide*float64(len(l.Columns)), fullY(ln), "full")
		}
	}
	for k, col := range l.Columns {
		x := float64(k) * c.wide
		if k > 0 && col.BarStart {
			c.line(x, 0, x, h, "barline")
		} else if k > 0 && col.Beat {
			c.line(x, 0, x, h, "beatline")
		}
	}
	for k, count := range l.Ahead {
		x := c.wide * float64(len(l.Columns)+k)
		if k > 0 {
			c.line(x, 0, x, h, "beatline")
		}
		c.text(x+c.wide/2, lanes[0].Y+31, "count ahead", count)
	}
	x := c.wide * (float64(len(l.Columns)) + 0.5)
	c.text(x, lanes[0].Y+48, "length", l.Next)
	c.text(x, lanes[1].Y+float64(len(l.Strings))*stringHeight/2+8, "next", "+")
}

// column draws one column: its count, its notes, its load.
// The group names its notes, so that the page can light a column while it sounds.
func (c *canvas) column(l Ledger, lanes []Lane, k int) {
	col := l.Columns[k]
	x := (float64(k) + 0.5) * c.wide
	c.text(x, lanes[0].Y+12, "number", numbersOf(col.Cells))
	c.text(x, lanes[0].Y+31, classed("count", col.Beat, "onbeat"), col.Count)
	if col.Chord != "" {
		c.text(x-c.wide/2+5, 16, "chordname", pretty(col.Chord))
	}
	if col.Length != "" {
		c.text(x, lanes[0].Y+48, "length", col.Length)
	}
	if col.RestFor != "" {
		c.text(x-c.wide/2, lanes[0].Y+48, "length", "rest")
	}
	lane := map[string]Lane{}
	for _, ln := range lanes {
		if ln.String == 0 {
			lane[ln.Name] = ln
		}
	}
	c.open("g", "class", "col", "data-notes",
		text.Join(col.Cells, " ", func(c Cell) string { return strconv.Itoa(c.Number) }))
	for i, cell := range col.Cells {
		c.place(lanes[cell.String], k, x, cell)
		// Values of notes that sound together stand side by side.
		dx := x + (float64(i)-float64(len(col.Cells)-1)/2)*min(valueWidth, c.wide/float64(len(col.Cells)))
		c.degree(dx, mid(lane["degree"]), cell, len(col.Cells) > 1)
		c.value(dx, mid(lane["finger"]), cell.Finger, cell.FingerLocked, cell.FingerProposed)
		c.strokeSign(dx, mid(lane["stroke"]), cell)
		c.slurWord(dx, mid(lane["slur"]), cell)
		c.bendWord(dx, mid(lane["bend"]), cell)
	}
	c.load(lane["load"], x, col.Cells)
	c.close("g")
}

// numbersOf are the numbers of a column's notes: "7", or "7–9" where notes sound together.
func numbersOf(cells []Cell) string {
	if len(cells) == 0 {
		return ""
	}
	first, last := cells[0].Number, cells[0].Number
	for _, c := range cells {
		first, last = min(first, c.Number), max(last, c.Number)
	}
	if first == last {
		return strconv.Itoa(first)
	}
	return fmt.Sprintf("%d–%d", first, last)
}

// barre draws how long a finger lies flat: a bracket under the finger lane, and where it lies across its strings. It
// lasts from the first column that the finger holds flat to the last one, notes of other fingers between.
func (c *canvas) barre(lanes []Lane, b judge.Barre) {
	from, to := (float64(b.First)+0.5)*c.wide-17, (float64(b.Last)+0.5)*c.wide+17
	for _, ln := range lanes {
		if ln.Name == "finger" {
			y := ln.Y + ln.H - 3
			c.path("barre", "M%s %sv3H%sv-3", from, y-3, to)
		}
	}
	thin, thick := lanes[b.Thin], lanes[b.Thick]
	c.open("g", "class", "barrespan")
	c.title(fmt.Sprintf("Finger %s lies flat at fret %d, strings %d to %d", b.Finger, b.Fret, b.Thick, b.Thin))
	c.rect(from+3, mid(thin)-9, to-from-6, mid(thick)-mid(thin)+18, "flat", "rx", 8.0)
	c.close("g")
}

// mid is the middle of a lane.
func mid(l Lane) float64 { return l.Y + l.H/2 }

// place draws what one note has in one lane. A slur is drawn from the column that it comes from: an arc for hammer-on
// and pull-off, a line for a slide, dashed where the shift is silent (common practice).
func (c *canvas) place(ln Lane, k int, x float64, cell Cell) {
	y := mid(ln)
	fret := fretSign(cell.Fret, cell.Mute, cell.Ghost)
	w := 12.0 + 9*float64(utf8.RuneCountInString(fret))
	c.rect(x-w/2, y-9, w, 18, "behind")
	c.text(x, y+6.5, classed("fret "+cell.Severity.String(), cell.Accent, "accent"), fret)
	if cell.Slur != "" && cell.SlurFrom >= 0 && cell.SlurFrom < k {
		x0 := (float64(cell.SlurFrom) + 0.5) * c.wide
		if cell.Slur == lick.Slide || cell.Slur == lick.Shift {
			c.line(x0+13, y, x-13, y, classed("slide", cell.Slur == lick.Shift, "silent"))
		} else {
			c.path("arc", "M%s %sQ%s %s %s %s", x0+2, y-9, (x0+x)/2, y-20, x-2, y-9)
		}
	}
	if cell.Bend != nil {
		c.path("bend", "M%s %sq7 0 7 -14m-4 5l4 -6l4 6", x+w/2-1, y+2)
	}
	if cell.Vibrato {
		c.path("vibrato", "M%s %sq3 -5 6 0t6 0t6 0t6 0", x-12, y+12)
	}
}

// degree writes a degree with the sign of its role, smaller where notes that sound together share the column.
func (c *canvas) degree(x, y float64, cell Cell, shared bool) {
	size, class := 14.0, "degree "
	if shared {
		size, class = 11, "degree shared "
	}
	switch cell.Role {
	case music.Colour:
		c.el("path", "class", "lozenge", "d", lozenge(x, y, size))
	case music.Outside:
		if cell.Degree != "" {
			c.path("triangle", "M%s %sl%s %sh-%sZ", x, y-size-1, size, size*1.7, 2*size)
		}
	case music.Root:
		if cell.Degree != "" {
			c.circle("rootring", x, y, size-2)
		}
	}
	c.text(x, y+6, class+cell.Role.String(), cell.Degree)
}

// value is bold with a dot where the player set it, lighter where it is proposed. A value that is missing is a middle
// dot.
func (c *canvas) value(x, y float64, s string, locked, proposed bool) {
	c.text(x, y+6, classed(classed("value", proposed, "proposed"), locked, "locked"), cmp.Or(s, "·"))
	if locked {
		c.circle("lock", x+11, y-7, 2.5)
	}
}

// strokeSign draws how the note is set going. Down is the open box and up the wedge of printed music; a finger of the
// picking hand is its letter, p i m a, and PM is palm muting (common practice).
func (c *canvas) strokeSign(x, y float64, cell Cell) {
	if cell.Palm {
		c.text(x+10, y+5, "palm", "PM")
		x -= 9
	}
	class := classed("stroke", cell.StrokeProposed, "proposed")
	switch cell.Stroke {
	case lick.Down:
		c.path(class, "M%s %sv-12h14v12", x-7, y+6)
	case lick.Up:
		c.path(class, "M%s %sl6 13l6 -13", x-6, y-7)
	case "":
		c.text(x, y+6, "value proposed", "·")
	default:
		c.value(x, y, string(cell.Stroke), false, cell.StrokeProposed)
	}
	if cell.StrokeLocked {
		c.circle("lock", x+12, y-7, 2.5)
	}
}

// slurWords are short enough for a column.
var slurWords = map[lick.Slur]string{lick.Hammer: "ham", lick.Pull: "pull", lick.Slide: "slide", lick.Shift: "shift"}

// slurWord writes what leads into the note.
func (c *canvas) slurWord(x, y float64, cell Cell) {
	w := slurWords[cell.Slur]
	if w == "" && cell.SlideIn != "" {
		w = "in " + map[string]string{"below": "↗", "above": "↘"}[cell.SlideIn]
	}
	if w != "" {
		c.text(x, y+5, "word", w)
	}
}

// bendWord writes bend, vibrato and mute of the note. Two rows: how far, and to which degree. ↓ is a release; a bend
// that is let go is heard to come back.
func (c *canvas) bendWord(x, y float64, cell Cell) {
	switch {
	case cell.Bend != nil:
		w := map[float64]string{0.5: "curl", 1: "half", 2: "full", 3: "1½", 4: "two"}[cell.Bend.Semitones]
		to := ""
		if cell.BendTo != "" {
			to = "→" + cell.BendTo
		}
		if cell.Bend.Release() {
			to += "↓"
		}
		if to == "" {
			c.text(x, y+5, "word bendword", w)
			return
		}
		c.text(x, y-2, "word bendword", w)
		c.text(x, y+13, "word bendword small", to)
	case cell.Vibrato:
		c.text(x, y+5, "word bendword", "vib")
	case cell.Barre:
		c.text(x, y+5, "word", "barre")
	}
}

// Defs are the fills that every drawing of a page shares.
const Defs = template.HTML(`<svg width="0" height="0" class="defs" aria-hidden="true"><defs>
<linearGradient id="ebony" x1="0" y1="0" x2="0" y2="1"><stop offset="0" class="ebony-top"/>
<stop offset="1" class="ebony-end"/></linearGradient>
<pattern id="hatch" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
<rect width="6" height="6" class="hatch-back"/><rect width="3" height="6" class="hatch-line"/></pattern>
</defs></svg>`)
