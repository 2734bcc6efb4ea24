package lick

import (
	"fmt"
	"strconv"
	"strings"
)

// Position is where a time lies against the bars.
type Position struct {
	Bar  int64 // 1 is the first full bar, 0 and below the pick-up
	Beat int64 // from 1
	Off  Time  // what is left of the beat
}

// Position finds bar, beat and the rest of a time. As an example, with a pick-up of 3/8 in 4/4 the first note, at 0, is
// bar 0, beat 3, an eighth off: the bar it belongs to begins before the line does.
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

// Count is what a player counts aloud there: 1 e & a for quarters of a beat, the beat's number on it, "." between.
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

// SayBeat names a time by its beat, as players say it: "1", "the & of 3", "the e of 2".
func (l Lick) SayBeat(at Time) string {
	p := l.Position(at)
	switch word := p.Count(l.Meter); word {
	case "e", "&", "a":
		return fmt.Sprintf("the %s of %d", word, p.Beat)
	default:
		return fmt.Sprintf("beat %d", p.Beat)
	}
}

// ParseBeat reads a place in the bar: 3, 3&, 3e, 3a, or the same in words, "the & of 3". It
// is a time from the bar's beginning. An error is one sentence.
func ParseBeat(s string, m Meter) (Time, error) {
	words := strings.Fields(strings.ToLower(s))
	word, part := "", ""
	for _, w := range words {
		switch w {
		case "the", "of", "beat":
		case "and", "+":
			part += "&"
		case "&", "e", "a":
			part += w
		default:
			word += w
		}
	}
	number := strings.TrimRight(word, "&+ea")
	part += strings.ReplaceAll(word[len(number):], "+", "&")
	beat, err := strconv.Atoi(number)
	quarter, known := map[string]int64{"": 0, "e": 1, "&": 2, "a": 3}[part]
	if err != nil || !known || beat < 1 || beat > m.Beats {
		return Time{}, fmt.Errorf("a beat is written 3, 3e, 3& or 3a, from 1 to %d", m.Beats)
	}
	return NewTime(4*int64(beat-1)+quarter, 4*int64(m.Unit)), nil
}

// Say names a length in words where players have one, "an eighth", "3 sixteenths"; another is
// said by its fraction, "5/24 of a whole note".
func (t Time) Say() string {
	num, den := t.Parts()
	names := map[int64]string{1: "whole note", 2: "half", 4: "quarter", 8: "eighth", 16: "sixteenth",
		32: "thirty-second"}
	name, ok := names[den]
	switch {
	case ok && num == 1 && den == 8:
		return "an eighth"
	case ok && num == 1:
		return "a " + name
	case ok && den > 1 && num < 8:
		return fmt.Sprintf("%d %ss", num, name)
	}
	return t.String() + " of a whole note"
}
