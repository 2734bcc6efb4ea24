package changes

import (
	"testing"
)

// How far a landing lies from the one before.
func TestWayWord(t *testing.T) {
	for in, want := range map[int]string{
		0: "the same tone", 1: "one half step up", -1: "one half step down", -5: "5 half steps down",
	} {
		if got := wayWord(in); got != want {
			t.Errorf("%d: %q, want %q", in, got, want)
		}
	}
}
