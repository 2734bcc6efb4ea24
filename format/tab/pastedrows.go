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

// row reads one row; false if it is words of another kind.
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
	at := over(bars, words)
	met := 0
	for _, x := range at {
		if x.col != nil {
			met++
		}
	}
	all := func(of func(string) bool) bool {
		return !slices.ContainsFunc(words, func(w placed) bool { return !of(w.word) })
	}
	notes := 0
	for k := range bars {
		notes += len(bars[k].cols)
	}
	fits := 10*met >= 8*len(words) && met > 0
	switch {
	case all(letterForm.MatchString) && fits && (len(words) > 1 || notes == 1) &&
		(!all(isChord) || len(words) == notes && notes > 2):
		letters(bars, at)
		return true
	case above && all(isChordOrBeat) && slices.ContainsFunc(words, func(w placed) bool { return isChord(w.word) }) ||
		strings.HasPrefix(name, "chord"):
		for k, w := range words {
			if isChord(w.word) {
				at[k].bar.chords = append(at[k].bar.chords, placed{at[k].off, w.word})
			}
		}
		return true
	case all(countForm.MatchString) && fits && (above ||
		slices.ContainsFunc(words, func(w placed) bool { return strings.ContainsAny(w.word, "&+ea") })):
		return counts(bars, at)
	case all(fingerForm.MatchString) && fits && met == len(words):
		for k, w := range words {
			at[k].col.finger = strings.ToUpper(w.word)
		}
		return true
	case all(strokeForm.MatchString) && fits && met == len(words):
		for k, w := range words {
			at[k].col.stroke = w.word
		}
		return true
	case all(stemForm.MatchString) && fits:
		stems(bars, line, start)
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
