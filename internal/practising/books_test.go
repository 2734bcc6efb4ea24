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
	for step := range 400 {
		*now = now.Add(time.Minute)
		for range 1 + rng.IntN(3) {
			x := practice.Entry{Lick: e.ID, Tempo: float64(40 + rng.IntN(40)), Clean: rng.IntN(2), Time: *now}
			switch rng.IntN(12) {
			case 0, 1, 2, 3:
				if _, err := s.Unplay(t.Context(), 1); err != nil && !errors.Is(err, store.ErrNotFound) {
					t.Fatal(err)
				}
			case 4:
				x.Time = now.Add(-time.Duration(rng.IntN(3000)) * time.Minute)
				fallthrough
			default:
				if err := Add(t.Context(), s, 1, x); err != nil {
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
