package sets

import "testing"

func TestDayWord(t *testing.T) {
	for day, want := range map[string]string{"2026-12-04": "4 December", "": "", "2026-02-30": ""} {
		if got := dayWord(day); got != want {
			t.Errorf("%q: %q, not %q", day, got, want)
		}
	}
}
