// Command mutants changes one line of the program at a time, in a rule, a default or a formula, and
// runs the tests that should notice. A change that every test lets pass is a survivor: something
// that could be wrong without anybody being told.
//
// Nothing in the tree is touched: the go command is given the changed file as an overlay. The page
// of defaults (docs/model.md) would notice every changed default; it is not among the tests that
// are run, as it compares a number with itself.
//
//	go run ./tools/mutants            all of them
//	go run ./tools/mutants exits fret those whose name has one of these words
package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"time"
)

// atOnce is how many mutants are tried at a time, and mostTime how long one may take: a change that
// makes a search endless is noticed too.
const (
	atOnce   = 2
	mostTime = 5 * time.Minute
)

func main() {
	dir, err := os.MkdirTemp("", "ornamen-mutants-")
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(2)
	}
	defer os.RemoveAll(dir)
	words := os.Args[1:]
	var mu sync.Mutex
	var wg sync.WaitGroup
	slots := make(chan struct{}, atOnce)
	tried, failed := 0, 0
	for i, m := range mutants {
		if !named(m, words) {
			continue
		}
		tried++
		wg.Go(func() {
			slots <- struct{}{}
			defer func() { <-slots }()
			word, err := m.try(filepath.Join(dir, fmt.Sprint(i)))
			mu.Lock()
			defer mu.Unlock()
			if err != nil {
				word = err.Error()
			}
			if fmt.Printf("%-10s %s\n", word, m.name); word != noticed {
				failed++
			}
		})
	}
	wg.Wait()
	fmt.Printf("%d mutants, %d alive or not tried\n", tried, failed)
	if failed > 0 {
		os.Exit(1)
	}
}

// named says whether a mutant is asked for.
func named(m mutant, words []string) bool {
	for _, w := range words {
		if strings.Contains(m.name, w) {
			return true
		}
	}
	return len(words) == 0
}

// What became of a mutant.
const (
	noticed  = "noticed"
	survives = "SURVIVES"
)

// changed is the file with the change made; what is to be changed must stand in it just once, so
// that the list stays true.
func (m mutant) changed() ([]byte, error) {
	data, err := os.ReadFile(m.file)
	if err != nil {
		return nil, err
	}
	if n := strings.Count(string(data), m.was); n != 1 {
		return nil, fmt.Errorf("%q stands %d times in %s", m.was, n, m.file)
	}
	return []byte(strings.Replace(string(data), m.was, m.becomes, 1)), nil
}

// try runs the tests on the changed program; dir is for its files.
func (m mutant) try(dir string) (word string, err error) {
	data, err := m.changed()
	if err != nil {
		return "", err
	}
	if err := os.Mkdir(dir, 0o700); err != nil {
		return "", err
	}
	file, overlay := filepath.Join(dir, "changed.go"), filepath.Join(dir, "overlay.json")
	here, err := filepath.Abs(m.file)
	if err != nil {
		return "", err
	}
	replace, err := json.Marshal(map[string]map[string]string{"Replace": {here: file}})
	if err != nil {
		return "", err
	}
	if err := errors.Join(os.WriteFile(file, data, 0o600), os.WriteFile(overlay, replace, 0o600)); err != nil {
		return "", err
	}
	ctx, end := context.WithTimeout(context.Background(), mostTime)
	defer end()
	build := exec.CommandContext(ctx, "go", append([]string{"vet", "-overlay", overlay}, m.tests...)...)
	if out, err := build.CombinedOutput(); err != nil {
		return "", fmt.Errorf("does not compile: %.300s", out)
	}
	test := exec.CommandContext(ctx, "go", append([]string{"test", "-overlay", overlay, "-vet=off", "-failfast"},
		m.tests...)...)
	test.Env = append(os.Environ(), "CGO_ENABLED=0")
	if err := test.Run(); err != nil {
		return noticed, nil
	}
	return survives, nil
}
