package practice

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"
)

// Ability is one of the player's own numbers against the model's: 1 is the model's player. Low to High holds the truth
// nineteen times in twenty.
type Ability struct {
	Name             string // one of the names below
	Value, Low, High float64
	Rounds           int // that say something of it
	spread           float64
}

// The abilities in their order: two speeds, how far the fingers spread, and what they hold when a string is bent.
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

// The estimate's assumptions (model defaults). An ability is a logarithm on a grid; it drifts between days of practice;
// a round is clean with (1−λ)·σ(k·(x+m)), where m is the logarithm of the margin that the model's player has, k how
// steeply the chance falls, λ the share of rounds that fail for other reasons, and each day has a form of its own.
const (
	gridStep  = 0.01
	gridHalf  = 90    // cells to either side: from −0.9 to 0.9
	spread    = 0.25  // standard deviation of an ability before any round
	drift     = 0.012 // of a day, times the root of the days
	shownAt   = 0.5   // of the spread: an estimate that is surer is shown
	tooLittle = 1e-6  // of the evidence: a hypothesis that has less is dropped
	marginMax = 400   // cells: a margin beyond four, an easier round than any, is that
)

// gridCells is how many cells the grid has.
const gridCells = 2*gridHalf + 1

// hypothesis is a guess of how a player's rounds fail, with its weight before any round.
type hypothesis struct{ value, weight float64 }

// The hypotheses of the filter; what they come to is weighed by the evidence.
var (
	steeps = []hypothesis{{5, .10}, {7, .20}, {10, .25}, {14, .30}, {20, .15}}
	lapses = []hypothesis{{.005, .25}, {.02, .30}, {.05, .25}, {.10, .15}, {.18, .05}}
	forms  = []hypothesis{{0, .40}, {.04, .35}, {.09, .25}}
)

// steepness is the model's own, for what other abilities a round asks for.
const steepness = 14.0

// sigmoids is σ(k·x) for every steepness, x in cells from −(gridHalf+marginMax) on.
var sigmoids = func() (out [][]float64) {
	for _, k := range steeps {
		row := make([]float64, 2*(gridHalf+marginMax)+1)
		for i := range row {
			row[i] = sigmoid(k.value * gridStep * float64(i-gridHalf-marginMax))
		}
		out = append(out, row)
	}
	return out
}()

// margins reads what a part asks for beside what the model's player has: ceiling over tempo for
// the two speeds; for reach and bends, which no tempo makes easier, limit over need. They are logarithms; +Inf where
// the ability is not asked for.
func (e Entry) margins() (margin [abilities]float64, ok bool) {
	have := [abilities]float64{e.Picking, e.Fretting, e.Reach, e.Bends}
	need := [abilities]float64{e.Tempo, e.Tempo, 1, 1}
	for k := range have {
		margin[k] = math.Inf(1)
		if have[k] > 0 && need[k] > 0 {
			margin[k], ok = math.Log(have[k]/need[k]), true
		}
	}
	return margin, ok && e.Clean+e.Missed > 0
}

// Filter is what a log has said of a player's abilities up to an evening: a Bayes filter on a grid, day by day. Each
// ability has a posterior under every hypothesis of how rounds fail; the hypotheses are weighed by their evidence
// and mixed. Textbook statistics, from memory; the hypotheses and their weights were tried on simulated players whose
// truth is known, also of worlds that are not the model's own (TestCalibrateWorlds).
//
// Where a round asks for several abilities, the chance that the others suffice is taken from what is known of them,
// so that a miss counts against the one that had the least to spare.
type Filter struct {
	of     [abilities]*posterior
	counts [abilities]int
	day    Date
	weeks  []Week
}

// Week is what a filter said at the end of a week of practice.
type Week struct {
	Day Date
	Of  []Ability
}

// Weeks are what it said week by week, the first first.
func (f *Filter) Weeks() []Week { return f.weeks }

// posterior is one ability under each hypothesis.
type posterior struct {
	rows     []row
	mean, sd float64
}

// row is one hypothesis: its indices, the logarithm of its weight, and the ability's density on the grid.
type row struct {
	steep, lapse, form int
	weight             float64
	p                  [gridCells]float64
}

// NewFilter knows nothing yet.
func NewFilter() *Filter {
	f := &Filter{}
	var prior [gridCells]float64
	sum := 0.0
	for i := range prior {
		x := gridStep * float64(i-gridHalf)
		prior[i] = math.Exp(-x * x / (2 * spread * spread))
		sum += prior[i]
	}
	for i := range prior {
		prior[i] /= sum
	}
	for k := range f.of {
		p := &posterior{}
		for s, a := range steeps {
			for l, b := range lapses {
				for t, c := range forms {
					p.rows = append(p.rows, row{
						steep:  s,
						lapse:  l,
						form:   t,
						weight: math.Log(a.weight * b.weight * c.weight),
						p:      prior,
					})
				}
			}
		}
		p.settle()
		f.of[k] = p
	}
	return f
}

// Clone is a filter that learns by itself from here on.
func (f *Filter) Clone() *Filter {
	out := *f
	for k, p := range f.of {
		q := *p
		q.rows = slices.Clone(p.rows)
		out.of[k] = &q
	}
	return &out
}

// trial is a group of a day's rounds with one margin of an ability.
type trial struct {
	cell          int     // of the margin
	others        float64 // the chance that the other abilities suffice
	clean, missed int
}

// Read takes in a settled log, or the next days of one.
func (f *Filter) Read(log []Entry) {
	for i := 0; i < len(log); {
		day := DateOf(log[i].Time)
		n := i
		for n < len(log) && DateOf(log[n].Time) == day {
			n++
		}
		f.dayOf(day, log[i:n])
		i = n
	}
}

// dayOf takes in the rounds of one day.
func (f *Filter) dayOf(day Date, log []Entry) {
	var groups [abilities][]trial
	for _, e := range log {
		margin, ok := e.margins()
		if !ok {
			continue
		}
		for k, m := range margin {
			if math.IsInf(m, 1) {
				continue
			}
			f.counts[k] += e.Clean + e.Missed
			others := 1.0
			for j, o := range margin {
				if j != k && !math.IsInf(o, 1) {
					others *= f.of[j].suffices(o)
				}
			}
			cell := max(-marginMax, min(marginMax, int(math.Round(m/gridStep))))
			at := slices.IndexFunc(groups[k],
				func(a trial) bool { return a.cell == cell && math.Abs(a.others-others) < 0.01 })
			if at < 0 {
				at = len(groups[k])
				groups[k] = append(groups[k], trial{cell: cell, others: others})
			}
			groups[k][at].clean += e.Clean
			groups[k][at].missed += e.Missed
		}
	}
	days := 0
	if f.day > 0 {
		days = int(day - f.day)
	}
	some := false
	for k, list := range groups {
		if days > 0 && f.counts[k] > 0 {
			f.of[k].wander(drift * math.Sqrt(float64(days)))
		}
		if len(list) > 0 {
			f.of[k].learn(list)
		}
		some = some || len(list) > 0
	}
	if some || f.day > 0 {
		f.day = day
	}
	if n := len(f.weeks); some && (n == 0 || day-f.weeks[n-1].Day >= 7) {
		f.weeks = append(f.weeks[:n:n], Week{day, f.Abilities()})
	}
}

// suffices is the chance that an ability suffices for a margin, by what is known of it: the logistic of the mean,
// flatter as the ability is less sure (the usual approximation of a logistic under a normal).
func (p *posterior) suffices(margin float64) float64 {
	s := steepness * p.sd
	return sigmoid(steepness * (p.mean + margin) / math.Sqrt(1+math.Pi*s*s/8))
}

// wander lets the ability drift by a normal with a standard deviation.
func (p *posterior) wander(sd float64) {
	for i := range p.rows {
		blur(&p.rows[i].p, sd/gridStep)
	}
}

// learn weighs the grid and the hypotheses by a day's rounds.
func (p *posterior) learn(list []trial) {
	var plain, day [gridCells]float64
	var log float64
	last := [2]int{-1, -1}
	for i := range p.rows {
		r := &p.rows[i]
		// Rows of one steepness and lapse stand together: they differ by the form of the day alone.
		if now := [2]int{r.steep, r.lapse}; now != last {
			last, log = now, dayLikelihood(&plain, list, r.steep, lapses[r.lapse].value)
		}
		day = plain
		if form := forms[r.form].value; form > 0 {
			blur(&day, form/gridStep)
		}
		sum := 0.0
		for x := range r.p {
			r.p[x] *= day[x]
			sum += r.p[x]
		}
		if sum <= 0 {
			sum = math.SmallestNonzeroFloat64
		}
		for x := range r.p {
			r.p[x] /= sum
		}
		r.weight += log + math.Log(sum)
	}
	p.settle()
}

// dayLikelihood is the chance of a day's rounds for every ability of the grid, up to a factor whose logarithm is
// returned: the largest is 1.
func dayLikelihood(out *[gridCells]float64, list []trial, steep int, lapse float64) (log float64) {
	for x := range out {
		out[x] = 1
	}
	for _, a := range list {
		row := sigmoids[steep][marginMax+a.cell:]
		c := (1 - lapse) * a.others
		most := 0.0
		for x := range out {
			s := row[x]
			for range min(a.clean, manyRounds) {
				out[x] *= c * s
			}
			for range min(a.missed, manyRounds) {
				out[x] *= 1 - c*s
			}
			most = max(most, out[x])
		}
		if most > 0 {
			for x := range out {
				out[x] /= most
			}
			log += math.Log(most)
		}
	}
	return log
}

// manyRounds is how many rounds of one margin a day tells apart: more say no more.
const manyRounds = 60

// blur convolves a density with a normal of so many cells, by three boxes of about its variance; what would leave the
// grid stays at its edge.
func blur(p *[gridCells]float64, sd float64) {
	if sd < 0.05 {
		return
	}
	if sd < 1.5 {
		// Three taps, as often as their variance needs.
		times := int(math.Ceil(sd * sd / 0.6))
		side := sd * sd / 2 / float64(times)
		for range times {
			before := p[0]
			for x := range p {
				now, next := p[x], p[min(x+1, gridCells-1)]
				p[x] = now*(1-2*side) + side*(before+next)
				before = now
			}
		}
		return
	}
	// A box of half-width h has the variance h(h+1)/3; the three together have sd².
	half := max(1, int(math.Round((math.Sqrt(1+4*sd*sd)-1)/2)))
	var sums [gridCells + 1]float64
	var smooth [gridCells]float64
	for range 3 {
		for x := range p {
			sums[x+1] = sums[x] + p[x]
		}
		for x := range p {
			a, b := x-half, x+half+1
			s := sums[min(b, gridCells)] - sums[max(a, 0)]
			if a < 0 {
				s += float64(-a) * p[0]
			}
			if b > gridCells {
				s += float64(b-gridCells) * p[gridCells-1]
			}
			smooth[x] = s / float64(2*half+1)
		}
		*p = smooth
	}
}

// settle drops hypotheses that the evidence has done with, and takes mean and standard deviation of the mixture.
func (p *posterior) settle() {
	most := math.Inf(-1)
	for _, r := range p.rows {
		most = max(most, r.weight)
	}
	sum := 0.0
	for i := range p.rows {
		p.rows[i].weight -= most
		sum += math.Exp(p.rows[i].weight)
	}
	p.rows = slices.DeleteFunc(p.rows, func(r row) bool { return math.Exp(r.weight) < tooLittle*sum })
	mixed := p.mixed()
	p.mean, p.sd = 0, 0
	for x, v := range mixed {
		p.mean += v * gridStep * float64(x-gridHalf)
	}
	for x, v := range mixed {
		d := gridStep*float64(x-gridHalf) - p.mean
		p.sd += v * d * d
	}
	p.sd = math.Sqrt(p.sd)
}

// mixed is the ability's density, the hypotheses weighed by their evidence.
func (p *posterior) mixed() (out [gridCells]float64) {
	total := 0.0
	for _, r := range p.rows {
		w := math.Exp(r.weight)
		total += w
		for x := range out {
			out[x] += w * r.p[x]
		}
	}
	for x := range out {
		out[x] /= total
	}
	return out
}

// quantile is where a share of a density lies below, between the cells.
func quantile(p *[gridCells]float64, share float64) float64 {
	sum := 0.0
	for x, v := range p {
		if sum+v >= share && v > 0 {
			return gridStep * (float64(x-gridHalf) - 0.5 + (share-sum)/v)
		}
		sum += v
	}
	return gridStep * gridHalf
}

// Abilities are what the log has said.
func (f *Filter) Abilities() []Ability {
	out := make([]Ability, abilities)
	for k, p := range f.of {
		mixed := p.mixed()
		out[k] = Ability{
			Name:   abilityNames[k],
			Value:  math.Exp(quantile(&mixed, 0.5)),
			Low:    math.Exp(quantile(&mixed, 0.025)),
			High:   math.Exp(quantile(&mixed, 0.975)),
			Rounds: f.counts[k],
			spread: p.sd,
		}
	}
	return out
}

// Calibrate estimates the abilities from rounds that were clean and not, in the order of their times; see Filter. As an
// example, one hundred clean rounds at half of every ceiling leave each ability about where it was before.
func Calibrate(log []Entry) []Ability {
	f := NewFilter()
	f.Read(log)
	return f.Abilities()
}

// Numbers are a player's own numbers as a log is read: those of all rounds, and the speeds by kind of move.
type Numbers struct {
	all   *Filter
	kinds map[string]*Filter
}

// NewNumbers knows nothing yet.
func NewNumbers() *Numbers { return &Numbers{NewFilter(), map[string]*Filter{}} }

// Read takes in a settled log, or the next days of one.
func (n *Numbers) Read(log []Entry) {
	n.all.Read(log)
	by := map[string][]Entry{}
	for _, e := range log {
		if e.Move != "" {
			by[e.Move] = append(by[e.Move], e)
		}
	}
	for kind, part := range by {
		if n.kinds[kind] == nil {
			n.kinds[kind] = NewFilter()
		}
		n.kinds[kind].Read(part)
	}
}

// Clone are numbers that learn by themselves from here on.
func (n *Numbers) Clone() *Numbers {
	out := &Numbers{n.all.Clone(), map[string]*Filter{}}
	for kind, f := range n.kinds {
		out.kinds[kind] = f.Clone()
	}
	return out
}

// Weeks are those numbers week by week.
func (n *Numbers) Weeks() []Week { return n.all.Weeks() }

// Abilities are the numbers of all rounds.
func (n *Numbers) Abilities() []Ability { return n.all.Abilities() }

// Kinds are the speeds by kind of move, of those kinds that the log tells of: the same estimate from the rounds of
// parts whose hardest move is of that kind. The kind with most rounds comes first.
func (n *Numbers) Kinds() (out []Ability) {
	for kind, f := range n.kinds {
		k := fretting
		if kind == strokeMove || strings.HasSuffix(kind, changeMove) {
			k = picking
		}
		if a := f.Abilities()[k]; a.Shown() {
			a.Name = kind
			out = append(out, a)
		}
	}
	slices.SortFunc(out, func(a, b Ability) int {
		return cmp.Or(cmp.Compare(b.Rounds, a.Rounds), cmp.Compare(a.Name, b.Name))
	})
	return out
}

// Kinds are the speeds by kind of move of a whole log.
func Kinds(log []Entry) []Ability {
	n := NewNumbers()
	n.Read(log)
	return n.Kinds()
}

// sigmoid is the logistic; of +Inf it is 1.
func sigmoid(x float64) float64 { return 1 / (1 + math.Exp(-x)) }

// Differs says whether the model's player lies outside of an ability's interval.
func (a Ability) Differs() bool { return a.Low > 1 || a.High < 1 }

// Shown says whether the log tells of an ability at all: it is at least twice as sure as before any round.
func (a Ability) Shown() bool { return a.spread < shownAt*spread }

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
