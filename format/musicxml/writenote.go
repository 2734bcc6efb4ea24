package musicxml

import (
	"fmt"
	"slices"
	"strconv"

	"ornamen/core/lick"
)

// voices are the notes in voices in which none begins before another has ended, but for those that begin and end
// together. Each note goes into the first voice that has room, so that a plain line is one voice, and a line over a
// bass two. Greedy in playing order, which needs as many voices as notes of different times ever overlap.
func (w *writer) voices() (out [][]int) {
	l := w.lick
	for i, n := range l.Notes {
		k := slices.IndexFunc(out, func(v []int) bool {
			last := l.Notes[v[len(v)-1]]
			return !n.At.Before(last.End()) || n.At.Cmp(last.At) == 0 && n.Len.Cmp(last.Len) == 0
		})
		if k < 0 {
			out, k = append(out, nil), len(out)
		}
		out[k] = append(out[k], i)
	}
	if out == nil {
		out = [][]int{nil}
	}
	return out
}

// bar is a voice's notes and rests in a bar. A note that the bar line cuts is written in each bar that it lasts into,
// tied. Rests fill the voice from the bar's beginning to its end, so that its durations add up to the bar's.
func (w *writer) bar(notes []int, voice int, at, stop lick.Time) (items []xItem) {
	rest := func(from, to lick.Time) {
		if from.Before(to) {
			n := &xNote{Rest: &struct{}{}, Duration: w.duration(to.Sub(from)), Voice: strconv.Itoa(voice)}
			w.value(n, to.Sub(from))
			items = append(items, xItem{Note: n})
		}
	}
	now, last := at, lick.Time{}
	begun := false
	for _, i := range notes {
		n := w.lick.Notes[i]
		if !n.At.Before(stop) || !at.Before(n.End()) {
			continue
		}
		s := segment{note: i, at: n.At, from: n.At.Before(at), to: stop.Before(n.End())}
		end := n.End()
		if s.from {
			s.at = at
		}
		if s.to {
			end = stop
		}
		s.len = end.Sub(s.at)
		chord := begun && s.at.Cmp(last) == 0
		if !chord {
			rest(now, s.at)
		}
		items = append(items, xItem{Note: w.note(s, voice, chord)})
		now, last, begun = end, s.at, true
	}
	rest(now, stop)
	return items
}

// value writes a length as the symbol of a note: its type, at most one dot, a tuplet of 3, 5 or 7; none where there is
// no symbol, which readers then take from the duration. As an example, 1/12 is an eighth, three in the time of two;
// 3/16 a dotted eighth; 5/16 has none.
func (w *writer) value(n *xNote, t lick.Time) {
	names := []string{"whole", "half", "quarter", "eighth", "16th", "32nd", "64th"}
	for _, tuplet := range []xTuplet{{1, 1}, {3, 2}, {5, 4}, {7, 4}} {
		for k, name := range names {
			plain := lick.NewTime(int64(tuplet.Normal), int64(tuplet.Actual)<<k)
			for dots, by := range []lick.Time{plain, plain.Add(lick.NewTime(int64(tuplet.Normal),
				int64(tuplet.Actual)<<(k+1)))} {
				if t.Cmp(by) != 0 {
					continue
				}
				if n.Type = name; dots > 0 {
					n.Dots = []struct{}{{}}
				}
				if tuplet.Actual > 1 {
					n.Tuplet = &xTuplet{tuplet.Actual, tuplet.Normal}
				}
				return
			}
		}
	}
}

// note writes a segment with all that is known of its note.
// A part that is tied from the one before says only where it lies.
func (w *writer) note(s segment, voice int, chord bool) *xNote {
	l, n := w.lick, w.lick.Notes[s.note]
	out := &xNote{Pitch: pitchOf(l, l.Pitch(s.note)), Duration: w.duration(s.len), Voice: strconv.Itoa(voice)}
	if chord {
		out.Chord = &struct{}{}
	}
	w.value(out, s.len)
	if n.Mute || n.Ghost {
		out.Head = &xHead{Value: "normal"}
		if n.Mute {
			out.Head.Value = "x"
		}
		if n.Ghost {
			out.Head.Brackets = "yes"
		}
	}
	if n.Palm {
		out.Play = &xPlay{Mute: "palm"}
	}
	notation := &xNotation{Technical: &xTechnical{Fret: &n.Fret, String: n.String}}
	for _, tie := range []struct {
		on   bool
		kind string
	}{{s.from, "stop"}, {s.to, "start"}} {
		if tie.on {
			out.Ties = append(out.Ties, xTie{tie.kind})
			notation.Tied = append(notation.Tied, xTie{tie.kind})
		}
	}
	out.Notations = notation
	if s.from {
		return out // the rest was said where it begins
	}
	w.techniques(s.note, notation)
	return out
}

// techniques writes fingers, strokes, slurs, bends and the like. A slur is begun on the note before on the string and
// stopped on this one, with the string as its number, so that two at a time stay apart. A release follows its bend as a
// bend of its own.
func (w *writer) techniques(i int, out *xNotation) {
	n, t := w.lick.Notes[i], out.Technical
	switch {
	case n.Finger == lick.Thumb:
		t.Finger = "T"
	case n.Finger != lick.NoFinger:
		t.Finger = n.Finger.String()
	}
	switch n.Stroke {
	case "":
	case lick.Down:
		t.Down = &struct{}{}
	case lick.Up:
		t.Up = &struct{}{}
	default:
		t.Pluck = string(n.Stroke)
	}
	begins := lick.Slur("") // of the next note on the string: the line begins here
	for k := i + 1; k < len(w.lick.Notes); k++ {
		if m := w.lick.Notes[k]; m.String == n.String && n.At.Before(m.At) {
			begins = m.Slur
			break
		}
	}
	line := func(kind string, slur lick.Slur) {
		switch slur {
		case lick.Hammer:
			t.Hammers = append(t.Hammers, xPhase{kind, n.String, "H"})
		case lick.Pull:
			t.Pulls = append(t.Pulls, xPhase{kind, n.String, "P"})
		case lick.Slide, lick.Shift:
			out.Slides = append(out.Slides, xLine{kind, n.String})
		}
	}
	line("stop", n.Slur)
	line("start", begins)
	if n.Slur == lick.Shift {
		t.OtherTxt = append(t.OtherTxt, "shift")
	}
	if b := n.Bend; b != nil {
		x := xBend{Alter: b.Semitones}
		if b.Pre() {
			x.Pre = &struct{}{}
		}
		t.Bends = append(t.Bends, x)
		if b.Release() {
			t.Bends = append(t.Bends, xBend{Alter: -b.Semitones, Release: &struct{}{}})
		}
	}
	if n.Vibrato != nil {
		out.Ornaments = &xOrnaments{Wavy: []xLine{{Type: "start", Number: 1}, {Type: "stop", Number: 1}}}
		t.OtherTxt = append(t.OtherTxt, fmt.Sprintf("vibrato %s %s", n.Vibrato.Width, n.Vibrato.Speed))
	}
	if n.Accent {
		out.Articulations = &xArticulations{Accent: &struct{}{}}
	}
	if n.Barre {
		t.OtherTxt = append(t.OtherTxt, "barre")
	}
	if n.Voice != "" {
		t.OtherTxt = append(t.OtherTxt, "voice "+string(n.Voice))
	}
	if n.Rake {
		t.OtherTxt = append(t.OtherTxt, "rake")
	}
	if s := n.SlideIn; s != nil {
		t.OtherTxt = append(t.OtherTxt, fmt.Sprintf("slide-in %d %s", s.Frets, s.From))
	}
}
