package turn

import (
	"errors"
	"slices"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/run"
	"ornamen/core/shape"
)

// CellAfter grows one cell of the lick's tones as a line of its own, laid out where its first note comes nearest to
// note i (from 0; below 0 where there is none): the fewest frets and strings away. It is an error of one sentence if
// the lick has no tones, or the cell cannot be read or has no place. Every start on every fret is grown and the nearest
// kept: a few hundred runs of one cell.
func CellAfter(g neck.Guitar, l lick.Lick, cell string, i int) (lick.Lick, error) {
	g = g.WithTuning(l.Tuning)
	at, from := lick.Time{}, neck.Place{String: len(g.Tuning)}
	if i >= 0 && i < len(l.Notes) {
		at, from = l.Notes[i].At, l.Notes[i].Place()
	}
	key := l.KeyAt(at)
	p, ok := l.PaletteAt(at)
	if !ok {
		return l, errors.New("choose the tones first, so that the cell has some to play")
	}
	r := run.Recipe{Key: key.Tonic + " " + key.Scale, Add: strings.Join(key.Add, ","), Drop: strings.Join(key.Drop, ","),
		Cell: cell, Times: 1}
	if !slices.Equal(l.Tuning, neck.Standard().Tuning) {
		r.Tuning = neck.TuningText(l.Tuning)
	}
	layout := shape.Default(p.Scale)
	var best lick.Lick
	least, failed := 1<<30, errors.New("the cell has no place on this neck")
	for fret := 0; fret <= g.Frets; fret++ {
		start := neck.Place{String: len(g.Tuning), Fret: fret}
		l, err := shape.NewLadder(g, p, layout, start, false)
		if err != nil {
			continue
		}
		r.At = start.Notation()
		for r.Start = 1; r.Start <= len(l.Steps); r.Start++ {
			grown, err := run.Grow(r, g)
			if err != nil {
				failed = err
				continue
			}
			if away := neck.Apart(grown.Lick.Notes[0].Place(), from); away < least {
				best, least = grown.Lick, away
			}
		}
	}
	if len(best.Notes) == 0 {
		return l, failed
	}
	return best, nil
}
