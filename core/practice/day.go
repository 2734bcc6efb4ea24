package practice

import (
	"slices"
	"time"
)

// Date is a day of the calendar, counted from 1 January 1970. The difference of two is the
// number of nights between them, whatever clocks were put forward or back meanwhile.
type Date int

// DateOf is the day on which a moment falls for the player: the calendar's in the moment's own time zone, midnight to
// midnight. A round at 20:33 in Los Angeles belongs to that evening, though it is the next morning in Greenwich.
func DateOf(t time.Time) Date {
	const day = 24 * 60 * 60
	_, east := t.Zone()
	s := t.Unix() + int64(east) // the clock on the wall
	return Date((s - (s%day+day)%day) / day)
}

// Time is the day as a time that is made to be formatted: its midnight in Greenwich.
func (d Date) Time() time.Time { return time.Unix(int64(d)*24*60*60, 0).UTC() }

// Word is the day as one says it, seen from another: "4 December", and of another year "4 December 2024".
func (d Date) Word(from Date) string {
	if d.Time().Year() == from.Time().Year() {
		return d.Time().Format("2 January")
	}
	return d.Time().Format("2 January 2006")
}

// Short is Word where there is little room: "4 Dec", "4 Dec 2024".
func (d Date) Short(from Date) string {
	if d.Time().Year() == from.Time().Year() {
		return d.Time().Format("2 Jan")
	}
	return d.Time().Format("2 Jan 2006")
}

// Monday is the first day of its week.
func (d Date) Monday() Date { return d - ((d+3)%7+7)%7 } // 1 January 1970 was a Thursday

// Settled is a log in the order of its times, the oldest first, as it is to be read now. The
// entries come in the order in which they were written.
//
// An entry dated after now was written by a clock that ran ahead. It counts from where it stands among the others: it
// takes the latest time of those written before it or, being the first, the earliest of the others, so that neither a
// ladder nor a word about the hand waits for that date to come. Nothing is changed in what is kept: when the clock of
// this moment is the one that is wrong, the next look has the true times again.
func Settled(log []Entry, now time.Time) []Entry {
	out := slices.Clone(log)
	var latest, earliest time.Time
	for _, e := range out {
		if !e.Time.After(now) && (earliest.IsZero() || e.Time.Before(earliest)) {
			earliest = e.Time
		}
	}
	if latest = earliest; earliest.IsZero() {
		latest = now // all of them ran ahead
	}
	for i := range out {
		switch e := &out[i]; {
		case e.Time.After(now):
			e.Time = latest
		case e.Time.After(latest):
			latest = e.Time
		}
	}
	slices.SortStableFunc(out, func(a, b Entry) int { return a.Time.Compare(b.Time) })
	return out
}
