package shape

import (
	"errors"
	"fmt"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/text"
)

// Manner says where a line goes when its key changes.
type Manner string

// The manners.
const (
	NearestPlace Manner = "nearest" // the shortest way up or down
	SamePlace    Manner = "same"    // the same frets of the neck, other strings and fingers
	OctaveUp     Manner = "octave"  // the shortest way, an octave higher
)

// ParseManner reads a manner.
func ParseManner(s string) (Manner, error) {
	return text.Word(s, string(NearestPlace), "%q is no way to move: use nearest, same or octave",
		NearestPlace, SamePlace, OctaveUp)
}

// Recoloured is a lick in other tones, and what happened to each note.
type Recoloured struct {
	Lick    lick.Lick
	Changes []NoteChange // one a note
}

// NoteChange is one note before and after.
type NoteChange struct {
	Note          int // from 1
	Before, After string
	From, To      neck.Place
	Changed       bool // another degree or, in the same key, another pitch
}

// Recolour moves a line to another palette: each tone to the tone with the same degree number, colour notes and
// approaches along with the tone they lead to. Fingers and strokes that are not locked are left open; slurs turn where
// the line turns, bends go to the tone their target becomes.
//
// As an example, the ♭3 of A minor pentatonic at 3:5 becomes the 3 of A major pentatonic at 3:6, and a full bend from
// it to the 4, which stays where it is, half a step. The guitar must have the lick's tuning.
func Recolour(l lick.Lick, g neck.Guitar, to music.Palette, manner Manner) (Recoloured, error) {
	from, ok := l.Palette()
	if !ok {
		return Recoloured{}, errors.New("the lick has no key, so there is nothing to recolour from; choose its tones first")
	}
	r := recolouring{from: from, to: to, shift: keyShift(from, to, manner)}
	out := l.Clone()
	out.Key = KeyOf(to)
	r.around(&out)
	res := Recoloured{Changes: make([]NoteChange, len(l.Notes))}
	lo, hi := window(l)
	for i := range out.Notes {
		n := &out.Notes[i]
		pitch := l.Pitch(i)
		next := r.pitch(l, i)
		place, ok := r.place(g, *n, next, manner, lo, hi)
		if !ok {
			return Recoloured{}, fmt.Errorf("note %d would be %s, which does not lie on this neck; try another way or octave",
				i+1, to.At(next).Name.PrettyWithOctave(next))
		}
		was, is := from.At(pitch), to.At(next)
		res.Changes[i] = NoteChange{Note: i + 1, Before: was.Degree.Pretty(), After: is.Degree.Pretty(), From: n.Place(),
			To: place, Changed: was.Degree.Semitones() != is.Degree.Semitones()}
		if n.Bend != nil && n.Bend.Semitones >= 1 {
			r.bend(n, pitch, next)
		}
		n.String, n.Fret = place.String, place.Fret
		if !n.Locked(lick.FieldFinger) || n.Fret == 0 {
			n.Finger = lick.NoFinger
		}
	}
	out.FitSlurs()
	out.ForgetRecipes()
	if err := out.Validate(); err != nil {
		return Recoloured{}, fmt.Errorf("recoloured, %w", err)
	}
	out.Sort()
	res.Lick = out
	return res, nil
}

// around moves the chords and the tones by span along with the key.
func (r recolouring) around(l *lick.Lick) {
	by := (r.shift + 24) % 12
	if by == 0 {
		return
	}
	l.TransposeChords(by)
	for i, k := range l.Keys {
		if p, ok := (lick.Lick{Key: k.Key}).Palette(); ok {
			l.Keys[i].Key.Tonic = music.UsualName(p.Tonic.Class()+by, p.Minor()).String()
		}
	}
}

// ToKey reads "C# dorian" as the tones to recolour a lick to: those that were added stay,
// where the new scale has them not already.
func ToKey(l lick.Lick, text string) (music.Palette, error) {
	p, err := music.ParseKey(text, nil, nil)
	if err != nil {
		return p, err
	}
	var add []string
	for _, w := range l.Key.Add {
		word, _, _ := strings.Cut(w, "@")
		if d, err := music.ParseDegree(word); err == nil && !p.Has(d) {
			add = append(add, w)
		}
	}
	return music.ParseKey(text, add, nil)
}

// KeyOf writes a palette as a lick's key.
func KeyOf(p music.Palette) lick.Key {
	return lick.Key{Tonic: p.Tonic.String(), Scale: p.Scale.Name, Add: holdTexts(p), Drop: dropTexts(p)}
}

// recolouring is the way from one palette to another.
type recolouring struct {
	from, to music.Palette
	shift    int // half steps from the old root to the new one
}

// keyShift is the way from one root to the other.
func keyShift(from, to music.Palette, manner Manner) int {
	d := (to.Tonic.Class() - from.Tonic.Class() + 12) % 12
	if d > 6 {
		d -= 12
	}
	if manner == OctaveUp {
		d += 12
	}
	return d
}

// pitch is what note i becomes.
func (r recolouring) pitch(l lick.Lick, i int) music.Pitch {
	p := l.Pitch(i)
	if r.from.At(p).Role == music.Outside {
		// An approach goes along with the tone it leads to, else with the one before it.
		for _, k := range []int{i + 1, i - 1} {
			if k >= 0 && k < len(l.Notes) && r.from.At(l.Pitch(k)).Role != music.Outside {
				return p + r.mapped(l.Pitch(k)) - l.Pitch(k)
			}
		}
		return p + music.Pitch(r.shift)
	}
	return r.mapped(p)
}

// mapped moves a tone of the old palette to the new one's with its degree number; where the new one has none, it stays
// as far from the root as it was. A 9 counts as a 2. Of two with one number, as ♭3 and 3 in a blues, the nearer.
func (r recolouring) mapped(p music.Pitch) music.Pitch {
	d := r.from.At(p).Degree
	base := p + music.Pitch(r.shift)
	best, found := 0, false
	for _, t := range r.to.Tones {
		if (t.Degree.Number-1)%7 != (d.Number-1)%7 {
			continue
		}
		diff := (t.Degree.Semitones()-d.Semitones()+18)%12 - 6
		if !found || abs(diff) < abs(best) {
			best, found = diff, true
		}
	}
	return base + music.Pitch(best)
}

// place finds where the new pitch goes: on its string along with the key, or within the old
// frets where those are to stay; a fret outside them counts more than any string.
func (r recolouring) place(g neck.Guitar, n lick.Note, pitch music.Pitch, manner Manner,
	lo, hi int) (neck.Place, bool) {
	same := neck.Place{String: n.String, Fret: int(pitch - g.Tuning[n.String-1])}
	if (manner != SamePlace || r.shift == 0) && g.Has(same) {
		return same, true
	}
	return g.Best(pitch, func(p neck.Place) int {
		outside := max(0, lo-p.Fret, p.Fret-hi)
		return 100*outside + 3*abs(p.String-n.String) + abs(p.Fret-(lo+hi)/2)
	})
}

// window is the frets that a line lies in.
func window(l lick.Lick) (lo, hi int) {
	lo = lick.MaxFret
	for _, n := range l.Notes {
		lo, hi = min(lo, n.Fret), max(hi, n.Fret)
	}
	return lo, hi
}

// bend keeps the target's degree, where a finger can make that bend.
func (r recolouring) bend(n *lick.Note, before, after music.Pitch) {
	target := r.mapped(before + music.Pitch(n.Bend.Semitones))
	if d := int(target - after); d >= 1 && d <= maxBend {
		b := *n.Bend
		b.Semitones = float64(d)
		n.Bend = &b
	}
}
