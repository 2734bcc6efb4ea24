package run

import (
	"slices"
	"strings"

	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/shape"
)

// InKey is the recipe in another key, as players name one: "A minor pentatonic", "Gm", "B♭", "C# minor
// pent". A root by itself keeps the scale, and so does a minor or a major root over a scale of that kind.
// The run begins on the same degree, or on the root where the new key lacks it, at the place nearest to
// where it began from which it can be played; a shape that the new scale cannot have becomes its usual
// one, and what it lands on the root. The error is that the text is no key, in a sentence.
func (r Recipe) InKey(g neck.Guitar, text string) (Recipe, error) {
	out := r
	old, oldErr := music.ParseKey(r.Key, nil, nil)
	out.Key = spoken(text, old, oldErr == nil)
	to, err := music.ParseKey(out.Key, nil, nil)
	if err != nil {
		return r, err
	}
	out.Key = strings.TrimSpace(to.Tonic.String() + " " + to.Scale.Name)
	// What is added or dropped must still be possible.
	if _, err := music.ParseKey(out.Key, listed(out.Add), listed(out.Drop)); err != nil {
		out.Add, out.Drop = "", ""
	}
	if l, err := ParseLanding(out.Land); out.Land != "" &&
		(err != nil || !l.OfChord && l.Word == "" && !to.Has(l.Degree)) {
		l.Degree, l.Word, l.OfChord = music.Degree{Number: 1}, "", false
		out.Land = l.String()
	}
	if grown(out, g) && r.At == "" {
		return out, nil
	}
	from, degree := begins(r, old, oldErr == nil, g)
	for _, layout := range slices.Compact([]string{out.Layout, ""}) {
		out.Layout = layout
		for _, at := range startsOf(to, degree, from, g) {
			if out.At = at.Notation(); grown(out, g) {
				return out, nil
			}
		}
	}
	// From nowhere: as the layout begins by itself, which says what is wrong if that cannot be.
	out.Layout, out.At = r.Layout, ""
	if !grown(out, g) {
		out.Layout = ""
	}
	return out, nil
}

// grown says whether a recipe can be grown.
func grown(r Recipe, g neck.Guitar) bool {
	_, err := Grow(r, g)
	return err == nil
}

// begins is where a recipe begins, and on which degree of its key.
func begins(r Recipe, p music.Palette, known bool, g neck.Guitar) (at neck.Place, d music.Degree) {
	at = neck.Place{String: len(g.Tuning), Fret: 5}
	if !known {
		return at, d
	}
	layout := shape.Default(p.Scale)
	if l, err := shape.ParseLayout(r.Layout); r.Layout != "" && err == nil {
		layout = l
	}
	at = shape.Start(g, p, layout)
	if given, err := neck.ParsePlace(r.At); err == nil && given.String >= 1 && given.String <= len(g.Tuning) {
		at = given
	}
	return at, p.At(g.Pitch(at)).Degree
}

// startsOf are the places of a degree in a key, the nearest to a place first, its own string before others;
// then those of the root.
func startsOf(p music.Palette, d music.Degree, from neck.Place, g neck.Guitar) (out []neck.Place) {
	class := p.Tonic.Class()
	classes := []int{class}
	away := func(at neck.Place) int {
		return max(at.Fret-from.Fret, from.Fret-at.Fret) + 100*max(at.String-from.String, from.String-at.String)
	}
	if p.Has(d) && d.Semitones() > 0 {
		classes = []int{(class + d.Semitones()) % 12, class}
	}
	for _, c := range classes {
		var places []neck.Place
		for s := 1; s <= len(g.Tuning); s++ {
			for f := 0; f <= g.Frets; f++ {
				if at := (neck.Place{String: s, Fret: f}); g.Pitch(at).Class() == c {
					places = append(places, at)
				}
			}
		}
		slices.SortStableFunc(places, func(a, b neck.Place) int { return away(a) - away(b) })
		out = append(out, places...)
	}
	return out
}

// spoken is a key as a recipe has it: a root alone, or with a minor or a major behind it, keeps the scale of the key
// before where that says the same; all else is read as any key is.
func spoken(text string, old music.Palette, known bool) string {
	tonic, scale := music.SplitKey(text)
	root, kind := music.KindOf(tonic)
	if _, err := music.ParseName(root); err != nil || scale != "" || !known {
		return text
	}
	third := func(semitones int) bool {
		return slices.ContainsFunc(old.Scale.Degrees, func(d music.Degree) bool { return d.Semitones() == semitones })
	}
	switch {
	case kind == "",
		kind == "minor" && third(3) && !third(4),
		kind == "major" && third(4) && !third(3):
		return root + " " + old.Scale.Name
	}
	return text
}

// listed splits what is added or dropped.
func listed(s string) []string {
	return strings.FieldsFunc(s, func(c rune) bool { return c == ',' || c == ' ' })
}
