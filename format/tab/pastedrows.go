package tab

import (
	"regexp"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
)

// rowsAround reads the rows that stand directly over and under the string lines [from, to) of a system: chords,
// letters or counts of the rhythm, fingers, strokes. What is used is blanked, so that the rest is words of the page.
func (p *pasted) rowsAround(bars []bar, from, to int) {
	_, start, _ := bodyAt(p.text[from])
	for start < len(p.text[from]) && p.text[from][start] == '|' {
		start++
	}
	for i := from - 1; i >= max(0, from-5) && strings.TrimSpace(p.text[i]) != ""; i-- {
		if p.row(bars, i, start, true) {
			p.text[i] = ""
		}
	}
	for i := to; i < min(len(p.text), to+5) && strings.TrimSpace(p.text[i]) != ""; i++ {
		if s, _ := looksLikeString(p.text[i]); s {
			break
		}
		if p.row(bars, i, start, false) {
			p.text[i] = ""
		}
	}
}

// wordsOf are the words of a row with their columns, counted from where the bars begin.
func wordsOf(row string, start int) (out []placed) {
	for i := 0; i < len(row); {
		if row[i] == ' ' || row[i] == '|' {
			i++
			continue
		}
		end := i
		for end < len(row) && row[end] != ' ' && row[end] != '|' {
			end++
		}
		out = append(out, placed{i - start, row[i:end]})
		i = end
	}
	return out
}

// rowName is what may stand before a row to say what it is.
var rowName = regexp.MustCompile(
	`(?i)^\s*(fingers?|fingering|left hand|strokes?|picking|pick|right hand|rhythm|count|chords?)\s*[:=]?\s`,
)

// row reads one row; false if it is words of another kind. It may be a span of palm muting, "x4", the bars' numbers,
// or marks over the notes.
func (p *pasted) row(bars []bar, i, start int, above bool) bool {
	line, name := p.text[i], ""
	if m := rowName.FindStringSubmatch(line); m != nil {
		name = strings.ToLower(m[1])
		line = strings.Repeat(" ", len(m[0])) + line[len(m[0]):]
	}
	words := wordsOf(line, start)
	if len(words) == 0 {
		return false
	}
	if palmSpans(bars, line, start) {
		return true
	}
	if n := timesIn(strings.TrimSpace(line)); n > 1 {
		bars[0].opens, bars[len(bars)-1].times = true, n
		return true
	}
	if above && numbering(words, len(bars)) {
		return true
	}
	m := marks{words: words, at: over(bars, words), above: above, name: name}
	if m.read(bars) {
		return true
	}
	if m.all(stemForm.MatchString) && m.fits() {
		stems(bars, line, start)
		return true
	}
	return false
}

// marks are the words of a row, each over the column of notes that it stands at.
type marks struct {
	words []placed
	at    []spot
	above bool   // the row stands above the strings
	name  string // what the row is called, or nothing
}

// all says whether all words are of a form.
func (m marks) all(of func(string) bool) bool {
	return !slices.ContainsFunc(m.words, func(w placed) bool { return !of(w.word) })
}

// any says whether one of the words is of a form.
func (m marks) any(of func(string) bool) bool {
	return slices.ContainsFunc(m.words, func(w placed) bool { return of(w.word) })
}

// met is how many words stand over a note.
func (m marks) met() (n int) {
	for _, x := range m.at {
		if x.col != nil {
			n++
		}
	}
	return n
}

// fits says whether four words in five stand over notes, so that the row is about them.
func (m marks) fits() bool {
	met := m.met()
	return 10*met >= 8*len(m.words) && met > 0
}

// read takes the row for what its words are, and its place can be: letters of length (q e e), chords, a count (1 e &
// a), fingers or strokes; false if it is none of these.
func (m marks) read(bars []bar) bool {
	notes := 0
	for k := range bars {
		notes += len(bars[k].cols)
	}
	switch {
	// "E" may be an eighth or a chord: letters of length stand over every note, and there are more than two.
	case m.all(letterForm.MatchString) && m.fits() && (len(m.words) > 1 || notes == 1) &&
		(!m.all(isChord) || len(m.words) == notes && notes > 2):
		letters(bars, m.at)
		return true
	case m.above && m.all(isChordOrBeat) && m.any(isChord) || strings.HasPrefix(m.name, "chord"):
		for k, w := range m.words {
			if isChord(w.word) {
				m.at[k].bar.chords = append(m.at[k].bar.chords, placed{m.at[k].off, w.word})
			}
		}
		return true
	// Below the strings numbers alone are fingers; what counts has signs between them.
	case m.all(countForm.MatchString) && m.fits() &&
		(m.above || m.any(func(w string) bool { return strings.ContainsAny(w, "&+ea") })):
		return counts(bars, m.at)
	case m.all(fingerForm.MatchString) && m.met() == len(m.words):
		for k, w := range m.words {
			m.at[k].col.finger = strings.ToUpper(w.word)
		}
		return true
	case m.all(strokeForm.MatchString) && m.met() == len(m.words):
		for k, w := range m.words {
			m.at[k].col.stroke = w.word
		}
		return true
	}
	return false
}

// palmSpan is palm muting from a note on: P.M. alone, over one note, or as far as its dashes go.
var palmSpan = regexp.MustCompile(`(?i)\b(?:p\. ?m\.?|pm\b|palm mut(?:e|ed|ing)[ -]*-)(?: ?[-_.~=])* ?\|?`)

// palmSpans reads a row that is nothing but palm muting.
func palmSpans(bars []bar, line string, start int) bool {
	spans := palmSpan.FindAllStringIndex(line, -1)
	if spans == nil || strings.TrimSpace(palmSpan.ReplaceAllString(line, "")) != "" {
		return false
	}
	for _, s := range spans {
		if !strings.ContainsAny(line[s[0]:s[1]], "-_~=") {
			s[0], s[1] = s[0]-1, s[0]+2
		}
	}
	for k := range bars {
		for c := range bars[k].cols {
			x := &bars[k].cols[c]
			for _, s := range spans {
				if s[0] < start+x.end && start+x.at < s[1] {
					x.palm = true
				}
			}
		}
		start += bars[k].width + 1
	}
	return true
}

// spot is where a word of a row stands: its bar, its column in it, and the notes there, if any.
type spot struct {
	word string
	bar  *bar
	off  int
	col  *pastedColumn
}

// over finds for each word the bar that it stands over, and the notes within a column's breadth.
func over(bars []bar, words []placed) []spot {
	out := make([]spot, len(words))
	for i, w := range words {
		off, k := w.at, 0
		for k < len(bars)-1 && off > bars[k].width {
			off -= bars[k].width + 1
			k++
		}
		out[i] = spot{word: w.word, bar: &bars[k], off: off}
		best := 3
		for c := range bars[k].cols {
			x := &bars[k].cols[c]
			if d := max(0, x.at-off, off-x.end+1); d < best {
				best, out[i].col = d, x
			}
		}
		if best > 1 {
			out[i].col = nil
		}
	}
	// As many words as columns, and each about where its notes are, belong to them in order.
	var cols []*pastedColumn
	for k := range bars {
		for c := range bars[k].cols {
			cols = append(cols, &bars[k].cols[c])
		}
	}
	if len(cols) == len(words) {
		for i := range out {
			out[i].col = cols[i]
		}
	}
	return out
}

func isChord(w string) bool {
	w = strings.Trim(w, "()")
	_, err := music.ParseChord(w)
	return lick.IsNoChord(w) || err == nil && w != "" && w[0] >= 'A' && w[0] <= 'G'
}

// isChordOrBeat is also a stroke, a point or a sign of repetition between chords, for a beat that goes on.
func isChordOrBeat(w string) bool { return isChord(w) || strings.Contains(" / . % - ", " "+w+" ") }

// numbering says whether a row numbers the bars under it.
func numbering(words []placed, bars int) bool {
	if len(words) != bars || bars < 2 {
		return false
	}
	first, err := strconv.Atoi(strings.Trim(words[0].word, "()[]."))
	for i, w := range words[1:] {
		if w.word != strconv.Itoa(first+i+1) {
			return false
		}
	}
	return err == nil && first > 0
}

var (
	letterForm = regexp.MustCompile(`^(?i:[whqest])3?\.?$`)
	countForm  = regexp.MustCompile(`^(\d{1,2}|&|\+|e|a|and|ah|n)$`)
	fingerForm = regexp.MustCompile(`^[0-4tT]$`)
	strokeForm = regexp.MustCompile(`^[dDuUpimavV^nN]$`)
	stemForm   = regexp.MustCompile(`^[|_=.\-]+$`)
)

// letters gives notes the lengths of a row of rhythm letters: w h q e s t, a point for a dotted one, 3 for one of a
// triplet. Notes without a letter have that of the note before.
func letters(bars []bar, at []spot) {
	set := map[*pastedColumn]lick.Time{}
	for _, x := range at {
		if x.col != nil {
			set[x.col] = letterLength(x.word)
		}
	}
	lengths(bars, set, lick.NewTime(1, 8))
}

// lengths gives all notes of a system their lengths; those that are not set have that of the note before.
func lengths(bars []bar, set map[*pastedColumn]lick.Time, last lick.Time) {
	for k := range bars {
		bars[k].written = len(bars[k].cols) > 0
		for c := range bars[k].cols {
			if t, ok := set[&bars[k].cols[c]]; ok {
				last = t
			}
			bars[k].cols[c].len = last
		}
	}
}

// letterLength is the length of a rhythm letter.
func letterLength(w string) lick.Time {
	t := map[byte]lick.Time{'w': lick.NewTime(1, 1), 'h': lick.NewTime(1, 2), 'q': lick.NewTime(1, 4),
		'e': lick.NewTime(1, 8), 's': lick.NewTime(1, 16), 't': lick.NewTime(1, 32)}[strings.ToLower(w)[0]]
	if strings.Contains(w, "3") {
		t = t.Mul(lick.NewTime(2, 3))
	}
	if strings.HasSuffix(w, ".") {
		t = t.Mul(lick.NewTime(3, 2))
	}
	return t
}

// stems gives notes the lengths that stems say: one by itself is a quarter, one tied to its neighbour by _ or - an
// eighth, by = a sixteenth; a point makes it longer by half.
func stems(bars []bar, line string, start int) {
	set := map[*pastedColumn]lick.Time{}
	for i := range line {
		if line[i] != '|' {
			continue
		}
		t := lick.NewTime(1, 4)
		switch near := line[max(0, i-1):min(i+2, len(line))]; {
		case strings.Contains(near, "="):
			t = lick.NewTime(1, 16)
		case strings.ContainsAny(near, "_-"):
			t = lick.NewTime(1, 8)
		}
		if i+1 < len(line) && line[i+1] == '.' {
			t = t.Mul(lick.NewTime(3, 2))
		}
		if x := over(bars, []placed{{i - start, "|"}})[0]; x.col != nil {
			set[x.col] = t
		}
	}
	lengths(bars, set, lick.NewTime(1, 4))
}

// counts places notes by a row of counts: the number of a beat, & half a beat on, e and a its quarters. False if
// notes of a bar have no count.
func counts(bars []bar, at []spot) bool {
	set := map[*pastedColumn]lick.Time{}
	beat := int64(1)
	for _, x := range at {
		quarters, part := map[string]int64{"e": 1, "&": 2, "+": 2, "and": 2, "n": 2, "a": 3, "ah": 3}[x.word]
		if !part {
			beat, _ = strconv.ParseInt(x.word, 10, 64) // countForm has looked at it
		}
		if x.col != nil {
			set[x.col] = lick.NewTime(4*(beat-1)+quarters, 4)
		}
	}
	for k := range bars {
		for c := range bars[k].cols {
			if _, ok := set[&bars[k].cols[c]]; !ok {
				return false
			}
		}
	}
	for k := range bars {
		for c := range bars[k].cols {
			x := &bars[k].cols[c]
			x.onset, x.counted = set[x], true
		}
	}
	return true
}
