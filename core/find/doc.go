// Package find looks for the recipe that a written line follows.
//
// It guesses and proves, so that nothing is found that is not true; how, with its cost and
// an example, stands with the type finder. Of several recipes that cover as many notes the
// shortest is taken, as a player would rather learn that one.
//
// What it knows: cells of tones over every layout that holds the line (findcells.go, findturns.go,
// findlayouts.go), cells over strings, octaves and positions (findmoves.go), up and down
// again, a figure over the chords of the key; holds, rests, slurs, bends, tails and
// landings with all of them.
package find
