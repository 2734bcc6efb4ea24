package propose

import (
	"context"
	"slices"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/say"
)

// Busy says where the bass under a line keeps the fretting hand from the line, and what would help: "The ring finger
// holds the bass on beat 3 in bar 2: the line can move to string 2." It is empty where the line with its bass does not
// break, or has none. The error is the context's.
func Busy(ctx context.Context, e *judge.Engine, l lick.Lick) (string, error) {
	if !slices.ContainsFunc(l.Notes, func(n lick.Note) bool { return n.Voice == lick.VoiceBass }) {
		return "", ctx.Err()
	}
	r, err := e.Check(ctx, l)
	if err != nil || r.Verdict < judge.Breaks {
		return "", err
	}
	for _, f := range r.Findings {
		if f.Severity < judge.Breaks {
			continue
		}
		for _, number := range f.Notes {
			i := number - 1
			b := heldBass(r.Lick, i)
			if l.Notes[i].Voice == lick.VoiceBass || b < 0 {
				continue
			}
			to, err := otherString(ctx, e, l, i, r)
			if err != nil {
				return "", err
			}
			return say.BassHolds(r.Lick, b, i, to), nil
		}
	}
	return "", nil
}

// heldBass is the fretted bass note that sounds when note i begins, or −1.
func heldBass(l lick.Lick, i int) int {
	at := l.Notes[i].At
	return slices.IndexFunc(l.Notes, func(n lick.Note) bool {
		return n.Voice == lick.VoiceBass && n.Finger.Fretting() && !at.Before(n.At) && at.Before(n.End())
	})
}

// otherString is a string on which note i no longer breaks, 0 where there is none.
func otherString(ctx context.Context, e *judge.Engine, l lick.Lick, i int, r *judge.Report) (int, error) {
	for _, p := range e.Player.Guitar.WithTuning(l.Tuning).Places(l.Pitch(i)) {
		if p.String == l.Notes[i].String {
			continue
		}
		moved, err := lick.Move{Note: i, Place: p}.Apply(l)
		if err != nil {
			continue
		}
		x, err := e.Check(ctx, moved)
		if err != nil {
			return 0, err
		}
		if x.Breaking() < r.Breaking() {
			return p.String, nil
		}
	}
	return 0, nil
}
