// Package store keeps the notebook in SQLite through GORM: every lick as a
// chain of revisions.
package store

import (
	"context"
	"errors"
	"fmt"
	"net/url"
	"time"

	"github.com/go-gormigrate/gormigrate/v2"
	"gorm.io/driver/sqlite"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"
	modernc "modernc.org/sqlite"
	sqlite3 "modernc.org/sqlite/lib"

	"ornamen/core/lick"
)

// Store is an open notebook. It is safe for concurrent use.
type Store struct{ db *gorm.DB }

// Errors that callers decide on.
var (
	ErrNotFound = errors.New("not in the notebook")
	ErrFull     = errors.New("the disk is full, so nothing was saved; make room and try again")
	ErrBusy     = errors.New("another program is using the notebook; nothing was saved, try again")
	ErrNoUndo   = errors.New("there is nothing to undo")
	ErrNoRedo   = errors.New("there is nothing to redo")
)

// StaleError is a write made on a revision that is no longer the newest. The
// write is kept beside the chain as revision Kept.
type StaleError struct{ Head, Kept uint }

func (e *StaleError) Error() string {
	return "this lick was changed elsewhere in the meantime; both versions are kept"
}

// Open opens or makes the notebook at path. The clock gives the times of
// revisions.
func Open(path string, now func() time.Time) (*Store, error) {
	// WAL with full sync: a write that was answered is on the disk. Writers wait
	// for each other from the start of their transaction.
	q := url.Values{"_txlock": {"immediate"}, "_pragma": {"journal_mode(WAL)", "synchronous(FULL)", "foreign_keys(1)", "busy_timeout(5000)"}}
	dsn := (&url.URL{Scheme: "file", Opaque: (&url.URL{Path: path}).EscapedPath(), RawQuery: q.Encode()}).String()
	db, err := gorm.Open(sqlite.New(sqlite.Config{DriverName: "sqlite", DSN: dsn}), &gorm.Config{
		NowFunc: func() time.Time { return now().UTC() },
		Logger:  logger.Discard, // errors are returned, not printed
	})
	if err != nil {
		return nil, fmt.Errorf("open notebook %s: %w", path, plain(err))
	}
	sqlDB, err := db.DB()
	if err != nil {
		return nil, fmt.Errorf("open notebook: %w", err)
	}
	sqlDB.SetMaxOpenConns(4)
	s := &Store{db}
	if err := s.migrate(); err != nil {
		sqlDB.Close()
		return nil, fmt.Errorf("prepare notebook %s: %w", path, plain(err))
	}
	return s, nil
}

// Close closes the notebook.
func (s *Store) Close() error {
	db, err := s.db.DB()
	if err != nil {
		return err
	}
	return db.Close()
}

func (s *Store) migrate() error {
	return gormigrate.New(s.db, gormigrate.DefaultOptions, []*gormigrate.Migration{{
		ID: "0001-licks",
		Migrate: func(tx *gorm.DB) error {
			for _, q := range []string{
				`CREATE TABLE licks (id INTEGER PRIMARY KEY AUTOINCREMENT, title TEXT NOT NULL, head_id INTEGER NOT NULL DEFAULT 0,
					created_at DATETIME NOT NULL, updated_at DATETIME NOT NULL, deleted_at DATETIME)`,
				`CREATE INDEX idx_licks_deleted_at ON licks(deleted_at)`,
				`CREATE TABLE revisions (id INTEGER PRIMARY KEY AUTOINCREMENT, lick_id INTEGER NOT NULL REFERENCES licks(id),
					parent_id INTEGER REFERENCES revisions(id), data BLOB NOT NULL, what TEXT NOT NULL, aside BOOLEAN NOT NULL DEFAULT 0, created_at DATETIME NOT NULL)`,
				`CREATE INDEX idx_revisions_lick_id ON revisions(lick_id)`,
				`CREATE INDEX idx_revisions_parent_id ON revisions(parent_id)`,
			} {
				if err := tx.Exec(q).Error; err != nil {
					return err
				}
			}
			return nil
		},
	}, {
		ID: "0002-palettes",
		Migrate: func(tx *gorm.DB) error {
			return tx.Exec(`CREATE TABLE palettes (id INTEGER PRIMARY KEY AUTOINCREMENT, name TEXT NOT NULL UNIQUE, tonic TEXT NOT NULL, scale TEXT NOT NULL,
				added TEXT NOT NULL, dropped TEXT NOT NULL, created_at DATETIME NOT NULL)`).Error
		},
	}, {
		ID: "0003-players",
		Migrate: func(tx *gorm.DB) error {
			return tx.Exec(`CREATE TABLE players (id INTEGER PRIMARY KEY AUTOINCREMENT, data BLOB NOT NULL, created_at DATETIME NOT NULL)`).Error
		},
	}, {
		ID: "0004-recipes",
		Migrate: func(tx *gorm.DB) error {
			return tx.Exec(`CREATE TABLE recipes (id INTEGER PRIMARY KEY AUTOINCREMENT, name TEXT NOT NULL UNIQUE, line TEXT NOT NULL, created_at DATETIME NOT NULL)`).Error
		},
	}}).Migrate()
}

// plain turns SQLite's result codes into errors that callers know.
func plain(err error) error {
	var e *modernc.Error
	switch {
	case err == nil:
		return nil
	case errors.Is(err, gorm.ErrRecordNotFound):
		return ErrNotFound
	case errors.As(err, &e):
		switch e.Code() & 0xff {
		case sqlite3.SQLITE_FULL, sqlite3.SQLITE_IOERR:
			return fmt.Errorf("%w (%v)", ErrFull, err)
		case sqlite3.SQLITE_BUSY, sqlite3.SQLITE_LOCKED:
			return fmt.Errorf("%w (%v)", ErrBusy, err)
		}
	}
	return err
}

// Entry is a lick with the revision that is shown.
type Entry struct {
	ID       uint
	Revision uint
	Lick     lick.Lick
	Touched  time.Time
	CanUndo  bool
	CanRedo  bool
}

func decode(r Revision) (lick.Lick, error) {
	l, err := lick.Parse(r.Data)
	if err != nil {
		return l, fmt.Errorf("read revision %d: %w", r.ID, err)
	}
	return l, nil
}

// All lists the notebook, the last touched first.
func (s *Store) All(ctx context.Context) ([]Entry, error) {
	var licks []Lick
	db := s.db.WithContext(ctx)
	if err := db.Order("updated_at DESC, id DESC").Find(&licks).Error; err != nil {
		return nil, fmt.Errorf("list licks: %w", plain(err))
	}
	heads := make([]uint, len(licks))
	for i, l := range licks {
		heads[i] = l.HeadID
	}
	revisions := map[uint]Revision{}
	const batch = 500
	for i := 0; i < len(heads); i += batch {
		var rs []Revision
		if err := db.Find(&rs, heads[i:min(i+batch, len(heads))]).Error; err != nil {
			return nil, fmt.Errorf("list licks: %w", plain(err))
		}
		for _, r := range rs {
			revisions[r.ID] = r
		}
	}
	out := make([]Entry, 0, len(licks))
	for _, l := range licks {
		content, err := decode(revisions[l.HeadID])
		if err != nil {
			return nil, err
		}
		out = append(out, Entry{ID: l.ID, Revision: l.HeadID, Lick: content, Touched: l.UpdatedAt})
	}
	return out, nil
}

// Get finds a lick at its newest revision.
func (s *Store) Get(ctx context.Context, id uint) (Entry, error) {
	var l Lick
	db := s.db.WithContext(ctx)
	if err := db.Take(&l, id).Error; err != nil {
		return Entry{}, fmt.Errorf("lick %d: %w", id, plain(err))
	}
	return entry(db, l)
}

func entry(db *gorm.DB, l Lick) (Entry, error) {
	r, err := revision(db, l.ID, l.HeadID)
	if err != nil {
		return Entry{}, err
	}
	content, err := decode(r)
	if err != nil {
		return Entry{}, err
	}
	_, err = child(db, r.ID)
	return Entry{ID: l.ID, Revision: r.ID, Lick: content, Touched: l.UpdatedAt, CanUndo: r.ParentID != nil, CanRedo: err == nil}, nil
}

// At reads a lick as it was at a revision.
func (s *Store) At(ctx context.Context, id, rev uint) (lick.Lick, error) {
	r, err := revision(s.db.WithContext(ctx), id, rev)
	if err != nil {
		return lick.Lick{}, err
	}
	return decode(r)
}

func revision(db *gorm.DB, id, rev uint) (Revision, error) {
	var r Revision
	if err := db.Where("lick_id = ?", id).Take(&r, rev).Error; err != nil {
		return r, fmt.Errorf("revision %d of lick %d: %w", rev, id, plain(err))
	}
	return r, nil
}

// child is the newest revision made on rev that is part of the chain.
func child(db *gorm.DB, rev uint) (Revision, error) {
	var rs []Revision
	if err := db.Where("parent_id = ? AND aside = ?", rev, false).Order("id DESC").Limit(1).Find(&rs).Error; err != nil {
		return Revision{}, plain(err)
	}
	if len(rs) == 0 {
		return Revision{}, ErrNoRedo
	}
	return rs[0], nil
}

// Add puts a new lick into the notebook.
func (s *Store) Add(ctx context.Context, l lick.Lick, what string) (Entry, error) {
	var out Entry
	err := s.write(ctx, func(tx *gorm.DB) error {
		row := Lick{Title: l.Title}
		if err := tx.Create(&row).Error; err != nil {
			return err
		}
		r := Revision{LickID: row.ID, Data: l.Encode(), What: what}
		if err := tx.Create(&r).Error; err != nil {
			return err
		}
		row.HeadID = r.ID
		if err := tx.Save(&row).Error; err != nil {
			return err
		}
		out = Entry{ID: row.ID, Revision: r.ID, Lick: l, Touched: row.UpdatedAt}
		return nil
	})
	if err != nil {
		return Entry{}, fmt.Errorf("add lick: %w", err)
	}
	return out, nil
}

// Commit saves a lick that was edited on revision base. If base is no longer
// the newest, the edit is kept aside and a *StaleError names both.
func (s *Store) Commit(ctx context.Context, id, base uint, l lick.Lick, what string) (Entry, error) {
	var out Entry
	var stale *StaleError
	err := s.write(ctx, func(tx *gorm.DB) error {
		var row Lick
		if err := tx.Take(&row, id).Error; err != nil {
			return err
		}
		if _, err := revision(tx, id, base); err != nil {
			return err
		}
		r := Revision{LickID: id, ParentID: &base, Data: l.Encode(), What: what, Aside: base != row.HeadID}
		if err := tx.Create(&r).Error; err != nil {
			return err
		}
		if r.Aside {
			stale = &StaleError{Head: row.HeadID, Kept: r.ID}
			return nil
		}
		row.HeadID, row.Title = r.ID, l.Title
		if err := tx.Save(&row).Error; err != nil {
			return err
		}
		out = Entry{ID: id, Revision: r.ID, Lick: l, Touched: row.UpdatedAt, CanUndo: true}
		return nil
	})
	if err == nil && stale != nil {
		return Entry{}, stale
	}
	if err != nil {
		return Entry{}, fmt.Errorf("save lick %d: %w", id, err)
	}
	return out, nil
}

// Undo goes back to the revision before base, Redo forward to the one that was
// undone. Both refuse when base is not the newest.
func (s *Store) Undo(ctx context.Context, id, base uint) (Entry, error) {
	return s.moveHead(ctx, id, base, func(tx *gorm.DB, r Revision) (Revision, error) {
		if r.ParentID == nil {
			return Revision{}, ErrNoUndo
		}
		return revision(tx, id, *r.ParentID)
	})
}

// Redo goes forward again; see Undo.
func (s *Store) Redo(ctx context.Context, id, base uint) (Entry, error) {
	return s.moveHead(ctx, id, base, func(tx *gorm.DB, r Revision) (Revision, error) { return child(tx, r.ID) })
}

func (s *Store) moveHead(ctx context.Context, id, base uint, to func(*gorm.DB, Revision) (Revision, error)) (Entry, error) {
	var out Entry
	err := s.write(ctx, func(tx *gorm.DB) error {
		var row Lick
		if err := tx.Take(&row, id).Error; err != nil {
			return err
		}
		if row.HeadID != base {
			return &StaleError{Head: row.HeadID}
		}
		r, err := revision(tx, id, base)
		if err != nil {
			return err
		}
		if r, err = to(tx, r); err != nil {
			return err
		}
		l, err := decode(r)
		if err != nil {
			return err
		}
		row.HeadID, row.Title = r.ID, l.Title
		if err := tx.Save(&row).Error; err != nil {
			return err
		}
		out, err = entry(tx, row)
		return err
	})
	if err != nil {
		return Entry{}, err
	}
	return out, nil
}

// Delete takes a lick out of the notebook; Restore brings it back.
func (s *Store) Delete(ctx context.Context, id uint) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		res := tx.Delete(&Lick{}, id)
		if res.Error == nil && res.RowsAffected == 0 {
			return fmt.Errorf("lick %d: %w", id, ErrNotFound)
		}
		return res.Error
	})
}

// Restore brings a deleted lick back.
func (s *Store) Restore(ctx context.Context, id uint) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		res := tx.Unscoped().Model(&Lick{}).Where("id = ? AND deleted_at IS NOT NULL", id).Update("deleted_at", nil)
		if res.Error == nil && res.RowsAffected == 0 {
			return fmt.Errorf("lick %d: %w", id, ErrNotFound)
		}
		return res.Error
	})
}

func (s *Store) write(ctx context.Context, f func(tx *gorm.DB) error) error {
	return plain(s.db.WithContext(ctx).Transaction(f))
}
