package core

import (
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"unicode/utf8"
)

// widest is how many columns a line has at most: one idea a line.
const widest = 120

// long is what may make a line wider, as it cannot be divided without harm: a sentence, an address or a script between
// quotation marks.
var long = regexp.MustCompile("(\"(?:[^\"\\\\]|\\\\.){60,}\"|`[^`]{60,}`?|^[^`]{60,}`)")

// packed are files that were made elsewhere and ship as they are, tables whose rows are read across, and what stands
// within a literal over several lines.
var packed = regexp.MustCompile(`/vendor/|\.min\.|^core/changes/worked_test\.go$|^core/edit/edit_test\.go$|^format/sheet/page\.go$`)

// Every line of code, templates, styles and scripts holds one idea: it is no wider than a page, unless a text between
// quotation marks makes it so.
func TestLinesAreNarrow(t *testing.T) {
	list, err := exec.Command("git", "-C", "..", "ls-files", "*.go", "*.html", "*.css", "*.js").Output()
	if err != nil {
		t.Skip("not in a checkout:", err)
	}
	files := strings.Fields(string(list))
	if len(files) < 100 {
		t.Fatalf("only %d files are looked at", len(files))
	}
	for _, file := range files {
		if packed.MatchString(file) {
			continue
		}
		data, err := os.ReadFile(filepath.Join("..", file))
		if err != nil {
			continue // it was deleted and that is not committed yet
		}
		for i, line := range strings.Split(string(data), "\n") {
			if n := utf8.RuneCountInString(line); n > widest && !long.MatchString(line) {
				t.Errorf("%s:%d has %d columns", file, i+1, n)
			}
		}
	}
}
