package hear

import (
	"math"
	"slices"

	"ornamen/core/lick"
)

// Timing is when the notes of a played line begin and how long they last, as they are written, at a tempo.
type Timing struct {
	Tempo   float64
	Parts   int64 // of a whole note: the grid that explains what was played
	At, Len []lick.Time
	Unsure  []bool // a beginning that lies between two places of the grid
}

// divisions are the grids that are tried, in parts of a quarter, with what each must explain better than the first.
var divisions = []struct {
	parts int64
	price float64
}{{4, 1}, {2, 1}, {1, 1}, {3, 1.25}, {6, 1.6}, {8, 1.3}}

// OnGrid writes beginnings in seconds onto the grid that explains them best at a tempo, or at the tempo that does, if
// none is given: the mean of how far they are off, against what notes at random would be. The first note is on the
// first place of the grid.
func OnGrid(notes []PlayedNote, tempo float64) Timing {
	if tempo <= 0 {
		tempo = tempoOf(notes)
	}
	best, unit, parts, phase := math.Inf(1), 0.0, int64(4), 0.0
	for _, d := range divisions {
		u := 60 / tempo / float64(d.parts)
		off, at := phaseOf(notes, u)
		if cost := d.price * (off + 0.004) / (u / 4); cost < best && apart(notes, u) {
			best, unit, parts, phase = cost, u, d.parts, at
		}
	}
	if unit == 0 {
		unit, parts = 60/tempo/4, 4
		_, phase = phaseOf(notes, unit)
	}
	t := Timing{Tempo: tempo, Parts: 4 * parts}
	place := func(s float64) float64 { return (s - phase) / unit }
	first := math.Round(place(notes[0].At))
	last := -1.0
	steps := make([]float64, len(notes))
	for i, n := range notes {
		k := place(n.At)
		steps[i] = max(math.Round(k)-first, last+1)
		last = steps[i]
		t.At = append(t.At, lick.NewTime(int64(steps[i]), t.Parts))
		t.Unsure = append(t.Unsure, math.Abs(k-first-steps[i]) > 0.3)
	}
	for i, n := range notes {
		sounds := max(1, math.Round((n.End-n.At)/unit))
		if i+1 < len(notes) {
			// A string that rings into the next note, or nearly, is held; only a rest that is meant ends it.
			if next := steps[i+1] - steps[i]; sounds > next-2 || sounds > 0.7*next {
				sounds = next
			}
		}
		t.Len = append(t.Len, lick.NewTime(int64(min(sounds, 4*float64(t.Parts))), t.Parts))
	}
	return t
}

// apart says whether a grid of a step tells all beginnings apart.
func apart(notes []PlayedNote, unit float64) bool {
	for i := 1; i < len(notes); i++ {
		if notes[i].At-notes[i-1].At < 0.55*unit {
			return false
		}
	}
	return true
}

// phaseOf is where a grid of a step lies so that beginnings are off by the least, in seconds on the mean, and that.
// The best grid goes through one of them, or through the middle of several.
func phaseOf(notes []PlayedNote, unit float64) (off, phase float64) {
	off = math.Inf(1)
	shift := make([]float64, len(notes))
	for k := 0; k < len(notes); k += 1 + len(notes)/16 { // so many starts find it, however long the line is
		base := math.Mod(notes[k].At, unit)
		for i, m := range notes {
			shift[i] = math.Remainder(m.At-base, unit)
		}
		slices.Sort(shift)
		at := base + shift[len(shift)/2]
		sum := 0.0
		for _, m := range notes {
			sum += math.Abs(math.Remainder(m.At-at, unit))
		}
		if mean := sum / float64(len(notes)); mean < off {
			off, phase = mean, at
		}
	}
	return off, phase
}

// tempoOf is the tempo of a line that says none: the longest step that explains all beginnings, taken as a sixteenth,
// an eighth or a quarter so that the tempo is a usual one.
func tempoOf(notes []PlayedNote) float64 {
	if len(notes) < 3 {
		return lick.DefaultTempo
	}
	best, unit := math.Inf(1), 0.15
	for u := 0.085; u < 0.9; u *= 1.004 {
		if !apart(notes, u) {
			continue
		}
		off, _ := phaseOf(notes, u)
		if cost := (off + 0.003) / (u / 4); cost < best {
			best, unit = cost, u
		}
	}
	// What the steps are on the mean, from the line as a whole.
	_, phase := phaseOf(notes, unit)
	var n, sx, sy, sxx, sxy float64
	for _, m := range notes {
		k := math.Round((m.At - phase) / unit)
		n, sx, sy, sxx, sxy = n+1, sx+k, sy+m.At, sxx+k*k, sxy+k*m.At
	}
	if d := n*sxx - sx*sx; d > 0 {
		unit = (n*sxy - sx*sy) / d
	}
	tempo := 15 / unit
	for tempo > 140 {
		tempo /= 2
	}
	for tempo < 60 {
		tempo *= 2
	}
	for _, by := range []float64{15, 30, 60, 20} {
		if t := by / unit; t >= 60 && t <= 140 {
			tempo = t
			break
		}
	}
	return max(lick.MinTempo, min(lick.MaxTempo, math.Round(tempo)))
}
