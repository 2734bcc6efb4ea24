// Package shape lays chosen tones on the neck: which string and fret each tone takes, the
// finger that plays it, the bends it offers, and where it lies best.
//
// # Layouts
//
// A Layout is a school of laying tones out: a box, three notes a string, counts, one string or several, an area of
// frets, an arpeggio, pairs, positions joined by slides, own places. Each is a type with a Name that ParseLayout reads
// again, and lay, which gets a board: guitar, palette, the tones that the layout runs over, and the place of the lowest
// one. A new layout is a type and a row of the table in shape.go.
//
// Layouts run over every tone, or over the scale's tones with the colours added after: each colour pitch once, inside
// the frets of the shape if it can be, else one fret below, else one above.
//
// # Ladders
//
// A run climbs: Ladder puts a layout in order. Steps are single tones, or the tones that sound together; ByString has
// the same tones by string. Both are used by runs that go up the steps and by those that go over the strings.
//
// # A worked example
//
// A minor pentatonic as a box at 6:5 is 6:5 6:8 5:5 5:7 4:5 4:7 3:5 3:7 2:5 2:8 1:5 1:8, steps 0 to 11. A box is named
// from the minor root and from the major one: this is box 1 and box 5. The ♭5 as a colour falls on 5:6, between the
// tones of its string, and on 3:8, one fret beyond them.
//
// Spots weighs where a shape lies best: the hardest common bend, the widest reach, the
// narrowest cell. Recolour takes a line to another palette by degree.
package shape
