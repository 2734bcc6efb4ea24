package main

import (
	"archive/zip"
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// counted is what a notebook holds, by command: how many licks, versions, rounds and sets.
func counted(t *testing.T, db string) [4]int {
	t.Helper()
	asked := func(args ...string) string {
		t.Helper()
		status, out, stderr := call(append(args, "--db", db)...)
		if status != 0 {
			t.Fatalf("%v: %s", args, stderr)
		}
		return out
	}
	licks, log, sets := asked("licks", "--json"), asked("practice", "log", "--csv"), asked("set", "--json")
	whole := filepath.Join(t.TempDir(), "whole.zip")
	if status, _, stderr := call("export", whole, "--db", db); status != 0 {
		t.Fatal(stderr)
	}
	z, err := zip.OpenReader(whole)
	if err != nil {
		t.Fatal(err)
	}
	defer z.Close()
	versions := 0
	for _, f := range z.File {
		if strings.HasSuffix(f.Name, ".lick.json") {
			versions++
		}
	}
	return [4]int{strings.Count(licks, `"title"`), versions, strings.Count(log, "\n") - 1, strings.Count(sets, `"name"`)}
}

// What has a key, or is the same round, is there once, whatever it is handed in as: the whole notebook, a set, a set
// with its page, a report, a log as CSV, as a spreadsheet writes it, and as JSON. Each is handed in twice to the
// notebook that it is from, and twice to a new one.
func TestHandedInTwice(t *testing.T) {
	home := practised(t, 12)
	if status, _, stderr := call("set", "Week", "--add", "1", "--db", home); status != 0 {
		t.Fatal(stderr)
	}
	dir := t.TempDir()
	path := func(name string) string { return filepath.Join(dir, name) }
	for _, args := range [][]string{
		{"export", path("whole.zip"), "--db", home},
		{"export", path("set.zip"), "--set", "Week", "--db", home},
		{"practice", "report", path("report.json"), "--db", home},
	} {
		if status, _, stderr := call(args...); status != 0 {
			t.Fatalf("%v: %s", args, stderr)
		}
	}
	for name, flag := range map[string]string{"log.csv": "--csv", "log.json": "--json"} {
		_, text, _ := call("practice", "log", flag, "--db", home)
		if err := os.WriteFile(path(name), []byte(text), 0o600); err != nil {
			t.Fatal(err)
		}
	}
	log, _ := os.ReadFile(path("log.csv"))
	sheet := strings.NewReplacer(",", ";", ".", ",").Replace(string(log))
	if err := os.WriteFile(path("sheet.csv"), []byte(sheet), 0o600); err != nil {
		t.Fatal(err)
	}
	for _, way := range []struct {
		name string
		args []string
	}{
		{"the whole notebook", []string{"import", path("whole.zip")}},
		{"a set", []string{"import", path("set.zip")}},
		{"a report", []string{"practice", "read", path("report.json"), "--player", "Player 1"}},
		{"a log as CSV", []string{"practice", "read", path("log.csv")}},
		{"a log of a spreadsheet", []string{"practice", "read", path("sheet.csv")}},
		{"a log as JSON", []string{"practice", "read", path("log.json")}},
	} {
		fresh := filepath.Join(t.TempDir(), "fresh.db")
		if status, _, stderr := call("players", "add", "Somebody", "--db", fresh); status != 0 {
			t.Fatal(stderr)
		}
		for _, db := range []string{home, fresh} {
			var before [4]int
			for round := range 3 {
				if status, _, stderr := call(append(way.args, "--db", db)...); status != 0 {
					t.Fatalf("%s: %s", way.name, stderr)
				}
				now := counted(t, db)
				if now[0] == 0 && now[2] == 0 {
					t.Errorf("%s left nothing", way.name)
				}
				if round > 0 && now != before {
					t.Errorf("%s, handed in once more: %v licks, versions, rounds and sets became %v", way.name, before, now)
				}
				before = now
			}
		}
	}
}
