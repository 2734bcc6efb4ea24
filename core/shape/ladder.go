package shape

import (
	"errors"
	"slices"

	"ornamen/core/music"
	"ornamen/core/neck"
)

// Ladder is a layout as steps: the tones of one step sound together.
type Ladder struct {
	Steps    [][]Placed
	ByString [][]Placed // thick strings first
}

// NewLadder lays a palette's tones out from a place for one direction.
func NewLadder(g neck.Guitar, palette music.Palette, layout Layout, at neck.Place, down bool) (*Ladder, error) {
	placed, err := Lay(g, palette, layout, at)
	if err != nil {
		return nil, err
	}
	l := &Ladder{}
	for _, t := range placed {
		if only := t.Tone.Hold.Only; only == "up" && down || only == "down" && !down {
			continue
		}
		n := len(l.Steps)
		switch {
		case n > 0 && l.Steps[n-1][0].Step == t.Step:
			l.Steps[n-1] = append(l.Steps[n-1], t)
		case n > 0 && l.Steps[n-1][0].Pitch == t.Pitch:
			// The same pitch on another string: one of them is enough for a ladder.
		default:
			l.Steps = append(l.Steps, []Placed{t})
		}
	}
	for s := len(g.Tuning); s >= 1; s-- {
		var on []Placed
		for _, step := range l.Steps {
			for _, t := range step {
				if t.Place.String == s {
					on = append(on, t)
				}
			}
		}
		if len(on) > 0 {
			slices.SortFunc(on, func(a, b Placed) int { return a.Place.Fret - b.Place.Fret })
			l.ByString = append(l.ByString, on)
		}
	}
	if len(l.Steps) == 0 {
		return nil, errors.New("no tone is left to play there")
	}
	return l, nil
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

// AcrossStrings finds the tone of the same number on every next string.
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
