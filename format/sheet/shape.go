package sheet

import (
	"fmt"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// The drawing of the shape a line is played in.
const (
	shapeFret   = 46 // width of a fret
	shapeString = 22 // between two strings
	shapeLeft   = 60
	shapeTop    = 18
	shapeMost   = 17 // frets that are drawn at most
)

// Shape draws the part of the neck that a lick is played on, with its tones: those that are
// played are dark, the others of the palette light; a root has a ring, a colour note is a
// lozenge, a tone outside a triangle. It is empty for a line without notes.
func Shape(l lick.Lick) []byte {
	if len(l.Notes) == 0 {
		return nil
	}
	s := sheet{lick: l}
	from, to := frets(l)
	wide := shapeLeft + shapeFret*(to-from+1) + 8
	high := shapeTop + shapeString*(len(l.Tuning)-1) + 34
	s.open(wide, high, "The shape")
	stringY := func(str int) float64 { return float64(shapeTop + shapeString*(str-1)) }
	fretX := func(f int) float64 { return float64(shapeLeft + shapeFret*(f-from)) }
	low := stringY(len(l.Tuning))
	for str := range l.Tuning {
		y := stringY(str + 1)
		fmt.Fprintf(&s.b, `<path d="M%d %sH%s" stroke="#8d897f"/>`, shapeLeft, px(y), px(fretX(to+1)))
		s.text(shapeLeft-26, y+4, ` fill="#5f656d" font-size="12"`, l.Tuning[str].String())
	}
	for f := from; f <= to+1; f++ {
		weight := "1"
		if f == 1 {
			weight = "3" // the nut
		}
		fmt.Fprintf(&s.b, `<path d="M%s %dV%s" stroke="#b9b5aa" stroke-width="%s"/>`, px(fretX(f)), shapeTop, px(low),
			weight)
		if f <= to {
			s.text(fretX(f)+shapeFret/2, low+26, ` fill="#5f656d" font-size="12"`, fmt.Sprint(f))
		}
	}
	s.shapeTones(from, to, fretX, stringY)
	s.b.WriteString("</svg>\n")
	return s.b.Bytes()
}

// frets are those that a line uses, with one on each side, no more than fit the page: a line
// that goes further is shown from its lowest fret.
func frets(l lick.Lick) (from, to int) {
	from, to = lick.MaxFret, 0
	for _, n := range l.Notes {
		from, to = min(from, n.Fret), max(to, n.Fret)
	}
	from, to = max(0, from-1), to+1
	if from == 1 {
		from = 0
	}
	return from, min(to, from+shapeMost-1)
}

// shapeTones marks the tones on the neck. A line without chosen tones shows its own places with their frets.
func (s *sheet) shapeTones(from, to int, fretX, stringY func(int) float64) {
	l := s.lick
	played := map[neck.Place]bool{}
	for _, n := range l.Notes {
		played[n.Place()] = true
	}
	tones, hasKey := l.Palette()
	for str := 1; str <= len(l.Tuning); str++ {
		for f := from; f <= to; f++ {
			at := neck.Place{String: str, Fret: f}
			if !hasKey && !played[at] {
				continue
			}
			role, label := music.ScaleTone, fmt.Sprint(f)
			if hasKey {
				t := tones.At(l.Tuning[str-1] + music.Pitch(f))
				if role, label = t.Role, t.Degree.Pretty(); role == music.Outside && !played[at] {
					continue
				}
			}
			s.mark(fretX(f)+shapeFret/2, stringY(str), role, label, played[at])
		}
	}
}

// mark draws one tone. Shapes are those of the neck on the screens, in ink: the page is read without colour.
func (s *sheet) mark(x, y float64, role music.Role, label string, played bool) {
	fill, ink := "#fff", "#5f656d"
	if played {
		fill, ink = "#1d2329", "#fff"
	}
	style := fmt.Sprintf(` fill="%s" stroke="#1d2329"`, fill)
	switch role {
	case music.Colour:
		fmt.Fprintf(&s.b, `<path d="M%s %sl12 11l-12 11l-12 -11z"%s/>`, px(x), px(y-11), style)
	case music.Outside:
		fmt.Fprintf(&s.b, `<path d="M%s %sl12 19h-24z"%s/>`, px(x), px(y-12), style)
	default:
		fmt.Fprintf(&s.b, `<circle cx="%s" cy="%s" r="9.5"%s/>`, px(x), px(y), style)
		if role == music.Root {
			fmt.Fprintf(&s.b, `<circle cx="%s" cy="%s" r="12" fill="none" stroke="#1d2329"/>`, px(x), px(y))
		}
	}
	s.text(x, y+4, fmt.Sprintf(` fill="%s" font-size="11" font-weight="600"`, ink), label)
}
