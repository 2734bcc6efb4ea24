package run

import (
	"fmt"
	"slices"

	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/phrase"
	"ornamen/core/shape"
)

// walk is the stations of a run in one direction, and those of the way back from
// the k-th one.
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

// walk lists the stations, up or down.
func (p *plan) walk(down bool) (walk, error) {
	if p.phrase.Kind == phrase.Chord {
		return p.walkChords(down)
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
		return p.walkPositions(l, first, down)
	case "scale":
		return p.walkScales(first, down)
	}
	if w, ok := first.(window); ok {
		return p.walkStrings(w)
	}
	return p.walkLadder(l, first.(rung), down)
}

// firstStation is where the first cell lies: as low as it fits, or as high, or
// from the tone that the recipe names.
func (p *plan) firstStation(l *shape.Ladder, down bool) (station, error) {
	n := len(l.Steps)
	at := func(i int) station { return rung{l, i} }
	if p.phrase.Kind == phrase.Strings {
		n = len(l.ByString)
		at = func(i int) station { return window{l, i, down} }
	}
	cell := p.cell(0)
	if p.Start > 0 {
		if p.Start > n {
			return nil, phrase.Wrong(fmt.Sprint(p.Start), fmt.Sprintf("start: the layout has %d", n))
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

// noRoom says that the layout cannot hold the cell.
func (p *plan) noRoom(err error) error {
	if err != nil {
		return err
	}
	return phrase.Wrong(phrase.CellText(p.phrase.Kind, p.cell(0)), fmt.Sprintf("the layout %s from %s does not hold it", p.layout.Name(), p.at.Notation()))
}

// cell is the cell played at the k-th station, rotated as asked.
func (p *plan) cell(k int) []phrase.Step {
	c := p.phrase.Cells[k%len(p.phrase.Cells)]
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
		if len(s.Tones) > 0 {
			k++
		}
	}
	return slices.Concat(p.phrase.Strings[k:], p.phrase.Strings[:k])
}

// walkLadder moves along the ladder: by tones, to the next string, or to the
// root of the next chord.
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
	for i, r := range rungs {
		stations[i] = rung{l, r}
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

// rungs lists where tone 1 of the cell goes.
func (p *plan) rungs(l *shape.Ladder, first int, down bool) ([]int, error) {
	var out []int
	switch p.move.kind {
	case "tones":
		by := p.move.by
		if down {
			by = -by
		}
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

// chordRungs finds the root of each chord on the ladder, each the nearest beyond
// the one before.
func (p *plan) chordRungs(l *shape.Ladder, first int, down bool) ([]int, error) {
	var out []int
	at := first
	for _, d := range p.chordDegrees(down) {
		found := -1
		for i := range l.Steps {
			k := at + i
			if down {
				k = at - i
			}
			if k >= 0 && k < len(l.Steps) && l.Steps[k][0].Tone.Degree.Semitones() == d.Semitones() {
				found = k
				break
			}
		}
		if found < 0 {
			break
		}
		out, at = append(out, found), found
	}
	if len(out) == 0 {
		return nil, phrase.Wrong(p.chordDegrees(down)[0].String(), "no root of that chord lies in the layout from there")
	}
	return out, nil
}

// chordDegrees are the roots of the chords: as named, or every tone of the
// scale; downward in the other order where none are named.
func (p *plan) chordDegrees(down bool) []music.Degree {
	if p.chords != nil {
		return p.chords
	}
	out := slices.Clone(p.palette.Scale.Degrees)
	if down {
		slices.Reverse(out)
	}
	return out
}

// walkStrings moves the window over the strings.
func (p *plan) walkStrings(first window) (walk, error) {
	at := func(from int, down bool) []station {
		by := p.move.by
		if down {
			by = -by
		}
		if p.move.kind == "tones" {
			return nil
		}
		var out []station
		for i := from; i >= 0 && i < len(first.ByString); i += by {
			out = append(out, window{first.Ladder, i, down})
		}
		return out
	}
	if p.move.kind == "chord" {
		return walk{}, phrase.Wrong("chord", "a cell of strings: steps moves by string, octave or position, or stays")
	}
	if p.move.kind == "tones" {
		return p.walkPositions(first.Ladder, first, first.down)
	}
	stations := at(first.first, first.down)
	wide := 0
	for _, c := range p.phrase.Cells {
		for _, s := range c {
			for _, t := range s.Tones {
				wide = max(wide, t.String)
			}
		}
	}
	return walk{stations, func(k int) []station {
		// On the way back the cell's first string is its other end.
		from := stations[k].(window).first
		if first.down {
			from -= wide
		} else {
			from += wide
		}
		back := at(from, !first.down)
		return back[:min(k+1, len(back))]
	}}, nil
}

// walkOctaves takes the same fingering two strings over.
func (p *plan) walkOctaves(first station, down bool) walk {
	var out []station
	for k := range len(p.guitar.Tuning) {
		if down {
			out = append(out, octaves{first, p, -k})
		} else {
			out = append(out, octaves{first, p, k})
		}
	}
	return walk{out, reversed(out)}
}

// walkPositions lays the tones out again at every next place along the neck.
func (p *plan) walkPositions(l *shape.Ladder, first station, down bool) (walk, error) {
	out := []station{first}
	skip := 1
	if p.move.kind == "tones" {
		skip = p.move.by
	}
	step, n := 1, 0
	if down {
		step = -1
	}
	for fret := p.at.Fret + step; fret >= 0 && fret <= p.guitar.Frets; fret += step {
		next, err := shape.NewLadder(p.guitar, p.palette, p.layout, neck.Place{String: p.at.String, Fret: fret}, down)
		if err != nil {
			continue
		}
		if n++; n%skip == 0 {
			out = append(out, onto(next, first))
		}
	}
	return walk{out, reversed(out)}, nil
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

// walkScales lays each scale out over the same root in turn.
func (p *plan) walkScales(first station, down bool) (walk, error) {
	var out []station
	for _, s := range p.scales {
		palette, err := music.NewPalette(p.palette.Tonic.String(), s, list(p.Add), list(p.Drop))
		if err != nil {
			return walk{}, err
		}
		layout := p.layout
		if p.Layout == "" {
			layout = shape.Default(palette.Scale)
		}
		l, err := shape.NewLadder(p.guitar, palette, layout, p.at, down)
		if err != nil {
			return walk{}, fmt.Errorf("%s: %w", s, err)
		}
		out = append(out, onto(l, first))
	}
	return walk{out, reversed(out)}, nil
}

// walkChords puts the chord's root on one string, each next one beyond the last.
func (p *plan) walkChords(down bool) (walk, error) {
	if p.move.kind == "octave" || p.move.kind == "stay" {
		at, name, err := p.chordRoot(p.chordDegrees(false)[0], p.at.Fret, false)
		if err != nil {
			return walk{}, err
		}
		first := over{p, at, name, p.strings()}
		if p.move.kind == "octave" {
			return p.walkOctaves(first, down), nil
		}
		return walk{[]station{first}, reversed([]station{first})}, nil
	}
	var out []station
	fret := p.at.Fret
	for i, d := range p.chordDegrees(false) {
		at, name, err := p.chordRoot(d, fret, i > 0 && p.chords != nil)
		if err != nil {
			break
		}
		out = append(out, over{p, at, name, p.strings()})
		fret = at.Fret
	}
	if len(out) == 0 {
		return walk{}, phrase.Wrong(p.at.Notation(), "no chord's root lies on that string")
	}
	if down && p.chords == nil {
		// The key's own chords go down the way they went up, from the highest that fits.
		out = slices.DeleteFunc(out, func(st station) bool { ok, err := fits(st, p.cell(0)); return !ok && err == nil })
		slices.Reverse(out)
	}
	return walk{out, reversed(out)}, nil
}

// chordRoot finds a chord's root on the starting string: at a fret or above it,
// or, for chords that are named, the nearest.
func (p *plan) chordRoot(d music.Degree, fret int, nearest bool) (neck.Place, music.Name, error) {
	name := d.Over(p.palette.Tonic)
	s := p.at.String
	lowest := ((name.Class()-p.guitar.Tuning[s-1].Class())%12 + 12) % 12
	best, found := neck.Place{}, false
	for f := lowest; f <= p.guitar.Frets; f += 12 {
		at := neck.Place{String: s, Fret: f}
		switch {
		case nearest:
			if !found || max(f-fret, fret-f) < max(best.Fret-fret, fret-best.Fret) {
				best, found = at, true
			}
		case f >= fret && !found:
			best, found = at, true
		}
	}
	if !found {
		return best, name, beyond{name.Pretty()}
	}
	return best, name, nil
}
