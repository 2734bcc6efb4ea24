// Package text shortens what others have written: titles, and what a sentence quotes.
package text

import "strings"

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
