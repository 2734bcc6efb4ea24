package lick

import (
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/text"
)

// Range is a stretch of notes [From, To), counted from 0 in playing order.
type Range struct{ From, To int }

// Ranges are the notes that are selected: stretches in playing order that do not touch.
type Ranges []Range

// ParseRanges reads a selection as players write it, counted from 1 with both ends: "3", "3-8",
// "3-8,12-17". Stretches that touch become one.
func ParseRanges(s string) (Ranges, error) {
	var out Ranges
	for _, word := range strings.Split(s, ",") {
		a, b, two := strings.Cut(strings.TrimSpace(word), "-")
		from, err := strconv.Atoi(a)
		upto := from
		if two && err == nil {
			upto, err = strconv.Atoi(b)
		}
		if err != nil || from < 1 || upto < from || len(out) >= maxRanges {
			return nil, fmt.Errorf("%q is no selection: write notes as in 3-8 or 3-8,12-17, counted from 1",
				text.Clip(s, 40))
		}
		out = append(out, Range{from - 1, upto})
	}
	return out.joined(), nil
}

// maxRanges is how many stretches a selection may have.
const maxRanges = 4000

// String writes a selection as ParseRanges reads it.
func (rs Ranges) String() string {
	words := make([]string, len(rs))
	for k, r := range rs {
		if words[k] = strconv.Itoa(r.From + 1); r.To > r.From+1 {
			words[k] += "-" + strconv.Itoa(r.To)
		}
	}
	return strings.Join(words, ",")
}

// Words names the notes in a sentence: "note 3", "notes 3 to 8", "notes 3 to 8 and 12 to 17".
func (rs Ranges) Words() string {
	if len(rs) == 1 && rs[0].To == rs[0].From+1 {
		return fmt.Sprintf("note %d", rs[0].To)
	}
	if len(rs) > 3 {
		return fmt.Sprintf("%d notes", rs.Notes())
	}
	words := make([]string, len(rs))
	for k, r := range rs {
		if words[k] = strconv.Itoa(r.From + 1); r.To > r.From+1 {
			words[k] += " to " + strconv.Itoa(r.To)
		}
	}
	text := words[len(words)-1]
	if len(words) > 1 {
		text = strings.Join(words[:len(words)-1], ", ") + " and " + text
	}
	return "notes " + text
}

// Notes counts the notes.
func (rs Ranges) Notes() (n int) {
	for _, r := range rs {
		n += r.To - r.From
	}
	return n
}

// Has says whether note i is among them.
func (rs Ranges) Has(i int) bool {
	return slices.ContainsFunc(rs, func(r Range) bool { return i >= r.From && i < r.To })
}

// All says whether something is true of each of the notes.
func (rs Ranges) All(is func(i int) bool) bool {
	for _, r := range rs {
		for i := r.From; i < r.To; i++ {
			if !is(i) {
				return false
			}
		}
	}
	return true
}

// joined sorts stretches and makes those one that touch.
func (rs Ranges) joined() Ranges {
	slices.SortFunc(rs, func(a, b Range) int { return a.From - b.From })
	var out Ranges
	for _, r := range rs {
		if k := len(out) - 1; k >= 0 && r.From <= out[k].To {
			out[k].To = max(out[k].To, r.To)
		} else {
			out = append(out, r)
		}
	}
	return out
}

// Whole is a selection of the lick l with every column that it touches taken whole: notes that sound
// together go together. An error says which note is missing.
func (rs Ranges) Whole(l Lick) (Ranges, error) {
	out := make(Ranges, 0, len(rs))
	for _, r := range rs {
		if r.From < 0 || r.To <= r.From || r.To > len(l.Notes) {
			return nil, fmt.Errorf("there is no note %d", max(r.To, 1))
		}
		for r.From > 0 && l.Notes[r.From-1].At.Cmp(l.Notes[r.From].At) == 0 {
			r.From--
		}
		for r.To < len(l.Notes) && l.Notes[r.To].At.Cmp(l.Notes[r.To-1].At) == 0 {
			r.To++
		}
		out = append(out, r)
	}
	if len(out) == 0 {
		return nil, errors.New("no notes are selected")
	}
	return out.joined(), nil
}

// span is the time of whole columns: from their first note to what follows them, or to their end.
func (l Lick) span(r Range) (from, to Time) {
	from = l.Notes[r.From].At
	if r.To < len(l.Notes) {
		return from, l.Notes[r.To].At
	}
	return from, l.End()
}

// Clip is what a selection carries to another place: its notes as a lick that begins with the first
// of them, and how long it lasts, a rest behind it included.
type Clip struct {
	Lick Lick
	Len  Time
}

// Clipped copies a selection: one stretch after the other, with the chords over them, each in its own rhythm.
func (l Lick) Clipped(rs Ranges) (Clip, error) {
	rs, err := rs.Whole(l)
	if err != nil {
		return Clip{}, err
	}
	var out Clip
	for k, r := range rs {
		from, to := l.span(r)
		x := l.Excerpt(from, to).Lick
		if k == 0 {
			out.Lick, out.Lick.Pickup = x, Time{}
		} else {
			out.Lick.Notes = moved(out.Lick.Notes, x.Notes, out.Len)
			for _, c := range x.Chords {
				c.At = c.At.Add(out.Len)
				out.Lick.Chords = append(out.Lick.Chords, c)
			}
		}
		out.Len = out.Len.Add(to.Sub(from))
	}
	if len(rs) > 1 {
		out.Lick.Keys, out.Lick.Parts = nil, nil
	}
	out.Lick.Recipe = ""
	if len(out.Lick.Notes) > 0 && !l.Loop {
		out.Lick.FitSlurs() // a slur into the first note came from outside
	}
	return out, out.Lick.Validate()
}

// RemoveNotes takes selected columns out; what follows each of them moves up, or with Rest stays where it is.
type RemoveNotes struct {
	Notes Ranges
	Rest  bool
}

// Apply implements Edit.
func (e RemoveNotes) Apply(l Lick) (Lick, error) {
	rs, err := e.Notes.Whole(l)
	if err != nil {
		return l, err
	}
	return revise(l, func(l *Lick) error {
		l.cut(rs, e.Rest)
		return nil
	})
}

// cut takes whole columns out of l; what follows each moves up, or stays behind a rest.
func (l *Lick) cut(rs Ranges, rest bool) {
	for _, r := range slices.Backward(rs) {
		from, to := l.span(r)
		for i := r.To - 1; i >= r.From; i-- {
			l.removed(i)
		}
		l.Notes = slices.Delete(l.Notes, r.From, r.To)
		if !rest {
			l.shift(r.From, from.Sub(to))
		}
		l.fitSlursAt(r.From)
	}
}

// fitSlursAt lets go of slurs that cannot sound among the notes from index i on that are the next
// of their strings: what came before them has changed.
func (l *Lick) fitSlursAt(i int) {
	seen := make([]bool, len(l.Tuning)+1)
	left := len(l.Tuning)
	for ; i < len(l.Notes) && left > 0; i++ {
		if s := l.Notes[i].String; !seen[s] {
			seen[s] = true
			left--
			l.fitSlur(i)
		}
	}
}

// What implements Edit.
func (e RemoveNotes) What() string {
	if e.Rest {
		return "rests for " + e.Notes.Words()
	}
	return e.Notes.Words() + " removed"
}

// Paste puts a clip after note After (−1: before the first); what follows moves later, by the clip's
// time. Over names notes that give way to it, and then After is not looked at. An empty lick takes
// the clip's tones, chords, tempo and meter where it has no tones of its own.
type Paste struct {
	After int
	Over  Ranges
	Clip  Clip
}

// Apply implements Edit.
func (e Paste) Apply(l Lick) (Lick, error) {
	if len(e.Clip.Lick.Notes) == 0 {
		return l, errors.New("there are no notes to paste")
	}
	for i, n := range e.Clip.Lick.Notes {
		if n.String > len(l.Tuning) {
			return l, fmt.Errorf("note %d of what is pasted is on string %d; this lick has %d", i+1, n.String,
				len(l.Tuning))
		}
	}
	after := e.After
	var over Ranges
	if len(e.Over) > 0 {
		var err error
		if over, err = e.Over.Whole(l); err != nil {
			return l, err
		}
		after = over[0].From - 1
	}
	if after < -1 || after >= len(l.Notes) {
		return l, fmt.Errorf("there is no note %d to put one after", after+1)
	}
	return revise(l, func(l *Lick) error {
		if len(l.Notes) == 0 && l.Key.Tonic == "" {
			c := e.Clip.Lick
			l.Key, l.Keys, l.Chords, l.Tempo, l.Meter, l.Feel = c.Key, c.Keys, c.Chords, c.Tempo, c.Meter, c.Feel
		}
		if after >= 0 {
			_, to := l.Column(after)
			after = to - 1
		}
		// What gives way goes last: a rest before it so keeps its length.
		l.put(after+1, e.Clip)
		for k := range over {
			over[k].From += len(e.Clip.Lick.Notes)
			over[k].To += len(e.Clip.Lick.Notes)
		}
		l.cut(over, false)
		return nil
	})
}

// put lays a clip down before note i, and makes room for it.
func (l *Lick) put(i int, c Clip) {
	var at Time
	switch {
	case i < len(l.Notes):
		if i > 0 {
			at = l.Notes[i].At
		}
	case i > 0:
		at = l.Notes[i-1].At.Add(l.step(i - 1))
	}
	end := l.End()
	l.shift(i, c.Len)
	l.inserted(i, len(c.Lick.Notes))
	notes := moved(nil, c.Lick.Notes, at)
	l.Notes = slices.Insert(l.Notes, i, notes...)
	l.fitSlursAt(i)
	l.fitSlursAt(i + len(notes))
	l.lengthen(end)
}

// What implements Edit.
func (e Paste) What() string {
	if n := len(e.Clip.Lick.Notes); n != 1 {
		return fmt.Sprintf("%d notes pasted", n)
	}
	return "a note pasted"
}

// Duplicate plays selected columns once more: each stretch has its copy right behind it.
type Duplicate struct{ Notes Ranges }

// Apply implements Edit.
func (e Duplicate) Apply(l Lick) (Lick, error) {
	rs, err := e.Notes.Whole(l)
	if err != nil {
		return l, err
	}
	return revise(l, func(l *Lick) error {
		for _, r := range slices.Backward(rs) {
			c, err := l.Clipped(Ranges{r})
			if err != nil {
				return err
			}
			l.put(r.To, c)
		}
		return nil
	})
}

// What implements Edit.
func (e Duplicate) What() string { return e.Notes.Words() + " played once more" }

// Carry takes selected columns out and puts them after note After (−1: before the first), which is none of them.
type Carry struct {
	Notes Ranges
	After int
}

// Apply implements Edit.
func (e Carry) Apply(l Lick) (Lick, error) {
	rs, err := e.Notes.Whole(l)
	switch {
	case err != nil:
		return l, err
	case e.After < -1 || e.After >= len(l.Notes):
		return l, fmt.Errorf("there is no note %d to put them after", e.After+1)
	}
	to := e.After + 1
	if e.After >= 0 {
		_, to = l.Column(e.After)
	}
	for _, r := range rs {
		if to > r.From && to < r.To {
			return l, fmt.Errorf("note %d is one of those that are moved", e.After+1)
		}
	}
	c, err := l.Clipped(rs)
	if err != nil {
		return l, err
	}
	c.Lick.Chords = nil
	return revise(l, func(l *Lick) error {
		chords, keys := l.Chords, l.Keys // what lies under the line stays where it is
		before := 0
		for _, r := range rs {
			before += max(0, min(r.To, to)-r.From)
		}
		l.cut(rs, false)
		l.put(to-before, c)
		l.Chords, l.Keys = chords, keys
		return nil
	})
}

// What implements Edit.
func (e Carry) What() string { return e.Notes.Words() + " moved" }

// Stretch makes selected columns last Times as long, rests among them too; what follows moves along.
type Stretch struct {
	Notes Ranges
	Times Time // 2, 1/2, 3/2
}

// Apply implements Edit.
func (e Stretch) Apply(l Lick) (Lick, error) {
	rs, err := e.Notes.Whole(l)
	if err != nil {
		return l, err
	}
	if !(Time{}).Before(e.Times) || NewTime(16, 1).Before(e.Times) || e.Times.Before(NewTime(1, 16)) {
		return l, errors.New("notes are stretched by 2, 1/2, 3/2 and the like, from 1/16 to 16")
	}
	return revise(l, func(l *Lick) error {
		end := l.End()
		defer func() { l.lengthen(end) }()
		for _, r := range slices.Backward(rs) {
			from, to := l.span(r)
			long := to.Sub(from)
			l.shift(r.To, long.Mul(e.Times).Sub(long))
			for i := r.From; i < r.To; i++ {
				n := &l.Notes[i]
				n.At = from.Add(n.At.Sub(from).Mul(e.Times))
				n.Len = n.Len.Mul(e.Times)
			}
		}
		return nil
	})
}

// What implements Edit.
func (e Stretch) What() string { return e.Notes.Words() + " times " + e.Times.String() }

// Only keeps selected columns and lets all else go: a copy of them as a lick.
type Only struct{ Notes Ranges }

// Apply implements Edit.
func (e Only) Apply(l Lick) (Lick, error) {
	c, err := l.Clipped(e.Notes)
	if err != nil {
		return l, err
	}
	return c.Lick, nil
}

// What implements Edit.
func (e Only) What() string { return e.Notes.Words() + " alone" }
