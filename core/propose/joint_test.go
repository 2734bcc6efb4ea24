package propose

import (
	"context"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/load"
	"ornamen/core/pick"
	"ornamen/core/player"
	"ornamen/core/testline"
)

// randomLick is a short line with skips, high and low frets, open strings, slurs,
// held notes, double stops and locks.
func randomLick(rng *rand.Rand, n, frets int) lick.Lick {
	l := lick.New()
	l.Tempo, l.Loop = 60+float64(rng.IntN(140)), rng.IntN(5) == 0
	base, at := 1+rng.IntN(frets-6), lick.Time{}
	step := lick.NewTime(1, 16)
	for i := range n {
		note := lick.Note{At: at, Len: step, String: 1 + rng.IntN(6), Fret: base + rng.IntN(6)}
		length := lick.NewTime(int64(1+rng.IntN(2)), 16)
		if rng.IntN(9) == 0 {
			note.Fret = 0
		}
		switch rng.IntN(6) {
		case 0:
			if note.Fret > 0 {
				note.Finger, note.Lock = lick.Index+lick.Finger(rng.IntN(4)), lick.LockSet{lick.FieldFinger}
			}
		case 1:
			note.Stroke, note.Lock = []lick.Stroke{lick.Down, lick.Up}[rng.IntN(2)], lick.LockSet{lick.FieldStroke}
		case 2:
			note.Lock = lick.LockSet{lick.FieldString}
		case 3:
			if i > 0 {
				before := l.Notes[len(l.Notes)-1]
				note.String = before.String
				note.Slur = []lick.Slur{lick.Hammer, lick.Pull, lick.Slide, lick.Shift}[rng.IntN(4)]
			}
		}
		note.Len = length
		l.Notes = append(l.Notes, note)
		if rng.IntN(5) == 0 {
			second := note
			second.String, second.Fret = 1+note.String%6, base+rng.IntN(5)
			second.Slur, second.Stroke, second.Lock, second.Finger = "", "", nil, lick.NoFinger
			if rng.IntN(2) == 0 {
				second.Len = step.Times(2) // held under what follows
			}
			l.Notes = append(l.Notes, second)
		}
		at = at.Add(length)
	}
	l.Sort()
	return l
}

// everywhere tries every row of places and judges each by the search for given
// places, which has its own exhaustive test. It is the slow way, written without
// the joint search.
func everywhere(e *judge.Engine, p *proposer, l lick.Lick) (breaches int, bound float64) {
	breaches, bound = math.MaxInt, math.Inf(1)
	given := e.LayOut(l, false)
	open := slices.ContainsFunc(l.Notes, func(n lick.Note) bool { return n.Fret == 0 })
	var try func(i int, m lick.Lick)
	try = func(i int, m lick.Lick) {
		if i == len(m.Notes) {
			c := m.Clone()
			c.Sort()
			if c.Validate() != nil || !sameSlurs(given, e.LayOut(m, false)) {
				return
			}
			ln := e.LayOut(c, false)
			fretting, ok := p.hand.Bound(context.Background(), ln.Hand, c.Loop)
			picking := p.Player.Pick.Solve(ln.Pick, c.Loop, p.way, 1)
			if v := max(fretting, picking.Bound); ok &&
				(picking.Breaches < breaches || picking.Breaches == breaches && v < bound) {
				breaches, bound = picking.Breaches, v
			}
			return
		}
		n := m.Notes[i]
		if n.Locked(lick.FieldString) || given.SlurOf[i].Code != "" || bound0(given, i) {
			try(i+1, m)
			return
		}
		for _, at := range e.Guitar(l).Places(l.Pitch(i)) {
			if at.Fret == 0 && (n.Finger != lick.NoFinger || n.Fret > 0 && !open) {
				continue
			}
			m.Notes[i].String, m.Notes[i].Fret = at.String, at.Fret
			try(i+1, m)
		}
		m.Notes[i] = n
	}
	try(0, l.Clone())
	return breaches, bound
}

// bound0 says whether a slur ties the note to one that is not just before it, or
// that cannot sound: such notes stay where they are written.
func bound0(ln *judge.Line, i int) bool {
	cols := ln.Columns
	for c, col := range cols {
		for k := col[0]; k < col[1]; k++ {
			s := ln.SlurOf[k].From
			if s < 0 || k != i && s != i {
				continue
			}
			if c == 0 || s < cols[c-1][0] || ln.SlurOf[k].Code != "" {
				return true
			}
		}
	}
	return false
}

// sameSlurs says whether every slur still comes from the same note and sounds.
func sameSlurs(a, b *judge.Line) bool {
	for i := range a.SlurOf {
		if a.SlurOf[i].From != b.SlurOf[i].From || a.SlurOf[i].Code != b.SlurOf[i].Code {
			return false
		}
	}
	return true
}

// Places, hands and strokes in one search equal trying every row of places. A
// short neck makes thousands of lines quick to try; the whole neck is tried on some.
func TestFreePlacesAreExact(t *testing.T) {
	short := player.Default()
	short.Guitar.Frets = 8
	gains := 0
	for _, c := range []struct {
		player       player.Player
		lines, notes int
	}{{short, testline.Nightly(300), 4}, {player.Default(), testline.Nightly(8), 3}} {
		e := judge.NewEngine(c.player)
		rng := rand.New(rand.NewPCG(8, 3))
		for checked := 0; checked < c.lines; {
			l := randomLick(rng, 2+rng.IntN(c.notes-1), min(20, c.player.Guitar.Frets))
			if l.Validate() == nil {
				checked += freePlaces(t.Context(), t, e, l, rng, &gains)
			}
		}
	}
	if gains < 60 {
		t.Errorf("free places helped only %d lines: they prove little", gains)
	}
}

// freePlaces compares one line; it counts 1 if it can be played anywhere.
func freePlaces(ctx context.Context, t *testing.T, e *judge.Engine, l lick.Lick, rng *rand.Rand, gains *int) int {
	t.Helper()
	way := []pick.Way{pick.Alternate, pick.Economy, pick.Free}[rng.IntN(3)]
	p := asked(
		e,
	).newProposer(ctx, l, Request{Way: way, Place: true, Angle: []pick.Angle{pick.LeavesDown, pick.Either}[rng.IntN(2)]})
	given := p.FillWithin(ctx, p.base, p.hand, way, 1)
	res, ok := p.newJoint(ctx, p.base, p.hand, way).solve(ctx, given.Bound, given.Breaches)
	b, bound := everywhere(p.Engine, p, p.base)
	if b > given.Breaches {
		bound = math.Inf(1)
	}
	if !ok {
		if !math.IsInf(bound, 1) {
			t.Fatalf("%s: the search found no way, there is one of load %v\n%s", way, bound, l.Encode())
		}
		return 0
	}
	if math.Abs(res.bound-bound) > 1e-9*bound {
		t.Fatalf("%s: bound %v, every row of places gives %v\n%s", way, res.bound, bound, l.Encode())
	}
	if got := p.boundOf(ctx, atPlaces(p.base, res.least), way); math.Abs(got-bound) > 1e-9*bound {
		t.Fatalf("%s: the places named reach %v, not %v\n%s", way, got, bound, l.Encode())
	}
	if got := p.boundOf(ctx, atPlaces(p.base, res.leastSum), way); got > bound*load.Slack*(1+1e-9) {
		t.Fatalf("%s: the calm places reach only %v of %v", way, got, bound)
	}
	if bound < given.Bound*(1-1e-9) {
		*gains++
	}
	return 1
}

// Choosing the places for the fretting hand first, and the strokes after, is not
// as good: here the fretting hand's best places skip strings that the pick must
// cross.
func TestPlacesFirstIsWorse(t *testing.T) {
	e := judge.NewEngine(player.Default())
	l := testline.Build(t, 120, "2:5 3:7 4:10 1:5")
	p := asked(e).newProposer(t.Context(), l, Request{Way: pick.Alternate, Place: true})
	given := p.FillWithin(t.Context(), p.base, p.hand, p.way, 1)
	res, ok := p.newJoint(t.Context(), p.base, p.hand, p.way).solve(t.Context(), given.Bound, given.Breaches)
	if !ok {
		t.Fatal("no way found")
	}
	handOnly, both := math.Inf(1), math.Inf(1)
	rows(e, l, func(c lick.Lick) {
		ln := e.LayOut(c, false)
		fretting, ok := p.hand.Bound(context.Background(), ln.Hand, false)
		picking := p.Player.Pick.Solve(ln.Pick, false, p.way, 1).Bound
		switch {
		case !ok:
		case fretting < handOnly*(1-1e-9):
			handOnly, both = fretting, max(fretting, picking)
		case fretting <= handOnly*(1+1e-9):
			both = min(both, max(fretting, picking))
		}
	})
	if res.bound*1.2 > both {
		t.Errorf("in one search %v, places first %v: no difference to speak of", res.bound, both)
	}
}

// rows calls f with the line at every row of places.
func rows(e *judge.Engine, l lick.Lick, f func(lick.Lick)) {
	var try func(i int, m lick.Lick)
	try = func(i int, m lick.Lick) {
		if i == len(m.Notes) {
			c := m.Clone()
			c.Sort()
			f(c)
			return
		}
		for _, at := range e.Guitar(l).Places(l.Pitch(i)) {
			m.Notes[i].String, m.Notes[i].Fret = at.String, at.Fret
			try(i+1, m)
		}
	}
	try(0, l.Clone())
}
