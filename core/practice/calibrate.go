package practice

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"gonum.org/v1/gonum/mat"
)

// Ability is one of the player's own numbers against the model's: 1 is the model's player.
type Ability struct {
	Name             string // one of the names below
	Value, Low, High float64
	Rounds           int // that say something of it
}

// The abilities in their order: two speeds, how far the fingers spread, and what they hold when
// a string is bent.
const (
	picking = iota
	fretting
	reach
	bends
	abilities
)

var abilityNames = [abilities]string{"picking", "fretting", "reach", "bends"}

// abilityWords say more and less of each ability.
var abilityWords = [abilities][2]string{
	{"faster", "slower"}, {"faster", "slower"}, {"wider", "narrower"}, {"stronger", "weaker"},
}

// How a round goes (model defaults): the chance that one ability suffices is a logistic in the
// logarithm of its margin, a half where there is none to spare; steepness says how fast it
// falls. The prior holds the abilities near the model's player until rounds say otherwise.
const (
	steepness = 14.0
	spread    = 0.2 // standard deviation of the logarithm of an ability, before any round
	sure      = 1.96
)

// rounds is a line of the log as the estimate sees it.
type rounds struct {
	margin        [abilities]float64 // its logarithm; +Inf where the ability is not asked for
	clean, missed float64
}

// margins reads what a part asks for beside what the model's player has: ceiling over tempo for
// the two speeds; for reach and bends, which no tempo makes easier, limit over need.
func (e Entry) margins() (r rounds, ok bool) {
	have := [abilities]float64{e.Picking, e.Fretting, e.Reach, e.Bends}
	need := [abilities]float64{e.Tempo, e.Tempo, 1, 1}
	for k := range have {
		r.margin[k] = math.Inf(1)
		if have[k] > 0 && need[k] > 0 {
			r.margin[k], ok = math.Log(have[k]/need[k]), true
		}
	}
	r.clean, r.missed = float64(e.Clean), float64(e.Missed)
	return r, ok && e.Clean+e.Missed > 0
}

// Calibrate estimates the abilities from rounds that were clean and not.
//
// A round is clean with the probability q = Π σ(k·(x + m)) over the abilities it asks for: m is
// the logarithm of the margin that the model's player has, x that of the player's ability, σ the
// logistic, so that all must suffice. The estimate is the most likely x under a normal prior
// around 0. It is found by Fisher scoring, which is Newton's method with the expected curvature
// I = Σ n·∇q∇qᵀ/(q(1−q)) + 1/spread² for the actual one: I is positive definite whatever the
// rounds say, so that every step climbs. The posterior is close to normal, and the interval is
// ±1.96 standard deviations from the inverse of I (Laplace's method). Both are textbook
// statistics, from memory. As an example, one hundred clean rounds at half of every ceiling
// leave each ability at 1: they say nothing that the prior did not.
//
// The cost is one pass over the log for a step, and a step solves a system of four.
func Calibrate(log []Entry) []Ability {
	var all []rounds
	counts := [abilities]int{}
	for _, e := range log {
		r, ok := e.margins()
		if !ok {
			continue
		}
		all = append(all, r)
		for k, m := range r.margin {
			if !math.IsInf(m, 1) {
				counts[k] += e.Clean + e.Missed
			}
		}
	}
	x := mat.NewVecDense(abilities, nil)
	var chol mat.Cholesky
	for range maxScoring {
		gradient, information := slope(all, x)
		if !chol.Factorize(information) {
			break // not reached: the prior alone makes it positive definite
		}
		var step mat.VecDense
		if err := chol.SolveVecTo(&step, gradient); err != nil {
			break
		}
		if size := mat.Norm(&step, math.Inf(1)); size > longStep {
			step.ScaleVec(longStep/size, &step)
		}
		x.AddVec(x, &step)
		if mat.Norm(&step, 2) < 1e-9 {
			break
		}
	}
	_, information := slope(all, x)
	var covariance mat.SymDense
	if !chol.Factorize(information) || chol.InverseTo(&covariance) != nil {
		covariance = *mat.NewSymDense(abilities, nil)
	}
	out := make([]Ability, abilities)
	for k := range out {
		s := sure * math.Sqrt(max(0, covariance.At(k, k)))
		v := x.AtVec(k)
		out[k] = Ability{abilityNames[k], math.Exp(v), math.Exp(v - s), math.Exp(v + s), counts[k]}
	}
	return out
}

// Kinds are the speeds by kind of move, of those kinds that the log tells of: the same estimate
// from the rounds of parts whose hardest move is of that kind. The kind with most rounds comes
// first.
func Kinds(log []Entry) (out []Ability) {
	by := map[string][]Entry{}
	for _, e := range log {
		if e.Move != "" {
			by[e.Move] = append(by[e.Move], e)
		}
	}
	for kind, part := range by {
		k := fretting
		if kind == strokeMove || strings.HasSuffix(kind, changeMove) {
			k = picking
		}
		if a := Calibrate(part)[k]; a.Shown() {
			a.Name = kind
			out = append(out, a)
		}
	}
	slices.SortFunc(out, func(a, b Ability) int {
		return cmp.Or(cmp.Compare(b.Rounds, a.Rounds), cmp.Compare(a.Name, b.Name))
	})
	return out
}

// How far and how often the estimate steps: a step of longStep is a tenth of an ability.
const (
	maxScoring = 80
	longStep   = 0.1
)

// slope is the gradient of the log posterior at x and its expected curvature. With
// d = ∂ln q/∂x = k·(1−σ), a clean round adds d to the gradient and a missed one −d·q/(1−q).
func slope(all []rounds, x mat.Vector) (*mat.VecDense, *mat.SymDense) {
	g, info := mat.NewVecDense(abilities, nil), mat.NewSymDense(abilities, nil)
	for k := range abilities {
		g.SetVec(k, -x.AtVec(k)/(spread*spread))
		info.SetSym(k, k, 1/(spread*spread))
	}
	for _, r := range all {
		q, d := 1.0, [abilities]float64{}
		for k, m := range r.margin {
			s := sigmoid(steepness * (m + x.AtVec(k)))
			q, d[k] = q*s, steepness*(1-s)
		}
		odds := q / max(1e-12, 1-q)
		for a := range d {
			g.SetVec(a, g.AtVec(a)+d[a]*(r.clean-r.missed*odds))
			for b := a; b < abilities; b++ {
				info.SetSym(a, b, info.At(a, b)+(r.clean+r.missed)*odds*d[a]*d[b])
			}
		}
	}
	return g, info
}

// sigmoid is the logistic; of +Inf it is 1.
func sigmoid(x float64) float64 { return 1 / (1 + math.Exp(-x)) }

// Differs says whether the model's player lies outside of an ability's interval.
func (a Ability) Differs() bool { return a.Low > 1 || a.High < 1 }

// Shown says whether the log tells of an ability at all: its interval is at most half as wide as
// it was before any round.
func (a Ability) Shown() bool { return math.Log(a.High/a.Low) <= sure*spread }

// Words says the value, or a bound of it, against the model's player: "9 % faster".
func (a Ability) Words(x float64) string {
	words := abilityWords[0]
	for k, name := range abilityNames {
		if name == a.Name {
			words = abilityWords[k]
		}
	}
	switch p := int(math.Round(100 * (x - 1))); {
	case p > 0:
		return fmt.Sprintf("%d %% %s", p, words[0])
	case p < 0:
		return fmt.Sprintf("%d %% %s", -p, words[1])
	}
	return "as the default"
}
