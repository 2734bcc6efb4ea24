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
		{name: "a bend alone", tab: six("--7b--"), want: "1:7^2", says: "full step"},
		{name: "bent and released", tab: six("--7br--"), want: "1:7^2r", says: "full step"},
		{name: "bent to a fret", tab: six("--7b9--"), want: "1:7^2"},
		{name: "bent to a fret in brackets", tab: six("--7b(9)--"), want: "1:7^2"},
		{name: "bent and released to frets", tab: six("--7b9r7--"), want: "1:7^2r"},
		{name: "bent with a caret", tab: six("--7^9--"), want: "1:7^2"},
		{name: "vibrato", tab: six("--7~--9~~--"), want: "1:7~ 1:9~"},
		{name: "a harmonic", tab: six("--<12>--"), want: "1:12", says: "harmonic"},
		{name: "brackets", tab: six("--7--(7)--"), want: "1:7 1:7o", says: "ghost"},
		{name: "dead", tab: six("--x--7--"), want: "1:0x 1:7"},
		{name: "tapped", tab: six("--t12p7--"), want: "1:12 1:7pull", says: "tapped"},
		{name: "signs some dashes away", tab: six("--5-h-7--p-5--"), want: "1:5 1:7hammer 1:5pull"},
		{name: "a slide out", tab: six("--7/--"), want: "1:7", says: "slide out"},
		{name: "bar lines", tab: six("--5--|--7--"), want: "1:5 1:7"},
		{name: "a palm mute", tab: "PM-----|\n" + six("--5--"), want: "1:5_"},
		{name: "palms", tab: "    P.M.- -|  pm\n" + six("--5-5-5-5-7-7--"), want: "1:5_ 1:5_ 1:5_ 1:5_ 1:7 1:7_"},
		{
			name: "a palm mute, spaced",
			tab:  "    P. M. - - -|\n" + six("--5-5-5-5-5-5-7--"),
			want: "1:5_ 1:5_ 1:5_ 1:5_ 1:5_ 1:5_ 1:7",
		},
		{name: "fingers p and m", tab: six("--5-7--") + "    p m\n", want: "1:5 1:7"},
		{
			name: "a palm mute under the strings",
			tab:  six("--5-5-|-7-7--") + "    PM-----\n",
			want: "1:5_ 1:5_ 1:7_ 1:7",
		},
		{name: "no palm mute", tab: "  PM or not\n" + six("--5--"), want: "1:5", says: "is not read"},
		{
			name: "words around",
			tab:  "Intro (twice)\n\n" + six("--5--") + "\nand so on: again\n",
			want: "1:5",
			says: "and so on",
		},
		{name: "two systems", tab: six("--5--") + "\n" + six("--7--"), want: "1:5 1:7"},
		{
			name: "thick strings on top",
			tab:  "E|--3--|\nA|-----|\nD|-----|\nG|-----|\nB|-----|\ne|--5--|\n",
			want: "6:3+1:5",
		},
		{name: "seven strings", tab: "E|-5-|\nB|---|\nG|---|\nD|---|\nA|---|\nE|---|\nB|-0-|\n", want: "7:0+1:5"},
		{name: "five strings, a bass", tab: "G|-5-|\nD|---|\nA|---|\nE|---|\nB|-0-|\n", want: "5:0+1:5"},
		{name: "lowered", tab: "E|---|\nB|---|\nG|---|\nD|---|\nA|---|\nD|-0-|\n", want: "6:0"},
		{name: "no labels", tab: "|-5-|\n|---|\n|---|\n|---|\n|---|\n|---|\n", want: "1:5"},
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
