// Package tab writes a lick as text tab that comes back as it went out, and reads tablature by
// other hands.
//
// A system is a line for every string, thin one on top, between rows of counts, fingers,
// strokes and lengths; what no sign stands for follows as lines of words (notes.go). Signs:
// h hammer-on, p pull-off, / and \ slide, S silent shift, b and r bend and release, ~ vibrato,
// x dead.
package tab
