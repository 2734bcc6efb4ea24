package main

import (
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/run"
)

// grownFile writes what run prints to a file.
func grownFile(t *testing.T, args ...string) (string, lick.Lick) {
	t.Helper()
	return printed(t, append(append([]string{"run"}, args...), "--json")...)
}

func TestRunCommand(t *testing.T) {
	path, l := grownFile(t, "--key", "C# natural minor", "--cell", "3 2 1 4", "--times", "8", "--land", "4@1")
	if len(l.Notes) != 33 || l.Recipe == "" || l.Pickup.String() != "0" || l.Notes[0].Place().Notation() != "6:12" {
		t.Errorf("%d notes, pick-up %v, recipe %q", len(l.Notes), l.Pickup, l.Recipe)
	}
	for i, n := range l.Notes {
		if n.Finger == lick.NoFinger || n.Stroke == "" {
			t.Errorf("note %d has no hands", i+1)
		}
	}
	if status, out, _ := call("run", "--key", "C# natural minor", "--cell", "3 2 1 4", "--times", "2",
		"--tab"); status != 0 ||
		!strings.Contains(out, "E|12") {
		t.Errorf("tab: %d\n%s", status, out)
	}
	if status, out, _ := call("run", "--key", "A minor pentatonic", "--at", "6:5", "--cell", "1 2 3"); status != 0 ||
		!strings.Contains(out, "10 cells") ||
		!strings.Contains(out, "meet the beat") {
		t.Errorf("%d\n%s", status, out)
	}
	// The recipe of what was grown is the recipe it was grown from.
	status, out, _ := call("recipe", path, "--json")
	var r struct {
		Recipe string
		Covers []int
	}
	if err := json.Unmarshal([]byte(out), &r); err != nil || status != 0 || len(r.Covers) != 2 || r.Covers[1] != 33 ||
		!strings.Contains(r.Recipe, `--cell "3 2 1 4"`) {
		t.Errorf("%d %v %s", status, err, out)
	}
	if status, out, _ := call("recipe", path); status != 0 || !strings.HasPrefix(out, "--key") {
		t.Errorf("%d %s", status, out)
	}
}

func TestWaysCommand(t *testing.T) {
	path, _ := grownFile(t, "--key", "C# natural minor", "--cell", "3 2 1 4", "--times", "8")
	status, out, _ := call("ways", path, "--json")
	var list []struct {
		Way     string
		Ceiling *float64
		Lick    json.RawMessage
	}
	if err := json.Unmarshal([]byte(out), &list); err != nil || status != 0 || len(list) < 5 {
		t.Fatalf("%d, %v, %d ways", status, err, len(list))
	}
	for _, w := range list {
		if _, err := lick.Parse(w.Lick); err != nil || w.Ceiling == nil {
			t.Errorf("%s: %v", w.Way, err)
		}
	}
	path, _ = grownFile(t, "--key", "C# natural minor", "--cell", "strings: a1 a2 a3")
	if status, out, _ := call("ways", path); status != 0 || !strings.Contains(out, run.EvenedName) ||
		!strings.Contains(out, "Held back by") {
		t.Errorf("%d\n%s", status, out)
	}
}

func TestRestringAndTurnCommands(t *testing.T) {
	path, l := grownFile(t, "--key", "C# natural minor", "--cell", "3 2 1 4", "--times", "8")
	status, out, _ := call("restring", path, "--pick", "economy", "--json")
	restrung, err := lick.Parse([]byte(out))
	if err != nil || status != 0 {
		t.Fatalf("%d %v", status, err)
	}
	moved := 0
	for i, n := range restrung.Notes {
		if restrung.Pitch(i) != l.Pitch(i) {
			t.Errorf("note %d sounds another pitch", i+1)
		}
		if n.Place() != l.Notes[i].Place() {
			moved++
		}
	}
	if moved == 0 {
		t.Error("nothing is restrung")
	}
	if status, out, _ := call("restring", path, "--pick", "economy"); status != 0 ||
		!strings.Contains(out, "restrung: 0 changes not clean") {
		t.Errorf("%d\n%s", status, out)
	}
	status, out, _ = call("turn", path, "--how", "backwards", "--json")
	back, err := lick.Parse([]byte(out))
	if err != nil || status != 0 || back.Pitch(0) != l.Pitch(len(l.Notes)-1) || back.Recipe != "" {
		t.Errorf("%d %v", status, err)
	}
	if status, out, _ := call("turn", path, "--how", "rotate:5"); status != 0 ||
		!strings.Contains(out, "rotate:5: clean up to") {
		t.Errorf("%d\n%s", status, out)
	}
}

// What the new commands do not allow: one line, status 2, nothing printed.
func TestNewCommandsRefuse(t *testing.T) {
	path, _ := grownFile(t, "--key", "A minor pentatonic", "--cell", "1 2 3")
	for _, args := range [][]string{
		{"run"}, {"run", "--key", "A dorian"}, {"run", "--key", "A dorian", "--cell", "1 q"}, {"run", "--key",
			"A dorian", "--cell", "1", "--times", "x"},
		{"run", "--key", "A dorian", "--cell", "1", "--json", "--tab"}, {"run", "--key", "A dorian", "--cell", "1",
			"--count", "17"}, {"run", "--key", "A dorian", "--cell", "1", "--at", "nowhere"},
		{"ways"}, {"ways", "nothing.json"}, {"restring", path, "--pick", "windmill"}, {"recipe"}, {"turn", path},
		{"turn", path, "--how", "over"}, {"turn", path, "--how", "rotate:0"}, {"turn", path, "--how", "octave",
			"--twice"},
	} {
		status, out, stderr := call(args...)
		if status != 2 || out != "" || strings.Count(stderr, "\n") != 1 || strings.Contains(stderr, "goroutine") {
			t.Errorf("%v: status %d, %q, %q", args, status, out, stderr)
		}
	}
}

// Every command knows instruments, tunings, hands and chords.
func TestInstrumentsAndChords(t *testing.T) {
	path, l := grownFile(t, "--instrument", "bass4", "--key", "E minor pentatonic", "--at", "4:12", "--cell", "1 2 3",
		"--times", "4")
	if len(l.Tuning) != 4 || l.Tuning[3] != 28 {
		t.Errorf("tuned %v", l.Tuning)
	}
	// A bass is plucked by the fingers in turn, a guitar by a pick.
	for i, n := range l.Notes {
		if n.Stroke != lick.PIndex && n.Stroke != lick.PMid || i > 0 && n.Stroke == l.Notes[i-1].Stroke {
			t.Errorf("note %d of the bass is played by %q", i+1, n.Stroke)
		}
	}
	if _, out, _ := call("ways", path, "--instrument", "bass4"); strings.Count(out, "\n") != 1 ||
		!strings.HasPrefix(out, "fingers in turn") {
		t.Errorf("ways of a bass: %s", out)
	}
	if status, out, _ := call("check", path, "--instrument", "bass4", "--tempo", "60"); status == 2 || out == "" {
		t.Errorf("%d %s", status, out)
	}
	tuned := filepath.Join(t.TempDir(), "tuned.lick.json")
	guitar, _ := grownFile(t, "--key", "A minor pentatonic", "--at", "6:5", "--cell", "1 2 3", "--times", "4")
	if status, _, e := call("convert", guitar, tuned, "--tuning", "D4 A3 F3 C3 G2 D2", "--chords",
		"Am7 | D9 . E7#9 ."); status != 0 {
		t.Fatal(e)
	}
	data, err := os.ReadFile(tuned)
	if err != nil {
		t.Fatal(err)
	}
	if got, err := lick.Parse(data); err != nil || got.Tuning[0] != 62 || len(got.Chords) != 3 ||
		got.Chords[2].Name != "E7#9" {
		t.Errorf("%v %v", got.Chords, err)
	}
	for _, bad := range [][]string{{"--instrument", "lute"}, {"--tuning", "E4"}, {"--tuning", "x y z u v w"},
		{"--chords", "Cwonky"}, {"--hand", "huge"}} {
		if status, out, e := call(append([]string{"check", guitar}, bad...)...); status != 2 || out != "" ||
			strings.Count(e, "\n") != 1 {
			t.Errorf("%v: %d %q %q", bad, status, out, e)
		}
	}
}
