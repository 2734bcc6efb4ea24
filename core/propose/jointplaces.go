package propose

import (
	"cmp"
	"slices"

	"ornamen/core/hand"
	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/pick"
)

// freePlaces lists where each note may be played: the same pitch wherever the player has not set the place. A bend, a
// barre, the thumb, a dead note and a slur that cannot sound belong to their string.
func (j *joint) freePlaces() [][]neck.Place {
	ln := j.line
	fixed := make([]bool, len(ln.Written.Notes))
	for c, col := range ln.Columns {
		for i := col[0]; i < col[1]; i++ {
			n := ln.Written.Notes[i]
			fixed[i] = fixed[i] || n.Locked(lick.FieldString) || n.Locked(lick.FieldFret) || n.Bend != nil ||
				n.Barre || n.Mute || n.Finger == lick.Thumb || ln.SlurOf[i].Code != ""
			if s := ln.SlurOf[i].From; s >= 0 && (c == 0 || s < ln.Columns[c-1][0] || ln.SlurOf[i].Code != "") {
				// It comes from further back, or round the loop.
				fixed[i], fixed[s] = true, true
			}
		}
	}
	// A line without open strings gets none.
	open := slices.ContainsFunc(ln.Written.Notes, func(n lick.Note) bool { return n.Fret == 0 })
	out := make([][]neck.Place, len(fixed))
	for i, n := range ln.Written.Notes {
		given := n.Place()
		if fixed[i] {
			out[i] = []neck.Place{given}
			continue
		}
		for _, p := range ln.Guitar.Places(ln.Written.Pitch(i)) {
			if suits(n, p) && (p.Fret > 0 || n.Fret == 0 || open) {
				out[i] = append(out[i], p)
			}
		}
		if len(out[i]) == 0 {
			out[i] = []neck.Place{given}
		}
		slices.SortStableFunc(out[i], func(a, b neck.Place) int { return cmp.Compare(away(a, given), away(b, given)) })
	}
	return out
}

// away orders places by how far along the neck they lie from a given one, that one first.
func away(p, from neck.Place) int {
	if p == from {
		return -1
	}
	return max(p.Fret-from.Fret, from.Fret-p.Fret)
}

// suits says whether what the note asks for can be done at a place.
func suits(n lick.Note, p neck.Place) bool {
	switch {
	case n.Finger.Fretting() && p.Fret == 0, n.Finger == lick.Open && p.Fret > 0, n.Vibrato != nil && p.Fret == 0:
		return false
	case n.SlideIn != nil:
		return p.Fret > 0 && (n.SlideIn.From == lick.FromAbove || p.Fret > n.SlideIn.Frets)
	}
	return true
}

// addOptions tries every row of places on strings of their own that some hand can hold. Notes that sound together are
// laid one after the other, so a grip of n notes with m places each costs m^n tries at most; a string is taken once,
// and what no hand holds is dropped whole. Notes that are held over keep their fingers and are not struck again.
func (j *joint) addOptions(y *layer, free [][]neck.Place, places []neck.Place) {
	k := len(places)
	if k < len(y.notes) {
		for _, p := range free[y.notes[k]] {
			if fitsWith(places, p) {
				j.addOptions(y, free, append(places, p))
			}
		}
		return
	}
	var touches []hand.Touch
	var picks []pick.Note
	for k, i := range y.notes {
		n := j.line.Written.Notes[i]
		if k < y.held && places[k].Fret == 0 {
			continue // an open string that rings on asks nothing of the hand
		}
		t := j.line.Touch(i, false)
		t.Place = places[k]
		if k < y.held {
			t.Held, t.Slur = true, ""
		} else if !n.Slur.Slurred() {
			p := j.line.PickNote(i, false)
			p.String = places[k].String
			picks = append(picks, p)
		}
		touches = append(touches, t)
	}
	grip, ok := j.hand.Grip(touches)
	if !ok {
		return
	}
	o := option{places: slices.Clone(places), grip: grip}
	if len(picks) > 0 {
		slices.SortStableFunc(picks, func(a, b pick.Note) int { return cmp.Compare(b.String, a.String) })
		for _, c := range pick.Choices(picks) {
			o.choices = append(o.choices, j.memo(c))
		}
	}
	y.options = append(y.options, o)
}

// fitsWith says whether a place may sound together with others: on a string of its own,
// and no farther from them than any frame spans.
func fitsWith(places []neck.Place, p neck.Place) bool {
	for _, q := range places {
		if q.String == p.String ||
			p.Fret > 0 && q.Fret > 0 && (p.Fret-q.Fret > widestSpan || q.Fret-p.Fret > widestSpan) {
			return false
		}
	}
	return true
}

// moved is what the places of an option cost.
func (j *joint) moved(y *layer, option int) (cost float64) {
	for k, i := range y.notes[y.held:] {
		if y.options[option].places[y.held+k] != j.line.Written.Notes[i].Place() {
			if j.clean != "" {
				cost += movedFirst
			} else {
				cost += movedNote
			}
		}
	}
	return cost
}
