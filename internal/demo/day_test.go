package demo

import (
	"path/filepath"
	"testing"
	"time"

	"ornamen/core/judge"
	"ornamen/core/player"
	"ornamen/core/practice"
	"ornamen/core/testline"
	"ornamen/internal/practising"
	"ornamen/internal/store"
)

// The demo is the same on every day, whatever the hour and the zone: its log ends on the day
// before and has the same rounds, and the plan has a warm-up, what is due and something for the
// ear.
func TestDemoAnyDay(t *testing.T) {
	now := time.Date(2026, 11, 25, 18, 0, 0, 0, time.UTC)
	s, err := store.Open(filepath.Join(t.TempDir(), "n.db"), func() time.Time { return now })
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	if err := Fill(t.Context(), s); err != nil {
		t.Fatal(err)
	}
	engine := judge.NewEngine(player.Default())
	all, err := worked(t.Context(), s, engine)
	if err != nil {
		t.Fatal(err)
	}
	kept, err := practising.Log(t.Context(), s, 1)
	if err != nil {
		t.Fatal(err)
	}
	pieces, err := practising.NewPieces().All(t.Context(), engine, practising.Who{}, s, practice.NewBook(kept).Licks())
	if err != nil {
		t.Fatal(err)
	}
	ear := map[string]bool{}
	for _, at := range testline.Moments(t, true) {
		log := logOf(all, engine, at)
		last := log[len(log)-1]
		if len(log) != len(kept) || last.Tempo != kept[len(kept)-1].Tempo {
			t.Errorf("%s: %d rounds, the last at %g; on another day %d, at %g", at, len(log), last.Tempo, len(kept),
				kept[len(kept)-1].Tempo)
		}
		if back := practice.DateOf(at) - practice.DateOf(last.Time); back < 1 || back > 7 {
			t.Errorf("%s: the last round was %d days ago, on %s", at, back, last.Time)
		}
		kinds := map[practice.Kind]int{}
		for _, x := range practice.Plan(45, pieces, practice.NewBook(practice.Settled(log, at)), at) {
			if kinds[x.Kind]++; x.Kind == practice.Ear {
				ear[x.Why] = true
			}
		}
		if kinds[practice.WarmUp] != 1 || kinds[practice.Due] < 1 || kinds[practice.Ear] != 1 {
			t.Errorf("%s: %v", at, kinds)
		}
	}
	if len(ear) != 2 {
		t.Errorf("over all the days only %v is planned for the ear", ear)
	}
}
