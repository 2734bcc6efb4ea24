package main

import (
	"context"
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"ornamen/core/practice"
	"ornamen/internal/practising"
	"ornamen/internal/store"
)

// practised is a notebook with a lick and a log of so many rounds of it, an hour ago.
func practised(t *testing.T, rounds int) string {
	t.Helper()
	db := filepath.Join(t.TempDir(), "n.db")
	if status, _, stderr := call("import", demoFile(t, "Thaw bends"), "--db", db); status != 0 {
		t.Fatal(stderr)
	}
	s, err := store.Open(db, clock)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	for k := range rounds {
		e := practice.Entry{Lick: 1, Title: "Thaw bends", Revision: 1, Tempo: 60, Minutes: 0.5, Fretting: 90,
			Time: clock().Add(time.Duration(k-60) * time.Minute)}
		if e.Clean = k % 3; e.Clean == 0 {
			e.Missed = 1
		}
		if _, err := practising.Add(context.Background(), s, 1, e); err != nil {
			t.Fatal(err)
		}
	}
	return db
}

// The plan fills the minutes with licks of the notebook.
func TestPracticePlan(t *testing.T) {
	db := practised(t, 0)
	for _, minutes := range []string{"5", "30"} {
		status, out, stderr := call("practice", "plan", "--minutes", minutes, "--db", db, "--json")
		var v planJSON
		if err := json.Unmarshal([]byte(out), &v); status != 0 || err != nil {
			t.Fatalf("%d %s %v", status, stderr, err)
		}
		sum := 0
		for _, x := range v.Items {
			sum += x.Minutes
			if x.Minutes < 1 || x.Why == "" || x.Kind != practice.Break && x.Lick != "Thaw bends" {
				t.Errorf("%+v", x)
			}
		}
		if len(v.Items) == 0 || sum > v.Minutes {
			t.Errorf("%d of %d minutes in %d things", sum, v.Minutes, len(v.Items))
		}
	}
	if status, out, _ := call("practice", "plan", "--db", db); status != 0 || !strings.Contains(out, " min ") {
		t.Errorf("%d %s", status, out)
	}
}

// The log comes out as it went in, as CSV and as JSON, and tells of the abilities that it knows.
func TestPracticeLog(t *testing.T) {
	db := practised(t, 12)
	status, out, stderr := call("practice", "log", "--csv", "--db", db)
	if status != 0 {
		t.Fatal(stderr)
	}
	fromCSV, err := practice.ReadCSV(strings.NewReader(out))
	if err != nil || len(fromCSV) != 12 {
		t.Fatalf("%d lines, %v", len(fromCSV), err)
	}
	_, out, _ = call("practice", "log", "--json", "--db", db)
	fromJSON, err := practice.ReadJSON(strings.NewReader(out))
	if err != nil || len(fromJSON) != 12 {
		t.Fatalf("%d lines, %v", len(fromJSON), err)
	}
	for k, e := range fromJSON {
		c := fromCSV[k]
		if c.Tempo != e.Tempo || c.Clean != e.Clean || c.Missed != e.Missed || c.Fretting != e.Fretting ||
			!c.Time.Equal(e.Time.Truncate(time.Second)) {
			t.Errorf("%+v and %+v", c, e)
		}
	}
	if status, out, _ = call("practice", "log", "--db", db); status != 0 ||
		strings.Count(out, "Thaw bends at 60") != 12 {
		t.Errorf("%d %s", status, out)
	}
	var v struct{ Abilities []abilityJSON }
	_, out, _ = call("practice", "calibrate", "--json", "--db", db)
	if err := json.Unmarshal([]byte(out), &v); err != nil || len(v.Abilities) != 4 {
		t.Fatalf("%v %s", err, out)
	}
	for _, a := range v.Abilities {
		if !(a.Low <= a.Value && a.Value <= a.High) || a.Rounds != 0 && a.Name != "fretting" ||
			a.Rounds == 0 && a.Shown {
			t.Errorf("%+v", a)
		}
	}
	if status, out, _ = call("practice", "calibrate", "--db", db); status != 0 ||
		!strings.Contains(out, "not from this log") {
		t.Errorf("%d %s", status, out)
	}
}

// What is asked wrongly is refused in a sentence; an empty notebook says so.
func TestPracticeRefusals(t *testing.T) {
	db := practised(t, 0)
	for _, bad := range [][]string{{}, {"sleep", "--db", db}, {"plan", "--minutes", "0", "--db", db},
		{"plan", "--minutes", "9999", "--db", db}, {"log", "--db", filepath.Join(t.TempDir(), "none.db")}} {
		if status, out, stderr := call(append([]string{"practice"}, bad...)...); status != 2 || out != "" ||
			strings.Count(stderr, "\n") != 1 {
			t.Errorf("%v: %d %s %s", bad, status, out, stderr)
		}
	}
	if status, out, _ := call("practice", "log", "--db", db); status != 0 ||
		!strings.Contains(out, "nothing was practised") {
		t.Errorf("%d %s", status, out)
	}
}

// A log is read from a file, whole or not at all, and its numbers come from the file as from the
// notebook; the plan of another day is that day's, and what is no day is refused.
func TestPracticeFiles(t *testing.T) {
	db := practised(t, 12)
	_, text, _ := call("practice", "log", "--csv", "--db", db)
	file := filepath.Join(t.TempDir(), "log.csv")
	if err := os.WriteFile(file, []byte("\ufeff"+strings.ReplaceAll(text, "\n", "\r\n")), 0o600); err != nil {
		t.Fatal(err)
	}
	_, fromBook, _ := call("practice", "calibrate", "--json", "--db", db)
	if status, fromFile, stderr := call("practice", "calibrate", "--from", file, "--json"); status != 0 ||
		fromFile != fromBook {
		t.Errorf("%d %s\n%s\n%s", status, stderr, fromFile, fromBook)
	}
	if status, out, stderr := call("practice", "read", file, "--db", db); status != 0 ||
		out != "0 lines added to the log; 12 were there already\n" {
		t.Errorf("%d %s %s", status, out, stderr)
	}
	if _, twice, _ := call("practice", "log", "--csv", "--db", db); strings.Count(twice, "\n") != 13 {
		t.Errorf("%d lines", strings.Count(twice, "\n"))
	}
	other := filepath.Join(t.TempDir(), "other.db")
	if _, _, stderr := call("players", "add", "Juna", "--db", other); stderr != "" {
		t.Fatal(stderr)
	}
	for _, want := range []string{"12 lines added to the log of Juna\n",
		"0 lines added to the log of Juna; 12 were there already\n"} {
		if status, out, stderr := call("practice", "read", file, "--player", "juna", "--db", other); status != 0 ||
			out != want {
			t.Errorf("%d %s %s", status, out, stderr)
		}
	}
	if _, none, _ := call("practice", "log", "--csv", "--db", other); strings.Count(none, "\n") != 1 {
		t.Errorf("the other player's log has %s", none)
	}
	bad := filepath.Join(t.TempDir(), "bad.csv")
	if err := os.WriteFile(bad, []byte(text+"2026-11-25T18:00:00Z,99999999999,x,1,,1,4,60,1,0,0,1,,0,0,0,0,\n"),
		0o600); err != nil {
		t.Fatal(err)
	}
	status, out, stderr := call("practice", "read", bad, "--db", db)
	if status != 2 || out != "" || strings.Count(stderr, "\n") != 1 || !strings.Contains(stderr, "line 14") {
		t.Errorf("%d %s %s", status, out, stderr)
	}
	if _, twice, _ := call("practice", "log", "--csv", "--db", db); strings.Count(twice, "\n") != 13 {
		t.Errorf("a refused log left %d lines", strings.Count(twice, "\n"))
	}
	if status, out, _ := call("practice", "plan", "--on", "2026-12-03", "--db", db, "--json"); status != 0 ||
		!strings.Contains(out, `"heavy":true`) {
		t.Errorf("%d %s", status, out)
	}
	for _, day := range []string{"2026-02-30", "tomorrow", "2026-13-01"} {
		if status, _, stderr := call("practice", "plan", "--on", day, "--db", db); status != 2 ||
			!strings.Contains(stderr, "no day") {
			t.Errorf("%s: %d %s", day, status, stderr)
		}
	}
}
