package store

import (
	"database/sql"
	"errors"
	"fmt"
	"slices"
	"syscall"

	"gorm.io/gorm"
	modernc "modernc.org/sqlite"
	sqlite3 "modernc.org/sqlite/lib"
)

// Errors that callers decide on; each is a sentence for the player.
var (
	ErrNotFound = errors.New("not in the notebook")
	ErrFull     = errors.New("the disk is full, so nothing was saved; make room and try again")
	ErrIO       = errors.New(
		"the notebook's file cannot be read or written, so nothing was saved; look at the disk it lies on",
	)
	ErrReadOnly = errors.New("the notebook's file cannot be written, so nothing was saved; it can be read")
	ErrBusy     = errors.New("another program is using the notebook; nothing was saved, try again")
	ErrOpen     = errors.New("the notebook is open in another Ornamen; stop that one, or name another file with --db")
	ErrGone     = errors.New(
		"the notebook's file, or the log of last changes beside it, was moved, replaced or deleted " +
			"while Ornamen runs, so nothing was saved",
	)
	ErrForeign = errors.New("this is another program's database, and no notebook; nothing of it was changed")
	ErrDamaged = errors.New("the notebook's file is damaged")
	ErrPartial = errors.New(
		"this copy was taken while the notebook was written, and without the log beside it, so that " +
			"the last changes are not in it; put the log (the file whose name ends in -wal) beside it, or make a copy with: " +
			"ornamen backup FILE",
	)
	ErrNewer  = errors.New("the notebook was written by a later Ornamen; nothing was changed, open it with that one")
	ErrNoUndo = errors.New("there is nothing to undo")
	ErrNoRedo = errors.New("there is nothing to redo")
)

// StaleError is a write made on a revision that is no longer the newest. The
// write is kept beside the chain as revision Kept.
type StaleError struct{ Lick, Head, Kept uint }

// Error is one sentence for the player.
func (e *StaleError) Error() string {
	return "this lick was changed elsewhere in the meantime; both versions are kept"
}

// UnreadableError is a revision whose content cannot be read. The rest of the notebook can.
type UnreadableError struct {
	Lick, Revision uint
	Err            error
}

// Error is one sentence that names what cannot be read.
func (e *UnreadableError) Error() string {
	return fmt.Sprintf("this version of the lick cannot be read (%v); its other versions can", e.Err)
}

// Unwrap gives the cause.
func (e *UnreadableError) Unwrap() error { return e.Err }

// IsFault says whether an error is of the notebook's file or of the database, and nothing that was asked in vain.
func IsFault(err error) bool {
	var e *modernc.Error
	if errors.As(err, &e) {
		return true
	}
	return slices.ContainsFunc([]error{ErrFull, ErrIO, ErrReadOnly, ErrBusy, ErrGone, ErrDamaged, ErrPartial, ErrNewer,
		sql.ErrConnDone, sql.ErrTxDone, sql.ErrNoRows, gorm.ErrInvalidDB, gorm.ErrInvalidTransaction,
		gorm.ErrInvalidData, syscall.ENOSPC},
		func(of error) bool { return errors.Is(err, of) })
}

// all reads the rows that a query asks for; what is said in the error.
func all[T any](db *gorm.DB, what string) (out []T, err error) {
	if err := db.Find(&out).Error; err != nil {
		return nil, fmt.Errorf("%s: %w", what, plain(err))
	}
	return out, nil
}

// count is how many rows a query asks for.
func count(db *gorm.DB) (n int, err error) {
	var rows int64
	err = db.Count(&rows).Error
	return int(rows), err
}

// one refuses a change that met no row.
func one(res *gorm.DB) error {
	if res.Error == nil && res.RowsAffected == 0 {
		return ErrNotFound
	}
	return res.Error
}

// found is one for a row that is named in the error.
func found(res *gorm.DB, what string, id uint) error {
	err := one(res)
	if errors.Is(err, ErrNotFound) {
		return fmt.Errorf("%s %d: %w", what, id, err)
	}
	return err
}

// plain turns SQLite's result codes into errors that callers know.
// The code in words stays behind it in brackets, for a log.
func plain(err error) error {
	var e *modernc.Error
	switch {
	case err == nil:
		return nil
	case errors.Is(err, gorm.ErrRecordNotFound):
		return ErrNotFound
	case errors.Is(err, syscall.ENOSPC):
		return fmt.Errorf("%w (%v)", ErrFull, err)
	case !errors.As(err, &e):
		return err
	}
	known := map[int]error{
		sqlite3.SQLITE_FULL:     ErrFull,
		sqlite3.SQLITE_IOERR:    ErrIO,
		sqlite3.SQLITE_CANTOPEN: ErrIO,
		sqlite3.SQLITE_READONLY: ErrReadOnly,
		sqlite3.SQLITE_PERM:     ErrReadOnly,
		sqlite3.SQLITE_BUSY:     ErrBusy,
		sqlite3.SQLITE_LOCKED:   ErrBusy,
		sqlite3.SQLITE_CORRUPT:  ErrDamaged,
		sqlite3.SQLITE_NOTADB:   ErrDamaged,
	}
	if as, ok := known[e.Code()&0xff]; ok {
		return fmt.Errorf("%w (%w)", as, err)
	}
	return err
}
