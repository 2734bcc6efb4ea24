// Package tab writes a lick as text tab that comes back as it went out, and reads tablature by other hands.
//
// # A page of our own
//
//	Title: Lantern turnaround
//	Tempo: 112
//	Meter: 4/4
//	Feel: straight
//	Tuning: E4 B3 G3 D3 A2 E2
//
//	 count 1    e    &    a
//	     E|-----9--------------|
//	     B|----------12---p9---|
//	     G|11------------------|
//	     D|--------------------|
//	     A|--------------------|
//	     E|--------------------|
//	finger 3    1    4    1
//	stroke D    U    D    .
//	length 1/16 1/16 1/16 1/16
//
//	Note 3: set finger
//
// Header lines are "name: value". A system has a line for every string, thin one on top, between rows of counts,
// fingers, strokes and lengths; every value stands under the column in which its note begins. What tablature has no
// sign for (locks, barres, helpers, push, voices) follows as a line of words for each note that has any (notes.go).
//
// After a length stands the time up to the next column where that is another one: "1/8@1/4" is an eighth before a rest
// as long. A chord's values are joined with commas, the thick string first, and written once where they agree.
//
// # Signs
//
// Before a fret: h hammer-on, p pull-off, / and \ slide, S silent shift. After it: 11b13 is bent to the pitch of fret
// 13, 11b13r11 and released, 11pb13 bent before it sounds, 11bc a curl; ~ and ~~ vibrato, > an accent. x5 is dead.
// These are common practice but for S, pb, bc and the rows, which are our own.
//
// # Pages by other hands
//
// A block of lines that look like strings is a system; anything around it is text. Which string is on top, and how they
// are tuned, is told by the labels; without a length row every time is an eighth. Signs that say something a lick does
// not hold (a tapped note, a harmonic, a fret in brackets) are read as plain notes and remarked. Rows that do not line
// up are refused with line and column, since a guess would put notes together that are not.
package tab
