package store

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/go-gormigrate/gormigrate/v2"
)

// A second program on the same file is refused in words, two that start on a new
// file at once leave a good file behind, and afterwards it opens again.
func TestSecondProgram(t *testing.T) {
	path := filepath.Join(t.TempDir(), "n.db")
	var wg sync.WaitGroup
	var mu sync.Mutex
	var opened []*Store
	for range 6 {
		wg.Go(func() {
			s, err := Open(path, time.Now)
			mu.Lock()
			defer mu.Unlock()
			if err == nil {
				opened = append(opened, s)
			} else if !errors.Is(err, ErrOpen) {
				t.Errorf("refused with %v", err)
			}
		})
	}
	wg.Wait()
	if len(opened) != 1 {
		t.Fatalf("%d programs have it open", len(opened))
	}
	if _, err := opened[0].Add(ctx, titled("x"), "made"); err != nil {
		t.Error(err)
	}
	// Reading beside it works.
	r, err := OpenToRead(path)
	if err != nil {
		t.Fatal(err)
	}
	if c, err := r.Count(ctx, Query{}); err != nil || c.All != 1 {
		t.Errorf("%+v %v", c, err)
	}
	if _, err := r.Add(ctx, titled("y"), "made"); !errors.Is(err, ErrReadOnly) {
		t.Errorf("a reader writes: %v", err)
	}
	r.Close()
	opened[0].Close()
	open(t, path)
}

// A kill during the first start never leaves a file that cannot be opened.
func TestKilledStart(t *testing.T) {
	for k := range 12 {
		path := filepath.Join(t.TempDir(), "n.db")
		cmd := exec.Command(os.Args[0])
		cmd.Env = append(os.Environ(), "ORNAMEN_TEST_WRITER="+path)
		if err := cmd.Start(); err != nil {
			t.Fatal(err)
		}
		time.Sleep(time.Duration(k) * 3 * time.Millisecond)
		cmd.Process.Kill()
		cmd.Wait()
		s, err := Open(path, time.Now)
		if err != nil {
			t.Fatalf("killed after %d ms: %v", 3*k, err)
		}
		if _, err := s.Add(ctx, titled("x"), "made"); err != nil {
			t.Errorf("killed after %d ms: %v", 3*k, err)
		}
		s.Close()
	}
}

// A file deleted, moved or replaced while it is open is noticed before an edit is
// acknowledged, and what was saved before lies in a file of its own.
func TestFileGone(t *testing.T) {
	for _, how := range []string{"deleted", "replaced"} {
		path := filepath.Join(t.TempDir(), "n.db")
		s := open(t, path)
		e, err := s.Add(ctx, titled("kept"), "made")
		if err != nil {
			t.Fatal(err)
		}
		if err := os.Remove(path); err != nil {
			t.Fatal(err)
		}
		if how == "replaced" {
			if err := os.WriteFile(path, []byte("something else"), 0o600); err != nil {
				t.Fatal(err)
			}
		}
		if _, err := s.Commit(ctx, e.ID, e.Revision, titled("lost?"), "edit"); !errors.Is(err, ErrGone) {
			t.Errorf("%s: acknowledged, or refused with %v", how, err)
		}
		rescued, err := filepath.Glob(path + ".rescued-*")
		if err != nil || len(rescued) != 1 {
			t.Fatalf("%s: %v %v", how, rescued, err)
		}
		r, err := OpenToRead(rescued[0])
		if err != nil {
			t.Fatal(err)
		}
		if got, err := r.Get(ctx, e.ID); err != nil || got.Lick.Title != "kept" {
			t.Errorf("%s: the rescued file holds %+v, %v", how, got, err)
		}
		r.Close()
	}
}

// A notebook of a later program is refused and left as it is.
func TestNewerSchema(t *testing.T) {
	path := filepath.Join(t.TempDir(), "n.db")
	s := open(t, path)
	if err := s.db.Exec("INSERT INTO migrations (id) VALUES ('9999-later')").Error; err != nil {
		t.Fatal(err)
	}
	s.Close()
	before, err := os.ReadFile(path)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := Open(path, time.Now); !errors.Is(err, ErrNewer) {
		t.Errorf("opened with %v", err)
	}
	if after, _ := os.ReadFile(path); !bytes.Equal(before, after) {
		t.Error("the file was changed")
	}
}

// A notebook of every schema so far is brought up to date with all it held, and a
// copy of it as it was lies beside it.
func TestUpgradeFromEverySchema(t *testing.T) {
	for n := 1; n < len(migrations); n++ {
		path := filepath.Join(t.TempDir(), "n.db")
		old := &Store{path: path, now: time.Now}
		if err := old.open(); err != nil {
			t.Fatal(err)
		}
		if err := gormigrate.New(old.db, gormigrate.DefaultOptions, migrations[:n]).Migrate(); err != nil {
			t.Fatal(err)
		}
		l := titled("From the Barn")
		l.Tags = []string{"warm-up"}
		for _, q := range []string{"INSERT INTO licks (title, head_id, created_at, updated_at) VALUES ('From the " +
			"Barn', 1, '2026-01-01', '2026-01-01')",
			"INSERT INTO licks (title, head_id, created_at, updated_at, deleted_at) VALUES ('gone', 2, " +
				"'2026-01-01', '2026-01-01', '2026-01-02')"} {
			if err := old.db.Exec(q).Error; err != nil {
				t.Fatal(err)
			}
		}
		if err := old.db.Exec("INSERT INTO revisions (lick_id, data, what, created_at) VALUES (1, ?, 'made', "+
			"'2026-01-01'), (2, 'broken', 'made', '2026-01-01')", l.Encode()).Error; err != nil {
			t.Fatal(err)
		}
		if n >= 5 { // from then on a lick is found by what is written beside it
			if err := index(old.db, 1, l); err != nil {
				t.Fatal(err)
			}
		}
		old.Close()
		s := open(t, path)
		found, err := s.List(ctx, Query{Find: "barn", Tag: "warm-up", Limit: 5})
		if err != nil || len(found) != 1 {
			t.Errorf("from schema %d: %v %v", n, found, err)
		}
		if copies, _ := filepath.Glob(path + ".before-upgrade-*"); len(copies) != 1 {
			t.Errorf("from schema %d: copies %v", n, copies)
		}
	}
}

// One revision that cannot be read is shown alone; the rest of the notebook works,
// and the lick goes back to the version before.
func TestUnreadableRevision(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "n.db"))
	a, _ := s.Add(ctx, titled("a"), "made")
	b, err := s.Commit(ctx, a.ID, a.Revision, titled("b"), "edit")
	if err != nil {
		t.Fatal(err)
	}
	other, _ := s.Add(ctx, titled("other"), "made")
	s.db.Exec("UPDATE revisions SET data = 'x' WHERE id = ?", b.Revision)
	var bad *UnreadableError
	if _, err := s.Get(ctx, a.ID); !errors.As(err, &bad) || bad.Revision != b.Revision || bad.Lick != a.ID {
		t.Errorf("%v", err)
	}
	if rows, err := s.List(ctx, Query{Limit: 9}); err != nil || len(rows) != 2 {
		t.Errorf("%d rows, %v", len(rows), err)
	}
	if _, err := s.Get(ctx, other.ID); err != nil {
		t.Error(err)
	}
	if back, err := s.Undo(ctx, a.ID, b.Revision); err != nil || back.Lick.Title != "a" {
		t.Errorf("%+v %v", back, err)
	}
}

// A damaged file is refused with advice, and the daily copy puts it right.
func TestDamageAndRestore(t *testing.T) {
	path := filepath.Join(t.TempDir(), "n.db")
	s := open(t, path)
	for i := range 40 {
		if _, err := s.Add(ctx, titled(fmt.Sprint("lick ", i)), "made"); err != nil {
			t.Fatal(err)
		}
	}
	if err := s.Housekeep(ctx); err != nil {
		t.Fatal(err)
	}
	daily := s.Copies()
	if len(daily) != 1 {
		t.Fatalf("copies %v", daily)
	}
	s.Close()
	data, err := os.ReadFile(path)
	if err != nil {
		t.Fatal(err)
	}
	for i := 4096; i < len(data); i++ {
		data[i] ^= 0x5a
	}
	if err := os.WriteFile(path, data, 0o600); err != nil {
		t.Fatal(err)
	}
	_, err = Open(path, time.Now)
	if !errors.Is(err, ErrDamaged) || !strings.Contains(err.Error(), "ornamen restore") ||
		!strings.Contains(err.Error(), daily[0]) {
		t.Fatalf("a damaged file: %v", err)
	}
	kept, err := Restore(daily[0], path, time.Now)
	if err != nil || kept == "" {
		t.Fatalf("%q %v", kept, err)
	}
	s = open(t, path)
	if c, err := s.Count(ctx, Query{}); err != nil || c.All != 40 {
		t.Errorf("%+v %v", c, err)
	}
	// A notebook in use, a file that is none, and a target that is there are refused.
	if _, err := Restore(daily[0], path, time.Now); !errors.Is(err, ErrOpen) {
		t.Errorf("restored under a running program: %v", err)
	}
	if _, err := Restore(kept, filepath.Join(t.TempDir(), "m.db"), time.Now); err == nil {
		t.Error("a damaged backup was put in place")
	}
	if err := s.Backup(ctx, daily[0]); err == nil {
		t.Error("a backup overwrote a file")
	}
	if info, err := os.Stat(path); err != nil || info.Mode().Perm() != 0o600 {
		t.Errorf("%v %v", info.Mode(), err)
	}
}

// Seven daily copies are kept, and old revisions are packed without loss.
func TestHousekeeping(t *testing.T) {
	day := time.Date(2026, 3, 1, 9, 0, 0, 0, time.UTC)
	s, err := Open(filepath.Join(t.TempDir(), "n.db"), func() time.Time { return day })
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	e, err := s.Add(ctx, titled("start"), "made")
	first := e.Revision
	for i := range 120 {
		if err == nil {
			e, err = s.Commit(ctx, e.ID, e.Revision, titled(fmt.Sprintf("edit %d", i)), "edit")
		}
	}
	if err != nil {
		t.Fatal(err)
	}
	for range 10 {
		if err := s.Housekeep(ctx); err != nil {
			t.Fatal(err)
		}
		day = day.AddDate(0, 0, 1)
	}
	copies := s.Copies()
	if len(copies) != keptDaily || !strings.HasSuffix(copies[6], "2026-03-10") {
		t.Errorf("%d copies, the last %s", len(copies), copies[len(copies)-1])
	}
	var small int64
	s.db.Raw("SELECT COUNT(*) FROM revisions WHERE substr(data, 1, 2) = x'1f8b'").Scan(&small)
	if small != 121-unpackedTail {
		t.Errorf("%d revisions are packed", small)
	}
	if l, err := s.At(ctx, e.ID, first); err != nil || l.Title != "start" {
		t.Errorf("%q %v", l.Title, err)
	}
	for e.CanUndo {
		if e, err = s.Undo(ctx, e.ID, e.Revision); err != nil {
			t.Fatal(err)
		}
	}
	if e.Lick.Title != "start" {
		t.Errorf("undone to %q", e.Lick.Title)
	}
}

// The disk that SQLite writes to gives up in every way that it names: each is its
// own sentence.
func TestErrorsAreTold(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "n.db"))
	err := plain(s.db.Exec("SELECT * FROM nowhere").Error)
	for _, known := range []error{ErrFull, ErrIO, ErrBusy, ErrReadOnly, ErrDamaged} {
		if errors.Is(err, known) {
			t.Errorf("a missing table is called %v", known)
		}
	}
	s.db.Exec("PRAGMA query_only = 1")
	db, _ := s.db.DB()
	db.SetMaxOpenConns(1)
	s.db.Exec("PRAGMA query_only = 1")
	if _, err := s.Add(ctx, titled("x"), "made"); !errors.Is(err, ErrReadOnly) {
		t.Errorf("a file that cannot be written gives %v", err)
	}
	stopped, cancel := context.WithCancel(ctx)
	cancel()
	if _, err := s.List(stopped, Query{Limit: 1}); !errors.Is(err, context.Canceled) {
		t.Errorf("a request that is gone gives %v", err)
	}
}
