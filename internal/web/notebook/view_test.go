package notebook

import (
	"testing"

	"ornamen/core/judge"
	"ornamen/internal/store"
)

// The sums say one and several rightly, and nothing of an empty notebook.
func TestSummary(t *testing.T) {
	of := func(all, flows, tight, breaks int) (c store.Counts) {
		c.All, c.Of = all, map[int]int{}
		for sev, n := range map[judge.Severity]int{judge.Flows: flows, judge.Tight: tight, judge.Breaks: breaks} {
			c.Of[int(sev)] = n
			c.Judged += n
		}
		return c
	}
	for want, c := range map[string]store.Counts{
		"":                                       {},
		"1 lick: 1 flows":                        of(1, 1, 0, 0),
		"6 licks: 3 flow, 1 is tight, 2 break":   of(6, 3, 1, 2),
		"4 licks: 2 are tight, 1 breaks":         of(4, 0, 2, 1),
		"9 licks":                                of(9, 0, 0, 0),
		"4 licks: 1 flows, 1 is tight, 1 breaks": of(4, 1, 1, 1),
		"12 licks: 5 flow, 4 are tight, 3 break": of(12, 5, 4, 3),
	} {
		if got := summary(c); got != want {
			t.Errorf("%q, not %q", got, want)
		}
	}
	if got := progress(of(4, 1, 1, 1)); got != "3 of 4 judged" {
		t.Errorf("%q", got)
	}
	if got := progress(of(3, 1, 1, 1)); got != "" {
		t.Errorf("all is judged, and it says %q", got)
	}
}

// What is as usual is left out of an address, and what is about one look is never in it.
func TestLink(t *testing.T) {
	for want, f := range map[string]notebookForm{
		"/":                    {},
		"/?find=b5&sort=worst": {Find: "b5", Sort: "worst"},
		"/?from=50&tag=barn":   {Tag: "barn", From: 50},
	} {
		if got := f.link(); got != want {
			t.Errorf("%q, not %q", got, want)
		}
	}
}
