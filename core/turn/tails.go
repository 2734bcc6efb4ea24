package turn

import (
	"slices"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// OtherTails lists other ends for a line after note i (counted from 0): walked down to the root, climbed to the upper
// one with a shift, or gone on up or down in the pentatonic of the chord that sounds there, in the place nearest to the
// hand. The root is the chord's, where one sounds, else the key's. Every end is walked to tone by tone: the new notes
// take the times of those they replace and, where the way is longer or nothing follows, go on in the last one's; where
// it is shorter, the last note rings on. Nothing is listed where the lick has no tones.
func OtherTails(g neck.Guitar, l lick.Lick, i int) []Changed {
	if i < 0 || i >= len(l.Notes) {
		return nil
	}
	p, ok := l.PaletteAt(l.Notes[i].At)
	if !ok {
		return nil
	}
	g = g.WithTuning(l.Tuning)
	var slots []lick.Time // when the columns after note i begin
	for _, c := range l.Columns() {
		if at := l.Notes[c[0]].At; l.Notes[i].At.Before(at) {
			slots = append(slots, at)
		}
	}
	first := l.Notes[i].End()
	if len(slots) > 0 {
		first = slots[0]
	}
	var chord music.Chord // that sounds there
	written, over := l.ChordAt(first)
	if over {
		read, err := music.ParseChord(written.Name)
		chord, over = read, err == nil
	}
	root, name := p.Tonic.Class(), "the root"
	if over {
		root, name = chord.Root.Class(), "the root of "+chord.Root.Pretty()
	}
	var out []Changed
	add := func(what string, pitches []music.Pitch, climb bool) {
		if t, ok := retailed(g, l, i, slots, pitches, climb); ok {
			out = append(out, Changed{what, t})
		}
	}
	from := g.Pitch(l.Notes[i].Place())
	add("Walk down to "+name, stepsTo(p, root, from, -1), false)
	add("Climb to the upper root", stepsTo(p, root, from, 1), true)
	if own, err := music.NewPalette(chord.Root.String(), ownPentatonic(chord), nil, nil); over && err == nil {
		add("On in the pentatonic of "+chord.Root.Pretty()+", down", stepsTo(own, root, from, -1), false)
		add("On in the pentatonic of "+chord.Root.Pretty()+", up", stepsTo(own, root, from, 1), false)
	}
	return out
}

// stepsTo walks through a palette to the next root that takes at least two steps.
func stepsTo(p music.Palette, root int, from music.Pitch, by int) []music.Pitch {
	var out []music.Pitch
	for pitch := from + music.Pitch(by); pitch > 0 && pitch < music.MaxPitch; pitch += music.Pitch(by) {
		if p.At(pitch).Role == music.Outside && pitch.Class() != root {
			continue
		}
		out = append(out, pitch)
		if pitch.Class() == root && len(out) > 1 {
			return out
		}
	}
	return nil
}

// ownPentatonic is minor over a chord with a minor third, else major.
func ownPentatonic(c music.Chord) string {
	if slices.ContainsFunc(c.Degrees, func(d music.Degree) bool { return d.Semitones() == 3 }) {
		return "minor pentatonic"
	}
	return "major pentatonic"
}

// retailed replaces what follows note i. A tail that climbs stays on its string as long as it goes, the others take the
// nearest places. The times of the notes that are replaced are kept, so that the rhythm goes on; a tail with more notes
// than those goes on in steps of the last one's length, and one with fewer lets its last note ring to the end.
func retailed(g neck.Guitar, l lick.Lick, i int, slots []lick.Time, pitches []music.Pitch,
	climb bool) (lick.Lick, bool) {
	if len(pitches) == 0 {
		return l, false
	}
	out := l.Clone()
	end := l.End()
	slots = slices.Clone(slots)
	step := l.Notes[i].Len
	if n := len(slots); n > 0 {
		step = end.Sub(slots[n-1])
	} else {
		slots, end = append(slots, l.Notes[i].End()), l.Notes[i].End().Add(step)
	}
	for len(slots) < len(pitches) { // the way is longer than what it replaces
		slots = append(slots, end)
		end = end.Add(step)
	}
	out.ForgetRecipes()
	out.Notes = slices.DeleteFunc(out.Notes, func(n lick.Note) bool { return l.Notes[i].At.Before(n.At) })
	for k := range out.Notes {
		if n := &out.Notes[k]; slots[0].Before(n.End()) {
			n.Len = slots[0].Sub(n.At)
		}
	}
	home := l.Notes[i].Place()
	last := home
	for k, pitch := range pitches {
		at, ok := nearestTo(g, pitch, last, home, climb)
		if !ok {
			return l, false
		}
		stop := end
		if k+1 < len(pitches) {
			stop = slots[k+1]
		}
		out.Notes = append(out.Notes,
			lick.Note{At: slots[k], Len: stop.Sub(slots[k]), String: at.String, Fret: at.Fret})
		if last = at; climb {
			home = at
		}
	}
	out.Sort()
	return out, out.Validate() == nil
}

// climbFrets is how far up its string a climb goes before it changes strings.
const climbFrets = 5

// nearestTo finds a place for the next note of a tail: near the frets where the
// hand stood, on a string near the last one.
func nearestTo(g neck.Guitar, pitch music.Pitch, last, home neck.Place, climb bool) (neck.Place, bool) {
	return g.Best(pitch, func(at neck.Place) int {
		if climb && at.String == last.String && at.Fret-last.Fret <= climbFrets {
			return -1 // before any other
		}
		return 2*max(at.Fret-home.Fret, home.Fret-at.Fret) + max(at.String-last.String, last.String-at.String)
	})
}
