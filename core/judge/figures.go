package judge

import (
	"errors"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/say"
)

// higher moves every note up the neck, and key and chords with it.
type higher struct {
	guitar neck.Guitar
	by     int
}

// key is the key that the figure is then in, spelled as it is usually written.
func (e higher) key(k lick.Key) lick.Key {
	p, ok := lick.Lick{Key: k}.Palette()
	if !ok {
		return k
	}
	k.Tonic = music.UsualName(p.Tonic.Class()+e.by, p.Minor()).String()
	return k
}

// Apply implements lick.Edit.
func (e higher) Apply(l lick.Lick) (lick.Lick, error) {
	out := l.Clone()
	for i := range out.Notes {
		n := &out.Notes[i]
		n.Fret += e.by
		if n.Fret == e.by || !e.guitar.Has(n.Place()) {
			return l, errors.New("the figure does not lie there")
		}
	}
	out.Key = e.key(l.Key)
	out.TransposeChords(e.by)
	out.ForgetRecipes()
	return out, out.Validate()
}

// What implements lick.Edit.
func (e higher) What() string { return strings.ToLower(say.FretsUp(e.by, lick.Key{})) }

// nextStrings moves every note to the neighbouring string at the same pitch.
type nextStrings struct {
	guitar neck.Guitar
	by     int
}

// Apply implements lick.Edit. A figure with an open string stays where it is: only that string sounds so.
func (e nextStrings) Apply(l lick.Lick) (lick.Lick, error) {
	out := l.Clone()
	for i := range out.Notes {
		n := &out.Notes[i]
		at := neck.Place{String: n.String + e.by}
		if at.String < 1 || at.String > len(e.guitar.Tuning) {
			return l, errors.New("there is no string beyond")
		}
		at.Fret = int(e.guitar.Pitch(n.Place()) - e.guitar.Tuning[at.String-1])
		if !e.guitar.Has(at) || at.Fret == 0 || n.Fret == 0 {
			return l, errors.New("the figure does not lie there")
		}
		n.String, n.Fret = at.String, at.Fret
		if n.Finger.Fretting() {
			n.Finger, n.Lock = lick.NoFinger, n.Lock.With(lick.FieldFinger, false)
		}
	}
	out.Sort()
	return out, out.Validate()
}

// What implements lick.Edit.
func (nextStrings) What() string { return "the figure elsewhere" }

// openStrokes leaves the strokes of the pick open that the player has not locked, or all of them.
type openStrokes struct{ locked bool }

// Apply implements lick.Edit.
func (e openStrokes) Apply(l lick.Lick) (lick.Lick, error) {
	out := l.Clone()
	for i := range out.Notes {
		n := &out.Notes[i]
		if n.Stroke != lick.Down && n.Stroke != lick.Up || n.Locked(lick.FieldStroke) && !e.locked {
			continue
		}
		n.Stroke, n.Lock = "", n.Lock.With(lick.FieldStroke, false)
	}
	return out, nil
}

// What implements lick.Edit.
func (openStrokes) What() string { return "strokes open" }
