package judge

import (
	"fmt"

	"ornamen/core/bend"
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/player"
)

// bent calls f for every note with a bend.
func (j *Judgement) bent(f func(i int, n lick.Note, b bendState)) {
	for i, n := range j.Written.Notes {
		if n.Bend != nil {
			f(i, n, j.bends[i])
		}
	}
}

// BendWord names an amount: curl, half, full, one and a half, double.
func BendWord(semitones float64) string {
	switch semitones {
	case 0.5:
		return "curl"
	case 1:
		return "half"
	case 2:
		return "full"
	case 3:
		return "one and a half"
	case 4:
		return "double"
	}
	return fmt.Sprintf("%g half steps", semitones)
}

// bendOpenString: nothing pushes an open string, and no push reaches every pitch; see
// bend.Solve.
func bendOpenString(j *Judgement) (out []Finding) {
	j.bent(func(i int, n lick.Note, b bendState) {
		switch {
		case n.Fret == 0:
			out = append(out,
				always(Breaks, "an open string is bent", "There is no finger on an open string to push it.", i))
		case !b.solved:
			out = append(out,
				always(Breaks, "the bend cannot be made", "No push of this string reaches that pitch.", i))
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
		f := always(
			Breaks, "off the edge",
			fmt.Sprintf("The bend pushes %s %.1f mm, but the edge of the fretboard is %.1f mm away on that side.",
				j.stringName(n.String), b.push.Way, b.room),
			i,
		)
		f.Need, f.Have, f.Unit = float64(b.push.Way+bend.EdgeSpare), float64(b.room), "mm"
		out = append(out, f)
	})
	return out
}

// bendForce reports a bend whose force is over the strength there.
func bendForce(j *Judgement, helped bool, title string) (out []Finding) {
	j.bent(func(i int, n lick.Note, b bendState) {
		if !b.solved || b.push.Force <= b.holds || (len(b.helpers) > 0) != helped {
			return
		}
		sev := Tight
		if b.push.Force > b.holds*bend.Breaking {
			sev = Breaks
		}
		f := always(sev, title, fmt.Sprintf("A %s bend at %s takes %.1f N; the %s with %s holds %.1f.",
			BendWord(n.Bend.Semitones), j.where(i), b.push.Force, n.Finger.Word(), helperWord(len(b.helpers)),
			b.holds), i)
		f.Need, f.Have, f.Unit = float64(b.push.Force), float64(b.holds), "N"
		out = append(out, f)
	})
	return out
}

// helperWord counts the fingers behind the one that bends.
func helperWord(n int) string {
	switch n {
	case 0:
		return "no helper"
	case 1:
		return "one helper"
	}
	return fmt.Sprintf("%d helpers", n)
}

// bendHeavy is too much force even with helpers. Forces in newtons at the fingertip; over
// bend.Breaking times the strength it breaks.
func bendHeavy(j *Judgement) []Finding { return bendForce(j, true, "a heavy bend") }

// bendWeak is a bend that a finger must hold alone, because the others are busy, lie
// behind it or are not asked: the fix is a helper.
func bendWeak(j *Judgement) []Finding { return bendForce(j, false, "a finger alone") }

// bendLate: the push, its hold and its release do not fit into the note.
func bendLate(j *Judgement) (out []Finding) {
	j.loads(Bending, func(i int, l Load) {
		if loadSeverity(l.Load) > Flows {
			n := j.Written.Notes[i]
			out = append(
				out,
				j.move(
					i,
					l,
					"the bend comes late",
					fmt.Sprintf(
						"A %s bend of %.1f mm, %s",
						BendWord(n.Bend.Semitones),
						j.bends[i].push.Way,
						l.Words(),
					),
				),
			)
		}
	})
	return out
}

// bendAimless is a bend to a tone that was not chosen. A curl is a colour and
// needs no target, unless the player is strict: then the half step it leads
// toward must be one.
func bendAimless(j *Judgement) (out []Finding) {
	if j.player.Strict == player.Easy {
		return nil
	}
	j.bent(func(i int, n lick.Note, b bendState) {
		p, ok := j.Written.PaletteAt(n.At)
		if !ok || n.Bend.Semitones < 1 && j.player.Strict != player.Every || b.target.Role != music.Outside {
			return
		}
		out = append(out, Finding{Severity: Flows, Notes: []int{i + 1}, Title: "a bend without a target", Musical: true,
			Text: fmt.Sprintf("It goes to %s, the %s, which is not among the tones of %s.", b.target.Name.Pretty(),
				b.target.Degree.Pretty(), p.Pretty())})
	})
	return out
}

// vibratoShort: a vibrato needs a note of bend.VibratoTime to be heard as one, after its
// bend where it has both.
func vibratoShort(j *Judgement) (out []Finding) {
	j.loads(Shaking, func(i int, l Load) {
		if loadSeverity(l.Load) > Flows {
			out = append(out, j.move(i, l, "too short for vibrato", "A vibrato wants a long note"))
		}
	})
	return out
}
