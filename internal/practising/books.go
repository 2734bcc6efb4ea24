package practising

import (
	"context"
	"slices"
	"sync"
	"time"

	"ornamen/core/practice"
	"ornamen/internal/store"
)

// Logs keeps the books of a notebook's players.
type Logs struct {
	mu sync.Mutex
	of map[uint]*Books
}

// Of are the books of one player.
func (s *Logs) Of(who uint) *Books {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.of == nil {
		s.of = map[uint]*Books{}
	}
	if s.of[who] == nil {
		s.of[who] = &Books{who: who}
	}
	return s.of[who]
}

// Books keeps a player's log as it was read last, with what is looked up in it, and brings it up to date by what
// was written since: a round of a log of ten years costs as much as one of the first week.
type Books struct {
	who  uint
	mu   sync.Mutex
	book *practice.Book
	rows []practice.Entry // as they were written
	last uint             // the number of the last row
	back []earlier        // the book before each of the last rows, for what is taken back

	numbers *practice.Numbers // of the days before the last one of the book that they were read from
	upto    int               // of its entries
	of      *practice.Book
}

// Numbers are the player's own numbers as the log says now. Days that are over are taken in once.
func (b *Books) Numbers(ctx context.Context, s *store.Store) (*practice.Numbers, error) {
	book, err := b.Of(ctx, s)
	if err != nil {
		return nil, err
	}
	b.mu.Lock()
	defer b.mu.Unlock()
	log := book.Entries
	if b.numbers == nil || len(log) < b.upto || b.of == nil || b.upto > 0 && b.of.Entries[b.upto-1] != log[b.upto-1] {
		b.numbers, b.upto = practice.NewNumbers(), 0
	}
	over := len(log)
	for over > b.upto && practice.DateOf(log[over-1].Time) == practice.DateOf(log[len(log)-1].Time) {
		over--
	}
	if over > b.upto {
		b.numbers.Read(log[b.upto:over])
		b.upto = over
	}
	b.of = book
	now := b.numbers.Clone()
	now.Read(log[b.upto:])
	return now, nil
}

// Within says whether the log is read, or can be within a moment. Where not it is read in the background, and the next
// look finds it.
func (b *Books) Within(ctx context.Context, s *store.Store, moment time.Duration) bool {
	done := make(chan struct{})
	go func() {
		defer close(done)
		b.Of(context.WithoutCancel(ctx), s) // what is wrong is told where the log is asked for
	}()
	select {
	case <-done:
		return true
	case <-time.After(moment):
		return false
	}
}

// Of is the log as it is to be read now.
func (b *Books) Of(ctx context.Context, s *store.Store) (*practice.Book, error) {
	b.mu.Lock()
	defer b.mu.Unlock()
	last, err := s.LastPlayed(ctx, b.who)
	if err != nil {
		return nil, err
	}
	now := s.Now()
	switch {
	case b.book != nil && last == b.last && !b.ahead():
		return b.book, nil
	case b.book != nil && last > b.last && last-b.last < manyRows:
		more, err := s.LogAfter(ctx, b.who, b.last)
		if err != nil {
			return nil, err
		}
		if b.follow(more, now) {
			b.last = last
			return b.book, nil
		}
	}
	rows, err := Written(ctx, s, b.who)
	if err != nil {
		return nil, err
	}
	b.rows, b.last, b.back = rows, last, nil
	b.book = practice.NewBook(practice.Settled(rows, now))
	return b.book, nil
}

// follow goes on with rows that were written since; false where the log has to be read anew, as one of them changes
// what lies too far back, is of a clock that ran ahead, or of an older log that was read in.
func (b *Books) follow(more []store.Played, now time.Time) bool {
	for _, r := range more {
		if r.Replaces != nil && !b.without(*r.Replaces, now) {
			return false
		}
		if store.Takes(r) {
			continue
		}
		if !b.append(r.ID, entryOf(r), now) {
			return false
		}
	}
	return true
}

// append adds a line to the book, and remembers the book before it.
func (b *Books) append(id uint, e practice.Entry, now time.Time) bool {
	n := len(b.book.Entries)
	if e.Time.After(now) || n > 0 && e.Time.Before(b.book.Entries[n-1].Time) {
		return false
	}
	if b.back = append(b.back, earlier{b.book, len(b.rows), id}); len(b.back) > takenBack {
		b.back = b.back[1:]
	}
	b.rows = append(b.rows, e)
	b.book = b.book.With(e)
	return true
}

// without goes back to before a line and follows those that came after it.
func (b *Books) without(id uint, now time.Time) bool {
	k := slices.IndexFunc(b.back, func(x earlier) bool { return x.id == id })
	if k < 0 {
		return false
	}
	at, after := b.back[k], slices.Clone(b.back[k+1:])
	rows := slices.Clone(b.rows[at.rows+1:])
	b.book, b.rows, b.back = at.book, b.rows[:at.rows], b.back[:k]
	for i, x := range after {
		if !b.append(x.id, rows[i], now) {
			return false
		}
	}
	return true
}

// earlier is the book before a line was written, and the number of that line.
type earlier struct {
	book *practice.Book
	rows int
	id   uint
}

// takenBack is how many rows can be taken back without reading the log anew.
const takenBack = 64

// manyRows is from how many new rows on the log is read anew.
const manyRows = 200

// ahead says whether the last row was written by a clock that ran ahead of this moment, so that what it counts as
// depends on when one looks.
func (b *Books) ahead() bool {
	n, m := len(b.rows), len(b.book.Entries)
	return n > 0 && m > 0 && b.rows[n-1].Time.After(b.book.Entries[m-1].Time)
}
