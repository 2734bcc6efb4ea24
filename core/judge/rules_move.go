package judge

import (
	"fmt"

	"ornamen/core/hand"
	"ornamen/core/lick"
)

// JumpWarning is the load from which a jump is worth a word although it flows
// (model default): it is the classic stumble.
const JumpWarning = 0.6

// fingerJump: one finger leaves its string for another one at another fret and cannot roll
// or lie flat. It is told from JumpWarning on, before it is tight; where it is slower, a
// hop of the index alone is still worth a remark.
func fingerJump(j *Judgement) (out []Finding) {
	j.loads(Fretting, func(i int, l Load) {
		if j.Notes[i].Kind == hand.Jump && l.From >= 0 && l.Load > JumpWarning {
			n := j.Written.Notes[i]
			out = append(out, j.move(i, l, "the "+n.Finger.Word()+" jumps",
				fmt.Sprintf("From %s to %s with finger %s", j.where(j.sameFinger(i, l.From)), j.where(i), n.Finger)))
		} else if j.hops(i, l) {
			out = append(out, Finding{
				Severity: Flows, Notes: []int{l.From + 1, i + 1}, Title: "the index hops",
				Text: fmt.Sprintf("From %s to %s with the index both times: a place where players stumble.",
					j.where(l.From), j.where(i)),
			})
		}
	})
	return out
}

// hops says whether the index goes one fret over to the next string, which is slow
// enough here and yet a stumble that players warn of (common practice).
func (j *Judgement) hops(i int, l Load) bool {
	if j.Notes[i].Kind != hand.Jump || l.From < 0 || j.Written.Notes[i].Finger != lick.Index {
		return false
	}
	n, m := j.Written.Notes[i], j.Written.Notes[l.From]
	strings, frets := n.String-m.String, n.Fret-m.Fret
	return m.Finger == lick.Index && strings*strings == 1 && frets*frets == 1
}

// sameFinger is the note of from's column that the finger of note i played.
func (j *Judgement) sameFinger(i, from int) int {
	for k, n := range j.Written.Notes[:from+1] {
		if n.At.Cmp(j.Written.Notes[from].At) == 0 && n.Finger == j.Written.Notes[i].Finger {
			return k
		}
	}
	return from
}

// shiftRule: the hand goes to another place, by shift, slide or as a whole grip. The way
// is that of the hand, in mm along the neck.
func shiftRule(j *Judgement) (out []Finding) {
	j.loads(Fretting, func(i int, l Load) {
		switch k := j.Notes[i].Kind; k {
		case hand.Move, hand.Slide, hand.Shift, hand.Grips:
			if loadSeverity(l.Load) == Flows || l.From < 0 {
				return
			}
			title := map[hand.Kind]string{hand.Move: "the hand shifts", hand.Slide: "a fast slide",
				hand.Shift: "a silent shift",
				hand.Grips: "the grip moves"}[k]
			way := fmt.Sprintf("The hand moves %.0f mm", j.Notes[i].Way)
			if j.Notes[i].Way < 0.5 {
				way = "Every finger lets go" // and the hand comes down where it was
			}
			out = append(out, j.move(i, l, title, fmt.Sprintf("%s, from %s to %s", way, j.where(l.From), j.where(i))))
		}
	})
	return out
}

// fingerFast is a move of the fingers that is simply too quick: the hand stands where it
// should and no finger jumps.
func fingerFast(j *Judgement) (out []Finding) {
	words := map[hand.Kind]string{
		hand.Place:  "the next finger",
		hand.Hammer: "the hammer",
		hand.Pull:   "the pull",
		hand.Roll:   "the roll",
		hand.Barre:  "the barre",
		hand.Same:   "the same finger again",
		hand.ToOpen: "the open string",
		hand.Hold:   "the hold",
	}
	j.loads(Fretting, func(i int, l Load) {
		if what, ok := words[j.Notes[i].Kind]; ok && loadSeverity(l.Load) > Flows {
			out = append(out,
				j.move(i, l, what+" comes fast", fmt.Sprintf("Finger %s at %s", j.Written.Notes[i].Finger, j.where(i))))
		}
	})
	return out
}

// crowded says where fingertips are wider than the frets. It never makes a line tight:
// players move the finger that is done out of the way.
func crowded(j *Judgement) (out []Finding) {
	f := Finding{Severity: Flows, Have: float64(hand.Fingertip), Unit: "mm", Title: "fingertips crowd"}
	narrow := hand.Fingertip
	for i, n := range j.Written.Notes {
		if cell := j.Guitar.Cell(n.Fret); n.Fret > 0 && n.Fret <= j.Guitar.Frets && cell < hand.Fingertip {
			f.Notes = append(f.Notes, i+1)
			narrow = min(narrow, cell)
		}
	}
	if len(f.Notes) == 0 {
		return nil
	}
	f.Need, f.Have = float64(hand.Fingertip), float64(narrow)
	f.Text = fmt.Sprintf(
		"Frets here are %.1f mm wide, a fingertip needs about %.0f: neighbouring fingers make room for each other.",
		narrow, hand.Fingertip,
	)
	return []Finding{f}
}
