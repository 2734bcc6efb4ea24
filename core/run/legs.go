package run

import (
	"slices"

	"ornamen/core/say"
)

// legs are the ways of the run, cut to where the cells fit.
//
// A run up (or down) is one leg. One that turns has two: there, as far as there is room or as half of the cells asked
// for, and back from the turn; the station of the turn is played once or twice, as the recipe says. One that fills bars
// repeats these two, without playing the turns at the bottom double where they are single at the top, until the bars
// are full; cells then cuts what is too much. Cells that take turns are counted on through all legs.
func (b *builder) legs() ([]leg, error) {
	down := b.Dir == "down" || b.Dir == "downup"
	w, err := b.walk(down)
	if err != nil {
		return nil, err
	}
	if b.move.kind == "stay" {
		w.stations = slices.Repeat(w.stations, b.stays())
		return []leg{{w.stations, down, 0}}, nil
	}
	there, err := b.room(w.stations, 0, down)
	if err != nil {
		return nil, err
	}
	b.remark(w.stations, there)
	if b.Dir == "up" || b.Dir == "down" {
		return []leg{{there, down, 0}}, nil
	}
	if turns := b.turnAfter(); turns > 0 && turns < len(there) {
		there = there[:turns]
	}
	legs := []leg{{there, down, 0}}
	count := len(there)
	back := w.back(count - 1)
	if b.Turn == "once" && len(back) > 0 {
		back = back[1:]
	}
	if back, err = b.room(back, count, !down); err != nil {
		return nil, err
	}
	legs = append(legs, leg{back, !down, count})
	// A run that fills bars goes up and down as often as it takes.
	again := there
	if b.Turn == "once" {
		again = there[min(1, len(there)):]
	}
	for (b.Bars > 0 || b.landsInBar()) && len(legs) < maxLegs && len(back)+len(again) > 0 {
		count += len(legs[len(legs)-1].stations)
		next := leg{again, down, count}
		if len(legs)%2 == 1 {
			next = leg{back, !down, count}
		}
		legs = append(legs, next)
	}
	return legs, nil
}

// remark says why a run without a length stops where it does, where that is not simply the
// end of its layout: the neck ends first, or a chord or a scale has no room for the cell.
func (b *builder) remark(stations, there []station) {
	if b.Times > 0 || b.Bars > 0 || b.landsInBar() {
		return
	}
	if n := len(there); n < len(stations) && (b.chords != nil || b.scales != nil) {
		b.remarks("It stops after %s: %s has no room for the cell there.", say.Count(n, "cell"), b.over(n))
		return
	}
	if l := ladderOf(stations[0]); l != nil && l.Short != nil {
		b.remarks("It stops where the neck does: %v.", l.Short)
	}
}

// over names what the cell number k is played over.
func (b *builder) over(k int) string {
	if b.chords != nil {
		return "the chord on " + b.chords[k%len(b.chords)].degree.Pretty()
	}
	return b.scales[k%len(b.scales)].Pretty()
}

// maxLegs bounds how often a run turns round.
const maxLegs = 4 * maxBars

// stays is how often a cell that stays is played at its place: the times asked for, as often
// as the bars need (cells stops there), or each of the cells that take turns once.
func (b *builder) stays() int {
	switch {
	case b.Times > 0:
		return (b.Times + b.Repeat - 1) / b.Repeat
	case b.Bars > 0 || b.landsInBar():
		return maxTimes
	}
	return max(1, len(b.phrase.Cells))
}

// turnAfter is how many stations lie before the turn when the number of cells is given, 0 for all there is room for. Of
// n stations with the turn played once there + back − 1 = n, with it played twice there + back = n, and there is the
// larger half: five cells with a single turn are three up and two down, six with a double one three and three.
func (b *builder) turnAfter() int {
	if b.Times == 0 {
		return 0
	}
	n := (b.Times + b.Repeat - 1) / b.Repeat
	if b.Turn == "once" {
		return (n + 2) / 2
	}
	return (n + 1) / 2
}

// room keeps the stations up to the first that does not hold its cell.
// Stations beyond it are not looked at, even if one would hold its cell: a run does not jump.
func (p *plan) room(stations []station, first int, down bool) ([]station, error) {
	for k, st := range stations {
		ok, err := fits(st, p.cellOf(first+k, down))
		if err != nil {
			return nil, err
		}
		if !ok {
			return stations[:k], nil
		}
	}
	return stations, nil
}
