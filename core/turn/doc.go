// Package turn changes what is written without writing it anew: backwards, mirrored,
// rotated, an octave away; another bend for a note, another tail for a line.
//
// A turned line keeps its times as a frame: what is played within them changes. Slurs are turned with the notes, as
// what led up now leads down; fingers and strokes of the part are left open, to be found again, as the best hands for a
// figure are not those for its mirror. The recipe no longer holds and is taken off.
//
// The mirror keeps the contour and goes a place lower in the palette, or turns every slide round where there are
// slides: the way that a player practises a position run up and then down the neck.
//
// Regrow is the other direction: a recipe was changed, the line is grown again, and what
// the player had locked is carried over where time and place still agree.
package turn
