// Package edit reads the words of a key, a form or a command as an edit of a line. The bench and
// the command line share it, so that whatever the one can do the other can.
//
// The words: what is done to a note is named as its field is (finger, stroke, slur, bend), what
// is done to the line as its setting is (tempo, meter, loop), what is done to notes as a figure by
// what becomes of them (remove, duplicate, move, longer). A word sets its value whatever was there;
// "off" takes it away, or frees a finger or a stroke to be found again.
//
// Working: a Words value is one edit asked for; Read checks it against the line and gives the
// lick.Edit that does it, which alone changes anything. Around finds what one would select.
//
// Example: "3 bend 2" on a line gives lick.SetBend of a full step on its third note; "3-8 move 2
// frets" moves six notes as one; "tempo 112" gives a lick.Setting.
package edit
