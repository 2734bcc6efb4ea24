package web

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/shape"
	"ornamen/internal/store"
)

// editOf turns a request into an edit of the lick it was made on.
func (a benchScreen) editOf(ctx context.Context, base store.Entry, f benchForm) (lick.Edit, error) {
	l := base.Lick
	if e, ok, err := settingOf(f, l); ok || err != nil {
		return e, err
	}
	switch f.Do {
	case "place", "add":
		return placeEdit(f, l)
	case "propose":
		return lick.OpenHands{}, nil
	case "fix":
		return a.fixEdit(ctx, base, f)
	case "take":
		return a.takeEdit(ctx, base, f)
	case "turn":
		return a.turnEdit(ctx, base, f)
	}
	i := f.Note - 1
	if i < 0 || i >= len(l.Notes) {
		return nil, errors.New("there is no note under the caret")
	}
	return noteEdit(engineOf(ctx).Player.Guitar.WithTuning(l.Tuning), f, l, i)
}

// placeEdit puts a place down at the caret: in the empty column as a new note,
// on a note in its stead, or together with it.
func placeEdit(f benchForm, l lick.Lick) (lick.Edit, error) {
	p, err := neck.ParsePlace(f.To)
	if err != nil {
		return nil, err
	}
	i := f.Note - 1
	switch {
	case i < 0 || i >= len(l.Notes):
		return lick.Insert{After: len(l.Notes) - 1, Place: p, Len: nextLength(l, f.Next)}, nil
	case f.Do == "add":
		return lick.Add{Note: i, Place: p}, nil
	}
	return lick.Move{Note: i, Place: p}, nil
}

// nextLength is the length that was asked for, else the last note's, an eighth for
// the first.
func nextLength(l lick.Lick, asked string) lick.Time {
	if t, err := lick.ParseTime(asked); err == nil && (lick.Time{}).Before(t) {
		return t
	}
	if n := len(l.Notes); n > 0 {
		return l.Notes[n-1].Len
	}
	return lick.NewTime(1, 8)
}

func noteEdit(g neck.Guitar, f benchForm, l lick.Lick, i int) (lick.Edit, error) {
	n := l.Notes[i]
	switch f.Do {
	case "insert":
		return lick.Insert{After: i, Place: n.Place(), Len: n.Len}, nil
	case "remove":
		return lick.Remove{Note: i}, nil
	case "earlier", "later":
		return lick.Swap{Note: i, Earlier: f.Do == "earlier"}, nil
	case "rest", "unrest":
		return lick.Rest{Note: i, Close: f.Do == "unrest"}, nil
	case "length":
		t, err := lick.ParseTime(f.Value)
		return lick.Length{Note: i, Len: t}, err
	case "finger":
		return fingerEdit(i, f.Value)
	case "stroke":
		return lick.SetStroke{Note: i, Stroke: lick.Stroke(f.Value)}, nil
	case "slur":
		return lick.SetSlur{Note: i, Slur: lick.Slur(f.Value)}, nil
	case "slidein":
		if n.SlideIn != nil && n.SlideIn.From == f.Value {
			return lick.SetSlideIn{Note: i}, nil
		}
		return lick.SetSlideIn{Note: i, SlideIn: &lick.SlideIn{Frets: 1, From: f.Value}}, nil
	case "mark":
		return lick.Toggle{Note: i, Mark: f.Value}, nil
	case "meant":
		return lick.SetMeant{Note: i, Code: f.Value, Meant: !n.Means(f.Value)}, nil
	case "degree":
		return degreeEdit(g, f, l, i)
	case "otherstring":
		return stringEdit(g, f, l, i)
	case "bend", "bendshape", "push", "helpers", "vibrato":
		return bendEdit(f, n, i, len(l.Tuning))
	}
	return nil, fmt.Errorf("%q is nothing that can be done here", cut(f.Do))
}

func fingerEdit(i int, value string) (lick.Edit, error) {
	if value == "" {
		return lick.SetFinger{Note: i}, nil
	}
	finger, err := lick.ParseFinger(value)
	return lick.SetFinger{Note: i, Finger: finger}, err
}

func bendEdit(f benchForm, n lick.Note, i, tuned int) (lick.Edit, error) {
	if f.Do == "vibrato" {
		if n.Vibrato != nil {
			return lick.SetVibrato{Note: i}, nil
		}
		return lick.SetVibrato{Note: i, Vibrato: &lick.Vibrato{Width: "wide", Speed: "slow"}}, nil
	}
	if f.Do == "bend" && f.Value == "" {
		return lick.SetBend{Note: i}, nil
	}
	b := lick.Bend{Shape: lick.BendUp}
	if n.Bend != nil {
		b = *n.Bend
	}
	switch f.Do {
	case "bend":
		amount, err := strconv.ParseFloat(f.Value, 64)
		if err != nil {
			return nil, errors.New("that is no bend")
		}
		b.Semitones = amount
	case "bendshape":
		if n.Bend == nil {
			return nil, errors.New("bend the note first")
		}
		b.Shape = lick.ShapeOf(b.Pre() != (f.Value == "pre"), b.Release() != (f.Value != "pre"))
	case "push":
		if n.Bend == nil {
			return nil, errors.New("bend the note first")
		}
		b.Push = b.Way(n.String, tuned).Other()
	case "helpers":
		if n.Bend == nil {
			return nil, errors.New("bend the note first")
		}
		b.With = nil
		for _, w := range strings.Fields(f.Value) {
			finger, err := lick.ParseFinger(w)
			if err != nil {
				return nil, err
			}
			b.With = append(b.With, finger)
		}
	}
	return lick.SetBend{Note: i, Bend: &b}, nil
}

// degreeEdit moves a note to the nearest place of a chosen tone.
func degreeEdit(g neck.Guitar, f benchForm, l lick.Lick, i int) (lick.Edit, error) {
	p, ok := l.Palette()
	if !ok {
		return nil, errors.New("choose the tones first")
	}
	d, err := music.ParseDegree(f.Value)
	if err != nil {
		return nil, err
	}
	place, ok := shape.Nearest(g, d.Over(p.Tonic).Class(), l.Notes[i].Place())
	if !ok {
		return nil, errors.New("that tone does not lie on this neck")
	}
	return lick.Move{Note: i, Place: place}, nil
}

// stringEdit moves a note to the same pitch on the next string.
func stringEdit(g neck.Guitar, f benchForm, l lick.Lick, i int) (lick.Edit, error) {
	n := l.Notes[i]
	step := 1
	if f.Value == "thinner" {
		step = -1
	}
	s := n.String + step
	if s < 1 || s > len(l.Tuning) {
		return nil, errors.New("there is no string beyond this one")
	}
	fret := int(l.Pitch(i) - l.Tuning[s-1])
	if fret < 0 || fret > g.Frets {
		return nil, errors.New("this pitch does not lie on that string")
	}
	return lick.Move{Note: i, Place: neck.Place{String: s, Fret: fret}}, nil
}

// fixEdit takes a fix of the judgement by its name: exactly what was shown.
func (a benchScreen) fixEdit(ctx context.Context, base store.Entry, f benchForm) (lick.Edit, error) {
	r, err := a.mended(ctx, base)
	if err != nil {
		return nil, err
	}
	for _, x := range r.Findings {
		for _, fix := range x.Fixes {
			if fix.ID == f.Value {
				return engineOf(ctx).Take(ctx, base.Lick, fix.Edit, fix.Small())
			}
		}
	}
	return nil, errors.New("that fix is no longer there; look again")
}

// settingOf reads the edits of the lick around its notes.
func settingOf(f benchForm, l lick.Lick) (lick.Edit, bool, error) {
	value := strings.TrimSpace(f.Value)
	var s lick.Setting
	switch f.Do {
	case "title":
		s.Title = &value
	case "tags":
		tags := splitTags(value)
		s.Tags = &tags
	case "tempo":
		t, err := strconv.ParseFloat(value, 64)
		if err != nil {
			return nil, true, fmt.Errorf("%q is no tempo: write a number from %d to %d", cut(value), lick.MinTempo,
				lick.MaxTempo)
		}
		s.Tempo = &t
	case "meter":
		m, err := lick.ParseMeter(value)
		if err != nil {
			return nil, true, err
		}
		s.Meter = &m
	case "pickup":
		t, err := lick.ParseTime(value)
		if err != nil {
			return nil, true, err
		}
		s.Pickup = &t
	case "feel":
		feel := lick.Feel(value)
		s.Feel = &feel
	case "loop":
		loop := value == "yes"
		s.Loop = &loop
	case "tonic", "scale", "tone":
		k, err := keyOf(f.Do, value, l)
		if err != nil {
			return nil, true, err
		}
		s.Key = &k
	default:
		return nil, false, nil
	}
	return s, true, nil
}

func splitTags(s string) []string {
	tags := []string{}
	for _, t := range strings.Split(s, ",") {
		if t = strings.TrimSpace(t); t != "" && !slices.Contains(tags, t) {
			tags = append(tags, t)
		}
	}
	return tags
}

// keyOf is the lick's key with one thing changed. With a new scale the added
// tones that are in it already go, and so do the dropped ones that are not.
func keyOf(do, value string, l lick.Lick) (lick.Key, error) {
	k := l.Clone().Key
	if k.Tonic == "" {
		k = lick.Key{Tonic: "A", Scale: "minor pentatonic"}
	}
	switch do {
	case "tonic":
		k.Tonic = value
	case "scale":
		sc, err := music.ParseScale(value)
		if err != nil {
			return k, err
		}
		k.Scale = sc.Name
		has := func(s string) bool {
			d, err := music.ParseDegree(strings.Split(s, "@")[0])
			return err == nil &&
				slices.ContainsFunc(sc.Degrees, func(o music.Degree) bool { return o.Semitones() == d.Semitones() })
		}
		k.Add = slices.DeleteFunc(k.Add, has)
		k.Drop = slices.DeleteFunc(k.Drop, func(s string) bool { return !has(s) })
	case "tone":
		return k.Toggle(value)
	}
	return k, nil
}
