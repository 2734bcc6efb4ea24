package practice

import "math"

// Ability is one of the player's own numbers against the model's: 1 is the model's player.
type Ability struct {
	Name             string // "picking", "fretting"
	Value, Low, High float64
	Rounds           int // that say something of it
}

// How a round goes at a tempo (model defaults): the chance that one hand is clean is a logistic
// in the logarithm of the tempo, a half at its ceiling; steepness says how fast it falls. The
// prior holds the abilities near the model's player until rounds say otherwise.
const (
	steepness = 14.0
	spread    = 0.2 // standard deviation of the logarithm of an ability, before any round
	sure      = 1.96
)

// Calibrate estimates the speeds of the picking and the fretting hand from rounds that were
// clean and not.
//
// A round at tempo t of a part with the ceilings P and F (at the model's speeds) is clean with
// the probability σ(k·(ln(p·P) − ln t)) · σ(k·(ln(f·F) − ln t)): both hands must come through.
// The estimate is the most likely pair (ln p, ln f) under a normal prior around 0, found by
// Newton's method; the posterior is close to normal, so that the interval is ±1.96 standard
// deviations from the inverse of its curvature (Laplace's method). Both are textbook
// statistics, from memory.
func Calibrate(log []Entry) []Ability {
	type round struct {
		pick, fret float64 // ln(ceiling) − ln(tempo); +Inf where the hand does nothing
		clean      float64
		missed     float64
	}
	var rounds []round
	counts := [2]int{}
	for _, e := range log {
		if e.Tempo <= 0 || e.Clean+e.Missed == 0 || e.Picking <= 0 && e.Fretting <= 0 {
			continue
		}
		r := round{math.Inf(1), math.Inf(1), float64(e.Clean), float64(e.Missed)}
		if e.Picking > 0 {
			r.pick = math.Log(e.Picking / e.Tempo)
			counts[0] += e.Clean + e.Missed
		}
		if e.Fretting > 0 {
			r.fret = math.Log(e.Fretting / e.Tempo)
			counts[1] += e.Clean + e.Missed
		}
		rounds = append(rounds, r)
	}
	// gradient and curvature (the negative of the log posterior's second derivatives, by
	// differences of the gradient, which are exact enough here) at a pair of abilities.
	gradient := func(p, f float64) (gp, gf float64) {
		gp, gf = -p/(spread*spread), -f/(spread*spread)
		for _, r := range rounds {
			a, b := sigmoid(steepness*(r.pick+p)), sigmoid(steepness*(r.fret+f))
			q := a * b
			da, db := steepness*(1-a), steepness*(1-b) // of ln q
			miss := q / max(1e-12, 1-q)
			gp += da * (r.clean - r.missed*miss)
			gf += db * (r.clean - r.missed*miss)
		}
		return gp, gf
	}
	curvature := func(p, f float64) (pp, pf, ff float64) {
		const h = 1e-4
		ap, af := gradient(p+h, f)
		bp, bf := gradient(p-h, f)
		_, cf := gradient(p, f+h)
		_, df := gradient(p, f-h)
		return -(ap - bp) / (2 * h), -(af - bf) / (2 * h), -(cf - df) / (2 * h)
	}
	p, f := 0.0, 0.0
	for range 60 {
		gp, gf := gradient(p, f)
		pp, pf, ff := curvature(p, f)
		det := pp*ff - pf*pf
		if det <= 0 || pp <= 0 {
			p, f = p+0.01*sign(gp), f+0.01*sign(gf) // climb until it curves down
			continue
		}
		sp, sf := (ff*gp-pf*gf)/det, (pp*gf-pf*gp)/det
		p, f = p+max(-0.1, min(0.1, sp)), f+max(-0.1, min(0.1, sf))
		if math.Abs(sp)+math.Abs(sf) < 1e-9 {
			break
		}
	}
	pp, pf, ff := curvature(p, f)
	det := pp*ff - pf*pf
	ability := func(name string, x, variance float64, n int) Ability {
		s := sure * math.Sqrt(max(0, variance))
		return Ability{name, math.Exp(x), math.Exp(x - s), math.Exp(x + s), n}
	}
	return []Ability{ability("picking", p, ff/det, counts[0]), ability("fretting", f, pp/det, counts[1])}
}

// sigmoid is the logistic; of +Inf it is 1.
func sigmoid(x float64) float64 { return 1 / (1 + math.Exp(-x)) }

// sign is −1, 0 or 1.
func sign(x float64) float64 {
	switch {
	case x > 0:
		return 1
	case x < 0:
		return -1
	}
	return 0
}

// Differs says whether the model's player lies outside of an ability's interval.
func (a Ability) Differs() bool { return a.Low > 1 || a.High < 1 }
