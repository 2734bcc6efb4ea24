package player

import (
	"ornamen/core/bend"
	"ornamen/core/hand"
	"ornamen/core/neck"
	"ornamen/core/pick"
	"ornamen/core/text"
)

// Player is who plays: hand, habits and guitar.
type Player struct {
	Guitar neck.Guitar
	Hand   hand.Hand
	Pick   pick.Hand
	Way    pick.Way // the habit for strokes that are not decided
	Bends  bend.Strength
	Strict Strictness
	Plucks bool // the instrument is plucked by the fingers, without a pick, as most basses are

	Helping Helping // fingers behind the one that bends
}

// Strictness is how much the player cares about bends without a target.
type Strictness string

// The strictnesses: nothing is said, curls may go anywhere, or even a curl must lead toward a chosen tone.
const (
	Easy  Strictness = "easy"
	Usual Strictness = "usual"
	Every Strictness = "strict"
)

// ParseStrictness reads one by name.
func ParseStrictness(s string) (Strictness, error) {
	return text.Word(s, string(Easy), "strictness %q is none: use easy, usual, strict", Easy, Usual, Every)
}

// Default is a medium hand that picks in alternation on the standard guitar (model default).
func Default() Player {
	return Player{Guitar: neck.Standard(), Hand: hand.Medium(), Pick: pick.Hand{Angle: pick.Either, Speed: 1},
		Way: pick.Alternate, Bends: bend.DefaultStrength(), Strict: Usual, Helping: HelpMany}
}
