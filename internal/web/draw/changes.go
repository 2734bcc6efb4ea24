package draw

import (
	"cmp"
	"fmt"
	"html/template"
	"strings"

	"ornamen/core/changes"
	"ornamen/core/lick"
	"ornamen/core/music"
)

// Sizes of a bar of the changes.
const (
	changesWide  = 908.0
	changesGap   = 6.0
	changesHead  = 28.0 // the chords above a bar
	changesBar   = 122.0
	changesBelow = 14.0
	changesInset = 18.0 // of a bar, kept free at its end for the mark of its last note
	denseColumns = 9    // of a bar: from here on two bars make a row
)

// ChangesView is a line in its bars, for the drawing. Link gives the address that points at a chord.
type ChangesView struct {
	Lick   lick.Lick
	Report changes.Report
	Chosen int // the chord that is pointed at, −1 for none
	Link   func(chord int) string
}

// landingMarks are the signs of the landings: a shape and a word each, not colour alone.
var landingMarks = map[changes.Word]string{
	changes.OnTime: "▾", changes.Pushed: "◃", changes.Early: "◂", changes.Late: "▸", changes.Missed: "○",
	changes.Rest: "",
}

// ChangesSVG draws the bars in rows of four or as many as there are, of two where they are dense: chords above, in each
// bar the notes as degrees over their chord, the higher the higher, and at each change how the line lands there.
//
// The height of a bar is the range of the whole line, so that contours of different bars can be compared. Notes carry
// their number and their chord for the script, which answers a pointer with what the tone is there.
func ChangesSVG(v ChangesView) template.HTML {
	var c canvas
	b := barsOf(v)
	wide := (changesWide - changesGap*float64(b.row-1)) / float64(b.row)
	high := changesHead + changesBar + changesBelow
	for k := range b.count {
		x, y := float64(k%b.row)*(wide+changesGap), float64(k/b.row)*high
		b.draw(&c, k, x, y, wide)
	}
	rows := (b.count + b.row - 1) / b.row
	return c.svg(changesWide, high*float64(rows), "changes", fmt.Sprintf("%d bars of changes", b.count),
		"width", changesWide, "height", high*float64(rows))
}

// bars is a line cut into bars: bar 0 is the pick-up where there is one.
type bars struct {
	v          ChangesView
	first      lick.Time // where the first bar that is drawn begins
	count, row int
	low, span  float64
}

// barsOf measures what is drawn. The last bar is the one in which the last note or chord ends. A bass does not count
// for the range, as it has its own row.
func barsOf(v ChangesView) bars {
	l := v.Lick
	b := bars{v: v, row: 4, span: 1}
	bar := l.Meter.Bar()
	if whole, rest := l.Pickup.Div(bar); !l.Pickup.IsZero() {
		if !rest.IsZero() {
			whole++
		}
		b.first = l.Pickup.Sub(bar.Times(whole))
	}
	end := l.End()
	for _, c := range v.Report.Chords {
		end = lick.Later(end, c.End)
	}
	n, rest := end.Sub(b.first).Div(bar)
	if b.count = int(n); !rest.IsZero() || n == 0 {
		b.count++
	}
	b.row = min(b.row, b.count)
	columns := map[int64]int{}
	low, high := 200.0, 0.0
	for i, x := range l.Notes {
		if x.Voice == lick.VoiceBass {
			continue
		}
		k, _ := x.At.Sub(b.first).Div(bar)
		if i == 0 || l.Notes[i-1].At.Cmp(x.At) != 0 {
			columns[k]++
		}
		p := float64(changes.Sounding(l, i))
		low, high = min(low, p), max(high, p)
		if columns[k] >= denseColumns {
			b.row = min(2, b.count)
		}
	}
	b.low, b.span = low, max(1, high-low)
	return b
}

// time is where bar k begins.
func (b bars) time(k int) lick.Time { return b.first.Add(b.v.Lick.Meter.Bar().Times(int64(k))) }

// draw draws bar k.
func (b bars) draw(c *canvas, k int, x, y, wide float64) {
	l := b.v.Lick
	from, to := b.time(k), b.time(k+1)
	bar := l.Meter.Bar().Float()
	inner := wide - changesInset
	at := func(t lick.Time) float64 { return x + inner*(t.Sub(from).Float()/bar) }
	top := y + changesHead
	c.rect(x, top, wide, changesBar, "barbox", "rx", 6)
	for beat := 1; beat < l.Meter.Beats; beat++ {
		bx := x + inner*float64(beat)/float64(l.Meter.Beats)
		c.line(bx, top+8, bx, top+changesBar-22, "beatline")
	}
	for beat := range l.Meter.Beats {
		c.text(x+inner*float64(beat)/float64(l.Meter.Beats)+b.inset(wide), top+changesBar-7, "beatno",
			fmt.Sprint(beat+1))
	}
	number := l.Position(from).Bar
	word := fmt.Sprintf("bar %d", number)
	if number < 1 {
		word = "pick-up"
	}
	c.text(x+wide-6, y+changesHead-8, "barno", word)
	for i, ch := range b.v.Report.Chords {
		begins := !ch.At.Before(from) && ch.At.Before(to)
		if !begins && !(ch.At.Before(from) && from.Before(ch.End)) {
			continue
		}
		class := classed(classed("barchord", !begins, "goes-on"), i == b.v.Chosen, "on")
		c.open("a", "href", b.v.Link(i), "class", class, "data-tones", "", "data-chord", i, "aria-label",
			fmt.Sprintf("%s in bar %d: what fits over it", pretty(ch.Name), number))
		c.text(max(x, at(ch.At))+6, y+changesHead-8, "", pretty(ch.Name))
		c.close("a")
	}
	for i := range l.Notes {
		if n := l.Notes[i]; !n.At.Before(from) && n.At.Before(to) {
			b.note(c, i, at(n.At)+b.inset(wide), top)
		}
	}
	for _, g := range b.v.Report.Landings {
		if ch := b.v.Report.Chords[g.Chord]; !ch.At.Before(from) && ch.At.Before(to) && g.Word != changes.Rest {
			b.landing(c, g, at(ch.At), top)
		}
	}
}

// inset is how far the middle of a mark lies behind its time.
// A mark that stood on its time would be cut by the bar line before it.
func (b bars) inset(wide float64) float64 { return min(16, wide/float64(b.v.Lick.Meter.Beats)/3.2) }

// landing marks how the line arrives at a change. As in "◂ early by ½ beat", at the change that was meant.
func (b bars) landing(c *canvas, g changes.Landing, x, top float64) {
	class := "landing " + strings.ReplaceAll(string(g.Word), " ", "-")
	c.open("g", "class", class)
	c.rect(x-2, top, 4, changesBar, "edge")
	word := landingMarks[g.Word] + " " + string(g.Word)
	if !g.OffBy.IsZero() {
		word += " by " + beatsWord(b.v.Lick, g.OffBy)
	}
	c.text(x+6, top+13, "landword", word)
	c.close("g")
}

// beatsWord is a length in beats: "a beat", "½ beat".
func beatsWord(l lick.Lick, t lick.Time) string {
	if t.Before(lick.Time{}) {
		t = lick.Time{}.Sub(t)
	}
	num, den := t.Times(int64(l.Meter.Unit)).Parts()
	switch {
	case num == 1 && den == 1:
		return "a beat"
	case den == 1:
		return fmt.Sprintf("%d beats", num)
	case num == 1 && den == 2:
		return "½ beat"
	case den == 2 && num > 2:
		return fmt.Sprintf("%d½ beats", num/2)
	}
	return fmt.Sprintf("%d/%d beat", num, den)
}

// note draws a note by its role: a root has a ring, a third and a fifth are discs, a seventh is a dashed disc, a colour
// a full lozenge, a tension an open one, a clash a triangle, a tone outside a square. The bass is small, at the foot.
// The height is the pitch as it sounds, bent ones where they arrive.
func (b bars) note(c *canvas, i int, x, top float64) {
	l, n := b.v.Lick, b.v.Report.Notes[i]
	y := top + 34 + (changesBar-34-44)*(1-(float64(changes.Sounding(l, i))-b.low)/b.span)
	r := 11.0
	if l.Notes[i].Voice == lick.VoiceBass {
		y, r = top+changesBar-30, 7
	}
	role, label := cmp.Or(string(n.Role), "none"), ""
	if n.Chord >= 0 && n.Role != "" {
		label = n.Degree.Pretty()
	} else if p, ok := l.PaletteAt(l.Notes[i].At); ok {
		label = p.At(l.Pitch(i)).Degree.Pretty()
	}
	c.open("g", "class", "over "+role, "data-note", i+1, "data-over", n.Chord)
	c.title(fmt.Sprintf("note %d, %s: %s", i+1, music.NameOf(l.Pitch(i).Class()).Pretty(), role))
	switch n.Role {
	case changes.Colour, changes.Tension:
		c.path("mark", "M%s %sl%s %sl-%s %sl-%s -%sz", x, y-r-2, r+3, r+2, r+3, r+2, r+3, r+2)
	case changes.Clash:
		c.path("mark", "M%s %sl%s %sh-%sz", x, y-r-3, r+4, 2*r+2, 2*(r+4))
	case changes.Outside:
		c.rect(x-r, y-r, 2*r, 2*r, "mark")
	default:
		c.circle("mark", x, y, r)
		if n.Role == changes.Root {
			c.circle("ring", x, y, r-3)
		}
	}
	if r > 8 {
		c.text(x, y+4.5, "deg", label)
	}
	c.close("g")
}

// pretty writes a chord's sign with real accidentals.
func pretty(s string) string {
	return strings.NewReplacer("#", "♯", "b", "♭").Replace(s)
}
