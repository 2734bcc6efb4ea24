package run

import (
	"fmt"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/phrase"
	"ornamen/core/shape"
)

// sounded is a tone at its place. SlideFrom is the fret it is slid to from in a
// layout whose positions are joined by slides, 0 for none.
type sounded struct {
	place     neck.Place
	slideFrom int
}

// station is one place where a cell is played: it finds what a step's tone is there, in playing
// order where it is several places at once, as on a ladder of pairs.
//
// index counts the tones of the cell before this one, for cells that name a string for each. before are the cell's
// places so far, the latest last. The error is a beyond where the tone lies outside the layout, which ends a run; any
// other means that the words ask for what no station has.
type station interface {
	find(t phrase.Tone, index int, before []neck.Place) ([]sounded, error)
}

// beyond says that a tone lies outside what the layout holds. It is told apart by its type: a run without a length ends
// there, one with a length is refused.
type beyond struct{ tone string }

// Error is one sentence that names the tone.
func (e beyond) Error() string { return fmt.Sprintf("%s is beyond the layout there", e.tone) }

// soundedOf are the places of a ladder's step.
func soundedOf(step []shape.Placed) []sounded {
	out := make([]sounded, len(step))
	for i, t := range step {
		out[i] = sounded{t.Place, t.Slide}
	}
	return out
}

// rung is a station on a ladder: tone 1 is step p.
type rung struct {
	*shape.Ladder
	p int
}

// find counts from the rung: 1 is the rung itself, 0 the step below it.
func (r rung) find(t phrase.Tone, _ int, _ []neck.Place) ([]sounded, error) {
	i := r.p + t.N - 1
	if i < 0 || i >= len(r.Steps) {
		return nil, beyond{t.Text(phrase.Tones)}
	}
	return soundedOf(r.Steps[i]), nil
}

// past is a rung from which tones beyond either end of the ladder are found too: the palette's next
// ones, each as near as may be to the one that the ladder ends with.
type past struct {
	plan *plan
	rung
}

// find is the ladder's own step where it has one.
func (s past) find(t phrase.Tone, index int, before []neck.Place) ([]sounded, error) {
	if found, err := s.rung.find(t, index, before); err == nil {
		return found, nil
	}
	i, up := s.p+t.N-1, true
	n, end := i-len(s.Steps)+1, s.Steps[len(s.Steps)-1][0]
	if i < 0 {
		n, end, up = -i, s.Steps[0][0], false
	}
	g, pitch := s.plan.guitar, end.Pitch
	by := music.Pitch(1)
	if !up {
		by = -1
	}
	for n > 0 {
		if pitch += by; pitch < 0 || pitch > music.MaxPitch {
			return nil, beyond{t.Text(phrase.Tones)}
		}
		if tone := s.plan.palette.At(pitch); tone.Role != music.Outside {
			n--
		}
	}
	past := func(at neck.Place) int { return max(at.Fret-end.Place.Fret, end.Place.Fret-at.Fret) }
	best, ok := g.Best(pitch, past)
	if !ok || past(best) > pastFrets {
		return nil, beyond{t.Text(phrase.Tones)}
	}
	return []sounded{{place: best}}, nil
}

// pastFrets is how many frets past the end of its layout a tail may go.
const pastFrets = 4

// window is a station on the strings of a layout: string a is the one at index
// first, the next ones follow in the run's direction.
type window struct {
	*shape.Ladder
	first int
	down  bool
}

// find counts strings from the window's first one in the run's direction, and tones from the lowest of that string.
func (w window) find(t phrase.Tone, _ int, _ []neck.Place) ([]sounded, error) {
	i := w.first + t.String
	if w.down {
		i = w.first - t.String
	}
	if i < 0 || i >= len(w.ByString) || t.N > len(w.ByString[i]) {
		return nil, beyond{t.Text(phrase.Strings)}
	}
	return soundedOf(w.ByString[i][t.N-1 : t.N]), nil
}

// within is a station in a scale of its own, whose tones the line has while it is there, or over a
// chord of its own, which stands under the line then.
type within struct {
	station
	key   *lick.Key
	chord string
}

// octaves is a station with the same fingering some octaves away, two strings over for each: in standard tuning the
// shape changes only where it crosses from string 3 to 2, and Octaves of the guitar knows by how much.
type octaves struct {
	station
	plan *plan
	up   int
}

// find looks in the first octave and takes what it finds as many octaves on.
func (o octaves) find(t phrase.Tone, index int, before []neck.Place) ([]sounded, error) {
	found, err := o.station.find(t, index, o.plan.shiftAll(before, -o.up))
	if err != nil {
		return nil, err
	}
	for i := range found {
		at, ok := o.plan.guitar.Octaves(found[i].place, o.up)
		if !ok {
			return nil, beyond{"an octave on"}
		}
		found[i] = sounded{place: at}
	}
	return found, nil
}

// shiftAll takes places octaves away and leaves out those that fall off the neck.
func (p *plan) shiftAll(at []neck.Place, octaves int) []neck.Place {
	out := make([]neck.Place, 0, len(at))
	for _, a := range at {
		if to, ok := p.guitar.Octaves(a, octaves); ok {
			out = append(out, to)
		}
	}
	return out
}

// over is a station on a chord: its root at a place, degrees as the key gives them over it.
type over struct {
	plan    *plan
	root    neck.Place
	name    music.Name
	chord   lineChord
	strings []int
}

// find is the degree over the chord's root: on the string that the cell names for this step, else at the cheapest place
// by its distance from the hand's frets around the root and from the tone before.
//
// The hand lies from one fret below the root to four above it (index below, little finger a
// stretch beyond). Inside, only the way from the tone before counts; each fret outside costs as
// much as ten frets of way, so that a tone leaves the hand only where no string has it inside.
func (o over) find(t phrase.Tone, index int, before []neck.Place) ([]sounded, error) {
	semitones := t.Degree.Semitones()
	if !t.Plain {
		var err error
		if semitones, err = o.plan.overChord(o.name, o.chord, t.Degree); err != nil {
			return nil, err
		}
	}
	g := o.plan.guitar
	pitch := g.Pitch(o.root) + music.Pitch(semitones+12*t.Octave)
	if o.strings != nil {
		s := o.strings[min(index, len(o.strings)-1)] // more tones than strings go on on the last
		if s > len(g.Tuning) {
			return nil, phrase.Wrong(fmt.Sprint(s), fmt.Sprintf("this guitar has %d strings", len(g.Tuning)))
		}
		at := neck.Place{String: s, Fret: int(pitch - g.Tuning[s-1])}
		if !g.Has(at) {
			return nil, beyond{t.Text(phrase.Chord)}
		}
		return []sounded{{place: at}}, nil
	}
	// Where no strings are given: near the root, then near the tone before.
	last := o.root
	if n := len(before); n > 0 {
		last = before[n-1]
	}
	best, ok := g.Best(pitch, func(at neck.Place) int {
		d := at.Fret - o.root.Fret
		return 10*max(0, -1-d, d-4) + neck.Apart(at, last)
	})
	if !ok {
		return nil, beyond{t.Text(phrase.Chord)}
	}
	return []sounded{{place: best}}, nil
}

// fits says whether a station holds every tone of a cell; what is wrong with the words themselves is an error.
func fits(st station, cell []phrase.Step) (bool, error) {
	index := 0
	var before []neck.Place
	for _, s := range cell {
		for k, t := range s.Tones {
			found, err := st.find(t, index+k, before)
			if _, out := err.(beyond); out {
				return false, nil
			}
			if err != nil {
				return false, err
			}
			before = append(before, found[0].place)
		}
		if s.Bend != nil && s.Bend.Semitones == 0 {
			if _, err := st.find(s.Bend.To, index, before); err != nil {
				if _, out := err.(beyond); out {
					return false, nil
				}
				return false, err
			}
		}
		index += len(s.Tones)
	}
	return true, nil
}

// overChord is the height of a degree over a chord: as the key gives it over the root, else as the
// chord has it, which in a key of five tones is its parent's.
func (p *plan) overChord(root music.Name, c lineChord, d music.Degree) (int, error) {
	n, err := p.overRoot(root, d)
	for _, own := range c.chord.Degrees {
		if err != nil && own.Number == d.Number {
			return own.Semitones(), nil
		}
	}
	return n, err
}

// overRoot is the height of a degree over a chord's root.
func (p *plan) overRoot(root music.Name, d music.Degree) (int, error) {
	palette := p.palette
	if p.Follow == "chord" {
		var err error
		if palette, err = p.onRoot(root); err != nil {
			return 0, err
		}
	}
	if n, ok := palette.Over(root, d); ok {
		return n, nil
	}
	return 0, phrase.Wrong(d.String(), fmt.Sprintf("%s has no %s over %s; write b or # to name it, or take a scale of "+
		"seven tones", p.palette.Pretty(), d, root.Pretty()))
}

// ladderOf is the ladder under a station, nil where there is none.
func ladderOf(st station) *shape.Ladder {
	switch st := st.(type) {
	case rung:
		return st.Ladder
	case window:
		return st.Ladder
	case octaves:
		return ladderOf(st.station)
	case within:
		return ladderOf(st.station)
	}
	return nil
}
