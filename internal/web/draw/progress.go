package draw

import (
	"fmt"
	"html/template"
	"math"

	"ornamen/core/practice"
	"ornamen/core/say"
)

// Sizes of a curve of progress.
const (
	curveHigh  = 150.0
	curveLeft  = 40.0
	curveBelow = 22.0
)

// ProgressSVG draws the clean tempo of each day of a part, the wanted tempo as a dashed line, and where the forecast
// leads as a fan. days must not be empty. A day without a clean round is a cross at the foot. The fan is as wide as a
// forecast that is off by two fifths either way, and reaches no further ahead than a good half of the days that it
// comes from.
func ProgressSVG(days []practice.Point, wanted float64, f practice.Forecast, wide float64) template.HTML {
	var c canvas
	low, high := math.Inf(1), wanted
	for _, d := range days {
		if d.Tempo > 0 {
			low, high = min(low, d.Tempo), max(high, d.Tempo)
		}
	}
	if math.IsInf(low, 1) {
		low = wanted * 0.6
	}
	low, high = math.Floor((low-4)/10)*10, math.Ceil((high+4)/10)*10
	ahead := 0.0
	if f.Known && f.Days > 0 {
		ahead = min(f.Days, float64(len(days))*0.6+4)
	}
	last := 1.0
	if n := len(days); n > 1 {
		last = max(1, float64(days[n-1].Day-days[0].Day))
	}
	span := last + ahead*1.3
	x := func(d practice.Date) float64 {
		return curveLeft + (wide-curveLeft-12)*float64(d-days[0].Day)/span
	}
	y := func(tempo float64) float64 { return 8 + (curveHigh-curveBelow-16)*(high-tempo)/max(1, high-low) }
	for t := low; t <= high; t += max(10, math.Ceil((high-low)/40)*10) {
		c.line(curveLeft, y(t), wide-8, y(t), "grid")
		c.text(curveLeft-6, y(t)+4, "axis end", fmt.Sprintf("%.0f", t))
	}
	if wanted > 0 {
		c.line(curveLeft, y(wanted), wide-8, y(wanted), "wanted")
		c.text(wide-8, y(wanted)-4, "axis end", fmt.Sprintf("%.0f wanted", wanted))
	}
	var path course
	at, tempo := 0.0, 0.0
	for _, d := range days {
		if d.Tempo <= 0 {
			c.text(x(d.Day), curveHigh-curveBelow-4, "axis", "×")
			continue
		}
		at, tempo = x(d.Day), d.Tempo
		path.to(at, y(tempo))
	}
	if path.Len() > 0 {
		c.path("curve", path.String())
		c.circle("curvenow", at, y(tempo), 3.5)
	}
	if ahead > 0 && tempo > 0 && tempo < wanted {
		end := wide - 12
		rise := (wanted - tempo) / f.Days * ahead
		c.path("fan", "M%s %sL%s %sV%sz", at, y(tempo), end, y(min(high, tempo+1.4*rise)), y(tempo+0.6*rise))
	}
	if len(days) > 0 {
		last := days[len(days)-1].Day
		c.text(curveLeft, curveHigh-4, "axis begin", days[0].Day.Short(last))
		if len(days) > 1 {
			c.text(x(last), curveHigh-4, "axis", last.Short(days[0].Day))
		}
	}
	return c.svg(wide, curveHigh, "progress", say.Count(len(days), "day of practice"), "width", wide,
		"height", curveHigh)
}

// MinutesSVG draws the minutes of each day of practice as bars. The highest bar is the longest day, whose minutes stand
// at the axis. Days without practice are gaps. Nothing is drawn of no days.
func MinutesSVG(days []practice.Point, wide float64) template.HTML {
	var c canvas
	const high = 90.0
	if len(days) == 0 {
		return ""
	}
	most, span := 1.0, max(1, float64(days[len(days)-1].Day-days[0].Day))
	for _, d := range days {
		most = max(most, d.Minutes)
	}
	for _, d := range days {
		x := curveLeft + (wide-curveLeft-16)*float64(d.Day-days[0].Day)/span
		h := (high - 24) * d.Minutes / most
		c.rect(x-2.5, high-20-h, 5, h, "minutes")
	}
	c.text(curveLeft-6, 12, "axis end", fmt.Sprintf("%.0f min", most))
	last := days[len(days)-1].Day
	c.text(curveLeft, high-4, "axis begin", days[0].Day.Short(last))
	c.text(wide-10, high-4, "axis end", last.Short(days[0].Day))
	return c.svg(wide, high, "progress", "Minutes a day", "width", wide, "height", high)
}
