package main

import (
	"archive/zip"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"ornamen/core/lick"
)

// A lick goes through every format that is read and keeps its places; a notebook goes out as a
// zip of one format and comes back into another.
func TestExchange(t *testing.T) {
	dir := t.TempDir()
	path := demoFile(t, "Lantern turnaround")
	data, err := os.ReadFile(path)
	if err != nil {
		t.Fatal(err)
	}
	want, err := lick.Parse(data)
	if err != nil {
		t.Fatal(err)
	}
	for _, ending := range []string{".tab", ".musicxml", ".mxl", ".mid"} {
		there, back := filepath.Join(dir, "x"+ending), filepath.Join(dir, "back.lick.json")
		for _, args := range [][]string{{"convert", path, there}, {"convert", there, back}} {
			if status, _, stderr := call(args...); status != 0 || stderr != "" {
				t.Fatalf("%v: %d %s", args, status, stderr)
			}
		}
		data, _ := os.ReadFile(back)
		got, err := lick.Parse(data)
		if err != nil || len(got.Notes) != len(want.Notes) {
			t.Fatalf("%s: %v, %d notes of %d", ending, err, len(got.Notes), len(want.Notes))
		}
		for i, n := range want.Notes {
			if got.Notes[i].Place() != n.Place() || got.Notes[i].At.Cmp(n.At) != 0 {
				t.Errorf("%s: note %d came back as %v at %v", ending, i+1, got.Notes[i].Place(), got.Notes[i].At)
			}
		}
	}
	for _, ending := range []string{".svg", ".html", ".wav"} {
		out := filepath.Join(dir, "x"+ending)
		if status, _, stderr := call("convert", path, out); status != 0 {
			t.Errorf("%s: %s", ending, stderr)
		}
		if status, _, stderr := call("convert", out, filepath.Join(dir, "y.tab")); status != 2 ||
			!strings.Contains(stderr, "only written") {
			t.Errorf("%s is read: %d %s", ending, status, stderr)
		}
	}
	one, two := filepath.Join(dir, "1.db"), filepath.Join(dir, "2.db")
	packed := filepath.Join(dir, "all.zip")
	for _, args := range [][]string{{"import", path, "--db", one}, {"import", demoFile(t, "Thaw bends"), "--db", one},
		{"export", packed, "--as", "musicxml", "--db", one}, {"import", packed, "--db", two}} {
		if status, _, stderr := call(args...); status != 0 {
			t.Fatalf("%v: %s", args, stderr)
		}
	}
	if _, out, _ := call("licks", "--db", two); !strings.Contains(out, "Lantern turnaround") ||
		!strings.Contains(out, "Thaw bends") {
		t.Errorf("the other notebook holds\n%s", out)
	}
	empty := filepath.Join(dir, "empty.zip")
	f, _ := os.Create(empty)
	zip.NewWriter(f).Close()
	f.Close()
	for _, bad := range [][]string{{"export", packed, "--as", "doc", "--db", one}, {"export", packed, "--tag",
		"x", "--db", one},
		{"export", packed, "--as", "tab", "--tag", "none", "--db", one}, {"import", empty, "--db", two},
		{"import", path, "--line", "2", "--db", two, "extra"}} {
		if status, _, stderr := call(bad...); status != 2 || strings.Count(stderr, "\n") != 1 {
			t.Errorf("%v: %d %s", bad, status, stderr)
		}
	}
}

// A score of several melodies: the one with the most notes is read and the others are named, or
// the one that is asked for; the places are found for the hand.
func TestConvertAsksWhichLine(t *testing.T) {
	note := func(step, octave string) string {
		return "<note><pitch><step>" + step + "</step><octave>" + octave +
			"</octave></pitch><duration>1</duration></note>"
	}
	score := filepath.Join(t.TempDir(), "brook.xml")
	err := os.WriteFile(
		score,
		[]byte("<score-partwise><part-list><score-part id='A'><part-name>Flute</part-name></score-part>"+
			"<score-part id='B'><part-name>Horn</part-name></score-part></part-list><part id='A'><measure>"+
			strings.Repeat(note("E", "5"),
				3)+"</measure></part><part id='B'><measure>"+note("C", "3")+"</measure></part></score-partwise>"),
		0o644,
	)
	if err != nil {
		t.Fatal(err)
	}
	out := filepath.Join(t.TempDir(), "x.tab")
	if status, _, stderr := call("convert", score, out); status != 0 ||
		!strings.Contains(stderr, "left out: “Horn” with 1 note") ||
		!strings.Contains(stderr, "found for your hand") {
		t.Errorf("%d %s", status, stderr)
	}
	if status, _, stderr := call("convert", score, out, "--line", "2"); status != 0 ||
		!strings.Contains(stderr, "The line is “Horn”") {
		t.Errorf("%d %s", status, stderr)
	}
	if status, _, stderr := call("convert", score, out, "--line", "3"); status != 2 ||
		!strings.Contains(stderr, "no line 3") {
		t.Errorf("%d %s", status, stderr)
	}
}
