package play

import (
	"cmp"
	"fmt"
	"slices"

	"ornamen/core/hand"
	"ornamen/core/lick"
	"ornamen/core/load"
	"ornamen/core/pick"
)

// WayToPlay is one way to pick a line, with hands and strokes decided.
type WayToPlay struct {
	Name    string    `json:"way"`
	Ceiling Ceiling   `json:"ceiling"`
	Held    string    `json:"held_back_by"` // the bottleneck in a few words
	Why     string    `json:"why"`
	Report  *Report   `json:"report"`
	Lick    lick.Lick `json:"lick"`
}

// wayAsked is a way before it is tried.
type wayAsked struct {
	name  string
	way   pick.Way
	start lick.Stroke // of the first picked note, empty for either
}

var waysAsked = []wayAsked{
	{"alternate, from down", pick.Alternate, lick.Down},
	{"alternate, from up", pick.Alternate, lick.Up},
	{"economy, from down", pick.Economy, lick.Down},
	{"economy, from up", pick.Economy, lick.Up},
	{"as it falls, sweeps where they help", pick.Free, ""},
	{"legato, the first of a string picked", pick.Legato, ""},
}

// OwnPattern is the name of the way whose strokes the line brings with it.
const OwnPattern = "the cell's own pattern"

// Ways judges the ways to pick a line, the highest ceiling first. The fingers
// that are locked are kept; the strokes are each way's own, but for the pattern
// that the line fixes. Ways that come to the same strokes are shown once.
func (e *Engine) Ways(l lick.Lick) []WayToPlay {
	out := []WayToPlay{}
	if len(l.Notes) == 0 {
		return out
	}
	m := e.model(e.guitar(l))
	base := openHands(l)
	fixed := slices.ContainsFunc(base.Notes, func(n lick.Note) bool { return n.Stroke == lick.Down || n.Stroke == lick.Up })
	var handed *hand.Path
	seen := map[string]bool{}
	var first *judgement // at the line's own slurs, for the best possible
	add := func(w wayAsked, from lick.Lick, path *hand.Path) {
		filled := e.strokesOf(from, w)
		key := handsKey(filled)
		if seen[key] {
			return
		}
		seen[key] = true
		j := e.judgeHanded(filled, m, path)
		j.Findings = find(j)
		if first == nil {
			first = j
		}
		r := &j.Report
		out = append(out, WayToPlay{Name: w.name, Ceiling: r.Ceiling, Held: heldBack(r), Why: pickSentence(r), Report: r, Lick: filled})
	}
	fingered := e.fillWithin(openStrokesOf(base), m, pick.Free, load.Slack).lick
	fingered = openStrokesOf(fingered)
	path := m.Solve(e.layOut(fingered, false).hand, l.Loop, 1)
	handed = &path
	if fixed {
		own := fingered.Clone()
		for i := range own.Notes {
			own.Notes[i].Stroke = base.Notes[i].Stroke
		}
		add(wayAsked{OwnPattern, pick.Free, ""}, own, handed)
	}
	asked := waysAsked
	if !slices.ContainsFunc(fingered.Notes, func(n lick.Note) bool { return n.Stroke == "" && !n.Slur.Slurred() }) {
		asked = []wayAsked{{"fingers, as written", pick.Free, ""}}
	}
	for _, w := range asked {
		if w.way == pick.Legato {
			p := &proposer{Engine: e, hand: m, way: w.way}
			slurred := p.legato(openStrokesOf(base))
			if slices.EqualFunc(slurred.Notes, base.Notes, func(a, b lick.Note) bool { return a.Slur == b.Slur }) {
				continue
			}
			add(w, openStrokesOf(e.fillWithin(slurred, m, pick.Free, load.Slack).lick), nil)
			continue
		}
		add(w, fingered, handed)
	}
	best := e.bestPossible(first, m)
	for i := range out {
		out[i].Report.BestPossible = best
	}
	slices.SortStableFunc(out, func(a, b WayToPlay) int { return cmp.Compare(rank(b), rank(a)) })
	return out
}

// rank puts a way without any ceiling that flows first and one that breaks last.
func rank(w WayToPlay) float64 {
	switch {
	case w.Ceiling > 0:
		return float64(w.Ceiling)
	case w.Report.Verdict == Breaks:
		return 0
	}
	return 1e9
}

// openStrokesOf takes the strokes of the pick away, locks too.
func openStrokesOf(l lick.Lick) lick.Lick {
	out := l.Clone()
	for i := range out.Notes {
		n := &out.Notes[i]
		if n.Stroke == lick.Down || n.Stroke == lick.Up {
			n.Stroke = ""
		}
		n.Lock = slices.DeleteFunc(n.Lock, func(f string) bool { return f == "stroke" })
	}
	return out
}

// strokesOf fills in the strokes of a way.
func (e *Engine) strokesOf(l lick.Lick, w wayAsked) lick.Lick {
	out := l.Clone()
	ln := e.layOut(out, false)
	if w.start != "" && len(ln.pick) > 0 {
		first := &ln.pick[0]
		first.Notes = slices.Clone(first.Notes)
		for k := range first.Notes {
			if first.Notes[k].Stroke == "" {
				first.Notes[k].Stroke = w.start
			}
		}
	}
	path := e.Player.Pick.Solve(ln.pick, l.Loop, w.way, load.Slack)
	for p, notes := range ln.strokes {
		for k, i := range notes {
			if out.Notes[i].Stroke == "" {
				out.Notes[i].Stroke = path.Steps[p].Strokes[k]
			}
		}
	}
	return out
}

// heldBack names the bottleneck: "inside, 6 → 7".
func heldBack(r *Report) string {
	if len(r.Bottleneck) == 0 {
		if r.Verdict == Breaks {
			return firstBreak(r)
		}
		return ""
	}
	i := r.Bottleneck[len(r.Bottleneck)-1] - 1
	n := r.Notes[i]
	what := string(n.Kind)
	switch w := n.Worst(); {
	case w.Side == Picking && n.Change != pick.NoChange:
		what = string(n.Change)
	case w.Side == Picking:
		what = "stroke"
	case w.Side == Bending, w.Side == Shaking:
		what = string(w.Side)
	case n.Kind == hand.Place:
		what = "finger"
	case n.Kind == hand.Move:
		what = "shift"
	}
	if len(r.Bottleneck) < 2 {
		return fmt.Sprintf("%s, note %d", what, i+1)
	}
	return fmt.Sprintf("%s, %d → %d", what, r.Bottleneck[0], i+1)
}

// pickSentence says what the picking hand does.
func pickSentence(r *Report) string {
	s := count(r.Strokes, "stroke")
	if r.Slurs > 0 {
		s += ", " + count(r.Slurs, "slur")
	}
	c := r.Changes
	if c == (Changes{}) {
		return s + " on one string."
	}
	words := pickWords(r, pick.Way(s))
	return words + "."
}
