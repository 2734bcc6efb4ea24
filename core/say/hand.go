package say

import (
	"fmt"

	"ornamen/core/hand"
	"ornamen/core/lick"
	"ornamen/core/neck"
)

// CannotSound is a slur that its frets or strings do not allow; why is one of the four sentences below.
func CannotSound(s lick.Slur, why string) Words {
	return Words{"the " + string(s) + " cannot sound", why}
}

// NothingBefore is a slur on a string that is silent when it comes.
func NothingBefore(n lick.Note) string {
	return fmt.Sprintf("Nothing sounds on string %d just before it, so there is nothing to %s from.", n.String, n.Slur)
}

// HammerFalls is a hammer to a fret that is no higher.
func HammerFalls(from, to int) string {
	return fmt.Sprintf("A hammer goes up the string, this goes from fret %d to %d.", from, to)
}

// PullRises is a pull to a fret that is no lower.
func PullRises(from, to int) string {
	return fmt.Sprintf("A pull goes down the string, this goes from fret %d to %d.", from, to)
}

// OpenSlides is a slide or a silent shift that begins or ends on an open string.
func OpenSlides() string { return "An open string has no finger that could slide." }

// OneFinger is a hammer or a pull to note n with the finger that holds the note before it.
func OneFinger(n lick.Note) Words {
	return words("one finger for a "+string(n.Slur),
		"A %s needs two fingers, here the %s does both; slide, or take another finger.", n.Slur, n.Finger.Word())
}

// SlideChangesFinger is a slide or a silent shift from one note to another under two fingers.
func SlideChangesFinger(l lick.Lick, from, to int) Words {
	return words("the slide changes finger", "The finger that slides stays down: note %d has the %s, note %d the %s.",
		from+1, l.Notes[from].Finger.Word(), to+1, l.Notes[to].Finger.Word())
}

// Cross is a slur between fingers that stand the wrong way round on its string.
func Cross(m, n lick.Note) Words {
	return words("fingers cross", "Finger %s at fret %d and finger %s at fret %d would cross.", m.Finger, m.Fret,
		n.Finger, n.Fret)
}

// CrossTogether is the same for two notes that sound together.
func CrossTogether(m, n lick.Note) Words {
	return words("fingers cross", "They sound together, but finger %s at fret %d and finger %s at fret %d would cross.",
		m.Finger, m.Fret, n.Finger, n.Fret)
}

// TwoFrets is one finger on two frets at once.
func TwoFrets(m, n lick.Note) Words {
	return words("one finger on two frets", "Finger %s cannot hold frets %d and %d at once.", n.Finger, m.Fret, n.Fret)
}

// TwoStrings is one finger on two strings of a fret that does not lie flat.
func TwoStrings(n lick.Note) Words {
	return words("one finger on two strings", "Finger %s holds two strings at fret %d only as a barre.", n.Finger,
		n.Fret)
}

// outOfReach is the title of what no stance of the hand spans.
const outOfReach = "out of reach"

// NoStance is two frets at once that no fingers of this hand are left for.
func NoStance(m, n lick.Note) Words {
	return words(outOfReach, "No hand stance holds fret %d and fret %d together.", m.Fret, n.Fret)
}

// NotTogether is a pair of fingers that reaches its frets, but leaves the others no room.
func NotTogether(low, high lick.Finger, from, to int) Words {
	return words(outOfReach, "Fingers %s and %s reach frets %d and %d, but not together with the fingers around them.",
		low, high, from, to)
}

// TooFar is a pair of fingers that must stand further apart than this hand's limit for them.
func TooFar(low, high lick.Finger, from, to int, need, limit neck.MM) Words {
	return words(outOfReach,
		"Fingers %s and %s must stand %.0f mm apart, from fret %d to %d, together with the fingers around them; "+
			"this hand reaches %.0f.", low, high, need, from, to, limit)
}

// WideStretch is a stance that the hand can take and does not like.
func WideStretch(lo, hi lick.Finger, need, comfort neck.MM) Words {
	return words("a wide stretch", "Fingers %s and %s stand %s mm apart; up to %s is comfortable.", lo, hi,
		apart(need, comfort), apart(comfort, need))
}

// NoSuchFret is a note beyond the last fret of this guitar.
func NoSuchFret(fret, frets int) Words {
	return words("beyond the neck", "Fret %d is not there: this guitar has %d.", fret, frets)
}

// NoFinger is a fretted note that is marked for an open string.
func NoFinger(fret int) Words {
	return words("no finger there", "Fret %d needs a finger; 0 is for open strings.", fret)
}

// FingerOnOpen is an open string with a finger written for it.
func FingerOnOpen(f lick.Finger) Words {
	return words("a finger on an open string", "An open string takes no finger, here it has the %s.", f.Word())
}

// Jump is a finger that goes to another string by itself; its times follow.
func Jump(l lick.Lick, from, to int) Words {
	f := l.Notes[to].Finger
	return words("the "+f.Word()+" jumps", "From %s to %s with finger %s", Place(l, from), Place(l, to), f)
}

// IndexJumps is the index that goes one fret over to the next string, in time and yet unsafe.
func IndexJumps(l lick.Lick, from, to int) Words {
	return words("the index hops", "From %s to %s with the index both times: a place where players stumble.",
		Place(l, from), Place(l, to))
}

// handMoves are the titles of the moves in which the hand goes to another place.
var handMoves = map[hand.Kind]string{hand.Move: "the hand shifts", hand.Slide: "a fast slide",
	hand.Shift: "a silent shift", hand.Guided: "one finger shifts", hand.Grips: "the grip moves"}

// HandMoves is the hand that goes that far along the neck; its times follow. It is false for a move in which the hand
// stays. A way of less than half a millimetre is a grip that comes down where it was, with other fingers.
func HandMoves(kind hand.Kind, l lick.Lick, from, to int, way neck.MM) (Words, bool) {
	title, ok := handMoves[kind]
	what := fmt.Sprintf("The hand moves %.0f mm", way)
	if way < 0.5 {
		what = "Every finger lets go"
	}
	return words(title, "%s, from %s to %s", what, Place(l, from), Place(l, to)), ok
}

// fingerMoves are the moves of fingers in a hand that stays, as they stand in a title.
var fingerMoves = map[hand.Kind]string{hand.Place: "the next finger", hand.Hammer: "the hammer", hand.Pull: "the pull",
	hand.Roll: "the roll", hand.Barre: "the barre", hand.Same: "the same finger again",
	hand.ToOpen: "the open string", hand.Hold: "the hold"}

// FingerFast is a move of the fingers that comes too quickly; its times follow. It is false for a move of the hand.
func FingerFast(kind hand.Kind, l lick.Lick, i int) (Words, bool) {
	what, ok := fingerMoves[kind]
	return words(what+" comes fast", "Finger %s at %s", l.Notes[i].Finger, Place(l, i)), ok
}

// Crowded is frets that are narrower than a fingertip.
func Crowded(narrowest, tip neck.MM) Words {
	return words("fingertips crowd",
		"Frets here are %.1f mm wide, a fingertip needs about %.0f: neighbouring fingers make room for each other.",
		narrowest, tip)
}
