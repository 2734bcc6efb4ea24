// Package musicxml writes and reads MusicXML 4.0 (the W3C community group's report of 2021,
// from memory; its readers beside ours stand in docs/sources.md).
//
// # What is written
//
// Score-partwise with one part on a tablature staff, plain or packed (.mxl).
//
//	lick                   element
//	string, fret, finger   technical/string, fret, fingering
//	stroke                 up-bow, down-bow; pluck for the picking hand's fingers
//	hammer, pull           hammer-on, pull-off, from note to note
//	slide, shift           slide, from note to note; a shift also other-technical
//	bend                   bend with bend-alter, pre-bend, release
//	vibrato                wavy-line; its width and speed other-technical
//	dead note, accent      notehead x, accent
//	feel                   sound/swing
//	loop                   repeat barlines around the whole
//	chord                  harmony, its sign as typed in kind/@text
//	pick-up                a first measure that is implicit, number 0
//
// Notes over a bar line are tied. Notes that overlap are voices, each with its own rests. Divisions are the least
// common multiple of all times, so that no time is rounded unless a file of ours has parts finer than 1/2^24 of a
// quarter. What the standard has no element for but allows as other-technical (shift, barre, rake, slide-in, the kind
// of vibrato) stands there and comes back; the rest of a lick (locks, tags, recipes, keys) stays behind.
//
// # What is read
//
// Scores by anyone, partwise. One part is the line, or one staff of it; of a part that is written twice, in notation
// and in tablature, the tablature. It is transposed to where it sounds. Notes with string and fret stay there; others
// are laid near the hand, by whole octaves where they would not fit the guitar. Grace notes, changes of meter and chord
// names that are not known are left out and counted in a remark.
//
// encoding/xml takes no entity from outside and keeps its own bound on depth; notes, divisions
// and sizes are bounded here.
package musicxml
