package practice

import (
	"fmt"
	"maps"
	"math"
	"slices"
)

// Point is a day of one part.
type Point struct {
	Day     Date
	Tempo   float64 // the highest that was clean; 0 for none
	Clean   int
	Missed  int
	Minutes float64
}

// Days are a part's days in their order; of the whole log where lick is 0. The log is in the order of its times.
func Days(log []Entry, lick uint, part string) (out []Point) {
	for _, e := range log {
		if lick != 0 && (e.Lick != lick || e.Part != part) {
			continue
		}
		out = addDay(out, DateOf(e.Time), e)
	}
	return out
}

// Thinned are so many points at most, in the order of their days: of neighbours the one with the highest tempo stands
// for all. The last day stays.
func Thinned(days []Point, most int) []Point {
	if len(days) <= most {
		return days
	}
	var out []Point
	for k := range most {
		from, to := k*len(days)/most, (k+1)*len(days)/most
		best := days[from]
		for _, d := range days[from:to] {
			if d.Tempo > best.Tempo {
				best = d
			}
		}
		if k == most-1 {
			best = days[len(days)-1]
		}
		out = append(out, best)
	}
	return out
}

// addDay takes an entry into its day. Warm-ups and rounds for the ear count by their minutes alone: the ladder's
// tempos are those of the curve.
func addDay(out []Point, day Date, e Entry) []Point {
	if e.Clean+e.Missed == 0 && e.Minutes == 0 {
		return out // a word, no practice
	}
	if len(out) == 0 || out[len(out)-1].Day < day {
		out = append(out, Point{Day: day})
	}
	p := &out[len(out)-1]
	p.Minutes += e.Minutes
	if e.Kind != "" {
		return out
	}
	p.Clean, p.Missed = p.Clean+e.Clean, p.Missed+e.Missed
	if e.Clean > 0 {
		p.Tempo = max(p.Tempo, e.Tempo)
	}
	return out
}

// BestWeek is the Monday of the week with the most minutes, the first of several, and how many
// they were; 0 without a log.
func BestWeek(days []Point) (monday Date, minutes float64) {
	weeks := map[Date]float64{}
	for _, d := range days {
		weeks[d.Day.Monday()] += d.Minutes
	}
	for _, m := range slices.Sorted(maps.Keys(weeks)) {
		if weeks[m] > minutes {
			monday, minutes = m, weeks[m]
		}
	}
	return monday, minutes
}

// Forecast is in how many days of practice a tempo is reached.
type Forecast struct {
	Days, Least, Most float64 // the likely number, and its spread
	Known             bool    // false: the log does not say
}

// Words says it: "112 in about 9 days of practice, 5 to 16", or why it is not known.
func (f Forecast) Words(tempo float64) string {
	switch {
	case !f.Known:
		return fmt.Sprintf("%.0f: not from this log", tempo)
	case f.Days < 1:
		return fmt.Sprintf("%.0f is there", tempo)
	}
	return fmt.Sprintf("%.0f in about %.0f days of practice, %.0f to %.0f", tempo, f.Days, f.Least, f.Most)
}

// How far back a forecast looks, and on how many days it needs clean rounds.
const (
	lookBack  = 16
	leastDays = 5
	farthest  = 90 // days of practice: what lies farther is not seen from a log
)

// Predict fits a line through the logarithm of the clean tempos over the days of practice (least squares over the last
// days; a tempo grows by parts of itself) and follows it to the wanted tempo. The spread takes the slope a standard
// error to either side. A slope that is not above its own error says nothing.
//
// Worked example: clean at 80, 84, 88.2, 92.6 and 97.2 on five days grows by a twentieth a day; from there to 112 are
// ln(112/97.2)/ln(1.05) = 2.9, so three days of practice, and as the fit is exact there is no spread.
func Predict(days []Point, wanted float64) (f Forecast) {
	var xs, ys []float64
	for _, d := range days {
		if d.Tempo > 0 {
			xs, ys = append(xs, float64(len(xs))), append(ys, math.Log(d.Tempo))
		}
	}
	if n := len(xs); n > lookBack {
		xs, ys = xs[n-lookBack:], ys[n-lookBack:]
	}
	n := float64(len(xs))
	if len(ys) > 0 && ys[len(ys)-1] >= math.Log(wanted)-1e-9 {
		return Forecast{Known: true}
	}
	if len(xs) < leastDays {
		return f
	}
	var mx, my float64
	for i := range xs {
		mx, my = mx+xs[i]/n, my+ys[i]/n
	}
	var sxx, sxy float64
	for i := range xs {
		sxx, sxy = sxx+(xs[i]-mx)*(xs[i]-mx), sxy+(xs[i]-mx)*(ys[i]-my)
	}
	slope := sxy / sxx
	var rest float64
	for i := range xs {
		r := ys[i] - my - slope*(xs[i]-mx)
		rest += r * r
	}
	se := math.Sqrt(rest / (n - 2) / sxx)
	now := my + slope*(xs[len(xs)-1]-mx)
	way := math.Log(wanted) - now
	if way <= 0 {
		return Forecast{Known: true}
	}
	if slope <= se || way/slope > farthest {
		return f
	}
	return Forecast{Known: true, Days: math.Ceil(way / slope), Least: math.Ceil(way / (slope + se)),
		Most: math.Ceil(way / (slope - se))}
}
