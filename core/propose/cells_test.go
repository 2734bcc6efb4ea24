package propose

import (
	"strings"
	"testing"

	"ornamen/core/testline"
)

// A cell that comes back in another place has one fingering among the proposals, with its
// price beside the recommended one; where all its cells agree anyway nothing is offered, nor
// for a line without cells (common practice).
func TestOneFingering(t *testing.T) {
	for _, c := range []struct {
		name, line string
		want       string // fingers of each cell, empty: not offered
		price      string
	}{
		{
			name:  "three on a string, two strings an octave",
			line:  "6:2 4/h 5/h 5:2 4/h 5/h 4:4 6/h 7/h 3:4 6/h 7/h 2:7 9/h " + "10/h 1:7 9/h 10/h",
			want:  "134",
			price: "instead of",
		},
		{
			name:  "an arpeggio a fourth on",
			line:  "6:6 5:5 5:8 4:6 5:8 5:5 6:11 5:10 5:13 4:11 5:13 5:10",
			want:  "214241",
			price: "instead of",
		},
		{name: "pulled pairs", line: "1:8 5/p 2:8 5/p 3:7 5/p 4:7 5/p 5:7 5/p"},
		{name: "one shape of three", line: "6:5 7 9 5:5 7 9 4:5 7 9"},
		{name: "no cell", line: "6:5 8 5:5 7 4:9 7 3:4 6 7 2:5"},
	} {
		l := testline.Build(t, 100, c.line)
		found := false
		for _, p := range propose(usual, l, Request{Best: 4}) {
			if !strings.HasPrefix(p.Why, "The same fingers wherever") {
				continue
			}
			found = true
			if c.want == "" {
				t.Errorf("%s: it is offered: %s", c.name, p.Why)
				continue
			}
			fingers, _ := hands(p.Lick)
			if fingers != strings.Repeat(c.want, len(fingers)/len(c.want)) || !strings.Contains(p.Why, c.price) {
				t.Errorf("%s: %s, %s", c.name, fingers, p.Why)
			}
		}
		if !found && c.want != "" {
			t.Errorf("%s: it is not offered", c.name)
		}
	}
}
