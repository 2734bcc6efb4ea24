// Command mutate changes a package at random, one operator, boundary, constant or statement at a time, and runs its
// tests on each change. What every test lets pass is a survivor: a line that could be wrong without anybody being told.
// The hand-picked changes of tools/mutants stay as examples of what must be noticed; this asks how many of any are.
//
//	go run ./tools/mutate ./core/pick                     forty changes of one package
//	go run ./tools/mutate -n 20 -seed 7 ./core/...        twenty of each, others with another seed
//
// It prints the survivors with their functions, and the share that was killed. A survivor that means the same as what
// it replaces is listed in equivalent.txt with its reason, and not counted.
package main

import (
	"context"
	_ "embed"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path"
	"path/filepath"
	"strings"
	"sync"
	"time"
)

// How many changes are tried at a time, and how long the tests of one may take: a change that makes a loop endless is
// noticed too.
const (
	atOnce   = 2
	mostTime = 3 * time.Minute
)

func main() {
	n := flag.Int("n", 40, "so many changes of each package")
	seed := flag.Uint64("seed", 1, "another seed chooses others")
	flag.Parse()
	if err := all(flag.Args(), *n, *seed); err != nil {
		fmt.Fprintln(os.Stderr, "mutate:", err)
		os.Exit(2)
	}
}

// all tries the packages that the patterns name, and prints what became of them.
func all(patterns []string, n int, seed uint64) error {
	list, err := exec.Command("go", append([]string{"list", "-f", "{{.Dir}}\t{{.ImportPath}}"}, patterns...)...).Output()
	if err != nil {
		return fmt.Errorf("no such package: %v", patterns)
	}
	killed, counted := 0, 0
	for line := range strings.Lines(string(list)) {
		dir, pkg, _ := strings.Cut(strings.TrimSpace(line), "\t")
		k, c, err := one(dir, pkg, n, seed)
		if err != nil {
			return err
		}
		killed, counted = killed+k, counted+c
	}
	if counted > 0 {
		fmt.Printf("%d of %d killed, %d %%\n", killed, counted, 100*killed/counted)
	}
	return nil
}

// one tries a package. Changes that do not compile are replaced by others.
func one(dir, pkg string, n int, seed uint64) (killed, counted int, err error) {
	changes, err := changesOf(dir)
	if err != nil {
		return 0, 0, err
	}
	rng := rand.New(rand.NewPCG(seed, uint64(len(changes))))
	rng.Shuffle(len(changes), func(i, k int) { changes[i], changes[k] = changes[k], changes[i] })
	tmp, err := os.MkdirTemp("", "ornamen-mutate-")
	if err != nil {
		return 0, 0, err
	}
	defer os.RemoveAll(tmp)
	var mu sync.Mutex
	var wg sync.WaitGroup
	next := 0
	for range atOnce {
		wg.Go(func() {
			for {
				mu.Lock()
				if next == len(changes) || counted >= n {
					mu.Unlock()
					return
				}
				c := changes[next]
				at := filepath.Join(tmp, fmt.Sprint(next))
				next++
				mu.Unlock()
				if c.equivalent() {
					continue
				}
				word, tried := c.try(at, pkg)
				mu.Lock()
				switch {
				case tried != nil:
					err = errors.Join(err, tried)
				case word == broken || counted >= n:
				case word == noticed:
					killed, counted = killed+1, counted+1
				default:
					counted++
					fmt.Printf("%s %s\n", word, c)
				}
				mu.Unlock()
			}
		})
	}
	wg.Wait()
	if counted > 0 {
		fmt.Printf("%s: %d of %d killed, %d %%\n", pkg, killed, counted, 100*killed/counted)
	}
	return killed, counted, err
}

// What became of a change.
const (
	noticed  = "noticed"
	survives = "SURVIVES"
	broken   = "does not compile"
)

// try runs the package's tests with the change made; the tree itself is not touched. dir is for its files.
func (c change) try(dir, pkg string) (word string, err error) {
	data, err := os.ReadFile(c.file)
	if err != nil {
		return "", err
	}
	changed := append(append(append([]byte{}, data[:c.from]...), c.becomes...), data[c.to:]...)
	file, overlay := filepath.Join(dir, "changed.go"), filepath.Join(dir, "overlay.json")
	replace, err := json.Marshal(map[string]map[string]string{"Replace": {c.file: file}})
	if err = errors.Join(err, os.Mkdir(dir, 0o700)); err != nil {
		return "", err
	}
	if err := errors.Join(os.WriteFile(file, changed, 0o600), os.WriteFile(overlay, replace, 0o600)); err != nil {
		return "", err
	}
	for _, tested := range holders(filepath.Dir(c.file), pkg) {
		if word, err := c.tryOn(tested, dir, overlay); word != survives || err != nil {
			return word, err
		}
	}
	return survives, nil
}

// tested is a package whose tests look at a change.
type tested struct{ dir, path string }

// holders are the package itself and the one of the folder above, where that has tests: it puts rooms together and
// tries them so.
func holders(dir, pkg string) []tested {
	out := []tested{{dir, pkg}}
	above := filepath.Dir(dir)
	if files, err := filepath.Glob(filepath.Join(above, "*_test.go")); err == nil && len(files) > 0 {
		if source, err := filepath.Glob(filepath.Join(above, "*.go")); err == nil && len(source) > len(files) {
			out = append(out, tested{above, path.Dir(pkg)})
		}
	}
	return out
}

// tryOn runs the tests of one package with the overlay.
func (c change) tryOn(x tested, dir, overlay string) (word string, err error) {
	ctx, end := context.WithTimeout(context.Background(), mostTime)
	defer end()
	env := append(os.Environ(), "CGO_ENABLED=0")
	binary := filepath.Join(dir, "test")
	build := exec.CommandContext(ctx, "go", "test", "-c", "-vet=off", "-overlay", overlay, "-o", binary, x.path)
	build.Env = env
	if build.Run() != nil {
		return broken, nil
	}
	test := exec.CommandContext(ctx, binary, "-test.failfast")
	test.Dir, test.Env = x.dir, env
	defer os.Remove(binary)
	if test.Run() != nil {
		return noticed, nil
	}
	return survives, nil
}

//go:embed equivalent.txt
var equivalents string

// equivalent says whether the change is listed as one that means the same.
func (c change) equivalent() bool {
	for line := range strings.Lines(equivalents) {
		known, _, _ := strings.Cut(strings.TrimSpace(line), " # ")
		if known != "" && strings.HasSuffix(c.String(), known) {
			return true
		}
	}
	return false
}
