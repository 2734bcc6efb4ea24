package main

import (
	"bytes"
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/spf13/pflag"

	"ornamen/core/changes"
	"ornamen/core/defaults"
	"ornamen/core/hand"
	"ornamen/core/hear"
	"ornamen/core/judge"
	"ornamen/core/key"
	"ornamen/core/practice"
	"ornamen/core/propose"
	"ornamen/core/shape"
	"ornamen/core/sound"
	"ornamen/format"
)

var update = flag.Bool("update", false, "write docs/model.md anew")

// docs/model.md is written from the code: go test ./cmd/ornamen -update
func TestModelPage(t *testing.T) {
	var b bytes.Buffer
	b.WriteString(
		"# What the model assumes\n\nWritten from the code by a test. A model default is ours, an assumption for an " +
			"intermediate player that the player's own measurements replace.\n",
	)
	type part = struct {
		Part string
		Rows []defaults.Row
	}
	parts := append(propose.Defaults(), part{"Shapes", shape.Defaults()}, part{"Chord changes", changes.Defaults()},
		part{"Practice and calibration", practice.Defaults()}, part{"Hearing", hear.Defaults()},
		part{"Sound", sound.Defaults()}, part{"The key of what is read", key.Defaults()})
	for _, part := range parts {
		fmt.Fprintf(&b, "\n## %s\n\n| value | | unit | from | held by |\n|---|---|---|---|---|\n", part.Part)
		for _, r := range part.Rows {
			fmt.Fprintf(&b, "| %s | %g | %s | %s | %s |\n", r.Name, r.Value, r.Unit, r.From, r.Check)
			if r.Name == "" || r.From == "" {
				t.Errorf("%s has a value without name or provenance: %+v", part.Part, r)
			}
		}
	}
	path := filepath.Join("..", "..", "docs", "model.md")
	if *update {
		if err := os.WriteFile(path, b.Bytes(), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	if have, err := os.ReadFile(path); err != nil || !bytes.Equal(have, b.Bytes()) {
		t.Errorf("docs/model.md is not what the code says (%v); run go test ./cmd/ornamen -update", err)
	}
}

// docs/commands.md is written from what the commands declare: how each is used, what it does, and its
// options. Each option has a text, and --help prints it on a line of its own.
func TestCommandsPage(t *testing.T) {
	var b bytes.Buffer
	b.WriteString("# Commands\n\nWritten from the program by a test; `ornamen COMMAND --help` says the same.\n")
	for _, c := range commands {
		fmt.Fprintf(&b, "\n## %s\n\n```text\n%s```\n", c.name, c.help())
		c.options().VisitAll(func(f *pflag.Flag) {
			if f.Usage == "" {
				t.Errorf("%s --%s says nothing", c.name, f.Name)
			}
		})
		status, out, stderr := call(c.name, "--help")
		if status != 0 || out != c.help() || stderr != "" {
			t.Errorf("%s --help: %d %s%s", c.name, status, out, stderr)
		}
	}
	path := filepath.Join("..", "..", "docs", "commands.md")
	if *update {
		if err := os.WriteFile(path, b.Bytes(), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	if have, err := os.ReadFile(path); err != nil || !bytes.Equal(have, b.Bytes()) {
		t.Errorf("docs/commands.md is not what the program says (%v); run go test ./cmd/ornamen -update", err)
	}
}

// README names every command, and shows every picture.
func TestReadme(t *testing.T) {
	data, err := os.ReadFile(filepath.Join("..", "..", "README.md"))
	if err != nil {
		t.Fatal(err)
	}
	readme, pages := string(data), string(data)
	docs, err := filepath.Glob(filepath.Join("..", "..", "docs", "*.md"))
	if err != nil {
		t.Fatal(err)
	}
	for _, path := range docs {
		page, err := os.ReadFile(path)
		if err != nil {
			t.Fatal(err)
		}
		pages += string(page)
		if !strings.Contains(readme, "docs/"+filepath.Base(path)) {
			t.Errorf("README does not lead to docs/%s", filepath.Base(path))
		}
	}
	for _, c := range commands {
		if !strings.Contains(readme, "`"+c.name+"`") {
			t.Errorf("README does not name the command %s", c.name)
		}
	}
	// The codes that README lists are those that the rules have.
	list := regexp.MustCompile(`Finding codes are stable: ([^.]*)\.`).FindStringSubmatch(pages)
	if list == nil {
		t.Fatal("no page lists the codes of findings")
	}
	listed := map[string]bool{}
	for _, m := range regexp.MustCompile("`([a-z-]+)`").FindAllStringSubmatch(list[1], -1) {
		listed[m[1]] = true
	}
	for _, c := range judge.Codes() {
		if !listed[string(c)] {
			t.Errorf("no page lists %s", c)
		}
		delete(listed, string(c))
	}
	for c := range listed {
		t.Errorf("a page lists %s, which no rule has", c)
	}
	for _, f := range format.Formats() {
		reads := "yes"
		if f.Read == nil {
			reads = "no"
		}
		row := fmt.Sprintf("| %s | `%s` | %s | %s |\n", f.Title, f.Ending, reads, f.Holds)
		if !strings.Contains(pages, row) {
			t.Errorf("no page shows: %s", row)
		}
	}
	shots, err := filepath.Glob(filepath.Join("..", "..", "docs", "screenshots", "*"))
	if err != nil || len(shots) == 0 {
		t.Fatalf("no pictures: %v", err)
	}
	for _, s := range shots {
		if !strings.Contains(readme, "docs/screenshots/"+filepath.Base(s)) {
			t.Errorf("README does not show %s", filepath.Base(s))
		}
	}
}

// Numbers that docs/judging.md says in a sentence are those of the code.
func TestNumbersInJudging(t *testing.T) {
	value := map[string]float64{}
	for _, r := range hand.Defaults() {
		value[r.Name] = r.Value
	}
	slack := value["largest load of a proposal over the least possible, times"]
	figure := slack * value["… more for the fingers of a figure, times"]
	along := slack * value["… more where it goes along one string, times"]
	want := fmt.Sprintf("within %.0f %% for strokes; for the fingers of a figure up to %.1f times it, and %.1f along one string",
		100*(slack-1), figure, along)
	page, err := os.ReadFile("../../docs/judging.md")
	if err != nil || !strings.Contains(string(page), want) {
		t.Errorf("docs/judging.md does not say %q (%v)", want, err)
	}
}

// The commands that docs/use.md begins with are run in their order, as they stand there.
func TestFirstCommands(t *testing.T) {
	page, err := os.ReadFile("../../docs/use.md")
	if err != nil {
		t.Fatal(err)
	}
	_, block, _ := strings.Cut(string(page), "```\n")
	block, _, _ = strings.Cut(block, "```")
	t.Chdir(t.TempDir())
	ran := 0
	word := regexp.MustCompile(`"([^"]*)"|(\S+)`)
	for line := range strings.Lines(block) {
		line, file, _ := strings.Cut(strings.TrimSpace(line), " > ")
		var args []string
		for _, m := range word.FindAllStringSubmatch(line, -1) {
			args = append(args, m[1]+m[2])
		}
		status, out, stderr := call(args[1:]...)
		if status != 0 || args[0] != "ornamen" {
			t.Fatalf("%s: %d %s", line, status, stderr)
		}
		if file != "" {
			if err := os.WriteFile(file, []byte(out), 0o600); err != nil {
				t.Fatal(err)
			}
		}
		ran++
	}
	if ran < 20 {
		t.Errorf("%d commands were run", ran)
	}
}
