// Package changes reads a line against the chords that move under it: what each note is over its chord, how each phrase
// lands on each change, which tones of a palette fit over which chord.
//
// # Words
//
//   - Changes: a row of chords with their times. A change is where another chord begins.
//   - Role: what a tone is over a chord. Root, third and fifth are safe, the seventh tells the
//     chord, a colour is chosen, a tension is another tone of the scale, a clash lies a half
//     step above a chord tone, outside is none of the palette (all common practice).
//   - Landing: the chord tone by which a phrase arrives at a change, with how early or late it
//     comes.
//   - Form: a row of chords that players know by a name, in degrees, so that it stands in any
//     key.
//
// # Working
//
// Read goes through the notes and the chords once, side by side: its cost is their number, not their product.
// Everything is computed from the written times; the feel does not move a landing.
//
// # Example
//
// Over E7 | A7 the pair A and E on the last beat of E7, with nothing after it, is a landing
// on A7 that is early by a beat: A is no tone of E7, so it can be meant for A7 alone.
package changes
