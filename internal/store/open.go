package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"sync/atomic"
	"syscall"
	"time"

	"github.com/gofrs/flock"
	"gorm.io/driver/sqlite"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"
	_ "modernc.org/sqlite" // the driver named "sqlite", without cgo
)

// Store is an open notebook. It is safe for concurrent use: up to four connections read at
// once, writers wait for each other.
type Store struct {
	db    *gorm.DB
	path  string
	now   func() time.Time
	locks []*flock.Flock
	file  os.FileInfo // the file that was opened, to notice when another stands in its place
	log   os.FileInfo // its write-ahead log, for the same

	// ReadOnly says that the file cannot be written; reading works.
	ReadOnly bool

	// Partial says that the file was copied while it was written and without the log beside it, so that the last changes
	// are not in it.
	Partial bool

	writes  atomic.Uint64 // see Writes
	writing settling

	temporary string // a folder that holds the file that is read; it goes when the notebook is closed

	rescue  sync.Once
	rescued string // where the content of a file that is gone was written
}

// Open opens or makes the notebook at path, for one program at a time. The clock gives the times of revisions and the
// days of practice, in the player's time zone. A file that cannot be written is opened for reading. An older notebook
// is brought up to date after a dated copy of it was made.
//
// The steps stand in the order in which each needs those before it: whose file it is, the lock, the connection, a look
// at every page, the upgrade. A failure closes what was opened and leaves the file as it was.
func Open(path string, now func() time.Time) (*Store, error) {
	s := newStore(path, now)
	if real, err := filepath.EvalSymlinks(path); err == nil {
		s.path = real // SQLite keeps its files beside that name
	}
	existed, err := s.prepare()
	logged := s.logged()
	if err == nil {
		if err = s.open(s.path); errors.Is(err, ErrDamaged) {
			err = s.damaged(err.Error())
		}
	}
	if err == nil && existed {
		err = s.intact()
	}
	if err == nil && !logged {
		s.Partial = s.unsettled() && !s.logged() // somebody may have begun to write just now
	}
	if err == nil {
		err = s.migrate(existed)
	}
	if err == nil {
		s.file, err = os.Stat(s.path)
	}
	if err == nil && !s.ReadOnly {
		err = s.setAside()
	}
	if err == nil && !s.ReadOnly {
		err = s.identify()
	}
	if err == nil && !s.ReadOnly {
		s.log, err = os.Stat(s.path + "-wal")
		s.sweep()
		s.writing.unsettled = s.unsettled()
		s.settleSoon()
	}
	if err != nil {
		s.Close()
		return nil, fmt.Errorf("notebook %s: %w", path, err)
	}
	return s, nil
}

// newStore is a notebook that is not open yet.
func newStore(path string, now func() time.Time) *Store {
	return &Store{path: path, now: now, writing: settling{turn: make(chan struct{}, 1)}}
}

// OpenToRead opens a notebook for reading beside a program that may be writing it. It takes no lock and changes
// nothing. What the writer commits meanwhile is seen by later reads. Of a notebook of an older Ornamen a copy is
// brought up to date and read.
func OpenToRead(path string, now func() time.Time) (*Store, error) {
	s, err := openAsItIs(path, now)
	if err == nil {
		if err = s.updatedCopy(); err != nil {
			s.Close()
		}
	}
	if err != nil {
		return nil, fmt.Errorf("notebook %s: %w", path, bare(err))
	}
	return s, nil
}

// openAsItIs opens a notebook for reading, with what stands in its write-ahead log, whatever version it is of.
func openAsItIs(path string, now func() time.Time) (*Store, error) {
	s := newStore(path, now)
	s.ReadOnly = true
	_, err := os.Stat(path)
	if err == nil {
		err = foreign(path)
	}
	file, logged := path, s.logged()
	if err == nil && logged && !writable(filepath.Dir(path)) {
		file, err = s.movable(path) // SQLite reads a log only where it can write its index
	}
	if err == nil {
		err = s.open(file)
	}
	if err == nil {
		err = s.known()
	}
	if err == nil && !logged {
		s.Partial = s.unsettled() && !s.logged() // somebody may have begun to write just now
	}
	if err != nil {
		s.Close()
		return nil, err
	}
	return s, nil
}

// movable copies a notebook and its write-ahead log into a folder of their own.
func (s *Store) movable(path string) (file string, err error) {
	if s.temporary, err = os.MkdirTemp("", "ornamen-read-"); err != nil {
		return "", err
	}
	file = filepath.Join(s.temporary, "notebook.db")
	for _, end := range []string{"", "-wal"} {
		if err := copyFile(path+end, file+end); err != nil {
			return "", err
		}
	}
	return file, nil
}

// updatedCopy goes on with a copy that has taken all steps, where the file lacks some.
func (s *Store) updatedCopy() error {
	ids, err := s.done()
	if err != nil || len(ids) == len(migrations) || len(ids) == 0 {
		return err
	}
	if s.temporary == "" {
		if s.temporary, err = os.MkdirTemp("", "ornamen-read-"); err != nil {
			return err
		}
	}
	file := filepath.Join(s.temporary, "updated.db")
	if err := s.copyTo(context.Background(), file); err != nil {
		return err
	}
	up := newStore(file, s.now)
	err = up.open(file)
	if err == nil {
		err = up.upgrade()
	}
	if err = errors.Join(err, up.Close()); err != nil {
		return err
	}
	if db, err := s.db.DB(); err == nil {
		db.Close()
	}
	return s.open(file)
}

// Now is the time by the notebook's clock, in the player's time zone.
func (s *Store) Now() time.Time { return s.now() }

// prepare takes the notebook for this program and makes the file, for its owner alone, where there is none.
func (s *Store) prepare() (existed bool, err error) {
	if info, err := os.Stat(s.path); err == nil {
		if existed = info.Size() > 0; info.IsDir() {
			return existed, errors.New("this is a folder; name a file in it")
		}
	}
	if existed {
		if err := foreign(s.path); err != nil {
			return existed, err
		}
	}
	f, err := os.OpenFile(s.path, os.O_RDWR|os.O_CREATE, 0o600)
	var info os.FileInfo
	if err == nil {
		info, err = f.Stat()
		f.Close()
	}
	switch {
	case err == nil:
	case existed && (errors.Is(err, fs.ErrPermission) || errors.Is(err, syscall.EROFS)):
		s.ReadOnly = true
		return existed, nil
	default:
		return existed, bare(err)
	}
	s.locks, err = locked(s.path, info)
	return existed, err
}

// locked takes the notebook at a path for this program: by its name, which older versions of
// Ornamen look at, and by what file it is, so that a hard link to it is the same notebook.
func locked(path string, info os.FileInfo) (locks []*flock.Flock, err error) {
	locks = []*flock.Flock{flock.New(path+".lock", flock.SetPermissions(0o600))}
	if info != nil {
		if l := identityLock(path, info); l != nil {
			locks = append(locks, l)
		}
	}
	for i, l := range locks {
		ok, err := l.TryLock()
		if err == nil && ok {
			continue
		}
		unlock(locks[:i])
		if err != nil {
			return nil, bare(err)
		}
		return nil, ErrOpen
	}
	return locks, nil
}

// unlock gives locks free.
func unlock(locks []*flock.Flock) (err error) {
	for _, l := range locks {
		err = errors.Join(err, l.Unlock())
	}
	return err
}

// foreign refuses another program's database before anything of it is changed: it has tables, and
// none of them is a notebook's. What is damaged or empty is looked at later.
func foreign(path string) error {
	q := url.Values{"mode": {"ro"}, "immutable": {"1"}}
	db, err := sql.Open("sqlite", fileURL(path, q))
	if err != nil {
		return nil
	}
	defer db.Close()
	var licks, others int // a notebook whose first start was killed may have its migrations alone
	err = db.QueryRow(`SELECT COALESCE(SUM(name = 'licks'), 0),
		COALESCE(SUM(name NOT IN ('licks', 'migrations') AND name NOT LIKE 'sqlite_%'), 0)
		FROM sqlite_master WHERE type = 'table'`).Scan(&licks, &others)
	if err == nil && licks == 0 && others > 0 {
		return ErrForeign
	}
	return nil
}

// fileURL names a database file with its settings as SQLite reads them.
func fileURL(path string, q url.Values) string {
	return (&url.URL{Scheme: "file", Opaque: (&url.URL{Path: path}).EscapedPath(), RawQuery: q.Encode()}).String()
}

// sweep removes files in the making that a killed program has left beside the notebook.
func (s *Store) sweep() {
	list, err := filepath.Glob(globQuoted(filepath.Dir(s.path)) + "/" + inMaking)
	if err != nil {
		return
	}
	for _, name := range list {
		info, err := os.Lstat(name)
		if err != nil || !info.Mode().IsRegular() || !abandoned(name, info, s.now().Unix()) {
			continue
		}
		for _, end := range []string{"", "-journal", "-wal", "-shm"} {
			os.Remove(name + end)
		}
	}
}

// inMaking is how files are named until they are whole.
const inMaking = ".ornamen-*"

// bare is a file error without the path, which the sentence names already.
func bare(err error) error {
	var p *fs.PathError
	if errors.As(err, &p) {
		return p.Err
	}
	return err
}

// connections is how many requests may read at once.
const connections = 4

// open opens the database file with the settings that every connection needs. A write costs a sync of the disk, which
// is what an edit that was answered is worth; reads never wait for it (WAL).
func (s *Store) open(file string) error {
	// WAL with full sync: a write that was answered is on the disk. Writers wait
	// for each other from the start of their transaction.
	q := url.Values{"_txlock": {"immediate"}, "_pragma": {"journal_mode(WAL)", "synchronous(FULL)", "foreign_keys(1)",
		"busy_timeout(5000)", "cache_size(-8000)"}}
	if s.ReadOnly {
		q = url.Values{"mode": {"ro"}, "_pragma": {"busy_timeout(5000)", "cache_size(-8000)"}}
		if !writable(filepath.Dir(file)) {
			q.Set("immutable", "1") // nobody can write here, and no index beside the file either
		}
	}
	db, err := gorm.Open(sqlite.New(sqlite.Config{DriverName: "sqlite", DSN: fileURL(file, q)}), &gorm.Config{
		NowFunc: func() time.Time { return s.now().UTC() },
		Logger:  logger.Discard, // errors are returned, not printed
	})
	if err != nil {
		return plain(err)
	}
	s.db = db
	sqlDB, err := db.DB()
	if err != nil {
		return err
	}
	sqlDB.SetMaxOpenConns(connections)
	sqlDB.SetMaxIdleConns(connections) // the last one to close would take the write-ahead log with it
	return nil
}

// writable says whether files can be made in a folder.
func writable(dir string) bool {
	f, err := os.CreateTemp(dir, inMaking)
	if err != nil {
		return false
	}
	f.Close()
	os.Remove(f.Name())
	return true
}

// intact looks the file over and says where a copy lies when it is damaged. quick_check reads
// every page, about 20 ms for one of ten thousand revisions that is at hand in memory.
func (s *Store) intact() error {
	var found string
	err := s.db.Raw("PRAGMA quick_check(1)").Scan(&found).Error
	if err == nil && found == "ok" {
		return nil
	}
	if err != nil {
		if err = plain(err); !errors.Is(err, ErrDamaged) {
			return err
		}
		found = err.Error()
	}
	return s.damaged(found)
}

// damaged says that the file is damaged, and how its last good copy is put back.
func (s *Store) damaged(why string) error {
	advice := "there is no copy beside it"
	if copies := s.Copies(); len(copies) > 0 {
		advice = fmt.Sprintf("put the last good copy back with: ornamen restore %q --db %q", copies[len(copies)-1],
			s.path)
	}
	return fmt.Errorf("%w (%s); %s", ErrDamaged, strings.TrimPrefix(why, ErrDamaged.Error()+" "), advice)
}

// Close closes the notebook and gives it free for other programs.
func (s *Store) Close() error {
	var err error
	if s.db != nil {
		s.settleForGood()
		if db, e := s.db.DB(); e == nil {
			err = db.Close()
		}
	}
	if s.temporary != "" {
		err = errors.Join(err, os.RemoveAll(s.temporary))
	}
	return errors.Join(err, unlock(s.locks))
}

// there says whether the file that was opened still stands at its path, and its write-ahead log beside it: what was
// saved last is in the log alone. If not, the content, which is still at hand, is written beside it once. Without this
// look, SQLite would go on writing into a file that has no name any more, and all of it would be gone at the end.
func (s *Store) there() error {
	now, err := os.Stat(s.path)
	log, err2 := os.Stat(s.path + "-wal")
	if err == nil && os.SameFile(now, s.file) && (s.log == nil || err2 == nil && os.SameFile(log, s.log)) {
		return nil
	}
	s.rescue.Do(func() {
		to := fmt.Sprintf("%s.rescued-%s", s.path, s.stamp())
		if s.copyTo(context.Background(), to) == nil {
			s.rescued = to
		}
	})
	if s.rescued != "" {
		return fmt.Errorf("%w; all that was saved before lies in %s", ErrGone, filepath.Base(s.rescued))
	}
	return ErrGone
}

// Writes counts the writes so far: what was read at one count is what is there as long as it stands.
func (s *Store) Writes() uint64 { return s.writes.Load() }

// write runs f in a transaction, whole or not at all. The error is one of those above, by errors.Is.
func (s *Store) write(ctx context.Context, f func(tx *gorm.DB) error) error {
	if s.ReadOnly {
		return ErrReadOnly
	}
	if err := s.there(); err != nil {
		return err
	}
	done, err := s.begin(ctx)
	if err != nil {
		return err
	}
	defer done()
	if err := s.db.WithContext(ctx).Transaction(f); err != nil {
		return plain(err)
	}
	s.writes.Add(1)
	// It may have gone while the transaction ran: then it is not acknowledged.
	return s.there()
}
