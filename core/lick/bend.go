package lick

// Bend is a push of the string to a target.
type Bend struct {
	Semitones float64   `json:"semitones"` // 0.5 (curl), 1, 2, 3 or 4
	Shape     BendShape `json:"shape"`
	Push      Push      `json:"push,omitempty"`
	With      []Finger  `json:"with,omitempty"` // helpers behind the bending finger
}

// BendShape says whether a bend is up before its note sounds, and whether it comes down again within it.
type BendShape string

// The shapes, by the words that a lick file has for them.
const (
	BendUp          BendShape = "bend"
	BendRelease     BendShape = "bend-release"
	Prebend         BendShape = "prebend"
	PrebendReleased BendShape = "prebend-release"
)

// BendShapes lists them.
func BendShapes() []BendShape { return []BendShape{BendUp, BendRelease, Prebend, PrebendReleased} }

// ShapeOf is the shape with these two traits.
func ShapeOf(pre, release bool) BendShape {
	switch {
	case pre && release:
		return PrebendReleased
	case pre:
		return Prebend
	case release:
		return BendRelease
	}
	return BendUp
}

// Pre says whether the string is bent before it sounds.
func (s BendShape) Pre() bool { return s == Prebend || s == PrebendReleased }

// Release says whether the bend comes down again within the note.
func (s BendShape) Release() bool { return s == BendRelease || s == PrebendReleased }

// Release says whether the bend comes down again within the note.
func (b Bend) Release() bool { return b.Shape.Release() }

// Pre says whether the string is bent before it sounds.
func (b Bend) Pre() bool { return b.Shape.Pre() }

// Push is the direction of a bend, toward the thick or the thin strings; empty leaves it to what is usual.
type Push string

// The directions.
const (
	ToThick Push = "thick"
	ToThin  Push = "thin"
)

// Other is the direction that is not this one.
func (p Push) Other() Push {
	if p == ToThick {
		return ToThin
	}
	return ToThick
}

// Way is the direction that the player chose for a bend on a string, or the usual one: the thinner half of the strings
// goes toward the thick ones, the others the other way (common practice).
func (b Bend) Way(str, strings int) Push {
	switch {
	case b.Push != "":
		return b.Push
	case 2*str <= strings:
		return ToThick
	}
	return ToThin
}
