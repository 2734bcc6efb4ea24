// Package format turns licks into other formats and back: bytes in, core types out.
//
// # A row a format
//
// Formats lists them with name, ending, reader, writer and what each holds; command line, import and export read that
// list, so that a new format is one row and its room. What a format holds is said in words that the import page shows:
// only a lick file and a text tab hold all of a lick.
//
// # Reading
//
// A reader gives a valid lick or an error of one sentence that names the line or the column it stumbled over; it never
// gives half a lick. What it chose, moved or left out stands among the remarks (package read), so that nothing is
// dropped in silence. Files are from anywhere: sizes, counts and what a zip unpacks to are bounded before memory is
// taken for them, and every reader is fuzzed.
//
// # Writing
//
// A writer takes any valid lick and cannot fail. Hands that the player left open are written as
// open; package handover fills them in where a format is for the eye or the ear.
package format
