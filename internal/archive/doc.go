// Package archive carries a whole notebook as plain files in a zip.
//
//	notebook.json                 what it is and by which version it was written
//	licks/00007-thaw-bends/
//	    0001.lick.json            a lick file for every version
//	    history.json              how they hang together, and which is shown
//	palettes.json recipes.json changes.json
//	players.json                  who plays
//	players/01/settings.json      the settings of the first of them, where any were made
//	players/01/practice.json      and the log, where there is one
//	sets.json
//
// All of it can be read without Ornamen. Reading is strict and bounded: number and size of files, unknown fields, a
// version without its file. An archive is added whole, or nothing of it is.
package archive
