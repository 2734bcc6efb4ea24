// Package bend is the physics of a pushed string: how far, how hard, how long, and whether it stays on the fretboard.
//
// Solve gives the way in mm and the force in N that raise a place by some half steps, Raise is its inverse, Time what
// the push and its release take, Strength what one, two or three fingers hold. The formulas stand with Solve.
//
// # A worked example
//
// On the default guitar a full bend of string 1 at fret 8 pushes the string 19.1 mm and takes 60 + 4.5·19.1 = 146 ms. A
// sixteenth at 100 lasts 150 ms, so that it is 97 % of the note: tight.
//
// All values that are assumed are in defaults.go and strength.go; a player's own measure
// of the hardest good full bend scales the strengths.
package bend
