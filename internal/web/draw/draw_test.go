package draw

import (
	"encoding/xml"
	"html/template"
	"io"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"ornamen/core/hand"
	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/player"
	"ornamen/core/testline"
)

// drawing is an SVG read back: its elements with their attributes and text.
type drawing []element

type element struct {
	name, text string
	attr       map[string]string
}

// parse reads a drawing; one that is not well-formed fails the test.
func parse(t *testing.T, h template.HTML) drawing {
	t.Helper()
	dec := xml.NewDecoder(strings.NewReader(string(h)))
	var out drawing
	for {
		tok, err := dec.Token()
		if err == io.EOF {
			return out
		}
		if err != nil {
			t.Fatalf("not well-formed: %v\n%s", err, h)
		}
		switch tok := tok.(type) {
		case xml.StartElement:
			e := element{name: tok.Name.Local, attr: map[string]string{}}
			for _, a := range tok.Attr {
				e.attr[a.Name.Local] = a.Value
			}
			out = append(out, e)
		case xml.CharData:
			if len(out) > 0 {
				out[len(out)-1].text += string(tok)
			}
		}
	}
}

// class lists the elements of a class.
func (d drawing) class(name string) (out drawing) {
	for _, e := range d {
		for _, c := range strings.Fields(e.attr["class"]) {
			if c == name {
				out = append(out, e)
				break
			}
		}
	}
	return out
}

func (d drawing) texts() string {
	var s []string
	for _, e := range d {
		s = append(s, strings.TrimSpace(e.text))
	}
	return strings.Join(s, " ")
}

// labelled says whether the drawing tells a screen reader what it is.
func labelled(t *testing.T, name string, d drawing) {
	t.Helper()
	if len(d) == 0 || d[0].name != "svg" || d[0].attr["role"] != "img" || d[0].attr["aria-label"] == "" {
		t.Errorf("%s has no label for screen readers", name)
	}
}

// report judges a short line: a slide, a pair, a bend and a held note.
func report(t *testing.T) *judge.Report {
	t.Helper()
	l := lick.New()
	step := lick.NewTime(1, 16)
	for i, n := range []lick.Note{{String: 3, Fret: 5}, {String: 3, Fret: 7, Slur: lick.Slide}, {String: 2, Fret: 5},
		{String: 2, Fret: 8, Slur: lick.Hammer}, {
			String: 3,
			Fret:   7,
			Bend:   &lick.Bend{Semitones: 2, Shape: "bend"},
			Accent: true,
		}} {
		n.At, n.Len = step.Times(int64(i)), step
		l.Notes = append(l.Notes, n)
	}
	l.Tempo = 60
	if err := l.Validate(); err != nil {
		t.Fatal(err)
	}
	r, err := judge.NewEngine(player.Default()).Check(t.Context(), l)
	if err != nil {
		t.Fatal(err)
	}
	return r
}

func TestRunDrawing(t *testing.T) {
	r := report(t)
	d := parse(
		t,
		RunSVG(r, []RunCell{
			{From: 0, To: 2, Label: "1"},
			{From: 2, To: 4, Label: "2"},
			{From: 4, To: 5, Label: `<b>"land"</b>`, Last: true},
		},
			[]RunCell{{From: 0, To: 5, Label: "box 1"}}, []string{"E", "B", "G", "D", "A", "E"}),
	)
	labelled(t, "the run", d)
	if got := d.class("bracketname").texts(); got != `1 2 <b>"land"</b>` {
		t.Errorf("brackets are named %q", got)
	}
	if got := d.class("runstring").texts(); got != "B G" {
		t.Errorf("the strings drawn are %q, want only those used", got)
	}
	if got := d.class("small").texts(); got != "5 7 5 8 7" {
		t.Errorf("frets %q", got)
	}
	if got := d.class("handfinger"); len(got) != 5 {
		t.Errorf("%d fingers", len(got))
	}
	if len(d.class("slide")) != 1 || len(d.class("arc")) != 1 || len(d.class("bend")) != 1 ||
		len(d.class("accent")) != 1 {
		t.Error("slide, arc, bend or accent is not drawn")
	}
}

func TestHandsDrawing(t *testing.T) {
	r := report(t)
	other := r.Lick.Clone()
	other.Notes[0].Finger = lick.Little
	d := parse(t, HandsSVG(r.Lick, &other, []int{2}))
	labelled(t, "the hands", d)
	if got := d.class("differs"); len(got) != 1 || strings.TrimSpace(got[0].text) != r.Lick.Notes[0].Finger.String() {
		t.Errorf("what differs: %v", got)
	}
	if got := d.class("neck-of-it").texts(); got != "7" {
		t.Errorf("the bottleneck is %q", got)
	}
	if got := parse(t, HandsSVG(r.Lick, nil, nil)).class("differs"); len(got) != 0 {
		t.Errorf("without another line %d things differ", len(got))
	}
}

// The chart numbers what hand.Span says, never beyond the neck.
func TestReachDrawing(t *testing.T) {
	g, h := neck.Standard(), hand.Medium()
	d := parse(t, ReachSVG(Neck{Guitar: g, To: g.Frets, Width: 1232}, h))
	labelled(t, "the reach", d)
	eases, fretsOf := d.class("reachease"), d.class("reachfret")
	if len(eases) != g.Frets || len(fretsOf) != g.Frets {
		t.Fatalf("%d frets drawn", len(eases))
	}
	if eases[0].text != "4" || eases[g.Frets-1].text != "1" {
		t.Errorf("at the first fret %s, at the last %s", eases[0].text, eases[g.Frets-1].text)
	}
	left := parse(t, ReachSVG(Neck{Guitar: g, To: g.Frets, Width: 1232, LeftHanded: true}, h)).class("reachfret")
	if left[0].attr["x"] == fretsOf[0].attr["x"] {
		t.Error("a left-handed chart stands the same way round")
	}
}

// The neck is true to scale: the frets lie where the luthiers' rule puts them.
func TestNeckIsToScale(t *testing.T) {
	g := neck.Standard()
	d := parse(
		t,
		NeckSVG(Neck{Guitar: g, From: 0, To: 13, Marks: []Mark{
			{Place: neck.Place{String: 3, Fret: 7}, Label: "4", Notes: []int{1}},
			{Place: neck.Place{String: 2, Fret: 5}, Label: "1", Role: music.Root},
			{Place: neck.Place{String: 1, Fret: 5}, Label: "9", Role: music.Colour},
			{Place: neck.Place{String: 1, Fret: 6}, Label: "b2", Role: music.Outside, Notes: []int{2}},
		}}),
	)
	labelled(t, "the neck", d)
	if len(d.class("plain")) != 3 || len(d.class("wound")) != 3 {
		t.Error("strings are not drawn by their gauges")
	}
	var xs []float64
	for _, e := range d.class("wire") {
		x, _ := xmlFloat(e.attr["x1"])
		if x == 0 {
			x, _ = xmlFloat(e.attr["x"])
		}
		xs = append(xs, x)
	}
	if len(xs) < 12 {
		t.Fatalf("%d frets drawn", len(xs))
	}
	first, seventh, twelfth := xs[0], xs[6], xs[11]
	if first > twelfth {
		first, seventh, twelfth = xs[11], xs[5], xs[0]
	}
	want := float64((g.FretX(7) - g.FretX(1)) / (g.FretX(12) - g.FretX(1)))
	if got := (seventh - first) / (twelfth - first); got < want-0.01 || got > want+0.01 {
		t.Errorf("fret 7 lies at %.3f of the way from fret 1 to 12, want %.3f", got, want)
	}
	for _, role := range []string{"root", "colour", "outside"} {
		if len(d.class(role)) == 0 {
			t.Errorf("no mark shows the role %s", role)
		}
	}
}

func xmlFloat(s string) (float64, error) {
	var f float64
	err := xml.Unmarshal([]byte("<x>"+s+"</x>"), &f)
	return f, err
}

// Everything a player may type comes out as text, never as markup.
func TestDrawingsEscape(t *testing.T) {
	evil := `"><script>alert(1)</script>`
	g := neck.Standard()
	for name, h := range map[string]template.HTML{
		"neck": NeckSVG(Neck{Guitar: g, To: 12, Label: evil, Marks: []Mark{{
			Place: neck.Place{String: 1, Fret: 5},
			Label: evil,
			Notes: []int{1},
		}}}),
		"ledger": LedgerSVG(Ledger{Strings: []string{evil, "B"}, Columns: []Column{{
			Count:   evil,
			Length:  evil,
			RestFor: evil,
			Cells: []Cell{{
				Number:   1,
				String:   1,
				Fret:     5,
				Degree:   evil,
				Finger:   evil,
				BendTo:   evil,
				SlurFrom: -1,
				Bend:     &lick.Bend{Semitones: 2, Shape: "bend"},
			}},
		}}}),
		"names": NamesSVG(Ledger{Strings: []string{evil, "B"}}),
		"force": ForceSVG(Neck{Guitar: g, To: 12, Area: [2]int{3, 6}}, []neck.Newtons{20, 18, 16, 14}, evil),
		"bar":   BarSVG(100, 120, 140, 158),
		"meter": MeterSVG(0.5, evil),
	} {
		d := parse(t, h)
		labelled(t, name, d)
		for _, e := range d {
			if e.name == "script" {
				t.Errorf("%s lets markup through", name)
			}
		}
	}
}

// The bar shows clean, wanted and best possible where they lie.
func TestBarOrder(t *testing.T) {
	d := parse(t, BarSVG(100, 120, 140, 200))
	want, _ := xmlFloat(d.class("wantmark")[0].attr["x1"])
	best, _ := xmlFloat(d.class("bestmark")[0].attr["x1"])
	clean, _ := xmlFloat(d.class("tightbar")[0].attr["width"])
	if !(clean < want && want < best && best < 200) {
		t.Errorf("clean ends at %v, wanted at %v, best at %v", clean, want, best)
	}
	if len(parse(t, BarSVG(0, 120, 0, 200)).class("bestmark")) != 0 {
		t.Error("a best possible is drawn where there is none")
	}
}

// A lane for every fact, and for every string.
func TestLanes(t *testing.T) {
	lanes := Lanes(7)
	places, y := 0, 0.0
	if c := lanes[len(lanes)-1]; c.Name != "chord" || c.Y != 0 || c.H > lanes[0].Y {
		t.Errorf("the chords lie at %v over %v", c, lanes[0])
	}
	for _, l := range lanes[:len(lanes)-1] {
		if l.Name == "place" {
			places++
		}
		if l.Y < y || l.H <= 0 {
			t.Errorf("lane %s lies at %v with height %v", l.Name, l.Y, l.H)
		}
		y = l.Y
	}
	if places != 7 {
		t.Errorf("%d strings", places)
	}
}

// Palm muting begins with its sign and goes on as a line; ghost and dead notes have theirs in every drawing of a line.
func TestSignsOfTouch(t *testing.T) {
	l := testline.Build(t, 100, "6:0 0 0 3:7 5:3")
	l.Notes[0].Palm, l.Notes[1].Palm, l.Notes[2].Palm = true, true, true
	l.Notes[3].Ghost, l.Notes[4].Mute = true, true
	hands := string(StandSVG(l, nil, 1))
	if strings.Count(hands, ">PM<") != 1 || strings.Count(hands, "palmline") != 2 {
		t.Errorf("palm muting is drawn as %s", hands)
	}
	for name, svg := range map[string]string{"hands": hands, "row": string(LineSVG(l, nil, false))} {
		if !strings.Contains(svg, "(7)") || !strings.Contains(svg, "×") {
			t.Errorf("%s: %s", name, svg)
		}
	}
}

// On the neck a slide runs along its string, up or down, and a bend goes up beside its note and down again where it is
// let down.
func TestNeckShowsSlidesAndReleases(t *testing.T) {
	at := func(from, to int) string {
		p := neck.Place{String: 3, Fret: from}
		return string(NeckSVG(Neck{
			Guitar: neck.Standard(),
			From:   1,
			To:     15,
			Select: &Selection{Place: neck.Place{String: 3, Fret: to}, From: p, HasFrom: true, SlideFrom: &p},
		}))
	}
	head := regexp.MustCompile(`class="neckslidehead" d="M([\d.]+) ([\d.]+)L([\d.]+) `)
	for _, c := range []struct {
		from, to int
		rises    bool
	}{{5, 9, true}, {12, 7, false}} {
		m := head.FindStringSubmatch(at(c.from, c.to))
		if m == nil {
			t.Errorf("%d to %d: no slide is drawn", c.from, c.to)
			continue
		}
		tip, _ := strconv.ParseFloat(m[1], 64)
		base, _ := strconv.ParseFloat(m[3], 64)
		if (tip > base) != c.rises {
			t.Errorf("%d to %d: the head points from %g to %g", c.from, c.to, base, tip)
		}
		if strings.Contains(at(c.from, c.to), `class="way"`) {
			t.Error("a slide is drawn as a jump too")
		}
	}
	bent := func(release bool) int {
		return strings.Count(string(NeckSVG(Neck{
			Guitar: neck.Standard(),
			From:   1,
			To:     15,
			Select: &Selection{
				Place:   neck.Place{String: 2, Fret: 8},
				Bent:    true,
				Release: release,
			},
		})), `class="neckbendhead"`)
	}
	if bent(false) != 1 || bent(true) != 2 {
		t.Errorf("%d heads of a bend, %d of one with a release", bent(false), bent(true))
	}
}
