package judge

import (
	"cmp"
	"math"
	"slices"

	"ornamen/core/lick"
	"ornamen/core/pick"
	"ornamen/core/say"
)

// rule finds one sort of trouble: a function that looks at the judged line and tells what it sees, under a code of its
// own. It may look at everything, changes nothing, and does not know the other rules.
//
// A new finding is a code in codes.go, a function in the rules_*.go file of its hand, a row
// here, a sentence in core/say, and a row in the table of TestRules.
type rule struct {
	code lick.Code
	find func(j *Judgement) []Finding
}

// rules is every judgement that is made, in the order in which equals are listed.
var rules = append(slurFaults(), []rule{
	{SlurSameFinger, slurSameFinger}, {SlideChangesFinger, slideChangesFinger}, {FingersCross, fingersCross},
	{Reach, reachRule}, {Reach, strainRule}, {BarreConflict, barreConflict},
	{BeyondNeck, beyondNeck}, {OpenStringFinger, openStringFinger},
	{FingerJump, fingerJump}, {Shift, shiftRule}, {FingerFast, fingerFast}, {Crowded, crowded},
	{StrokeRepeats, strokeRepeats},
	{ChangeInside, changeTooFast(pick.Inside)}, {ChangeAgainst, changeTooFast(pick.Against)},
	{SweepTurns, changeTooFast(pick.Sweep)},
	{StrokeFast, strokeFast}, {ExitsMixed, exitsMixed}, {PairNeedsFingers, pairNeedsFingers},
	{BendOpenString, bendOpenString}, {BendOffEdge, bendOffEdge},
	{BendHeavy, bendForce(true)}, {BendWeak, bendForce(false)},
	{BendLate, bendLate}, {BendAimless, bendAimless}, {VibratoShort, vibratoShort},
	{NoteOutside, noteOutside}, {ClashCode, clashRule}, {TensionHeld, tensionHeld},
	{LandingEarly, landingEarly}, {LandingLate, landingLate}, {ChordMissed, chordMissed},
}...)

// find runs every rule: worst first, then in playing order.
//
// Of two that are as bad the one that holds at any tempo comes first, then the one further over its limit. Numbers are
// rounded here, for a file and a screen alike; the rules compare unrounded ones.
func find(j *Judgement) []Finding {
	out := []Finding{}
	for _, r := range rules {
		for _, f := range r.find(j) {
			f.Code = cmp.Or(f.Code, r.code)
			if f.Fixes == nil {
				f.Fixes = []Fix{}
			}
			f.Need, f.Have = round1(f.Need), round1(f.Have)
			out = append(out, f)
		}
	}
	for i := range out {
		out[i].Meant = j.meant(out[i])
	}
	slices.SortStableFunc(out, func(a, b Finding) int {
		return cmp.Or(cmp.Compare(b.Severity, a.Severity), cmp.Compare(excess(b), excess(a)),
			slices.Compare(a.Notes, b.Notes))
	})
	return out
}

// excess orders findings of one severity: what holds at any tempo first, then by how far need lies above have.
func excess(f Finding) float64 {
	switch {
	case f.Always:
		return math.Inf(1)
	case f.Have > 0:
		return f.Need / f.Have
	}
	return 0
}

// meant says whether the player marked the last note of the finding as meant.
func (j *Judgement) meant(f Finding) bool {
	return slices.ContainsFunc(f.Notes, func(n int) bool { return j.Written.Notes[n-1].Means(f.Code) })
}

// move builds the finding of a load that is tight or breaks. The words go without a full stop, as the two times follow.
// The way from the end of a loop to its start has a code of its own, whatever stands in it.
func (j *Judgement) move(i int, l Load, w say.Words) Finding {
	w = w.Needs(l.Need, l.Have)
	f := Finding{Severity: loadSeverity(l.Load), Need: l.Need, Have: l.Have, Unit: "ms", Title: w.Title, Text: w.Text}
	if l.From >= 0 && l.From != i {
		f.Notes = append(f.Notes, l.From+1)
	}
	f.Notes = append(f.Notes, i+1)
	if j.Written.Loop && l.From > i && f.Severity > Flows {
		f.Code, f.Title = LoopTurn, w.AtTheTurn().Title
	}
	return f
}

// loads calls f for every note's load of one side that is possible.
func (j *Judgement) loads(side Side, f func(i int, l Load)) {
	for i, n := range j.Notes {
		for _, l := range n.Loads {
			if l.Side == side && l.Possible {
				f(i, l)
			}
		}
	}
}

// late tells the loads of one side that are tight or break, where there are words for them.
func (j *Judgement) late(side Side, words func(i int, l Load) (say.Words, bool)) (out []Finding) {
	j.loads(side, func(i int, l Load) {
		if loadSeverity(l.Load) <= Flows {
			return
		}
		if w, ok := words(i, l); ok {
			out = append(out, j.move(i, l, w))
		}
	})
	return out
}

// always builds a finding that holds at any tempo. Its notes count from 0, and a negative one is none.
func always(sev Severity, w say.Words, notes ...int) Finding {
	w = w.AnyTempo()
	f := Finding{Severity: sev, Title: w.Title, Text: w.Text, Always: true}
	for _, i := range notes {
		if i >= 0 {
			f.Notes = append(f.Notes, i+1)
		}
	}
	return f
}

// remark builds a finding that is worth a word and changes no verdict by itself; its notes count from 1.
func remark(w say.Words, notes ...int) Finding {
	return Finding{Severity: Flows, Notes: notes, Title: w.Title, Text: w.Text}
}

// heard builds a finding about what is heard and not about what a hand can do.
func heard(w say.Words, notes ...int) Finding {
	f := remark(w, notes...)
	f.Musical = true
	return f
}
