package run

import (
	"testing"

	"ornamen/core/neck"
)

// A run that is cut, to its bars or to land on its beat, has no cell without notes: what looks at
// its cells finds each of them in the line.
func TestCutCells(t *testing.T) {
	for _, line := range []string{
		`--key "A minor pentatonic" --at 6:5 --cell "1 2" --count 16 --from 2 --land 1@1`,
		`--key "A minor pentatonic" --at 6:5 --cell "1 2 3" --count 8t --from "3&" --land 1@3`,
		`--key "C# natural minor" --at 6:9 --cell "1" --count 16q --displace 1/4 --land 5@2`,
		`--key "C# natural minor" --at 6:9 --cell "1 2 3 4" --count 16 --bars 1`,
		`--key "Eb mixolydian" --at 6:11 --cell "1 3" --count 8 --from 2 --land 1@1 --dir updown`,
	} {
		r, err := Parse(line)
		if err != nil {
			t.Fatalf("%s: %v", line, err)
		}
		got, err := Grow(r, neck.Standard())
		if err != nil {
			t.Fatalf("%s: %v", line, err)
		}
		for k, c := range got.Cells {
			if c.From < 0 || c.From >= c.To || c.To > len(got.Lick.Notes) {
				t.Errorf("%s: cell %d has notes %d to %d of %d", line, k+1, c.From, c.To, len(got.Lick.Notes))
			}
			if !c.Tail {
				odd(got.Lick, c) // as the ways of the run ask
			}
		}
	}
}
