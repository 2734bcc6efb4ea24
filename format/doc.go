// Package format turns licks into other formats and back: bytes in, core types out.
//
// Formats lists them with name, ending, reader, writer and what each holds; command line,
// import and export read that list, so that a new format is one row and its file. A reader
// gives a valid lick or an error of one sentence that names the line or the column it
// stumbled over.
//
// Text tab is written so that it comes back as it went out, and read from other hands as
// well; the signs stand in tab.go and in the README.
package format
