// Package midi writes and reads Standard MIDI Files 1.0 (the specification's figures from
// memory).
//
// Written is format 1: tempo and meter, the line, a bass and drums. Every string has a channel
// of its own, because a bend moves the pitch of a whole channel; the range of the pitch wheel
// is declared (RPN 0). What MIDI has no event for (tuning, pick-up, feel, loop, times before
// the swing) stands as text that begins with "Ornamen" and is read again.
//
// Read are formats 0 and 1 by anyone. The reader is written by hand: it counts events as they
// come and never believes a length that the file states, which the libraries known to us do;
// one of them reads our files in the tests.
package midi
