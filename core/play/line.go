package play

import (
	"fmt"

	"ornamen/core/bend"
	"ornamen/core/hand"
	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/pick"
)

// line is a lick laid out for the two hands.
type line struct {
	lick     lick.Lick
	guitar   neck.Guitar
	bends    bend.Strength
	columns  [][2]int     // notes that start together
	columnOf []int        // one a note
	hand     []hand.Event // one a column
	touches  [][]int      // the note of each touch
	pick     []pick.Event // one a picked column
	picked   []int        // the column of each
	strokes  [][]int      // the note of each picked string
	slurs    []slurState  // one a note
}

// slurState says from which note a slur comes, and what is wrong with it.
type slurState struct {
	from int // index of the note it comes from, −1 if none
	code string
	why  string
}

// layOut turns a lick into what each hand does. Free takes the player's fingers
// and strokes away.
func (e *Engine) layOut(l lick.Lick, free bool) *line {
	ln := &line{lick: l, guitar: e.guitar(l), bends: e.Player.Bends, columns: l.Columns(), slurs: make([]slurState, len(l.Notes))}
	for c, col := range ln.columns {
		for i := col[0]; i < col[1]; i++ {
			ln.columnOf = append(ln.columnOf, c)
			ln.slurs[i] = ln.slur(c, i)
		}
	}
	lastPick := -1
	for c := range ln.columns {
		ln.layHand(c, free)
		ln.layPick(c, free, &lastPick)
	}
	if l.Loop && len(ln.columns) > 0 {
		turn := l.Milliseconds(ln.start(len(ln.columns)-1), l.End()) + l.Milliseconds(lick.Time{}, ln.start(0))
		ln.hand[0].Have = turn
		if n := len(ln.picked); n > 0 {
			ln.pick[0].Have = l.Milliseconds(ln.start(ln.picked[n-1]), l.End()) + l.Milliseconds(lick.Time{}, ln.start(ln.picked[0]))
		}
	}
	return ln
}

func (ln *line) start(column int) lick.Time { return ln.lick.Notes[ln.columns[column][0]].At }

// since is the time in ms from one column to a later one.
func (ln *line) since(from, to int) float64 {
	return ln.lick.Milliseconds(ln.start(from), ln.start(to))
}

func (ln *line) layHand(c int, free bool) {
	col := ln.columns[c]
	var e hand.Event
	var notes []int
	if c > 0 {
		e.Have = ln.since(c-1, c)
		for _, i := range ln.touches[c-1] {
			if n := ln.lick.Notes[i]; n.Fret > 0 && ln.start(c).Before(n.End()) {
				t := ln.touch(i, free)
				t.Held, t.Slur = true, ""
				e.Touches, notes = append(e.Touches, t), append(notes, i)
			}
		}
	}
	for i := col[0]; i < col[1]; i++ {
		e.Touches, notes = append(e.Touches, ln.touch(i, free)), append(notes, i)
	}
	ln.hand, ln.touches = append(ln.hand, e), append(ln.touches, notes)
}

func (ln *line) touch(i int, free bool) hand.Touch {
	n := ln.lick.Notes[i]
	t := hand.Touch{Place: n.Place(), Finger: n.Finger, Slur: n.Slur, Bar: n.Bar}
	if free && n.Finger != lick.Thumb || n.Finger == lick.Open && n.Fret > 0 {
		t.Finger = lick.NoFinger
	}
	if ln.slurs[i].code != "" {
		t.Slur = ""
	}
	if n.Bend != nil && t.Finger == lick.NoFinger {
		t.Only = ln.strongEnough(n, free)
	}
	return t
}

func (ln *line) layPick(c int, free bool, last *int) {
	var e pick.Event
	var notes []int
	for i := ln.columns[c][0]; i < ln.columns[c][1]; i++ {
		n := ln.lick.Notes[i]
		if n.Slur.Slurred() {
			continue
		}
		p := pick.Note{String: n.String, Stroke: n.Stroke, Rake: n.Rake}
		if free {
			p.Stroke = ""
			if n.Stroke != lick.Down && n.Stroke != lick.Up {
				p.Finger = n.Stroke
			}
		}
		if n.Rake && p.Stroke == "" {
			p.Stroke = lick.Down // a rake comes from the thick strings (common practice)
		}
		e.Notes, notes = append(e.Notes, p), append(notes, i)
	}
	if len(notes) == 0 {
		return
	}
	if *last >= 0 {
		e.Have = ln.since(*last, c)
	}
	e.Fresh = ln.lick.Position(ln.start(c)).Off.IsZero() && (*last < 0 || ln.restBefore(c))
	*last = c
	ln.pick, ln.picked, ln.strokes = append(ln.pick, e), append(ln.picked, c), append(ln.strokes, notes)
}

// restBefore says whether nothing sounds just before a column.
func (ln *line) restBefore(c int) bool {
	// The last ones first: as a rule the note just before still sounds.
	for i := ln.columns[c][0] - 1; i >= 0; i-- {
		n := &ln.lick.Notes[i]
		if !n.End().Before(ln.start(c)) {
			return false
		}
	}
	return c > 0
}

// slur finds where note i's slur comes from and whether it can sound.
func (ln *line) slur(c, i int) slurState {
	n := ln.lick.Notes[i]
	if n.Slur == "" {
		return slurState{from: -1}
	}
	from := ln.source(c, i)
	if from < 0 {
		return slurState{-1, "slur-changes-string", fmt.Sprintf("Nothing sounds on string %d just before it, so there is nothing to %s from.", n.String, n.Slur)}
	}
	f := ln.lick.Notes[from]
	switch {
	case n.Slur == lick.Hammer && n.Fret <= f.Fret:
		return slurState{from, "hammer-falls", fmt.Sprintf("A hammer goes up the string, this goes from fret %d to %d.", f.Fret, n.Fret)}
	case n.Slur == lick.Pull && n.Fret >= f.Fret:
		return slurState{from, "pull-rises", fmt.Sprintf("A pull goes down the string, this goes from fret %d to %d.", f.Fret, n.Fret)}
	case (n.Slur == lick.Slide || n.Slur == lick.Shift) && (n.Fret == 0 || f.Fret == 0):
		return slurState{from, "slide-changes-finger", "An open string has no finger that could slide."}
	}
	return slurState{from: from}
}

// source is the note on note i's string that sounds until it or started just
// before it, or −1.
func (ln *line) source(c, i int) int {
	if c == 0 {
		if ln.lick.Loop {
			return ln.onString(len(ln.columns)-1, ln.lick.Notes[i].String)
		}
		return -1
	}
	if j := ln.onString(c-1, ln.lick.Notes[i].String); j >= 0 {
		return j
	}
	if j := ln.lick.Before(i); j >= 0 && ln.lick.Notes[j].End().Cmp(ln.lick.Notes[i].At) == 0 {
		return j
	}
	return -1
}

func (ln *line) onString(c, str int) int {
	for i := ln.columns[c][0]; i < ln.columns[c][1]; i++ {
		if ln.lick.Notes[i].String == str {
			return i
		}
	}
	return -1
}
