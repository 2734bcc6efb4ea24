package player

import (
	"fmt"

	"ornamen/core/bend"
	"ornamen/core/lick"
	"ornamen/core/text"
)

// Helping is a player's habit of putting fingers behind the one that bends. All of them
// are right (common practice); none is an error.
type Helping string

// The habits; the zero value is HelpMany.
const (
	HelpMany Helping = "many" // as many as are free, up to two
	HelpFew  Helping = "few"  // as few as hold the bend
	HelpFlat Helping = "flat" // one, over an index laid flat that holds its strings
)

// ParseHelping reads a habit by name; an empty one is HelpMany.
func ParseHelping(s string) (Helping, error) {
	return text.Word(s, "", "helpers %q is none: use many, few, flat", HelpMany, HelpFew, HelpFlat)
}

// MaxHelpers is how many fingers stand behind the bending one where nothing else is said (model default).
const MaxHelpers = 2

// Helpers are the fingers of those that are free which help finger f with a bend of so many half steps at a fret that
// takes so much force, the nearest first. A half step is one finger's where that holds it; a helper needs a fret of its
// own behind the bent one. As an example, the little finger's full bend at fret 9 has ring and middle behind it by the
// habit of many; by that of few only as many of them as it takes.
func (h Helping) Helpers(f lick.Finger, semitones float64, fret int, push bend.Push, s bend.Strength,
	free func(lick.Finger) bool) (out []lick.Finger) {
	if !f.Fretting() || semitones < 2 && push.Force <= s.Of(int(f), 0) {
		return nil
	}
	few := h == HelpFew || semitones < 2
	most, least := MaxHelpers, lick.Index
	if h == HelpFlat {
		most, least = 1, lick.Middle
	}
	for k := f - 1; k >= least && len(out) < min(most, fret); k-- {
		if few && push.Force <= s.Of(int(f), len(out)) {
			break
		}
		if free(k) {
			out = append(out, k)
		}
	}
	return out
}

// BendsWith is who bends a note that finger f plays in its position, and the fingers behind it. The index bends with
// itself alone; what the middle finger plays the ring finger bends, with the middle behind it, as the hand need only
// lie a fret lower (common practice); of ring and little finger the one whose habit it is.
func (pl Player) BendsWith(f lick.Finger, semitones float64, fret int,
	push bend.Push) (by lick.Finger, with []lick.Finger) {
	by = f
	switch {
	case f == lick.Middle:
		by = lick.Ring
	case f == lick.Ring && pl.Hand.Bender == lick.Little, f == lick.Little && pl.Hand.Bender == lick.Ring:
		by = pl.Hand.Bender
	}
	return by, pl.Helping.Helpers(by, semitones, fret, push, pl.Bends, func(lick.Finger) bool { return true })
}

// Bend takes the player's habits of bending: the finger that bends where several could
// (ring, little, or empty for what is usual) and those behind it (see ParseHelping).
func (pl *Player) Bend(finger, helpers string) (err error) {
	switch finger {
	case "":
		pl.Hand.Bender = lick.NoFinger
	case "ring":
		pl.Hand.Bender = lick.Ring
	case "little":
		pl.Hand.Bender = lick.Little
	default:
		return fmt.Errorf("the bending finger is ring or little, not %q", finger)
	}
	if pl.Helping, err = ParseHelping(helpers); err != nil {
		return err
	}
	if pl.Helping == HelpFlat && pl.Hand.Bender == lick.NoFinger {
		pl.Hand.Bender = lick.Ring // two fingers over a flat index are ring and middle (common practice)
	}
	return nil
}
