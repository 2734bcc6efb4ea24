// Package edit reads the words of a key, a form or a command as an edit of a line. The bench and
// the command line share it, so that whatever the one can do the other can.
//
// The words: what is done to a note is named as its field is (finger, stroke, slur, bend), what
// is done to the line as its setting is (tempo, meter, loop). A value that has two states is
// switched (vibrato, a mark, a push), the others are set; an empty value frees a finger or a
// stroke to be found again.
//
// Working: a Words value is one edit asked for; Read checks it against the line and gives the
// lick.Edit that does it, which alone changes anything.
//
// Example: "3 bend 2" on a line gives lick.SetBend of a full step on its third note; "tempo 112"
// gives a lick.Setting.
package edit
