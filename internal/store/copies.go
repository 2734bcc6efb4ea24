package store

import (
	"bytes"
	"compress/gzip"
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io"
	"net/url"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"gorm.io/gorm"

	"ornamen/internal/refuse"
)

// keptDaily is how many daily copies are kept.
const keptDaily = 7

// stamp is a time as a part of a file's name; such names sort by time.
func (s *Store) stamp() string { return s.now().UTC().Format("20060102-150405.000") }

// Backup writes the whole notebook as one file, which must not be there yet.
func (s *Store) Backup(ctx context.Context, to string) error {
	if _, err := os.Lstat(to); err == nil {
		return fmt.Errorf("%s is there already; name a new file", to)
	}
	if err := s.copyTo(ctx, to); err != nil {
		return fmt.Errorf("back up to %s: %w", to, err)
	}
	return nil
}

// copyTo writes a copy whole or not at all, for the owner alone: into a file beside the target, which is synced and
// then renamed. VACUUM INTO reads one state of the notebook while others write.
func (s *Store) copyTo(ctx context.Context, to string) error {
	tmp, err := os.CreateTemp(filepath.Dir(to), inMaking)
	if err != nil {
		return bare(err)
	}
	name := tmp.Name()
	defer os.Remove(name)
	defer claimed(name)()
	if err := tmp.Close(); err != nil {
		return bare(err)
	}
	if err := s.copyOver(ctx, name); err != nil {
		return err
	}
	return bare(os.Rename(name, to))
}

// copyOver writes a copy into an empty file and brings it to the disk.
func (s *Store) copyOver(ctx context.Context, name string) error {
	if err := s.db.WithContext(ctx).Exec("VACUUM INTO ?", name).Error; err != nil {
		return plain(err)
	}
	if err := whole(name); err != nil {
		return plain(err)
	}
	return bare(synced(name))
}

// whole has the head of a copy say that there is no log that belongs to it.
func whole(name string) error {
	db, err := sql.Open("sqlite", fileURL(name, url.Values{}))
	if err != nil {
		return err
	}
	_, err = db.Exec("PRAGMA user_version = 0")
	return errors.Join(err, db.Close())
}

// synced has the system write a file out, so that it outlasts a loss of power.
func synced(name string) error {
	f, err := os.OpenFile(name, os.O_RDWR, 0)
	if err != nil {
		return err
	}
	defer f.Close()
	return f.Sync()
}

// Restore puts a backup in the place of the notebook at path, after looking it over. It is read through SQLite, with
// what stands in its write-ahead log, so that a notebook that is running can be restored from too. What was there is
// kept beside it under a dated name, which is returned; it is whole without a log wherever it can be read. The notebook
// at path must not be open.
//
// The order is what makes a kill harmless: the new file is whole on the disk, and so is what is kept of the old one,
// before the new one takes its name. There is a notebook at path at every moment.
func Restore(from, path string, now func() time.Time) (kept string, err error) {
	source, err := openAsItIs(from, now)
	if errors.Is(err, ErrDamaged) && !isDatabase(from) {
		return "", refuse.With("%s is no notebook of Ornamen", from)
	}
	if err != nil {
		return "", fmt.Errorf("notebook %s: %w", from, bare(err))
	}
	defer source.Close()
	if err := source.complete(); err != nil {
		return "", fmt.Errorf("%s: %w", from, err)
	}
	if real, err := filepath.EvalSymlinks(path); err == nil {
		path = real
	}
	info, err := os.Stat(path)
	if err != nil {
		info = nil // there is none yet
	}
	locks, err := locked(path, info)
	if err != nil {
		return "", fmt.Errorf("%s: %w", path, err)
	}
	defer unlock(locks)
	tmp, err := os.CreateTemp(filepath.Dir(path), inMaking)
	if err != nil {
		return "", fmt.Errorf("%s: %w", path, bare(err))
	}
	name := tmp.Name()
	tmp.Close()
	defer os.Remove(name)
	defer claimed(name)()
	if err := source.copyOver(context.Background(), name); err != nil {
		return "", fmt.Errorf("%s: %w", path, err)
	}
	if info != nil && info.Size() > 0 {
		kept = fmt.Sprintf("%s.before-restore-%s", path, now().UTC().Format("20060102-150405.000"))
		if err := keepBeside(path, kept, now); err != nil {
			return "", fmt.Errorf("%s: %w", path, bare(err))
		}
	}
	// A log that is left belongs to what was there, and would be read into the new file.
	for _, end := range []string{"-wal", "-shm"} {
		if err := os.Remove(path + end); err != nil && !errors.Is(err, os.ErrNotExist) {
			return kept, fmt.Errorf("%s: %w", path, bare(err))
		}
	}
	if err := os.Rename(name, path); err != nil {
		return kept, fmt.Errorf("%s: %w", path, bare(err))
	}
	return kept, nil
}

// isDatabase says whether a file begins as every SQLite database does (the file format of SQLite, section 1.3).
func isDatabase(path string) bool {
	f, err := os.Open(path)
	if err != nil {
		return false
	}
	defer f.Close()
	head := make([]byte, 16)
	_, err = io.ReadFull(f, head)
	return err == nil && string(head) == "SQLite format 3\x00"
}

// complete refuses to take what is no whole notebook for one.
func (s *Store) complete() error {
	if err := s.intact(); err != nil {
		return err
	}
	switch ids, err := s.done(); {
	case err != nil:
		return err
	case len(ids) == 0:
		return refuse.With("this is no notebook of Ornamen, or a copy of one without the log of its changes (%s-wal)",
			filepath.Base(s.path))
	case s.Partial:
		return ErrPartial
	}
	return nil
}

// keepBeside keeps what is at path under another name: the file with its log settled or, where it cannot be read any
// more, file and log as they are.
func keepBeside(path, kept string, now func() time.Time) error {
	if settledAt(path, now) && os.Link(path, kept) == nil {
		return nil
	}
	for _, end := range []string{"", "-wal"} {
		if err := copyFile(path+end, kept+end); err != nil && !errors.Is(err, os.ErrNotExist) {
			return err
		}
	}
	return nil
}

// settledAt settles the log of the notebook at path; it says whether the file is whole without it.
func settledAt(path string, now func() time.Time) bool {
	s := newStore(path, now)
	if s.open(path) != nil {
		return false
	}
	var busy, logged, done int
	err := errors.Join(
		s.db.Exec("PRAGMA user_version = 0").Error,
		s.db.Raw("PRAGMA wal_checkpoint(TRUNCATE)").Row().Scan(&busy, &logged, &done),
	)
	if db, e := s.db.DB(); e == nil {
		err = errors.Join(err, db.Close())
	}
	return err == nil && busy == 0 && !s.logged()
}

// copyFile copies a file into a new one, for the owner alone, and brings it to the disk.
func copyFile(from, to string) error {
	f, err := os.Open(from)
	if err != nil {
		return err
	}
	defer f.Close()
	out, err := os.OpenFile(to, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o600)
	if err != nil {
		return err
	}
	_, err = io.Copy(out, f)
	return errors.Join(err, out.Sync(), out.Close())
}

// Copies lists the daily copies beside the notebook, the oldest first. Those that a clock that ran ahead has dated
// stand before all others: their day is not known, and they must neither outlast true ones nor be taken for the last.
func (s *Store) Copies() []string {
	list, err := filepath.Glob(globQuoted(s.path) + ".daily-*")
	if err != nil {
		return nil
	}
	today := s.daily()
	slices.SortFunc(list, func(a, b string) int {
		if a > today != (b > today) {
			return strings.Compare(b, a)
		}
		return strings.Compare(a, b)
	})
	return list
}

// daily is the name of today's copy.
func (s *Store) daily() string {
	return fmt.Sprintf("%s.daily-%s", s.path, s.now().Format(time.DateOnly))
}

// globQuoted makes a path match itself alone.
func globQuoted(path string) string {
	var b bytes.Buffer
	for _, r := range path {
		if r == '*' || r == '?' || r == '[' || r == '\\' {
			b.WriteRune('\\')
		}
		b.WriteRune(r)
	}
	return b.String()
}

// Housekeep makes the day's copy beside the notebook unless it is there, keeps the
// last seven, and packs what is rarely read.
func (s *Store) Housekeep(ctx context.Context) error {
	if s.ReadOnly {
		return nil
	}
	if err := s.there(); err != nil {
		return err
	}
	today := s.daily()
	if _, err := os.Stat(today); errors.Is(err, os.ErrNotExist) {
		if err := s.copyTo(ctx, today); err != nil {
			return fmt.Errorf("daily copy: %w", err)
		}
	}
	copies := s.Copies()
	for _, old := range copies[:max(0, len(copies)-keptDaily)] {
		os.Remove(old)
	}
	return s.pack(ctx)
}

// Of a chain the newest revisions are kept as they are; older ones are packed, which
// takes about a tenth of the room and loses nothing.
const (
	unpackedTail = 50
	packBatch    = 200
)

// gzipped is how packed content begins.
var gzipped = []byte{0x1f, 0x8b}

// pack packs versions that are stored plain, some at a time so that edits are not kept waiting.
// How content begins says whether it is packed: a lick file begins with a brace.
func (s *Store) pack(ctx context.Context) error {
	for ctx.Err() == nil {
		var rs []Revision
		err := s.db.WithContext(ctx).
			Raw(`SELECT id, data FROM (SELECT id, data, ROW_NUMBER() OVER (PARTITION BY kind, owner_id ORDER BY id DESC)
			AS age FROM revisions)
			WHERE age > ? AND substr(data, 1, 2) <> x'1f8b' LIMIT ?`, unpackedTail, packBatch).
			Scan(&rs).
			Error
		if err != nil || len(rs) == 0 {
			return plain(err)
		}
		err = s.write(ctx, func(tx *gorm.DB) error {
			for _, r := range rs {
				if err := tx.Exec("UPDATE revisions SET data = ? WHERE id = ?", packed(r.Data), r.ID).Error; err != nil {
					return err
				}
			}
			return nil
		})
		if err != nil {
			return err
		}
	}
	return ctx.Err()
}

// packed is content as it is stored.
func packed(data []byte) []byte {
	var b bytes.Buffer
	w := gzip.NewWriter(&b)
	w.Write(data) // into memory: it cannot fail
	w.Close()
	return b.Bytes()
}

// maxRevision bounds what a packed revision may unpack to.
const maxRevision = 64 << 20

// unpacked is content as it was written, packed or plain.
func unpacked(data []byte) ([]byte, error) {
	if !bytes.HasPrefix(data, gzipped) {
		return data, nil
	}
	r, err := gzip.NewReader(bytes.NewReader(data))
	if err != nil {
		return nil, err
	}
	return io.ReadAll(io.LimitReader(r, maxRevision))
}
