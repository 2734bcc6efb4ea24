package judge

import (
	"fmt"
	"slices"
	"strings"

	"ornamen/core/changes"
	"ornamen/core/lick"
	"ornamen/core/player"
)

// How the line goes with the chords under it. All of these are heard, not felt by a hand:
// they never change the verdict, and can be meant.

// harmony is the line against its chords, read once.
func (j *Judgement) harmony() *changes.Report {
	if j.chorded == nil {
		r := changes.Read(j.Written)
		j.chorded = &r
	}
	return j.chorded
}

// landingFinding is what is said of a landing with a word.
func (j *Judgement) landingFinding(
	word changes.Word,
	title string,
	text func(x changes.Landing) string,
) (out []Finding) {
	for _, x := range j.harmony().Landings {
		if x.Word != word {
			continue
		}
		notes := make([]int, len(x.Notes))
		for k, i := range x.Notes {
			notes[k] = i + 1
		}
		if len(notes) == 0 {
			notes = j.over(x.Chord)
		}
		out = append(out, Finding{Severity: Flows, Notes: notes, Title: title, Musical: true, Text: text(x)})
	}
	return out
}

// over are the first and the last note that begin over a chord, from 1.
func (j *Judgement) over(chord int) (out []int) {
	for _, n := range j.harmony().Notes {
		if n.Chord != chord {
			continue
		}
		if len(out) < 2 {
			out = append(out, n.Note+1)
		} else {
			out[1] = n.Note + 1
		}
	}
	return out
}

// landingEarly is a phrase that reaches the next chord's tones while the one before it still
// holds (common practice: too early is as wrong as too late).
func landingEarly(j *Judgement) []Finding {
	return j.landingFinding(changes.Early, "lands early", func(x changes.Landing) string {
		return fmt.Sprintf("The %s of %s %s %s before it, over %s.", j.landed(x), j.chord(x.Chord), sound(len(x.Notes)),
			beats(j.Written, x.OffBy), j.chord(x.Chord-1))
	})
}

// landingLate is a phrase whose first chord tone comes after the change.
func landingLate(j *Judgement) []Finding {
	return j.landingFinding(changes.Late, "lands late", func(x changes.Landing) string {
		return fmt.Sprintf("%s begins in %s; its %s %s after it.", j.chord(x.Chord), j.place(x.Chord), j.landed(x),
			comes(len(x.Notes), beats(j.Written, x.OffBy)))
	})
}

// chordMissed is a chord over which something sounds, but nothing that tells which chord it is.
func chordMissed(j *Judgement) []Finding {
	return j.landingFinding(changes.Missed, "misses the chord", func(x changes.Landing) string {
		return fmt.Sprintf("Over %s, from %s on, sounds none of its root, third, fifth and seventh.", j.chord(x.Chord),
			j.place(x.Chord))
	})
}

// clashRule is a tone a half step above a chord tone that does not pass on by step at once. A
// strict player hears the ♭3 over a major chord so too, an easy one none of it.
func clashRule(j *Judgement) (out []Finding) {
	if j.player.Strict == player.Easy {
		return nil
	}
	r := j.harmony()
	for _, n := range r.Notes {
		blue := j.player.Strict == player.Every && n.Role == changes.Colour && r.BlueThird(n)
		if n.Role != changes.Clash && !blue || n.Passes || r.Early(n.Note) {
			continue
		}
		text := fmt.Sprintf("The %s over %s", n.Degree.Pretty(), r.Chords[n.Chord].Name)
		if above, ok := r.Above(n); ok {
			text += fmt.Sprintf(" lies a half step above its %s and does not go on by step.", above.Pretty())
		} else {
			text += " lies a half step below its third, as in the blues."
		}
		out = append(
			out,
			Finding{Severity: Flows, Notes: []int{n.Note + 1}, Title: "clashes with the chord", Musical: true,
				Text: text},
		)
	}
	return out
}

// held is how long a tension sounds before it is said.
var held = lick.NewTime(1, 2)

// tensionHeld is a tension that is held for a half note or more.
func tensionHeld(j *Judgement) (out []Finding) {
	if j.player.Strict == player.Easy {
		return nil
	}
	r := j.harmony()
	for _, n := range r.Notes {
		if n.Role != changes.Tension || j.Written.Notes[n.Note].Len.Before(held) {
			continue
		}
		out = append(out, Finding{Severity: Flows, Notes: []int{n.Note + 1}, Title: "a tension is held", Musical: true,
			Text: fmt.Sprintf("The %s over %s is held for %s: a tension wants to go on to a tone of the chord.",
				n.Degree.Pretty(), r.Chords[n.Chord].Name, beats(j.Written, j.Written.Notes[n.Note].Len))})
	}
	return out
}

// landed names the tones that land: "root and fifth".
func (j *Judgement) landed(x changes.Landing) string {
	r := j.harmony()
	var words []string
	for _, i := range x.Notes {
		_, role := changes.Of(r.Chords[x.Chord].Chord, nil, changes.Sounding(j.Written, i))
		if !slices.Contains(words, string(role)) {
			words = append(words, string(role))
		}
	}
	return strings.Join(words, " and ")
}

// chord is a change's name.
func (j *Judgement) chord(k int) string { return j.harmony().Chords[k].Name }

// place is where a chord begins: "bar 2", "beat 3 of bar 2".
func (j *Judgement) place(k int) string {
	p := j.Written.Position(j.harmony().Chords[k].At)
	if p.Beat == 1 && p.Off.IsZero() {
		return fmt.Sprintf("bar %d", p.Bar)
	}
	return fmt.Sprintf("beat %d of bar %d", p.Beat, p.Bar)
}

// sound agrees with the number of tones.
func sound(n int) string {
	if n == 1 {
		return "sounds"
	}
	return "sound"
}

// comes agrees with the number of tones.
func comes(n int, when string) string {
	if n == 1 {
		return "comes " + when
	}
	return "come " + when
}

// beats is a length in beats of the meter: "a beat", "half a beat", "2 beats".
func beats(l lick.Lick, t lick.Time) string {
	if t.Before(lick.Time{}) {
		t = lick.Time{}.Sub(t)
	}
	unit := lick.NewTime(1, int64(l.Meter.Unit))
	whole, rest := t.Div(unit)
	switch {
	case rest.IsZero() && whole == 1:
		return "a beat"
	case rest.IsZero():
		return fmt.Sprintf("%d beats", whole)
	case whole == 0 && rest.Times(2).Cmp(unit) == 0:
		return "half a beat"
	}
	num, den := t.Times(int64(l.Meter.Unit)).Parts()
	return fmt.Sprintf("%d/%d of a beat", num, den)
}

// OfChanges says whether the finding is about the chords under the line.
func (f Finding) OfChanges() bool {
	switch f.Code {
	case LandingEarly, LandingLate, ChordMissed, ClashCode, TensionHeld:
		return true
	}
	return false
}
