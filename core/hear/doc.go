// Package hear listens to a guitar. Track follows the pitch of a single-note line by the difference function of YIN (de
// Cheveigné and Kawahara, JASA 111(4), 2002; from memory). On it stand Bend, which says how a bend that was played lies
// to its target, Line, which compares a line that was played with the one that is written, and Played, which writes
// down notes that nobody has written, with OnGrid for their tempo and lengths. Recordings are mono samples at any usual
// rate.
package hear
