package main

import (
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// Each fault is found where it is, and what is right is let pass.
func TestLook(t *testing.T) {
	dir := t.TempDir()
	const file = `package a

type four struct{ a, b, c, d int }

type three struct{ a, b, c int }

var (
	_ = four{1, 2, 3, 4}
	_ = four{a: 1, b: 2, c: 3, d: 4}
	_ = three{1, 2, 3}
	_ = []*four{{1, 2, 3, 4}}
	_ = map[bool]string{true: "s", false: ""}
	_ = map[int]bool{1: true}
)

func (f *four) over() {
	for _, f.a = range []int{1} {
	}
}
`
	for name, text := range map[string]string{"a.go": file, "go.mod": "module a\n\ngo 1.26\n"} {
		if err := os.WriteFile(filepath.Join(dir, name), []byte(text), 0o600); err != nil {
			t.Fatal(err)
		}
	}
	faults, _, err := look(dir, ".")
	if err != nil {
		t.Fatal(err)
	}
	want := []string{"a.go:11:14: 4 fields", "a.go:12:6: a map", "a.go:17:2: the loop", "a.go:8:6: 4 fields"}
	if len(faults) != len(want) {
		t.Fatalf("%q", faults)
	}
	for i, w := range want {
		if !strings.Contains(faults[i], w) {
			t.Errorf("%q, not %q", faults[i], w)
		}
	}
}

// The whole module is written so; by day make lint says it.
func TestModule(t *testing.T) {
	if os.Getenv("ORNAMEN_EXHAUSTIVE") == "" {
		t.Skip("it takes the time of reading every package")
	}
	faults, _, err := look("../..", "./...")
	if err != nil {
		t.Fatal(err)
	}
	for _, f := range faults {
		t.Error(f)
	}
}
