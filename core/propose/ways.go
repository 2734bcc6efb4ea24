package propose

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"sync"

	"ornamen/core/hand"
	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/load"
	"ornamen/core/pick"
	"ornamen/core/say"
)

// WayToPlay is one way to pick a line, with hands and strokes decided.
// The list's fields in JSON are part of the command line's contract.
type WayToPlay struct {
	Name    string        `json:"way"`
	Ceiling judge.Ceiling `json:"ceiling"`
	Held    string        `json:"held_back_by"` // the bottleneck in a few words
	Why     string        `json:"why"`
	Report  *judge.Report `json:"report"`
	Lick    lick.Lick     `json:"lick"`

	Way   pick.Way    `json:"-"` // that was asked for
	Start lick.Stroke `json:"-"` // of the first picked note, empty where either may be
}

// triedWay is a way before it is tried.
type triedWay struct {
	name  string
	way   pick.Way
	start lick.Stroke // of the first picked note, empty for either
}

// waysTried are the ways that every line is tried in.
var waysTried = []triedWay{
	{"alternate, from down", pick.Alternate, lick.Down},
	{"alternate, from up", pick.Alternate, lick.Up},
	{"economy, from down", pick.Economy, lick.Down},
	{"economy, from up", pick.Economy, lick.Up},
	{"as it falls, sweeps where they help", pick.Free, ""},
	{"legato, the first of a string picked", pick.Legato, ""},
}

// OwnPattern is the name of the way whose strokes the line brings with it.
const OwnPattern = "the cell's own pattern"

// Ways judges the ways to pick a line, the highest ceiling first. The fingers that are locked are kept; the strokes are
// each way's own, but for the pattern that the line fixes. Ways that come to the same strokes are shown once. The error
// is the context's.
func Ways(ctx context.Context, e *judge.Engine, l lick.Lick) ([]WayToPlay, error) {
	if len(l.Notes) > judge.MaxNotes {
		return nil, fmt.Errorf("the line has %d notes, and ways to play are compared for at most %d: choose a part of it",
			len(l.Notes), judge.MaxNotes)
	}
	t := question{e}
	out := t.ways(ctx, l)
	if err := judge.Done(ctx); err != nil {
		return nil, err
	}
	return out, nil
}

// ways is Ways, without a look at the context. The fretting hand is found once for the line as it is slurred and once
// for it in legato; only the picks differ between the others, so that they are judged side by side.
//
// Best possible is one number for all: the least that any fingers and strokes need at these
// places, with the line's own slurs.
func (e question) ways(ctx context.Context, l lick.Lick) []WayToPlay {
	out := []WayToPlay{}
	if len(l.Notes) == 0 {
		return out
	}
	m := e.Hand(e.Guitar(l))
	base := openHands(l)
	open := openStrokesOf(base)
	var own, slurred fingered
	var wg sync.WaitGroup
	wg.Go(func() { own = e.fingered(ctx, open, m) })
	wg.Go(func() {
		if s, _ := e.legato(ctx, m, open); !slices.EqualFunc(s.Notes, base.Notes,
			func(a, b lick.Note) bool { return a.Slur == b.Slur }) {
			slurred = e.fingered(ctx, s, m)
		}
	})
	wg.Wait()
	trials := e.trials(base, own, slurred)
	judged := make([]*judge.Judgement, len(trials))
	for i, t := range trials {
		wg.Go(func() {
			judged[i] = e.JudgeHanded(ctx, t.lick, m, &t.hand.path)
			e.Rules(ctx, judged[i])
		})
	}
	wg.Wait()
	best := e.Best(ctx, judged[0], m)
	set := slices.ContainsFunc(trials, func(t trial) bool { return t.name == OwnPattern })
	for i, t := range trials {
		r := judged[i].Alone()
		r.BestPossible = best
		why := pickSentence(r)
		if set && t.name != OwnPattern {
			why = say.WithoutOwnStrokes() + why
		}
		out = append(out, WayToPlay{Name: t.name, Ceiling: r.Ceiling, Held: heldBack(r), Why: why, Report: r, Lick: t.lick,
			Way: t.way, Start: t.start})
	}
	slices.SortStableFunc(out, func(a, b WayToPlay) int { return cmp.Compare(rank(b), rank(a)) })
	return out
}

// fingered is a line with its fingers decided and its strokes open, and the path
// of the fretting hand that plays it, which every way of picking shares.
type fingered struct {
	lick lick.Lick
	path hand.Path
}

// fingered decides the fingers of a line, as they are recommended at its tempo, and leaves its strokes open.
func (e question) fingered(ctx context.Context, l lick.Lick, m *hand.Model) fingered {
	f := fingered{lick: e.FillWithin(ctx, l, m, e.Player.Way, load.Slack).Lick}
	for i := range f.lick.Notes {
		f.lick.Notes[i].Stroke = l.Notes[i].Stroke
	}
	f.path = m.Frames(ctx, e.LayOut(f.lick, false).Hand, l.Loop)
	return f
}

// trial is one way with its strokes decided.
type trial struct {
	triedWay
	lick lick.Lick
	hand *fingered
}

// trials lists the ways, those at the line's own slurs first; ways that come to the same strokes are listed once. A
// line for the thumb and fingers, or one whose strokes are all fingers', has that one way.
func (e question) trials(base lick.Lick, own, slurred fingered) []trial {
	var out []trial
	seen := map[string]bool{}
	add := func(w triedWay, from lick.Lick, h *fingered) {
		t := trial{w, e.strokesOf(from, w), h}
		if key := judge.HandsKey(t.lick); !seen[key] {
			seen[key] = true
			out = append(out, t)
		}
	}
	if e.LayOut(own.lick, false).Thumbed() {
		thumb := slices.ContainsFunc(own.lick.Notes, func(n lick.Note) bool { return n.Voice == lick.VoiceBass })
		add(triedWay{say.Plucked(thumb), pick.Free, ""}, own.lick, &own)
		return out
	}
	if !slices.ContainsFunc(own.lick.Notes, func(n lick.Note) bool { return n.Stroke == "" && !n.Slur.Slurred() }) {
		add(triedWay{"fingers, as written", pick.Free, ""}, own.lick, &own)
		return out
	}
	if slices.ContainsFunc(base.Notes, func(n lick.Note) bool { return n.Stroke == lick.Down || n.Stroke == lick.Up }) {
		pattern := own.lick.Clone()
		for i := range pattern.Notes {
			pattern.Notes[i].Stroke = base.Notes[i].Stroke
		}
		add(triedWay{OwnPattern, pick.Free, ""}, pattern, &own)
	}
	for _, w := range waysTried {
		if w.way != pick.Legato {
			add(w, own.lick, &own)
		} else if len(slurred.lick.Notes) > 0 {
			add(w, slurred.lick, &slurred)
		}
	}
	return out
}

// rank puts a way without any ceiling that flows first and one that breaks last.
func rank(w WayToPlay) float64 {
	switch {
	case w.Ceiling > 0:
		return float64(w.Ceiling)
	case w.Report.Verdict == judge.Breaks:
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
		n.Lock = n.Lock.With(lick.FieldStroke, false)
	}
	return out
}

// strokesOf fills in the strokes of a way. The strokes that are set are kept; the first is the way's where it says.
func (e question) strokesOf(l lick.Lick, w triedWay) lick.Lick {
	out := l.Clone()
	ln := e.LayOut(out, false)
	if w.start != "" && len(ln.Pick) > 0 && pick.Touching(ln.Pick[0].Notes) {
		first := &ln.Pick[0]
		first.Notes = slices.Clone(first.Notes)
		for k := range first.Notes {
			if first.Notes[k].Stroke == "" {
				first.Notes[k].Stroke = w.start
			}
		}
	}
	path := e.Player.Pick.Solve(ln.Pick, l.Loop, w.way, load.Slack)
	judge.FillStrokes(&out, ln, path)
	return out
}

// heldBack names the bottleneck: "inside, 6 → 7".
func heldBack(r *judge.Report) string {
	if len(r.Bottleneck) == 0 {
		return firstBreak(r)
	}
	i := r.Bottleneck[len(r.Bottleneck)-1] - 1
	n := r.Notes[i]
	what := string(n.Kind)
	switch w := n.Worst(); {
	case w.Side == judge.Picking && n.StringChange != pick.NoChange:
		what = string(n.StringChange)
	case w.Side == judge.Picking:
		what = "stroke"
	case w.Side == judge.Bending, w.Side == judge.Shaking:
		what = string(w.Side)
	case n.Kind == hand.Place:
		what = "finger"
	case n.Kind == hand.Move:
		what = "shift"
	}
	return say.Held(what, r.Bottleneck[0]-1, i)
}

// pickSentence says what the picking hand does.
func pickSentence(r *judge.Report) string {
	how := say.Slurred(r.Strokes, r.Slurs)
	if plucked(r) {
		return how + "."
	}
	if r.StringChanges == (judge.StringChanges{}) {
		return say.PickingHand(how, nil, "") + "."
	}
	return pickWords(r, how) + "."
}
