package tab

import (
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/format/read"
)

// Decode reads text tab: its own, which has a row of lengths, and tablature by other hands. The remarks say in a
// sentence each what was read in another way than it was written, or not at all; what cannot be a page of tablature
// is an error with its line.
func Decode(data []byte, ask read.Request) (out read.Result, err error) {
	if len(data) > maxBytes {
		return out, fmt.Errorf("the text tab has more than %d MB", maxBytes>>20)
	}
	if text := read.TextOf(data); !ownRow.MatchString(text) {
		return decodePasted(text, ask)
	}
	return decodeOwn(data)
}

// ownRow is the row of lengths, which only a page of our own has.
var ownRow = regexp.MustCompile(`(?m)^length +\d+/\d+`)

// decodeOwn reads a page as Encode writes it.
func decodeOwn(data []byte) (out read.Result, err error) {
	r := reader{own: true, l: lick.New(), lastOn: map[int]int{}, words: map[int]string{}}
	lines := strings.Split(read.TextOf(data), "\n")
	for i := 0; i < len(lines); {
		end := i
		for end < len(lines) && isStringLine(lines[end]) {
			end++
		}
		if end-i < neck.MinStrings {
			if err := r.header(lines[i], i+1); err != nil {
				return out, fmt.Errorf("line %d: %w", i+1, err)
			}
			i++
			continue
		}
		if err := r.system(lines, i, end); err != nil {
			return out, err
		}
		i = end
	}
	if len(r.l.Notes) == 0 {
		return out, errors.New("there is no tab here: it needs a line for each string, such as E|--5--7--|")
	}
	for i, text := range r.words {
		if i > len(r.l.Notes) {
			return out, fmt.Errorf("there is no note %d", i)
		}
		if err := readNoteLine(&r.l.Notes[i-1], text); err != nil {
			return out, fmt.Errorf("note %d: %w", i, err)
		}
	}
	// Reading the file back checks all that a lick file must keep.
	out.Remarks = r.remarks
	return out, out.Finish(r.l, nil)
}

// maxBytes is the longest text that is read: a line of as many notes as a lick may have takes 3 MB.
const maxBytes = 4 << 20

// label is what stands before a string line: a note name, perhaps with its octave.
var label = regexp.MustCompile(`^\s*([A-Ga-g]?[#b]?)[0-9]?\s*\|`)

// afterBar is what stands behind the last bar line of a string line, as in "--5--|  x4".
var afterBar = regexp.MustCompile(`\|(\s+[^|]*)$`)

// isStringLine says whether a line is one of a string: a label, a bar line, and then nothing but signs, or dashes that
// make up a good part of it. "A|---" in a poem is one too; a block needs as many of them as an instrument has strings.
// A good part is a quarter, where the plain signs are at least half of the line: words of a verse between bars are
// none.
func isStringLine(line string) bool {
	m := label.FindString(line)
	body := strings.TrimRight(line[len(m):], " ")
	dashes := strings.Count(body, "-")
	plain, known := 0, true
	for _, c := range body {
		if strings.ContainsRune("-|0123456789 ", c) {
			plain++
		}
		known = known && strings.ContainsRune("-|0123456789 hpbrcxtvS/\\~^<>().=*:", c)
	}
	return m != "" && dashes > 0 && (known || 2*plain >= len(body) && 4*dashes >= len(body))
}

// reader gathers a lick from blocks of rows. Blocks follow each other in time, as lines of a page do. at is the time
// that the next column has; lastOn are notes of r.l, from 0.
type reader struct {
	l       lick.Lick
	at      lick.Time
	lastOn  map[int]int // string → last note
	tuned   bool
	own     bool           // it has a length row, as we write it
	words   map[int]string // of notes, by their number
	remarks []string
}

// remark says once what is not as it was written.
func (r *reader) remark(format string, args ...any) {
	if s := fmt.Sprintf(format, args...); !slices.Contains(r.remarks, s) && len(r.remarks) < maxRemarks {
		r.remarks = append(r.remarks, s)
	}
}

// maxRemarks is how many are kept; more say the same of a file that is no tab.
const maxRemarks = 40

// mark is a sign found at a column of text.
type mark struct {
	col, str int
	sign     playedSign
}

// system reads the rows [from, to) of one block of strings, with the rows below it that belong to it. Signs that begin
// in one column sound together: "h12" under "9" begins in the column of the h.
func (r *reader) system(lines []string, from, to int) error {
	if n := to - from; n != len(r.l.Tuning) {
		return fmt.Errorf("line %d: there are %d string lines, but the tuning has %d", from+1, n, len(r.l.Tuning))
	}
	if err := linedUp(lines, from, to); err != nil {
		return err
	}
	var marks []mark
	for i := from; i < to; i++ {
		str := i - from + 1
		body := strings.IndexByte(lines[i], '|')
		found, left := signsOf(lines[i], body)
		for _, s := range found {
			marks = append(marks, mark{col: s.col, str: str, sign: s})
		}
		for _, c := range left {
			r.remark("line %d, column %d: %q is not read.", i+1, c+1, lines[i][c:c+1])
		}
	}
	rows := map[string]string{}
	for i := to; i < min(to+3, len(lines)); i++ {
		name, _, _ := strings.Cut(strings.TrimSpace(lines[i]), " ")
		rows[name] = lines[i]
	}
	slices.SortStableFunc(marks, func(a, b mark) int { return a.col - b.col })
	for len(marks) > 0 {
		n := 1
		for n < len(marks) && marks[n].col == marks[0].col {
			n++
		}
		if err := r.column(marks[:n], rows); err != nil {
			return fmt.Errorf("line %d, column %d: %w", from+1, marks[0].col+1, err)
		}
		marks = marks[n:]
	}
	return nil
}

// linedUp refuses a block whose rows have their bar lines, or their ends, in different columns. The first that differs
// is named with its column, counted from 1.
func linedUp(lines []string, from, to int) error {
	first := strings.TrimRight(lines[from], " ")
	start := strings.IndexByte(first, '|')
	for i := from + 1; i < to; i++ {
		line := strings.TrimRight(lines[i], " ")
		shift := strings.IndexByte(line, '|') - start // labels may differ in width
		for c := start; c < max(len(first), len(line)-shift); c++ {
			a, b := c < len(first) && first[c] == '|', c+shift < len(line) && line[c+shift] == '|'
			if a != b || (c < len(first)) != (c+shift < len(line)) {
				return fmt.Errorf("line %d, column %d: this string line does not line up with line %d", i+1,
					min(c+shift, len(line))+1, from+1)
			}
		}
	}
	return nil
}

// wordAt is the word of a row that starts at a column; one that began before it belongs to the
// column before, and is empty here.
func wordAt(row string, col int) string {
	if col >= len(row) || row[col] == ' ' || col > 0 && row[col-1] != ' ' {
		return ""
	}
	w, _, _ := strings.Cut(row[col:], " ")
	return w
}

// values spreads a row's word over the notes of a column.
func values(word string, n int) ([]string, error) {
	v := strings.Split(word, ",")
	if len(v) == 1 {
		v = slices.Repeat(v, n)
	}
	if len(v) != n {
		return nil, fmt.Errorf("%q has %d values for %d notes", word, len(v), n)
	}
	return v, nil
}

// column adds the notes that stand in one column, with their row of fingers, strokes and lengths. The rows are empty in
// tab by other hands; every time is an eighth then.
func (r *reader) column(marks []mark, rows map[string]string) error {
	// Rows give a chord's values from the thick string up.
	slices.SortStableFunc(marks, func(a, b mark) int { return b.str - a.str })
	lens, step, err := r.lengths(wordAt(rows["length"], marks[0].col), len(marks))
	if err != nil {
		return err
	}
	fingers, err := values(wordAt(rows["finger"], marks[0].col), len(marks))
	if err != nil {
		return err
	}
	strokes, err := values(wordAt(rows["stroke"], marks[0].col), len(marks))
	if err != nil {
		return err
	}
	for k, m := range marks {
		n := lick.Note{At: r.at, Len: lens[k], String: m.str}
		if err := r.note(&n, m.sign); err != nil {
			return err
		}
		if f := fingers[k]; f != "" && f != "." {
			if n.Finger, err = lick.ParseFinger(f); err != nil {
				return err
			}
		}
		for s, w := range strokeSign {
			if w == strokes[k] {
				n.Stroke = s
			}
		}
		r.lastOn[m.str] = len(r.l.Notes)
		r.l.Notes = append(r.l.Notes, n)
	}
	r.at = r.at.Add(step)
	if len(r.l.Notes) > lick.MaxNotes {
		return fmt.Errorf("a lick has at most %d notes", lick.MaxNotes)
	}
	return nil
}

// lengths reads the length of a column, or one for each of its notes.
//
// "3/16_1/8,1/4@3/16": the column begins at 3/16, two notes of 1/8 and 1/4, and the next column is 3/16 on.
func (r *reader) lengths(word string, n int) (lens []lick.Time, step lick.Time, err error) {
	if word == "" {
		word = "1/8"
	}
	if start, rest, ok := strings.Cut(word, "_"); ok {
		if r.at, err = lick.ParseTime(start); err != nil {
			return nil, step, err
		}
		word = rest
	}
	word, after, ok := strings.Cut(word, "@")
	parts, err := values(word, n)
	if err != nil {
		return nil, step, err
	}
	for _, p := range parts {
		t, err := lick.ParseTime(p)
		if err != nil {
			return nil, step, err
		}
		lens = append(lens, t)
	}
	if !ok {
		return lens, lens[0], nil
	}
	step, err = lick.ParseTime(after)
	return lens, step, err
}
