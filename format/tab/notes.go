package tab

import (
	"bytes"
	"fmt"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/text"
)

// What tablature has no sign for stands in words, a line for each note that has any:
//
//	Note 5: barre, slid in 2 from below, pushed thin, with 2 1, set finger stroke
//
// Notes are counted from 1 in playing order.

// quoted writes a text on one line; it is quoted where it would not come back otherwise.
// Go's quotes, which escape what is no letter.
func quoted(s string) string {
	if s == strings.TrimSpace(s) && !strings.ContainsFunc(s, func(r rune) bool { return r < ' ' || r == 0x7f }) &&
		!strings.HasPrefix(s, `"`) && strings.ToValidUTF8(s, "") == s {
		return s
	}
	return strconv.Quote(s)
}

// unquoted reads what quoted writes.
func unquoted(s string) string {
	if t, err := strconv.Unquote(s); err == nil && strings.HasPrefix(s, `"`) {
		return t
	}
	return s
}

// noteLines writes the lines of all notes that have any.
func noteLines(b *bytes.Buffer, l lick.Lick) {
	first := true
	for i := range l.Notes {
		words := noteWords(l, i)
		if len(words) == 0 {
			continue
		}
		if first {
			b.WriteByte('\n')
			first = false
		}
		fmt.Fprintf(b, "Note %d: %s\n", i+1, strings.Join(words, ", "))
	}
}

// noteWords are what note i has beside its signs. A slide whose source is the end of a loop has no sign on its string,
// as the reader would take it for a slide in.
func noteWords(l lick.Lick, i int) (out []string) {
	n := l.Notes[i]
	add := func(on bool, format string, args ...any) {
		if on {
			out = append(out, fmt.Sprintf(format, args...))
		}
	}
	add(n.Voice != "", "voice %s", n.Voice)
	add(n.Ghost && n.Mute, "ghost")
	add(n.Palm, "palm")
	add(n.Rake, "rake")
	add(n.Barre, "barre")
	add(n.Slur == lick.Slide && l.Before(i) < 0, "slide") // from the end of a loop
	if s := n.SlideIn; s != nil {
		add(true, "slid in %d from %s", s.Frets, s.From)
	}
	if n.Bend != nil {
		add(n.Bend.Push != "", "pushed %s", n.Bend.Push)
		add(len(n.Bend.With) > 0, "with %s", spaced(n.Bend.With, lick.Finger.String))
	}
	add(n.Vibrato != nil && n.Vibrato.Speed == lick.Fast, "fast")
	add(len(n.Lock) > 0, "set %s", spaced(n.Lock, func(f lick.Field) string { return string(f) }))
	for _, c := range n.Meant {
		add(true, "meant %s", strconv.Quote(string(c)))
	}
	return out
}

// spaced writes a list with spaces.
func spaced[T any](list []T, word func(T) string) string {
	return text.Join(list, " ", word)
}

// readNoteLine gives note what its line says; what it does not know is an error that names the word. Codes are quoted,
// as a newer judge's may hold a comma.
func readNoteLine(n *lick.Note, text string) error {
	for text != "" {
		var word string
		if rest, ok := strings.CutPrefix(text, "meant "); ok {
			q, err := strconv.QuotedPrefix(rest)
			if err != nil {
				return fmt.Errorf("after meant stands a code in quotes, not %s", rest)
			}
			code, _ := strconv.Unquote(q) // QuotedPrefix has checked it
			n.Meant = append(n.Meant, lick.Code(code))
			text = strings.TrimPrefix(strings.TrimPrefix(rest, q), ", ")
			continue
		}
		word, text, _ = strings.Cut(text, ", ")
		if err := readNoteWord(n, strings.TrimSpace(word)); err != nil {
			return err
		}
	}
	return nil
}

// readNoteWord reads one entry of a note's line.
func readNoteWord(n *lick.Note, text string) error {
	word, rest, _ := strings.Cut(text, " ")
	bad := fmt.Errorf("%q is not understood", text)
	switch word {
	case "voice":
		n.Voice = lick.Voice(rest)
	case "ghost":
		n.Ghost = true
	case "palm":
		n.Palm = true
	case "rake":
		n.Rake = true
	case "barre":
		n.Barre = true
	case "slid":
		var frets int
		var from string
		if _, err := fmt.Sscanf(rest, "in %d from %s", &frets, &from); err != nil {
			return bad
		}
		n.SlideIn = &lick.SlideIn{Frets: frets, From: lick.From(from)}
	case "slide":
		n.Slur, n.SlideIn = lick.Slide, nil
	case "pushed", "with":
		if n.Bend == nil {
			return bad
		}
		if word == "pushed" {
			n.Bend.Push = lick.Push(rest)
			return nil
		}
		for _, w := range strings.Fields(rest) {
			f, err := lick.ParseFinger(w)
			if err != nil {
				return err
			}
			n.Bend.With = append(n.Bend.With, f)
		}
	case "fast":
		if n.Vibrato == nil {
			return bad
		}
		n.Vibrato.Speed = lick.Fast
	case "set":
		for _, w := range strings.Fields(rest) {
			n.Lock = append(n.Lock, lick.Field(w))
		}
	default:
		return bad
	}
	return nil
}
