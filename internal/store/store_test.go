package store

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"ornamen/core/lick"
)

var ctx = context.Background()

func open(t *testing.T, path string) *Store {
	t.Helper()
	s, err := Open(path, clock)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Close() })
	return s
}

func titled(title string) lick.Lick {
	l := lick.New()
	l.Title = title
	return l
}

func TestMain(m *testing.M) {
	if path := os.Getenv("ORNAMEN_TEST_WRITER"); path != "" {
		writeForever(path, os.Getenv("ORNAMEN_TEST_KIND"))
	}
	os.Exit(m.Run())
}

func TestUndoRedo(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "n.db"))
	e, err := s.Add(ctx, titled("0"), "made")
	if err != nil {
		t.Fatal(err)
	}
	if _, err := s.Undo(ctx, e.ID, e.Revision); !errors.Is(err, ErrNoUndo) {
		t.Errorf("undo at the start: %v", err)
	}
	for i := 1; i <= 40; i++ {
		if e, err = s.Commit(ctx, e.ID, e.Revision, titled(fmt.Sprint(i)), "edit"); err != nil {
			t.Fatal(err)
		}
	}
	for i := 39; i >= 0; i-- {
		if e, err = s.Undo(ctx, e.ID, e.Revision); err != nil || e.Lick.Title != fmt.Sprint(i) {
			t.Fatalf("undo to %d: %q %v", i, e.Lick.Title, err)
		}
	}
	if e.CanUndo || !e.CanRedo {
		t.Error("at the start there is only redo")
	}
	for i := 1; i <= 40; i++ {
		if e, err = s.Redo(ctx, e.ID, e.Revision); err != nil || e.Lick.Title != fmt.Sprint(i) {
			t.Fatalf("redo to %d: %q %v", i, e.Lick.Title, err)
		}
	}
	if _, err := s.Redo(ctx, e.ID, e.Revision); !errors.Is(err, ErrNoRedo) {
		t.Errorf("redo at the end: %v", err)
	}
	// A new edit after undo takes the way of its own.
	e, _ = s.Undo(ctx, e.ID, e.Revision)
	if e, err = s.Commit(ctx, e.ID, e.Revision, titled("other"), "edit"); err != nil || e.CanRedo {
		t.Errorf("%v, redo %v", err, e.CanRedo)
	}
}

func TestStaleWriteKeepsBoth(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "n.db"))
	first, _ := s.Add(ctx, titled("first"), "made")
	second, err := s.Commit(ctx, first.ID, first.Revision, titled("second"), "edit")
	if err != nil {
		t.Fatal(err)
	}
	_, err = s.Commit(ctx, first.ID, first.Revision, titled("late"), "edit")
	var stale *StaleError
	if !errors.As(err, &stale) || stale.Head != second.Revision {
		t.Fatalf("a stale write gives %v", err)
	}
	if l, err := s.At(ctx, first.ID, stale.Kept); err != nil || l.Title != "late" {
		t.Errorf("the late version: %q %v", l.Title, err)
	}
	e, err := s.Get(ctx, first.ID)
	if err != nil || e.Lick.Title != "second" {
		t.Errorf("the newest is %q", e.Lick.Title)
	}
	// The version kept aside is no redo.
	if back, err := s.Undo(ctx, e.ID, e.Revision); err != nil {
		t.Error(err)
	} else if fwd, err := s.Redo(ctx, e.ID, back.Revision); err != nil || fwd.Lick.Title != "second" {
		t.Errorf("redo leads to %q %v", fwd.Lick.Title, err)
	}
	if _, err := s.Undo(ctx, first.ID, first.Revision); !errors.As(err, &stale) {
		t.Errorf("undo on an old revision: %v", err)
	}
}

func TestManyWritersOneChain(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "n.db"))
	e, _ := s.Add(ctx, titled("start"), "made")
	var wg sync.WaitGroup
	var mu sync.Mutex
	won := 0
	for i := range 8 {
		wg.Go(func() {
			for k := range 5 {
				now, err := s.Get(ctx, e.ID)
				if err != nil {
					t.Error(err)
					return
				}
				_, err = s.Commit(ctx, e.ID, now.Revision, titled(fmt.Sprintf("%d.%d", i, k)), "edit")
				var stale *StaleError
				if err == nil {
					mu.Lock()
					won++
					mu.Unlock()
				} else if !errors.As(err, &stale) {
					t.Error(err)
				}
			}
		})
	}
	wg.Wait()
	var all, aside int64
	s.db.Model(&Revision{}).Count(&all)
	s.db.Model(&Revision{}).Where("aside = ?", true).Count(&aside)
	if all != 41 || int(all-aside) != won+1 {
		t.Errorf("%d revisions, %d aside, %d writes won", all, aside, won)
	}
}

func TestDeleteRestore(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "n.db"))
	a, _ := s.Add(ctx, titled("a"), "made")
	if _, err := s.Add(ctx, titled("b"), "made"); err != nil {
		t.Fatal(err)
	}
	if err := s.Delete(ctx, a.ID); err != nil {
		t.Fatal(err)
	}
	if _, err := s.Get(ctx, a.ID); !errors.Is(err, ErrNotFound) {
		t.Errorf("a deleted lick: %v", err)
	}
	if _, err := s.Commit(ctx, a.ID, a.Revision, titled("x"), "edit"); !errors.Is(err, ErrNotFound) {
		t.Errorf("an edit of a deleted lick: %v", err)
	}
	if err := s.Restore(ctx, a.ID); err != nil {
		t.Fatal(err)
	}
	if all, err := s.List(ctx, Query{Limit: 9}); err != nil || len(all) != 2 {
		t.Errorf("%d licks %v", len(all), err)
	}
	for _, err := range []error{s.Delete(ctx, 99), s.Restore(ctx, a.ID), s.Restore(ctx, 99)} {
		if !errors.Is(err, ErrNotFound) {
			t.Errorf("%v", err)
		}
	}
}

// A full disk is said, and what was there is there still. SQLite's own limit
// on pages stands in for the disk.
func TestFullDisk(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "n.db"))
	e, _ := s.Add(ctx, titled("kept"), "made")
	db, err := s.db.DB()
	if err != nil {
		t.Fatal(err)
	}
	db.SetMaxOpenConns(1)
	var pages int
	if err := s.db.Raw("PRAGMA page_count").Scan(&pages).Error; err != nil {
		t.Fatal(err)
	}
	if err := s.db.Exec(fmt.Sprintf("PRAGMA max_page_count = %d", pages)).Error; err != nil {
		t.Fatal(err)
	}
	big := titled("big")
	for i := range 2000 {
		big.Notes = append(big.Notes,
			lick.Note{At: lick.NewTime(int64(i), 16), Len: lick.NewTime(1, 16), String: 1, Fret: 5})
	}
	if _, err := s.Commit(ctx, e.ID, e.Revision, big, "edit"); !errors.Is(err, ErrFull) {
		t.Errorf("a full disk gives %v", err)
	}
	if now, err := s.Get(ctx, e.ID); err != nil || now.Revision != e.Revision || now.Lick.Title != "kept" {
		t.Errorf("after it: %+v %v", now, err)
	}
}

func TestPalettes(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "n.db"))
	for _, scale := range []string{"dorian", "1 9 b3 4 5"} {
		if err := s.SavePalette(ctx, Palette{Name: "barn", Tonic: "A", Scale: scale}); err != nil {
			t.Fatal(err)
		}
	}
	all, err := s.Palettes(ctx)
	if err != nil || len(all) != 1 || all[0].Scale != "1 9 b3 4 5" {
		t.Fatalf("%+v %v", all, err)
	}
	if err := s.ForgetPalette(ctx, all[0].ID); err != nil {
		t.Error(err)
	}
	if err := s.ForgetPalette(ctx, all[0].ID); !errors.Is(err, ErrNotFound) {
		t.Errorf("forgotten twice: %v", err)
	}
}

func TestOpenRefusals(t *testing.T) {
	dir := t.TempDir()
	noDB := filepath.Join(dir, "text.db")
	if err := os.WriteFile(noDB, []byte(strings.Repeat("not a database ", 100)), 0o644); err != nil {
		t.Fatal(err)
	}
	for _, p := range []string{noDB, filepath.Join(dir, "missing", "n.db"), dir} {
		if s, err := Open(p, clock); err == nil {
			s.Close()
			t.Errorf("%s was opened", p)
		}
	}
	odd := filepath.Join(dir, "a ? notebook #1 %.db")
	s := open(t, odd)
	if _, err := s.Add(ctx, titled("x"), "made"); err != nil {
		t.Fatal(err)
	}
	if _, err := os.Stat(odd); err != nil {
		t.Errorf("the notebook lies elsewhere: %v", err)
	}
}

func BenchmarkCommit(b *testing.B) {
	s, err := Open(filepath.Join(b.TempDir(), "n.db"), clock)
	if err != nil {
		b.Fatal(err)
	}
	defer s.Close()
	e, err := s.Add(ctx, titled("x"), "made")
	if err != nil {
		b.Fatal(err)
	}
	for b.Loop() {
		if e, err = s.Commit(ctx, e.ID, e.Revision, e.Lick, "edit"); err != nil {
			b.Fatal(err)
		}
	}
}

// clock is when the tests are run, unless they say otherwise: each look at it is a millisecond on.
func clock() time.Time {
	return time.Date(2026, 11, 25, 18, 0, 0, 0, time.UTC).Add(time.Duration(ticks.Add(1)) * time.Millisecond)
}

var ticks atomic.Int64
