// Package lick is the line itself: notes with exact times, what each hand does on them, and what the player has set. It
// reads and writes the lick file and changes a lick only by edits.
//
// # The line
//
// Times are exact fractions of a whole note (Time), so that triplets and sixteenths add up; where they leave the range
// of 64 bits they are refused. Notes are in playing order: by time, thick strings first where they sound together. Two
// notes never sound on one string at once. Validate holds all of this, and Parse, every edit and Encode go through it:
// a Lick that another room sees is valid.
//
// What the player has set is locked, field by field (LockSet). Proposals fill in the rest
// and never touch it; an edit by hand locks what it sets.
//
// # Edits
//
// An Edit is a value with Apply and What. Apply never touches its argument and gives a
// valid lick or an error of one sentence, so a key, a fix, a proposal and an undo are the
// same thing to the store. All puts several into one step of the history.
//
// # Time in seconds
//
// Timeline lays the notes out in seconds at a tempo with the feel applied: in a shuffle the first of two eighths takes
// two thirds of the beat. Judging, drawing and sound read it, so that they agree.
//
// Worked example: eighths at 120 last 250 ms straight; in a shuffle the first lasts 333 ms
// and the second 167, which is the time that a move into the third note has.
//
// It is a little larger than other rooms because the format, its checks and every edit of a lick
// stand together: an edit that could make a lick that the format refuses would be found here.
package lick
