package run

import (
	"fmt"
	"slices"

	"ornamen/core/phrase"
	"ornamen/core/say"
	"ornamen/core/shape"
)

// walk is the stations of a run in one direction, and those of the way back from the k-th one,
// the k-th itself first. There may be more stations than the cell fits; legs finds out.
type walk struct {
	stations []station
	back     func(k int) []station
}

// reversed is the way back over the same stations.
func reversed(stations []station) func(k int) []station {
	return func(k int) []station {
		out := slices.Clone(stations[:k+1])
		slices.Reverse(out)
		return out
	}
}

// signed is a step up or down.
func signed(by int, down bool) int {
	if down {
		return -by
	}
	return by
}

// walk lists the stations, up or down. The move decides which: along one ladder, over the strings of one, the same
// fingering in octaves, a new ladder at each position, in each scale or for each chord.
func (p *plan) walk(down bool) (walk, error) {
	if p.phrase.Kind == phrase.Chord {
		return p.walkChords(down)
	}
	if p.move.kind == "chord" && p.Follow == "chord" {
		return p.walkFollowing(down)
	}
	l, err := shape.NewLadder(p.guitar, p.palette, p.layout, p.at, down)
	if err != nil {
		return walk{}, err
	}
	first, err := p.firstStation(l, down)
	if err != nil {
		return walk{}, err
	}
	switch p.move.kind {
	case "stay":
		st := []station{first}
		return walk{st, reversed(st)}, nil
	case "octave":
		return p.walkOctaves(first, down), nil
	case "position":
		return p.walkPositions(first, down)
	case "scale":
		return p.walkScales(first, down)
	}
	if w, ok := first.(window); ok {
		return p.walkStrings(w)
	}
	return p.walkLadder(l, first.(rung), down)
}

// firstStation is where the first cell lies: as low as it fits, or as high, or from the tone that the recipe names.
//
// A cell may reach below its tone 1 (tone 0 and less), so the lowest tone of the layout is not always a start: "2 1 0"
// in the box at 6:5 has its tone 1 on the second tone. The stations are tried from the near end until one holds every
// tone; one that the player names is not moved, and is refused where the cell does not fit.
func (p *plan) firstStation(l *shape.Ladder, down bool) (station, error) {
	n := len(l.Steps)
	at := func(i int) station { return rung{l, i} }
	if p.phrase.Kind == phrase.Strings {
		n = len(l.ByString)
		at = func(i int) station { return window{l, i, down} }
	}
	cell := p.cellOf(0, down)
	if p.Start > 0 {
		if p.Start > n {
			what := say.Count(n, "tone")
			switch {
			case p.phrase.Kind == phrase.Strings:
				what = say.Count(n, "string")
			case len(l.Steps[0]) > 1:
				what = say.Count(n, "pair")
			}
			return nil, phrase.Wrong(fmt.Sprint(p.Start), "start: the layout has "+what)
		}
		st := at(p.Start - 1)
		if ok, err := fits(st, cell); !ok {
			return nil, p.noRoom(err)
		}
		return st, nil
	}
	for k := range n {
		i := k
		if down {
			i = n - 1 - k
		}
		ok, err := fits(at(i), cell)
		if err != nil {
			return nil, err
		}
		if ok {
			return at(i), nil
		}
	}
	return nil, p.noRoom(nil)
}

// noRoom says that the layout cannot hold the cell. It is the plan's own words unless something else went wrong.
func (p *plan) noRoom(err error) error {
	if err != nil {
		return err
	}
	return phrase.Wrong(phrase.CellText(p.phrase.Kind, p.cell(0)),
		fmt.Sprintf("the layout %s from %s does not hold it", p.layout.Name(), p.at.Notation()))
}

// cell is the cell played at the k-th station of a run that goes up.
func (p *plan) cell(k int) []phrase.Step { return p.cellOf(k, false) }

// cellOf is the cell played at the k-th station, on the way up or down, rotated as asked: cells
// that take turns go round, and a cell begun on its third step ends with its second.
func (p *plan) cellOf(k int, down bool) []phrase.Step {
	cells := p.phrase.Cells
	if down && p.down != nil {
		cells = p.down.Cells
	}
	c := cells[k%len(cells)]
	if p.Rotate > 1 {
		return slices.Concat(c[p.Rotate-1:], c[:p.Rotate-1])
	}
	return c
}

// strings are the strings of a chord cell's steps, rotated as its steps are.
func (p *plan) strings() []int {
	if p.Rotate <= 1 || p.phrase.Strings == nil {
		return p.phrase.Strings
	}
	k := 0
	for _, s := range p.phrase.Cells[0][:p.Rotate-1] {
		k += len(s.Tones)
	}
	return slices.Concat(p.phrase.Strings[k:], p.phrase.Strings[:k])
}

// walkLadder moves along the ladder: by tones, to the next string, or to the root of the next chord.
//
// Some scales have other tones on the way down (a colour that is held to one direction), so
// the way back has a ladder of its own. Where both have as many steps they are the same, and
// the way back is the way there in reverse. Else the turn is looked up on the other ladder by
// its pitch, and the same move is counted along it down to where the run began.
func (p *plan) walkLadder(l *shape.Ladder, first rung, down bool) (walk, error) {
	rungs, err := p.rungs(l, first.p, down)
	if err != nil {
		return walk{}, err
	}
	other, err := shape.NewLadder(p.guitar, p.palette, p.layout, p.at, !down)
	if err != nil {
		return walk{}, err
	}
	stations := make([]station, len(rungs))
	chords := p.chordList(down)
	for i, r := range rungs {
		stations[i] = rung{l, r}
		if p.move.kind == "chord" && p.chords != nil {
			stations[i] = within{rung{l, r}, nil, p.named(chords[i])}
		}
	}
	same := len(other.Steps) == len(l.Steps)
	return walk{stations, func(k int) []station {
		if same || p.move.kind != "tones" {
			return reversed(stations)(k)
		}
		// The way back has other tones: the same move along its own ladder.
		var out []station
		from, to := other.Match(l, rungs[k]), other.Match(l, rungs[0])
		by := p.move.by
		if from > to {
			by = -by
		}
		for i := from; i > -phrase.MaxTone && i < len(other.Steps)+phrase.MaxTone && (i-to)*by <= 0; i += by {
			out = append(out, rung{other, i})
		}
		return out
	}}, nil
}

// rungs lists where tone 1 of the cell goes: past either end of the ladder too, by as much as a
// cell can reach, since what fits is decided by the cell and not by its first tone.
func (p *plan) rungs(l *shape.Ladder, first int, down bool) ([]int, error) {
	var out []int
	switch p.move.kind {
	case "tones":
		by := signed(p.move.by, down)
		for i := first; i > -phrase.MaxTone && i < len(l.Steps)+phrase.MaxTone; i += by {
			out = append(out, i)
		}
	case "string":
		out = l.AcrossStrings(first, p.move.by, down)
	case "chord":
		return p.chordRungs(l, first, down)
	}
	return out, nil
}

// walkStrings moves the window over the strings.
//
// The strings of a cell are counted in the run's direction: a is the string where it begins. On the way back a is
// therefore its other end, and the window is moved by the cell's width. As an example a1 a2 b1 b2 going up from string
// 6 begins on 6, 5, 4, 3, 2; coming down its first string is the thin one of the two, 1, then 2.
func (p *plan) walkStrings(first window) (walk, error) {
	at := func(from int, down bool) []station {
		var out []station
		for i := from; i >= 0 && i < len(first.ByString); i += signed(p.move.by, down) {
			out = append(out, window{first.Ladder, i, down})
		}
		return out
	}
	if p.move.kind == "chord" {
		return walk{}, phrase.Wrong("chord", "a cell of strings: steps moves by string, octave or position, or stays")
	}
	if p.move.kind == "tones" {
		return p.walkPositions(first, first.down)
	}
	stations := at(first.first, first.down)
	wide := 0
	cells := p.phrase.Cells
	if p.down != nil {
		cells = p.down.Cells // the way back is laid out for the cell that comes back
	}
	for _, c := range cells {
		for _, s := range c {
			for _, t := range s.Tones {
				wide = max(wide, t.String)
			}
		}
	}
	return walk{stations, func(k int) []station {
		// On the way back the cell's first string is its other end.
		back := at(stations[k].(window).first+signed(wide, first.down), !first.down)
		return back[:min(k+1, len(back))]
	}}, nil
}

// walkOctaves takes the same fingering two strings over.
func (p *plan) walkOctaves(first station, down bool) walk {
	var out []station
	for k := range len(p.guitar.Tuning) {
		out = append(out, octaves{first, p, signed(k, down)})
	}
	return walk{out, reversed(out)}
}

// walkPositions lays the tones out again at every next place along the neck: the layout from
// the next tone of its string, then the next, as long as the neck has room. The cell names the
// same steps of each, so that its figure stays while the frets follow the scale.
func (p *plan) walkPositions(first station, down bool) (walk, error) {
	out := []station{first}
	by := 1
	if p.move.kind == "tones" {
		by = p.move.by
	}
	by = signed(by, down)
	for steps := by; ; steps += by {
		next, ok := shape.LadderAlong(p.guitar, p.palette, p.layout, p.at, steps, down)
		if !ok {
			return walk{out, reversed(out)}, nil
		}
		out = append(out, onto(next, first))
	}
}

// onto is the same station on another ladder.
func onto(l *shape.Ladder, st station) station {
	switch st := st.(type) {
	case window:
		return window{l, st.first, st.down}
	case rung:
		return rung{l, st.p}
	}
	return st
}
