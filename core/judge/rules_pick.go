package judge

import (
	"slices"

	"ornamen/core/lick"
	"ornamen/core/pick"
	"ornamen/core/say"
)

// pickLoad calls f for every picked move that is tight or breaks, with its step.
func (j *Judgement) pickLoad(f func(i int, l Load, s pick.Step)) {
	for p, s := range j.picked.Steps {
		i := j.strokes[p][0]
		for _, l := range j.Notes[i].Loads {
			if l.Side == Picking && loadSeverity(l.Load) > Flows {
				f(i, l, s)
			}
		}
	}
}

// again says whether the step repeats the stroke before it on its string.
func again(j *Judgement, i int, l Load, s pick.Step) bool {
	return s.StringChange == pick.NoChange && l.From >= 0 && j.Written.Notes[l.From].Stroke == j.Written.Notes[i].Stroke
}

// strokeRepeats: two strokes in one direction on one string, with an idle way back between
// them; and the one that a loop of an odd number of strokes repeats at its turn.
func strokeRepeats(j *Judgement) (out []Finding) {
	j.pickLoad(func(i int, l Load, s pick.Step) {
		if again(j, i, l, s) {
			out = append(out, j.move(i, l, say.StrokeRepeats(j.Written, i)))
		}
	})
	if f, ok := j.seamRepeats(); ok &&
		!slices.ContainsFunc(out, func(g Finding) bool { return slices.Equal(g.Notes, f.Notes) }) {
		out = append(out, f)
	}
	return out
}

// seamRepeats names the one stroke that a loop repeats where it turns, because it has an odd number of them.
func (j *Judgement) seamRepeats() (Finding, bool) {
	n := len(j.picked.Steps)
	if !j.Written.Loop || n < 3 || n%2 == 0 {
		return Finding{}, false
	}
	stroke := func(p int) lick.Stroke { return j.Written.Notes[j.strokes[p][0]].Stroke }
	for p := 1; p < n; p++ {
		if stroke(p) == stroke(p-1) {
			return Finding{}, false
		}
	}
	last, first := j.strokes[n-1][0], j.strokes[0][0]
	if stroke(n-1) != stroke(0) {
		return Finding{}, false
	}
	return remark(say.LoopRepeats(n, stroke(0)), last+1, first+1), true
}

// changeTooFast is the rule of one kind of string change. An inside one goes to the next string through the gap between
// the two, the shorter way and the one that catches (common practice); against the way of the pick it must go back over
// the string first; a sweep turns where it has no time for the strings on its way.
func changeTooFast(want pick.StringChange) func(*Judgement) []Finding {
	return func(j *Judgement) (out []Finding) {
		j.pickLoad(func(i int, l Load, s pick.Step) {
			if s.StringChange == want {
				out = append(out, j.move(i, l, say.TooFastChange(want, j.Written, l.From, i)))
			}
		})
		return out
	}
}

// strokeFast is picking that is simply too quick: no change stands in the way, or an outside one.
func strokeFast(j *Judgement) (out []Finding) {
	j.pickLoad(func(i int, l Load, s pick.Step) {
		if s.StringChange == pick.Outside || s.StringChange == pick.NoChange && !again(j, i, l, s) {
			out = append(out, j.move(i, l, say.StrokeFast(j.Written, i)))
		}
	})
	return out
}

// exitsMixed says that one pick angle does not serve every change: some leave the strings on a downstroke and some on
// an upstroke. Notes are those of the rarer kind for the angle that is taken.
func exitsMixed(j *Judgement) []Finding {
	if j.Exits != "mixed" {
		return nil
	}
	odd := lick.Up
	if j.picked.Angle == pick.LeavesUp {
		odd = lick.Down
	}
	total, rare := 0, []int(nil)
	for p, s := range j.picked.Steps {
		if s.Exit != "" {
			total++
		}
		if s.Exit == odd {
			rare = append(rare, j.strokes[p][0]+1)
		}
	}
	slices.Sort(rare)
	return []Finding{remark(say.BothExits(len(rare), total, odd), rare...)}
}

// pairNeedsFingers is what one hand cannot strike at one instant: one stroke of strings that do not touch, as the
// string between would sound too; the pick down and up at once; one finger on two strings, but for the thumb, which
// brushes strings that touch.
func pairNeedsFingers(j *Judgement) (out []Finding) {
	for p, e := range j.Pick {
		used := map[lick.Stroke]int{}
		for _, i := range j.strokes[p] {
			used[j.Written.Notes[i].Stroke]++
		}
		twice := false
		for s, n := range used {
			twice = twice || n > 1 && (s == lick.PIndex || s == lick.PMid || s == lick.PRing)
		}
		switch {
		case used[lick.Down] > 0 && used[lick.Up] > 0:
			out = append(out, always(Breaks, say.BothWays(), j.strokes[p]...))
		case twice:
			out = append(out, always(Breaks, say.OneFingerTwoStrings(), j.strokes[p]...))
		case !pick.Touching(e.Notes) && len(used) < len(e.Notes):
			out = append(out, always(Breaks, say.StringsApart(), j.strokes[p]...))
		}
	}
	return out
}
