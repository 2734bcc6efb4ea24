package demo

import (
	"context"
	"math"
	"math/rand/v2"
	"time"

	"ornamen/core/judge"
	"ornamen/core/practice"
	"ornamen/internal/practising"
	"ornamen/internal/store"
)

// The invented player of the log: a quick right hand, a left hand that is neither quick nor strong, eight weeks of
// about five days each.
const (
	logDays    = 56
	playsDay   = 0.7 // of days
	ownPicking = 1.10
	ownFinger  = 0.94
	ownReach   = 1.00
	ownBends   = 0.92
	steepHands = 14.0
)

// practised are the licks of the log with the part that is worked on; one of them gets stuck.
var practised = []struct {
	title string
	part  int // of its parts; −1 is the whole
}{
	{"Lantern turnaround, mended", 0}, {"Lantern turnaround, mended", -1}, {"Quarry steps", -1}, {"Mill wheel", 0},
	{"Barn door ladder", 0}, {"Thaw bends", -1},
}

// work is a part of a lick that is practised.
type work struct {
	entry store.Entry
	piece practice.Piece
	part  practice.Part
}

// worked finds the parts of practised in a notebook.
func worked(ctx context.Context, s *store.Store, engine *judge.Engine) ([]work, error) {
	pieces := practising.NewPieces()
	rows, err := s.List(ctx, store.Query{Limit: 100})
	if err != nil {
		return nil, err
	}
	var all []work
	for _, p := range practised {
		for _, r := range rows {
			if r.Title != p.title {
				continue
			}
			e, err := s.Get(ctx, r.ID)
			if err != nil {
				return nil, err
			}
			piece, err := pieces.Of(ctx, engine, practising.Who{}, e)
			if err != nil {
				return nil, err
			}
			k := p.part
			if k < 0 {
				k = len(piece.Parts) - 1
			}
			all = append(all, work{e, piece, piece.Parts[k]})
		}
	}
	return all, nil
}

// logOf is what the invented player has practised up to the day before now, the same every time but for the dates.
//
// The player climbs the ladder as the stand would lead, from what the log says so far; a round is clean by chance, of
// both hands, the reach and the bends together, as the calibration's model has it. So the page of progress shows what
// that model makes of a player whose abilities are known.
func logOf(all []work, engine *judge.Engine, now time.Time) (log []practice.Entry) {
	rng := rand.New(rand.NewPCG(20, 26))
	for day := -logDays; day < 0; day++ {
		if rng.Float64() > playsDay {
			continue
		}
		at := time.Date(now.Year(), now.Month(), now.Day()+day, 18, 0, 0, 0, now.Location())
		for _, w := range all {
			if rng.Float64() < 0.35 || w.part.Ceiling <= 0 {
				continue
			}
			for range 4 + rng.IntN(4) {
				tempo := practice.Climb(w.part, w.piece.Wanted, log, w.entry.ID, 0).Tempo
				clean := rng.Float64() < chance(w.part.Picking*ownPicking, tempo)*
					chance(w.part.Fretting*ownFinger, tempo)*chance(w.part.Reach*ownReach, 1)*
					chance(w.part.Bends*ownBends, 1)
				x := practising.Round(engine, w.entry, w.part, tempo, clean, w.part.To, 0.6+0.5*rng.Float64(), at)
				x.Comfort = practice.Fine
				log = append(log, x)
				at = at.Add(time.Duration(x.Minutes * float64(time.Minute)))
			}
		}
	}
	return log
}

// chance is how likely a hand is clean at a tempo, given its ceiling; 0 is a hand with nothing to do. A logistic curve
// in the logarithm of the margin: one half at the ceiling itself.
func chance(ceiling, tempo float64) float64 {
	if ceiling <= 0 {
		return 1
	}
	return 1 / (1 + math.Exp(-steepHands*math.Log(ceiling/tempo)))
}
