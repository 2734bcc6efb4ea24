package practice

import (
	"slices"
	"testing"
	"time"

	"ornamen/core/testline"
)

// zone is a time zone of the tests.
func zone(t *testing.T, name string) *time.Location {
	t.Helper()
	l, err := time.LoadLocation(name)
	if err != nil {
		t.Fatal(err)
	}
	return l
}

// A day is the player's: an evening in Los Angeles is not the next morning of Greenwich, the day
// on which clocks change is one day, and a week begins on its Monday, before 1970 too.
func TestDateOf(t *testing.T) {
	west, berlin := zone(t, "America/Los_Angeles"), zone(t, "Europe/Berlin")
	evening := time.Date(2026, 11, 28, 20, 33, 0, 0, west)
	if got := DateOf(evening).Time().Format(time.DateOnly); got != "2026-11-28" {
		t.Errorf("the evening of 28 November belongs to %s", got)
	}
	if DateOf(evening.UTC()) != DateOf(evening)+1 {
		t.Error("in Greenwich it is the next day")
	}
	before, after := time.Date(2027, 3, 27, 23, 59, 0, 0, berlin), time.Date(2027, 3, 29, 0, 1, 0, 0, berlin)
	if n := DateOf(after) - DateOf(before); n != 2 {
		t.Errorf("over the night in which clocks go forward there are %d days, want 2", n)
	}
	if d := DateOf(time.Date(1970, 1, 1, 12, 0, 0, 0, time.UTC)); d != 0 || d.Monday() != -3 {
		t.Errorf("1 January 1970 is day %d, its Monday %d", d, d.Monday())
	}
	for d := Date(-40); d < 40; d++ {
		if m := d.Monday(); m > d || d-m > 6 || m.Time().Weekday() != time.Monday {
			t.Errorf("day %d has the Monday %d, a %s", d, m, m.Time().Weekday())
		}
	}
}

// A part waits one day after a bad day and after a first good one, then twice as long after each
// further good day, ten at most; rounds on both sides of Greenwich's midnight are one evening.
func TestWait(t *testing.T) {
	round := func(day float64, clean bool) Entry {
		e := Entry{Lick: 1, Clean: 1, Time: days(day)}
		if !clean {
			e.Clean, e.Missed = 0, 1
		}
		return e
	}
	for _, c := range []struct {
		days string // + good, - bad
		want int
	}{{"", 1}, {"-", 1}, {"--", 1}, {"+", 1}, {"++", 2}, {"+++", 4}, {"++++", 8}, {"+++++", 10}, {"++++++++", 10},
		{"+++-", 1}, {"+++-+", 1}, {"+++-++", 2}} {
		var rounds []Entry
		for i, way := range c.days {
			rounds = append(rounds, round(float64(i), way == '+'))
		}
		if got := Wait(rounds); got != c.want {
			t.Errorf("after %q: %d days, want %d", c.days, got, c.want)
		}
	}
	west := zone(t, "America/Los_Angeles")
	evening := []Entry{{Clean: 3, Time: time.Date(2026, 11, 28, 15, 50, 0, 0, west)},
		{Clean: 3, Time: time.Date(2026, 11, 28, 20, 33, 0, 0, west)}}
	if got := Wait(evening); got != 1 {
		t.Errorf("one day that is two in Greenwich makes a wait of %d days", got)
	}
	// As many clean as missed is no good day.
	if got := Wait([]Entry{{Clean: 3, Time: days(0)}, {Clean: 3, Time: days(1)},
		{Clean: 2, Missed: 2, Time: days(2)}}); got != 1 {
		t.Errorf("after a day that was half clean: %d days", got)
	}
}

// What was practised late on one evening is due on the next day at any hour, and not before.
func TestDueByDays(t *testing.T) {
	west := zone(t, "America/Los_Angeles")
	log := []Entry{
		{Lick: 1, Part: "bottleneck", Tempo: 60, Clean: 3, Time: time.Date(2026, 11, 28, 22, 33, 0, 0, west)},
	}
	for _, c := range []struct {
		now time.Time
		due bool
	}{
		{time.Date(2026, 11, 28, 23, 59, 0, 0, west), false}, {time.Date(2026, 11, 29, 0, 1, 0, 0, west), true},
		{time.Date(2026, 11, 29, 7, 0, 0, 0, west), true},
	} {
		is := slices.ContainsFunc(planOf(60, pieces(), log, c.now), func(x Item) bool { return x.Kind == Due })
		if is != c.due {
			t.Errorf("at %s it is due: %v", c.now, is)
		}
	}
}

// Entries of a clock that ran ahead count from where they were written: the ladder goes on from
// them, a word about the hand holds, and a later one goes before it.
func TestClockThatRanAhead(t *testing.T) {
	p := Part{Name: "x", Ceiling: 120}
	ahead := time.Date(2036, 1, 1, 18, 0, 0, 0, time.UTC)
	log := []Entry{
		{Lick: 1, Part: "x", Tempo: 60, Clean: 3, Time: days(-2)},
		{Lick: 1, Part: "x", Tempo: 90, Missed: 2, Time: ahead},
		{Comfort: Hurts, Time: ahead.Add(time.Hour)},
	}
	settled := Settled(log, now)
	if !Sore(settled) {
		t.Error("that it hurts was said by a clock that ran ahead, and does not count")
	}
	for _, e := range settled {
		if e.Time.After(now) {
			t.Errorf("%+v has not come yet", e)
		}
	}
	if log[1].Time != ahead {
		t.Error("the log itself was changed")
	}
	before := Climb(p, 112, settled, 1, 0).Tempo
	log = append(log, Entry{Lick: 1, Part: "x", Tempo: before, Clean: 3, Time: days(-1)},
		Entry{Comfort: Well, Time: days(-1)})
	settled = Settled(log, now)
	if after := Climb(p, 112, settled, 1, 0).Tempo; after <= before {
		t.Errorf("three clean rounds at %g, and the ladder stands at %g", before, after)
	}
	if Sore(settled) {
		t.Error("it is well, and an earlier word of a clock that ran ahead goes before it")
	}
	// All of them ahead, and one alone: nothing waits for that day.
	if s := Settled(log[1:3], now); !Sore(s) || s[0].Time.After(now) {
		t.Errorf("%+v", s)
	}
	// An older log that is read in later stands before what is here.
	old := Settled([]Entry{log[0], {Lick: 1, Part: "x", Tempo: 40, Clean: 1, Time: days(-90)}}, now)
	if old[0].Tempo != 40 {
		t.Errorf("%+v", old)
	}
}

// On every day, at every hour and in every zone: the plan fits its minutes, nothing is there
// twice, there is something for the ear, and while it hurts nothing is heavy.
func TestPlanAnyDay(t *testing.T) {
	kinds := map[string]bool{}
	for _, at := range testline.Moments(t, true) {
		ago := func(n int, hour int) time.Time {
			return time.Date(at.Year(), at.Month(), at.Day()-n, hour, 15, 0, 0, at.Location())
		}
		log := []Entry{
			{Lick: 1, Part: "bottleneck", Tempo: 60, Clean: 3, Missed: 2, Time: ago(2, 23)},
			{Lick: 3, Part: "", Tempo: 70, Clean: 3, Time: ago(1, 0)},
		}
		many := append(pieces(), Piece{Lick: 4, Title: "Weir", Wanted: 90, Landings: true,
			Parts: []Part{{From: 1, To: 8, Ceiling: 100}}})
		items := planOf(45, many, Settled(log, at), at)
		due, ear, used := 0, 0, 0
		for _, x := range items {
			used += x.Minutes
			switch x.Kind {
			case Due:
				due++
			case Ear:
				ear++
				kinds[x.Why] = true
			}
		}
		if due != 2 || ear != 1 || used > 45 {
			t.Errorf("%s: %d due, %d for the ear, %d minutes", at, due, ear, used)
		}
		hurt := append(slices.Clone(log), Entry{Comfort: Hurts, Time: ago(0, 0)})
		for _, x := range planOf(45, many, Settled(hurt, at), at) {
			if x.Part.Heavy || x.Why == "bends against their targets" {
				t.Errorf("%s: it hurts, and %+v is planned", at, x)
			}
		}
	}
	if len(kinds) != 2 {
		t.Errorf("only %v are heard over all the days", kinds)
	}
}
