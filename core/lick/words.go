package lick

import "slices"

// The words of a lick file are small types: what is compared is a constant, and a word that is none is refused where a
// file or a form is read. The zero value of each is what a note has that says nothing.

// Field names what of a note the player can set for good.
type Field string

// The fields that can be locked, by their words in a lick file.
const (
	FieldFinger  Field = "finger"
	FieldStroke  Field = "stroke"
	FieldString  Field = "string"
	FieldFret    Field = "fret"
	FieldSlur    Field = "slur"
	FieldBend    Field = "bend"
	FieldVibrato Field = "vibrato"
	FieldLen     Field = "len"
)

// The words that a lick file may hold in a field.
var (
	strokes = []Stroke{Down, Up, PThumb, PIndex, PMid, PRing}
	slurs   = []Slur{Hammer, Pull, Slide, Shift}
)

// lockFields lists them.
var lockFields = []Field{FieldString, FieldFret, FieldFinger, FieldStroke, FieldSlur, FieldBend, FieldVibrato, FieldLen}

// LockSet is the fields of one note that the player has set; a proposal decides the others
// around them. It keeps the order in which they were set, as the file has it.
type LockSet []Field

// Has says whether the field is set.
func (s LockSet) Has(f Field) bool { return slices.Contains(s, f) }

// With is the set with a field in it or out of it. The receiver is not touched.
func (s LockSet) With(f Field, in bool) LockSet {
	switch has := s.Has(f); {
	case in && !has:
		return append(slices.Clone(s), f)
	case !in && has:
		return slices.DeleteFunc(slices.Clone(s), func(g Field) bool { return g == f })
	}
	return s
}

// Code names one sort of finding, such as "reach"; the judge has the list. A lick keeps
// codes that it does not know, as a newer judge may have written them.
type Code string

// Width is how far a vibrato swings.
type Width string

// The widths; the judge says what each is in cents.
const (
	Narrow Width = "narrow"
	Wide   Width = "wide"
)

// Speed is how quickly a vibrato swings.
type Speed string

// The speeds; the judge says what each is in hertz.
const (
	Slow Speed = "slow"
	Fast Speed = "fast"
)

// From is the side from which a note is slid into; empty where it is not.
type From string

// The sides, in pitch.
const (
	FromBelow From = "below"
	FromAbove From = "above"
)

// Voice tells two lines that one hand plays apart; empty is the line itself.
type Voice string

// VoiceBass is the bass under the line, which the picking thumb plays.
const VoiceBass Voice = "bass"

// Mark is a sign on a note that is there or not.
type Mark string

// The marks that SetMark knows.
const (
	MarkAccent Mark = "accent"
	MarkMute   Mark = "mute"
	MarkPalm   Mark = "palm"
	MarkGhost  Mark = "ghost"
	MarkRake   Mark = "rake"
	MarkBarre  Mark = "bar"
)
