package run

import (
	"fmt"
	"slices"
	"strconv"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/phrase"
	"ornamen/core/shape"
)

// chordRungs finds the root of each chord on the ladder: of the key's own chords each beyond the one
// before; of named ones the nearest, as players move, who come back down for 1 4 1 5 (common practice).
func (p *plan) chordRungs(l *shape.Ladder, first int, down bool) ([]int, error) {
	var out []int
	at := first
	for n, c := range p.chordList(down) {
		found := -1
		for i := range l.Steps {
			// The way that the run goes is tried first.
			ahead, behind := at+i, at-i
			if down {
				ahead, behind = behind, ahead
			}
			for _, k := range []int{ahead, behind} {
				if found < 0 && k >= 0 && k < len(l.Steps) &&
					l.Steps[k][0].Tone.Degree.Semitones() == c.degree.Semitones() &&
					(k == ahead || p.chords != nil && n > 0) {
					found = k
				}
			}
			if found >= 0 {
				break
			}
		}
		if found < 0 && p.chords != nil && len(out) > 0 {
			return nil, phrase.Wrong(c.degree.String(), "no root of that chord lies in the layout")
		}
		if found < 0 {
			break
		}
		out, at = append(out, found), found
	}
	if len(out) == 0 {
		return nil, phrase.Wrong(p.chordList(down)[0].degree.String(),
			"no root of that chord lies in the layout from there")
	}
	return out, nil
}

// mostStations is how many stations chords that go round are written out for.
const mostStations = 512

// chordList are the chords: as named, round and round if the run is longer; or on every tone of the
// scale, downward in the other order. A cell of chord degrees in a key of five or six tones, which
// has not all of the chords' tones, stays on its root's chord.
func (p *plan) chordList(down bool) (out []lineChord) {
	if p.chords != nil {
		n := max(len(p.chords), (p.Times+p.Repeat-1)/max(1, p.Repeat))
		if p.Bars > 0 || p.landsInBar() {
			n = mostStations
		}
		for len(out) < min(n, mostStations) {
			out = append(out, p.chords...)
		}
		return out[:max(len(p.chords), min(n, mostStations))]
	}
	if p.phrase.Kind == phrase.Chord && len(p.palette.Scale.Degrees) < 7 {
		return []lineChord{p.ownChord(music.Degree{Number: 1})}
	}
	for _, d := range p.palette.Scale.Degrees {
		out = append(out, p.ownChord(d))
	}
	if down {
		slices.Reverse(out)
	}
	return out
}

// named is the name of a chord that the line has under it: only those that the recipe names.
func (p *plan) named(c lineChord) string {
	if p.chords == nil {
		return ""
	}
	return c.chord.Name
}

// walkScales lays each scale out in turn, each in its own usual layout unless the recipe names one: over the same
// place, or where it has another root at the start nearest to it. Inside each the cell is played once, or over all
// strings or tones of the layout.
func (p *plan) walkScales(first station, down bool) (walk, error) {
	var out []station
	for _, palette := range p.scales {
		layout := p.layout
		if p.Layout == "" {
			layout = shape.Default(palette.Scale)
		}
		at := p.at
		if palette.Tonic.Class() != p.palette.Tonic.Class() {
			if near, ok := shape.NearestStart(p.guitar, palette, layout, p.at); ok {
				at = near
			}
		}
		l, err := shape.NewLadder(p.guitar, palette, layout, at, down)
		if err != nil {
			return walk{}, fmt.Errorf("%s: %w", palette.Pretty(), err)
		}
		key := p.key(palette)
		inside, err := p.inside(l, onto(l, first), len(out), down)
		if err != nil {
			return walk{}, err
		}
		for _, st := range inside {
			out = append(out, within{st, &key, ""})
		}
	}
	return walk{out, reversed(out)}, nil
}

// inside are the stations of one scale: the one given, or those that follow it over the strings or tones as far as
// the layout holds the cell. before is how many stations the scales before it have.
func (p *plan) inside(l *shape.Ladder, first station, before int, down bool) (out []station, err error) {
	if p.move.within == "" {
		return []station{first}, nil
	}
	by, err := strconv.Atoi(p.move.within)
	if err != nil {
		by = 1
	}
	by = signed(by, down)
	switch st := first.(type) {
	case window:
		for i := st.first; i >= 0 && i < len(l.ByString); i += by {
			out = append(out, window{l, i, down})
		}
	case rung:
		if p.move.within == "string" {
			for _, i := range l.AcrossStrings(st.p, 1, down) {
				out = append(out, rung{l, i})
			}
			break
		}
		for i := st.p; i >= 0 && i < len(l.Steps); i += by {
			out = append(out, rung{l, i})
		}
	}
	return p.room(out, before, down)
}

// walkChords puts the chord's root on one string, each next one beyond the last. Chords that
// are named may go back along it, to the nearest place of their root, as players move (common
// practice); the key's own chords go up one by one. The walk ends where the neck does.
func (p *plan) walkChords(down bool) (walk, error) {
	if p.move.kind == "octave" || p.move.kind == "stay" {
		c := p.chordList(false)[0]
		at, name, err := p.chordRoot(c.degree, p.at.Fret, false)
		if err != nil {
			return walk{}, err
		}
		first := over{plan: p, root: at, name: name, chord: c, strings: p.strings()}
		if p.move.kind == "octave" {
			return p.walkOctaves(first, down), nil
		}
		return walk{[]station{first}, reversed([]station{first})}, nil
	}
	var out []station
	fret := p.at.Fret
	for i, c := range p.chordList(false) {
		at, name, err := p.chordRoot(c.degree, fret, i > 0 && p.chords != nil)
		if err != nil {
			break
		}
		st := within{over{plan: p, root: at, name: name, chord: c, strings: p.strings()}, nil, p.named(c)}
		if p.Follow == "chord" {
			st.key = &lick.Key{Tonic: name.String(), Scale: p.palette.Scale.Name, Add: list(p.Add), Drop: list(p.Drop)}
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
		if !found && (nearest || f >= fret) || nearest && max(f-fret, fret-f) < max(best.Fret-fret, fret-best.Fret) {
			best, found = neck.Place{String: s, Fret: f}, true
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

// walkFollowing lays the chord's own tones out for each chord, begun on the chord's root (of pairs, the one whose upper
// tone it is): of the key's own chords each beyond the one before along the neck, of named ones the nearest to it. The
// line then has those tones as its own while the chord lasts, so that none of them is judged as outside.
func (p *plan) walkFollowing(down bool) (walk, error) {
	var out []station
	last := p.at
	for n, c := range p.chordList(down) {
		own, err := p.onRoot(c.degree.Over(p.palette.Tonic))
		if err != nil {
			return walk{}, err
		}
		st, at, ok := p.rootStation(own, last, down, p.chords != nil && n > 0)
		if !ok {
			return walk{}, phrase.Wrong(c.degree.String(), "no root of that chord lies on the layout from there")
		}
		key := p.key(own)
		out, last = append(out, within{st, &key, p.named(c)}), at
	}
	return walk{out, reversed(out)}, nil
}

// rootStation is the step of the palette's layout that is its root, from a place on the way or,
// where the chords are named, nearest to it: among all places where the layout can begin on its string,
// the one whose root is the fewest frets and strings away, then the one nearest to where the run's
// layout lies, that holds the first cell. at is the place of its upper tone.
func (p *plan) rootStation(
	own music.Palette,
	from neck.Place,
	down, nearest bool,
) (st station, at neck.Place, ok bool) {
	least := 1 << 30
	frets := []int{p.at.Fret} // where the layout begins, if it may
	for f := range p.guitar.Frets + 1 {
		frets = append(frets, f)
	}
	for _, f := range frets {
		if ok && !nearest {
			break
		}
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
			if top.Tone.Role != music.Root {
				continue
			}
			beyond := top.Place.Fret >= from.Fret-nearRoot
			if down {
				beyond = top.Place.Fret <= from.Fret+nearRoot
			}
			if !nearest && beyond {
				return rung{l, k}, top.Place, true
			}
			held, err := fits(rung{l, k}, p.cellOf(0, down))
			if d := 2*neck.Apart(top.Place, from) + max(f-p.at.Fret, p.at.Fret-f); nearest && held && err == nil &&
				d < least {
				st, at, least, ok = rung{l, k}, top.Place, d, true
			}
		}
	}
	return st, at, ok
}

// nearRoot is how many frets on the near side of the start a pair's upper tone may lie: with no
// room at all the next chord's root just below would be passed over for the one an octave up.
const nearRoot = 2
