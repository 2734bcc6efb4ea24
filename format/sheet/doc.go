// Package sheet draws a lick for the eye: an SVG drawing of the line with both hands, and a page
// to print for the music stand. Both are one file that needs nothing beside it.
//
// A drawing is systems of sixteen columns, one under the other: chords and counts above, places with slurs and bends on
// the strings, fingers and strokes below. It says in shape and word what a colour would: it must read in black on
// white, from a step away. The page adds tones, tempo, the shape on the neck, the short form (a recipe where there is
// one) and the cautions that belong wherever a line is practised.
//
// Everything that a player has typed is escaped; what is drawn is a function of the lick alone.
package sheet
