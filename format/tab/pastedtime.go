package tab

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// play writes the bars out as they are played, repeats unrolled, each with its lengths.
func (p *pasted) play(on neck.Guitar) error {
	if len(p.l.Tuning) == len(on.Tuning) && !p.retuned() {
		p.l.Tuning = slices.Clone(on.Tuning) // a page that says nothing of its tuning is played on one's own guitar
	}
	order, err := p.order()
	if err != nil {
		return err
	}
	barred := p.barred()
	whole := p.l.Meter.Bar()
	perWhole := p.usualWidth()
	last := ""
	for at, k := range order {
		b := &p.bars[k]
		length := whole
		var onsets []lick.Time
		switch {
		case len(b.cols) > 0 && b.cols[0].counted && counted(b, whole, p.l.Meter):
			unit := lick.NewTime(1, int64(p.l.Meter.Unit))
			for _, c := range b.cols {
				onsets = append(onsets, c.onset.Mul(unit))
			}
			p.timed = true
		case b.written:
			sum := lick.Time{}
			for _, c := range b.cols {
				onsets = append(onsets, sum)
				sum = sum.Add(c.len)
			}
			length, p.timed = sum, true
			if sum.Cmp(whole) != 0 && !b.alone && at > 0 && at < len(order)-1 {
				p.remark("line %d: the lengths of a bar make %s of %s.", b.line, sum, whole)
			}
		case barred:
			p.guessed = true
			if at == 0 && p.isPickup(b, perWhole) {
				length = p.pickupLength(b, perWhole)
				p.l.Pickup = length
			}
			onsets = spacedOut(b, length)
		default:
			length = lick.NewTime(int64(len(b.cols)), 8)
			for i := range b.cols {
				onsets = append(onsets, lick.NewTime(int64(i), 8))
			}
		}
		if err := p.bar(b, onsets, length); err != nil {
			return err
		}
		for _, c := range b.chords {
			last = p.chordAt(b, c, onsets, last)
		}
		p.at = p.at.Add(length)
	}
	p.closeChords()
	switch {
	case p.guessed:
		p.remark("No lengths are written; they are guessed from the spacing within each bar.")
	case !p.timed:
		p.remark("No lengths are written, so that every time is an eighth.")
	}
	return nil
}

// retuned says whether a heading or the labels say a tuning.
func (p *pasted) retuned() bool {
	return p.names != nil || p.whole != nil || p.steps != 0 || p.drop != 0 || !usualTuning(p.l.Tuning)
}

// order are the bars in the order in which they are played.
func (p *pasted) order() ([]int, error) {
	var out []int
	begin := 0
	for k, b := range p.bars {
		if b.opens {
			begin = k
		}
		out = append(out, k)
		for range max(0, b.times-1) {
			for i := begin; i <= k; i++ {
				out = append(out, i)
			}
			if len(out) > lick.MaxNotes {
				return nil, errors.New("with its repeats the page is longer than a lick may be")
			}
		}
		if b.times > 1 {
			p.remark("line %d: what is repeated is written out, %d times.", b.line, b.times)
			begin = k + 1
		}
	}
	return out, nil
}

// barred says whether bar lines make bars: somewhere there are two in a system, or closed systems of a bar each
// follow each other, none with more than a bar holds. A single bar is a phrase of any length.
func (p *pasted) barred() bool {
	n := 0
	for _, b := range p.bars {
		if !b.alone {
			return true
		}
		if len(b.cols) == 0 {
			continue
		}
		if n++; !b.closed || len(b.cols) > 24 || b.width < 16 {
			return false
		}
	}
	return n > 1
}

// usualWidth is the width that most bars have, in characters: the middle one.
func (p *pasted) usualWidth() float64 {
	var w []int
	for _, b := range p.bars {
		if len(b.cols) > 0 {
			w = append(w, b.width)
		}
	}
	if len(w) == 0 {
		return 1
	}
	slices.Sort(w)
	return float64(w[len(w)/2])
}

// isPickup says whether the first bar is so much narrower than the others that it is what comes before the first beat.
func (p *pasted) isPickup(b *bar, usual float64) bool {
	return len(p.bars) > 2 && len(b.cols) > 0 && float64(b.width) <= 0.55*usual
}

// pickupLength is how long a narrow first bar is: so many eighths as its share of a usual bar.
func (p *pasted) pickupLength(b *bar, usual float64) lick.Time {
	eighths := p.l.Meter.Bar().Float() * 8 * float64(b.width) / usual
	return lick.NewTime(int64(max(1, math.Round(eighths))), 8)
}

// counted says whether the counts of a bar rise and lie in it.
func counted(b *bar, whole lick.Time, m lick.Meter) bool {
	unit := lick.NewTime(1, int64(m.Unit))
	before := lick.NewTime(-1, 1)
	for _, c := range b.cols {
		t := c.onset.Mul(unit)
		if !before.Before(t) || !t.Before(whole) {
			return false
		}
		before = t
	}
	return true
}

// grids are into how many parts a whole note may be divided, with what each must explain better than eighths do, in
// characters (ours, chosen on written pages).
var grids = []struct {
	parts int64
	price float64
}{{8, 0}, {4, 0.05}, {2, 0.1}, {16, 0.8}, {12, 0.9}, {24, 1.1}, {32, 1.4}, {20, 1.6}, {28, 1.6}, {48, 1.7}}

// spacedOut guesses when the notes of a bar begin, from the characters between them: on the grid that explains them
// best, where a finer one has to explain them better. Some give every step as many characters, others as many dashes
// between signs of any width, so both are tried. The first note is on the first beat, unless more room stands before
// it than a gap between notes.
func spacedOut(b *bar, length lick.Time) []lick.Time {
	n := len(b.cols)
	if n == 0 {
		return nil
	}
	best, out := math.Inf(1), []lick.Time(nil)
	for k, of := range []widths{{}, {signs: true}, {signs: true, digits: true}} {
		pos, wide := closedUp(b, of)
		if cost, on := onGrid(pos, wide, length); cost+0.1*float64(k) < best {
			best, out = cost+0.1*float64(k), on
		}
	}
	if out == nil { // more notes than any grid has room for: as even as can be
		for i := range n {
			num, den := length.Parts()
			out = append(out, lick.NewTime(num*int64(i), den*int64(n)))
		}
	}
	return out
}

// onGrid lays notes at places in a bar of a width on the grid that explains them at the least cost, which is infinite
// if none has room for them.
func onGrid(pos []float64, wide float64, length lick.Time) (best float64, out []lick.Time) {
	n := len(pos)
	gap := wide - pos[n-1]
	for i := 1; i < n; i++ {
		gap = min(gap, pos[i]-pos[i-1])
	}
	lead := pos[0]
	if lead <= max(2, gap) {
		lead = 0 // as far as a bar line keeps away
	} else {
		lead--
	}
	best = math.Inf(1)
	for _, grid := range grids {
		parts := length.Float() * float64(grid.parts)
		slots := math.Round(parts)
		if math.Abs(slots-parts) > 1e-9 || slots < float64(n) {
			continue
		}
		for _, extra := range []float64{0, 1, -1, 2} {
			slot := (wide - pos[0] + lead + extra) / slots
			if slot < 0.8 {
				continue
			}
			last, worst, sum := -1.0, 0.0, 0.0
			on := make([]lick.Time, n)
			for i, x := range pos {
				k := (x - pos[0] + lead) / slot
				last = max(math.Round(k), last+1)
				off := max(0, math.Abs(k-last)*slot-0.3)
				worst, sum = max(worst, off), sum+off
				on[i] = lick.NewTime(int64(last), grid.parts)
			}
			cost := grid.price + 0.05*math.Abs(extra) + 0.6*worst + sum/float64(n)
			if last < slots && cost < best {
				best, out = cost, on
			}
		}
	}
	return best, out
}

// widths says what of a sign takes no time: how far a bend goes, the second digit of a fret.
type widths struct{ signs, digits bool }

// closedUp are the places of a bar's notes and its width, without the characters that only write a sign out.
func closedUp(b *bar, of widths) (pos []float64, wide float64) {
	gone := 0.0
	for i, c := range b.cols {
		pos = append(pos, float64(c.at)-gone)
		room := b.width - c.at
		if i+1 < len(b.cols) {
			room = b.cols[i+1].at - c.at
		}
		extra := 0
		for _, m := range c.marks {
			own := 0
			if of.digits {
				own = len(m.sign.fret) - 1
			}
			if of.signs {
				own += m.sign.written
			}
			extra = max(extra, own)
		}
		gone += float64(min(extra, max(0, room-2)))
	}
	return pos, float64(b.width) - gone
}

// bar adds the notes of a bar at their times; each lasts until the next one.
func (p *pasted) bar(b *bar, onsets []lick.Time, length lick.Time) error {
	for i, c := range b.cols {
		end := length
		if i+1 < len(onsets) {
			end = onsets[i+1]
		}
		at := p.at.Add(onsets[i])
		slices.SortStableFunc(c.marks, func(a, b mark) int { return b.str - a.str })
		for _, m := range c.marks {
			n := lick.Note{At: at, Len: end.Sub(onsets[i]), String: m.str}
			if err := p.pastedNote(&n, m.sign); err != nil {
				return fmt.Errorf("line %d: %w", b.line, err)
			}
			if c.finger != "" && !n.Mute && n.Fret > 0 && len(c.marks) == 1 {
				n.Finger, _ = lick.ParseFinger(c.finger) // the row has been looked at
				n.Lock = append(n.Lock, lick.FieldFinger)
			}
			n.Palm = c.palm
			if s, ok := strokeWords[c.stroke]; ok {
				n.Stroke = s
				n.Lock = append(n.Lock, lick.FieldStroke)
			}
			p.lastOn[m.str] = len(p.l.Notes)
			p.l.Notes = append(p.l.Notes, n)
		}
		if len(p.l.Notes) > lick.MaxNotes {
			return fmt.Errorf("a lick has at most %d notes", lick.MaxNotes)
		}
	}
	return nil
}

// strokeWords are the strokes as rows of picking write them.
var strokeWords = map[string]lick.Stroke{"d": lick.Down, "D": lick.Down, "n": lick.Down, "N": lick.Down, "u": lick.Up,
	"U": lick.Up, "V": lick.Up, "v": lick.Up, "^": lick.Up, "p": lick.PThumb, "i": lick.PIndex, "m": lick.PMid,
	"a": lick.PRing}

// chordAt lays a chord where its sign stands: the first one at the beginning of its bar, others with the notes that
// begin under them, or on the nearest beat. It answers the chord that holds then.
func (p *pasted) chordAt(b *bar, c placed, onsets []lick.Time, last string) string {
	at := lick.Time{}
	if first := c.at == b.chords[0].at; !first || 5*c.at > 2*b.width {
		beats := int64(p.l.Meter.Beats)
		beat := min(beats-1, int64(math.Round(float64(c.at)/float64(max(1, b.width))*float64(beats))))
		at = lick.NewTime(beat, int64(p.l.Meter.Unit))
		for k, x := range b.cols {
			if x.at == c.at || b.alone && x.at <= c.at {
				at = onsets[k]
			}
		}
	}
	name := strings.Trim(c.word, "()")
	at = p.at.Add(at)
	if n := len(p.l.Chords); n > 0 {
		if !p.l.Chords[n-1].At.Before(at) {
			return last
		}
		if p.l.Chords[n-1].Len.IsZero() {
			p.l.Chords[n-1].Len = at.Sub(p.l.Chords[n-1].At)
		}
	}
	if lick.IsNoChord(name) {
		return ""
	}
	if ch, err := music.ParseChord(name); err == nil {
		p.l.Chords = append(p.l.Chords, lick.Chord{At: at, Name: ch.Name})
	}
	return name
}

// closeChords lets the last chord last to the end.
func (p *pasted) closeChords() {
	if n := len(p.l.Chords); n > 0 && p.l.Chords[n-1].Len.IsZero() {
		p.l.Chords[n-1].Len = p.at.Sub(p.l.Chords[n-1].At)
		if !(lick.Time{}).Before(p.l.Chords[n-1].Len) {
			p.l.Chords = p.l.Chords[:n-1]
		}
	}
}
