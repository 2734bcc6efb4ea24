// Package say has every English sentence that is written about a line: what a finding is
// called and says, what a fix is called, why hands were chosen.
//
// A function here is passed what was measured and returns words; it measures nothing and decides nothing. Nothing in
// the project reads a sentence back: what is compared is a code (lick.Code), a kind of move (hand.Kind) or a small type
// of lick. So a sentence can be bettered here without a look at anything else.
//
// # Form
//
// A title is two to five words, lower case, for a list. A text is whole sentences with a
// capital and a full stop, and names its two numbers where it has them, so that a player sees
// what is needed beside what there is. Notes are counted from 1, frets and strings are named
// as players name them ("fret 9 on B"), lengths are in mm, times in ms, forces in N.
//
// # Where
//
// hand.go the fretting hand; pick.go the picking hand; bend.go bends and vibrato; heard.go tones and chords; fix.go
// fixes; why.go why these hands and not others; words.go what all of them share.
package say
