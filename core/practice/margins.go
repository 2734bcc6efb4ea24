package practice

import (
	"ornamen/core/bend"
	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/player"
)

// margins are what a hand has over what notes [from, to], from 1, ask of it at any tempo: its limit over the widest
// stretch of two fingers that play in one stance, and the force at which its fingers fail (their strength times
// bend.Breaking) over that of the hardest bend. 0 stands for a part without a stretch, or without a bend. Both are
// numbers without a unit: 1.2 is a fifth to spare, below 1 is beyond the hand.
func margins(l lick.Lick, r *judge.Report, who player.Player, from, to int) (reach, bends float64) {
	least := func(have *float64, x float64) {
		if x > 0 && (*have == 0 || x < *have) {
			*have = x
		}
	}
	g := who.Guitar.WithTuning(l.Tuning)
	for i := from - 1; i < to; i++ {
		n := l.Notes[i]
		if w := r.Notes[i].Stretch; w.Strain() > 0 {
			least(&reach, float64(w.Limit/w.Reach))
		}
		if n.Bend == nil || n.Bend.Semitones <= 0 {
			continue
		}
		finger := int(r.Lick.Notes[i].Finger - lick.Index + 1)
		if push, ok := bend.Solve(g, n.Place(), n.Bend.Semitones); ok && push.Force > 0 {
			held := bend.Breaking * who.Bends.Of(finger, len(r.Notes[i].Helpers))
			least(&bends, float64(held/push.Force))
		}
	}
	return reach, bends
}
