package judge

import (
	"slices"

	"ornamen/core/changes"
	"ornamen/core/lick"
	"ornamen/core/player"
	"ornamen/core/say"
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

// landingFinding tells every landing of one sort, by the notes that land or, where none does, by the first and the last
// note over the chord. A change over which nothing sounds is no landing and is not told.
func (j *Judgement) landingFinding(word changes.Word, words func(x changes.Landing) say.Words) (out []Finding) {
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
		out = append(out, heard(words(x), notes...))
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
	return j.landingFinding(changes.Early, func(x changes.Landing) say.Words {
		return say.LandsEarly(j.landed(x), j.chord(x.Chord), j.chord(x.Chord-1), say.Beats(j.Written, x.OffBy))
	})
}

// landingLate is a phrase whose first chord tone comes after the change.
func landingLate(j *Judgement) []Finding {
	return j.landingFinding(changes.Late, func(x changes.Landing) say.Words {
		return say.LandsLate(j.landed(x), j.chord(x.Chord), j.place(x.Chord), say.Beats(j.Written, x.OffBy))
	})
}

// chordMissed is a chord over which something sounds, but nothing that tells which chord it is.
func chordMissed(j *Judgement) []Finding {
	return j.landingFinding(changes.Missed, func(x changes.Landing) say.Words {
		return say.MissesChord(j.chord(x.Chord), j.place(x.Chord))
	})
}

// clashRule is a tone a half step above a chord tone that is held for longer than a half note, left by leap or the last
// of its phrase. A strict player hears the ♭3 and the 4 of a blues so too, an easy one none of it.
func clashRule(j *Judgement) (out []Finding) {
	if j.player.Strict == player.Easy {
		return nil
	}
	r := j.harmony()
	for _, n := range r.Notes {
		blue := j.player.Strict == player.Every && r.ByHabit(n)
		if n.Role != changes.Clash && !blue || n.Passes || r.Early(n.Note) {
			continue
		}
		w := say.BlueThird(n.Degree, r.Chords[n.Chord].Name)
		if above, ok := r.Above(n); ok && n.Degree.Semitones() != 3 {
			w = say.Clash(n.Degree, r.Chords[n.Chord].Name, above)
		}
		out = append(out, heard(w, n.Note+1))
	}
	return out
}

// held is how long a tension sounds before it is said.
var held = lick.NewTime(1, 2)

// tensionHeld is a tension that is held for a half note or more. An easy player hears none of it.
func tensionHeld(j *Judgement) (out []Finding) {
	if j.player.Strict == player.Easy {
		return nil
	}
	r := j.harmony()
	for _, n := range r.Notes {
		if n.Role != changes.Tension || j.Written.Notes[n.Note].Len.Before(held) {
			continue
		}
		long := say.Beats(j.Written, j.Written.Notes[n.Note].Len)
		out = append(out, heard(say.TensionHeld(n.Degree, r.Chords[n.Chord].Name, long), n.Note+1))
	}
	return out
}

// landed names the tones that land, each once: "root", "fifth".
func (j *Judgement) landed(x changes.Landing) (words []string) {
	r := j.harmony()
	for _, i := range x.Notes {
		_, role := changes.Of(r.Chords[x.Chord].Chord, nil, changes.Sounding(j.Written, i))
		if !slices.Contains(words, string(role)) {
			words = append(words, string(role))
		}
	}
	return words
}

// chord is a change's name.
func (j *Judgement) chord(k int) string { return j.harmony().Chords[k].Name }

// place says where a chord begins.
func (j *Judgement) place(k int) string { return say.ChordPlace(j.Written, j.harmony().Chords[k].At) }

// OfChanges says whether the finding is about the chords under the line.
func (f Finding) OfChanges() bool {
	switch f.Code {
	case LandingEarly, LandingLate, ChordMissed, ClashCode, TensionHeld:
		return true
	}
	return false
}
