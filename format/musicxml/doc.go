// Package musicxml writes and reads MusicXML 4.0 (the W3C community group's report of 2021,
// from memory; its readers beside ours stand in docs/sources.md).
//
// Written is score-partwise with one part on a tablature staff: strings, frets, fingers, down
// and up, hammer-on and pull-off, slide, bend with release and pre-bend, vibrato, ties over bar
// lines, tuplets, swing, chord names. What the standard has no element for but allows as
// other-technical (shift, barre, rake, slide-in, the kind of vibrato) stands there and comes
// back; the rest of a lick (locks, tags, recipes, keys) stays behind.
//
// Read are scores by anyone, partwise, plain or packed (.mxl). encoding/xml takes no entity
// from outside and keeps its own bound on depth; notes and sizes are bounded here.
package musicxml
