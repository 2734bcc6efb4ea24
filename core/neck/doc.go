// Package neck is the guitar in millimetres: tuning, frets, strings and their tension, and the presets of instruments.
//
// # Where things lie
//
// Strings count from 1, the thinnest. A Place is a string and a fret; its notation is "3:9", string 3, fret 9, and
// ParsePlace is the one reader of it. Fret n lies x(n) = L·(1 − 2^(−n/12)) from the nut for the scale length L (the
// luthiers' rule): on a scale of 648 mm fret 12 lies at 324 mm, the cell of fret 1 is 36.4 mm wide and that of fret 13
// half of it. A finger presses some millimetres behind its wire (Press), which is where distances between fingers are
// taken.
//
// # Strings
//
// A Gauge is a diameter in inches, plain or wound. Tension follows from Mersenne's law, T = 4·L²·f²·μ, with the mass
// per length μ of steel; what a wound string's core and windings make of it is a model default, listed in defaults.go.
// Strings spread from nut to bridge, so that the room for a bend grows along the neck (Room).
//
// Errors are one sentence for the player. Limits: 4 to 9 strings, 12 to 36 frets.
package neck
