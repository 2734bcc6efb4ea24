package store

import (
	"errors"
	"path/filepath"
	"testing"
	"time"
)

// The log keeps its lines in their time, takes the last one back, and outlives the licks.
func TestPlayed(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "n.db"))
	e, err := s.Add(ctx, titled("Weir"), "made")
	if err != nil {
		t.Fatal(err)
	}
	at := time.Date(2026, 1, 2, 18, 0, 0, 0, time.UTC)
	err = s.Play(ctx, Played{LickID: e.ID, Title: "Weir", Tempo: 90, Clean: 1, At: at.Add(time.Hour)},
		Played{LickID: e.ID, Title: "Weir", Tempo: 88, Missed: 1, Note: 7, At: at})
	if err != nil {
		t.Fatal(err)
	}
	if err := s.Delete(ctx, e.ID); err != nil {
		t.Fatal(err)
	}
	log, err := s.Log(ctx)
	if err != nil || len(log) != 2 || log[0].Tempo != 88 || log[0].Note != 7 || log[1].Title != "Weir" {
		t.Errorf("%v %+v", err, log)
	}
	if last, err := s.Unplay(ctx); err != nil || last.Tempo != 88 {
		t.Errorf("%v %+v", err, last)
	}
	if _, err := s.Unplay(ctx); err != nil {
		t.Error(err)
	}
	if _, err := s.Unplay(ctx); !errors.Is(err, ErrNotFound) {
		t.Errorf("an empty log: %v", err)
	}
}
