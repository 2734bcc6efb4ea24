package phrase_test

import (
	"errors"
	"testing"

	"ornamen/core/phrase"
)

// Parse and print are inverse.
func TestPhraseComesBack(t *testing.T) {
	for _, s := range []string{"3 2 1 4", "1 3 2 1", "1 2 0 -1", "(1 3) 2 . - 4>", "D(1 3)> U2~~",
		"2^full_ 1^half 3^curl~ 2^3", "strings: Da2 pa1 Ub1 hb2 Da1", "strings: a1 ha2 sa3 b1 hb2 | a3 pa2 b3 pb1",
		"strings: h1 hh2 h3", "strings: a2^a3_", "chord: 1 3 5 1' s2' 7", "chord@5,4,3,2,2,3: 1 3 5 1' s2' 7",
		"chord: b3 #4 7, <1 \\3"} {
		p, err := phrase.ParsePhrase(s)
		if err != nil {
			t.Errorf("%q: %v", s, err)
			continue
		}
		if got := p.String(); got != s {
			t.Errorf("%q comes back as %q", s, got)
		}
	}
}

// What is not understood is pointed at.
func TestPhraseErrorsPoint(t *testing.T) {
	for _, c := range []struct{ text, word string }{
		{"1 2 x 4", "x"}, {"", ""}, {"1 | ", ""}, {"notes: 1", "notes"}, {"strings: a1 2", "2"}, {"strings: a0", "a0"},
		{"chord: 1 14", "14"},
		{"1 2^ 3", "2^"}, {"1 2~~~", "2~~~"}, {"(1 3", "(1 3"}, {"(1 x) 2", "(1 x)"}, {"- 1", "-"}, {". .", ". ."},
		{"(1 3)^full", "(1 3)^full"}, {"tones@3: 1", "tones@3"}, {"1000", "1000"},
	} {
		_, err := phrase.ParsePhrase(c.text)
		var w *phrase.WordError
		if !errors.As(err, &w) || w.Word != c.word {
			t.Errorf("%q: %v, want it to point at %q", c.text, err, c.word)
		}
	}
	if _, err := phrase.ParsePhrase("chord@5,4,3: 1 3"); err == nil {
		t.Error("three strings for two steps pass")
	}
	// More steps than strings go on on the last one.
	if _, err := phrase.ParsePhrase("chord@5,4: 1 3 5"); err != nil {
		t.Error(err)
	}
}

func FuzzPhrase(f *testing.F) {
	for _, s := range []string{"3 2 1 4", "strings: Ua2 pa1 | b1", "chord@5,4: 1 b3", "(1 3)> . - 2^full_~~", "h2^3"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		p, err := phrase.ParsePhrase(s)
		if err != nil {
			return
		}
		text := p.String()
		q, err := phrase.ParsePhrase(text)
		if err != nil || q.String() != text {
			t.Errorf("%q is printed as %q, which reads as %q (%v)", s, text, q.String(), err)
		}
	})
}
