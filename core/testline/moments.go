package testline

import (
	"os"
	"testing"
	"time"
	_ "time/tzdata" // the same zones on every machine
)

// zones are time zones that differ in what can go wrong: far west and far east of Greenwich, with
// clocks that change and without, half an hour off.
var zones = []string{"UTC", "America/Los_Angeles", "Europe/Berlin", "Asia/Kolkata", "Pacific/Kiritimati"}

// hours are moments of a day at its edges and between them.
var hours = []time.Duration{5 * time.Minute, 6 * time.Hour, 12 * time.Hour, 20*time.Hour + 33*time.Minute,
	23*time.Hour + 55*time.Minute}

// Night says whether the tests take the length of a night: make test-all sets ORNAMEN_EXHAUSTIVE.
func Night() bool { return os.Getenv("ORNAMEN_EXHAUSTIVE") != "" }

// Moments are moments at which everything must hold: ten on days that were chosen, such as a leap day, the turn of a
// year and the days on which clocks change, or at night every one of 400 consecutive days, at an hour and in a zone
// that change from day to day or, with all, at every hour in every zone.
func Moments(t testing.TB, all bool) (out []time.Time) {
	t.Helper()
	locations := make([]*time.Location, len(zones))
	for i, name := range zones {
		var err error
		if locations[i], err = time.LoadLocation(name); err != nil {
			t.Fatal(err)
		}
	}
	at := func(day time.Time, hour, zone int) time.Time {
		y, m, d := day.Date()
		return time.Date(y, m, d, 0, 0, 0, 0, locations[zone]).Add(hours[hour])
	}
	if !Night() {
		for i, s := range []string{"2026-11-25", "2026-12-31", "2027-01-01", "2027-03-14", "2027-03-28", "2027-10-31",
			"2027-11-07", "2028-02-29", "2028-03-01", "2028-12-31"} {
			day, err := time.Parse(time.DateOnly, s)
			if err != nil {
				t.Fatal(err)
			}
			out = append(out, at(day, (i+3)%len(hours), (i*2+1)%len(zones)))
		}
		return out
	}
	first := time.Date(2027, 12, 20, 0, 0, 0, 0, time.UTC) // so that a leap day is among them
	for n := range 400 {
		for h := range hours {
			for z := range zones {
				if all || h == n%len(hours) && z == n/len(hours)%len(zones) {
					out = append(out, at(first.AddDate(0, 0, n), h, z))
				}
			}
		}
	}
	return out
}
