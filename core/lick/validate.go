package lick

import (
	"cmp"
	"errors"
	"fmt"
	"math"
	"slices"
	"unicode/utf8"

	"ornamen/core/music"
	"ornamen/core/neck"
	"ornamen/core/text"
)

// Limits of a lick file. They are beyond what is played: 20,000 sixteenths at 120 are forty minutes.
const (
	MaxNotes             = 20_000
	MaxFret              = 36
	MinTempo, MaxTempo   = 10, 400
	maxTitle, maxTag     = 200, 40
	maxTags, maxChords   = 40, 2_000
	maxChord, maxRecipe  = 40, 4_000
	maxMeant, maxHelpers = 40, 3

	MaxSlideIn = 12 // frets
)

// bendAmounts are how far a bend may go, in half steps: a curl, half, full, one and a half, two.
var bendAmounts = []float64{0.5, 1, 2, 3, 4}

// NearestBend is the bend that a lick can hold nearest to one of so many half steps, the smaller
// of two that are as near: other programs also know a step and a quarter.
func NearestBend(semitones float64) float64 {
	best := bendAmounts[0]
	for _, b := range bendAmounts {
		if math.Abs(b-semitones) < math.Abs(best-semitones) {
			best = b
		}
	}
	return best
}

// Validate says in one sentence what the format does not allow. Notes are numbered as they stand in l.Notes. What can
// be written but not played is no error: judging finds it.
//
// Every reader and every edit ends with it, so that what is kept, drawn or judged is within these limits.
func (l Lick) Validate() error {
	switch {
	case utf8.RuneCountInString(l.Title) > maxTitle:
		return fmt.Errorf("the title is longer than %d letters", maxTitle)
	case len(l.Tags) > maxTags:
		return fmt.Errorf("a lick has at most %d tags", maxTags)
	case len(l.Tuning) < neck.MinStrings || len(l.Tuning) > neck.MaxStrings:
		return fmt.Errorf("the tuning must name %d to %d strings, not %d", neck.MinStrings, neck.MaxStrings,
			len(l.Tuning))
	case !(l.Tempo >= MinTempo && l.Tempo <= MaxTempo):
		return fmt.Errorf("the tempo must be %d to %d", MinTempo, MaxTempo)
	case l.Feel != Straight && l.Feel != Shuffle:
		return fmt.Errorf("feel %q is none: use straight or shuffle", text.Clip(string(l.Feel), 40))
	case !l.Meter.valid():
		return fmt.Errorf("%s is not a meter", l.Meter)
	case !l.Pickup.Valid():
		return errors.New("the pick-up is out of range")
	case len(l.Recipe) > maxRecipe:
		return fmt.Errorf("the recipe is longer than %d letters", maxRecipe)
	case len(l.Notes) > MaxNotes:
		return fmt.Errorf("a lick has at most %d notes", MaxNotes)
	case len(l.Chords) > maxChords:
		return fmt.Errorf("a lick has at most %d chords", maxChords)
	}
	for _, t := range l.Tags {
		if n := utf8.RuneCountInString(t); n == 0 || n > maxTag {
			return fmt.Errorf("a tag has 1 to %d letters", maxTag)
		}
	}
	if l.Key.Tonic != "" {
		if _, err := music.NewPalette(l.Key.Tonic, l.Key.Scale, l.Key.Add, l.Key.Drop); err != nil {
			return fmt.Errorf("key: %w", err)
		}
	}
	if err := l.validateSpans(); err != nil {
		return err
	}
	for i, c := range l.Chords {
		if err := c.validate(); err != nil {
			return fmt.Errorf("chord %d: %w", i+1, err)
		}
	}
	for i, n := range l.Notes {
		if err := l.validateNote(n); err != nil {
			return fmt.Errorf("note %d: %w", i+1, err)
		}
	}
	return l.validateOverlap()
}

// validate says in one sentence what is wrong with a chord.
func (c Chord) validate() error {
	switch {
	case !c.At.Valid() || !c.Len.Valid() || c.Len.IsZero():
		return errors.New("its time is out of range")
	case c.Name == "" || utf8.RuneCountInString(c.Name) > maxChord:
		return errors.New("its name is missing or too long")
	}
	_, err := music.ParseChord(c.Name)
	return err
}

// validateNote says in one sentence what is wrong with a note taken alone, without its number.
// Whether it can be played on this guitar, by this hand, is the judge's.
func (l Lick) validateNote(n Note) error {
	switch {
	case n.String < 1 || n.String > len(l.Tuning):
		return fmt.Errorf("string %d is none: use 1 to %d", n.String, len(l.Tuning))
	case n.Fret < 0 || n.Fret > MaxFret:
		return fmt.Errorf("fret %d is none: use 0 to %d", n.Fret, MaxFret)
	case !n.At.Valid():
		return errors.New("its time is out of range")
	case !n.Len.Valid():
		return errors.New("its length is out of range")
	case n.Len.IsZero():
		return errors.New("its length must be more than 0")
	case n.Slur.Slurred() && n.Stroke != "":
		return fmt.Errorf("a note reached by a %s takes no stroke", n.Slur)
	case len(n.Meant) > maxMeant:
		return errors.New("it marks too many findings as meant")
	}
	if err := cmp.Or(oneOf("stroke", n.Stroke, strokes...), oneOf("slur", n.Slur, slurs...)); err != nil {
		return err
	}
	if err := oneOf("voice", n.Voice, VoiceBass); err != nil {
		return fmt.Errorf("voice %q is none: use line or bass", text.Clip(string(n.Voice), 40))
	}
	if b := n.Bend; b != nil {
		if !slices.Contains(bendAmounts, b.Semitones) {
			return fmt.Errorf("a bend of %g half steps is none: use 0.5, 1, 2, 3 or 4", b.Semitones)
		}
		if err := cmp.Or(needed("bend shape", b.Shape, BendShapes()...), oneOf("push", b.Push, ToThick, ToThin)); err != nil {
			return err
		}
		if len(b.With) > maxHelpers {
			return fmt.Errorf("a bend has at most %d helping fingers", maxHelpers)
		}
		for _, f := range b.With {
			if !f.Fretting() {
				return errors.New("only fingers 1 to 4 help a bend")
			}
		}
	}
	if v := n.Vibrato; v != nil {
		if err := cmp.Or(needed("vibrato width", v.Width, Narrow, Wide),
			needed("vibrato speed", v.Speed, Slow, Fast)); err != nil {
			return err
		}
	}
	if s := n.SlideIn; s != nil {
		if s.Frets < 1 || s.Frets > MaxSlideIn {
			return fmt.Errorf("a slide in from %d frets away is none: use 1 to %d", s.Frets, MaxSlideIn)
		}
		if err := needed("slide in from", s.From, FromBelow, FromAbove); err != nil {
			return err
		}
	}
	if err := n.validateOwn(); err != nil {
		return err
	}
	for _, f := range n.Lock {
		if err := needed("lock", f, lockFields...); err != nil {
			return err
		}
	}
	for _, m := range n.Meant {
		if m == "" || len(m) > maxTag {
			return errors.New("a meant finding is named by its code")
		}
	}
	return nil
}

// validateOverlap refuses two notes that sound at once on one string. The later note is named: it is the one that was
// put where there was no room. One pass in playing order with the last note of each string.
func (l Lick) validateOverlap() error {
	order := l.order()
	last := map[int]int{} // string → note that sounded last
	for _, i := range order {
		n := l.Notes[i]
		if j, ok := last[n.String]; ok && n.At.Before(l.Notes[j].End()) {
			return fmt.Errorf("note %d: it starts on string %d before note %d there has ended", i+1, n.String, j+1)
		}
		last[n.String] = i
	}
	return nil
}

// order lists the notes' indices in playing order.
func (l Lick) order() []int {
	idx := make([]int, len(l.Notes))
	for i := range idx {
		idx[i] = i
	}
	slices.SortStableFunc(idx, func(i, j int) int { return l.Notes[i].compare(l.Notes[j]) })
	return idx
}

// compare is playing order: by time, thick strings first.
func (n Note) compare(m Note) int {
	if c := n.At.Cmp(m.At); c != 0 {
		return c
	}
	return cmp.Compare(m.String, n.String)
}

// Sort puts the notes in playing order.
func (l *Lick) Sort() { slices.SortStableFunc(l.Notes, Note.compare) }

// oneOf refuses a word that is not among the allowed ones; one that is empty says nothing.
func oneOf[W ~string](field string, word W, allowed ...W) error {
	if word == "" {
		return nil
	}
	return needed(field, word, allowed...)
}

// needed refuses a word that is not among the allowed ones, an empty one too.
func needed[W ~string](field string, word W, allowed ...W) error {
	if slices.Contains(allowed, word) {
		return nil
	}
	return fmt.Errorf("%s %q is none: use %s", field, text.Clip(string(word), 40),
		text.Join(allowed, ", ", func(w W) string { return string(w) }))
}
