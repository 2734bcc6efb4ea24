package judge

import (
	"ornamen/core/hand"
	"ornamen/core/lick"
	"ornamen/core/load"
	"ornamen/core/say"
)

// slurNeed is what a slur needs of its frets and strings to sound, whatever the hand. It is told
// once, as the first need that is not met, and asks nothing of the hands then.
type slurNeed struct {
	code  lick.Code
	lacks func(from *lick.Note, n lick.Note) bool // from is nil where the string is silent before n
	why   func(from *lick.Note, n lick.Note) string
}

// slurNeeds are the needs in the order in which they are looked at.
var slurNeeds = []slurNeed{
	{SlurChangesString, func(from *lick.Note, _ lick.Note) bool { return from == nil },
		func(_ *lick.Note, n lick.Note) string { return say.NothingBefore(n) }},
	{HammerFalls, func(from *lick.Note, n lick.Note) bool { return n.Slur == lick.Hammer && n.Fret <= from.Fret },
		func(from *lick.Note, n lick.Note) string { return say.HammerFalls(from.Fret, n.Fret) }},
	{PullRises, func(from *lick.Note, n lick.Note) bool { return n.Slur == lick.Pull && n.Fret >= from.Fret },
		func(from *lick.Note, n lick.Note) string { return say.PullRises(from.Fret, n.Fret) }},
	{SlideChangesFinger, func(from *lick.Note, n lick.Note) bool {
		return (n.Slur == lick.Slide || n.Slur == lick.Shift) && (n.Fret == 0 || from.Fret == 0)
	}, func(*lick.Note, lick.Note) string { return say.OpenSlides() }},
}

// slurFaults are the rules that report each need that is not met.
func slurFaults() (out []rule) {
	for _, need := range slurNeeds {
		out = append(out, rule{need.code, func(j *Judgement) (out []Finding) {
			for i, s := range j.SlurOf {
				if n := j.Written.Notes[i]; s.Code == need.code {
					why := need.why(j.slurredFrom(s), n)
					out = append(out, always(Breaks, say.CannotSound(n.Slur, why), s.From, i))
				}
			}
			return out
		}})
	}
	return out
}

// impossible calls f for every slur that is right by its frets, with the note
// it comes from, where the hand cannot do it.
func (j *Judgement) impossible(f func(i, from int, n, m lick.Note)) {
	for i := range j.Notes {
		if j.Notes[i].Worst().Possible || j.SlurOf[i].Code != "" || j.SlurOf[i].From < 0 {
			continue
		}
		from := j.SlurOf[i].From
		f(i, from, j.Written.Notes[i], j.Written.Notes[from])
	}
}

// hammerOrPull says whether the fretting hand alone makes the note sound, with another finger than the one before it.
func hammerOrPull(s lick.Slur) bool { return s == lick.Hammer || s == lick.Pull }

// slurSameFinger: a hammer needs a second finger to strike, a pull one that already lies
// below. One finger can do neither, at any tempo; what it can do is slide.
func slurSameFinger(j *Judgement) (out []Finding) {
	j.impossible(func(i, from int, n, m lick.Note) {
		if hammerOrPull(n.Slur) && n.Finger == m.Finger {
			out = append(out, always(Breaks, say.OneFinger(n), from, i))
		}
	})
	return out
}

// slideChangesFinger: a slide or a silent shift keeps its finger on the string, so both of its notes have the same one.
func slideChangesFinger(j *Judgement) (out []Finding) {
	j.impossible(func(i, from int, n, m lick.Note) {
		if !hammerOrPull(n.Slur) && n.Finger != m.Finger {
			out = append(out, always(Breaks, say.SlideChangesFinger(j.Written, from, i), from, i))
		}
	})
	return out
}

// crosses says whether two fingers of one hand stand the wrong way round.
func crosses(n, m lick.Note) bool {
	return n.Finger.Fretting() && m.Finger.Fretting() && n.Finger != m.Finger && n.Fret != m.Fret &&
		(n.Finger > m.Finger) != (n.Fret > m.Fret)
}

// fingersCross: the index side of the hand lies toward the nut, so a higher finger at a
// lower fret crosses another one. It is told of slurs, where both are on one string, and
// of notes that sound together; in a line of picked notes the hand has moved.
func fingersCross(j *Judgement) (out []Finding) {
	j.impossible(func(i, from int, n, m lick.Note) {
		if hammerOrPull(n.Slur) && crosses(n, m) {
			out = append(out, always(Breaks, say.Cross(m, n), from, i))
		}
	})
	j.stuckColumns(func(a, b int, n, m lick.Note) {
		if crosses(n, m) {
			out = append(out, always(Breaks, say.CrossTogether(m, n), a, b))
		}
	})
	return out
}

// stuckColumns calls f for pairs of fretted notes that sound together in a
// column that no stance can take, and that their fingers explain.
func (j *Judgement) stuckColumns(f func(a, b int, n, m lick.Note)) {
	for c, s := range j.handed.Steps {
		if s.Possible {
			continue
		}
		for x, a := range j.touches[c] {
			for _, b := range j.touches[c][x+1:] {
				n, m := j.Written.Notes[b], j.Written.Notes[a]
				if n.Fret > 0 && m.Fret > 0 && n.String != m.String {
					f(a, b, n, m)
				}
			}
		}
	}
}

// barreConflict: notes that sound together under one finger need one fret, and more than
// one string under a finger needs it to lie flat.
func barreConflict(j *Judgement) (out []Finding) {
	j.stuckColumns(func(a, b int, n, m lick.Note) {
		switch {
		case n.Finger == m.Finger && n.Finger.Fretting() && n.Fret != m.Fret:
			out = append(out, always(Breaks, say.TwoFrets(m, n), a, b))
		case n.Finger == m.Finger && n.Finger.Fretting() && !(n.Barre && m.Barre):
			out = append(out, always(Breaks, say.TwoStrings(n), a, b))
		}
	})
	return out
}

// reachRule is what no stance of this hand spans: the distance of two fret presses in mm over what the pair of fingers
// reaches, or a pair that reaches it and yet leaves no room to the fingers around it.
func reachRule(j *Judgement) (out []Finding) {
	none := func(a, b int, n, m lick.Note) {
		out = append(out, always(Breaks, say.NoStance(m, n), a, b))
	}
	report := func(a, b int, n, m lick.Note) {
		lo, hi := m.Finger, n.Finger
		if m.Fret > n.Fret {
			lo, hi = hi, lo
		}
		limit, ok := j.player.Hand.LimitOf(lo, hi)
		if !ok { // one of them has no finger, as none was left that could
			none(a, b, n, m)
			return
		}
		from, to := min(n.Fret, m.Fret), max(n.Fret, m.Fret)
		need := j.Guitar.Press(to) - j.Guitar.Press(from)
		if need <= limit {
			out = append(out, always(Breaks, say.NotTogether(lo, hi, from, to), a, b))
			return
		}
		f := always(Breaks, say.TooFar(lo, hi, from, to, need, limit), a, b)
		f.Need, f.Have, f.Unit = float64(need), float64(limit), "mm"
		out = append(out, f)
	}
	j.impossible(func(i, from int, n, m lick.Note) {
		if hammerOrPull(n.Slur) && n.Finger != m.Finger && !crosses(n, m) {
			report(from, i, n, m)
		}
	})
	j.stuckColumns(func(a, b int, n, m lick.Note) {
		if n.Finger != m.Finger && !crosses(n, m) {
			report(a, b, n, m)
		} else if n.Finger == m.Finger && !n.Finger.Fretting() {
			none(a, b, n, m)
		}
	})
	return out
}

// strainRule is a stance beyond what is comfortable: between comfort and limit of its widest pair by more than
// load.Strain. A stance that is kept is told once, with all of its notes.
func strainRule(j *Judgement) (out []Finding) {
	var told hand.Frame // the stance of the last finding, while it stays
	for c, s := range j.handed.Steps {
		if s.Frame != told {
			told = hand.Frame{}
		}
		if s.Stretch.Strain() <= load.Strain || !s.Possible {
			continue
		}
		if told == s.Frame {
			last := &out[len(out)-1]
			last.Notes = append(last.Notes, j.numbers(c)...)
			continue
		}
		told = s.Frame
		w := s.Stretch
		f := always(Tight, say.WideStretch(w.Lo, w.Hi, w.Reach, w.Comfort))
		f.Notes, f.Need, f.Have, f.Unit = j.numbers(c), float64(w.Reach), float64(w.Comfort), "mm"
		out = append(out, f)
	}
	return out
}

// numbers are the notes of a column, from 1.
func (ln *Line) numbers(c int) []int {
	var out []int
	for i := ln.Columns[c][0]; i < ln.Columns[c][1]; i++ {
		out = append(out, i+1)
	}
	return out
}

// beyondNeck: a fret that this guitar does not have. The lick is kept as it is, as it may
// have been written for another one.
func beyondNeck(j *Judgement) (out []Finding) {
	for i, n := range j.Written.Notes {
		if n.Fret > j.Guitar.Frets {
			out = append(out, always(Breaks, say.NoSuchFret(n.Fret, j.Guitar.Frets), i))
		}
	}
	return out
}

// openStringFinger: a fretted note with finger 0 cannot sound, a finger on an open string
// says only that something is left over from an edit.
func openStringFinger(j *Judgement) (out []Finding) {
	for i, n := range j.Written.Notes {
		switch {
		case n.Fret > 0 && n.Finger == lick.Open:
			out = append(out, always(Breaks, say.NoFinger(n.Fret), i))
		case n.Fret == 0 && (n.Finger.Fretting() || n.Finger == lick.Thumb):
			out = append(out, always(Tight, say.FingerOnOpen(n.Finger), i))
		}
	}
	return out
}
