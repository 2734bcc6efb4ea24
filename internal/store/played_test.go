package store

import (
	"errors"
	"fmt"
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
	_, err = s.Play(ctx, 1, Played{LickID: e.ID, Title: "Weir", Tempo: 90, Clean: 1, At: at.Add(time.Hour)},
		Played{LickID: e.ID, Title: "Weir", Tempo: 88, Missed: 1, Note: 7, At: at})
	if err != nil {
		t.Fatal(err)
	}
	// A line keeps the time zone in which it was played; one from Greenwich has the player's.
	west := time.FixedZone("", -8*3600)
	evening := time.Date(2026, 1, 3, 20, 33, 0, 0, west)
	ids, err := s.Play(ctx, 1, Played{LickID: e.ID, At: evening})
	if err != nil {
		t.Fatal(err)
	}
	if last, err := s.TakeBack(ctx, 1, ids[0]); err != nil || !last.At.Equal(evening) ||
		last.At.Format("2 15:04") != "3 20:33" {
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
	if last, ok, err := s.LastLine(ctx, 1); err != nil || !ok || last.Tempo != 88 {
		t.Errorf("%v %+v", err, last)
	}
}

// The log only grows: what is corrected, taken back and put back is a row that names the one it replaces, each line has
// one successor, and of two tabs each takes back what it showed.
func TestLogOnlyGrows(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "n.db"))
	ids, err := s.Play(ctx, 1, Played{Title: "a", Missed: 1, At: at1}, Played{Title: "b", Clean: 1, At: at1})
	if err != nil {
		t.Fatal(err)
	}
	titles := func(want string) {
		t.Helper()
		log, err := s.Log(ctx, 1)
		var got string
		for _, p := range log {
			got += fmt.Sprintf("%s%d ", p.Title, p.Note)
		}
		if err != nil || got != want {
			t.Errorf("%q, not %q (%v)", got, want, err)
		}
	}
	now, err := s.Correct(ctx, 1, ids[0], func(p *Played) { p.Note = 5 })
	if err != nil {
		t.Fatal(err)
	}
	titles("b0 a5 ")
	if _, err := s.Correct(ctx, 1, ids[0], func(p *Played) { p.Note = 6 }); !errors.Is(err, ErrReplaced) {
		t.Errorf("corrected twice: %v", err)
	}
	if _, err := s.TakeBack(ctx, 1, ids[0]); !errors.Is(err, ErrReplaced) {
		t.Errorf("what was corrected is taken back: %v", err)
	}
	if _, err := s.TakeBack(ctx, 2, now); !errors.Is(err, ErrNotFound) {
		t.Errorf("another player takes it back: %v", err)
	}
	if p, err := s.TakeBack(ctx, 1, ids[1]); err != nil || p.Title != "b" {
		t.Errorf("%+v %v", p, err)
	}
	titles("a5 ")
	if _, err := s.PutBack(ctx, 1, now); !errors.Is(err, ErrNoRedo) {
		t.Errorf("what holds is put back: %v", err)
	}
	again, err := s.PutBack(ctx, 1, ids[1])
	if err != nil {
		t.Fatal(err)
	}
	titles("a5 b0 ")
	if _, err := s.PutBack(ctx, 1, ids[1]); !errors.Is(err, ErrReplaced) {
		t.Errorf("put back twice: %v", err)
	}
	if _, err := s.TakeBack(ctx, 1, again); err != nil {
		t.Error(err)
	}
	titles("a5 ")
	if rows, err := s.LogAfter(ctx, 1, 0); err != nil || len(rows) != 6 {
		t.Errorf("%d rows are kept, %v", len(rows), err)
	}
}

// A file that was read in is there once, to the second that tables have; it is taken back as a whole, and then goes
// into another log.
func TestReadings(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "n.db"))
	juna, err := s.AddPlayer(ctx, "Juna", 0)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := s.Play(ctx, 1, Played{Title: "own", Clean: 1, At: at1.Add(700 * time.Millisecond)}); err != nil {
		t.Fatal(err)
	}
	lines := []Played{
		{Title: "own", Clean: 1, At: at1},
		{Title: "new", Clean: 1, At: at1},
		{Title: "new", Missed: 1, At: at1},
	}
	r, err := s.ReadIn(ctx, Reading{PlayerID: 1, Name: "log.csv", Source: "ab/cd"}, lines)
	if err != nil || r.Added != 2 || r.ID == 0 {
		t.Fatalf("%+v %v", r, err)
	}
	if again, err := s.ReadIn(ctx, Reading{PlayerID: 1, Name: "log.csv", Source: "ab/cd"}, lines); err != nil ||
		again.ID != 0 ||
		again.Added != 0 {
		t.Errorf("read twice: %+v %v", again, err)
	}
	log, _ := s.Log(ctx, 1)
	if _, err := s.TakeBack(ctx, 1, log[1].ID); err != nil {
		t.Fatal(err)
	}
	if _, n, err := s.TakeReadingBack(ctx, r.ID); err != nil || n != 1 {
		t.Errorf("%d lines went back, %v", n, err)
	}
	if _, _, err := s.TakeReadingBack(ctx, r.ID); !errors.Is(err, ErrReplaced) {
		t.Errorf("taken back twice: %v", err)
	}
	if log, _ := s.Log(ctx, 1); len(log) != 1 || log[0].Title != "own" {
		t.Errorf("%+v", log)
	}
	if p, _ := s.PlayerNamed(ctx, ""); p.Source != "" {
		t.Errorf("the log is bound to %s still", p.Source)
	}
	if r, err := s.ReadIn(ctx, Reading{PlayerID: juna.ID, Source: "ab/cd"}, lines); err != nil || r.Added != 3 {
		t.Errorf("%+v %v", r, err)
	}
	if list, err := s.Readings(ctx, 1); err != nil || len(list) != 1 || list[0].Name != "log.csv" ||
		list[0].BackAt == nil {
		t.Errorf("%+v %v", list, err)
	}
}

var at1 = time.Date(2026, 1, 2, 18, 0, 0, 0, time.UTC)
