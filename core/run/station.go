package run

import (
	"fmt"
	"slices"

	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/shape"
)

// sounded is a tone at its place. SlideFrom is the fret it is slid to from in a
// layout whose positions are joined by slides, 0 for none.
type sounded struct {
	place     neck.Place
	slideFrom int
}

// station is one place where a cell is played: it finds what a step's tone is
// there. The cell's places so far help where a tone lies in several.
type station interface {
	find(t Tone, index int, before []neck.Place) ([]sounded, error)
}

// beyond says that a tone lies outside what the layout holds.
type beyond struct{ tone string }

func (e beyond) Error() string { return fmt.Sprintf("%s is beyond the layout there", e.tone) }

// ladder is the layout as steps: the tones of one step sound together.
type ladder struct {
	steps    [][]shape.Placed
	byString [][]shape.Placed // thick strings first
}

// newLadder lays the tones out from a place for one direction.
func (p *plan) newLadder(palette music.Palette, layout shape.Layout, at neck.Place, down bool) (*ladder, error) {
	placed, err := shape.Lay(p.guitar, palette, layout, at)
	if err != nil {
		return nil, err
	}
	l := &ladder{}
	for _, t := range placed {
		if only := t.Tone.Hold.Only; only == "up" && down || only == "down" && !down {
			continue
		}
		n := len(l.steps)
		switch {
		case n > 0 && l.steps[n-1][0].Step == t.Step:
			l.steps[n-1] = append(l.steps[n-1], t)
		case n > 0 && l.steps[n-1][0].Pitch == t.Pitch:
			// The same pitch on another string: one of them is enough for a ladder.
		default:
			l.steps = append(l.steps, []shape.Placed{t})
		}
	}
	for s := len(p.guitar.Tuning); s >= 1; s-- {
		var on []shape.Placed
		for _, step := range l.steps {
			for _, t := range step {
				if t.Place.String == s {
					on = append(on, t)
				}
			}
		}
		if len(on) > 0 {
			slices.SortFunc(on, func(a, b shape.Placed) int { return a.Place.Fret - b.Place.Fret })
			l.byString = append(l.byString, on)
		}
	}
	if len(l.steps) == 0 {
		return nil, fmt.Errorf("no tone is left to play there")
	}
	return l, nil
}

func soundedOf(step []shape.Placed) []sounded {
	out := make([]sounded, len(step))
	for i, t := range step {
		out[i] = sounded{t.Place, t.Slide}
	}
	return out
}

// rung is a station on a ladder: tone 1 is step p.
type rung struct {
	*ladder
	p int
}

func (r rung) find(t Tone, _ int, _ []neck.Place) ([]sounded, error) {
	i := r.p + t.N - 1
	if i < 0 || i >= len(r.steps) {
		return nil, beyond{t.text(Tones)}
	}
	return soundedOf(r.steps[i]), nil
}

// window is a station on the strings of a layout: string a is the one at index
// first, the next ones follow in the run's direction.
type window struct {
	*ladder
	first int
	down  bool
}

func (w window) find(t Tone, _ int, _ []neck.Place) ([]sounded, error) {
	i := w.first + t.String
	if w.down {
		i = w.first - t.String
	}
	if i < 0 || i >= len(w.byString) || t.N > len(w.byString[i]) {
		return nil, beyond{t.text(Strings)}
	}
	return soundedOf(w.byString[i][t.N-1 : t.N]), nil
}

// octaves is a station with the same fingering some octaves away: two strings
// over for each.
type octaves struct {
	station
	plan *plan
	up   int
}

func (o octaves) find(t Tone, index int, before []neck.Place) ([]sounded, error) {
	found, err := o.station.find(t, index, o.plan.shiftAll(before, -o.up))
	if err != nil {
		return nil, err
	}
	for i := range found {
		at, ok := o.plan.shift(found[i].place, o.up)
		if !ok {
			return nil, beyond{"an octave on"}
		}
		found[i] = sounded{place: at}
	}
	return found, nil
}

// shift moves a place by octaves, two strings for each.
func (p *plan) shift(at neck.Place, octaves int) (neck.Place, bool) {
	s := at.String - 2*octaves
	if s < 1 || s > len(p.guitar.Tuning) {
		return at, false
	}
	to := neck.Place{String: s, Fret: int(p.guitar.Pitch(at)) + 12*octaves - int(p.guitar.Tuning[s-1])}
	return to, p.guitar.Has(to)
}

func (p *plan) shiftAll(at []neck.Place, octaves int) []neck.Place {
	out := make([]neck.Place, 0, len(at))
	for _, a := range at {
		if to, ok := p.shift(a, octaves); ok {
			out = append(out, to)
		}
	}
	return out
}

// over is a station on a chord: its root at a place, degrees as the key gives
// them over it.
type over struct {
	plan    *plan
	root    neck.Place
	name    music.Name
	strings []int
}

func (o over) find(t Tone, index int, before []neck.Place) ([]sounded, error) {
	semitones, err := o.plan.overRoot(o.name, t.Degree)
	if err != nil {
		return nil, err
	}
	g := o.plan.guitar
	pitch := g.Pitch(o.root) + music.Pitch(semitones+12*t.Octave)
	if o.strings != nil {
		s := o.strings[index]
		if s > len(g.Tuning) {
			return nil, &WordError{fmt.Sprint(s), fmt.Sprintf("this guitar has %d strings", len(g.Tuning))}
		}
		at := neck.Place{String: s, Fret: int(pitch - g.Tuning[s-1])}
		if !g.Has(at) {
			return nil, beyond{t.text(Chord)}
		}
		return []sounded{{place: at}}, nil
	}
	// Where no strings are given: near the root, then near the tone before.
	best, least := neck.Place{}, 1<<30
	for _, at := range g.Places(pitch) {
		cost := 0
		if d := at.Fret - o.root.Fret; d < -1 {
			cost += 10 * (-1 - d)
		} else if d > 4 {
			cost += 10 * (d - 4)
		}
		if n := len(before); n > 0 {
			cost += distance(at, before[n-1])
		} else {
			cost += distance(at, o.root)
		}
		if cost < least {
			best, least = at, cost
		}
	}
	if least == 1<<30 {
		return nil, beyond{t.text(Chord)}
	}
	return []sounded{{place: best}}, nil
}

func distance(a, b neck.Place) int {
	return max(a.Fret-b.Fret, b.Fret-a.Fret) + 2*max(a.String-b.String, b.String-a.String)
}

// overRoot is the height of a degree over a chord's root: whichever the key
// gives by the letter, or as written where it has a sign.
func (p *plan) overRoot(root music.Name, d music.Degree) (int, error) {
	if d.Alter != 0 {
		return octaveOf(d) + d.Semitones(), nil
	}
	letter := (int(root.Letter) + d.Number - 1) % 7
	for _, t := range p.palette.Tones {
		if int(t.Name.Letter) == letter {
			return octaveOf(d) + ((t.Name.Class()-root.Class())%12+12)%12, nil
		}
	}
	return 0, &WordError{d.String(), fmt.Sprintf("%s has no %s over %s; write b or # to name it, or take a scale of seven tones", p.palette.Pretty(), d, root.Pretty())}
}

// octaveOf is 12 half steps for a 9th, 11th or 13th.
func octaveOf(d music.Degree) int {
	if d.Number > 7 {
		return 12
	}
	return 0
}

// fits says whether a station holds every tone of a cell; what is wrong with the
// words themselves is an error.
func fits(st station, cell []Step) (bool, error) {
	index := 0
	var before []neck.Place
	for _, s := range cell {
		for _, t := range s.Tones {
			found, err := st.find(t, index, before)
			if _, out := err.(beyond); out {
				return false, nil
			}
			if err != nil {
				return false, err
			}
			before = append(before, found[0].place)
		}
		if len(s.Tones) > 0 {
			index++
		}
		if s.Bend != nil && s.Bend.Semitones == 0 {
			if _, err := st.find(s.Bend.To, min(index, 0), before); err != nil {
				if _, out := err.(beyond); out {
					return false, nil
				}
				return false, err
			}
		}
	}
	return true, nil
}
