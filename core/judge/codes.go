package judge

import (
	"slices"

	"ornamen/core/lick"
)

// Codes are those of every finding that can be made: the rules', and that of the turn of a loop.
func Codes() (out []lick.Code) {
	for _, r := range rules {
		if !slices.Contains(out, r.code) {
			out = append(out, r.code)
		}
	}
	return append(out, LoopTurn)
}

// The codes of findings. They are stable: a lick file marks what is meant by them, and `check --json` prints them.
const (
	SlurChangesString  lick.Code = "slur-changes-string"
	HammerFalls        lick.Code = "hammer-falls"
	PullRises          lick.Code = "pull-rises"
	SlurSameFinger     lick.Code = "slur-same-finger"
	SlideChangesFinger lick.Code = "slide-changes-finger"
	FingersCross       lick.Code = "fingers-cross"
	Reach              lick.Code = "reach"
	FingerJump         lick.Code = "finger-jump"
	Shift              lick.Code = "shift"
	FingerFast         lick.Code = "finger-fast"
	Crowded            lick.Code = "crowded"
	OpenStringFinger   lick.Code = "open-string-finger"
	BeyondNeck         lick.Code = "beyond-neck"
	BarreConflict      lick.Code = "bar-conflict"
	BendAimless        lick.Code = "bend-aimless"
	BendWeak           lick.Code = "bend-weak"
	BendOffEdge        lick.Code = "bend-off-edge"
	BendHeavy          lick.Code = "bend-heavy"
	BendOpenString     lick.Code = "bend-open-string"
	BendLate           lick.Code = "bend-late"
	VibratoShort       lick.Code = "vibrato-short"
	StrokeRepeats      lick.Code = "stroke-repeats"
	ChangeInside       lick.Code = "change-inside"
	ChangeAgainst      lick.Code = "change-against"
	ExitsMixed         lick.Code = "exits-mixed"
	SweepTurns         lick.Code = "sweep-turns"
	PairNeedsFingers   lick.Code = "pair-needs-fingers"
	StrokeFast         lick.Code = "stroke-fast"
	NoteOutside        lick.Code = "note-outside"
	LoopTurn           lick.Code = "loop-turn"
	LandingEarly       lick.Code = "landing-early"
	LandingLate        lick.Code = "landing-late"
	ChordMissed        lick.Code = "chord-missed"
	ClashCode          lick.Code = "clash"
	TensionHeld        lick.Code = "tension-held"
)
