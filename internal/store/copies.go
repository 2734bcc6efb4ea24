package store

import (
	"bytes"
	"compress/gzip"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"gorm.io/gorm"
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
	if err := s.db.WithContext(ctx).Exec("VACUUM INTO ?", name).Error; err != nil {
		return plain(err)
	}
	if err := synced(name); err != nil {
		return bare(err)
	}
	return bare(os.Rename(name, to))
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

// Restore puts a backup in the place of the notebook at path, after looking it over. What was
// there is kept beside it under a dated name, which is returned. The notebook must not be open.
//
// The order is what makes a kill harmless: the new file is whole on the disk before the old one
// is moved, and the old one has another name before the new one takes its own. Between the two
// there is a moment without a notebook at path; both files are then beside it.
func Restore(from, path string, now func() time.Time) (kept string, err error) {
	check, err := OpenToRead(from, now)
	if err != nil {
		return "", err
	}
	err = check.intact()
	if ids, e := check.done(); err == nil && (e != nil || len(ids) == 0) {
		err = errors.New("this is no notebook of Ornamen")
	}
	if err := errors.Join(err, check.Close()); err != nil {
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
	defer os.Remove(tmp.Name())
	defer claimed(tmp.Name())()
	err = fill(tmp, from)
	if err = errors.Join(err, tmp.Close()); err != nil {
		return "", fmt.Errorf("%s: %w", path, plain(err))
	}
	if _, err := os.Stat(path); err == nil {
		kept = fmt.Sprintf("%s.before-restore-%s", path, now().UTC().Format("20060102-150405.000"))
		for _, end := range []string{"", "-wal"} {
			if err := os.Rename(path+end, kept+end); err != nil && !errors.Is(err, os.ErrNotExist) {
				return "", fmt.Errorf("%s: %w", path, bare(err))
			}
		}
		os.Remove(path + "-shm")
	}
	if err := os.Rename(tmp.Name(), path); err != nil {
		return kept, fmt.Errorf("%s: %w", path, bare(err))
	}
	return kept, nil
}

// fill copies a file's content and brings it to the disk.
func fill(to *os.File, from string) error {
	f, err := os.Open(from)
	if err != nil {
		return err
	}
	defer f.Close()
	if _, err := io.Copy(to, f); err != nil {
		return err
	}
	return to.Sync()
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
			Raw(`SELECT id, data FROM (SELECT id, data, ROW_NUMBER() OVER (PARTITION BY lick_id ORDER BY id DESC)
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
