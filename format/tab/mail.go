package tab

import (
	"bytes"
	"fmt"
	"slices"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// Mail writes a lick as plain tablature, as one pastes it into a mail: what a guitarist reads and nothing for
// machines. Bars are spaced by time, so that Decode finds the lengths again; chords stand over them, the fingers
// under them where there are any.
func Mail(l lick.Lick) []byte {
	var b bytes.Buffer
	if l.Title != "" {
		fmt.Fprintf(&b, "%s\n", strings.Join(strings.Fields(l.Title), " "))
	}
	if l.Key.Tonic != "" {
		fmt.Fprintf(&b, "Key: %s %s\n", l.Key.Tonic, l.Key.Scale)
	}
	fmt.Fprintf(&b, "Tempo: %g\n", l.Tempo)
	if (l.Meter != lick.Meter{Beats: 4, Unit: 4}) {
		fmt.Fprintf(&b, "Time: %s\n", l.Meter)
	}
	if l.Feel == lick.Shuffle {
		b.WriteString("Feel: shuffle\n")
	}
	if !usualTuning(l.Tuning) {
		fmt.Fprintf(&b, "Tuning: %s\n", neck.TuningText(l.Tuning))
	}
	bars := mailBars(l)
	for start := 0; start < len(bars); {
		width, end := 0, start
		for end < len(bars) && (end == start || width+bars[end].width < mailWidth) {
			width += bars[end].width + 1
			end++
		}
		b.WriteByte('\n')
		mailSystem(&b, l, bars[start:end])
		start = end
	}
	return b.Bytes()
}

// mailWidth is how many characters a line of a mail has.
const mailWidth = 72

// usualTuning says whether an instrument of so many strings is tuned as usual.
func usualTuning(t []music.Pitch) bool {
	return slices.Equal(usual(len(t)), t)
}

// mailBar is a bar on its grid.
type mailBar struct {
	from, upto lick.Time
	notes      [2]int // of the lick
	slot       int    // characters of a step of the grid
	grid       int64  // steps of a whole note
	width      int
}

// mailBars cuts a lick into bars, each with the coarsest grid that has all its notes and the room that its signs need.
func mailBars(l lick.Lick) []mailBar {
	var out []mailBar
	bar := l.Meter.Bar()
	at, end := lick.Time{}, l.End()
	if !l.Pickup.IsZero() {
		out = append(out, mailBar{upto: l.Pickup})
		at = l.Pickup
	}
	for at.Before(end) {
		out = append(out, mailBar{from: at, upto: at.Add(bar)})
		at = at.Add(bar)
	}
	i := 0
	for k := range out {
		m := &out[k]
		m.notes[0] = i
		for i < len(l.Notes) && l.Notes[i].At.Before(m.upto) {
			i++
		}
		m.notes[1] = i
		m.fit(l)
	}
	return out
}

// fit finds the grid and the room of a bar.
func (m *mailBar) fit(l lick.Lick) {
	length := m.upto.Sub(m.from)
	on := func(t lick.Time, grid int64) bool {
		num, den := t.Mul(lick.NewTime(grid, 1)).Parts()
		return num%den == 0
	}
	for _, grid := range []int64{4, 8, 12, 16, 24, 32, 48, 20, 28, 40, 96} {
		m.grid = grid
		all := on(length, grid)
		for _, n := range l.Notes[m.notes[0]:m.notes[1]] {
			all = all && on(n.At.Sub(m.from), grid)
		}
		if all {
			break
		}
	}
	// A sign must end before the next note of its string begins, and any note before the next column.
	m.slot = 2
	for m.slot < 12 && m.crowded(l) {
		m.slot++
	}
	num, den := length.Mul(lick.NewTime(m.grid, 1)).Parts()
	m.width = 1 + m.slot*int((num+den-1)/den)
}

// at is the column of a time in the bar.
func (m *mailBar) at(t lick.Time) int {
	num, den := t.Sub(m.from).Mul(lick.NewTime(m.grid, 1)).Parts()
	return 1 + m.slot*int(num/den)
}

// crowded says whether signs run into what follows.
func (m *mailBar) crowded(l lick.Lick) bool {
	last := map[int]int{}
	for i := m.notes[0]; i < m.notes[1]; i++ {
		n := l.Notes[i]
		lead, sign := mailSign(l, i)
		col := m.at(n.At)
		if col-len(lead) < last[n.String]+1 {
			return true
		}
		last[n.String] = col + len(sign)
	}
	for str := range last {
		if last[str] > m.at(m.upto) {
			return true
		}
	}
	return false
}

// mailSign is what stands before the fret of a note, and the fret with what follows, in signs that everybody writes.
func mailSign(l lick.Lick, i int) (lead, sign string) {
	n := l.Notes[i]
	lead = map[lick.Slur]string{lick.Hammer: "h", lick.Pull: "p", lick.Slide: "/"}[n.Slur]
	if n.Slur == lick.Slide {
		if k := l.Before(i); k >= 0 && l.Notes[k].Fret > n.Fret {
			lead = `\`
		}
	}
	if s := n.SlideIn; s != nil {
		lead = map[lick.From]string{lick.FromBelow: "/", lick.FromAbove: `\`}[s.From]
	}
	sign = fmt.Sprint(n.Fret)
	switch {
	case n.Mute:
		sign = "x"
	case n.Ghost:
		sign = "(" + sign + ")"
	}
	if b := n.Bend; b != nil {
		if b.Pre() {
			sign += "p"
		}
		if sign += "b"; b.Semitones < 1 {
			sign += "1/4"
		} else {
			sign += fmt.Sprint(n.Fret + int(b.Semitones))
		}
		if b.Release() {
			sign += "r" + fmt.Sprint(n.Fret)
		}
	}
	if n.Vibrato != nil {
		sign += "~"
	}
	return lead, sign
}

// mailSystem writes bars under one another's strings.
func mailSystem(b *bytes.Buffer, l lick.Lick, bars []mailBar) {
	labels := make([]string, len(l.Tuning))
	wide := 0
	for i, p := range l.Tuning {
		labels[i] = strings.TrimRight(p.String(), "0123456789-")
		if i == 0 {
			labels[i] = strings.ToLower(labels[i][:1]) + labels[i][1:]
		}
		wide = max(wide, len(labels[i]))
	}
	total := 0
	for _, m := range bars {
		total += m.width + 1
	}
	rows := make([][]byte, len(l.Tuning))
	for i := range rows {
		rows[i] = bytes.Repeat([]byte("-"), total)
	}
	chords, fingers := bytes.Repeat([]byte(" "), total+12), bytes.Repeat([]byte(" "), total+2)
	palms := bytes.Repeat([]byte(" "), total+2)
	chorded, fingered, palmed := false, false, -1
	start := 0
	for _, m := range bars {
		for _, c := range l.Chords {
			if !c.At.Before(m.from) && c.At.Before(m.upto) {
				at := start + min(m.at(c.At), m.width-1)
				copy(chords[at:], c.Name)
				chorded = true
			}
		}
		for i := m.notes[0]; i < m.notes[1]; i++ {
			n := l.Notes[i]
			lead, sign := mailSign(l, i)
			at := start + m.at(n.At)
			copy(rows[n.String-1][max(0, at-len(lead)):], lead+sign)
			if end := at + max(2, len(sign)); n.Palm {
				if palmed < 0 || i == 0 || !l.Notes[i-1].Palm && l.Notes[i-1].At.Before(n.At) {
					palmed = at
				}
				for k := palmed; k < end; k++ {
					palms[k] = '-'
				}
				copy(palms[palmed:], "PM")
			}
			alone := (i == m.notes[0] || l.Notes[i-1].At.Cmp(n.At) != 0) &&
				(i+1 == m.notes[1] || l.Notes[i+1].At.Cmp(n.At) != 0)
			if f := n.Finger.String(); f != "" && f != "0" && alone {
				copy(fingers[at:], f)
				fingered = true
			}
		}
		start += m.width
		for i := range rows {
			rows[i][start] = '|'
		}
		start++
	}
	indent := strings.Repeat(" ", wide+1)
	if chorded {
		fmt.Fprintf(b, "%s%s\n", indent, bytes.TrimRight(chords, " "))
	}
	if palmed >= 0 {
		fmt.Fprintf(b, "%s%s\n", indent, bytes.TrimRight(palms, " "))
	}
	if counts := mailCounts(l, bars); counts != "" {
		fmt.Fprintf(b, "%s%s\n", indent, counts)
	}
	for i, row := range rows {
		fmt.Fprintf(b, "%-*s|%s\n", wide, labels[i], row)
	}
	if fingered {
		fmt.Fprintf(b, "%s%s\n", indent, bytes.TrimRight(fingers, " "))
	}
}

// mailCounts is the row of counts over a bar that stands alone, where no other bar says how long one is; empty
// where its notes do not fall on quarters of a beat.
func mailCounts(l lick.Lick, bars []mailBar) string {
	if len(bars) != 1 || bars[0].from.Before(l.Pickup) || bars[0].upto.Before(l.End()) ||
		bars[0].from.Cmp(l.Pickup) != 0 {
		return ""
	}
	m := bars[0]
	row := bytes.Repeat([]byte(" "), m.width)
	for _, n := range l.Notes[m.notes[0]:m.notes[1]] {
		pos := l.Position(n.At)
		word := pos.Count(l.Meter)
		if strings.Trim(word, "0123456789e&a") != "" {
			return ""
		}
		copy(row[m.at(n.At):], word)
	}
	return strings.TrimRight(string(row), " ")
}
