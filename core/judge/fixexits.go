package judge

import (
	"context"
	"slices"

	"ornamen/core/lick"
	"ornamen/core/load"
	"ornamen/core/pick"
	"ornamen/core/say"
)

// Limits of what is tried for exits that do not agree (model defaults).
const (
	mendedExits = 256 // notes of a line
	slurredAway = 6   // changes that are turned round by a slur each
)

// exits tries what makes every string change of a line leave the strings alike, as one pick angle wants it: economy
// where every change then is a sweep, or a slur before each change that leaves otherwise, which turns all strokes after
// it round (common practice). Each is judged whole and offered unless it breaks what did not.
func (md *mender) exits(ctx context.Context, r *Report) {
	k := slices.IndexFunc(r.Findings, func(f Finding) bool { return f.Code == ExitsMixed && !f.Meant })
	if k < 0 || len(md.lick.Notes) > mendedExits || md.line.Thumbed() {
		return
	}
	f := &r.Findings[k]
	offer := func(id, text string, l lick.Lick) {
		fix, ok := md.whole(ctx, r, id, text, lick.Replace{Lick: l, Why: text})
		if ok && exits(md.Player.Pick.Solve(md.LayOut(fix.Edit.Lick, false).Pick, l.Loop, pick.Free, 1).Steps) != "mixed" {
			f.Fixes = append(f.Fixes, fix)
		}
	}
	if l, sweeps := md.swept(); sweeps > 0 {
		offer("exits-economy", say.EconomyClean(sweeps), l)
	}
	if l, notes, leaves := md.slurredExits(); len(notes) > 0 {
		offer("exits-slurs", say.SlursForExits(notes, leaves), l)
	}
}

// swept is the line in economy, and its sweeps where every change is one.
func (md *mender) swept() (out lick.Lick, sweeps int) {
	out = md.lick.Clone()
	ln := md.LayOut(out, false)
	path := md.Player.Pick.Solve(ln.Pick, out.Loop, pick.Economy, load.Slack)
	for _, s := range path.Steps {
		switch s.StringChange {
		case pick.NoChange:
		case pick.Sweep:
			sweeps++
		default:
			return out, 0
		}
	}
	FillStrokes(&out, ln, path)
	return out, sweeps
}

// slurredExits is the line with notes slurred so that every change leaves after the same stroke,
// which notes, counted from 0, and that stroke; no notes where no few slurs do it.
func (md *mender) slurredExits() (out lick.Lick, notes []int, leaves lick.Stroke) {
	out = md.lick.Clone()
	for range slurredAway {
		ln := md.LayOut(out, false)
		path := md.Player.Pick.Solve(ln.Pick, out.Loop, md.Player.Way, load.Slack)
		leaves = lick.Down
		if path.Angle == pick.LeavesUp {
			leaves = lick.Up
		}
		odd := slices.IndexFunc(path.Steps, func(s pick.Step) bool { return s.Exit != "" && s.Exit != leaves })
		if odd < 0 {
			return out, notes, leaves
		}
		i := -1
		if odd > 0 {
			i = slurAway(out, ln.strokes[odd][0]-1)
		}
		if i < 0 {
			break
		}
		from := out.Before(i)
		out.Notes[i].Slur = lick.Hammer.Between(out.Notes[from].Fret, out.Notes[i].Fret)
		notes = append(notes, i)
	}
	return out, nil, ""
}

// slurAway is the note at or before one that may be slurred so that the pick makes a stroke less before it leaves their
// string: the last that is picked and rises or falls from the note before. −1 where there is none.
func slurAway(l lick.Lick, last int) int {
	for i := last; i > 0 && l.Notes[i].String == l.Notes[last].String; i-- {
		n, from := l.Notes[i], l.Before(i)
		if from != i-1 || l.Notes[from].End().Before(n.At) || l.Notes[from].String != n.String {
			break
		}
		if n.Slur == "" && n.Stroke == "" && !n.Locked(lick.FieldStroke) && n.Fret != l.Notes[from].Fret && n.Fret > 0 &&
			n.Bend == nil && l.Notes[from].Bend == nil {
			return i
		}
	}
	return -1
}
