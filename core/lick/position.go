package lick

import "strconv"

// Position is where a time lies against the bars.
type Position struct {
	Bar  int64 // 1 is the first full bar, 0 and below the pick-up
	Beat int64 // from 1
	Off  Time  // what is left of the beat
}

// Position finds bar, beat and the rest of a time.
func (l Lick) Position(at Time) Position {
	bar, unit := l.Meter.Bar(), NewTime(1, int64(l.Meter.Unit))
	t, number := at.Sub(l.Pickup), int64(1)
	if t.Before(Time{}) {
		// Count back whole bars until the pick-up is ahead of us.
		back, _ := l.Pickup.Div(bar)
		t, number = t.Add(bar.Times(back+1)), -back
	}
	whole, rest := t.Div(bar)
	beat, off := rest.Div(unit)
	return Position{Bar: number + whole, Beat: beat + 1, Off: off}
}

// Count is what a player counts aloud there: 1 e & a for quarters of a beat,
// the beat's number on it, "." between.
func (p Position) Count(m Meter) string {
	if p.Off.IsZero() {
		return strconv.FormatInt(p.Beat, 10)
	}
	unit := NewTime(1, int64(m.Unit))
	for i, word := range []string{"e", "&", "a"} {
		if p.Off.Cmp(NewTime(int64(i+1), 4*int64(m.Unit))) == 0 {
			return word
		}
	}
	if m.Unit == 4 {
		for i, word := range []string{"trip", "let"} {
			if p.Off.Times(3).Cmp(unit.Times(int64(i+1))) == 0 {
				return word
			}
		}
	}
	return "."
}
