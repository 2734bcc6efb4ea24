package judge

import (
	"ornamen/core/lick"
	"ornamen/core/player"
)

// Barre is a finger that lies flat over some strings for a while. It may be laid before
// its first note needs it and lifted after its last: as soon as the finger stands over its
// fret, and as long as nothing behind it sounds on its strings (common practice).
type Barre struct {
	Finger lick.Finger `json:"finger"`
	Fret   int         `json:"fret"`
	Thick  int         `json:"from_string"` // the thickest string under it
	Thin   int         `json:"to_string"`
	Notes  [2]int      `json:"notes"` // from which to which it lies, from 1
	First  int         `json:"-"`     // the columns of the two
	Last   int         `json:"-"`
}

// barres finds where fingers lie flat: two notes of one column at one fret under one finger, notes in turn that are
// marked so, or an index that the player's habit lays flat behind a bend.
func (j *Judgement) barres() (out []Barre) {
	for f := lick.Index; f <= lick.Little; f++ {
		for c := 0; c < len(j.Columns); {
			end := j.staysFrom(c, f)
			if b, ok := j.barreIn(f, c, end); ok {
				out = append(out, b)
			}
			c = end
		}
	}
	return out
}

// staysFrom is the column at which finger f no longer stands over the fret where it stands in column c.
func (j *Judgement) staysFrom(c int, f lick.Finger) int {
	fret := j.handed.Steps[c].Frame[f-lick.Index]
	end := c + 1
	for end < len(j.Columns) && j.handed.Steps[end].Frame[f-lick.Index] == fret && j.handed.Steps[end].Possible {
		end++
	}
	return end
}

// barreIn looks for a barre of finger f within the columns [from, to) of one stand.
func (j *Judgement) barreIn(f lick.Finger, from, to int) (Barre, bool) {
	b := Barre{Finger: f, Fret: j.handed.Steps[from].Frame[f-lick.Index], First: -1}
	marked, together, bent := 0, false, false
	for c := from; c < to; c++ {
		here := 0
		for i := j.Columns[c][0]; i < j.Columns[c][1]; i++ {
			n := j.Written.Notes[i]
			bent = bent || n.Bend != nil && n.Finger > f
			if n.Finger != f || n.Fret != b.Fret || n.Fret == 0 {
				continue
			}
			here++
			if n.Barre {
				marked++
			}
			if b.First < 0 {
				b.First, b.Thick, b.Thin = c, n.String, n.String
			}
			b.Last, b.Thick, b.Thin = c, max(b.Thick, n.String), min(b.Thin, n.String)
		}
		together = together || here > 1
	}
	habit := f == lick.Index && bent && j.player.Helping == player.HelpFlat
	if b.First < 0 || b.Thick == b.Thin || !(together || marked > 1 || habit) {
		return b, false
	}
	// Laid early and lifted late, by a column on either side.
	if b.First > from && j.roomUnder(b, b.First-1) {
		b.First--
	}
	if b.Last+1 < to && j.roomUnder(b, b.Last+1) {
		b.Last++
	}
	b.Notes = [2]int{j.Columns[b.First][0] + 1, j.Columns[b.Last][1]}
	return b, true
}

// roomUnder says whether the barre may lie while a column sounds: nothing of it is played
// behind the finger on its strings.
func (j *Judgement) roomUnder(b Barre, c int) bool {
	for i := j.Columns[c][0]; i < j.Columns[c][1]; i++ {
		n := j.Written.Notes[i]
		if n.String <= b.Thick && n.String >= b.Thin && n.Fret < b.Fret {
			return false
		}
	}
	return true
}
