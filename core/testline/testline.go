// Package testline writes lines down in few words, for tests.
package testline

import (
	"strings"
	"testing"

	"ornamen/core/lick"
)

// Read reads a line written by hand, in sixteenths: string:fret with the string kept, slurs h p s S behind the fret,
// other marks after a slash (see mark), + together, . a rest, - a hold, *1/4 a length.
func Read(t testing.TB, key, text string) lick.Lick {
	t.Helper()
	l := lick.New()
	if key != "" {
		l.Key.Tonic, l.Key.Scale, _ = strings.Cut(key, " ")
	}
	step := lick.NewTime(1, 16)
	var at lick.Time
	str := 0
	for _, word := range strings.Fields(text) {
		switch word {
		case ".":
			at = at.Add(step)
			continue
		case "-":
			l.Notes[len(l.Notes)-1].Len = l.Notes[len(l.Notes)-1].Len.Add(step)
			at = at.Add(step)
			continue
		}
		length := step
		for _, w := range strings.Split(word, "+") {
			n := lick.Note{At: at, Len: step}
			if head, tail, ok := strings.Cut(w, ":"); ok {
				str, w = int(head[0]-'0'), tail
			}
			w, long, _ := strings.Cut(w, "*")
			if long != "" {
				n.Len, _ = lick.ParseTime(long)
			}
			length = n.Len
			n.String = str
			marks := strings.Split(w, "/")
			for _, c := range marks[0] {
				if c >= '0' && c <= '9' {
					n.Fret = 10*n.Fret + int(c-'0')
				} else {
					mark(t, &n, string(c))
				}
			}
			for _, m := range marks[1:] {
				mark(t, &n, m)
			}
			l.Notes = append(l.Notes, n)
		}
		at = at.Add(length)
	}
	l.Sort()
	if err := l.Validate(); err != nil {
		t.Fatalf("%s: %v", text, err)
	}
	return l
}

// Written writes a line: places with the string kept, slurs by their first letter.
// marks stand before the notes of their index.
func Written(l lick.Lick, marks map[int]string) string {
	var b strings.Builder
	str := 0
	for i, n := range l.Notes {
		b.WriteString(marks[i] + " ")
		if i > 0 && l.Notes[i-1].At == n.At {
			b.WriteByte('+')
		}
		if n.String != str {
			b.WriteString(string(rune('0'+n.String)) + ":")
			str = n.String
		}
		b.WriteString(lick.NewTime(int64(n.Fret), 1).String())
		if n.Slur != "" {
			b.WriteString(string(n.Slur)[:1])
		}
		b.WriteString(map[lick.Stroke]string{lick.Down: "D", lick.Up: "U"}[n.Stroke])
	}
	return strings.TrimSpace(b.String())
}

// Nightly is how many random lines a search is tried on: so many by day, five times as many in the night's run.
func Nightly(n int) int {
	if Night() {
		return 5 * n
	}
	return n
}
