package shape

import (
	"errors"
	"slices"

	"ornamen/core/music"
	"ornamen/core/neck"
)

// Ladder is a layout as steps: the tones of one step sound together. A pitch that two strings
// hold is one step; by string it stands on both, so that shapes may overlap.
//
// Steps rise in pitch but for layouts with an order of their own. ByString has a row for every
// string that holds a tone, each rising in fret.
type Ladder struct {
	Steps    [][]Placed
	ByString [][]Placed // thick strings first
	Short    error      // why the neck ends before the layout does, nil where it holds all
}

// NewLadder lays a palette's tones out from a place for one direction.
func NewLadder(g neck.Guitar, palette music.Palette, layout Layout, at neck.Place, down bool) (*Ladder, error) {
	placed, short, err := layOut(g, palette, layout, at)
	if err != nil {
		return nil, err
	}
	l := &Ladder{Short: short}
	on := map[int][]Placed{}
	for _, t := range placed {
		if only := t.Tone.Hold.Only; only == "up" && down || only == "down" && !down {
			continue
		}
		on[t.Place.String] = append(on[t.Place.String], t)
		n := len(l.Steps)
		switch {
		case n > 0 && l.Steps[n-1][0].Step == t.Step:
			l.Steps[n-1] = append(l.Steps[n-1], t)
		case n > 0 && l.Steps[n-1][0].Pitch == t.Pitch:
			// The same pitch on another string: one of them is enough for a ladder of tones.
		default:
			l.Steps = append(l.Steps, []Placed{t})
		}
	}
	for s := len(g.Tuning); s >= 1; s-- {
		if len(on[s]) > 0 {
			slices.SortFunc(on[s], func(a, b Placed) int { return a.Place.Fret - b.Place.Fret })
			l.ByString = append(l.ByString, on[s])
		}
	}
	if len(l.Steps) == 0 {
		return nil, errors.New("no tone is left to play there")
	}
	return l, nil
}

// LadderAlong lays the layout out so many places farther along the neck, up or down: from the next tones of the
// starting string at which it can begin. ok is false where the neck ends first.
func LadderAlong(g neck.Guitar, palette music.Palette, layout Layout, at neck.Place, steps int,
	down bool) (l *Ladder, ok bool) {
	b := newBoard(g, palette, layout)
	b.at = at
	if own, is := layout.(interface {
		moved(b board, steps int) (Layout, neck.Place, bool)
	}); is {
		to, at, ok := own.moved(b, steps)
		if !ok {
			return nil, false
		}
		l, err := NewLadder(g, palette, to, at, down)
		return l, err == nil
	}
	by := 1
	if steps < 0 {
		by, steps = -1, -steps
	}
	for at.Fret += by; g.Has(at); at.Fret += by {
		l, err := NewLadder(g, palette, layout, at, down)
		if err != nil {
			continue
		}
		if steps--; steps == 0 {
			return l, true
		}
	}
	return nil, false
}

// Match is the step of this ladder where step i of another lies. Tone 1 of a cell may
// lie beyond the ladder; it lies as far beyond this one.
func (l *Ladder) Match(other *Ladder, i int) int {
	on := max(0, min(i, len(other.Steps)-1))
	return l.IndexOf(other.Steps[on][0].Pitch) + i - on
}

// IndexOf is the step nearest to a pitch.
func (l *Ladder) IndexOf(pitch music.Pitch) int {
	best := 0
	for i, s := range l.Steps {
		if abs(int(s[0].Pitch-pitch)) < abs(int(l.Steps[best][0].Pitch-pitch)) {
			best = i
		}
	}
	return best
}

// AcrossStrings finds the tone of the same number on every next string: from the second tone of
// string 6 the second of string 5, and so on, as long as a string has so many. Its steps are
// given; a tone that is on the ladder by its other string has none, and is left out.
func (l *Ladder) AcrossStrings(first, by int, down bool) []int {
	order := l.ByString
	row, number := -1, 0
	for i, on := range order {
		for j, t := range on {
			if t.Place == l.Steps[first][0].Place {
				row, number = i, j
			}
		}
	}
	var out []int
	if down {
		by = -by
	}
	for ; row >= 0 && row < len(order); row += by {
		if number >= len(order[row]) {
			break
		}
		for i, step := range l.Steps {
			if step[0].Place == order[row][number].Place {
				out = append(out, i)
			}
		}
	}
	return out
}
