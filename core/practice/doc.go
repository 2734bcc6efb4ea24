// Package practice turns what a hand can do into what it does: parts to practise, a ladder of
// tempos, a plan for today, progress, and what the log says of the player's own numbers.
//
// # Words
//
//   - Part: some notes of a lick, or one hand of it, with a ceiling of its own.
//   - Round: once through a part; it was clean or it was not.
//   - Ladder: the tempos of a part, from one at ease up to the one that is wanted. Three clean
//     rounds go a step up, two that were not go a step down (common practice).
//   - Due: a part whose time to come back has passed; the more often it went well, the longer
//     it may wait.
//
// # Working
//
// Everything here is a function of the log, the licks and a time that is passed in: the same log gives the same plan,
// and a plan for any day can be tested. Nothing is remembered beside the log.
//
// # Care
//
// A round that hurt holds back what is heavy for the hand until the player says that it is
// well. That is a help to stop, not advice: pain or a burning feeling means stop and rest;
// lasting pain, numbness or weakness is for a doctor or a qualified therapist.
package practice
