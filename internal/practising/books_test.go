package practising

import (
	"errors"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"ornamen/core/practice"
	"ornamen/core/testline"
	"ornamen/internal/store"
)

// A book that is kept says what one says that is read anew, after rounds that were written, taken back and
// written again in between, as when a player names the note that was missed, and after an older log was read in.
func TestBooksFollowTheLog(t *testing.T) {
	s, e, now := notebook(t, testline.Build(t, 90, "3:5 7 5 7"))
	rng := rand.New(rand.NewPCG(3, 1))
	kept := Books{who: 1}
	var taken []uint // lines that were taken back
	for step := range 400 {
		*now = now.Add(time.Minute)
		for range 1 + rng.IntN(3) {
			x := practice.Entry{Lick: e.ID, Tempo: float64(40 + rng.IntN(40)), Clean: rng.IntN(2), Time: *now}
			switch rng.IntN(12) {
			case 5:
				if len(taken) > 0 { // of two tabs, one may have put it back already
					if _, err := s.PutBack(t.Context(), 1, taken[rng.IntN(len(taken))]); err != nil &&
						!errors.Is(err, store.ErrReplaced) && !errors.Is(err, store.ErrNoRedo) &&
						!errors.Is(err, store.ErrNotFound) {
						t.Fatal(err)
					}
				}
			case 0, 1, 2, 3:
				taken = append(taken, change(t, s, rng))
			case 4:
				x.Time = now.Add(-time.Duration(rng.IntN(3000)) * time.Minute)
				fallthrough
			default:
				if _, err := Add(t.Context(), s, 1, x); err != nil {
					t.Fatal(err)
				}
			}
		}
		got, err := kept.Of(t.Context(), s)
		if err != nil {
			t.Fatal(err)
		}
		want, err := (&Books{who: 1}).Of(t.Context(), s)
		if err != nil {
			t.Fatal(err)
		}
		if !slices.Equal(got.Entries, want.Entries) {
			t.Fatalf("step %d: %d entries are kept, %d are written", step, len(got.Entries), len(want.Entries))
		}
	}
}

// change takes back one of the last lines of a log, or corrects it. It gives the number of the line.
func change(t *testing.T, s *store.Store, rng *rand.Rand) uint {
	t.Helper()
	log, err := s.Log(t.Context(), 1)
	if err != nil {
		t.Fatal(err)
	}
	if len(log) == 0 {
		return 0
	}
	id := log[len(log)-1-rng.IntN(min(3, len(log)))].ID
	if rng.IntN(2) == 0 {
		_, err = s.TakeBack(t.Context(), 1, id)
	} else {
		_, err = s.Correct(t.Context(), 1, id, func(p *store.Played) { p.Note = 3 })
	}
	if err != nil {
		t.Fatal(err)
	}
	return id
}

// A page that cannot wait is told that the log is still being read, and finds it at the next look.
func TestBooksWithin(t *testing.T) {
	s, _, _ := notebook(t, testline.Build(t, 90, "3:5 7 5 7"))
	b := Books{who: 1}
	b.mu.Lock() // as long as somebody reads it
	if b.Within(t.Context(), s, time.Millisecond) {
		t.Error("a log that is being read is said to be read")
	}
	b.mu.Unlock()
	if !b.Within(t.Context(), s, time.Minute) {
		t.Error("a log that is read is said to be still being read")
	}
}
