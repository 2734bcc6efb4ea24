package read

import (
	"bufio"
	"bytes"
	"io"
	"unicode/utf8"

	"golang.org/x/text/encoding"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"
	"golang.org/x/text/transform"
)

// sniffed is how much of a text is looked at to tell how it is encoded.
const sniffed = 64 << 10

// Text is a text by whatever program it was written: with a byte order mark or without, in UTF-8, UTF-16 or, where it
// is neither, in the one-byte encoding of western Europe (Windows-1252, which holds Latin-1), its lines ended by LF, CR
// LF or CR. What is read from it is UTF-8 without a mark, and lines end in LF.
func Text(r io.Reader) io.Reader {
	b := bufio.NewReaderSize(r, sniffed)
	head, _ := b.Peek(sniffed) // a short text is shorter; an error comes again when it is read
	var as encoding.Encoding
	switch {
	case bytes.HasPrefix(head, []byte{0xef, 0xbb, 0xbf}):
		as = unicode.UTF8BOM
	case bytes.HasPrefix(head, []byte{0xff, 0xfe}), bytes.HasPrefix(head, []byte{0xfe, 0xff}):
		as = unicode.UTF16(unicode.LittleEndian, unicode.UseBOM)
	case len(head) >= 4 && head[0] != 0 && head[1] == 0 && head[3] == 0:
		as = unicode.UTF16(unicode.LittleEndian, unicode.IgnoreBOM)
	case len(head) >= 4 && head[0] == 0 && head[1] != 0 && head[2] == 0:
		as = unicode.UTF16(unicode.BigEndian, unicode.IgnoreBOM)
	case !validStart(head):
		as = charmap.Windows1252
	default:
		return &lines{r: b}
	}
	return &lines{r: unmarked(bufio.NewReader(transform.NewReader(b, as.NewDecoder())))}
}

// unmarked skips further byte order marks: a text that was encoded twice begins with two.
func unmarked(b *bufio.Reader) *bufio.Reader {
	mark := []byte("\ufeff")
	for {
		if head, _ := b.Peek(len(mark)); !bytes.Equal(head, mark) {
			return b
		}
		b.Discard(len(mark)) // what was peeked at is there
	}
}

// TextOf is Text of bytes at hand.
func TextOf(data []byte) string {
	out, _ := io.ReadAll(Text(bytes.NewReader(data))) // from memory into memory: it cannot fail
	return string(out)
}

// validStart says whether bytes are UTF-8, the last letter perhaps cut.
func validStart(head []byte) bool {
	for len(head) > 0 {
		r, n := utf8.DecodeRune(head)
		if r == utf8.RuneError && n == 1 {
			return !utf8.FullRune(head)
		}
		head = head[n:]
	}
	return true
}

// lines ends every line in LF.
type lines struct {
	r  *bufio.Reader
	cr bool // the last byte was a CR, given as LF
}

// Read implements io.Reader.
func (l *lines) Read(p []byte) (int, error) {
	for {
		n, err := l.r.Read(p)
		out := p[:0]
		for _, c := range p[:n] {
			after := l.cr
			if l.cr = c == '\r'; l.cr {
				c = '\n'
			} else if c == '\n' && after {
				continue
			}
			out = append(out, c)
		}
		if len(out) > 0 || err != nil || len(p) == 0 {
			return len(out), err
		}
	}
}
