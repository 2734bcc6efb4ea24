package tab

import (
	"flag"
	"fmt"
	"os"
	"strings"
	"testing"

	"golang.org/x/tools/txtar"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/format/read"
)

var update = flag.Bool("update", false, "write what comes out of the written pages anew, to be read over")

// Pages as people write them (invented, in the styles of common practice), each with the lick that must come out and
// what must be said of it.
func TestWrittenPages(t *testing.T) {
	const file = "testdata/written.txtar"
	a, err := txtar.ParseFile(file)
	if err != nil {
		t.Fatal(err)
	}
	want := map[string]string{}
	for _, f := range a.Files {
		if name, ok := strings.CutSuffix(f.Name, ".want"); ok {
			want[name] = string(f.Data)
		}
	}
	var anew txtar.Archive
	pages := 0
	for _, f := range a.Files {
		name, ok := strings.CutSuffix(f.Name, ".tab")
		if !ok {
			continue
		}
		pages++
		got := ""
		if r, err := Decode(f.Data, read.Request{}); err != nil {
			got = "refused: " + err.Error() + "\n"
		} else {
			got = told(r)
		}
		anew.Files = append(anew.Files, f, txtar.File{Name: name + ".want", Data: []byte(got)})
		if got != want[name] && !*update {
			t.Errorf("%s:\n%sis read as\n%swant\n%s", name, f.Data, got, want[name])
		}
	}
	if pages < 60 {
		t.Errorf("%d pages", pages)
	}
	if *update {
		if err := os.WriteFile(file, txtar.Format(&anew), 0o644); err != nil {
			t.Fatal(err)
		}
	}
}

// told writes all that a page came to: headings, notes with their times, what is said.
func told(r read.Result) string {
	var b strings.Builder
	l := r.Lick
	line := func(on bool, format string, args ...any) {
		if on {
			fmt.Fprintf(&b, format+"\n", args...)
		}
	}
	line(l.Title != "", "title %s", l.Title)
	line(len(l.Tags) > 0, "tags %s", strings.Join(l.Tags, ", "))
	line(true, "key %s %s %s", l.Key.Tonic, l.Key.Scale, strings.Join(l.Key.Add, " "))
	line(l.Tempo != 100, "tempo %g", l.Tempo)
	line(l.Meter != lick.Meter{Beats: 4, Unit: 4}, "meter %s", l.Meter)
	line(l.Feel == lick.Shuffle, "shuffle")
	line(!l.Pickup.IsZero(), "pick-up %s", l.Pickup)
	if tuning := fmt.Sprint(l.Tuning); tuning != fmt.Sprint(neck.Standard().Tuning) {
		line(true, "tuning %s", strings.Trim(tuning, "[]"))
	}
	for _, c := range l.Chords {
		line(true, "chord %s %s %s", c.At, c.Len, c.Name)
	}
	words := strings.Split(shortly(l), " ")
	for k, c := range l.Columns() {
		n := l.Notes[c[0]]
		words[k] = fmt.Sprintf("%s=%s@%s", words[k], n.Len, n.At)
		if n.Finger != lick.NoFinger {
			words[k] += "," + n.Finger.String()
		}
		if n.Stroke != "" {
			words[k] += "," + string(n.Stroke)
		}
		if n.SlideIn != nil {
			words[k] += ",in"
		}
	}
	line(true, "%s", strings.Join(words, " "))
	for _, s := range r.Remarks {
		line(true, "! %s", s)
	}
	return b.String()
}
