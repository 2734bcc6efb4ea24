// Package music holds the tones: pitches, spelled names, degrees, scales, chords and the
// palette a player chooses from them. It knows nothing of a guitar.
//
// # The words
//
//   - Pitch is a key number of 12-tone equal temperament, 60 for middle C, 69 for the A of
//     440 Hz (ISO 16). Its Class is the remainder by 12.
//   - Name is a spelled tone, letter and accidentals: C♯ and D♭ sound alike and are two
//     names. A scale is spelled with each letter once.
//   - Degree is a number over a root with its alteration, counted on the major scale: ♭3,
//     ♯4, 9. Two degrees are the same tone where their half steps agree.
//   - Scale is a name with its degrees; Parents says which scales share its tones from
//     another root.
//   - Palette is what a player chose: a tonic, a scale, tones added (colours, which may be
//     held to one octave, to the way up or down, or to below the root) and tones dropped.
//     Everything that judges a tone asks the palette for its Role: root, scale, colour or
//     outside.
//   - Chord is read from its name by a full grammar, the slash of a bass tone included.
//
// # A worked example
//
// C♯ minor pentatonic with the 9 added is C♯ E F♯ G♯ B, and D♯ as a colour. Pitch 63 is
// D♯: four letters of the scale are taken, so that it is spelled as a D, and At(63) says
// degree 9, role colour. Pitch 62 is D, a half step above the root and outside.
//
// Errors are one sentence for the player, naming the word that is none.
package music
