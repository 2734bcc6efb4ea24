package judge

import (
	"ornamen/core/bend"
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/player"
	"ornamen/core/say"
)

// bent calls f for every note with a bend.
func (j *Judgement) bent(f func(i int, n lick.Note, b bendState)) {
	for i, n := range j.Written.Notes {
		if n.Bend != nil {
			f(i, n, j.bends[i])
		}
	}
}

// bendOpenString: nothing pushes an open string, and no push reaches every pitch; see bend.Solve.
func bendOpenString(j *Judgement) (out []Finding) {
	j.bent(func(i int, n lick.Note, b bendState) {
		switch {
		case n.Fret == 0:
			out = append(out, always(Breaks, say.OpenBent(), i))
		case !b.solved:
			out = append(out, always(Breaks, say.NoPush(), i))
		}
	})
	return out
}

// bendOffEdge: the string would leave the fretboard on the side to which it is pushed,
// bend.EdgeSpare kept free. Lengths in mm at the fret of the push.
func bendOffEdge(j *Judgement) (out []Finding) {
	j.bent(func(i int, n lick.Note, b bendState) {
		if !b.solved || b.push.Way+bend.EdgeSpare <= b.room {
			return
		}
		f := always(Breaks, say.OffEdge(j.Written, i, b.push.Way, b.room), i)
		f.Need, f.Have, f.Unit = float64(b.push.Way+bend.EdgeSpare), float64(b.room), "mm"
		out = append(out, f)
	})
	return out
}

// bendForce is the rule of a bend whose force is over the strength there. Forces in newtons at the fingertip; over
// bend.Breaking times the strength it breaks. helped chooses between the two findings: with fingers behind it the way
// out is another place or a smaller bend; without them, because the others are busy, lie behind it or are not asked, a
// helper.
func bendForce(helped bool) func(*Judgement) []Finding {
	return func(j *Judgement) (out []Finding) {
		j.bent(func(i int, n lick.Note, b bendState) {
			if !b.solved || b.push.Force <= b.holds || (len(b.helpers) > 0) != helped {
				return
			}
			sev := Tight
			if b.push.Force > b.holds*bend.Breaking {
				sev = Breaks
			}
			f := always(sev, say.TooHeavy(j.Written, i, len(b.helpers), b.push.Force, b.holds), i)
			f.Need, f.Have, f.Unit = float64(b.push.Force), float64(b.holds), "N"
			out = append(out, f)
		})
		return out
	}
}

// bendLate: the push, its hold and its release do not fit into the note.
func bendLate(j *Judgement) []Finding {
	return j.late(Bending, func(i int, l Load) (say.Words, bool) {
		return say.BendLate(j.Written.Notes[i].Bend.Semitones, j.bends[i].push.Way, l.Words()), true
	})
}

// bendAimless is a bend to a tone that was not chosen. A curl is a colour and needs no target, unless the player is
// strict: then the half step it leads toward must be one.
func bendAimless(j *Judgement) (out []Finding) {
	if j.player.Strict == player.Easy {
		return nil
	}
	j.bent(func(i int, n lick.Note, b bendState) {
		p, ok := j.Written.PaletteAt(n.At)
		if !ok || n.Bend.Semitones < 1 && j.player.Strict != player.Every || b.target.Role != music.Outside {
			return
		}
		out = append(out, heard(say.Aimless(b.target, p), i+1))
	})
	return out
}

// vibratoShort: a vibrato needs a note of bend.VibratoTime to be heard as one, after its bend where it has both.
func vibratoShort(j *Judgement) []Finding {
	return j.late(Shaking, func(int, Load) (say.Words, bool) { return say.VibratoShort(), true })
}
