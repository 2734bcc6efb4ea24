// Package find looks for the recipe that a written line follows.
//
// It guesses and proves, so that nothing is found that is not true; how, with its cost and
// an example, stands with the type finder. Of several recipes that cover as many notes the
// shortest is taken, as a player would rather learn that one.
//
// The line is steps of equal length (line.go). Under it lie the layouts that a player would name (layouts.go). On each
// a step can be read as a tone, as a tone of its string, as an octave or a position from another one, or over the
// chords of the key as a degree of one (readings.go). One search compares the steps by any of these readings and makes
// out the cells that move evenly or come back from a top (search.go); what they are as recipes is grown and compared.
package find
