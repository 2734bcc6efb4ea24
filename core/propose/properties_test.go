package propose

import (
	"math/rand/v2"
	"slices"
	"testing"

	"ornamen/core/hand"
	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/pick"
	"ornamen/core/player"
	"ornamen/core/testline"
)

// randomLicks calls f with valid random lines until n are done.
func randomLicks(n int, f func(rng *rand.Rand, l lick.Lick)) {
	rng := rand.New(rand.NewPCG(21, 7))
	for n = testline.Nightly(n); n > 0; {
		if l := randomLick(rng, 3+rng.IntN(8), 20); l.Validate() == nil {
			f(rng, l)
			n--
		}
	}
}

// A check keeps what is set, no fingering beats the best possible, and slowing
// down never worsens a verdict.
func TestCheckProperties(t *testing.T) {
	e := judge.NewEngine(player.Default())
	randomLicks(40, func(rng *rand.Rand, l lick.Lick) {
		if rng.IntN(4) == 0 { // a line for the fingers
			for i := range l.Notes {
				if !l.Notes[i].Slur.Slurred() && rng.IntN(3) > 0 {
					l.Notes[i].Stroke = []lick.Stroke{lick.PThumb, lick.PIndex, lick.PMid, lick.PRing}[rng.IntN(4)]
				}
			}
		}
		fast := check(e, l)
		for i, n := range l.Notes {
			if n.Finger != lick.NoFinger && fast.Lick.Notes[i].Finger != n.Finger ||
				n.Stroke != "" && fast.Lick.Notes[i].Stroke != n.Stroke {
				t.Errorf("note %d lost what was set\n%s", i+1, l.Encode())
			}
		}
		if fast.BestPossible > 0 && fast.Ceiling > fast.BestPossible*(1+1e-9) {
			t.Errorf("ceiling %v beats the best possible %v\n%s", fast.Ceiling, fast.BestPossible, l.Encode())
		}
		slow := l.Clone()
		slow.Tempo = max(10, l.Tempo*(0.5+0.5*rng.Float64()))
		if got := check(e, slow); got.Verdict > fast.Verdict {
			t.Errorf("%s at %v, %s at %v\n%s", fast.Verdict, l.Tempo, got.Verdict, slow.Tempo, l.Encode())
		}
	})
}

func TestLocksAreKept(t *testing.T) {
	e := judge.NewEngine(player.Default())
	randomLicks(14, func(rng *rand.Rand, l lick.Lick) {
		ask := Request{Best: 6, Place: rng.IntN(2) == 0, Way: []pick.Way{"", pick.Economy, pick.Legato}[rng.IntN(3)]}
		for _, p := range propose(e, l, ask) {
			if err := p.Lick.Validate(); err != nil {
				t.Fatalf("%s: %v", p.Why, err)
			}
			for _, n := range l.Notes {
				k := slices.IndexFunc(p.Lick.Notes, func(m lick.Note) bool {
					return m.At == n.At &&
						p.Lick.Tuning[m.String-1]+music.Pitch(m.Fret) == l.Tuning[n.String-1]+music.Pitch(n.Fret)
				})
				if k < 0 {
					t.Fatalf("%s: the note at %v is gone\n%s", p.Why, n.At, l.Encode())
				}
				m := p.Lick.Notes[k]
				if n.Locked(lick.FieldFinger) && m.Finger != n.Finger ||
					n.Locked(lick.FieldStroke) && m.Stroke != n.Stroke ||
					n.Locked(lick.FieldString) && m.String != n.String ||
					n.Slur != "" && m.Slur != n.Slur {
					t.Fatalf("%s: %+v became %+v", p.Why, n, m)
				}
			}
		}
	})
}

// Taking a lock away never lowers what is possible.
func TestUnlockingNeverLowersTheBest(t *testing.T) {
	e := judge.NewEngine(player.Default())
	randomLicks(18, func(rng *rand.Rand, l lick.Lick) {
		ask := Request{Way: pick.Free, Place: rng.IntN(3) == 0}
		locked := propose(e, l, ask)[0].BestPossible
		open := l.Clone()
		for i := range open.Notes {
			if rng.IntN(2) == 0 {
				open.Notes[i].Lock = nil
			}
		}
		if got := propose(e, open, ask)[0].BestPossible; got > 0 && float64(got) < float64(locked)*(1-1e-9) {
			t.Errorf("best possible %v with locks, %v without\n%s", locked, got, l.Encode())
		}
	})
}

func TestLargerHandNeverBreaksWhatASmallerPlays(t *testing.T) {
	var engines []*judge.Engine
	for _, size := range []string{"small", "medium", "large"} {
		p := player.Default()
		p.Hand, _ = hand.Named(size)
		engines = append(engines, judge.NewEngine(p))
	}
	randomLicks(18, func(_ *rand.Rand, l lick.Lick) {
		before := check(engines[0], l)
		for _, e := range engines[1:] {
			r := check(e, l)
			if before.Verdict != judge.Breaks && r.Verdict == judge.Breaks {
				t.Errorf("the %s hand breaks what a smaller one plays\n%s", e.Player.Hand.Name, l.Encode())
			}
			if r.BestPossible > 0 && float64(r.BestPossible) < float64(before.BestPossible)*(1-1e-9) {
				t.Errorf("best possible %v, a smaller hand's %v", r.BestPossible, before.BestPossible)
			}
			before = r
		}
	})
}
