package page

import (
	"hash/fnv"
	"strconv"
	"strings"
	"unicode/utf8"
)

// SentenceCase makes the first letter a capital.
func SentenceCase(s string) string {
	_, first := utf8.DecodeRuneInString(s)
	return strings.ToUpper(s[:first]) + s[first:]
}

// Sentence makes an error's text one: a capital first, a stop last. Errors in Go begin small and end without a stop, so
// that they can be wrapped; players read them as sentences.
func Sentence(s string) string {
	if s = strings.TrimSpace(s); s == "" {
		return s
	}
	return strings.TrimSuffix(SentenceCase(s), ".") + "."
}

// HashOf lets the browser say which fragments it has.
func HashOf(b []byte) string {
	h := fnv.New64a()
	h.Write(b)
	return strconv.FormatUint(h.Sum64(), 36)
}

// WordsOf cuts a list at commas, semicolons and spaces, as players type it: "9, b5@down" or "9 b5".
func WordsOf(s string) []string {
	return strings.FieldsFunc(s, func(r rune) bool { return r == ',' || r == ' ' || r == ';' })
}
