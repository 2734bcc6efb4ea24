// Package demo is the notebook that ships with the application: Ines Halloran, lead guitarist of the trio Quarry
// Lantern, prepares the Midwinter Barn set. All of it is invented.
//
// The licks are written down in a short notation (build.go) and read by the same code that reads a player's files.
// Several are in states that a notebook has in use: half fingered, too fast, mended in a second version.
package demo
