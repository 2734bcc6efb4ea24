package tab

import (
	"errors"
	"fmt"
	"html"
	"regexp"
	"slices"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/format/read"
)

// Tablature by other hands. A block of string lines is a system; what stands directly over and under it belongs
// to it (chords, rhythm, counts, fingers, strokes), the rest is headings and words. Bar lines make bars; where no
// rhythm is written, lengths are guessed from the spacing within each bar, or are eighths where there is but one
// bar. What is understood otherwise than it is written, or not at all, is remarked with its line.

// pasted gathers a page by another hand.
type pasted struct {
	reader
	lines   []string      // as they were, for remarks
	text    []string      // one byte a character, string lines in small letters
	names   []string      // the tuning that a heading names
	whole   []music.Pitch // … with its octaves, thin string first
	upside  bool          // the thick string is on top
	timed   bool          // a row of it says lengths
	steps   int           // half steps that a heading lowers all strings by
	drop    int           // and the thickest string by as many more
	capo    int
	titled  bool
	guessed bool // lengths were guessed from spacing
	keyed   string
	bars    []bar
	systems int
	more    int // places that are not read, beyond those that are said
}

// bar is what stands between two bar lines of a system.
type bar struct {
	line          int // of the page, from 1
	width         int
	cols          []pastedColumn
	chords        []placed
	opens         bool // a repeat begins
	times         int  // it is played so often from there on; 0 is once
	written       bool // its columns have their lengths
	alone         bool // its system has no other
	closed        bool // a bar line stands at its end
	before, after int  // characters of repeat signs at its ends
}

// pastedColumn is what sounds together: its place in the bar in characters, its notes, and what a row over or
// under it says.
type pastedColumn struct {
	at, end int
	marks   []mark
	len     lick.Time
	onset   lick.Time // where a row of counts says it
	counted bool
	finger  string
	stroke  string
	palm    bool
}

// placed is a word at a column of the bar.
type placed struct {
	at   int
	word string
}

// decodePasted reads tablature by another hand. The error says that there is none, or what of it cannot be.
func decodePasted(text string, ask read.Request) (out read.Result, err error) {
	p := pasted{reader: reader{l: lick.New(), lastOn: map[int]int{}, words: map[int]string{}}}
	p.lines, p.text = plainLines(text)
	for i := 0; i < len(p.text); {
		end := p.block(i)
		if end == i {
			i++
			continue
		}
		n := p.count(i, end)
		for from := i; from < end; from += n {
			if err := p.system(from, min(from+n, end)); err != nil {
				return out, err
			}
		}
		i = end
	}
	if p.systems == 0 {
		return out, errors.New("there is no tab here: it needs a line for each string, such as E|--5--7--|")
	}
	p.headings()
	if err := p.play(ask.On()); err != nil {
		return out, err
	}
	if len(p.l.Notes) == 0 {
		return out, errors.New("there is no note on these strings")
	}
	out.Remarks = p.remarks
	if p.more > 0 {
		out.Remark("%d more places are not read.", p.more)
	}
	out.FitKey(&p.l)
	return out, out.Finish(p.l, nil)
}

// plainLines are the lines of a text as they were, and as they are read: without the tags and entities of a
// web page, with one byte for each character, dashes and bar lines of any kind as - and |. Fractions are the
// letters of fractionSigns.
func plainLines(text string) (was, plain []string) {
	if page.MatchString(text) {
		text = breaks.ReplaceAllString(text, "\n")
		text = tags.ReplaceAllString(text, "")
	}
	if entity.MatchString(text) {
		text = html.UnescapeString(text)
	}
	if len(quote.FindAllString(text, 5)) > 4 {
		text = quote.ReplaceAllString(text, "")
	}
	for line := range strings.SplitSeq(text, "\n") {
		line = untabbed(line)
		was = append(was, line)
		var b strings.Builder
		for _, c := range line {
			switch {
			case strings.ContainsRune("‐‑‒–—―−─━﹣－˗¯", c):
				c = '-'
			case strings.ContainsRune("│┃|¦︱｜║", c):
				c = '|'
			case c == '♭':
				c = 'b'
			case c == '♯':
				c = '#'
			case c == '½':
				c = 'D'
			case c == '¼':
				c = 'Q'
			case c == '¾':
				c = 'E' + 128 // no sign of its own: said as not read
			case c == '\u200b' || c == '\ufeff' || c == '\u200c' || c == '\u200d':
				continue
			case c == '\u00a0' || c == '\u2007' || c == '\u2009' || c == '\u202f':
				c = ' '
			case c == '×':
				c = 'x'
			case c == '↑':
				c = '^'
			case c == '’' || c == '‘' || c == '′':
				c = '\''
			}
			if c < ' ' || c > '~' {
				c = '?'
			}
			b.WriteByte(byte(c))
		}
		plain = append(plain, strings.TrimRight(b.String(), " "))
	}
	return was, plain
}

var (
	page   = regexp.MustCompile(`(?i)<(br|pre|p|div|span|html|body|code|td|tr|table|font|b|i|u)\b[^>]*>`)
	breaks = regexp.MustCompile(`(?i)<br\s*/?>\n?|</(p|div|tr|pre)>\n?`)
	tags   = regexp.MustCompile(`</?[a-zA-Z][^<>]*>`)
	quote  = regexp.MustCompile(`(?m)^(?:> ?)+`) // of a mail
	entity = regexp.MustCompile(`&(#\d+|#x[0-9a-fA-F]+|[a-zA-Z]+);`)
)

// untabbed writes tabulators as spaces up to the next multiple of eight columns.
func untabbed(line string) string {
	if !strings.Contains(line, "\t") {
		return line
	}
	var b strings.Builder
	n := 0
	for _, c := range line {
		if c != '\t' {
			b.WriteRune(c)
			n++
			continue
		}
		for {
			b.WriteByte(' ')
			if n++; n%8 == 0 {
				break
			}
		}
	}
	return b.String()
}

// stringLabel is what stands before the body of a string line: a name or a number of the string, a bar line, or
// the dashes at once.
var stringLabel = regexp.MustCompile(`^\s*([A-Ga-g][#b]?|[1-8])?\d?\s*(?:[|:\])]|-)`)

// bodyAt is where the body of a string line begins, and its label; false if it is none.
func bodyAt(line string) (label string, at int, ok bool) {
	m := stringLabel.FindStringSubmatchIndex(line)
	if m == nil {
		return "", 0, false
	}
	if m[2] >= 0 {
		label = line[m[2]:m[3]]
	}
	at = m[1]
	if line[at-1] == '-' {
		at--
	}
	return label, at, true
}

// looksLikeString says whether a line is one of a string: as good as only signs of tablature after its label,
// dashes among them. A weak one has no dash, as a short last line may have none.
func looksLikeString(line string) (strong, weak bool) {
	label, at, ok := bodyAt(line)
	if !ok {
		return false, false
	}
	body := strings.TrimRight(line[at:], " ")
	if m := afterBar.FindStringIndex(body); m != nil && !strings.Contains(body[m[0]:], "-") {
		body = body[:m[0]+1]
	}
	dashes := strings.Count(body, "-") + strings.Count(body, "=") // a = sounds on
	plain, known := 0, true
	for _, c := range strings.ToLower(body) {
		if strings.ContainsRune("-=|0123456789 ", c) {
			plain++
		}
		known = known && strings.ContainsRune("-|0123456789 hpbrcxtsvwful/\\~^<>()[]{}.*:=+'dq?o", c)
	}
	bare := label == "" && !strings.Contains(line, "|")
	switch {
	case bare && (dashes < 6 || 5*dashes < 2*len(body)):
		return false, false
	case dashes > 1:
		return known || 2*plain >= len(body) && 4*dashes >= len(body), true
	}
	return false, known && strings.Contains(line[:min(len(line), at+1)], "|")
}

// block is the end of the string lines that begin at line i; i itself where there are too few for an instrument.
func (p *pasted) block(i int) int {
	end, strong := i, 0
	for end < len(p.text) {
		s, w := looksLikeString(p.text[end])
		if !s && !w {
			break
		}
		if s {
			strong++
		}
		end++
	}
	if end-i < neck.MinStrings || strong == 0 {
		return i
	}
	return end
}

// count is how many strings a block has: the lines of systems that follow each other without a gap are told apart
// by their labels.
func (p *pasted) count(from, to int) int {
	labels := make([]string, to-from)
	for i := range labels {
		labels[i], _, _ = bodyAt(p.text[from+i])
	}
	for n := neck.MinStrings; n < len(labels) && n <= neck.MaxStrings; n++ {
		same := len(labels)%n == 0
		for i := n; i < len(labels) && same; i++ {
			same = labels[i] == labels[i-n]
		}
		if same && (labels[0] != "" || n == 6) {
			return n
		}
	}
	return len(labels)
}

// unreadLine says that a line, or a part of it, is not read.
func (p *pasted) unreadLine(line int, text string) {
	if text = strings.TrimSpace(text); len(p.remarks) >= maxRemarks {
		p.more++
	} else if text != "" {
		p.remark("line %d: %q is not read.", line, read.Clip(text, 60))
	}
}

// system reads the string lines [from, to) and the rows that belong to them.
func (p *pasted) system(from, to int) error {
	rows := make([]string, to-from)
	var labels []string
	times := 0
	for i := range rows {
		line := p.text[from+i]
		label, at, _ := bodyAt(line)
		labels = append(labels, label)
		body := line[at:]
		if m := afterBar.FindStringSubmatchIndex(body); m != nil && !strings.Contains(body[m[2]:], "-") {
			if n := timesIn(body[m[2]:]); n > 0 {
				times = n
			} else {
				p.unreadLine(from+i+1, body[m[2]:])
			}
			body = body[:m[2]]
		}
		rows[i] = strings.Repeat(" ", at) + strings.TrimLeft(body, "|")
		if lead := len(body) - len(strings.TrimLeft(body, "|")); lead > 0 {
			rows[i] = strings.Repeat(" ", at) + strings.Repeat("|", lead) + strings.TrimLeft(body, "|")
		}
	}
	if err := p.tuneBlock(labels, from); err != nil {
		return err
	}
	bars, err := p.cut(rows, from)
	if err != nil {
		return err
	}
	if times > 1 {
		bars[0].opens, bars[len(bars)-1].times = true, times
	}
	p.rowsAround(bars, from, to)
	for k := range bars {
		bars[k].inner()
	}
	p.bars = append(p.bars, bars...)
	p.systems++
	return nil
}

// timesIn reads "x4", "(x2)", "3x", "play 3 times"; 0 where it is none.
func timesIn(text string) int {
	m := playTimes.FindStringSubmatch(strings.ToLower(strings.TrimSpace(text)))
	if m == nil {
		return 0
	}
	n := 0
	fmt.Sscan(m[1]+m[2]+m[3], &n)
	return min(n, 16)
}

var playTimes = regexp.MustCompile(
	`^\(?\s*(?:x\s*(\d{1,2})|(\d{1,2})\s*x|(?:play|repeat)s?\s+(\d{1,2})\s*(?:times|x)?)\s*\)?$`,
)

// segment is a bar of one row: where it begins on the line, and what stands in it.
type segment struct {
	at   int
	text string
}

// cut cuts a system into bars. Bar lines that do not stand under each other are put under each other where all
// rows have as many; a row that ends early is silent from there on. Anything else is an error with its place.
func (p *pasted) cut(rows []string, from int) ([]bar, error) {
	segs := make([][]segment, len(rows))
	most := 0
	for i, row := range rows {
		start := len(row) - len(strings.TrimLeft(row, " "))
		for start < len(row) && row[start] == '|' {
			start++
		}
		for at := start; at <= len(row); {
			end := strings.IndexByte(row[at:], '|')
			if end < 0 {
				end = len(row) - at
			}
			segs[i] = append(segs[i], segment{at, row[at : at+end]})
			for at += end; at < len(row) && row[at] == '|'; at++ {
			}
			if at >= len(row) {
				break
			}
		}
		if n := len(segs[i]); n > 1 && strings.TrimSpace(segs[i][n-1].text) == "" {
			segs[i] = segs[i][:n-1]
		}
		most = max(most, len(segs[i]))
	}
	ragged, shifted := 0, 0
	for i := range rows {
		if n := len(segs[i]); n < most {
			last := segs[i][max(0, n-1)]
			for k := range rows {
				if len(segs[k]) == most && len(segs[k][n-1].text) > len(last.text)+1 &&
					i != k && !strings.HasSuffix(rows[i], "|") {
					ragged = from + i + 1
				}
			}
			if ragged == 0 && !p.endsEarly(segs, i, most) {
				return nil, p.unlike(rows, segs, i, from)
			}
			ragged = from + i + 1
		}
	}
	bars := make([]bar, most)
	for k := range most {
		bars[k].line, bars[k].alone = from+1, most == 1
		bars[k].closed = strings.HasSuffix(rows[0], "|")
		widths := map[int]int{}
		for i := range rows {
			if k >= len(segs[i]) {
				continue
			}
			s := segs[i][k]
			if bars[k].width > 0 && len(s.text) != bars[k].width {
				if k == most-1 || k == len(segs[i])-1 && len(s.text) < bars[k].width {
					ragged = max(ragged, from+i+1)
				} else {
					shifted = max(shifted, from+i+1)
				}
			}
			bars[k].width = max(bars[k].width, len(s.text))
			widths[len(s.text)]++
		}
		// What most rows have is meant.
		for w, n := range widths {
			if n > widths[bars[k].width] {
				bars[k].width = w
			}
		}
	}
	switch {
	case shifted > 0:
		p.remark("line %d: its bar lines do not stand under those of the others; each bar is read by itself.", shifted)
	case ragged > 0:
		p.remark("line %d: it ends elsewhere than the others; what is missing is read as silence.", ragged)
	}
	for k := range bars {
		p.marksOf(&bars[k], segs, k, from)
	}
	return bars, nil
}

// endsEarly says whether a row with fewer bars has those of the others from the left.
func (p *pasted) endsEarly(segs [][]segment, i, most int) bool {
	for k := range segs {
		if len(segs[k]) != most {
			continue
		}
		for b := range len(segs[i]) - 1 {
			if len(segs[k][b].text) != len(segs[i][b].text) {
				return false
			}
		}
		return len(segs[i][len(segs[i])-1].text) <= len(segs[k][len(segs[i])-1].text)
	}
	return false
}

// unlike is the error of a row whose bars are not those of the others, with the column where that is seen first.
func (p *pasted) unlike(rows []string, segs [][]segment, i, from int) error {
	k := 0
	for len(segs[k]) <= len(segs[i]) {
		k++ // there is a row with more
	}
	col := len(rows[i])
	for b := range segs[i] {
		if len(segs[i][b].text) != len(segs[k][b].text) {
			col = segs[i][b].at + min(len(segs[i][b].text), len(segs[k][b].text))
			break
		}
	}
	return fmt.Errorf("line %d, column %d: this string line does not line up with line %d", from+i+1, col+1, from+k+1)
}

// marksOf reads the notes of bar k of all rows, and puts those together that sound together: they begin in one
// column, or stand over one another where a fret has two digits.
func (p *pasted) marksOf(b *bar, segs [][]segment, k, from int) {
	var marks []mark
	ends := map[*mark]int{}
	for i := range segs {
		if k >= len(segs[i]) {
			continue
		}
		str := i + 1
		if p.upside {
			str = len(segs) - i
		}
		s := segs[i][k]
		text, opens, closes := repeats(s.text)
		if opens > 0 {
			b.opens, b.before = true, max(b.before, opens)
		}
		if closes > 0 {
			b.times, b.after = max(b.times, 2), max(b.after, closes)
		}
		found, left := p.signs(text, from+i+1, s.at)
		for _, x := range found {
			marks = append(marks, mark{col: x.fretCol, str: str, sign: x})
		}
		for k := 0; k < len(left); { // signs in a row are said together
			end := k + 1
			for end < len(left) && left[end] == left[end-1]+1 {
				end++
			}
			p.unreadPart(from+i, s.at+left[k], s.at+left[end-1]+1)
			k = end
		}
	}
	slices.SortStableFunc(marks, func(a, b mark) int { return a.col - b.col })
	for i := range marks {
		m := marks[i]
		end := m.col + max(1, len(m.sign.fret))
		ends[&marks[i]] = end
		n := len(b.cols)
		if n > 0 && m.col < b.cols[n-1].end &&
			!slices.ContainsFunc(b.cols[n-1].marks, func(x mark) bool { return x.str == m.str }) {
			b.cols[n-1].marks = append(b.cols[n-1].marks, m)
			b.cols[n-1].end = max(b.cols[n-1].end, end)
			continue
		}
		b.cols = append(b.cols, pastedColumn{at: m.col, end: end, marks: []mark{m}})
	}
}

// inner takes the dots of repeats off a bar's places, when the rows around it have been read.
func (b *bar) inner() {
	for i := range b.cols {
		b.cols[i].at -= b.before
		b.cols[i].end -= b.before
	}
	for i := range b.chords {
		b.chords[i].at -= b.before
	}
	b.width -= b.before + b.after
}

// unreadPart says that characters of a line, counted from 0, are not read, as they were written.
func (p *pasted) unreadPart(line, from, to int) {
	if len(p.remarks) >= maxRemarks {
		p.more++
		return
	}
	r := []rune(p.lines[line])
	p.remark("line %d, column %d: %q is not read.", line+1, from+1,
		read.Clip(string(r[min(from, len(r)):min(to, len(r))]), 20))
}

// repeats takes the dots of repeats at the ends of a bar away, and says how many there were.
func repeats(text string) (plain string, opens, closes int) {
	b := []byte(text)
	for opens < len(b) && strings.IndexByte(":*o", b[opens]) >= 0 {
		b[opens] = '-'
		opens++
	}
	for closes < len(b)-opens && strings.IndexByte(":*o", b[len(b)-1-closes]) >= 0 {
		b[len(b)-1-closes] = '-'
		closes++
	}
	return string(b), opens, closes
}
