// Package player says who plays: guitar, hand and habits, as the model takes them and as a player gives them.
//
// A Profile is what the player enters: an instrument with what differs from it, the size of the hand or its lengths,
// two tempos that were tapped, the hardest good bend, habits. Player is what that means for the model. Measurements
// only scale the model's tables: sixteenths on one string set the picking hand's speed, hammering 1 2 4 the fretting
// hand's, so that the tapped tempo comes out as the ceiling of just that exercise.
//
// Every field has a default, that of an intermediate player; what no hand or guitar can be
// is refused in a sentence that names the field.
package player
