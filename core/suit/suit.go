// Package suit finds what would make a line fit for a player who cannot play it as it is: hands of their own, the same
// tones elsewhere on the neck, or another key.
package suit

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/music"
	"ornamen/core/propose"
	"ornamen/core/say"
	"ornamen/core/shape"
	"ornamen/core/turn"
)

// Way is one way to make a line fit for the player of an engine.
type Way struct {
	Kind   Kind
	Key    string // tells it from the others: the hands, or the tonic
	Why    string
	Tonic  music.Name // of another key
	Report *judge.Report
}

// Kind is how a line is made to fit.
type Kind string

// The kinds, what changes least first.
const (
	Hands Kind = "hands"
	Place Kind = "place"
	Key   Kind = "key"
)

// Limits of what is tried for a player: so many of each kind are worth a look, keys at most so many half steps away.
const (
	each     = 2
	farthest = 6
)

// Ways are what would let the engine's player play a line that is judged as before: the best of each kind, those that
// flow before those that do not, and then what changes least first. The error is why the search was given up.
func Ways(ctx context.Context, e *judge.Engine, l lick.Lick, before *judge.Report) (out []Way, err error) {
	open := OpenHanded(l)
	seen := map[string]bool{judge.HandsID(before.Lick): true}
	for _, kind := range []Kind{Hands, Place} {
		free := kind == Place
		if free && len(open.Notes) > propose.MaxFreePlaces {
			continue
		}
		list, err := propose.Hands(ctx, e, open, propose.Request{Best: each, Place: free})
		if err != nil {
			return nil, err
		}
		for _, x := range list[:min(each, len(list))] {
			if id := judge.HandsID(x.Report.Lick); !seen[id] && better(x.Report, before) {
				seen[id] = true
				out = append(out, Way{Kind: kind, Key: id, Why: x.Why, Report: x.Report})
			}
		}
	}
	moved, err := keys(ctx, e, open, before)
	if err != nil {
		return nil, err
	}
	out = append(out, moved[:min(each, len(moved))]...)
	slices.SortStableFunc(out, func(x, y Way) int { return cmp.Compare(x.Report.Verdict, y.Report.Verdict) })
	return out, nil
}

// keys are the keys near by in which an open-handed line lies better, the best first.
func keys(ctx context.Context, e *judge.Engine, open lick.Lick, before *judge.Report) (out []Way, err error) {
	from, ok := open.Palette()
	if !ok {
		return nil, nil
	}
	guitar := e.Player.Guitar.WithTuning(open.Tuning)
	for by := -farthest; by <= farthest; by++ {
		tonic := music.UsualName(from.Tonic.Class()+by, from.Minor())
		to, err := shape.ToKey(open, tonic.String()+" "+open.Key.Scale)
		if by == 0 || err != nil {
			continue
		}
		moved, err := turn.Recolour(open, guitar, to, shape.NearestPlace)
		if err != nil {
			continue // there is no room for it
		}
		r, err := e.Check(ctx, OpenHanded(moved.Lick))
		if err != nil {
			return nil, err
		}
		if !better(r, before) {
			continue
		}
		where := "higher"
		if by < 0 {
			where = "lower"
		}
		out = append(out, Way{
			Kind:   Key,
			Key:    to.Tonic.String(),
			Why:    fmt.Sprintf("The same line %s %s.", say.Count(max(by, -by), "half step"), where),
			Tonic:  to.Tonic,
			Report: r,
		})
	}
	slices.SortStableFunc(out, func(x, y Way) int {
		return cmp.Or(cmp.Compare(x.Report.Verdict, y.Report.Verdict), cmp.Compare(y.Report.Ceiling, x.Report.Ceiling))
	})
	return out, nil
}

// better says whether a line lies better for the hand.
func better(r, before *judge.Report) bool {
	return r.Verdict < before.Verdict || r.Verdict == before.Verdict && r.Ceiling > before.Ceiling
}

// OpenHanded is a line with all fingers and strokes open, locked ones too.
func OpenHanded(l lick.Lick) lick.Lick {
	l = l.Clone()
	for i := range l.Notes {
		l.Notes[i] = l.Notes[i].WithHands(lick.NoFinger, "")
	}
	return l
}
