package judge

import (
	"context"
	"math"
	"slices"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/say"
)

// noteOutside is a tone neither of the scale nor chosen as colour, unless it leads by a half step into one: an
// approach, or an enclosure of up to four notes (common practice). A bent note counts by where it arrives. A target
// that is itself outside is named with what encloses it.
func noteOutside(j *Judgement) (out []Finding) {
	for i, n := range j.Written.Notes {
		p, ok := j.Written.PaletteAt(n.At)
		if !ok {
			continue
		}
		t := p.At(j.Written.Pitch(i))
		if t.Role != music.Outside || n.Mute || j.approaches(p, i) {
			continue
		}
		w := say.Outside(t, p)
		if a, b, ok := j.enclosed(i); ok {
			w = say.OutsideEnclosed(t, p, a, b)
		}
		out = append(out, heard(w, i+1))
	}
	return out
}

// enclosure is over how many notes a tone outside may lead into its target: a half step
// above and below it, and one more on the way (common practice).
const enclosure = 4

// after lists the next notes of note i's voice, at most so many: a line is heard by its own
// neighbours, whatever another voice plays between them.
func (j *Judgement) after(i, most int) (out []int) {
	n := j.Written.Notes[i]
	for k := i + 1; k < len(j.Written.Notes) && len(out) < most; k++ {
		if m := j.Written.Notes[k]; m.Voice == n.Voice && n.At.Before(m.At) {
			out = append(out, k)
		}
	}
	return out
}

// before is the note of note i's voice before it, or −1.
func (j *Judgement) before(i int) int {
	for k := i - 1; k >= 0; k-- {
		if m := j.Written.Notes[k]; m.Voice == j.Written.Notes[i].Voice && m.At.Before(j.Written.Notes[i].At) {
			return k
		}
	}
	return -1
}

// approaches says whether note i leads by a half step into the next tone of the palette of
// its voice, or is bent to one.
func (j *Judgement) approaches(p music.Palette, i int) bool {
	if b := j.Written.Notes[i].Bend; b != nil &&
		p.At(j.Written.Pitch(i)+music.Pitch(b.Semitones)).Role != music.Outside {
		return true
	}
	_, ok := j.leadsInto(p, i)
	return ok
}

// leadsInto is the tone of the palette that note i leads to by a half step.
// It looks over at most three notes more: the first of them that is in the palette decides.
func (j *Judgement) leadsInto(p music.Palette, i int) (note int, ok bool) {
	for _, k := range j.after(i, enclosure-1) {
		if p.At(j.Written.Pitch(k)).Role != music.Outside {
			d := j.Written.Pitch(k) - j.Written.Pitch(i)
			return k, d == 1 || d == -1
		}
	}
	return -1, false
}

// enclosed finds the two notes before note i that close in on it from both sides by a whole or a half step each.
func (j *Judgement) enclosed(i int) (a, b int, ok bool) {
	if b = j.before(i); b < 0 {
		return 0, 0, false
	}
	if a = j.before(b); a < 0 {
		return 0, 0, false
	}
	x, y := j.Written.Pitch(a)-j.Written.Pitch(i), j.Written.Pitch(b)-j.Written.Pitch(i)
	near := func(d music.Pitch) bool { return d != 0 && d >= -2 && d <= 2 }
	return a, b, near(x) && near(y) && (x > 0) != (y > 0)
}

// leads says what a tone outside does, in a few words: "leads into E, the 3", or "encloses
// E, the 3, with note 4". It is empty for a tone that needs no excuse.
func (j *Judgement) leads(i int) string {
	p, ok := j.Written.PaletteAt(j.Written.Notes[i].At)
	if !ok || p.At(j.Written.Pitch(i)).Role != music.Outside {
		return ""
	}
	k, ok := j.leadsInto(p, i)
	if !ok {
		return ""
	}
	t := p.At(j.Written.Pitch(k))
	if a, b, ok := j.enclosed(k); ok && (a == i || b == i) {
		return say.Encloses(t, a+b-i)
	}
	return say.LeadsInto(t)
}

// widestBend is how far a fix bends a note at most, in half steps.
const widestBend = 4

// nearestTarget is the fix for a bend that goes to no tone that was chosen: the bend to the nearest one that
// was, the smaller of two.
func (md *mender) nearestTarget(ctx context.Context, r *Report, i int) (Fix, bool) {
	n := md.lick.Notes[i]
	p, ok := md.lick.PaletteAt(n.At)
	if !ok {
		return Fix{}, false
	}
	best, target := 0.0, music.Tone{}
	for semi := 1.0; semi <= widestBend; semi++ {
		t := p.At(md.lick.Pitch(i) + music.Pitch(semi))
		if t.Role != music.Outside && (best == 0 || math.Abs(semi-n.Bend.Semitones) < math.Abs(best-n.Bend.Semitones)) {
			best, target = semi, t
		}
	}
	if best == 0 {
		return Fix{}, false
	}
	b := *n.Bend
	b.Semitones = best
	return md.whole(ctx, r, "bend-to-"+target.Degree.String(), say.BendTo(best, target.Degree),
		lick.SetBend{Note: i, Bend: &b})
}

// addTone is the fix for a tone outside, or for the target of a bend at note i: to choose it. Within a span of its
// own tones a note is left to the span. The ceiling is the report's, as a tone that is chosen moves no finger.
func addTone(l lick.Lick, r *Report, i int, pitch music.Pitch) (Fix, bool) {
	p, ok := l.Palette()
	if !ok || l.KeyAt(l.Notes[i].At).Scale != l.Key.Scale || l.KeyAt(l.Notes[i].At).Tonic != l.Key.Tonic {
		return Fix{}, false
	}
	t := p.At(pitch)
	key := l.Key
	key.Add = append(slices.Clone(key.Add), t.Degree.String())
	small := lick.Setting{Key: &key}
	chosen, err := small.Apply(l)
	if err != nil {
		return Fix{}, false
	}
	return Fix{ID: "add-" + t.Degree.String(), Text: say.AddTone(t.Degree), Ceiling: r.Ceiling,
		Edit: lick.Replace{Lick: chosen, Why: "add " + t.Degree.String()}, small: small}, true
}
