package sets

import (
	"testing"
	"time"

	"ornamen/core/practice"
)

func TestDayWord(t *testing.T) {
	today := practice.DateOf(time.Date(2026, 11, 25, 0, 0, 0, 0, time.UTC))
	for day, want := range map[string]string{"2026-12-04": "4 December", "2027-01-02": "2 January 2027", "": "",
		"2026-02-30": ""} {
		if got := dayWord(day, today); got != want {
			t.Errorf("%q: %q, not %q", day, got, want)
		}
	}
}
