package page

import (
	"testing"
)

// A sentence begins with a capital, whatever its first sign.
func TestSentence(t *testing.T) {
	for in, want := range map[string]string{
		"": "", "  ": "", "a bend": "A bend.", "♭3 leads on": "♭3 leads on.", "éclair.": "Éclair.", "9": "9.",
	} {
		if got := Sentence(in); got != want {
			t.Errorf("%q becomes %q, want %q", in, got, want)
		}
	}
}
