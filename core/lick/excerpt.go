package lick

import "slices"

// Excerpt is a stretch of a long lick as a lick of its own, so that it can be looked at and changed without the rest.
type Excerpt struct {
	Lick     Lick // from the stretch's beginning on
	From, To int  // its notes [From, To) in the whole lick, from 0
	at, end  Time // where it begins and ends there
}

// Excerpt cuts the notes that begin from one time to before another out of a lick, with the chords, tones and parts of
// that time. What rings into it from before is left out, and it is no loop. A beginning that is not the lick's own
// should be a bar's, so that the beats stay what they are; then no bar lies before it.
func (l Lick) Excerpt(from, to Time) Excerpt {
	x := Excerpt{at: from, end: to}
	x.From = firstFrom(l.Notes, from)
	x.To = max(x.From, firstFrom(l.Notes, to))
	part := l
	part.Loop, part.Recipe, part.Keys, part.Parts, part.Chords, part.Notes = false, "", nil, nil, nil, nil
	if from.Cmp(Time{}) > 0 {
		part.Pickup = Time{}
	}
	part.Key = l.KeyAt(from)
	part.Notes = moved(nil, l.Notes[x.From:x.To], Time{}.Sub(from))
	for _, c := range l.Chords {
		if begin, end := Later(c.At, from), Earlier(c.End(), to); begin.Before(end) {
			part.Chords = append(part.Chords, Chord{At: begin.Sub(from), Len: end.Sub(begin), Name: c.Name})
		}
	}
	for _, k := range l.Keys {
		if from.Before(k.At) && k.At.Before(to) {
			part.Keys = append(part.Keys, KeySpan{k.At.Sub(from), k.Key})
		}
	}
	for _, p := range l.Parts {
		if p.From >= x.From && p.To <= x.To {
			part.Parts = append(part.Parts, Part{p.From - x.From, p.To - x.From, p.Recipe})
		}
	}
	x.Lick = part.Clone()
	return x
}

// Into puts a changed excerpt back in its place in the lick that it was cut from. What follows moves along where the
// excerpt has become longer. Tempo, meter, tuning, title and the like are the excerpt's, tones only where it begins
// with those of the lick; whether the line is a loop stays.
func (x Excerpt) Into(l, part Lick) Lick {
	out := part.Clone()
	out.Loop, out.Pickup, out.Key, out.Recipe = l.Loop, l.Pickup, l.Key, l.Recipe
	if x.at.Cmp(Time{}) <= 0 {
		out.Pickup, out.Key = part.Pickup, part.Key
	}
	grown := Later(part.End().Sub(Later(x.Lick.End(), x.end.Sub(x.at))), Time{})
	out.Chords, out.Keys, out.Parts = nil, nil, nil
	out.Notes = moved(slices.Clone(l.Notes[:x.From]), part.Notes, x.at)
	out.Notes = moved(out.Notes, l.Notes[x.To:], grown)
	add := func(c Chord) {
		if k := len(out.Chords) - 1; k >= 0 && out.Chords[k].Name == c.Name && out.Chords[k].End().Cmp(c.At) == 0 {
			out.Chords[k].Len = out.Chords[k].Len.Add(c.Len) // cut in two by the excerpt's end
			return
		}
		out.Chords = append(out.Chords, c)
	}
	for _, c := range l.Chords {
		if end := Earlier(c.End(), x.at); c.At.Before(end) {
			add(Chord{At: c.At, Len: end.Sub(c.At), Name: c.Name})
		}
	}
	for _, c := range part.Chords {
		add(Chord{At: c.At.Add(x.at), Len: c.Len, Name: c.Name})
	}
	for _, c := range l.Chords {
		if begin, end := Later(c.At, x.end), c.End(); begin.Before(end) {
			add(Chord{At: begin.Add(grown), Len: end.Sub(begin), Name: c.Name})
		}
	}
	for _, k := range l.Keys {
		switch {
		case k.At.Cmp(x.at) <= 0:
			out.Keys = append(out.Keys, k)
		case !k.At.Before(x.end):
			out.Keys = append(out.Keys, KeySpan{k.At.Add(grown), k.Key})
		}
	}
	for _, k := range part.Keys {
		out.Keys = append(out.Keys, KeySpan{k.At.Add(x.at), k.Key})
	}
	slices.SortStableFunc(out.Keys, func(a, b KeySpan) int { return a.At.Cmp(b.At) })
	more := len(part.Notes) - (x.To - x.From)
	for _, p := range l.Parts {
		switch {
		case p.To <= x.From:
			out.Parts = append(out.Parts, p)
		case p.From >= x.To:
			out.Parts = append(out.Parts, Part{p.From + more, p.To + more, p.Recipe})
		}
	}
	for _, p := range part.Parts {
		out.Parts = append(out.Parts, Part{p.From + x.From, p.To + x.From, p.Recipe})
	}
	slices.SortStableFunc(out.Parts, func(a, b Part) int { return a.From - b.From })
	if len(out.Parts) > 0 || more != 0 {
		out.Recipe = "" // the whole is no longer what it was grown as
	}
	return out
}

// moved appends notes by so much later to others.
func moved(to, notes []Note, by Time) []Note {
	for _, n := range notes {
		n.At = n.At.Add(by)
		to = append(to, n)
	}
	return to
}

// firstFrom is the first note that begins at a time or after it.
func firstFrom(notes []Note, at Time) int {
	i, _ := slices.BinarySearchFunc(notes, at, func(n Note, at Time) int { return n.At.Cmp(at) })
	return i
}

// Later is the later of two times.
func Later(a, b Time) Time {
	if a.Before(b) {
		return b
	}
	return a
}

// Earlier is the earlier of two times.
func Earlier(a, b Time) Time {
	if b.Before(a) {
		return b
	}
	return a
}
