package judge

import (
	"fmt"
	"slices"

	"ornamen/core/lick"
	"ornamen/core/pick"
)

// pickLoad calls f for every picked move that is tight or breaks, with its step.
func (j *Judgement) pickLoad(f func(i int, l Load, s pick.Step)) {
	for p, s := range j.pickd.Steps {
		i := j.strokes[p][0]
		for _, l := range j.Notes[i].Loads {
			if l.Side == Picking && loadSeverity(l.Load) > Flows {
				f(i, l, s)
			}
		}
	}
}

// strokeWord names a stroke in a sentence; the picking hand's fingers go by their letters.
func strokeWord(s lick.Stroke) string {
	switch s {
	case lick.Down:
		return "downstroke"
	case lick.Up:
		return "upstroke"
	}
	return "finger " + string(s)
}

// again says whether the step repeats the stroke before it on its string.
func again(j *Judgement, i int, l Load, s pick.Step) bool {
	return s.Change == pick.NoChange && l.From >= 0 && j.Written.Notes[l.From].Stroke == j.Written.Notes[i].Stroke
}

// strokeRepeats: two strokes in one direction on one string, with an idle way back between
// them; and the one that a loop of an odd number of strokes repeats at its turn.
func strokeRepeats(j *Judgement) (out []Finding) {
	j.pickLoad(func(i int, l Load, s pick.Step) {
		if again(j, i, l, s) {
			k := strokeWord(j.Written.Notes[i].Stroke)
			out = append(
				out,
				j.move(i, l, "the same stroke again",
					fmt.Sprintf("Two %ss in a row on %s", k, j.stringName(j.Written.Notes[i].String))),
			)
		}
	})
	if f, ok := j.seamRepeats(); ok &&
		!slices.ContainsFunc(out, func(g Finding) bool { return slices.Equal(g.Notes, f.Notes) }) {
		out = append(out, f)
	}
	return out
}

// seamRepeats names the one stroke that a loop repeats where it turns, because it has an
// odd number of them.
func (j *Judgement) seamRepeats() (Finding, bool) {
	n := len(j.pickd.Steps)
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
	return Finding{
		Severity: Flows, Notes: []int{last + 1, first + 1}, Title: "the loop repeats a stroke",
		Text: fmt.Sprintf("%d strokes: the loop turns on two %ss in a row.", n, strokeWord(stroke(0))),
	}, true
}

// changeFinding reports a string change of one kind.
func (j *Judgement) changeFinding(want pick.Change, title string) (out []Finding) {
	j.pickLoad(func(i int, l Load, s pick.Step) {
		if s.Change == want {
			out = append(out, j.move(i, l, title, fmt.Sprintf("After the %s on %s, then %s on %s",
				strokeWord(j.Written.Notes[l.From].Stroke), j.stringName(j.Written.Notes[l.From].String),
				strokeWord(j.Written.Notes[i].Stroke), j.stringName(j.Written.Notes[i].String))))
		}
	})
	return out
}

// changeInside: the pick goes to the next string through the gap between the two, the
// shorter way and the one that catches (common practice).
func changeInside(j *Judgement) []Finding {
	return j.changeFinding(pick.Inside, "an inside change")
}

// changeAgainst: the next string lies where the pick comes from, so that it must go back
// over the string first.
func changeAgainst(j *Judgement) []Finding {
	return j.changeFinding(pick.Against, "against the stroke")
}

// sweepTurns is a sweep that has no time for the strings on its way.
func sweepTurns(j *Judgement) []Finding {
	return j.changeFinding(pick.Sweep, "the sweep is too fast")
}

// strokeFast is picking that is simply too quick: no change stands in the way, or an
// outside one.
func strokeFast(j *Judgement) (out []Finding) {
	j.pickLoad(func(i int, l Load, s pick.Step) {
		if s.Change == pick.Outside || s.Change == pick.NoChange && !again(j, i, l, s) {
			out = append(
				out,
				j.move(
					i, l, "picked too fast",
					fmt.Sprintf("A picked %s on %s", strokeWord(j.Written.Notes[i].Stroke),
						j.stringName(j.Written.Notes[i].String)),
				),
			)
		}
	})
	return out
}

// exitsMixed says that one pick angle does not serve every change: some leave the strings
// on a downstroke and some on an upstroke. Notes are those of the rarer kind for the angle
// that is taken.
func exitsMixed(j *Judgement) []Finding {
	if j.Exits != "mixed" {
		return nil
	}
	f := Finding{Severity: Flows, Title: "both exits"}
	odd := lick.Up
	if j.pickd.Angle == pick.LeavesUp {
		odd = lick.Down
	}
	total := 0
	for p, s := range j.pickd.Steps {
		if s.Exit != "" {
			total++
		}
		if s.Exit == odd {
			f.Notes = append(f.Notes, j.strokes[p][0]+1)
		}
	}
	slices.Sort(f.Notes)
	f.Text = fmt.Sprintf(
		"%d of %d string changes leave after %s, the others after %s: one pick angle does not serve both.",
		len(f.Notes), total, AnA(odd), AnA(Other(odd)),
	)
	return []Finding{f}
}

// AnA is a stroke of the pick with its article.
func AnA(s lick.Stroke) string {
	if s == lick.Up {
		return "an upstroke"
	}
	return "a downstroke"
}

// Other is the opposite stroke of the pick.
func Other(s lick.Stroke) lick.Stroke {
	if s == lick.Up {
		return lick.Down
	}
	return lick.Up
}

// pairNeedsFingers is one stroke asked of strings that do not touch: the string between
// would sound too.
func pairNeedsFingers(j *Judgement) (out []Finding) {
	for p, e := range j.Pick {
		if pick.Touching(e.Notes) {
			continue
		}
		used := map[lick.Stroke]bool{}
		for _, i := range j.strokes[p] {
			used[j.Written.Notes[i].Stroke] = true
		}
		if len(used) < len(e.Notes) {
			out = append(out, always(
				Breaks,
				"one stroke for strings apart",
				"These strings do not touch, so one stroke cannot play them: take fingers, or the pick and a finger.",
				j.strokes[p]...))
		}
	}
	return out
}
