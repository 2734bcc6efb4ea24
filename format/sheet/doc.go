// Package sheet draws a lick for the eye: an SVG drawing of the line with both hands, and a page
// to print for the music stand. Both are one file that needs nothing beside it.
package sheet
