package say

import (
	"cmp"
	"fmt"
	"strings"

	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/neck"
)

// The names of fixes: what the player would do, as an order, without a full stop, since the
// ceiling that it comes to follows. Notes are passed from 0 and named from 1.

// PutFinger is another finger on a note; an open string has none.
func PutFinger(f lick.Finger, note int) string {
	if f == lick.NoFinger {
		return fmt.Sprintf("No finger on note %d", note+1)
	}
	return fmt.Sprintf("Finger %s on note %d", f, note+1)
}

// OpenFingers leaves the two notes of a move to the search.
func OpenFingers() string { return "Leave both fingers open" }

// LayBarre is one finger flat over two notes of a fret.
func LayBarre(fret int, f lick.Finger, a, b int) string {
	return fmt.Sprintf("Lay a barre at fret %d with finger %s for notes %d and %d", fret, f, a+1, b+1)
}

// NextStrings is the figure at the same pitches one string further.
func NextStrings(thicker bool) string {
	if thicker {
		return "The whole figure one string thicker"
	}
	return "The whole figure one string thinner"
}

// small are the numbers that are written out.
var small = [...]string{"no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine"}

// FretsUp is the figure so many frets further up; key is the one that it is then in, if any.
func FretsUp(by int, key lick.Key) string {
	text := fmt.Sprintf("%d frets up", by)
	if by < len(small) {
		text = Capital(small[by]) + " frets up"
	}
	if key.Tonic != "" {
		text += fmt.Sprintf(", in %s %s", key.Tonic, key.Scale)
	}
	return text
}

// TakeStroke is another stroke on a note.
func TakeStroke(s lick.Stroke, note int) string {
	return fmt.Sprintf("%s on note %d", Capital(Stroke(s)), note+1)
}

// StartOn is the other stroke at the start, with those after it found anew.
func StartOn(s lick.Stroke) string { return "Start on " + AStroke(s) }

// OpenStrokes leaves every stroke to the search.
func OpenStrokes() string { return "Pick it in turn, strokes open" }

// TakeSlur is another way into a note; none is a picked one.
func TakeSlur(s lick.Slur, note int) string {
	word := map[lick.Slur]string{lick.Hammer: "Hammer", lick.Pull: "Pull to", lick.Slide: "Slide to",
		lick.Shift: "Shift silently to"}[s]
	return fmt.Sprintf("%s note %d", cmp.Or(word, "Pick"), note+1)
}

// OnString is a note at its pitch on another string.
func OnString(l lick.Lick, note int, p neck.Place) string {
	fret := fmt.Sprintf("fret %d", p.Fret)
	if p.Fret == 0 {
		fret = "the open string"
	}
	return fmt.Sprintf("Note %d at %s on %s", note+1, fret, l.StringName(p.String))
}

// NoRelease is a bend that stays up.
func NoRelease() string { return "Without the release" }

// PushToward is a bend in the other direction.
func PushToward(p lick.Push) string { return "Push it toward the " + string(p) + " strings" }

// WithHelpers is a finger with others to help it.
func WithHelpers(f lick.Finger) string { return fmt.Sprintf("Finger %s with the others behind it", f) }

// SmallerBend is a bend to a nearer tone.
func SmallerBend(semitones float64) string { return "A " + BendSize(semitones) + " bend instead" }

// BendTo is a bend that goes to a tone of the palette.
func BendTo(semitones float64, d music.Degree) string {
	return "Bend it " + BendSize(semitones) + ", to the " + d.Pretty()
}

// TwiceAsLong is a note with more time.
func TwiceAsLong() string { return "Twice as long" }

// NoVibrato is a note that stays still.
func NoVibrato() string { return "Without the vibrato" }

// AddTone chooses a tone that was outside.
func AddTone(d music.Degree) string { return "Add " + d.Pretty() }

// StartAt is a phrase that begins at another time, so that it arrives with its chord.
func StartAt(l lick.Lick, at lick.Time) string { return "Start on " + BeatIn(l, at) }

// AddAtHead is a phrase with so many notes more before it.
func AddAtHead(n int) string { return "Add " + Some(n, "note") + " at its head" }

// DropFirst is a phrase without its first notes.
func DropFirst(n int) string {
	if n == 1 {
		return "Drop the first note of the phrase"
	}
	return fmt.Sprintf("Drop the first %d notes of the phrase", n)
}

// ToTone is a note moved to a tone of the chord, together with the one that leads there; that
// is -1 where none has to move.
func ToTone(note int, d music.Degree, chord string, with int) string {
	text := fmt.Sprintf("Note %d to the %s of %s", note+1, d.Pretty(), chord)
	if with >= 0 {
		text += fmt.Sprintf(", with note %d", with+1)
	}
	return text
}

// Approach is a note that leads into the next one, a tone of the chord, by a half step.
func Approach(note, to int, d music.Degree, chord string, below bool) string {
	side := "above"
	if below {
		side = "below"
	}
	return fmt.Sprintf("Note %d from a half step %s, to the %s of %s on note %d", note+1, side, d.Pretty(), chord, to+1)
}

// fewFingers is how many other fingers a fix names one by one.
const fewFingers = 2

// Changed is a note of which a fix changes the finger.
type Changed struct {
	Note   int // from 0
	Finger lick.Finger
}

// Beside says what a fix changes besides what its name says: other fingers, and so many
// strokes. It goes on from that name, and is empty where nothing else changes.
func Beside(fingers []Changed, strokes int) string {
	text := ""
	switch n := len(fingers); {
	case n > fewFingers:
		text = fmt.Sprintf(", with %d other fingers", n)
	case n > 0:
		words := make([]string, n)
		for k, c := range fingers {
			words[k] = fmt.Sprintf("finger %s on note %d", c.Finger, c.Note+1)
		}
		text = ", with " + strings.Join(words, " and ")
	}
	if strokes > 0 {
		text += ", " + Count(strokes, "stroke") + " turned"
	}
	return text
}

// BeginningOnly says that only the first notes of a long line were judged.
func BeginningOnly(judged, notes int) string {
	return fmt.Sprintf("The line has %d notes: its first %d were judged, and no fixes were tried; work on a part of it.",
		notes, judged)
}

// FixesLeftOut says what limits left out: only the worst findings had fixes tried for them, and
// some edits that change a whole long line were not. Empty where nothing was.
func FixesLeftOut(tried, findings, untried int) string {
	var out []string
	if tried < findings {
		out = append(out,
			fmt.Sprintf("Fixes were tried for %d of %d findings, the worst of each kind first.", tried, findings))
	}
	if untried > 0 {
		out = append(out, fmt.Sprintf("The line is long: not tried for it: %s.", Count(untried, "more edit")))
	}
	return strings.Join(out, " ")
}
