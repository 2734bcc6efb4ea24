package practising

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"time"

	"ornamen/core/cache"
	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/practice"
	"ornamen/internal/store"
)

// Pieces finds what there is to practise for one player after the other, and remembers into
// which parts each version of a lick falls, so that a round of practice judges nothing anew.
type Pieces struct {
	kept *cache.Cache[pieceKey, practice.Piece]
}

// pieceKey names a version of a lick as a player plays it.
type pieceKey struct {
	lick, revision uint
	who            Who
}

// What is remembered at most, and about what a part takes, in bytes.
const (
	keptPieces = 4 << 20
	partBytes  = 200
)

// NewPieces remembers nothing yet.
func NewPieces() *Pieces {
	return &Pieces{cache.New[pieceKey](keptPieces, func(p practice.Piece) int { return partBytes * (1 + len(p.Parts)) })}
}

// longest is how many notes of a lick are split for practice: what is longer is practised by its
// beginning, or by licks cut from it.
const longest = 512

// mostPieces is how many licks are looked at for a plan: those touched last, and those of the log.
const mostPieces = 60

// Who is the player for whom pieces are judged.
type Who struct {
	Key string // names the engine's player, whatever the settings were
	Own string // under which licks keep the player's own fingers (store.Player.Own)
}

// Of is a lick as something to practise, with its parts. A lick of 64 notes takes about 30 ms the first time: it is
// judged whole, and each of its parts alone. Of one longer than longest it is the beginning.
func (m *Pieces) Of(ctx context.Context, e *judge.Engine, who Who, x store.Entry) (practice.Piece, error) {
	key := pieceKey{x.ID, x.Revision, who}
	if p, ok := m.kept.Get(key); ok {
		return p, nil
	}
	l, title := x.Lick.For(who.Own), titled(x)
	if len(l.Notes) > longest {
		n := longest
		for n > 1 && l.Notes[n].At == l.Notes[n-1].At {
			n-- // what sounds together stays together
		}
		l.Notes, l.Loop, l.Parts, title = l.Notes[:n], false, nil, title+", its beginning"
	}
	r, err := e.Check(ctx, l)
	if err != nil {
		return practice.Piece{}, err
	}
	parts, err := practice.PartsBothWays(ctx, e, l, r)
	if err != nil {
		return practice.Piece{}, err
	}
	p := practice.Piece{
		Lick:     x.ID,
		Title:    title,
		Wanted:   l.Tempo,
		Parts:    parts,
		Landings: len(l.Chords) > 1,
		Bends:    slices.ContainsFunc(l.Notes, func(n lick.Note) bool { return n.Bend != nil }),
	}
	m.kept.Put(key, p)
	return p, nil
}

// In are what there is to practise of a set's items, each once, up to the tempo that the set wants.
func (m *Pieces) In(ctx context.Context, e *judge.Engine, who Who, s *store.Store, items []store.SetItem) (
	[]practice.Piece, error) {
	var out []practice.Piece
	have := map[uint]bool{}
	for _, it := range items {
		x, err := s.Get(ctx, it.Lick)
		if err != nil || len(x.Lick.Notes) == 0 || have[it.Lick] {
			continue // deleted, or nothing to play, or there already
		}
		have[it.Lick] = true
		p, err := m.Of(ctx, e, who, x)
		if err != nil {
			return nil, err
		}
		if it.Tempo > 0 {
			p.Wanted = it.Tempo
		}
		if len(p.Parts) > 0 {
			out = append(out, p)
		}
	}
	return out, nil
}

// Paces is what one lick of a set needs a day, in words.
type Paces struct {
	Lick  uint
	Title string
	practice.Pace
	Words string
}

// Paced says what each lick of a set needs a day until the day by which the set is wanted, by its own days of practice;
// nothing for a set that is wanted by no day.
func Paced(x store.Set, pieces []practice.Piece, book *practice.Book, today practice.Date) (out []Paces) {
	day, err := time.Parse(time.DateOnly, x.Target)
	if err != nil {
		return nil
	}
	by := practice.DateOf(day)
	for _, p := range pieces {
		i := slices.IndexFunc(x.Items, func(it store.SetItem) bool { return it.Lick == p.Lick })
		if i < 0 {
			continue
		}
		days := 0
		for d := today; d <= by && days < mostDays; d++ {
			if x.Items[i].Days.Has(d.Time().Weekday()) {
				days++
			}
		}
		pace := practice.PaceOf(p, book, today, days)
		out = append(out, Paces{Lick: p.Lick, Title: p.Title, Pace: pace, Words: pace.Words(by, today)})
	}
	return out
}

// mostDays is how far ahead the days until a target are counted.
const mostDays = 3660

// titled is a lick's title, or what stands for none.
func titled(x store.Entry) string { return cmp.Or(x.Lick.Title, fmt.Sprintf("Lick %d", x.ID)) }

// All are what there is to practise: the licks touched last, and of those that were played, the ones longest ago
// and the ones played last. played lists them, those longest ago first.
func (m *Pieces) All(ctx context.Context, e *judge.Engine, who Who, s *store.Store, played []uint) (
	[]practice.Piece, error) {
	rows, err := s.List(ctx, store.Query{Limit: mostPieces})
	if err != nil {
		return nil, err
	}
	var items []store.SetItem
	for _, r := range rows {
		items = append(items, store.SetItem{Lick: r.ID})
	}
	n := len(played)
	last := slices.Clone(played[max(0, n-mostPieces):])
	slices.Reverse(last)
	for _, id := range slices.Concat(played[:min(mostPieces, n)], last) {
		items = append(items, store.SetItem{Lick: id})
	}
	return m.In(ctx, e, who, s, items)
}
