package say

import (
	"fmt"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
)

// tone names a tone by its letter and its degree: "E, the 3".
func tone(t music.Tone) string { return fmt.Sprintf("%s, the %s", t.Name.Pretty(), t.Degree.Pretty()) }

// Outside is a tone that was not chosen and leads nowhere.
func Outside(t music.Tone, p music.Palette) Words {
	return words("a tone outside", "%s, is not among the tones of %s and does not lead into one by a half step.",
		tone(t), p.Pretty())
}

// OutsideEnclosed is a tone that was not chosen and yet is what two notes, from 0, close in on.
func OutsideEnclosed(t music.Tone, p music.Palette, a, b int) Words {
	return words("a tone outside", "%s, is not among the tones of %s; notes %d and %d enclose it.", tone(t), p.Pretty(),
		a+1, b+1)
}

// LeadsInto says what a tone outside does there: it goes on by a half step into a chosen one.
func LeadsInto(to music.Tone) string { return "leads into " + tone(to) }

// Encloses says the same of one of two notes around a chosen tone; other counts from 0.
func Encloses(to music.Tone, other int) string {
	return fmt.Sprintf("encloses %s, with note %d", tone(to), other+1)
}

// ChordPlace is where a chord begins: "bar 2", "beat 3 of bar 2".
func ChordPlace(l lick.Lick, at lick.Time) string {
	p := l.Position(at)
	if p.Beat == 1 && p.Off.IsZero() {
		return fmt.Sprintf("bar %d", p.Bar)
	}
	return fmt.Sprintf("beat %d of bar %d", p.Beat, p.Bar)
}

// verb puts the ending of the third person to a verb that speaks of one thing.
func verb(word string, n int) string {
	if n == 1 {
		return word + "s"
	}
	return word
}

// LandsEarly is a phrase that is at the tones of a chord, as "root and fifth", so many beats
// before it, while the chord before still holds.
func LandsEarly(tones []string, chord, over, beats string) Words {
	return words("lands early", "The %s of %s %s %s before it, over %s.", strings.Join(tones, " and "), chord,
		verb("sound", len(tones)), beats, over)
}

// LandsLate is a phrase that comes to the tones of a chord so many beats after it begins.
func LandsLate(tones []string, chord, place, beats string) Words {
	return words("lands late", "%s begins in %s; its %s %s %s after it.", chord, place, strings.Join(tones, " and "),
		verb("come", len(tones)), beats)
}

// MissesChord is a chord over which nothing tells which chord it is.
func MissesChord(chord, place string) Words {
	return words("misses the chord", "Over %s, from %s on, sounds none of its root, third, fifth and seventh.", chord,
		place)
}

// clashes is the title of both findings about a half step.
const clashes = "clashes with the chord"

// Clash is a tone a half step above one of the chord, which stays.
func Clash(degree music.Degree, chord string, below music.Degree) Words {
	return words(clashes, "The %s over %s lies a half step above its %s and does not go on by step.", degree.Pretty(),
		chord, below.Pretty())
}

// BlueThird is the ♭3 over a major chord, told to the strictest players only.
func BlueThird(degree music.Degree, chord string) Words {
	return words(clashes, "The %s over %s lies a half step below its third, as in the blues.", degree.Pretty(), chord)
}

// TensionHeld is a tension that stays for so many beats.
func TensionHeld(degree music.Degree, chord, beats string) Words {
	return words("a tension is held", "The %s over %s is held for %s: a tension wants to go on to a tone of the chord.",
		degree.Pretty(), chord, beats)
}

// BassHolds says which finger of note b, a bass note, is busy when note i is wanted, and which
// string would free the line; 0 where none does.
func BassHolds(l lick.Lick, b, i, to int) string {
	said := fmt.Sprintf("The %s holds the bass on %s", l.Notes[b].Finger.Word(), BeatIn(l, l.Notes[i].At))
	if to == 0 {
		return said + ": the line needs another place, or the bass a rest there."
	}
	return fmt.Sprintf("%s: the line can move to string %d.", said, to)
}
