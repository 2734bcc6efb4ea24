// Package store keeps the notebook in SQLite through GORM: every lick as a chain of revisions.
//
// # Revisions
//
// A Revision is a whole lick file as it was after one edit, packed. Revisions are never changed or removed: an edit
// adds one and moves the lick's head on, undo moves the head back along the chain, redo on again. An edit names the
// revision it was made on. If that is no longer the head, the edit is kept aside (it can be found among the versions)
// and the error is a *StaleError: two tabs never overwrite each other.
//
// # What is acknowledged is on disk
//
// Writes are transactions that SQLite syncs before they return. Before each one the file is looked at: one that was
// moved, replaced or deleted while it was open is noticed, and what was saved is written beside it. A full disk or a
// file that cannot be written is a sentence, and the notebook can be read on. One process has the file at a time (a
// lock beside it).
//
// # Copies and upgrades
//
// Beside the file lie a copy of each of the last seven days and one from before each upgrade (copies.go, migrate.go). A
// migration is a row at the end of a list; it never changes once it was given out. The file is looked over at every
// start; if it is damaged, the last good copy is named.
//
// Times are stored in UTC. Errors are one sentence for the player; their types say what to do about them.
package store
