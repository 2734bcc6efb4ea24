package store

import (
	"bytes"
	"context"
	"database/sql"
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
			s, err := Open(path, clock)
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
	r, err := OpenToRead(path, clock)
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
		s, err := Open(path, clock)
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
		r, err := OpenToRead(rescued[0], clock)
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
	if _, err := Open(path, clock); !errors.Is(err, ErrNewer) {
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
		old := newStore(path, clock)
		if err := old.open(path); err != nil {
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
			if old.db.Migrator().HasColumn("licks", "key") {
				old.db.Exec("UPDATE licks SET key = 'key ' || id")
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
	_, err = Open(path, clock)
	if !errors.Is(err, ErrDamaged) || !strings.Contains(err.Error(), "ornamen restore") ||
		!strings.Contains(err.Error(), daily[0]) {
		t.Fatalf("a damaged file: %v", err)
	}
	kept, err := Restore(daily[0], path, clock)
	if err != nil || kept == "" {
		t.Fatalf("%q %v", kept, err)
	}
	s = open(t, path)
	if c, err := s.Count(ctx, Query{}); err != nil || c.All != 40 {
		t.Errorf("%+v %v", c, err)
	}
	// A notebook in use, a file that is none, and a target that is there are refused.
	if _, err := Restore(daily[0], path, clock); !errors.Is(err, ErrOpen) {
		t.Errorf("restored under a running program: %v", err)
	}
	if _, err := Restore(kept, filepath.Join(t.TempDir(), "m.db"), clock); err == nil {
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

// The same notebook is open once, whatever name it is opened by; the first one loses nothing.
func TestOneServerAFile(t *testing.T) {
	dir := t.TempDir()
	path := filepath.Join(dir, "n.db")
	s := open(t, path)
	if _, err := s.Add(ctx, titled("kept"), "made"); err != nil {
		t.Fatal(err)
	}
	hard, soft := filepath.Join(dir, "hard.db"), filepath.Join(dir, "soft.db")
	if err := errors.Join(os.Link(path, hard), os.Symlink(path, soft)); err != nil {
		t.Fatal(err)
	}
	copied := filepath.Join(dir, "copy.db")
	if err := s.Backup(ctx, copied); err != nil {
		t.Fatal(err)
	}
	for _, name := range []string{path, hard, soft} {
		if _, err := Open(name, clock); !errors.Is(err, ErrOpen) {
			t.Errorf("%s is opened a second time: %v", name, err)
		}
		if _, err := Restore(copied, name, clock); !errors.Is(err, ErrOpen) {
			t.Errorf("%s is replaced while it is open: %v", name, err)
		}
	}
	s.Close()
	again := open(t, soft)
	if c, err := again.Count(ctx, Query{}); err != nil || c.All != 1 {
		t.Errorf("%+v %v", c, err)
	}
}

// A write-ahead log that is deleted is noticed before an edit is acknowledged, and what was saved
// is written beside the notebook.
func TestLogGone(t *testing.T) {
	path := filepath.Join(t.TempDir(), "n.db")
	s := open(t, path)
	e, err := s.Add(ctx, titled("kept"), "made")
	if err != nil {
		t.Fatal(err)
	}
	if err := os.Remove(path + "-wal"); err != nil {
		t.Fatal(err)
	}
	if _, err := s.Commit(ctx, e.ID, e.Revision, titled("lost?"), "edit"); !errors.Is(err, ErrGone) {
		t.Fatalf("acknowledged, or refused with %v", err)
	}
	rescued, err := filepath.Glob(path + ".rescued-*")
	if err != nil || len(rescued) != 1 {
		t.Fatalf("%v %v", rescued, err)
	}
	r, err := OpenToRead(rescued[0], clock)
	if err != nil {
		t.Fatal(err)
	}
	defer r.Close()
	if got, err := r.Get(ctx, e.ID); err != nil || got.Lick.Title != "kept" {
		t.Errorf("the rescued file holds %+v, %v", got, err)
	}
}

// Another program's database is refused and left as it is, byte for byte, with nothing beside it.
func TestForeign(t *testing.T) {
	path := filepath.Join(t.TempDir(), "other.db")
	db, err := sql.Open("sqlite", path)
	if err != nil {
		t.Fatal(err)
	}
	for _, q := range []string{"CREATE TABLE migrations (id TEXT)", "CREATE TABLE recipes (id INTEGER, soup TEXT)"} {
		if _, err := db.Exec(q); err != nil {
			t.Fatal(err)
		}
	}
	db.Close()
	before, err := os.ReadFile(path)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := Open(path, clock); !errors.Is(err, ErrForeign) {
		t.Errorf("opened: %v", err)
	}
	if _, err := OpenToRead(path, clock); !errors.Is(err, ErrForeign) {
		t.Errorf("opened to be read: %v", err)
	}
	after, err := os.ReadFile(path)
	if err != nil || !bytes.Equal(before, after) {
		t.Errorf("it was changed: %v", err)
	}
	if beside, _ := filepath.Glob(path + "*"); len(beside) != 1 {
		t.Errorf("beside it lie %v", beside)
	}
}

// A notebook whose very first start was killed opens again.
func TestKilledAtFirst(t *testing.T) {
	path := filepath.Join(t.TempDir(), "n.db")
	db, err := sql.Open("sqlite", path)
	if err == nil {
		_, err = db.Exec("CREATE TABLE migrations (id VARCHAR(255) PRIMARY KEY)")
	}
	if err != nil {
		t.Fatal(err)
	}
	db.Close()
	s := open(t, path)
	if _, err := s.Add(ctx, titled("kept"), "made"); err != nil {
		t.Error(err)
	}
}

// What a killed program has left half made is gone after the next start; what is being made stays.
func TestLeftovers(t *testing.T) {
	dir := t.TempDir()
	left, making := filepath.Join(dir, ".ornamen-123"), filepath.Join(dir, ".ornamen-456")
	for _, name := range []string{left, left + "-journal", making} {
		if err := os.WriteFile(name, []byte("half"), 0o600); err != nil {
			t.Fatal(err)
		}
	}
	free := claimed(making)
	open(t, filepath.Join(dir, "n.db"))
	list, err := filepath.Glob(filepath.Join(dir, ".ornamen-*"))
	if err != nil || len(list) != 1 || list[0] != making {
		t.Errorf("%v %v", list, err)
	}
	free()
}

// Daily copies that a clock dated ten years ahead are the first to go: today's is made and kept,
// and is the last.
func TestCopiesFromTheFuture(t *testing.T) {
	day := time.Date(2026, 3, 1, 9, 0, 0, 0, time.UTC)
	path := filepath.Join(t.TempDir(), "n.db")
	s, err := Open(path, func() time.Time { return day })
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	for n := range keptDaily {
		name := fmt.Sprintf("%s.daily-2036-01-%02d", path, n+1)
		if err := os.WriteFile(name, []byte("copy"), 0o600); err != nil {
			t.Fatal(err)
		}
	}
	for n := range 9 {
		if err := s.Housekeep(ctx); err != nil {
			t.Fatal(err)
		}
		copies := s.Copies()
		if want := path + ".daily-" + day.Format("2006-01-02"); copies[len(copies)-1] != want ||
			len(copies) != keptDaily {
			t.Fatalf("on day %d the copies are %v", n, copies)
		}
		day = day.AddDate(0, 0, 1)
	}
	for _, name := range s.Copies() {
		if strings.Contains(name, "2036") {
			t.Errorf("%s is still there", name)
		}
	}
}

// Lines of the log that an earlier version took and cannot give back are set aside when the
// notebook is opened; the rest is read, and read-only too.
func TestSetAside(t *testing.T) {
	path := filepath.Join(t.TempDir(), "n.db")
	s := open(t, path)
	at := clock()
	if _, err := s.Play(ctx, 1, Played{LickID: 1, Title: "Weir", Clean: 1, At: at}); err != nil {
		t.Fatal(err)
	}
	for _, bad := range []string{"lick_id = -1", "lick_id = -9223372036854775808", "revision_id = 5000000000",
		"at = 'soon'"} {
		_, err := s.Play(ctx, 1, Played{LickID: 1, Title: "Broken", Clean: 1, At: at})
		if err == nil {
			err = s.db.Exec("UPDATE played SET " + bad + " WHERE id = (SELECT MAX(id) FROM played)").Error
		}
		if err != nil {
			t.Fatal(err)
		}
	}
	if log, err := s.Log(ctx, 1); err != nil || len(log) != 1 {
		t.Errorf("before it is opened again: %d lines, %v", len(log), err)
	}
	s.Close()
	s = open(t, path)
	log, err := s.Log(ctx, 1)
	if err != nil || len(log) != 1 || log[0].Title != "Weir" {
		t.Errorf("%+v %v", log, err)
	}
	aside, err := s.SetAside(ctx)
	if err != nil || len(aside) != 4 || !strings.Contains(aside[0], "Broken") {
		t.Errorf("%v %v", aside, err)
	}
	s.Close()
	s = open(t, path)
	if aside, err := s.SetAside(ctx); err != nil || len(aside) != 4 {
		t.Errorf("set aside twice: %v %v", aside, err)
	}
}
