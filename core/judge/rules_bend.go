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

type bendOpenString struct{}

func (bendOpenString) code() string { return "bend-open-string" }

func (bendOpenString) find(j *Judgement) (out []Finding) {
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

type bendOffEdge struct{}

func (bendOffEdge) code() string { return "bend-off-edge" }

func (bendOffEdge) find(j *Judgement) (out []Finding) {
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

func helperWord(n int) string {
	switch n {
	case 0:
		return "no helper"
	case 1:
		return "one helper"
	}
	return fmt.Sprintf("%d helpers", n)
}

// bendHeavy is too much force even with helpers.
type bendHeavy struct{}

func (bendHeavy) code() string                { return "bend-heavy" }
func (bendHeavy) find(j *Judgement) []Finding { return bendForce(j, true, "a heavy bend") }

// bendWeak is a bend that a finger must hold alone.
type bendWeak struct{}

func (bendWeak) code() string                { return "bend-weak" }
func (bendWeak) find(j *Judgement) []Finding { return bendForce(j, false, "a finger alone") }

type bendLate struct{}

func (bendLate) code() string { return "bend-late" }

func (bendLate) find(j *Judgement) (out []Finding) {
	j.loads(Bending, func(i int, l Load) {
		if loadSeverity(l.Load) > Flows {
			n := j.Written.Notes[i]
			out = append(
				out,
				j.move(i, l, "the bend comes late",
					fmt.Sprintf("A %s bend of %.1f mm", BendWord(n.Bend.Semitones), j.bends[i].push.Way)),
			)
		}
	})
	return out
}

// bendAimless is a bend to a tone that was not chosen. A curl is a colour and
// needs no target, unless the player is strict: then the half step it leads
// toward must be one.
type bendAimless struct{}

func (bendAimless) code() string { return "bend-aimless" }

func (bendAimless) find(j *Judgement) (out []Finding) {
	p, ok := j.Written.Palette()
	if !ok || j.player.Strict == player.Easy {
		return nil
	}
	j.bent(func(i int, n lick.Note, b bendState) {
		if n.Bend.Semitones < 1 && j.player.Strict != player.Every || b.target.Role != music.Outside {
			return
		}
		out = append(out, Finding{Severity: Flows, Notes: []int{i + 1}, Title: "a bend without a target", Musical: true,
			Text: fmt.Sprintf("It goes to %s, the %s, which is not among the tones of %s.", b.target.Name.Pretty(),
				b.target.Degree.Pretty(), p.Pretty())})
	})
	return out
}

type vibratoShort struct{}

func (vibratoShort) code() string { return "vibrato-short" }

func (vibratoShort) find(j *Judgement) (out []Finding) {
	j.loads(Shaking, func(i int, l Load) {
		if loadSeverity(l.Load) > Flows {
			out = append(out, j.move(i, l, "too short for vibrato", "A vibrato wants a long note"))
		}
	})
	return out
}

// noteOutside is a tone neither of the scale nor chosen as colour, unless it
// leads by a half step into one: an approach, or an enclosure of up to four
// notes (common practice).
type noteOutside struct{}

func (noteOutside) code() string { return "note-outside" }

func (noteOutside) find(j *Judgement) (out []Finding) {
	p, ok := j.Written.Palette()
	if !ok {
		return nil
	}
	for i, n := range j.Written.Notes {
		t := p.At(j.Written.Pitch(i))
		if t.Role != music.Outside || n.Mute || j.approaches(p, i) {
			continue
		}
		out = append(out, Finding{Severity: Flows, Notes: []int{i + 1}, Title: "a tone outside", Musical: true,
			Text: fmt.Sprintf("%s, the %s, is not among the tones of %s and does not lead into one by a half step.",
				t.Name.Pretty(), t.Degree.Pretty(), p.Pretty())})
	}
	return out
}

const enclosure = 4

func (j *Judgement) approaches(p music.Palette, i int) bool {
	for k := i + 1; k < len(j.Written.Notes) && k < i+enclosure; k++ {
		d := j.Written.Pitch(k) - j.Written.Pitch(i)
		if p.At(j.Written.Pitch(k)).Role != music.Outside {
			return d == 1 || d == -1
		}
	}
	b := j.Written.Notes[i].Bend
	return b != nil && p.At(j.Written.Pitch(i)+music.Pitch(b.Semitones)).Role != music.Outside
}
