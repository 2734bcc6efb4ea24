// Package core holds the trade and nothing else; this test proves it.
package core

import (
	"bytes"
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"ornamen/core/hand"
)

// below lists what each folder may import of the project. Imports point down
// only; README draws the picture.
var below = map[string][]string{
	"core/defaults": {},
	"core/load":     {},
	"core/cache":    {},
	"core/music":    {},
	"core/text":     {},
	"core/neck":     {"core/defaults", "core/music"},
	"core/lick":     {"core/music", "core/neck"},
	"core/bend":     {"core/defaults", "core/music", "core/neck"},
	"core/figure":   {"core/neck"},
	"core/layers":   {},
	"core/hand":     {"core/defaults", "core/figure", "core/cache", "core/layers", "core/lick", "core/load", "core/neck"},
	"core/pick":     {"core/defaults", "core/layers", "core/lick", "core/load"},
	"core/shape": {"core/bend", "core/defaults", "core/hand", "core/lick", "core/load", "core/music", "core/neck",
		"core/player"},
	"core/player":  {"core/bend", "core/figure", "core/hand", "core/lick", "core/neck", "core/pick"},
	"core/changes": {"core/defaults", "core/lick", "core/music", "core/neck", "core/say"},
	"core/say":     {"core/figure", "core/hand", "core/lick", "core/music", "core/neck", "core/pick"},
	"core/judge": {"core/bend", "core/changes", "core/defaults", "core/figure", "core/hand", "core/lick", "core/load",
		"core/music", "core/neck", "core/phrase", "core/pick", "core/player", "core/say"},
	"core/propose": {"core/bend", "core/defaults", "core/figure", "core/hand", "core/judge", "core/layers",
		"core/lick", "core/load", "core/music", "core/neck", "core/pick", "core/player", "core/say"},
	"core/phrase": {"core/lick", "core/music", "core/neck"},
	"core/run": {"core/hand", "core/say", "core/lick", "core/music", "core/neck", "core/phrase", "core/pick", "core/judge",
		"core/player", "core/propose", "core/shape"},
	"core/turn": {"core/lick", "core/music", "core/neck", "core/phrase", "core/run", "core/shape"},
	"core/suit": {"core/judge", "core/lick", "core/music", "core/propose", "core/say", "core/shape", "core/turn"},
	"core/key":  {"core/defaults", "core/lick", "core/music"},
	"core/find": {"core/lick", "core/music", "core/neck", "core/phrase", "core/run", "core/shape"},
	"core/edit": {"core/changes", "core/figure", "core/lick", "core/music", "core/neck", "core/shape",
		"core/turn"},
	"core/filter": {},
	"core/hear":   {"core/defaults", "core/filter", "core/lick", "core/music", "core/neck", "core/say"},
	"core/sound":  {"core/bend", "core/defaults", "core/filter", "core/lick", "core/music", "core/neck"},
	"core/practice": {"core/say", "core/bend", "core/defaults", "core/judge", "core/lick", "core/music", "core/neck",
		"core/player", "core/run", "core/shape", "core/turn"},
	"core/testline":   {"core/lick", "core/music"},
	"format/read":     {"core/key", "core/lick", "core/music", "core/neck", "core/say"},
	"format/tab":      {"core/lick", "core/music", "core/neck", "format/read"},
	"format/midi":     {"core/lick", "core/music", "core/neck", "core/sound", "format/read", "core/say"},
	"format/musicxml": {"core/lick", "core/music", "core/neck", "format/read", "core/say"},
	"format/sheet":    {"core/lick", "core/music", "core/neck", "format/read"},
	"format": {"core/lick", "core/neck", "core/sound", "format/midi", "format/musicxml", "format/read", "format/sheet",
		"format/tab"},
	"internal/handover": {"core/hear", "core/judge", "core/lick", "core/music", "core/neck", "core/propose", "core/say",
		"core/sound", "format", "format/read", "format/sheet"},
	"internal/refuse":       {},
	"internal/store":        {"core/lick", "internal/refuse"},
	"third_party/nosqlite3": {},
	"internal/web/sets": append([]string{"core/load", "core/practice", "core/shape", "core/turn", "format/sheet",
		"internal/handover", "internal/lesson", "internal/practising", "internal/refuse", "internal/store"}, screens...),
	"internal/practising": {"core/bend", "core/hand", "core/judge", "core/cache", "core/lick", "core/player",
		"core/practice", "format/read", "internal/store"},
	"internal/jobs": {},
	"internal/lesson": {"core/judge", "core/lick", "core/neck", "core/practice", "core/run", "core/say", "format/read",
		"format/sheet", "internal/handover", "internal/practising", "internal/refuse",
		"internal/store"},
	"internal/archive": {"core/lick", "core/player", "format/read", "internal/practising", "internal/store"},
	"internal/demo": {"core/practice", "internal/practising", "core/changes", "core/judge", "core/player",
		"core/lick", "core/neck", "core/run", "core/turn", "internal/store"},
	"internal/web/draw": {"core/changes", "core/practice", "core/hand", "core/lick", "core/music", "core/neck",
		"core/pick", "core/judge", "core/player", "core/propose", "core/hear", "core/say"},
	"internal/phones": {"internal/store"},
	"internal/web/page": append(
		[]string{"internal/jobs", "internal/refuse", "internal/store", "core/cache"}, trade...),
	"internal/web/view":     append([]string{"internal/web/draw", "internal/web/page"}, trade...),
	"internal/web/notebook": append([]string{"internal/store"}, screens...),
	"internal/web/exchange": append(
		[]string{"core/cache", "format", "format/read", "format/sheet", "internal/archive", "internal/handover",
			"internal/lesson", "internal/store"},
		screens...),
	"internal/web/tones":    append([]string{"internal/store"}, screens...),
	"internal/web/runs":     append([]string{"internal/store"}, screens...),
	"internal/web/bench":    append([]string{"format/tab", "internal/handover", "internal/store"}, screens...),
	"internal/web/changes":  append([]string{"internal/store"}, screens...),
	"internal/web/practice": append([]string{"internal/lesson", "internal/practising", "internal/store"}, screens...),
	"internal/web/player":   append([]string{"internal/phones", "internal/refuse", "internal/store"}, screens...),
	"internal/web": {"format", "internal/phones", "internal/practising", "internal/store", "internal/web/sets",
		"internal/web/bench", "internal/web/changes", "internal/web/draw",
		"internal/web/exchange", "internal/web/notebook", "internal/web/page", "internal/web/player",
		"internal/web/practice", "internal/web/runs", "internal/web/tones", "internal/web/view"},
	"internal/web/webtest": {"core/lick", "internal/demo", "internal/store", "internal/web"},
	"tools/mutants":        {},
	"tools/mutate":         {},
	"tools/style":          {},
	"cmd/ornamen": append(
		[]string{"format", "format/sheet", "format/tab", "internal/archive", "internal/handover", "internal/demo",
			"internal/lesson", "internal/practising", "internal/store", "internal/web"},
		trade...),
}

// trade is what the two doors, pages and command line, may use of the core.
var trade = []string{"core/bend", "core/changes", "core/edit", "core/figure", "core/find", "core/hand", "core/hear",
	"core/judge",
	"core/key", "core/lick", "core/music", "core/neck", "core/phrase", "core/pick", "core/practice", "core/player",
	"core/propose", "core/run", "core/say", "core/shape", "core/sound", "core/suit",
	"core/turn"}

// screens is what a screen may use: none knows another.
var screens = append([]string{"internal/web/draw", "internal/web/page", "internal/web/view"}, trade...)

// computing is all that the core takes from elsewhere: what works on values in
// memory. Web, database, files, clock and chance are not among it.
var computing = []string{"bytes", "cmp", "context", "encoding/binary", "encoding/csv", "encoding/json", "errors",
	"flag", "fmt", "github.com/hashicorp/golang-lru/v2/simplelru", "hash/fnv", "io", "maps", "math", "regexp",
	"bufio", "math/bits", "slices", "sort", "strconv", "strings", "sync", "sync/atomic", "unicode", "unicode/utf8"}

func TestImportsPointDown(t *testing.T) {
	seen := map[string]bool{}
	for _, path := range sources(t) {
		dir := filepath.ToSlash(strings.TrimPrefix(filepath.Dir(path), "../"))
		allowed, known := below[dir]
		if !known {
			t.Errorf("%s is in no layer; add it to the list", dir)
			continue
		}
		seen[dir] = true
		f, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.ImportsOnly)
		if err != nil {
			t.Fatal(err)
		}
		for _, im := range f.Imports {
			name, err := strconv.Unquote(im.Path.Value)
			if err != nil {
				t.Fatal(err)
			}
			own, inside := strings.CutPrefix(name, "ornamen/")
			switch {
			case own == "core/text" && dir != own:
				// Words and lists of them, which know nothing of the project: for all.
			case inside && !slices.Contains(allowed, own):
				t.Errorf("%s imports %s, which is not below it", path, own)
			case name == "time" && dir == "core/practice":
				// Days and hours as values; that none is asked of the clock is seen below.
				if text, err := os.ReadFile(path); err != nil || bytes.Contains(text, []byte("time.Now")) {
					t.Errorf("%s asks the clock: %v", path, err)
				}
			case name == "gonum.org/v1/gonum/mat" && dir == "core/practice":
				// A library's linear algebra, for the estimate of the player's abilities.
			case name == "gonum.org/v1/gonum/dsp/fourier" && dir == "core/hear":
				// A library's Fourier transform, for the tracker of pitch.
			case !inside && strings.HasPrefix(dir, "core/") && dir != "core/testline" && !slices.Contains(computing,
				name):
				t.Errorf("%s imports %s; the core does not", path, name)
			}
		}
	}
	for dir := range below {
		if !seen[dir] {
			t.Errorf("%s is listed but not there", dir)
		}
	}
}

// sources lists the project's files, tests aside.
func sources(t *testing.T) (out []string) {
	t.Helper()
	for _, depth := range []string{"*", "*/*", "*/*/*"} {
		found, err := filepath.Glob("../" + depth + "/*.go")
		if err != nil {
			t.Fatal(err)
		}
		for _, path := range found {
			if !strings.HasSuffix(path, "_test.go") {
				out = append(out, path)
			}
		}
	}
	return out
}

// TestDocComments holds every exported name of the project to a comment that begins with
// it (common practice in Go): a contract that is not written down is none. In a group one
// comment serves all.
func TestDocComments(t *testing.T) {
	for _, path := range sources(t) {
		f, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.ParseComments)
		if err != nil {
			t.Fatal(err)
		}
		for _, d := range f.Decls {
			switch d := d.(type) {
			case *ast.FuncDecl:
				documented(t, path, d.Name, d.Doc)
			case *ast.GenDecl:
				if d.Tok != token.TYPE {
					continue
				}
				for _, s := range d.Specs {
					doc := s.(*ast.TypeSpec).Doc
					if doc == nil {
						doc = d.Doc
					}
					documented(t, path, s.(*ast.TypeSpec).Name, doc)
				}
			}
		}
	}
}

func documented(t *testing.T, path string, name *ast.Ident, doc *ast.CommentGroup) {
	t.Helper()
	if name.IsExported() && !strings.HasPrefix(doc.Text(), name.Name+" ") {
		t.Errorf("%s: the comment of %s does not begin with its name", path, name.Name)
	}
}

// TestDefaultsAreListed holds every constant that its comment calls a model default to a row in a
// defaults.go, and so in docs/model.md.
func TestDefaultsAreListed(t *testing.T) {
	listed := map[string]string{} // folder → its defaults.go, else all of them
	var all string
	files, err := filepath.Glob("*/defaults.go")
	if err != nil || len(files) == 0 {
		t.Fatal(files, err)
	}
	for _, path := range files {
		data, err := os.ReadFile(path)
		if err != nil {
			t.Fatal(err)
		}
		all += string(data)
	}
	found := 0
	for _, path := range sources(t) {
		dir := filepath.Dir(path)
		if _, ok := listed[dir]; !ok {
			own, err := os.ReadFile(filepath.Join(dir, "defaults.go"))
			if listed[dir] = string(own); err != nil {
				listed[dir] = all
			}
			if terms, err := os.ReadFile(filepath.Join(dir, "terms.go")); err == nil {
				listed[dir] += string(terms)
			}
		}
		f, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.ParseComments)
		if err != nil {
			t.Fatal(err)
		}
		for _, d := range f.Decls {
			g, ok := d.(*ast.GenDecl)
			if !ok || g.Tok != token.CONST && g.Tok != token.VAR {
				continue
			}
			for _, s := range g.Specs {
				v := s.(*ast.ValueSpec)
				if !strings.Contains(g.Doc.Text()+v.Doc.Text()+v.Comment.Text(), "model default") {
					continue
				}
				for _, name := range v.Names {
					found++
					if !regexp.MustCompile(`\b` + name.Name + `\b`).MatchString(listed[dir]) {
						t.Errorf("%s: %s is a model default and stands in no defaults.go", path, name.Name)
					}
				}
			}
		}
	}
	if found < 40 {
		t.Errorf("only %d model defaults were found", found)
	}
}

// Every term of the fretting hand's effort names a test that is there. That the tests fail without the
// terms is seen by tools/mutants.
func TestTermsAreHeld(t *testing.T) {
	var tests string
	paths, err := filepath.Glob("*/*_test.go")
	if err != nil {
		t.Fatal(err)
	}
	for _, path := range paths {
		data, err := os.ReadFile(path)
		if err != nil {
			t.Fatal(err)
		}
		tests += string(data)
	}
	held := 0
	for _, r := range hand.Defaults() {
		if strings.HasPrefix(r.Name, "effort: ") {
			if held++; r.Check == "" || !strings.Contains(tests, "\nfunc "+r.Check+"(t *testing.T)") {
				t.Errorf("%s is held by %q, which is no test", r.Name, r.Check)
			}
		}
	}
	if held < 15 {
		t.Errorf("only %d terms", held)
	}
}

// The clock is asked in one place; everything else is passed the time, so that it can be tried on
// any day. A test's own stopwatch is no clock.
func TestOneClock(t *testing.T) {
	clock := regexp.MustCompile(`time\.(Now|Local)\b|\.Local\(\)`)
	asked := 0
	for _, path := range sources(t) {
		text, err := os.ReadFile(path)
		if err != nil {
			t.Fatal(err)
		}
		if n := len(clock.FindAll(text, -1)); n > 0 {
			if asked += n; !strings.HasSuffix(path, "cmd/ornamen/main.go") {
				t.Errorf("%s asks the clock", path)
			}
		}
	}
	if asked != 1 {
		t.Errorf("the clock is asked in %d places", asked)
	}
}
