package main

import (
	"bufio"
	"bytes"
	"crypto/sha256"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"ornamen/core/testline"
	"ornamen/internal/demo"
)

// recordedCalls are two hundred calls that print JSON: every command that does, over the demo's licks
// and some recipes.
func recordedCalls(licks []string) (calls [][]string) {
	for _, path := range licks {
		for _, words := range []string{"check", "check --hand small --tempo 140", "propose", "propose --place --best 2",
			"ways", "recipe", "turn --how backwards", "recolour --to A_dorian", "changes --over A7_|_D7", "tails",
			"bends --note 3"} {
			args := strings.Fields(words)
			for i := range args {
				args[i] = strings.ReplaceAll(args[i], "_", " ")
			}
			calls = append(calls, append(append([]string{args[0], path}, args[1:]...), "--json"))
		}
	}
	for _, key := range []string{"A minor pentatonic", "C# natural minor", "Eb mixolydian", "G blues", "D major"} {
		calls = append(calls, []string{"tones", "--key", key, "--json"},
			[]string{"tones", "--key", key, "--bend-finger", "little", "--hand", "large", "--json"},
			[]string{"run", "--key", key, "--cell", "3 2 1 4", "--json"},
			[]string{"run", "--key", key, "--cell", "1 2 3", "--dir", "updown", "--pick", "economy", "--json"},
			[]string{"run", "--key", key, "--cell", "1 2 3 1", "--count", "8t", "--land", "1@1", "--json"})
	}
	return append(calls, []string{"tones", "--key", "A minor pentatonic", "--add", "9,b5", "--at", "6:5", "--json"},
		[]string{"run", "--key", "A natural minor", "--cell", "chord: 1 3 5", "--chords", "1 4 5", "--json"},
		[]string{"licks", "--db", "none.db", "--json"})
}

// What commands print as JSON stays, byte for byte, whatever the code is made into: the outputs of two hundred calls
// are recorded by their hashes, a third of which are made by day. Where an answer is to change, -update records it
// anew.
func TestRecordedCalls(t *testing.T) {
	licks, err := demo.Licks()
	if err != nil {
		t.Fatal(err)
	}
	dir := t.TempDir()
	var paths []string
	for i, l := range licks {
		path := filepath.Join(dir, fmt.Sprintf("%d.json", i))
		if err := os.WriteFile(path, l.Encode(), 0o600); err != nil {
			t.Fatal(err)
		}
		paths = append(paths, path)
	}
	var b bytes.Buffer
	for i, args := range recordedCalls(paths) {
		if i%3 != 0 && !*update && !testline.Night() {
			continue // a third of them by day
		}
		status, out, stderr := call(args...)
		name := strings.ReplaceAll(strings.Join(args, " "), dir, "demo")
		sum := sha256.Sum256([]byte(strings.ReplaceAll(out+stderr, dir, "demo")))
		fmt.Fprintf(&b, "%d %x %s\n", status, sum[:8], name)
	}
	path := filepath.Join("testdata", "calls.txt")
	if *update {
		if err := os.WriteFile(path, b.Bytes(), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	have, err := os.ReadFile(path)
	if err != nil {
		t.Fatal(err)
	}
	was := map[string]bool{}
	for s := bufio.NewScanner(bytes.NewReader(have)); s.Scan(); {
		was[s.Text()] = true
	}
	if len(was) < 200 {
		t.Errorf("only %d calls are recorded", len(was))
	}
	for s := bufio.NewScanner(&b); s.Scan(); {
		if !was[s.Text()] {
			t.Errorf("another answer: %s", s.Text())
		}
	}
}
