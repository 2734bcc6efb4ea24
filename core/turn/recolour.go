package turn

import (
	"slices"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/run"
	"ornamen/core/shape"
)

// Recolour moves a line to other tones, as shape.Recolour does, and keeps what is said of it true: the
// recipe in the other key where that grows the very line, also from another place, or in the layout
// that the old scale has by itself; a title that the recipe gave follows.
func Recolour(l lick.Lick, g neck.Guitar, to music.Palette, manner shape.Manner) (shape.Recoloured, error) {
	out, err := shape.Recolour(l, g, to, manner)
	if err != nil || l.Recipe == "" {
		return out, err
	}
	old, err := run.Parse(l.Recipe)
	if err != nil {
		return out, nil // written by a later version, say
	}
	titled := l.Title == old.Title()
	if r, ok := recipeIn(old, out.Lick, g, to); ok {
		out.Lick.Recipe = r.String()
		if titled {
			out.Lick.Title = r.Title()
		}
	} else if titled {
		out.Lick.Title = to.Pretty()
	}
	return out, nil
}

// recipeIn is a recipe in another key that grows a line note for note; ok is false where none of a few hundred does.
func recipeIn(old run.Recipe, want lick.Lick, g neck.Guitar, to music.Palette) (r run.Recipe, ok bool) {
	if old.Then != "" {
		return r, false
	}
	r = old
	key := shape.KeyOf(to)
	r.Key = key.Tonic + " " + key.Scale
	r.Add, r.Drop = strings.Join(key.Add, ","), strings.Join(key.Drop, ",")
	layouts := []string{old.Layout}
	if from, err := music.ParseKey(old.Key, nil, nil); err == nil && old.Layout == "" {
		layouts = append(layouts, shape.Default(from.Scale).Name())
	}
	str := len(g.Tuning)
	if at, err := neck.ParsePlace(old.At); err == nil {
		str = at.String
	}
	for _, layout := range layouts {
		r.Layout = layout
		places := []string{old.At, ""}
		for fret := range g.Frets + 1 {
			places = append(places, neck.Place{String: str, Fret: fret}.Notation())
		}
		for _, at := range places {
			r.At = at
			if x, err := run.Grow(r, g); err == nil && sameLine(x.Lick.Notes, want.Notes) {
				return r, true
			}
		}
	}
	return r, false
}

// sameLine says whether two lines have the same notes at the same times.
func sameLine(a, b []lick.Note) bool {
	return slices.EqualFunc(a, b, func(a, b lick.Note) bool {
		return a.Place() == b.Place() && a.At.Cmp(b.At) == 0 && a.Slur == b.Slur
	})
}
