package main

import (
	"bytes"
	"context"
	"encoding/json"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"ornamen/core/lick"
	"ornamen/core/testline"
	"ornamen/internal/demo"
)

// clock is the evening of the tests.
func clock() time.Time { return time.Date(2026, 11, 25, 18, 0, 0, 0, time.UTC) }

// call runs the program and returns its exit status and what it printed.
func call(args ...string) (status int, out, err string) {
	var o, e bytes.Buffer
	status = execute(context.Background(), env{&o, &e, clock}, args)
	return status, o.String(), e.String()
}

// demoFile writes a demo lick to a file.
func demoFile(t *testing.T, title string) string {
	t.Helper()
	licks, err := demo.Licks()
	if err != nil {
		t.Fatal(err)
	}
	for _, l := range licks {
		if l.Title == title {
			path := filepath.Join(t.TempDir(), "lick.lick.json")
			if err := os.WriteFile(path, l.Encode(), 0o644); err != nil {
				t.Fatal(err)
			}
			return path
		}
	}
	t.Fatalf("the demo has no %s", title)
	return ""
}

func TestCheck(t *testing.T) {
	path := demoFile(t, "Lantern turnaround")
	status, out, _ := call("check", path)
	if status != 1 || !strings.Contains(out, "Breaks at 112") ||
		!strings.Contains(out, "finger-jump          12 → 13") ||
		!strings.Contains(out, "fix: Finger 3 on note 13") {
		t.Errorf("status %d\n%s", status, out)
	}
	status, out, _ = call("check", path, "--tempo", "60", "--json")
	var r struct {
		Verdict  string
		Tempo    float64
		Ceiling  *float64
		Findings []struct {
			Code  string
			Notes []int
			Fixes []struct{ Text string }
		}
	}
	if err := json.Unmarshal([]byte(out), &r); err != nil {
		t.Fatalf("%v\n%s", err, out)
	}
	if status != 0 || r.Tempo != 60 || r.Ceiling == nil || *r.Ceiling < 80 {
		t.Errorf("status %d, %+v", status, r)
	}
	if small, _, _ := call("check", "--hand", "small", path); small != 1 {
		t.Errorf("flags before the file: status %d", small)
	}
	if status, _, _ := call("check", demoFile(t, "Quarry steps")); status != 0 {
		t.Errorf("a line that is tight exits with %d", status)
	}
}

func TestConvert(t *testing.T) {
	path := demoFile(t, "Thaw bends")
	dir := t.TempDir()
	tab, back := filepath.Join(dir, "a.tab"), filepath.Join(dir, "b.lick.json")
	for _, step := range [][]string{{"convert", path, tab}, {"convert", tab, back}} {
		if status, _, e := call(step...); status != 0 {
			t.Fatalf("%v: %d %s", step, status, e)
		}
	}
	if status, out, _ := call("check", back); status != 0 || !strings.Contains(out, "Flows at 84") {
		t.Errorf("what came back: %d %s", status, out)
	}
	left, err := filepath.Glob(filepath.Join(dir, ".ornamen-*"))
	if err != nil || len(left) > 0 {
		t.Errorf("left behind: %v %v", left, err)
	}
}

func TestTones(t *testing.T) {
	status, out, _ := call("tones", "--key", "C# minor pentatonic", "--add", "9,b5", "--layout", "box", "--at", "6:9",
		"--json")
	var r struct {
		Tones []struct {
			String, Fret       int
			Note, Degree, Role string
			Finger             int
			Bends              []struct {
				To, Note, Rating, Push string
				Semitones, Fingers     int
				PushMM                 float64 `json:"push_mm"`
				ForceN                 float64 `json:"force_n"`
				Hear                   []struct{ String, Fret int }
			}
		}
	}
	if err := json.Unmarshal([]byte(out), &r); err != nil || status != 0 {
		t.Fatalf("%d %v\n%s", status, err, out)
	}
	for _, tone := range r.Tones {
		if tone.String == 3 && tone.Fret == 11 {
			b := tone.Bends[1]
			if tone.Note != "F#4" || tone.Degree != "4" || tone.Role != "scale" || tone.Finger == 0 || b.To != "5" ||
				b.Note != "G#4" ||
				b.Semitones != 2 ||
				b.Rating != "common" ||
				b.Push != "thick" ||
				len(b.Hear) != 2 {
				t.Errorf("%+v", tone)
			}
			return
		}
	}
	t.Errorf("no tone at 3:11 in %s", out)
}

// One line on standard error and status 2, whatever is wrong.
func TestRefusals(t *testing.T) {
	dir := t.TempDir()
	file := func(name, text string) string {
		p := filepath.Join(dir, name)
		if err := os.WriteFile(p, []byte(text), 0o644); err != nil {
			t.Fatal(err)
		}
		return p
	}
	good := demoFile(t, "Quarry steps")
	for _, args := range [][]string{
		{}, {"dance"}, {"check"}, {"check", "missing.json"}, {"check", dir}, {"check", good, good}, {"check", good,
			"--tempo", "1"}, {"check", good, "--tempo", "fast"},
		{"check", good, "--hand", "huge"}, {"check", good, "--colour"}, {"check", file("cut.json", "{")}, {"check",
			file("deep.json", strings.Repeat("[", 10<<20))}, {"check", file("a.txt", "x")},
		{"convert", good}, {"convert", good, "out.doc"}, {"convert", good, filepath.Join(dir, "no", "out.tab")},
		{"tones"}, {"tones", "--key", "H minor"}, {"tones", "--key", "A dorain"},
		{"tones", "--key", "A blues", "--add", "x"}, {"tones", "--key", "A blues", "--drop", "1"}, {"tones", "--key",
			"A blues", "--at", "6"}, {"tones", "--key", "A blues", "--at", "6:6"},
		{"tones", "--key", "A blues", "--at", "9:1"}, {"tones", "--key", "A blues", "--layout", "spiral"}, {"tones",
			"--key", "A whole tone", "--layout", "box"}, {"tones", "--key", "A major", "--layout", "pairs:3:6"},
		{"tones", "--key", "A major", "--layout", "string:9"}, {"recolour", good}, {"recolour", good, "--to",
			"C# dorain"}, {"recolour", good, "--to", "C# dorian", "--move", "far"}, {"tones", "stray"},
		{"serve", "--addr", "nowhere:x:y"}, {"serve", "stray"},
	} {
		status, out, e := call(args...)
		if status != 2 || strings.TrimSpace(e) == "" || (len(args) > 0 && strings.Count(e, "\n") != 1) || out != "" {
			t.Errorf("%v: status %d\nout %.100q\nerr %.200q", args, status, out, e)
		}
	}
}

func TestPropose(t *testing.T) {
	path := demoFile(t, "Barn door ladder")
	status, out, stderr := call("propose", path, "--pick", "economy", "--best", "3", "--json")
	var got []struct {
		Ceiling float64
		Best    float64 `json:"best_possible"`
		Why     string
		Lick    json.RawMessage
	}
	if err := json.Unmarshal([]byte(out), &got); err != nil || status != 0 {
		t.Fatalf("status %d, %v, %s", status, err, stderr)
	}
	if len(got) < 1 || got[0].Ceiling > got[0].Best || got[0].Why == "" {
		t.Errorf("%d proposals, first %v of %v", len(got), got[0].Ceiling, got[0].Best)
	}
	for _, p := range got {
		l, err := lick.Parse(p.Lick)
		if err != nil {
			t.Fatalf("the proposed lick is no lick file: %v", err)
		}
		for i, n := range l.Notes {
			if n.Finger == lick.NoFinger {
				t.Errorf("note %d has no finger", i+1)
			}
		}
	}
	for _, bad := range [][]string{{"--pick", "windmill"}, {"--angle", "sideways"}, {"--best", "0"}, {"--hand", "tiny"},
		{"--places"}} {
		status, out, stderr := call(append([]string{"propose", path}, bad...)...)
		if status != 2 || out != "" || strings.Count(stderr, "\n") != 1 {
			t.Errorf("%v: status %d, %q, %q", bad, status, out, stderr)
		}
	}
}

// Who bends and who helps is the player's, in tones as in proposals; fingers of the player's own are
// followed, and habits that are none refused.
func TestHabitsByCommand(t *testing.T) {
	out := func(args ...string) string {
		t.Helper()
		status, out, stderr := call(args...)
		if status != 0 {
			t.Fatalf("%v: %s", args, stderr)
		}
		return out
	}
	box := []string{"tones", "--key", "A minor pentatonic", "--at", "6:5"}
	for has, flags := range map[string][]string{
		"2 to 5 by 3+2+1 ": {},
		"2 to 5 by 3 ":     {"--helpers", "few"},
		"2 to 5 by 3+2 ":   {"--helpers", "flat"},
		"2 to 5 by 4+3+2 ": {"--bend-finger", "little"},
	} {
		if got := out(append(slices.Clone(box), flags...)...); !strings.Contains(got, has) {
			t.Errorf("tones %s: no %q in\n%s", flags, has, got)
		}
	}
	l := testline.Build(t, 90, "3:7/b2*1/8 5 6:5 7 9 5:5 7 9")
	path := filepath.Join(t.TempDir(), "bent.json")
	if err := os.WriteFile(path, l.Encode(), 0o600); err != nil {
		t.Fatal(err)
	}
	for has, flags := range map[string][]string{"finger 3+2+1  1      1      2      4": {},
		"finger 3      1      1      2      4": {"--helpers", "few"},
		"finger 3+2+1  1      1      3      4": {"--habits", "tones 2 4: 1 3 4"}} {
		if got := out(append([]string{"propose", path}, flags...)...); !strings.Contains(got, has) {
			t.Errorf("propose %s: no %q in\n%s", flags, has, got)
		}
	}
	if status, _, stderr := call("propose", path, "--habits", "fret 9: 2"); status != 2 ||
		!strings.Contains(stderr, "is none") {
		t.Errorf("status %d, %s", status, stderr)
	}
}
