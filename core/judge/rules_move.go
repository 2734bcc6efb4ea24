package judge

import (
	"ornamen/core/hand"
	"ornamen/core/lick"
	"ornamen/core/say"
)

// JumpWarning is the load from which a jump is worth a word although it flows
// (model default): it is the classic stumble.
const JumpWarning = 0.6

// fingerJump: one finger leaves its string for another one at another fret and cannot roll or lie flat. It is told from
// JumpWarning on, before it is tight; where it is slower, a hop of the index alone is still worth a remark.
func fingerJump(j *Judgement) (out []Finding) {
	j.loads(Fretting, func(i int, l Load) {
		if j.Notes[i].Kind == hand.Jump && l.From >= 0 && l.Load > JumpWarning {
			out = append(out, j.move(i, l, say.Jump(j.Written, j.sameFinger(i, l.From), i)))
		} else if j.indexJumps(i, l) {
			out = append(out, remark(say.IndexJumps(j.Written, l.From, i), l.From+1, i+1))
		}
	})
	return out
}

// indexJumps says whether the index goes one fret over to the next string, which is slow
// enough here and yet a stumble that players warn of (common practice).
func (j *Judgement) indexJumps(i int, l Load) bool {
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
func shiftRule(j *Judgement) []Finding {
	return j.late(Fretting, func(i int, l Load) (say.Words, bool) {
		w, ok := say.HandMoves(j.Notes[i].Kind, j.Written, l.From, i, j.Notes[i].Way)
		return w, ok && l.From >= 0
	})
}

// fingerFast is a move of the fingers that is simply too quick: the hand stands where it should and no finger jumps.
func fingerFast(j *Judgement) []Finding {
	return j.late(Fretting, func(i int, _ Load) (say.Words, bool) { return say.FingerFast(j.Notes[i].Kind, j.Written, i) })
}

// crowded says where fingertips are wider than the frets. It never makes a line tight:
// players move the finger that is done out of the way.
func crowded(j *Judgement) (out []Finding) {
	var notes []int
	narrow := hand.Fingertip
	for i, n := range j.Written.Notes {
		if cell := j.Guitar.Cell(n.Fret); n.Fret > 0 && n.Fret <= j.Guitar.Frets && cell < hand.Fingertip {
			notes = append(notes, i+1)
			narrow = min(narrow, cell)
		}
	}
	if len(notes) == 0 {
		return nil
	}
	f := remark(say.Crowded(narrow, hand.Fingertip), notes...)
	f.Need, f.Have, f.Unit = float64(hand.Fingertip), float64(narrow), "mm"
	return []Finding{f}
}
