// Package text is words: it reads one of a kind, writes lists, and shortens what others have written.
package text

import (
	"fmt"
	"slices"
	"strings"
)

// Word reads a word of a kind, of which the first has another name too. wrong is the sentence that refuses what is none
// of them, with %q where it is quoted.
func Word[T ~string](s, other, wrong string, known ...T) (T, error) {
	switch w := T(s); {
	case slices.Contains(known, w):
		return w, nil
	case s == other:
		return known[0], nil
	}
	return "", fmt.Errorf(wrong, Clip(s, 40))
}

// Map is a word for every one of a list.
func Map[T any](list []T, word func(T) string) []string {
	out := make([]string, len(list))
	for i, x := range list {
		out[i] = word(x)
	}
	return out
}

// Join writes a list by its words.
func Join[T any](list []T, between string, word func(T) string) string {
	return strings.Join(Map(list, word), between)
}

// Cut is at most so many letters of a text.
func Cut(s string, most int) string {
	if r := []rune(s); len(r) > most {
		return string(r[:most])
	}
	return s
}

// Clip is Cut with … for what was left out, as a sentence quotes it; what is no text is a question mark.
func Clip(s string, most int) string {
	s = strings.ToValidUTF8(s, "?")
	if c := Cut(s, most); c != s {
		return c + "…"
	}
	return s
}
