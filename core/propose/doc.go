// Package propose finds ways to play a line: both hands around what is locked, other
// fingers, places, ways of picking and legato, each with what it is good for.
//
// # Questions and answers
//
//   - Hands: the recommended hands, and others beside them. With places free too, string
//     and fret, frame, finger and stroke are chosen in one search (joint.go).
//   - Ways: the ways to pick a line, side by side, the highest ceiling first.
//   - Restring: some notes on the neighbouring string, so that every change sweeps or
//     leaves on one stroke.
//   - Legato, within Hands and Ways: what follows on a string is slurred, with a slide
//     where four tones need one.
//
// A proposal keeps what is locked. Each has a ceiling, a sentence why, and the whole lick,
// so that taking one is an edit like any other.
//
// # Exactness
//
// Where it says best possible, a search has proved it: hand.Solve and pick.Solve for the given places, joint for free
// ones. The joint search is exact over places, hand and pick together because the two hands meet only through the
// places; its invariant and cost stand with the type. Legato is the one that is not exhaustive: slurs are decided
// string by string, each with its neighbours.
//
// Long questions look at the context in every layer of their searches; an answer after its
// end means nothing, and is not given.
//
// It is a little larger than other rooms because each question has its own alternatives and the
// words that explain them, all on one search.
package propose
