package judge

import (
	"slices"

	"ornamen/core/bend"
	"ornamen/core/hand"
	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/pick"
	"ornamen/core/player"
)

// Line is a lick laid out for the two hands. Columns are the times of the line, each with its notes [from, to). The
// hands' rows are laid out for the searches of packages hand and pick, which know nothing of licks; touches and strokes
// lead back from their answers to the notes.
type Line struct {
	Written  lick.Lick
	Guitar   neck.Guitar
	bends    bend.Strength
	helping  player.Helping
	thumbed  bool         // the picking thumb has a bass voice, or the instrument has no pick
	turns    bool         // and has no bass voice either: two fingers pluck in turn
	Columns  [][2]int     // notes that start together
	ColumnOf []int        // one a note
	Hand     []hand.Event // one a column
	touches  [][]int      // the note of each touch
	Pick     []pick.Event // one a picked column
	Picked   []int        // the column of each
	strokes  [][]int      // the note of each picked string
	SlurOf   []SlurState  // one a note
}

// SlurState says from which note a slur comes, and what is wrong with it. An empty code stands for a slur that sounds.
type SlurState struct {
	From int // index of the note it comes from, −1 if none
	Code lick.Code
}

// LayOut turns a lick into what each hand does. Free takes the player's fingers and strokes away.
//
// A loop's first event has the time from the last one round to it, so that the seam is a move like any other.
func (e *Engine) LayOut(l lick.Lick, free bool) *Line {
	ln := &Line{Written: l, Guitar: e.Guitar(l), bends: e.Player.Bends, helping: e.Player.Helping,
		Columns: l.Columns(), SlurOf: make([]SlurState, len(l.Notes))}
	thumb := slices.ContainsFunc(l.Notes, func(n lick.Note) bool {
		return n.Voice == lick.VoiceBass && n.Stroke != lick.Down && n.Stroke != lick.Up
	})
	ln.thumbed, ln.turns = e.Player.Plucks || thumb, !thumb
	for c, col := range ln.Columns {
		for i := col[0]; i < col[1]; i++ {
			ln.ColumnOf = append(ln.ColumnOf, c)
			ln.SlurOf[i] = ln.slur(c, i)
		}
	}
	lastPick := -1
	for c := range ln.Columns {
		ln.layHand(c, free)
		ln.layPick(c, free, &lastPick)
	}
	if l.Loop && len(ln.Columns) > 0 {
		turn := l.Milliseconds(ln.Start(len(ln.Columns)-1), l.End()) + l.Milliseconds(lick.Time{}, ln.Start(0))
		ln.Hand[0].Have = turn
		if n := len(ln.Picked); n > 0 {
			ln.Pick[0].Have = l.Milliseconds(ln.Start(ln.Picked[n-1]),
				l.End()) + l.Milliseconds(lick.Time{}, ln.Start(ln.Picked[0]))
		}
	}
	return ln
}

// Start is when a column of notes begins.
func (ln *Line) Start(column int) lick.Time { return ln.Written.Notes[ln.Columns[column][0]].At }

// since is the time in ms from one column to a later one.
func (ln *Line) since(from, to int) float64 {
	return ln.Written.Milliseconds(ln.Start(from), ln.Start(to))
}

// layHand makes the event of a column for the fretting hand. free leaves the fingers open even where they are written.
// A note that still rings from the column before is held: it keeps its finger busy and moves nothing.
func (ln *Line) layHand(c int, free bool) {
	col := ln.Columns[c]
	var e hand.Event
	var notes []int
	if c > 0 {
		e.Have = ln.since(c-1, c)
		for _, i := range ln.touches[c-1] {
			if n := ln.Written.Notes[i]; n.Fret > 0 && ln.Start(c).Before(n.End()) {
				t := ln.Touch(i, free)
				t.Held, t.Slur = true, ""
				e.Touches, notes = append(e.Touches, t), append(notes, i)
			}
		}
	}
	for i := col[0]; i < col[1]; i++ {
		e.Touches, notes = append(e.Touches, ln.Touch(i, free)), append(notes, i)
	}
	ln.Hand, ln.touches = append(ln.Hand, e), append(ln.touches, notes)
}

// Touch is what note i asks of the fretting hand: its place, its finger if it is decided,
// and what leads into it. A slur that cannot sound asks for nothing.
func (ln *Line) Touch(i int, free bool) hand.Touch {
	n := ln.Written.Notes[i]
	t := hand.Touch{Place: n.Place(), Finger: n.Finger, Slur: n.Slur, Barre: n.Barre, Bent: n.Bend != nil && n.Fret > 0}
	t.Light = t.Bent && n.Bend.Semitones < 2
	if free && n.Finger != lick.Thumb || n.Finger == lick.Open && n.Fret > 0 {
		t.Finger = lick.NoFinger
	}
	if ln.SlurOf[i].Code != "" {
		t.Slur = ""
	}
	if n.Bend != nil && t.Finger == lick.NoFinger {
		t.Only = ln.strongEnough(n, free)
	}
	return t
}

// Thumbed says whether there is no pick: its thumb has a bass voice, or the instrument is plucked.
func (ln *Line) Thumbed() bool { return ln.thumbed }

// PickNote is what note i asks of the picking hand. Free takes its stroke away, but leaves the bass to the thumb.
func (ln *Line) PickNote(i int, free bool) pick.Note {
	n := ln.Written.Notes[i]
	p := pick.Note{String: n.String, Stroke: n.Stroke, Rake: n.Rake}
	if free {
		p.Stroke = ""
		if n.Stroke != lick.Down && n.Stroke != lick.Up {
			p.Finger = n.Stroke
		}
	}
	switch {
	case ln.thumbed && n.Voice == lick.VoiceBass && p.Stroke == "":
		p.Stroke = lick.PThumb
	case ln.thumbed:
		p.Line, p.Turns = n.Voice != lick.VoiceBass, ln.turns
	case n.Rake && p.Stroke == "":
		p.Stroke = lick.Down // a rake comes from the thick strings (common practice)
	}
	return p
}

// layPick makes the event of a column for the picking hand, where a note of it is picked; last is the column of the
// event before. Slurred notes are not picked, so that the stroke after a slur has the time of both. An event is fresh
// where it stands on a beat after silence or a held note: there a downstroke is what players begin with (common
// practice).
func (ln *Line) layPick(c int, free bool, last *int) {
	var e pick.Event
	var notes []int
	for i := ln.Columns[c][0]; i < ln.Columns[c][1]; i++ {
		n := ln.Written.Notes[i]
		if n.Slur.Slurred() {
			continue
		}
		e.Notes, notes = append(e.Notes, ln.PickNote(i, free)), append(notes, i)
	}
	if len(notes) == 0 {
		return
	}
	if *last >= 0 {
		e.Have = ln.since(*last, c)
	}
	e.Begins = ln.Written.Position(ln.Start(c)).Off.IsZero() && (*last < 0 || ln.restBefore(c) || ln.heldBefore(c))
	*last = c
	ln.Pick, ln.Picked, ln.strokes = append(ln.Pick, e), append(ln.Picked, c), append(ln.strokes, notes)
}

// restBefore says whether nothing sounds just before a column.
func (ln *Line) restBefore(c int) bool {
	// The last ones first: as a rule the note just before still sounds.
	for i := ln.Columns[c][0] - 1; i >= 0; i-- {
		n := &ln.Written.Notes[i]
		if !n.End().Before(ln.Start(c)) {
			return false
		}
	}
	return c > 0
}

// heldBefore says whether the column before is held, so that the pick comes to rest: for a half note
// and more, or for twice the time of the note before it (common practice).
func (ln *Line) heldBefore(c int) bool {
	if c == 0 {
		return false
	}
	length := ln.Start(c).Sub(ln.Start(c - 1))
	if !length.Before(heldNote) {
		return true
	}
	return c > 1 && !length.Before(ln.Start(c-1).Sub(ln.Start(c-2)).Times(2))
}

// heldNote is from which length on any note is held.
var heldNote = lick.NewTime(1, 2)

// slur finds where note i's slur comes from and whether it can sound, which the rules know.
func (ln *Line) slur(c, i int) SlurState {
	n := ln.Written.Notes[i]
	if n.Slur == "" {
		return SlurState{From: -1}
	}
	st := SlurState{From: ln.source(c, i)}
	from := ln.slurredFrom(st)
	if k := slices.IndexFunc(slurNeeds, func(need slurNeed) bool { return need.lacks(from, n) }); k >= 0 {
		st.Code = slurNeeds[k].code
	}
	return st
}

// slurredFrom is the note that a slur comes from, or nil.
func (ln *Line) slurredFrom(s SlurState) *lick.Note {
	if s.From < 0 {
		return nil
	}
	return &ln.Written.Notes[s.From]
}

// source is the note on note i's string that sounds until it or started just before it, or −1.
func (ln *Line) source(c, i int) int {
	if c == 0 {
		if ln.Written.Loop {
			return ln.onString(len(ln.Columns)-1, ln.Written.Notes[i].String)
		}
		return -1
	}
	if j := ln.onString(c-1, ln.Written.Notes[i].String); j >= 0 {
		return j
	}
	if j := ln.Written.Before(i); j >= 0 && ln.Written.Notes[j].End().Cmp(ln.Written.Notes[i].At) == 0 {
		return j
	}
	return -1
}

// onString is the note of a column on a string, or −1.
func (ln *Line) onString(c, str int) int {
	for i := ln.Columns[c][0]; i < ln.Columns[c][1]; i++ {
		if ln.Written.Notes[i].String == str {
			return i
		}
	}
	return -1
}
