package main

import (
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"ornamen/core/lick"
)

// printed is the lick that a command prints, and the file it is put in.
func printed(t *testing.T, args ...string) (string, lick.Lick) {
	t.Helper()
	status, out, stderr := call(args...)
	if status != 0 {
		t.Fatalf("%v: %d %s", args, status, stderr)
	}
	l, err := lick.Parse([]byte(out))
	if err != nil {
		t.Fatalf("%v: %v", args, err)
	}
	path := filepath.Join(t.TempDir(), "line.json")
	if err := os.WriteFile(path, []byte(out), 0o644); err != nil {
		t.Fatal(err)
	}
	return path, l
}

// A line is written from nothing by command, bent, ended otherwise and gone on with.
func TestEditCommands(t *testing.T) {
	path, _ := printed(t, "run", "--key", "A minor pentatonic", "--at", "6:5", "--cell", "1 2 3", "--times", "4",
		"--json")
	path, l := printed(t, "edit", path, "12 remove", "add 3:7 1/4", "12 bend 2", "tempo 92", "chords Am7 | D7",
		"--json")
	n := l.Notes[11]
	if len(l.Notes) != 12 || n.Place().Notation() != "3:7" || n.Bend == nil || l.Tempo != 92 || len(l.Chords) != 2 {
		t.Fatalf("%d notes, the last %+v, tempo %g, chords %v", len(l.Notes), n, l.Tempo, l.Chords)
	}
	if status, out, _ := call("edit", path, "tempo 100"); status != 0 || !strings.Contains(out, "flows") ||
		!strings.HasPrefix(out, "tempo") {
		t.Errorf("%d %s", status, out)
	}
	if status, _, stderr := call("edit", path, "3 wobble"); status != 2 ||
		!strings.Contains(stderr, "edit --help") {
		t.Errorf("%d %s", status, stderr)
	}
	if status, out, _ := call("bends", path, "--note", "12"); status != 0 || !strings.HasPrefix(out, "1  ") {
		t.Errorf("bends: %d %s", status, out)
	}
	if _, l := printed(t, "bends", path, "--note", "12", "--take", "1", "--json"); l.Notes[11].Bend.Semitones == 2 &&
		l.Notes[11].Place() == n.Place() {
		t.Error("the bend is the same one")
	}
	if status, _, stderr := call("bends", path, "--note", "1"); status != 2 || !strings.Contains(stderr, "not bent") {
		t.Errorf("%d %s", status, stderr)
	}
	var texts []string
	if _, out, _ := call("tails", path, "--note", "8", "--json"); json.Unmarshal([]byte(out), &texts) != nil ||
		len(texts) < 3 {
		t.Errorf("tails: %s", out)
	}
	if _, l := printed(t, "tails", path, "--note", "8", "--take", "1", "--json"); l.Pitch(len(l.Notes)-1).Class() != 9 {
		t.Errorf("a tail over Am7 ends on %v", l.Pitch(len(l.Notes)-1))
	}
	if status, _, _ := call("tails", path, "--take", "99"); status != 2 {
		t.Error("tail 99 is taken")
	}
	if _, l := printed(t, "join", path, "--cell", "3 2 1", "--json"); len(l.Notes) != 15 {
		t.Errorf("with a cell the line has %d notes", len(l.Notes))
	}
	if _, l := printed(t, "join", path, "--run", `--key "D minor pentatonic" --at 6:10 --cell "1 2" --times 2`,
		"--json"); len(l.Notes) != 16 {
		t.Errorf("with a run the line has %d notes", len(l.Notes))
	}
	if status, _, _ := call("join", path); status != 2 {
		t.Error("a line goes on with nothing")
	}
}

// The demo's line that breaks is mended by its first fix.
func TestMendCommand(t *testing.T) {
	path := demoFile(t, "Lantern turnaround")
	if status, out, _ := call("mend", path); status != 0 || !strings.Contains(out, "1  ") ||
		!strings.Contains(out, "(") {
		t.Errorf("%d %s", status, out)
	}
	mended, _ := printed(t, "mend", path, "--take", "1", "--json")
	before, _, _ := call("check", path)
	after, out, _ := call("check", mended)
	if before != 1 || after != 0 && !strings.Contains(out, "clean") {
		t.Errorf("before %d, after %d: %s", before, after, out)
	}
}

// A lick goes into a notebook, is listed, comes out in another format, and goes back to an
// earlier version without losing the later one.
func TestNotebookCommands(t *testing.T) {
	dir := t.TempDir()
	db, tab := filepath.Join(dir, "n.db"), filepath.Join(dir, "out.tab")
	path := demoFile(t, "Thaw bends")
	for _, want := range []string{"lick 1", "lick 2"} {
		if status, out, stderr := call("import", path, "--db", db); status != 0 || !strings.Contains(out, want) {
			t.Fatalf("%d %s %s", status, out, stderr)
		}
	}
	var rows []lickRow
	if _, out, _ := call("licks", "--db", db, "--json"); json.Unmarshal([]byte(out), &rows) != nil || len(rows) != 2 {
		t.Fatalf("licks: %s", out)
	}
	if status, out, _ := call("licks", "--db", db, "--find", "no such"); status != 0 ||
		!strings.Contains(out, "no licks") {
		t.Errorf("%d %s", status, out)
	}
	if status, _, stderr := call("export", tab, "--lick", "thaw bends", "--db", db); status != 2 ||
		!strings.Contains(stderr, "by its number") {
		t.Errorf("two of one title: %d %s", status, stderr)
	}
	if status, _, stderr := call("export", tab, "--lick", "2", "--db", db); status != 0 {
		t.Fatal(stderr)
	}
	if data, err := os.ReadFile(tab); err != nil || !strings.Contains(string(data), "Thaw bends") {
		t.Errorf("%v %s", err, data)
	}
	var list []versionRow
	if _, out, _ := call("versions", "2", "--db", db, "--json"); json.Unmarshal([]byte(out), &list) != nil ||
		len(list) != 1 {
		t.Fatalf("versions: %s", out)
	}
	for _, bad := range [][]string{{"versions", "9", "--db", db}, {"versions", "2", "--take", "99", "--db", db},
		{"versions", "2", "--take", "2", "--db", db}, {"export", tab, "--lick", "none", "--db", db}} {
		if status, _, stderr := call(bad...); status != 2 || strings.Count(stderr, "\n") != 1 {
			t.Errorf("%v: %d %s", bad, status, stderr)
		}
	}
}
