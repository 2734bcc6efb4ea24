package practice

import (
	"math"
	"math/rand/v2"
	"testing"
)

// play is a simulated player's log: rounds at tempos around the ceilings, some with a wide
// stretch or a hard bend, clean by the model's chance at the player's true abilities.
func play(rng *rand.Rand, truth [abilities]float64, count int) (log []Entry) {
	for range count {
		e := Entry{Lick: 1, Picking: 80 + 120*rng.Float64(), Fretting: 80 + 120*rng.Float64(), Time: now}
		switch rng.IntN(5) {
		case 0:
			e.Picking = 0
		case 1:
			e.Fretting = 0
		case 2:
			e.Reach = (0.8 + 0.4*rng.Float64()) / truth[reach]
		case 3:
			e.Bends = (0.8 + 0.4*rng.Float64()) / truth[bends]
		}
		top := math.Inf(1)
		if e.Picking > 0 {
			top = min(top, truth[picking]*e.Picking)
		}
		if e.Fretting > 0 {
			top = min(top, truth[fretting]*e.Fretting)
		}
		e.Tempo = top * (0.75 + 0.4*rng.Float64())
		if e.Reach > 0 || e.Bends > 0 {
			e.Tempo = top * (0.6 + 0.1*rng.Float64()) // what no tempo helps is worked on slowly
		}
		chance := 1.0
		for k, have := range [abilities]float64{e.Picking / e.Tempo, e.Fretting / e.Tempo, e.Reach, e.Bends} {
			if have > 0 {
				chance *= sigmoid(steepness * math.Log(truth[k]*have))
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

// On simulated players the abilities come back within a tenth after two hundred rounds, and the
// intervals hold the truth as often as they say.
func TestCalibrate(t *testing.T) {
	rng := rand.New(rand.NewPCG(9, 5))
	const players = 500
	within, held := [abilities]int{}, [abilities]int{}
	for range players {
		truth := [abilities]float64{}
		for k := range truth {
			truth[k] = math.Exp(spread * rng.NormFloat64())
		}
		for k, a := range Calibrate(play(rng, truth, 200)) {
			if math.Abs(a.Value/truth[k]-1) < 0.1 {
				within[k]++
			}
			if a.Low <= truth[k] && truth[k] <= a.High {
				held[k]++
			}
			if !(a.Low < a.Value && a.Value < a.High) || a.Rounds < 20 || !a.Shown() {
				t.Fatalf("%+v", a)
			}
		}
	}
	for k, name := range abilityNames {
		t.Logf("%s: within a tenth %d, intervals that hold %d of %d", name, within[k], held[k], players)
		if within[k] < players*95/100 {
			t.Errorf("%s: %d of %d estimates are within a tenth", name, within[k], players)
		}
		if share := float64(held[k]) / players; share < 0.90 || share > 0.99 {
			t.Errorf("%s: %.1f %% of the intervals hold the truth", name, 100*share)
		}
	}
	// Without rounds there is the prior, and nothing differs; nor after rounds far below every
	// ceiling, which any hand plays.
	easy := Entry{Tempo: 50, Clean: 100, Picking: 100, Fretting: 100, Reach: 2, Bends: 2, Time: now}
	for _, log := range [][]Entry{nil, {easy}} {
		for _, a := range Calibrate(log) {
			if math.Abs(a.Value-1) > 0.01 || a.Differs() || a.Shown() {
				t.Errorf("%d lines: %+v", len(log), a)
			}
		}
	}
}

// A player whose jumps are slow and whose shifts are quick is told so apart; kinds of which the
// log has little are left out.
func TestKinds(t *testing.T) {
	rng := rand.New(rand.NewPCG(4, 4))
	speed := map[string]float64{"jump": 0.85, "shift": 1.1, "inside change": 0.9, "roll": 1}
	var log []Entry
	for kind, x := range speed {
		truth, rounds := [abilities]float64{1, x, 1, 1}, 150
		switch kind {
		case "inside change":
			truth = [abilities]float64{x, 1, 1, 1}
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
