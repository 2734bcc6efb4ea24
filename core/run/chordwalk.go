package run

import (
	"fmt"
	"slices"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/phrase"
	"ornamen/core/shape"
)

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
		if found < 0 && p.chords != nil && len(out) > 0 {
			return nil, phrase.Wrong(d.String(), "no root of that chord lies in the layout beyond the one before it")
		}
		if found < 0 {
			break
		}
		out, at = append(out, found), found
	}
	if len(out) == 0 {
		return nil, phrase.Wrong(p.chordDegrees(down)[0].String(),
			"no root of that chord lies in the layout from there")
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

// walkScales lays each scale out over the same root in turn, each in its own usual layout
// unless the recipe names one.
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
		key := lick.Key{Tonic: palette.Tonic.String(), Scale: palette.Scale.Name, Add: list(p.Add), Drop: list(p.Drop)}
		out = append(out, inScale{onto(l, first), key})
	}
	return walk{out, reversed(out)}, nil
}

// walkChords puts the chord's root on one string, each next one beyond the last. Chords that
// are named may go back along it, to the nearest place of their root, as players move (common
// practice); the key's own chords go up one by one. The walk ends where the neck does.
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
		var st station = over{p, at, name, p.strings()}
		if p.Follow == "chord" {
			st = inScale{st,
				lick.Key{Tonic: name.String(), Scale: p.palette.Scale.Name, Add: list(p.Add), Drop: list(p.Drop)}}
		}
		out = append(out, st)
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

// onRoot is the chosen tones on another root: what a chord that is followed has as its own.
func (p *plan) onRoot(root music.Name) (music.Palette, error) {
	return music.NewPalette(root.String(), p.palette.Scale.Name, list(p.Add), list(p.Drop))
}

// walkFollowing lays the chord's own tones out for each chord, begun on the chord's root (of
// pairs, the one whose upper tone it is), each beyond the one before along the neck. The line
// then has those tones as its own while the chord lasts, so that none of them is judged as
// outside.
func (p *plan) walkFollowing(down bool) (walk, error) {
	var out []station
	fret := p.at.Fret
	for _, d := range p.chordDegrees(down) {
		own, err := p.onRoot(d.Over(p.palette.Tonic))
		if err != nil {
			return walk{}, err
		}
		st, at, ok := p.rootStation(own, fret, down)
		if !ok {
			return walk{}, phrase.Wrong(d.String(), "no root of that chord lies on the layout beyond the one before it")
		}
		key := lick.Key{Tonic: own.Tonic.String(), Scale: own.Scale.Name, Add: list(p.Add), Drop: list(p.Drop)}
		out, fret = append(out, inScale{st, key}), at
	}
	return walk{out, reversed(out)}, nil
}

// rootStation is the step of the palette's layout that is its root, at a fret or beyond it
// on the way; at is the fret of its upper tone.
func (p *plan) rootStation(own music.Palette, fret int, down bool) (st station, at int, ok bool) {
	for f := 0; f <= p.guitar.Frets && !ok; f++ {
		l, err := shape.NewLadder(p.guitar, own, p.layout, neck.Place{String: p.at.String, Fret: f}, down)
		if err != nil {
			continue
		}
		for i := range l.Steps {
			k := i
			if down {
				k = len(l.Steps) - 1 - i
			}
			top := l.Steps[k][len(l.Steps[k])-1]
			beyond := top.Place.Fret >= fret-nearRoot
			if down {
				beyond = top.Place.Fret <= fret+nearRoot
			}
			if top.Tone.Role == music.Root && beyond {
				return rung{l, k}, top.Place.Fret, true
			}
		}
	}
	return nil, 0, false
}

// nearRoot is how many frets on the near side of the start a pair's upper tone may lie: with no
// room at all the next chord's root just below would be passed over for the one an octave up.
const nearRoot = 2
