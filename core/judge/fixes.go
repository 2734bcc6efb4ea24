package judge

import (
	"cmp"
	"context"
	"math"
	"slices"
	"sync"

	"ornamen/core/hand"
	"ornamen/core/lick"
	"ornamen/core/load"
	"ornamen/core/music"
	"ornamen/core/pick"
	"ornamen/core/say"
)

// Limits of what Mend does (model defaults): a screen shows few fixes, and the
// cost must not grow with the square of a line.
const (
	maxFixes       = 3  // a finding offers
	mendedFindings = 10 // have fixes tried, the worst ones
	triedFixes     = 20 // edits are tried for one finding
	mendWindow     = 3  // columns before and after an edit whose open hands are found again
	// mendedColumns bounds the work of all tries together: a try takes about the time of the columns
	// that it works on, and one that changes a whole long line many of them.
	mendedColumns = 2400
	roundWork     = 9 // times a line's for a loop that is worked out whole
)

// rises is by how much a ceiling must rise for a fix to be worth offering.
const rises = 1.01

// Mend tries edits for the findings of a report that are tight or break, the worst ones first: each is applied to a
// copy and judged again, and offered only if the finding's break is gone or the ceiling rises, each effect once for the
// whole line. The hands outside a window around the edit stay as the report has them, and so do their bounds from both
// ends of the line (hand.Laid): the ceiling that a fix names is exactly that of its lick. What was left out is said in
// LeftOut. The report must be Check's of l; the error is the context's.
func (e *Engine) Mend(ctx context.Context, l lick.Lick, r *Report) error {
	if len(l.Notes) > MaxNotes {
		return ctx.Err() // only its beginning was judged, and LeftOut says so
	}
	md := newMender(ctx, e, l, r)
	worst, left := worstOfEach(r.Findings)
	helpful := make([][]Fix, len(worst))
	var wg sync.WaitGroup
	room, untried := mendedColumns, 0
	for i, f := range worst {
		w := md.window(ctx, *f)
		list := slices.DeleteFunc(md.candidates(*f), func(c candidate) bool {
			if c.scope == place && l.Recipe == "" && len(l.Parts) == 0 {
				untried++ // a run is one figure, a long line of its own seldom
				return true
			}
			columns := w.to - w.from
			if c.scope != around {
				columns = len(md.line.Columns)
			}
			if l.Loop && columns == len(md.line.Columns) {
				columns *= roundWork
			}
			if room -= columns; room < 0 {
				room += columns
				untried++
				return true
			}
			return false
		})
		wg.Go(func() { helpful[i] = md.fixes(ctx, *f, w, list) })
	}
	wg.Wait()
	if err := Done(ctx); err != nil {
		return err
	}
	offered := map[string]bool{} // effects, so that none is offered twice
	for i, f := range worst {
		f.Fixes = []Fix{}
		for _, fix := range helpful[i] {
			if len(f.Fixes) < maxFixes && !offered[fix.ID] {
				offered[fix.ID] = true
				f.Fixes = append(f.Fixes, fix)
			}
		}
	}
	for i := range r.Findings {
		f := &r.Findings[i]
		if f.Code != NoteOutside && f.Code != BendAimless || f.Meant {
			continue
		}
		pitch := l.Pitch(f.Notes[0] - 1)
		if f.Code == BendAimless {
			if fix, ok := md.nearestTarget(ctx, r, f.Notes[0]-1); ok {
				f.Fixes = append(f.Fixes, fix)
			}
			pitch += music.Pitch(math.Ceil(l.Notes[f.Notes[0]-1].Bend.Semitones))
		}
		if fix, ok := addTone(l, r, f.Notes[0]-1, pitch); ok && !offered[fix.ID] {
			offered[fix.ID] = true
			f.Fixes = append(f.Fixes, fix)
		}
	}
	untried += md.landings(ctx, r)
	md.exits(ctx, r)
	if err := Done(ctx); err != nil {
		return err
	}
	r.LeftOut = say.FixesLeftOut(len(worst), len(worst)+left, untried)
	return nil
}

// worstOfEach lists the findings that fixes are tried for: the worst of every kind, then
// the others, worst first, up to the limit; left counts those beyond it.
func worstOfEach(findings []Finding) (worst []*Finding, left int) {
	var again []*Finding
	seen := map[lick.Code]bool{}
	for i := range findings {
		f := &findings[i]
		if f.Severity == Flows && f.Code != FingerJump || f.Musical || f.Meant {
			continue
		}
		if seen[f.Code] {
			again = append(again, f)
			continue
		}
		seen[f.Code] = true
		worst = append(worst, f)
	}
	worst = append(worst, again...)
	left = max(0, len(worst)-mendedFindings)
	return worst[:len(worst)-left], left
}

// mender tries fixes for one line.
type mender struct {
	*Engine
	hand    *hand.Model
	lick    lick.Lick // as the player has it
	report  *Report   // of it, with its hands decided
	line    *Line     // the decided line
	laid    *hand.Laid
	picking float64         // the picking hand's largest load
	tried   map[string]bool // whole-line edits that were tried
	all     func() window   // the whole line as a part
}

// newMender prepares to mend a lick whose report is known.
func newMender(ctx context.Context, e *Engine, l lick.Lick, r *Report) *mender {
	md := &mender{Engine: e, hand: e.Hand(e.Guitar(l)), lick: l, report: r, tried: map[string]bool{}}
	md.line = e.LayOut(r.Lick, false)
	md.laid = md.hand.Lay(ctx, md.line.Hand, l.Loop)
	md.picking = e.picked(md.line)
	md.all = sync.OnceValue(func() window { return md.part(ctx, 0, len(md.line.Columns), 0) })
	return md
}

// picked is the least possible largest load of the picking hand with the strokes as they are.
func (e *Engine) picked(ln *Line) float64 {
	return e.Player.Pick.Solve(ln.Pick, ln.Written.Loop, pick.Free, 1).Bound
}

// candidates are the edits that are tried for a finding; what changes the whole line
// is tried for the first finding that asks for it.
func (md *mender) candidates(f Finding) []candidate {
	var out []candidate
	for _, c := range candidates(md.lick, md.report, f, md.line.Guitar) {
		if c.scope == around || !md.tried[c.text] {
			md.tried[c.text] = md.tried[c.text] || c.scope != around
			out = append(out, c)
		}
	}
	return out[:min(len(out), triedFixes)]
}

// fixes are those of the candidates that help. What changes one move comes before what changes the line.
func (md *mender) fixes(ctx context.Context, f Finding, w window, list []candidate) []Fix {
	var out []Fix
	found := map[string]bool{}
	for _, c := range list {
		if ctx.Err() != nil {
			break
		}
		if c.family != "" && found[c.family] {
			continue
		}
		if fix, ok := md.try(ctx, c, w, f); ok {
			out, found[c.family] = append(out, fix), true
		}
	}
	slices.SortStableFunc(out, func(a, b Fix) int {
		return cmp.Or(cmp.Compare(a.scope, b.scope), cmp.Compare(b.Ceiling, a.Ceiling))
	})
	return out
}

// judged judges a whole changed line, its hands filled in as the check does.
func (md *mender) judged(ctx context.Context, l lick.Lick) *Judgement {
	j := md.JudgeHanded(ctx, l, md.hand, nil)
	md.Rules(ctx, j)
	return j
}

// try applies a candidate to a copy and judges it as far as it takes to know whether it helps: first the fretting hand
// around the edit, with any fingers; then the fingers that are found; then both hands and the rules.
//
// The order is that of cost. Most candidates fail at the first look, which solves a few events with what lies around
// them kept; only what eases the finding or raises the ceiling goes on. What is answered was judged whole: a fix is
// offered with the ceiling that the line really has with it, and none that brings a new break in place of the old one.
func (md *mender) try(ctx context.Context, c candidate, w window, f Finding) (Fix, bool) {
	if c.scope != around {
		w = md.all()
	}
	part, err := lick.All{Edits: c.edits(w.at)}.Apply(md.reopened(w, c.scope))
	if err != nil {
		return Fix{}, false
	}
	ln := md.LayOut(part, false)
	eased := c.scope == around && (f.Severity == Flows || md.eases(ctx, w, ln, f))
	if !eased && c.scope == around && !md.holdsBottleneck(w) {
		return Fix{}, false
	}
	worth, exact := md.most(), md.most()
	if eased {
		worth, exact = 0, math.Inf(1) // now it is enough that it can be played, later the bound is said
	}
	bound, ok := md.laid.With(ctx, w.from, w.to, w.changed(ln), worth)
	if !ok || !eased && !md.faster(bound) {
		return Fix{}, false
	}
	md.Fingers(ctx, &part, ln, md.hand, load.Slack)
	bound, ok = md.laid.With(ctx, w.from, w.to, w.changed(md.LayOut(part, false)), exact)
	if !ok || !eased && !md.faster(bound) {
		return Fix{}, false
	}
	whole, picking := md.spliced(part, w)
	for k := range part.Notes {
		part.Notes[k].Stroke = whole.Notes[w.first+k].Stroke
	}
	ceiling := md.ceiling(whole, bound, picking)
	if was := md.report.Ceiling; c.scope != around && was > 0 && ceiling <= was*rises {
		return Fix{}, false // the whole line is changed for a higher ceiling only
	}
	after := md.judged(ctx, part)
	if !md.helps(&after.Report, ceiling, w, f) {
		return Fix{}, false
	}
	small := lick.All{Edits: c.edits(func(i int) int { return i }), Why: c.text}
	text := c.text
	if c.scope == around {
		text += md.beside(small, whole)
	}
	return Fix{ID: HandsID(whole), Text: text, Ceiling: ceiling, Edit: lick.Replace{Lick: whole, Why: text},
		small: small, scope: c.scope}, true
}

// whole is the fix by an edit of the whole line, unless the line then breaks where it did not.
func (md *mender) whole(ctx context.Context, r *Report, id, text string, small lick.Edit) (f Fix, ok bool) {
	l, err := small.Apply(md.lick)
	if err != nil {
		return f, false
	}
	got, err := md.Check(ctx, l)
	if err != nil || got.Verdict > r.Verdict {
		return f, false
	}
	return Fix{ID: id, Text: text, Ceiling: got.Ceiling, Edit: lick.Replace{Lick: got.Lick, Why: text}, small: small}, true
}

// beside says what a fix changes beside its own edit, in the hands that the player left
// open: fingers around it, and strokes.
func (md *mender) beside(edit lick.Edit, whole lick.Lick) string {
	own, err := edit.Apply(md.report.Lick.Clone())
	if err != nil || len(own.Notes) != len(whole.Notes) {
		return ""
	}
	var fingers []say.Changed
	strokes := 0
	for i, n := range whole.Notes {
		if m := own.Notes[i]; m.Finger != lick.NoFinger && n.Finger != m.Finger {
			fingers = append(fingers, say.Changed{Note: i, Finger: n.Finger})
		}
		if m := own.Notes[i]; m.Stroke != "" && n.Stroke != "" && n.Stroke != m.Stroke {
			strokes++
		}
	}
	return say.Beside(fingers, strokes)
}

// most is the load of the fretting hand above which no ceiling is worth offering.
func (md *mender) most() float64 {
	if was := md.report.Ceiling; was > 0 {
		return md.lick.Tempo / float64(was*rises)
	}
	return math.Inf(1)
}

// faster says whether a largest load of the fretting hand leaves room for a ceiling that is worth offering.
func (md *mender) faster(bound float64) bool {
	was := md.report.Ceiling
	return was <= 0 || CeilingOf(md.lick.Tempo, bound) > was*rises
}

// holdsBottleneck says whether the move that sets the ceiling lies in the window.
func (md *mender) holdsBottleneck(w window) bool {
	return len(md.report.Bottleneck) == 0 || slices.ContainsFunc(md.report.Bottleneck, func(n int) bool {
		c := md.line.ColumnOf[n-1]
		return c >= w.from && c < w.to
	})
}

// eases says whether an edit that is laid out may end the finding's break: the move
// into its last note, taken alone, flows with some fingers.
func (md *mender) eases(ctx context.Context, w window, ln *Line, f Finding) bool {
	if f.Severity < Breaks {
		return false
	}
	c := md.line.ColumnOf[f.Notes[len(f.Notes)-1]-1] - (w.from - w.skip)
	if f.Unit != "ms" || c < 1 {
		return true
	}
	least, ok := md.hand.Bound(ctx, ln.Hand[c-1:c+1], false)
	return ok && least <= load.Breaks+1e-9
}

// ceiling is the tempo up to which the whole line is clean, 0 where none is.
func (md *mender) ceiling(whole lick.Lick, fretting, picking float64) Ceiling {
	j := &Judgement{Line: md.LayOut(whole, false), player: &md.Player}
	j.Notes = make([]Note, len(whole.Notes))
	j.bendLoads()
	worst := max(fretting, picking)
	for i, b := range j.bends {
		if b.never || j.SlurOf[i].Code != "" || whole.Notes[i].Fret > j.Guitar.Frets {
			return 0
		}
		for _, x := range j.Notes[i].Loads {
			worst = max(worst, x.Load)
		}
	}
	return CeilingOf(whole.Tempo, worst)
}

// helps says whether the copy is better: the ceiling rises, or the break of the finding is gone and no other has come.
func (md *mender) helps(after *Report, ceiling Ceiling, w window, f Finding) bool {
	was, now := md.report.Ceiling, after.Breaking()
	if was > 0 && ceiling > was*rises {
		return now <= w.breaks
	}
	if was > 0 && ceiling <= 0 {
		return false // the copy cannot be played
	}
	gone := !slices.ContainsFunc(after.Findings, func(g Finding) bool {
		return g.Severity >= f.Severity && (f.Severity > Flows || g.Code == f.Code) &&
			slices.ContainsFunc(g.Notes, func(n int) bool { return slices.Contains(f.Notes, n+w.first) })
	})
	if f.Severity == Flows {
		// A remark is answered where that costs next to nothing.
		return gone && now <= w.breaks && ceiling >= was*remarkCost
	}
	return gone && f.Severity == Breaks && now < w.breaks
}

// remarkCost is the part of a ceiling that is left where a fix answers a remark.
const remarkCost = 0.97
