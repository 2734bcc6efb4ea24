package main

import (
	"encoding/json"
	"slices"
	"strings"
	"testing"

	"ornamen/core/changes"
	"ornamen/core/lick"
)

// A line is read against its chords: every note over one, every change with a landing, and the
// palette over each chord.
func TestChangesCommand(t *testing.T) {
	path := demoFile(t, "Weir blues")
	status, out, stderr := call("changes", path, "--json")
	if status != 0 {
		t.Fatalf("%d %s", status, stderr)
	}
	var v struct {
		Notes    []chordNoteJSON
		Landings []landingJSON
		Palette  []paletteJSON
	}
	if err := json.Unmarshal([]byte(out), &v); err != nil {
		t.Fatal(err)
	}
	// In a twelve-bar blues another chord begins in these bars (common practice).
	bars := []int64{5, 7, 9, 10, 11, 12}
	words := []changes.Word{changes.OnTime, changes.Early, changes.Late, changes.Missed, changes.Rest}
	if len(v.Landings) != len(bars) {
		t.Fatalf("%+v", v.Landings)
	}
	for k, x := range v.Landings {
		if !slices.Contains(words, x.Word) || x.Bar != bars[k] || x.Beat != 1 {
			t.Errorf("%+v", x)
		}
	}
	names := map[string]bool{}
	for _, x := range v.Palette {
		names[x.Chord] = true
	}
	if len(names) != 3 || !names["A7"] || !names["D7"] || !names["E7"] {
		t.Errorf("the palette lies over %v", names)
	}
	for k, n := range v.Notes {
		if n.Note != k+1 || n.Chord == "" || n.Degree == "" {
			t.Errorf("%+v", n)
		}
	}
	status, text, stderr := call("changes", path)
	if status != 0 || strings.Count(text, "bar ") < len(bars) {
		t.Errorf("%d %s %s", status, text, stderr)
	}
	// By each chord's own scale the palette over it is that scale: its root is among the tones.
	if status, out, stderr = call("changes", path, "--follow", "chord", "--json"); status != 0 {
		t.Fatalf("%d %s", status, stderr)
	}
	if err := json.Unmarshal([]byte(out), &v); err != nil {
		t.Fatal(err)
	}
	roots := map[string]bool{}
	for _, x := range v.Palette {
		if x.Role == changes.Root && x.Note == x.Chord[:1] {
			roots[x.Chord] = true
		}
	}
	if len(roots) != 3 {
		t.Errorf("the chords' own scales have the roots of %v", roots)
	}
	if status, out, _ = call("changes", "--forms"); status != 0 || !strings.Contains(out, "twelve-bar blues") {
		t.Errorf("%d %s", status, out)
	}
}

// A line is moved over its chords, or limited without any; what comes out is a lick file.
func TestChangesMoves(t *testing.T) {
	path := demoFile(t, "Cold hands loop") // it has no chords
	for _, k := range []struct {
		args []string
		want func(l lick.Lick) bool
	}{
		{[]string{"--move", "only:string 1"}, func(l lick.Lick) bool {
			return len(l.Notes) > 0 && !slices.ContainsFunc(l.Notes, func(n lick.Note) bool { return n.String != 1 })
		}},
		{[]string{"--over", "1 | 4", "--move", "each:degrees"}, func(l lick.Lick) bool {
			return len(l.Chords) == 2 && l.Meter.Bar().Before(l.End())
		}},
		{[]string{"--over", "Bb | Eb", "--move", "tones:3"}, func(l lick.Lick) bool {
			return len(l.Notes) == 2 && l.Pitch(0).Class() == 2 && l.Pitch(1).Class() == 7 // D and G
		}},
	} {
		status, out, stderr := call(append([]string{"changes", path}, k.args...)...)
		l, err := lick.Parse([]byte(out))
		if status != 0 || err != nil || !k.want(l) {
			t.Errorf("%v: %d %s %v\n%s", k.args, status, stderr, err, out)
		}
	}
	for _, bad := range [][]string{{}, {"--move", "fill"}, {"--follow", "ear", "--over", "C"}, {"--over", "Cwonky"},
		{"--over", "C", "--move", "sideways"}, {"--over", ". | ."}} {
		if status, out, stderr := call(append([]string{"changes", path}, bad...)...); status != 2 || out != "" ||
			strings.Count(stderr, "\n") != 1 {
			t.Errorf("%v: %d %s %s", bad, status, out, stderr)
		}
	}
}
