package store

import (
	"errors"
	"path/filepath"
	"testing"
	"time"
)

// The log keeps its lines in the order in which they were written, takes the last one back, and outlives the licks.
func TestPlayed(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "n.db"))
	e, err := s.Add(ctx, titled("Weir"), "made")
	if err != nil {
		t.Fatal(err)
	}
	at := time.Date(2026, 1, 2, 18, 0, 0, 0, time.UTC)
	err = s.Play(ctx, 1, Played{LickID: e.ID, Title: "Weir", Tempo: 90, Clean: 1, At: at.Add(time.Hour)},
		Played{LickID: e.ID, Title: "Weir", Tempo: 88, Missed: 1, Note: 7, At: at})
	if err != nil {
		t.Fatal(err)
	}
	// A line keeps the time zone in which it was played; one from Greenwich has the player's.
	west := time.FixedZone("", -8*3600)
	evening := time.Date(2026, 1, 3, 20, 33, 0, 0, west)
	if err := s.Play(ctx, 1, Played{LickID: e.ID, At: evening}); err != nil {
		t.Fatal(err)
	}
	if last, err := s.Unplay(ctx, 1); err != nil || !last.At.Equal(evening) || last.At.Format("2 15:04") != "3 20:33" {
		t.Errorf("%v %v", last.At, err)
	}
	home := s.now
	s.now = func() time.Time { return home().In(time.FixedZone("", 3600)) }
	if log, err := s.Log(ctx, 1); err != nil || log[1].At.Format("15:04") != "19:00" {
		t.Errorf("%v %v", log, err)
	}
	s.now = home
	if err := s.Delete(ctx, e.ID); err != nil {
		t.Fatal(err)
	}
	log, err := s.Log(ctx, 1)
	if err != nil || len(log) != 2 || log[1].Tempo != 88 || log[1].Note != 7 || log[0].Title != "Weir" {
		t.Errorf("%v %+v", err, log)
	}
	if last, err := s.Unplay(ctx, 1); err != nil || last.Tempo != 88 {
		t.Errorf("%v %+v", err, last)
	}
	if _, err := s.Unplay(ctx, 1); err != nil {
		t.Error(err)
	}
	if _, err := s.Unplay(ctx, 1); !errors.Is(err, ErrNotFound) {
		t.Errorf("an empty log: %v", err)
	}
}
