package figure

import (
	"fmt"
	"strings"
	"testing"

	"ornamen/core/neck"
)

// read is a line as "6:5 8 5:5"; a note in brackets is not alone.
func read(line string) (out []Note) {
	str := 0
	for _, w := range strings.Fields(line) {
		n := Note{Alone: true}
		if cut, ok := strings.CutPrefix(w, "("); ok {
			w, n.Alone = strings.TrimSuffix(cut, ")"), false
		}
		if s, rest, ok := strings.Cut(w, ":"); ok {
			fmt.Sscan(s, &str)
			w = rest
		}
		fmt.Sscan(w, &n.Place.Fret)
		n.Place.String = str
		out = append(out, n)
	}
	return out
}

// Fingers by the string's shape and by the position (common practice).
func TestFingers(t *testing.T) {
	for _, c := range []struct{ line, onString, inPosition string }{
		{"6:5 7 8 5:5 7 8 4:5 7 9", "1 3 4 1 3 4 1 2 4", "1 3 0 0 0 0 0 0 0"},
		{"6:5 8 5:5 7 4:5 7", "0 0 0 0 0 0", "1 4 1 3 1 3"},
		{"6:1 2 3", "1 2 3", "1 2 3"},
		{"6:5 8 9", "1 3 4", "0 0 0"},
		{"6:5 6 9", "1 2 4", "0 0 0"},
		{"6:5 6 8 7", "0 0 0 0", "1 2 4 3"},               // four tones
		{"6:5 7 10", "0 0 0", "0 0 0"},                    // no shape of one position
		{"6:5 5:7 6:7 5:9 6:9", "1 0 2 0 4", "0 0 0 0 0"}, // its tones nearby
		{"6:5 7 (5:5) 6:8", "1 3 0 4", "1 3 0 4"},         // a grip takes no part
		{"6:5 7 5:5 5:5 5:5 5:5 5:5 5:5 5:5 5:5 5:5 6:8", "0 0 0 0 0 0 0 0 0 0 0 0", "1 3 1 1 1 1 1 1 1 1 1 4"},
	} {
		var a, b []string
		for _, u := range Fingers(read(c.line)) {
			a, b = append(a, fmt.Sprint(u.OnString)), append(b, fmt.Sprint(u.InPosition))
		}
		if got := strings.Join(a, " "); got != c.onString {
			t.Errorf("%s by its strings: %s, want %s", c.line, got, c.onString)
		}
		if got := strings.Join(b, " "); got != c.inPosition {
			t.Errorf("%s by position: %s, want %s", c.line, got, c.inPosition)
		}
	}
	if Fingers(nil) == nil || len(Fingers([]Note{{Place: neck.Place{String: 1, Fret: 5}, Alone: true}})) != 1 {
		t.Error("a line of no notes, or of one")
	}
}
