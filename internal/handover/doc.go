// Package handover brings other people's files in and hands licks out, with the engine: notes
// that name no string are laid where this hand has them easiest, and what is written for the
// eye or the ear alone has the open hands found first.
//
// It stands between format, which knows bytes, and the two doors (pages and command line), which know people.
package handover
