package practice

import (
	"math"
	"math/rand/v2"
	"testing"

	"ornamen/core/testline"
)

// world is how a simulated player's rounds come out: how steeply the chance falls, the share of rounds that fail for
// other reasons, the form of the day, how much is learnt over the log, the share of misses that is not logged.
type world struct {
	name                               string
	steep, lapse, form, learns, unsaid float64
	least                              float64 // of the shown intervals that hold, at least
}

// worlds are those of the model's table; the last cannot be told from a log and is only reported.
var worlds = []world{
	{
		name:   "its own",
		steep:  14,
		lapse:  0,
		form:   0,
		learns: 0,
		unsaid: 0,
		least:  0.92,
	}, {
		name:   "3 % lapses",
		steep:  14,
		lapse:  0.03,
		form:   0,
		learns: 0,
		unsaid: 0,
		least:  0.92,
	}, {name: "8 % lapses", steep: 14, lapse: 0.08, form: 0, learns: 0, unsaid: 0, least: 0.92},
	{
		name:   "flat",
		steep:  7,
		lapse:  0.02,
		form:   0,
		learns: 0,
		unsaid: 0,
		least:  0.92,
	}, {
		name:   "steep",
		steep:  25,
		lapse:  0.02,
		form:   0,
		learns: 0,
		unsaid: 0,
		least:  0.92,
	}, {name: "form of the day", steep: 14, lapse: 0.02, form: 0.08, learns: 0, unsaid: 0, least: 0.92},
	{
		name:   "learns",
		steep:  14,
		lapse:  0.02,
		form:   0,
		learns: 0.25,
		unsaid: 0,
		least:  0.92,
	}, {name: "misses unsaid", steep: 14, lapse: 0.02, form: 0, learns: 0, unsaid: 0.5, least: 0},
}

// climbs is a simulated player's log on a ladder, so many rounds of which half a dozen to twenty are played on a day;
// truth is the logarithm of the ability when it is over.
func (w world) climbs(rng *rand.Rand, rounds int) (log []Entry, truth float64) {
	begin := 0.2 * rng.NormFloat64()
	part := Part{Name: "x", From: 1, To: 8, Ceiling: 120, Picking: 120}
	c := climber{part: part, Rung: Rung{Tempo: Start(part, 400), Left: cleanUp, Wanted: 400}}
	at, left, form := now, 0, 0.0
	for n := 0; n < rounds; n++ {
		if left == 0 {
			at = at.AddDate(0, 0, 1+rng.IntN(3))
			left, form = 6+rng.IntN(15), w.form*rng.NormFloat64()
		}
		left--
		truth = begin + w.learns*float64(n)/float64(rounds)
		chance := (1 - w.lapse) * sigmoid(w.steep*(truth+form+math.Log(120/c.Tempo)))
		e := Entry{Lick: 1, Part: "x", Tempo: c.Tempo, Picking: 120, Time: at}
		if rng.Float64() < chance {
			e.Clean = 1
		} else if e.Missed = 1; rng.Float64() < w.unsaid {
			continue
		}
		c.read(e)
		log = append(log, e)
	}
	return log, truth
}

// On simulated players whose truth is known, in worlds that are not the estimate's own: every player is shown after two
// hundred rounds, the shown intervals hold as often as they say, and they are narrow after four hundred. The table of
// docs/model.md is this test's, over five hundred players a world in the night's run.
func TestCalibrateWorlds(t *testing.T) {
	players := 60
	if testline.Nightly(1) > 1 {
		players = 500
	}
	for _, w := range worlds {
		w := w
		t.Run(w.name, func(t *testing.T) {
			t.Parallel()
			rng := rand.New(rand.NewPCG(9, 5))
			held, shown, width := map[int]int{}, map[int]int{}, 0.0
			for range players {
				log, truth := w.climbs(rng, 1000)
				f, read := NewFilter(), 0
				for _, n := range []int{200, 400, 1000} {
					n = min(n, len(log))
					// Whole days are read.
					for n < len(log) && DateOf(log[n].Time) == DateOf(log[n-1].Time) {
						n++
					}
					f.Read(log[read:n])
					read = n
					at := truth - w.learns*(1-float64(n)/float64(len(log)))
					a := f.Abilities()[picking]
					key := 200
					if n >= 1000 || n == len(log) {
						key = 1000
					} else if n >= 400 {
						key = 400
						width += math.Log(a.High/a.Low) / float64(players)
					}
					if a.Shown() {
						shown[key]++
						if math.Log(a.Low) <= at && at <= math.Log(a.High) {
							held[key]++
						}
					}
				}
			}
			t.Logf("%-16s shown after 200: %d of %d; held %d, %d, %d %%; width at 400: %.0f %%", w.name, shown[200],
				players, 100*held[200]/max(1, shown[200]), 100*held[400]/max(1, shown[400]),
				100*held[1000]/max(1, shown[1000]), 100*width)
			if w.least == 0 {
				return
			}
			if shown[200] < players*9/10 {
				t.Errorf("%d of %d players are shown after two hundred rounds", shown[200], players)
			}
			slack := 1.64 * math.Sqrt(w.least*(1-w.least)/float64(3*players)) // of so few players
			if all, ok := shown[200]+shown[400]+shown[1000], held[200]+held[400]+held[1000]; float64(
				ok,
			) < (w.least-slack)*float64(all) {
				t.Errorf("%d of %d shown intervals hold", ok, all)
			}
			if width > 0.20 {
				t.Errorf("after four hundred rounds intervals are %.0f %% wide", 100*width)
			}
		})
	}
}

// All four abilities come out of rounds in which several are asked for, each near its truth, and without rounds, or
// after rounds far below every ceiling, nothing differs.
func TestCalibrateTogether(t *testing.T) {
	rng := rand.New(rand.NewPCG(7, 7))
	held, all := 0, 0
	for range 12 {
		truth := [abilities]float64{}
		for k := range truth {
			truth[k] = 0.15 * rng.NormFloat64()
		}
		for k, a := range Calibrate(play(rng, truth, 800)) {
			if !(a.Low < a.Value && a.Value < a.High) {
				t.Fatalf("%+v", a)
			}
			if a.Shown() {
				all++
				if math.Log(a.Low) <= truth[k] && truth[k] <= math.Log(a.High) {
					held++
				}
			} else if k == picking || k == fretting {
				t.Errorf("%s is not shown after %d rounds", a.Name, a.Rounds)
			}
		}
	}
	if t.Logf("%d of %d hold", held, all); held*100 < all*85 {
		t.Errorf("%d of %d intervals hold", held, all)
	}
	easy := Entry{Tempo: 50, Clean: 20, Picking: 100, Fretting: 100, Reach: 2, Bends: 2, Time: now}
	for _, log := range [][]Entry{nil, {easy}} {
		for _, a := range Calibrate(log) {
			if math.Abs(a.Value-1) > 0.06 || a.Differs() || a.Shown() {
				t.Errorf("%d lines: %+v", len(log), a)
			}
		}
	}
}

// play is a simulated player's log: rounds at tempos around the ceilings, some with a wide
// stretch or a hard bend, clean by the model's chance at the player's true abilities, twelve a day.
func play(rng *rand.Rand, truth [abilities]float64, count int) (log []Entry) {
	for n := range count {
		e := Entry{
			Lick:     1,
			Picking:  80 + 120*rng.Float64(),
			Fretting: 80 + 120*rng.Float64(),
			Time:     now.AddDate(0, 0, n/12),
		}
		switch rng.IntN(5) {
		case 0:
			e.Picking = 0
		case 1:
			e.Fretting = 0
		case 2:
			e.Reach = (0.8 + 0.4*rng.Float64()) / math.Exp(truth[reach])
		case 3:
			e.Bends = (0.8 + 0.4*rng.Float64()) / math.Exp(truth[bends])
		}
		top := math.Inf(1)
		if e.Picking > 0 {
			top = min(top, math.Exp(truth[picking])*e.Picking)
		}
		if e.Fretting > 0 {
			top = min(top, math.Exp(truth[fretting])*e.Fretting)
		}
		e.Tempo = top * (0.75 + 0.4*rng.Float64())
		if e.Reach > 0 || e.Bends > 0 {
			e.Tempo = top * (0.6 + 0.1*rng.Float64()) // what no tempo helps is worked on slowly
		}
		chance := 1.0
		for k, have := range [abilities]float64{e.Picking / e.Tempo, e.Fretting / e.Tempo, e.Reach, e.Bends} {
			if have > 0 {
				chance *= sigmoid(steepness * (truth[k] + math.Log(have)))
			}
		}
		if rng.Float64() < chance {
			e.Clean = 1
		} else {
			e.Missed = 1
		}
		log = append(log, e)
	}
	return log
}

// A player whose jumps are slow and whose shifts are quick is told so apart; kinds of which the
// log has little are left out.
func TestKinds(t *testing.T) {
	rng := rand.New(rand.NewPCG(4, 4))
	speed := map[string]float64{"jump": 0.85, "shift": 1.1, "inside change": 0.9, "roll": 1}
	var log []Entry
	for kind, x := range speed {
		truth, rounds := [abilities]float64{0, math.Log(x), 0, 0}, 300
		switch kind {
		case "inside change":
			truth = [abilities]float64{math.Log(x), 0, 0, 0}
		case "roll":
			rounds = 2
		}
		for _, e := range play(rng, truth, rounds) {
			e.Move = kind
			log = append(log, e)
		}
	}
	got := Kinds(log)
	if len(got) != 3 {
		t.Errorf("%+v", got)
	}
	for _, a := range got {
		if want := speed[a.Name]; math.Abs(a.Value/want-1) > 0.1 || !a.Shown() {
			t.Errorf("%s: %.2f, want %.2f", a.Name, a.Value, want)
		}
	}
}
