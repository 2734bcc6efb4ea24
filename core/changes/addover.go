package changes

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
)

// AddOver adds tones to the line's own while a chord lasts, wherever it comes: added tones may differ from chord to
// chord (common practice: the ♭9 over the dominant alone). What is written is the chord's name, a colon and degrees
// of the key, "G7: b9, b13"; no degrees take away what was added there. The notes stay as they are.
func AddOver(l lick.Lick, text string) (lick.Lick, error) {
	name, degrees, ok := strings.Cut(text, ":")
	if !ok {
		return l, errors.New("write the chord and the tones that are added over it, as in add:G7: b9")
	}
	if _, has := l.Palette(); !has {
		return l, errors.New("the line has no key that tones could be added to; choose its tones first")
	}
	chord, err := Sign(name, l.Key)
	if err != nil {
		return l, err
	}
	add := strings.FieldsFunc(degrees, func(r rune) bool { return r == ' ' || r == ',' })
	for _, w := range add {
		if _, err := music.ParseDegree(w); err != nil {
			return l, err
		}
	}
	out := l.Clone()
	r := Read(l)
	found := false
	out.Keys = nil
	for k, c := range r.Chords {
		key := l.KeyAt(c.At)
		if c.Name == chord {
			found = true
			key.Add = slices.DeleteFunc(slices.Clone(l.Key.Add), func(t string) bool { return slices.Contains(add, t) })
			key.Add = append(key.Add, add...)
		}
		switch now := out.KeyAt(c.At); {
		case k == 0 && c.At.IsZero():
			out.Key = key
		case !now.Same(key):
			out.Keys = append(out.Keys, lick.KeySpan{At: c.At, Key: key})
		}
	}
	if !found {
		return l, fmt.Errorf("%s is none of the chords under the line", chord)
	}
	return out, out.Validate()
}
