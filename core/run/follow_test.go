package run_test

import (
	"strings"
	"testing"

	"ornamen/core/neck"
	"ornamen/core/run"
)

// placesOf writes a run's columns, notes that sound together with a plus.
func placesOf(t *testing.T, recipe string) (string, *run.Run) {
	t.Helper()
	r, err := run.Parse(recipe)
	if err != nil {
		t.Fatalf("%s: %v", recipe, err)
	}
	if again, err := run.Parse(r.String()); err != nil || again != r {
		t.Errorf("%s is written %s: %v", recipe, r, err)
	}
	g, err := run.Grow(r, neck.Standard())
	if err != nil {
		t.Fatalf("%s: %v", recipe, err)
	}
	var cols []string
	for _, c := range g.Lick.Columns() {
		var w []string
		for _, n := range g.Lick.Notes[c[0]:c[1]] {
			w = append(w, n.Place().Notation())
		}
		cols = append(cols, strings.Join(w, "+"))
	}
	return strings.Join(cols, " "), g
}

// Chord by chord, in the key or with the chord's own tones; a plain sign; pairs of each
// chord's own scale from its root and third (common practice).
func TestFollowing(t *testing.T) {
	for _, c := range []struct{ recipe, want string }{
		{`--key "A mixolydian" --layout pairs:3,1:6 --at 3:6 --cell "1 2 3" --move chord --chords "1 4 5" ` +
			`--follow chord`,
			"3:6+1:5 3:7+1:7 3:9+1:9 3:11+1:10 3:12+1:12 3:14+1:14 3:13+1:12 3:14+1:14 3:16+1:16"},
		// Over D in A mixolydian the 3 is F♯ and the 7 C♯, of D's own tones C.
		{`--key "A mixolydian" --at 5:0 --cell "chord@5,4,3: 1 3 7" --chords "4"`, "5:5 4:4 3:6"},
		{`--key "A mixolydian" --at 5:0 --cell "chord@5,4,3: 1 3 7" --chords "4" --follow chord`, "5:5 4:4 3:5"},
		// A plain 2 over the third chord of C, whose own 2 is F.
		{`--key "C major" --at 6:0 --cell "chord@6,6,5: 1 n2 5" --chords "3"`, "6:0 6:2 5:2"},
		{`--key "C major" --at 6:0 --cell "chord@6,6,5: 1 2 5" --chords "3"`, "6:0 6:1 5:2"},
	} {
		if got, _ := placesOf(t, c.recipe); got != c.want {
			t.Errorf("%s: %s, want %s", c.recipe, got, c.want)
		}
	}
	// On C, ♭3 and 3, 5 and 6 over 1 4 5: over G they are B♭ B D E.
	_, g := placesOf(t, `--key "C major" --at 5:3 --cell "chord: b3 h3 5 6" --chords "1 4 5" --follow chord`)
	var got []string
	for i := range g.Lick.Notes {
		got = append(got, g.Lick.Pitch(i).String()[:len(g.Lick.Pitch(i).String())-1])
	}
	if s := strings.Join(got, " "); s != "D# E G A G# A C D A# B D E" {
		t.Errorf("blues thirds over 1 4 5: %s", s)
	}
	if len(g.Lick.Keys) != 2 || g.Lick.Keys[1].Key.Tonic != "G" {
		t.Errorf("each chord's own tones: %+v", g.Lick.Keys)
	}
	for _, bad := range []string{`--key "C major" --cell "1 2" --follow x`, `--key "C major" --cell "chord: nb2"`} {
		if _, err := run.Parse(bad); err == nil {
			t.Errorf("%s passes", bad)
		}
	}
}

// Another cell on the way down, and a run that is a loop.
func TestDownCellAndLoop(t *testing.T) {
	for _, c := range []struct{ recipe, want string }{
		{`--key "A minor pentatonic" --at 6:5 --cell "1 2 3" --dir updown --times 5 --down-cell "2 1"`,
			"6:5 6:8 5:5 6:8 5:5 5:7 5:5 5:7 4:5 5:5 6:8 6:8 6:5"},
		{`--key "A minor pentatonic" --at 6:5 --cell "strings: a1 ha2" --dir updown --down-cell "strings: a2 ` +
			`pa1" --turn twice --times 12`,
			"6:5 6:8 5:5 5:7 4:5 4:7 3:5 3:7 2:5 2:8 1:5 1:8 1:8 1:5 2:8 2:5 3:7 3:5 4:7 4:5 5:7 5:5 6:8 6:5"},
		{`--key "A minor pentatonic" --at 6:5 --cell "1 2 3" --dir down --down-cell "3 2 1" --times 2`,
			"1:8 1:5 2:8 1:5 2:8 2:5"},
	} {
		if got, _ := placesOf(t, c.recipe); got != c.want {
			t.Errorf("%s: %s, want %s", c.recipe, got, c.want)
		}
	}
	for _, c := range []struct{ recipe, want string }{
		{`--key "A natural minor" --layout string:3 --at 3:5 --cell "1 h2 s3" --move stay --mirror --loop`,
			"3:5 3:7 3:9 3:7 3:9 3:7"},
		{`--key "A natural minor" --layout 3nps --at 4:5 --cell "strings: a1 ha2 sa3 b2 b3" --move stay --mirror`,
			"4:5 4:7 4:9 3:7 3:9 4:7 4:9 4:7 3:5 3:7"},
		{`--key "A minor pentatonic" --at 6:8 --cell "1 2 3" --move stay --mirror`, "6:8 6:10 5:7 6:5 6:8 5:5"},
	} {
		if got, _ := placesOf(t, c.recipe); got != c.want {
			t.Errorf("%s: %s, want %s", c.recipe, got, c.want)
		}
	}
	if _, err := run.Grow(run.Recipe{Key: "E minor pentatonic", At: "6:0", Cell: "1 2 3", Mirror: true},
		neck.Standard()); err == nil || !strings.Contains(err.Error(), "no room for the mirror") {
		t.Errorf("a mirror below the nut: %v", err)
	}
	_, g := placesOf(t, `--key "A minor pentatonic" --at 6:5 --cell "1 2 3 2" --move stay --times 2 --loop`)
	if !g.Lick.Loop {
		t.Error("the run is no loop")
	}
	if _, err := run.Parse(`--key "A minor" --cell "1 2" --down-cell "strings: a1"`); err == nil {
		t.Error("two sorts of cells are taken")
	}
}

// Pairs over chords on named strings, and a run of pairs that lands on one.
func TestPairsLand(t *testing.T) {
	for _, c := range []struct{ recipe, want string }{
		{`--key "C major" --at 5:3 --cell "chord@3,1,3,1: (3' 1'') (5' 3'')" --chords "1 4"`,
			"3:9+1:8 3:12+1:12 3:14+1:13 3:17+1:17"},
		{`--key "A mixolydian" --layout pairs:3,1:6 --at 3:6 --cell "1 2 3" --times 2 --land 5`,
			"3:6+1:5 3:7+1:7 3:9+1:9 3:7+1:7 3:9+1:9 3:11+1:10 3:12+1:12"},
	} {
		if got, _ := placesOf(t, c.recipe); got != c.want {
			t.Errorf("%s: %s, want %s", c.recipe, got, c.want)
		}
	}
}
