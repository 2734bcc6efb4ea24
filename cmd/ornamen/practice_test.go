package main

import (
	"context"
	"encoding/json"
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
		if err := practising.Add(context.Background(), s, e); err != nil {
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
		if !(a.Low <= a.Value && a.Value <= a.High) || a.Rounds != 0 && a.Name != "fretting" {
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
