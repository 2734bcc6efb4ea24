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

// Chords that are named may come back down, go round, and stand under the line for as long as their
// cells; each chord's own box lies where the one before did (common practice).
func TestNamedChords(t *testing.T) {
	for _, c := range []struct{ recipe, places, chords string }{
		{`--key "A minor pentatonic" --cell "1 2 3" --move chord --chords "1 4 1 5"`,
			"6:5 6:8 5:5 5:5 5:7 4:5 6:5 6:8 5:5 5:7 4:5 4:7", "Am Dm Am Em"},
		{`--key "A minor pentatonic" --cell "1 2 3" --move chord --chords "1 4" --times 4`,
			"6:5 6:8 5:5 5:5 5:7 4:5 6:5 6:8 5:5 5:5 5:7 4:5", "Am Dm Am Dm"},
		{`--key "A minor pentatonic" --cell "1 2 3" --move chord --chords "1 4 1" --follow chord`,
			"6:5 6:8 5:5 5:5 5:8 4:5 6:5 6:8 5:5", "Am Dm Am"},
		// The 5 of a blues key is the fifth; a key of five tones has its parent's thirds.
		{`--key "A blues" --cell "chord: 1 3 5" --chords "1 4"`, "6:5 6:8 5:7 6:10 6:13 5:12", "Am Dm"},
		{`--key "A minor pentatonic" --cell "chord: 1 3 5 1'"`, "6:5 6:8 5:7 4:7", ""},
		// More tones than strings go on on the last one.
		{`--key "C major" --cell "chord@5,4,3: 1 3 5 1'" --chords "I V7"`, "5:3 4:2 3:0 3:5 5:10 4:9 3:7 3:12", "C G7"},
	} {
		r, err := run.Parse(c.recipe)
		if err != nil {
			t.Errorf("%s: %v", c.recipe, err)
			continue
		}
		x, err := run.Grow(r, neck.Standard())
		if err != nil {
			t.Errorf("%s: %v", c.recipe, err)
			continue
		}
		var places, chords []string
		for _, n := range x.Lick.Notes {
			places = append(places, n.Place().Notation())
		}
		for _, n := range x.Lick.Chords {
			chords = append(chords, n.Name)
		}
		if got := strings.Join(places, " "); got != c.places {
			t.Errorf("%s: %s, want %s", c.recipe, got, c.places)
		}
		if got := strings.Join(chords, " "); got != c.chords {
			t.Errorf("%s: over %s, want %s", c.recipe, got, c.chords)
		}
		if n := len(x.Lick.Chords); n > 0 {
			if last := x.Lick.Chords[n-1]; last.At.Add(last.Len).Cmp(x.Lick.End()) != 0 {
				t.Errorf("%s: the last chord ends at %v, the line at %v", c.recipe, last.At.Add(last.Len), x.Lick.End())
			}
		}
	}
}

// A run that does not move by chords has them by the bar.
func TestChordsByBar(t *testing.T) {
	r, err := run.Parse(`--key "A minor pentatonic" --cell "1 2 3 4" --times 8 --chords "1 | 4"`)
	if err != nil {
		t.Fatal(err)
	}
	x, err := run.Grow(r, neck.Standard())
	if err != nil || len(x.Lick.Chords) != 2 || x.Lick.Chords[1].Name != "Dm" || x.Lick.Chords[1].At.String() != "1" {
		t.Errorf("%v %v", err, x.Lick.Chords)
	}
}

// A tail may leave the box that it ends: the 0 below the A at 6:5 is the G at 6:3.
func TestTailBelow(t *testing.T) {
	r, err := run.Parse(`--key "A minor pentatonic" --cell "1 2 3" --dir down --tail 0`)
	if err != nil {
		t.Fatal(err)
	}
	x, err := run.Grow(r, neck.Standard())
	if err != nil {
		t.Fatal(err)
	}
	if last := x.Lick.Notes[len(x.Lick.Notes)-1].Place(); last != (neck.Place{String: 6, Fret: 3}) {
		t.Errorf("it ends on %v", last)
	}
}
