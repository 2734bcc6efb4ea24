package store

import (
	"bytes"
	"errors"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"
)

// A notebook that is running is restored from with what stands in its log alone, and what was there before, of a
// program that was killed, comes back with what stood in its own.
func TestRestoreTakesTheLog(t *testing.T) {
	dir := t.TempDir()
	path, other := filepath.Join(dir, "n.db"), filepath.Join(dir, "other.db")
	running := open(t, other)
	if _, err := running.Add(ctx, titled("in the log"), "made"); err != nil {
		t.Fatal(err)
	}
	// A program that was killed: the file and its log, as they lay.
	killed := open(t, path)
	if _, err := killed.Add(ctx, titled("was here"), "made"); err != nil {
		t.Fatal(err)
	}
	for _, end := range []string{"", "-wal"} {
		if err := copyFile(path+end, filepath.Join(dir, "killed.db")+end); err != nil {
			t.Fatal(err)
		}
	}
	path = filepath.Join(dir, "killed.db")
	kept, err := Restore(other, path, clock)
	if err != nil {
		t.Fatal(err)
	}
	is := func(path, title string) {
		t.Helper()
		s, err := OpenToRead(path, clock)
		if err != nil {
			t.Fatal(err)
		}
		defer s.Close()
		if rows, err := s.List(ctx, Query{Limit: 9}); err != nil || len(rows) != 1 || rows[0].Title != title {
			t.Errorf("%s: %+v %v", path, rows, err)
		}
	}
	is(path, "in the log")
	is(kept, "was here")
	// Back again, from what was kept.
	if _, err := Restore(kept, path, func() time.Time { return clock().Add(time.Minute) }); err != nil {
		t.Fatal(err)
	}
	is(path, "was here")
}

// While nobody writes the file is whole without its log. One that was copied alone while it was written says so.
func TestCopiedWithoutItsLog(t *testing.T) {
	dir := t.TempDir()
	s := open(t, filepath.Join(dir, "n.db"))
	if _, err := s.Add(ctx, titled("first"), "made"); err != nil {
		t.Fatal(err)
	}
	early := filepath.Join(dir, "early.db")
	if err := copyFile(s.path, early); err != nil {
		t.Fatal(err)
	}
	if r, err := OpenToRead(early, clock); err != nil || !r.Partial {
		t.Errorf("a copy without what was written last does not say so: %v", err)
	} else {
		r.Close()
	}
	if _, err := Restore(early, filepath.Join(dir, "m.db"), clock); !errors.Is(err, ErrPartial) {
		t.Errorf("it is restored from: %v", err)
	}
	settled := func() bool {
		s.writing.turn <- struct{}{}
		defer func() { <-s.writing.turn }()
		return !s.writing.unsettled
	}
	for end := time.Now().Add(10 * time.Second); !settled() && time.Now().Before(end); {
		time.Sleep(20 * time.Millisecond)
	}
	late := filepath.Join(dir, "late.db")
	if err := copyFile(s.path, late); err != nil {
		t.Fatal(err)
	}
	r, err := OpenToRead(late, clock)
	if err != nil {
		t.Fatal(err)
	}
	defer r.Close()
	if rows, err := r.List(ctx, Query{Limit: 9}); err != nil || len(rows) != 1 || r.Partial {
		t.Errorf("%+v, %v, partial %t", rows, err, r.Partial)
	}
	// What is no database at all is said to be no notebook, without a word of the database.
	if _, err := Restore("copies_test.go", filepath.Join(dir, "m.db"), clock); err == nil ||
		err.Error() != "copies_test.go is no notebook of Ornamen" {
		t.Errorf("%v", err)
	}
	// A file without a table is no notebook; the sentence names the log that may be missing.
	none := filepath.Join(dir, "none.db")
	if err := os.WriteFile(none, nil, 0o600); err != nil {
		t.Fatal(err)
	}
	if _, err := Restore(none, filepath.Join(dir, "m.db"), clock); err == nil ||
		!strings.Contains(err.Error(), "none.db-wal") {
		t.Errorf("%v", err)
	}
}

// While somebody reads what was before, the log cannot be settled whole, and the file says so; then it is.
func TestNotSettledWhileRead(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "n.db"))
	if _, err := s.Add(ctx, titled("first"), "made"); err != nil {
		t.Fatal(err)
	}
	r, err := OpenToRead(s.path, clock)
	if err != nil {
		t.Fatal(err)
	}
	defer r.Close()
	reading := r.db.Begin()
	if err := reading.Take(&Lick{}).Error; err != nil {
		t.Fatal(err)
	}
	if _, err := s.Add(ctx, titled("second"), "made"); err != nil {
		t.Fatal(err)
	}
	unsettled := func() bool {
		s.settle()
		s.writing.turn <- struct{}{}
		defer func() { <-s.writing.turn }()
		return s.writing.unsettled
	}
	if !unsettled() {
		t.Error("the log is said to be settled while somebody reads what was before")
	}
	reading.Rollback()
	for end := time.Now().Add(10 * time.Second); unsettled() && time.Now().Before(end); {
		time.Sleep(20 * time.Millisecond)
	}
	if unsettled() {
		t.Error("the log is never settled")
	}
}

// What has a key is here once: a notebook that is added to itself stays as it is; what went on elsewhere goes on here,
// and what went on in both places stays beside.
func TestAddedOnce(t *testing.T) {
	dir := t.TempDir()
	s := open(t, filepath.Join(dir, "n.db"))
	e, err := s.Add(ctx, titled("one"), "made")
	if err != nil {
		t.Fatal(err)
	}
	if e, err = s.Commit(ctx, e.ID, e.Revision, titled("two"), "renamed"); err != nil {
		t.Fatal(err)
	}
	whole := func(s *Store) Whole {
		t.Helper()
		c, err := s.ChainOf(ctx, e.ID)
		if err != nil {
			t.Fatal(err)
		}
		return Whole{Chains: []Chain{c}}
	}
	add := func(s *Store, w Whole, want int) {
		t.Helper()
		if n, err := s.AddAll(ctx, w); err != nil || n != want {
			t.Errorf("%d are new, %v; not %d", n, err, want)
		}
	}
	versions := func(s *Store, title string, want int) {
		t.Helper()
		x, err := s.Get(ctx, e.ID)
		list, err2 := s.Versions(ctx, e.ID, 99)
		if err := errors.Join(err, err2); err != nil || x.Lick.Title != title || len(list) != want {
			t.Errorf("%q with %d versions, %v", x.Lick.Title, len(list), err)
		}
	}
	add(s, whole(s), 0)
	versions(s, "two", 2)
	// Another notebook goes on.
	other := open(t, filepath.Join(dir, "m.db"))
	add(other, whole(s), 1)
	versions(other, "two", 2)
	if _, err := other.Commit(ctx, 1, 2, titled("three"), "renamed"); err != nil {
		t.Fatal(err)
	}
	add(s, whole(other), 1)
	add(s, whole(other), 0)
	versions(s, "three", 3)
	// Both go on.
	now, _ := s.Get(ctx, e.ID)
	if _, err := s.Commit(ctx, e.ID, now.Revision, titled("here"), "renamed"); err != nil {
		t.Fatal(err)
	}
	if _, err := other.Commit(ctx, 1, 3, titled("there"), "renamed"); err != nil {
		t.Fatal(err)
	}
	add(s, whole(other), 1)
	add(s, whole(other), 0)
	versions(s, "here", 5)
	c, _ := s.ChainOf(ctx, e.ID)
	if last := c.Past[4]; !last.Aside || !bytes.Contains(last.Data, []byte("there")) {
		t.Errorf("what went on elsewhere is not beside: %+v", last)
	}
	// Deleted here, it comes back.
	if err := s.Delete(ctx, e.ID); err != nil {
		t.Fatal(err)
	}
	add(s, whole(other), 1)
	versions(s, "here", 5)
}
