package musicxml

import (
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/format/read"
)

// note reads a note or a rest at the time that the reader has reached. A chord's later notes begin where its first did;
// a tie prolongs the note that is open on its string and fret, wherever the bar line is.
//
// The pitch is that of the tablature where string and fret are given. Else it is laid near the hand: the place of its
// pitch nearest to the note before, on a string that is free at that time. What finds none is counted and left out, and
// grace notes are, as they have no time of their own. An error is a score that names no pitch, or one too long.
func (r *reader) note(x xNote) error {
	if x.Duration <= 0 {
		r.left["grace note"]++
		return nil
	}
	length := r.time(x.Duration)
	at := r.now
	if x.Chord != nil {
		at = r.last
	} else {
		r.last = r.now
		r.advance(length)
	}
	if x.Rest != nil || x.Pitch == nil {
		return nil
	}
	if len(r.lick.Notes) == maxNotes {
		return fmt.Errorf("the score has more than %d notes", maxNotes)
	}
	n := lick.Note{At: r.at.Add(at), Len: length, Palm: x.Play != nil && x.Play.Mute == "palm"}
	if h := x.Head; h != nil {
		n.Mute, n.Ghost = h.Value == "x", h.Brackets == "yes"
	}
	t := &xTechnical{}
	if x.Notations != nil && x.Notations.Technical != nil {
		t = x.Notations.Technical
	}
	pitch, ok := pitchNamed(x.Pitch.Step, x.Pitch.Alter, x.Pitch.Octave)
	if !ok {
		return errors.New("the score names a pitch that is none")
	}
	pitch += r.transpose
	switch {
	case t.Fret != nil && t.String >= 1 && t.String <= len(r.lick.Tuning) &&
		*t.Fret >= 0 && *t.Fret+r.capo <= neck.MaxFrets:
		n.String, n.Fret = t.String, *t.Fret+r.capo
	default:
		p, ok := read.Near(r.guitar, &r.lick, n, pitch+r.octaves, r.near)
		if !ok {
			r.left["note for which no string was free"]++
			return nil
		}
		n.String, n.Fret = p.String, p.Fret
		r.laid = append(r.laid, n)
	}
	r.near = n.Place()
	key := [2]int{n.String, n.Fret}
	starts := x.tied("start")
	if k, open := r.open[key]; x.tied("stop") && open {
		r.lick.Notes[k].Len = r.lick.Notes[k].Len.Add(length)
		if !starts {
			delete(r.open, key)
		}
		return nil
	}
	r.techniques(&n, x, t)
	if starts {
		r.open[key] = len(r.lick.Notes)
	}
	r.lick.Notes = append(r.lick.Notes, n)
	return nil
}

// techniques reads fingers, strokes, slurs, bends and the like. What cannot be on an open string is let go.
func (r *reader) techniques(n *lick.Note, x xNote, t *xTechnical) {
	readHands(n, t)
	readSlur(n, x, t)
	r.readBends(n, t)
	for _, s := range t.OtherTxt {
		readOther(n, s)
	}
	if n.Slur.Slurred() {
		n.Stroke = ""
	}
	if n.Fret == 0 {
		n.Bend, n.Vibrato = nil, nil
	}
}

// readHands reads the fretting finger, and a stroke of the pick or of a finger.
func readHands(n *lick.Note, t *xTechnical) {
	if t.Finger != "" {
		if f, err := lick.ParseFinger(strings.TrimSpace(t.Finger)); err == nil {
			n.Finger = f
		}
	}
	switch {
	case t.Down != nil:
		n.Stroke = lick.Down
	case t.Up != nil:
		n.Stroke = lick.Up
	case strings.Contains(" p i m a ", " "+t.Pluck+" ") && t.Pluck != "":
		n.Stroke = lick.Stroke(t.Pluck)
	}
}

// readSlur reads how a note is reached, and what is beside it. A slur is read where it ends, as a lick keeps it with
// the note that it leads to: of 5 hammered to 7 the 7 has the hammer. A vibrato of others is wide and slow.
func readSlur(n *lick.Note, x xNote, t *xTechnical) {
	stops := func(list []xPhase) bool {
		return slices.ContainsFunc(list, func(p xPhase) bool { return p.Type == "stop" })
	}
	switch {
	case stops(t.Hammers):
		n.Slur = lick.Hammer
	case stops(t.Pulls):
		n.Slur = lick.Pull
	}
	if x.Notations == nil {
		return
	}
	if slices.ContainsFunc(x.Notations.Slides, func(s xLine) bool { return s.Type == "stop" }) {
		n.Slur = lick.Slide
	}
	n.Accent = x.Notations.Articulations != nil && x.Notations.Articulations.Accent != nil
	if o := x.Notations.Ornaments; o != nil && len(o.Wavy) > 0 && o.Wavy[0].Type == "start" {
		n.Vibrato = &lick.Vibrato{Width: lick.Wide, Speed: lick.Slow}
	}
}

// readBends reads a bend and its release, which the standard writes as a second bend. A bend of an amount that a lick
// does not have is the nearest, and counted.
func (r *reader) readBends(n *lick.Note, t *xTechnical) {
	for _, b := range t.Bends {
		switch {
		case b.Release != nil && n.Bend != nil:
			n.Bend.Shape = lick.ShapeOf(n.Bend.Pre(), true)
		case b.Alter >= 0.25:
			amount := lick.NearestBend(b.Alter)
			if amount != b.Alter {
				r.rounded++
			}
			n.Bend = &lick.Bend{Semitones: amount, Shape: lick.ShapeOf(b.Pre != nil, false)}
		}
	}
}

// readOther reads a technique that the standard has no element for, in the words that are written here: "shift",
// "vibrato narrow fast", "slide-in 2 below".
func readOther(n *lick.Note, s string) {
	words := strings.Fields(s)
	switch {
	case s == "shift":
		n.Slur = lick.Shift
	case s == "barre":
		n.Barre = true
	case s == "rake":
		n.Rake = true
	case len(words) == 2 && words[0] == "voice" && words[1] == string(lick.VoiceBass):
		n.Voice = lick.VoiceBass
	case len(words) == 3 && words[0] == "vibrato" && n.Vibrato != nil:
		n.Vibrato = &lick.Vibrato{Width: lick.Wide, Speed: lick.Slow}
		if words[1] == string(lick.Narrow) {
			n.Vibrato.Width = lick.Narrow
		}
		if words[2] == string(lick.Fast) {
			n.Vibrato.Speed = lick.Fast
		}
	case len(words) == 3 && words[0] == "slide-in":
		frets, err := strconv.Atoi(words[1])
		if err == nil && frets >= 1 && frets <= lick.MaxSlideIn &&
			(words[2] == string(lick.FromAbove) || words[2] == string(lick.FromBelow)) {
			n.SlideIn = &lick.SlideIn{Frets: frets, From: lick.From(words[2])}
		}
	}
}
