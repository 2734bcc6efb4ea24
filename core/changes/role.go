package changes

import (
	"ornamen/core/music"
)

// Role is what a tone is over a chord.
type Role string

// The roles, from what is safe to what needs a reason.
const (
	Root    Role = "root"
	Third   Role = "third"
	Fifth   Role = "fifth"
	Seventh Role = "seventh"
	Colour  Role = "colour"
	Tension Role = "tension"
	Clash   Role = "clash"
	Outside Role = "outside"
)

// Meaning is what a role is worth to a player, in few words (common practice).
func (r Role) Meaning() string {
	switch r {
	case Root, Fifth:
		return "safe"
	case Third:
		return "safe, tells the chord"
	case Seventh:
		return "tells the chord"
	case Colour:
		return "a colour"
	case Tension:
		return "a tension, wants to go on"
	case Clash:
		return "clashes unless it is meant"
	}
	return string(r)
}

// Chordal says whether the tone is one that a phrase can land on: root, third, fifth, seventh.
func (r Role) Chordal() bool { return r == Root || r == Third || r == Fifth || r == Seventh }

// chordRoles are the roles of a chord's own tones by their number; the others, sixths, ninths
// and suspensions, are colours that the chord itself asks for.
var chordRoles = map[int]Role{1: Root, 3: Third, 5: Fifth, 7: Seventh}

// Of is a pitch's degree over a chord and its role there. The palette says which tones the
// line has; without one nothing is outside.
//
// The rules are common practice and the same on every chord, tried in this order: a tone of the chord has its own role;
// a tone outside the palette is outside; the seventh, minor or major, of a chord that has none of its own is its
// seventh; the 9 and the 13 are colours; over the 1 chord of a blues the key's own ♭3 and 4 are; the ♭3 over a major
// chord is the blues' colour, the ♯4 over one a Lydian's, and the 4 over a chord without a major third; over a dominant
// seventh ♭9 and ♭13 are tensions that pull; what lies a half step above a tone of the chord clashes; what the palette
// has as colour is one; any other tone of the scale is a tension.
//
// As an example over A7: C♯ is its third; D, a half step above it, clashes, but not in A minor pentatonic, whose own 4
// it is; C is the blues' colour; B♭ (♭9) is a tension that pulls back to A; F♯, the 13, is a colour.
func Of(c music.Chord, p *music.Palette, pitch music.Pitch) (music.Degree, Role) {
	name := music.NameOf(pitch.Class())
	role := music.ScaleTone
	if p != nil {
		t := p.At(pitch)
		name, role = t.Name, t.Role
	}
	d, in := c.Over(name)
	if in {
		if r, ok := chordRoles[d.Number]; ok {
			return d, r
		}
		return d, Colour
	}
	if role == music.Outside {
		return d, Outside
	}
	kind := kindOf(c)
	_, clashes := c.Clashes(name)
	switch half := d.Semitones(); {
	case !kind.seventh && (half == 10 || half == 11):
		return d, Seventh
	case half == 2 || half == 9,
		bluesHabit(c, p) && (half == 3 || half == 5),
		kind.major && (half == 3 || half == 6 && kind.fifth),
		!kind.major && half == 5:
		return d, Colour
	case kind.major && kind.flat7 && (half == 1 || half == 8):
		return d, Tension
	case clashes:
		return d, Clash
	case role == music.Colour:
		return d, Colour
	}
	return d, Tension
}

// bluesHabit says whether a chord is the major 1 chord of a minor key of five or six tones: a blues.
func bluesHabit(c music.Chord, p *music.Palette) bool {
	return p != nil && len(p.Scale.Degrees) < 7 && p.Minor() && kindOf(c).major && c.Root.Class() == p.Tonic.Class()
}

// kind is what decides how tones sound over a chord.
type kind struct{ major, flat7, fifth, seventh bool }

// kindOf reads it off the chord's degrees.
func kindOf(c music.Chord) (k kind) {
	for _, d := range c.Degrees {
		k.seventh = k.seventh || d.Number == 7
		switch {
		case d.Number == 3 && d.Alter == 0:
			k.major = true
		case d.Number == 7 && d.Alter == -1:
			k.flat7 = true
		case d.Number == 5 && d.Alter == 0:
			k.fifth = true
		}
	}
	return k
}

// Above is the chord tone that a clashing note lies a half step above.
func (r Report) Above(n Note) (d music.Degree, ok bool) {
	c := r.Chords[n.Chord].Chord
	return c.Clashes(n.Degree.Over(c.Root))
}

// ByHabit says whether a note is a colour by the blues' habit alone: the minor third or the fourth over a major chord.
func (r Report) ByHabit(n Note) bool {
	return n.Role == Colour && (n.Degree.Semitones() == 3 || n.Degree.Semitones() == 5) &&
		kindOf(r.Chords[n.Chord].Chord).major
}
