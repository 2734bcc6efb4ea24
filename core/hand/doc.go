// Package hand is the fretting hand: what it reaches, what each move of it needs in
// milliseconds, and the frames and fingers that need least.
//
// # Frames, postures, moves
//
// A frame is the fret that each of four fingers stands over. It exists where every pair of fingers reaches its distance
// in mm; between comfort and limit it is strained. A posture is a frame with the fingers that press in one event. Every
// pair of postures of neighbouring events has a need in ms and a Kind (place, move, jump, roll, barre, slide and so
// on): the base of the kind, what pair of fingers and strings add, and Fitts' law t = b·log2(1 + D/W) over the way D
// with the room W to land in (Fitts 1954; slopes after Langolf, Chaffin and Foulke 1976, from memory). Need over the
// time there is, is the load.
//
// # Two measures
//
// Need decides what breaks and is independent of who would like it. Effort decides what is recommended among what is
// good enough: it adds what a player avoids at any tempo, such as a frame that is left, a finger that goes
// elsewhere, a gap that opens. Both are in ms. Effort is a sum over moves, so the same search finds its least value
// exactly, and since it does not know the tempo, a line keeps its fingers straight, swung, slow and fast.
//
// # The search
//
// The line is one of layers (core/layers): a layer an event, a state a posture. First the least possible largest load
// is found, then, among all paths with no load above it times a slack, the one of least effort.
//
// Cost: O(events·postures²); a single note has some hundred postures. It is cut short in three
// ways, each proved against the plain form by tests: a row of moves is left as soon as its least
// need can win no more (solve.go); the moves between single notes come from a few terms instead of
// one by one (single.go); a line of which few events have changed is joined to what is known of the
// rest (splice.go). Matrices of moves are kept between calls, bounded in bytes.
//
// # One figure, one fingering
//
// A figure that comes back keeps its fingers. A first search finds the line's own; those that follow penalise what
// departs from its figures (core/figure), from the usual finger of a place, a skip or a slide, or leaps to and fro
// (teacher.go). What each term costs stands in one table, terms.go.
//
// Adding a kind of move is a Kind, its base in cost and its case in move.go; whatever is
// assumed has a row in defaults.go and so in docs/model.md.
package hand
