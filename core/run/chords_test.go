package run_test

import (
	"strings"
	"testing"

	"ornamen/core/neck"
	"ornamen/core/run"
)

// Chords are written as degrees, with a sign or without, or as names: the run is the same.
func TestChordsByName(t *testing.T) {
	var first string
	for _, chords := range []string{"1 4 5", "17 | 47 57", "A7 | D7 . E7 ."} {
		r := run.Recipe{Key: "A mixolydian", Cell: "chord: 1 3 5 b7", Chords: chords}
		grown, err := run.Grow(r, neck.Standard())
		if err != nil {
			t.Fatal(err)
		}
		var places []string
		for _, n := range grown.Lick.Notes {
			places = append(places, n.Place().Notation())
		}
		if got := strings.Join(places, " "); first == "" {
			first = got
		} else if got != first {
			t.Errorf("over %s: %s, want %s", chords, got, first)
		}
	}
	if _, err := run.Grow(run.Recipe{Key: "A mixolydian", Cell: "chord: 1 3", Chords: "1 H"},
		neck.Standard()); err == nil {
		t.Error("H is a chord")
	}
}
