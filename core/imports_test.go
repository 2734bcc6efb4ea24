// Package core holds the trade and nothing else; this test proves it.
package core

import (
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
)

// below lists what each folder may import of the project. Imports point down
// only; README draws the picture.
var below = map[string][]string{
	"core/defaults":     {},
	"core/load":         {},
	"core/music":        {},
	"core/neck":         {"core/defaults", "core/music"},
	"core/lick":         {"core/music", "core/neck"},
	"core/bend":         {"core/defaults", "core/music", "core/neck"},
	"core/hand":         {"core/defaults", "core/lick", "core/load", "core/neck"},
	"core/pick":         {"core/defaults", "core/lick", "core/load"},
	"core/shape":        {"core/bend", "core/hand", "core/lick", "core/load", "core/music", "core/neck"},
	"core/play":         {"core/bend", "core/defaults", "core/hand", "core/lick", "core/load", "core/music", "core/neck", "core/pick"},
	"core/run":          {"core/lick", "core/music", "core/neck", "core/pick", "core/play", "core/shape"},
	"format":            {"core/lick", "core/music", "core/neck"},
	"internal/store":    {"core/lick"},
	"internal/demo":     {"core/lick", "internal/store"},
	"internal/web/draw": {"core/hand", "core/lick", "core/music", "core/neck", "core/pick", "core/play"},
	"internal/web":      {"core/bend", "core/hand", "core/lick", "core/music", "core/neck", "core/pick", "core/play", "core/run", "core/shape", "format", "internal/store", "internal/web/draw"},
	"cmd/ornamen": {"core/bend", "core/hand", "core/lick", "core/music", "core/neck", "core/pick", "core/play", "core/run", "core/shape", "format",
		"internal/demo", "internal/store", "internal/web"},
}

// The core computes: no web, no database, no files, no clock of its own.
var foreign = []string{"net", "net/http", "html", "html/template", "text/template", "database/sql", "os", "io/fs", "embed", "time", "log", "os/exec", "math/rand", "math/rand/v2"}

func TestImportsPointDown(t *testing.T) {
	seen := map[string]bool{}
	err := filepath.WalkDir("..", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return err
		}
		dir := filepath.ToSlash(strings.TrimPrefix(filepath.Dir(path), "../"))
		allowed, known := below[dir]
		if !known {
			t.Errorf("%s is in no layer; add it to the list", dir)
			return nil
		}
		seen[dir] = true
		f, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.ImportsOnly)
		if err != nil {
			return err
		}
		for _, im := range f.Imports {
			name, err := strconv.Unquote(im.Path.Value)
			if err != nil {
				return err
			}
			if own, ok := strings.CutPrefix(name, "ornamen/"); ok {
				if !contains(allowed, own) {
					t.Errorf("%s imports %s, which is not below it", path, own)
				}
				continue
			}
			if strings.HasPrefix(dir, "core/") && (contains(foreign, name) || strings.Contains(strings.Split(name, "/")[0], ".")) {
				t.Errorf("%s imports %s; the core does not", path, name)
			}
		}
		return nil
	})
	if err != nil {
		t.Fatal(err)
	}
	for dir := range below {
		if !seen[dir] {
			t.Errorf("%s is listed but not there", dir)
		}
	}
}

func contains(list []string, s string) bool {
	for _, x := range list {
		if x == s {
			return true
		}
	}
	return false
}
