// Package midi writes and reads Standard MIDI Files 1.0 (the specification's figures from memory).
//
// # What is written
//
// Format 1 with 6720 ticks a quarter, which all usual lengths divide: title, tempo and meter on the first track, then
// the line, a bass and drums. Every string has a channel of its own, from 0 for the thin one, because a bend moves the
// pitch of a whole channel; drums are on channel 9 and the bass on 15, as many as nine strings leave free.
//
//	lick                    MIDI
//	note                    note on and off; accent 112, slurred 64, ghost 36, else 84
//	palm muting             program 28, muted electric guitar, else 27
//	bend, vibrato, slide-in pitch wheel, a position every 12 ms; range 12 by RPN 0
//	title, chords           track name (03), marker (06)
//	tempo, meter            51, 58
//	tuning, pick-up, feel,  text (01) that begins with "Ornamen"
//	loop, key, slide-in,
//	times before the swing
//
// A shuffle is written as it is played, so that any program plays it so; the written time stands
// beside each note that was moved and is read again.
//
// # What is read
//
// Formats 0 and 1 by anyone; format 2 and film frames are refused in a sentence. A file with our texts comes back with
// its strings and frets. Of others one track, or one channel of a file with a single track, is a line: its beginnings
// go onto the nearest thirty-second or triplet sixteenth, its pitches by whole octaves onto the guitar, its places near
// the hand for now (the engine finds better ones, package handover). A wheel that rises and stays is a bend, one that
// turns three times or more a vibrato, one that begins away and comes home within a tenth of a second a slide into the
// note.
//
// The reader is written by hand: it counts events as they come and never believes a length that
// the file states, which the libraries known to us do; one of them reads our files in the tests.
package midi
