// Package run grows lines from cells: the recipe that says how a cell moves over a layout, and the line it makes.
//
// # From a recipe to a line
//
// A Recipe is data, the arguments of the run command; the zero value of each is its
// default. Grow reads it (plan.go), lists the stations where the cell is played (walk.go,
// chordwalk.go), plays it at each one (grow.go, notes.go) and ends the line (ending.go).
//
// A station is a place where a cell can be played: it finds the tones that the steps name. There are four: rung, on a
// ladder of tones; window, on its strings; octaves, the same fingering two strings over for each; over, degrees over a
// chord's root. A walk is the stations in one direction and how to come back from any of them. A new move is a walk; a
// new kind of step is a station.
//
// Invariants: the same recipe gives the same line on the same guitar; String and Parse are inverses; a line has at most
// MaxNotes notes; where the layout has no room for what was asked, the error says how much there is.
//
// # A worked example
//
// --key "A minor pentatonic" --cell "1 2 3" on the box at 6:5: the ladder has steps 0 to
// 11, so the cell starts at steps 0 to 9, and its ten stations give 30 notes: 6:5 6:8 5:5, 6:8 5:5 5:7 and so on. With
// --move string it starts at the first tone of each string, where it fits.
//
// It is a little larger than other rooms because all kinds of cells and moves are grown by one
// builder, each in a file of its own.
package run
