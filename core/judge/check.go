package judge

import (
	"cmp"
	"context"
	"math"
	"slices"

	"ornamen/core/changes"
	"ornamen/core/hand"
	"ornamen/core/lick"
	"ornamen/core/load"
	"ornamen/core/pick"
	"ornamen/core/player"
	"ornamen/core/say"
)

// Check judges a lick at its tempo. Fingers and strokes that are not decided are filled in as the player's habits
// propose them; places, slurs and rhythm are kept. Fixes are left to Mend. Of a line longer than MaxNotes its beginning
// is judged, and LeftOut says so. The error is the context's.
func (e *Engine) Check(ctx context.Context, l lick.Lick) (*Report, error) {
	if len(l.Notes) > MaxNotes {
		return e.checkBeginning(ctx, l)
	}
	j := e.checked(ctx, l)
	if err := Done(ctx); err != nil {
		return nil, err
	}
	return j.Alone(), nil
}

// MaxNotes is how many notes of a line are judged together: an answer is worth some seconds, and
// who works on more works on a part of it.
const MaxNotes = 2048

// checkBeginning judges the notes of a long line that lie within the limit. The report has a place
// for every note; those beyond it are as they are written.
func (e *Engine) checkBeginning(ctx context.Context, l lick.Lick) (*Report, error) {
	n := MaxNotes
	for n > 1 && l.Notes[n].At.Cmp(l.Notes[n-1].At) == 0 {
		n-- // notes that sound together stay together
	}
	part := l
	part.Notes, part.Loop, part.Parts = slices.Clone(l.Notes[:n]), false, nil
	r, err := e.Check(ctx, part)
	if err != nil {
		return nil, err
	}
	whole := l.Clone()
	copy(whole.Notes, r.Lick.Notes)
	r.Lick = whole
	r.Notes = append(r.Notes, make([]Note, len(l.Notes)-n)...)
	r.LeftOut = say.BeginningOnly(n, len(l.Notes))
	return r, nil
}

// checked fills a lick's hands in around what is locked and judges the result, without fixes.
func (e *Engine) checked(ctx context.Context, l lick.Lick) *Judgement {
	m := e.Hand(e.Guitar(l))
	j := e.Measure(ctx, l, m)
	j.BestPossible = e.Best(ctx, j, m)
	return j
}

// Alone is the judgement's report on its own, so that keeping it does not keep the tables of the search.
func (j *Judgement) Alone() *Report {
	r := j.Report
	return &r
}

// Measure fills in and judges a lick.
func (e *Engine) Measure(ctx context.Context, l lick.Lick, m *hand.Model) *Judgement {
	f := e.filled(ctx, l, m, e.Player.Way)
	j := e.JudgeHanded(ctx, f.Lick, m, nil)
	j.Taught = CeilingOf(l.Tempo, f.Taught)
	for i := range j.Notes {
		j.Notes[i].ProposedFinger = l.Notes[i].Finger == lick.NoFinger
		j.Notes[i].ProposedStroke = l.Notes[i].Stroke == "" && !l.Notes[i].Slur.Slurred()
	}
	e.Rules(ctx, j)
	return j
}

// Rules runs the rules, unless the search was stopped: then there are no hands to look at.
func (e *Engine) Rules(ctx context.Context, j *Judgement) {
	if ctx.Err() == nil {
		j.found()
	}
}

// found runs the rules. The verdict is never better than the worst finding, and
// what cannot be done at any tempo has no ceiling, whichever rule says so.
func (j *Judgement) found() {
	j.Findings = find(j)
	for _, f := range j.Findings {
		if len(f.Notes) > 0 {
			last := &j.Notes[f.Notes[len(f.Notes)-1]-1]
			last.Severity = max(last.Severity, f.Severity)
		}
		j.Verdict = max(j.Verdict, f.Severity)
		if f.Always && f.Severity == Breaks {
			j.Ceiling, j.Bottleneck = 0, []int{}
		}
	}
}

// Judgement is a report with what its rules need to look at.
type Judgement struct {
	Report
	*Line
	player *player.Player
	handed hand.Path
	picked pick.Path
	bends  []bendState

	chorded *changes.Report // harmony's memory
}

// Fill decides the open fingers and strokes.
func (e *Engine) Fill(ctx context.Context, l lick.Lick, m *hand.Model, way pick.Way) lick.Lick {
	return e.filled(ctx, l, m, way).Lick
}

// filled is Fill with what is known of the hands; where nothing is open nothing is searched.
func (e *Engine) filled(ctx context.Context, l lick.Lick, m *hand.Model, way pick.Way) Filled {
	open := func(n lick.Note) bool {
		return n.Finger == lick.NoFinger || n.Stroke == "" && !n.Slur.Slurred()
	}
	if !slices.ContainsFunc(l.Notes, open) {
		return Filled{Lick: l}
	}
	return e.FillWithin(ctx, l, m, way, load.Slack)
}

// Filled is a line with both hands decided.
type Filled struct {
	Lick     lick.Lick
	Bound    float64 // least possible largest load, +Inf when some step cannot be done
	Breaches int     // of the way
	// Taught is the largest load of the hands that are taught, where others are filled in as those would be late; else 0.
	Taught float64
}

// fastWorth is how much faster than the taught hands others must be to be worth a change (model default).
const fastWorth = 1.1

// FillWithin is fill with each hand's largest load within slack of its own bound, or further for a figure's sake. The
// hands are the same at every tempo; where they would be late and others are faster by a tenth, those are taken, so
// that a line has two hands at most and one tempo where they change. A hand that is fast enough keeps its own.
func (e *Engine) FillWithin(ctx context.Context, l lick.Lick, m *hand.Model, way pick.Way, slack float64) Filled {
	f := Filled{Lick: l.Clone()}
	ln := e.LayOut(f.Lick, false)
	ln.nameCells()
	handed, open := e.handed(ctx, f.Lick, ln, m, slack)
	picked := e.Player.Pick.Solve(ln.Pick, l.Loop, way, slack)
	f.Bound, f.Breaches = max(handed.Bound, picked.Bound), picked.Breaches
	if !handed.Possible() {
		f.Bound = math.Inf(1)
	}
	if taught := max(handed.Load, picked.Load()); slack > 1 && taught > load.Breaks && ctx.Err() == nil {
		strokes := e.Player.Pick.Solve(ln.Pick, l.Loop, way, 1)
		fingers, ok := handed, false
		if open {
			fingers, ok = m.Fast(ctx, ln.Hand, l.Loop, handed.Bound, strokes.Load())
		}
		if !ok {
			fingers = handed
		}
		if fast := max(fingers.Load, strokes.Load()); fast*fastWorth < taught {
			f.Taught = taught
			if handed.Load > fast {
				handed = fingers
			}
			if picked.Load() > fast {
				picked = strokes
			}
		}
	}
	if open {
		setFingers(&f.Lick, ln, handed)
	}
	FillStrokes(&f.Lick, ln, picked)
	return f
}

// handed is the fretting hand's path for a line that is laid out; open says that some finger is to be decided.
func (e *Engine) handed(
	ctx context.Context, l lick.Lick, ln *Line, m *hand.Model, slack float64,
) (p hand.Path, open bool) {
	if slices.ContainsFunc(l.Notes, func(n lick.Note) bool { return n.Finger == lick.NoFinger }) {
		return m.Solve(ctx, ln.Hand, l.Loop, slack), true
	}
	bound, ok := m.Bound(ctx, ln.Hand, l.Loop)
	if !ok {
		bound = math.Inf(1)
	}
	return hand.Path{Bound: bound, Load: bound}, false
}

// Fingers decides the open fingers of a line that is laid out, as they are taught, and gives the least
// possible largest load, +Inf when some step cannot be done.
func (e *Engine) Fingers(ctx context.Context, l *lick.Lick, ln *Line, m *hand.Model, slack float64) (bound float64) {
	ln.nameCells()
	path, open := e.handed(ctx, *l, ln, m, slack)
	if open {
		setFingers(l, ln, path)
	}
	if !path.Possible() {
		return math.Inf(1)
	}
	return path.Bound
}

// setFingers writes a path's fingers where none is set.
func setFingers(l *lick.Lick, ln *Line, path hand.Path) {
	for c, notes := range ln.touches {
		for k, i := range notes {
			if l.Notes[i].Finger == lick.NoFinger {
				l.Notes[i].Finger = path.Steps[c].Fingers[k]
			}
		}
		layFlat(l, notes)
	}
}

// layFlat marks the notes of a column that one finger holds together.
func layFlat(l *lick.Lick, notes []int) {
	for _, i := range notes {
		for _, k := range notes {
			a, b := &l.Notes[i], &l.Notes[k]
			if i != k && a.Finger.Fretting() && a.Finger == b.Finger && a.Fret == b.Fret {
				a.Barre, b.Barre = true, true
			}
		}
	}
}

// JudgeHanded measures a lick whose hands are decided; handed is the fretting hand's path, nil where it is not known.
func (e *Engine) JudgeHanded(ctx context.Context, l lick.Lick, m *hand.Model, handed *hand.Path) *Judgement {
	ln := e.LayOut(l, false)
	j := &Judgement{Line: ln, player: &e.Player}
	if handed == nil {
		path := m.Frames(ctx, ln.Hand, l.Loop)
		handed = &path
	}
	j.handed = *handed
	j.picked = e.Player.Pick.Solve(ln.Pick, l.Loop, pick.Free, 1)
	j.Lick, j.Tempo, j.Notes = l, l.Tempo, make([]Note, len(l.Notes))
	j.handLoads()
	j.pickLoads()
	j.bendLoads()
	j.Barres = j.barres()
	for i := range j.Notes {
		j.Notes[i].Leads = j.leads(i)
	}
	j.conclude()
	return j
}

// add notes one more load of note i.
func (j *Judgement) add(i int, l Load) { j.Notes[i].Loads = append(j.Notes[i].Loads, l) }

// handLoads turns the steps of the fretting hand into loads of notes. The step of a column
// is that of its notes that move; held ones have none.
func (j *Judgement) handLoads() {
	for c, s := range j.handed.Steps {
		j.Reach = max(j.Reach, s.Reach)
		for k, i := range j.touches[c] {
			if j.Hand[c].Touches[k].Held {
				continue
			}
			n := &j.Notes[i]
			n.Frame, n.Kind, n.Way = s.Frame, s.Kind, s.Way
			if j.Hand[c].Touches[k].Place.Fret > 0 {
				n.Stretch = s.Stretch
			}
			possible := s.Possible && j.SlurOf[i].Code == ""
			if s.Kind != hand.Start && k == s.Part || !possible {
				j.add(i, Load{
					Side:     Fretting,
					Need:     s.Need,
					Have:     j.Hand[c].Have,
					Load:     s.Load,
					From:     j.previous(c),
					Possible: possible,
				})
			}
		}
	}
}

// previous is the last note of the column before c, round the loop.
func (ln *Line) previous(c int) int {
	if c == 0 {
		if !ln.Written.Loop {
			return -1
		}
		c = len(ln.Columns)
	}
	return ln.Columns[c-1][1] - 1
}

// pickLoads turns the strokes into loads of the notes they sound. A stroke's load is that of every note it sounds, and
// comes from the last note of the stroke before.
func (j *Judgement) pickLoads() {
	for p, s := range j.picked.Steps {
		switch s.StringChange {
		case pick.Inside:
			j.StringChanges.Inside++
		case pick.Outside:
			j.StringChanges.Outside++
		case pick.Sweep:
			j.StringChanges.Sweep++
		case pick.Against:
			j.StringChanges.Against++
		}
		from := p - 1
		if p == 0 && j.Written.Loop {
			from = len(j.picked.Steps) - 1
		}
		j.Strokes++
		for _, i := range j.strokes[p] {
			j.Notes[i].StringChange, j.Notes[i].Exit = s.StringChange, s.Exit
			if s.Need > 0 && from >= 0 {
				notes := j.strokes[from]
				j.add(i, Load{
					Side:     Picking,
					Need:     s.Need,
					Have:     j.Pick[p].Have,
					Load:     s.Load,
					From:     notes[len(notes)-1],
					Possible: true,
				})
			}
		}
	}
	for _, n := range j.Written.Notes {
		if n.Slur.Slurred() {
			j.Slurs++
		}
	}
	j.Exits = exits(j.picked.Steps)
}

// exits says after which stroke the string changes leave the strings: down, up, mixed, or none where no change leaves.
func exits(steps []pick.Step) string {
	var down, up bool
	for _, s := range steps {
		down, up = down || s.Exit == lick.Down, up || s.Exit == lick.Up
	}
	switch {
	case down && up:
		return "mixed"
	case down:
		return "down"
	case up:
		return "up"
	}
	return "none"
}

// conclude draws verdict, ceiling and bottleneck from the loads.
//
// The verdict is the worst of the notes'; a note is as bad as its largest load, as its strain, or as its bend. The
// ceiling is the tempo over the largest load of both hands, for a load is need over have and have shrinks as the tempo
// grows: at 112 a load of 1.25 gives 89. The fretting hand's share is taken from its bound, the least largest load of
// any fingering that is recommended among; the bottleneck is the note of the largest load and the one before it that
// the move comes from.
func (j *Judgement) conclude() {
	worst, possible := Load{From: -1}, true
	at, others := -1, 0.0 // others: the largest load that is not the fretting hand's
	for i := range j.Notes {
		n := &j.Notes[i]
		slices.SortStableFunc(n.Loads, func(a, b Load) int {
			if a.Possible != b.Possible && b.Possible {
				return -1 // what cannot be done is the worst
			} else if a.Possible != b.Possible {
				return 1
			}
			return cmp.Compare(b.Load, a.Load)
		})
		for _, x := range n.Loads {
			if x.Side != Fretting {
				others = max(others, x.Load)
			}
		}
		w := n.Worst()
		n.Severity = loadSeverity(w.Load)
		if n.Stretch.Strain() > load.Strain {
			n.Severity = max(n.Severity, Tight)
		}
		n.Severity = max(n.Severity, j.bends[i].severity)
		if !w.Possible {
			n.Severity = Breaks
		}
		possible = possible && w.Possible && !j.bends[i].never
		j.Verdict = max(j.Verdict, n.Severity)
		if w.Load > worst.Load {
			worst, at = w, i
		}
	}
	j.Bottleneck = []int{}
	if !possible {
		j.Verdict = Breaks
		return
	}
	// The ceiling is that of the best frames, where the ones that are shown stand at more ease.
	j.Ceiling = CeilingOf(j.Tempo, max(min(worst.Load, j.handed.Bound), others))
	if at >= 0 {
		if worst.From >= 0 && worst.From != at {
			j.Bottleneck = append(j.Bottleneck, worst.From+1)
		}
		j.Bottleneck = append(j.Bottleneck, at+1)
	}
}

// Best is the ceiling that the best fingers and strokes would reach. 0 stands for none: something cannot be played
// there by any hands, or nothing moves. The finger of a bend and those behind it are free too.
func (e *Engine) Best(ctx context.Context, j *Judgement, m *hand.Model) Ceiling {
	free := e.LayOut(j.Written, true)
	bound, ok := m.Bound(ctx, free.Hand, j.Written.Loop)
	if !ok {
		return 0
	}
	for i := range j.Notes {
		n, b := j.Written.Notes[i], j.bends[i]
		held := b.heavy && free.strongEnough(n, true) != 0
		if j.SlurOf[i].Code != "" || b.never && !held || n.Fret > j.Guitar.Frets {
			return 0
		}
	}
	bound = max(bound, e.Player.Pick.Solve(free.Pick, j.Written.Loop, pick.Free, 1).Bound)
	for _, b := range j.bends {
		bound = max(bound, b.load)
	}
	return CeilingOf(j.Tempo, max(bound, 0))
}

// round1 keeps one decimal, as the reports print.
func round1(x float64) float64 { return math.Round(x*10) / 10 }
