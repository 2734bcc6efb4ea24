// Package phrase reads and writes the notation of cells: steps of a ladder, places on
// strings or degrees over chords, with their slurs, bends, holds and rests.
//
// # The notation
//
// A phrase is one cell, or several with | between them that take turns. Before its steps stands what they name:
// "tones:" (may be left out), "strings:", "chord:" or "chord@5,4,3:" with the string of each step. A step is
//
//	[D|U] [< or \] [h|p|s|S] tone [^bend [_]] [~|~~] [>]
//
// a stroke that is fixed, a slide into it from below or above, a slur, the tone, a bend with its release, vibrato,
// accent. "." rests, "-" holds on, (1 3) sounds together. A tone is a number, 1 where the cell starts; a letter and a
// number, the letter a string; or a degree with ' and , for octaves.
//
// # A worked example
//
// "strings: a1 ha2 b1^full_" is three steps: the lowest tone of the first string, the
// second one hammered, and the lowest tone of the next string bent a full step and
// released. String writes a phrase as ParsePhrase reads it, note for note (fuzzed).
//
// An error is a *WordError that names the word and says what could stand there.
package phrase
