package say_test

import (
	"testing"

	"ornamen/core/say"
)

// One is one, and more are put into the plural at the noun.
func TestCount(t *testing.T) {
	for _, c := range []struct {
		n    int
		word string
		want string
	}{
		{1, "thing", "1 thing"},
		{2, "thing", "2 things"},
		{1, "note for which no string was free", "1 note for which no string was free"},
		{2, "note for which no string was free", "2 notes for which no string was free"},
		{3, "change of meter", "3 changes of meter"},
		{2, "chord name that is not known", "2 chord names that are not known"},
		{0, "day", "0 days"},
	} {
		if got := say.Count(c.n, c.word); got != c.want {
			t.Errorf("%d %s: %q, want %q", c.n, c.word, got, c.want)
		}
	}
}
