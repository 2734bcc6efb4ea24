// Package judge judges a line with both hands together: what every move needs and has, the
// tempo up to which it is clean, what breaks and why.
//
// # From a lick to a report
//
//   - LayOut turns notes into two rows of events, one for each hand, with the time that
//     each move has. A slur that its frets or strings do not allow is told once and asks
//     nothing of the hands.
//   - Fill decides what the player has left open, as a proposal would, so that a half
//     written line can be judged.
//   - Measure gives every note its loads: fretting, picking, bend, vibrato.
//   - Rules go over the measured line; each finds one sort of trouble, with its two
//     numbers, which package say puts in a sentence (rules.go and rules_*.go).
//   - The mender tries what could help around the worst findings and keeps what does
//     (candidates.go lists, fixes.go tries).
//
// The verdict is the worst severity of what is not musical and not meant. The ceiling is the tempo over the largest
// load: every need is constant, so it is exact. Best possible is the ceiling that the best hands would reach on the
// same places, a bound that the searches of hand and pick prove.
//
// # Adding a finding
//
// A code in codes.go, a function in the file of its hand, a row in rules.go, a sentence in core/say, a row of
// TestRules. A rule changes nothing and does not know the others, and no code anywhere reads a sentence.
//
// # Fixes
//
// A fix is a list of edits that has been tried: the line with it is judged anew, and it is offered if its finding is
// gone and nothing is worse. What it changes beside what its name says is said. A fix costs a whole check, so a long
// line is judged in a window around it (mendwindow.go), which must come to the same answer and is checked at the end.
//
// An Engine is safe for concurrent use. What is asked of it ends with the context that was passed.
//
// It is larger than other rooms because every finding has its rule here, beside the others
// it is weighed against; a rule is found by its code in one of rules_*.go.
package judge
