package tab

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/format/read"
)

// Tablature as people paste it (common practice), and what is said of it.
func TestPastedTab(t *testing.T) {
	six := func(first string) string {
		blank := strings.Map(func(r rune) rune {
			if r == '|' {
				return r
			}
			return '-'
		}, first)
		return fmt.Sprintf("e|%s|\nB|%s|\nG|%s|\nD|%s|\nA|%s|\nE|%s|\n", first, blank, blank, blank, blank, blank)
	}
	for _, c := range []struct {
		name, tab, want, says string
	}{
		{"a bend alone", six("--7b--"), "1:7^2", "full step"},
		{"bent and released", six("--7br--"), "1:7^2r", "full step"},
		{"bent to a fret", six("--7b9--"), "1:7^2", ""},
		{"bent to a fret in brackets", six("--7b(9)--"), "1:7^2", ""},
		{"bent and released to frets", six("--7b9r7--"), "1:7^2r", ""},
		{"bent with a caret", six("--7^9--"), "1:7^2", ""},
		{"vibrato", six("--7~--9~~--"), "1:7~ 1:9~", ""},
		{"a harmonic", six("--<12>--"), "1:12", "harmonic"},
		{"brackets", six("--7--(7)--"), "1:7 1:7o", "ghost"},
		{"dead", six("--x--7--"), "1:0x 1:7", ""},
		{"tapped", six("--t12p7--"), "1:12 1:7pull", "tapped"},
		{"signs some dashes away", six("--5-h-7--p-5--"), "1:5 1:7hammer 1:5pull", ""},
		{"a slide out", six("--7/--"), "1:7", "slide out"},
		{"bar lines", six("--5--|--7--"), "1:5 1:7", ""},
		{"a palm mute", "PM-----|\n" + six("--5--"), "1:5_", ""},
		{"palms", "    P.M.- -|  pm\n" + six("--5-5-5-5-7-7--"), "1:5_ 1:5_ 1:5_ 1:5_ 1:7 1:7_", ""},
		{"a palm mute, spaced", "    P. M. - - -|\n" + six("--5-5-5-5-5-5-7--"), "1:5_ 1:5_ 1:5_ 1:5_ 1:5_ 1:5_ 1:7", ""},
		{"fingers p and m", six("--5-7--") + "    p m\n", "1:5 1:7", ""},
		{"a palm mute under the strings", six("--5-5-|-7-7--") + "    PM-----\n", "1:5_ 1:5_ 1:7_ 1:7", ""},
		{"no palm mute", "  PM or not\n" + six("--5--"), "1:5", "is not read"},
		{"words around", "Intro (twice)\n\n" + six("--5--") + "\nand so on: again\n", "1:5", "and so on"},
		{"two systems", six("--5--") + "\n" + six("--7--"), "1:5 1:7", ""},
		{"thick strings on top", "E|--3--|\nA|-----|\nD|-----|\nG|-----|\nB|-----|\ne|--5--|\n", "6:3+1:5", ""},
		{"seven strings", "E|-5-|\nB|---|\nG|---|\nD|---|\nA|---|\nE|---|\nB|-0-|\n", "7:0+1:5", ""},
		{"five strings, a bass", "G|-5-|\nD|---|\nA|---|\nE|---|\nB|-0-|\n", "5:0+1:5", ""},
		{"lowered", "E|---|\nB|---|\nG|---|\nD|---|\nA|---|\nD|-0-|\n", "6:0", ""},
		{"no labels", "|-5-|\n|---|\n|---|\n|---|\n|---|\n|---|\n", "1:5", ""},
	} {
		r, err := Decode([]byte(c.tab), read.Request{})
		l, remarks := r.Lick, r.Remarks
		if err != nil {
			t.Errorf("%s: %v\n%s", c.name, err, c.tab)
			continue
		}
		if got := shortly(l); got != c.want {
			t.Errorf("%s: %s, want %s", c.name, got, c.want)
		}
		said := strings.Join(remarks, " ")
		if !strings.Contains(said, "every time is an eighth") && !strings.Contains(said, "guessed from the spacing") {
			t.Errorf("%s: the lengths are not explained: %q", c.name, remarks)
		}
		remarks = slices.DeleteFunc(remarks,
			func(s string) bool { return strings.HasPrefix(s, "No lengths") || strings.HasPrefix(s, "No key") })
		if said = strings.Join(remarks, " "); (c.says == "") != (said == "") || !strings.Contains(said, c.says) {
			t.Errorf("%s: it says %q, want %q", c.name, said, c.says)
		}
		if c.name == "lowered" && l.Tuning[5] != 38 {
			t.Errorf("the lowered string is %d", l.Tuning[5])
		}
		if seven, _ := neck.ParseInstrument("guitar7"); c.name == "seven strings" &&
			!slices.Equal(l.Tuning, seven.Guitar.Tuning) {
			t.Errorf("seven strings are tuned %v", l.Tuning)
		}
	}
	// What does not line up is refused where it does not.
	for _, c := range []struct{ tab, says string }{
		{strings.Replace(six("--5--|--7--"), "B|-----|-----|", "B|------|--|-|", 1), "line 1, column 8"},
		{strings.Replace(six("--5--|--7--"), "G|-----|-----|", "G|---------|", 1), "line 3, column 8"},
	} {
		if _, err := Decode([]byte(c.tab), read.Request{}); err == nil || !strings.Contains(err.Error(), c.says) {
			t.Errorf("%v, want %q\n%s", err, c.says, c.tab)
		}
	}
}

// shortly writes places, slurs, bends and vibratos.
func shortly(l lick.Lick) string {
	var cols []string
	for _, c := range l.Columns() {
		var words []string
		for _, n := range l.Notes[c[0]:c[1]] {
			w := n.Place().Notation() + string(n.Slur)
			for k, on := range []bool{n.Mute, n.Ghost, n.Palm} {
				if on {
					w += "xo_"[k : k+1]
				}
			}
			if n.Bend != nil {
				w += fmt.Sprintf("^%g", n.Bend.Semitones)
				if n.Bend.Release() {
					w += "r"
				}
			}
			if n.Vibrato != nil {
				w += "~"
			}
			words = append(words, w)
		}
		cols = append(cols, strings.Join(words, "+"))
	}
	return strings.Join(cols, " ")
}
