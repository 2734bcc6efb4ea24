package turn

import (
	"errors"
	"fmt"
	"slices"

	"ornamen/core/lick"
	"ornamen/core/neck"
)

// By is along what selected notes are moved.
type By string

// The ways to move. Frets and strings keep the shape; a string over keeps the frets, so that other
// tones sound. Over keeps the pitches and takes them to the next string. Degrees go along each note's
// own string by the chosen tones, octaves as Turn does.
const (
	ByFrets   By = "frets"
	ByStrings By = "strings"
	ByOver    By = "over"
	ByDegrees By = "degrees"
	ByOctaves By = "octaves"
)

// Move is an edit that moves selected notes as one figure: N frets up, strings toward the thick ones, tones or octaves
// up; below 0 the other way. What the player has set goes along, what was proposed is found again; slurs that cannot
// sound any more become picked notes. All notes find their place, or the line stays as it was.
type Move struct {
	Guitar neck.Guitar
	Notes  lick.Ranges
	By     By
	N      int
}

// maxMove is how far notes are moved at once.
const maxMove = lick.MaxFret

// Apply implements lick.Edit.
func (e Move) Apply(l lick.Lick) (lick.Lick, error) {
	if e.N == 0 || e.N < -maxMove || e.N > maxMove {
		return l, fmt.Errorf("notes are moved by 1 to %d, or by as many the other way", maxMove)
	}
	out := l
	for _, r := range e.Notes {
		if r.From < 0 || r.To <= r.From || r.To > len(l.Notes) {
			return l, fmt.Errorf("there is no note %d", max(r.To, 1))
		}
		t := turner{guitar: e.Guitar.WithTuning(l.Tuning), lick: out.Clone()}
		t.take(r.From, r.To, true)
		parts := out.Parts
		if err := e.move(&t); err != nil {
			return l, err
		}
		moved, err := t.put()
		if err != nil {
			return l, err
		}
		// What other parts were grown from still holds.
		moved.Parts = slices.DeleteFunc(slices.Clone(parts),
			func(p lick.Part) bool { return p.From < r.To && r.From < p.To })
		out = moved
	}
	return out, out.Validate()
}

// move moves what the turner has taken.
func (e Move) move(t *turner) error {
	switch e.By {
	case ByFrets:
		return t.frets(e.N)
	case ByStrings:
		return t.nextString(e.N)
	case ByOver:
		return t.over(e.N)
	case ByDegrees:
		return t.degrees(e.N)
	case ByOctaves:
		return t.octave(e.N)
	}
	return fmt.Errorf("notes are moved by %s, %s, %s, %s or %s", ByFrets, ByStrings, ByOver, ByDegrees, ByOctaves)
}

// What implements lick.Edit.
func (e Move) What() string {
	what := map[By]string{ByFrets: "fret", ByStrings: "string", ByOver: "string", ByDegrees: "tone",
		ByOctaves: "octave"}[e.By]
	way := [2]string{"up", "down"}
	if what == "string" {
		way = [2]string{"thicker", "thinner"}
	}
	n, dir := e.N, way[0]
	if n < 0 {
		n, dir = -n, way[1]
	}
	// The numbers of the notes do not run into that of the steps.
	by := "one " + what
	if n != 1 {
		by = fmt.Sprintf("%d %ss", n, what)
	}
	text := fmt.Sprintf("%s, %s %s", e.Notes.Words(), by, dir)
	if e.By == ByOver {
		text += ", same pitches"
	}
	return text
}

// frets moves everything along the neck.
func (t *turner) frets(by int) error {
	for _, n := range t.notes() {
		fret := n.Fret + by
		if fret < 0 || fret > t.guitar.Frets {
			return fmt.Errorf("%s cannot go there: this neck has frets 0 to %d", n.Place().Notation(), t.guitar.Frets)
		}
		layAt(n, n.String, fret)
	}
	return nil
}

// over takes every pitch to the next string, so many over.
func (t *turner) over(by int) error {
	for _, n := range t.notes() {
		s := n.String + by
		if s < 1 || s > len(t.guitar.Tuning) {
			return errors.New("there is no string beyond this one")
		}
		fret := int(t.guitar.Pitch(n.Place()) - t.guitar.Tuning[s-1])
		if fret < 0 || fret > t.guitar.Frets {
			return fmt.Errorf("the pitch of %s does not lie on that string", n.Place().Notation())
		}
		layAt(n, s, fret)
	}
	return nil
}
