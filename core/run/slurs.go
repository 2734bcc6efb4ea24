package run

import (
	"ornamen/core/hand"
	"ornamen/core/lick"
	"ornamen/core/phrase"
)

// span is what the hand holds on a string while it slurs: the lowest and the highest fret, and how many tones.
type span struct{ low, high, tones int }

// byRule slurs a note that follows another on its string, as the recipe's rule has it: a hammer where it rises, a pull
// where it falls, a slide where the hand cannot span what it would have to hold. What the cell says of the note, its
// stroke or its slur, stays.
//
// As an example, of 3 5 7 9 on one string the first is picked, 5 and 7 are hammered by the middle and the little
// finger, and the little finger slides to 9.
func (b *builder) byRule(n *lick.Note, s phrase.Step) {
	held := b.held
	b.held = span{n.Fret, n.Fret, 1}
	if b.slurs == "" || len(s.Tones) > 1 || len(b.column) != 1 {
		return
	}
	m := b.lick.Notes[b.column[0]]
	if m.String != n.String || m.Fret == n.Fret || m.End().Cmp(n.At) != 0 {
		return
	}
	rises := n.Fret > m.Fret
	wanted := b.slurs == "string" || b.slurs == "up" && rises || b.slurs == "down" && !rises ||
		b.slurs == "way" && rises == !b.down
	if n.Slur == "" && s.Stroke == "" && wanted {
		n.Slur = lick.Hammer.Between(m.Fret, n.Fret)
	}
	if !n.Slur.Slurred() {
		return
	}
	wide := span{min(held.low, n.Fret), max(held.high, n.Fret), held.tones + 1}
	inside := n.Fret >= held.low && n.Fret <= held.high
	switch {
	case n.Slur == lick.Slide:
	case inside:
		b.held = held // the finger is down already, or has room between
	case s.Slur == "" && m.Fret > 0 && n.Fret > 0 && (!b.spans(wide) || wide.tones > mostHeld):
		n.Slur = lick.Slide
	default:
		b.held = wide
	}
}

// spans says whether index and little finger reach over the frets, on this guitar by a medium hand (model default); an
// open string needs none.
func (b *builder) spans(s span) bool {
	if s.low == 0 {
		return true
	}
	return b.guitar.Press(s.high)-b.guitar.Press(s.low) <= hand.Medium().Limit[hand.P14]
}

// mostHeld is how many tones a hand holds on one string, a finger each.
const mostHeld = 4
