package lick

import (
	"errors"
	"fmt"
	"slices"

	"ornamen/core/music"
)

// KeySpan is chosen tones from a time on; before the first one the lick's own key holds.
type KeySpan struct {
	At  Time `json:"at"`
	Key      // its fields stand beside the time in a file
}

// Part is a stretch of notes [From, To), counted from 0, that a recipe has grown, so that it
// can be grown again. Parts do not overlap and are in playing order.
type Part struct {
	From, To int
	Recipe   string // arguments of the run that made it
}

// KeyAt is the key that holds at a time.
func (l Lick) KeyAt(at Time) Key {
	k := l.Key
	for _, s := range l.Keys {
		if at.Before(s.At) {
			break
		}
		k = s.Key
	}
	return k
}

// PaletteAt is the chosen tones at a time; ok is false where no key holds.
func (l Lick) PaletteAt(at Time) (p music.Palette, ok bool) {
	if len(l.Keys) == 0 {
		return l.Palette()
	}
	return Lick{Key: l.KeyAt(at)}.Palette()
}

// PartOf is the part that holds note i, and its number; ok is false where the note belongs
// to none. A lick that one run has made is one part.
func (l Lick) PartOf(i int) (part Part, number int, ok bool) {
	for k, p := range l.Parts {
		if i >= p.From && i < p.To {
			return p, k, true
		}
	}
	if len(l.Parts) == 0 && l.Recipe != "" && i < len(l.Notes) {
		return Part{0, len(l.Notes), l.Recipe}, 0, true
	}
	return Part{}, 0, false
}

// ForgetRecipes lets go of what the lick was grown from, as it has become another line.
func (l *Lick) ForgetRecipes() { l.Recipe, l.Parts = "", nil }

// maxSpans is how many spans of tones, and how many parts, a lick may have.
const maxSpans = 400

// validateSpans says in one sentence what is wrong with keys by span or with parts.
func (l Lick) validateSpans() error {
	if len(l.Keys) > maxSpans || len(l.Parts) > maxSpans {
		return fmt.Errorf("a lick has at most %d spans of tones and as many parts", maxSpans)
	}
	if len(l.Keys) > 0 && l.Key.Tonic == "" {
		return errors.New("tones by span need the key that they begin with")
	}
	for i, s := range l.Keys {
		if i > 0 && !l.Keys[i-1].At.Before(s.At) || !s.At.Valid() {
			return fmt.Errorf("span %d of the tones does not begin after the one before it", i+1)
		}
		if _, err := music.NewPalette(s.Key.Tonic, s.Key.Scale, s.Key.Add, s.Key.Drop); err != nil {
			return fmt.Errorf("span %d of the tones: %w", i+1, err)
		}
	}
	end := 0
	for i, p := range l.Parts {
		switch {
		case p.From < end || p.To <= p.From || p.To > len(l.Notes):
			return fmt.Errorf("part %d does not lie after the one before it among the lick's %d notes", i+1,
				len(l.Notes))
		case p.Recipe == "" || len(p.Recipe) > maxRecipe:
			return fmt.Errorf("part %d has no recipe, or one longer than %d letters", i+1, maxRecipe)
		}
		end = p.To
	}
	return nil
}

// inserted makes the parts follow so many notes put in at index at: a part that begins there or later moves along, one
// that lies around it grows. A note at the seam of two parts belongs to neither.
func (l *Lick) inserted(at, n int) {
	l.Parts = slices.Clone(l.Parts)
	for i := range l.Parts {
		p := &l.Parts[i]
		if p.From >= at {
			p.From += n
		}
		if p.To > at {
			p.To += n
		}
	}
}

// removed makes the parts follow note i taken out; a part without notes goes.
func (l *Lick) removed(i int) {
	parts := l.Parts[:0:0]
	for _, p := range l.Parts {
		if p.From > i {
			p.From--
		}
		if p.To > i {
			p.To--
		}
		if p.From < p.To {
			parts = append(parts, p)
		}
	}
	l.Parts = parts
}

// shiftKeys moves the spans of tones that begin at a time or later.
func (l *Lick) shiftKeys(at, d Time) {
	l.Keys = slices.Clone(l.Keys)
	for i := range l.Keys {
		if s := &l.Keys[i]; !s.At.Before(at) {
			s.At = s.At.Add(d)
		}
	}
}

// JoinTones has b's tones hold from a time on, those of its later spans by so much later.
func (l *Lick) JoinTones(b Lick, seam, by Time) {
	if b.Key.Tonic == "" {
		return
	}
	if l.Key.Tonic == "" {
		l.Key = b.Key
	}
	if !l.KeyAt(seam).Same(b.Key) {
		l.Keys = append(l.Keys, KeySpan{At: seam, Key: b.Key})
	}
	for _, k := range b.Keys {
		k.At = k.At.Add(by)
		l.Keys = append(l.Keys, k)
	}
}
