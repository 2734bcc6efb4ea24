package store

import (
	"context"
	"database/sql"
	"fmt"
	"time"

	"gorm.io/gorm"

	"ornamen/core/lick"
)

// Entry is a lick with the revision that is shown.
type Entry struct {
	ID       uint
	Revision uint
	Lick     lick.Lick
	Touched  time.Time
	CanUndo  bool
	CanRedo  bool
}

// decode reads a revision's lick file; one that cannot be read is named with its lick, in an
// *UnreadableError, and keeps no other revision from being read.
func decode(r Revision) (lick.Lick, error) {
	data, err := unpacked(r.Data)
	if err != nil {
		return lick.Lick{}, &UnreadableError{r.OwnerID, r.ID, err}
	}
	l, err := lick.Parse(data)
	if err != nil {
		return l, &UnreadableError{r.OwnerID, r.ID, err}
	}
	return l, nil
}

// Get finds a lick at its newest revision. A deleted lick is not found.
func (s *Store) Get(ctx context.Context, id uint) (Entry, error) {
	var l Lick
	db := s.db.WithContext(ctx)
	if err := db.Take(&l, id).Error; err != nil {
		return Entry{}, fmt.Errorf("lick %d: %w", id, plain(err))
	}
	return entry(db, l)
}

// entry is a lick with the revision that is shown.
func entry(db *gorm.DB, l Lick) (Entry, error) {
	c := chain{aLick, l.ID}
	r, err := c.revision(db, l.HeadID)
	if err != nil {
		return Entry{}, err
	}
	content, err := decode(r)
	if err != nil {
		return Entry{}, err
	}
	return Entry{ID: l.ID, Revision: r.ID, Lick: content, Touched: l.UpdatedAt, CanUndo: r.ParentID != nil,
		CanRedo: c.can(db, forward, r.ID)}, nil
}

// At reads a lick as it was at a revision. A revision of another lick is not found: both numbers must belong together.
func (s *Store) At(ctx context.Context, id, rev uint) (lick.Lick, error) {
	r, err := chain{aLick, id}.revision(s.db.WithContext(ctx), rev)
	if err != nil {
		return lick.Lick{}, err
	}
	return decode(r)
}

// Add puts a new lick into the notebook.
// what says in a few words how it came ("made", "imported from x.mid"), for the history.
func (s *Store) Add(ctx context.Context, l lick.Lick, what string) (Entry, error) {
	var out Entry
	err := s.write(ctx, func(tx *gorm.DB) error {
		row, _, err := addChain(tx, NewChain(l, what, tx.NowFunc()), l)
		out = Entry{ID: row.ID, Revision: row.HeadID, Lick: l, Touched: row.UpdatedAt}
		return err
	})
	if err != nil {
		return Entry{}, fmt.Errorf("add lick: %w", err)
	}
	return out, nil
}

// Commit saves a lick that was edited on revision base. If base is no longer the newest, the
// edit is kept aside and a *StaleError names both.
//
// As an example, two tabs show revision 7. The first commits 8. The second, still on 7, commits
// too: its edit becomes revision 9, aside, made on 7, and the error is {Head: 8, Kept: 9}.
// Taking it instead is a third commit, 10, on 8, with the content of 9: all four are in the
// history. Aside is decided within the transaction, so that of two at once one is first.
func (s *Store) Commit(ctx context.Context, id, base uint, l lick.Lick, what string) (Entry, error) {
	var out Entry
	var stale *StaleError
	err := s.write(ctx, func(tx *gorm.DB) error {
		var row Lick
		if err := tx.Take(&row, id).Error; err != nil {
			return err
		}
		c := chain{aLick, id}
		if _, err := c.revision(tx, base); err != nil {
			return err
		}
		r, err := c.add(tx, base, l.Encode(), what, base != row.HeadID)
		if err != nil {
			return err
		}
		if r.Aside {
			stale = &StaleError{Lick: id, Head: row.HeadID, Kept: r.ID}
			return nil
		}
		err = show(tx, &row, r.ID, l)
		out = Entry{ID: id, Revision: r.ID, Lick: l, Touched: row.UpdatedAt, CanUndo: true}
		return err
	})
	if err == nil && stale != nil {
		return Entry{}, stale
	}
	if err != nil {
		return Entry{}, fmt.Errorf("save lick %d: %w", id, err)
	}
	return out, nil
}

// show makes a revision, with what is in it, the one that is shown of a lick.
func show(tx *gorm.DB, row *Lick, rev uint, l lick.Lick) error {
	row.HeadID, row.Title = rev, l.Title
	if err := tx.Save(row).Error; err != nil {
		return err
	}
	return index(tx, row.ID, l)
}

// Undo goes back to the revision before base, Redo forward to the one that was
// undone. Both refuse when base is not the newest.
func (s *Store) Undo(ctx context.Context, id, base uint) (Entry, error) {
	return s.moveHead(ctx, id, base, back)
}

// Redo goes forward again; see Undo.
func (s *Store) Redo(ctx context.Context, id, base uint) (Entry, error) {
	return s.moveHead(ctx, id, base, forward)
}

// moveHead shows another revision of a lick, if base is still the one shown; else the error is a *StaleError and
// nothing changes. No revision is written: a head is a pointer, and going back is not an edit.
func (s *Store) moveHead(ctx context.Context, id, base uint, to direction) (Entry, error) {
	var out Entry
	err := s.write(ctx, func(tx *gorm.DB) error {
		var row Lick
		if err := tx.Take(&row, id).Error; err != nil {
			return err
		}
		if row.HeadID != base {
			return &StaleError{Lick: id, Head: row.HeadID}
		}
		r, err := to(chain{aLick, id}, tx, base)
		if err != nil {
			return err
		}
		l, err := decode(r)
		if err != nil {
			return err
		}
		if err := show(tx, &row, r.ID, l); err != nil {
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
// Its revisions and its lines of the practice log stay.
func (s *Store) Delete(ctx context.Context, id uint) error {
	return s.write(ctx, func(tx *gorm.DB) error { return found(tx.Delete(&Lick{}, id), "lick", id) })
}

// Untouched says whether a lick is as it was added: nobody has edited it, and it stands in no player's log.
func (s *Store) Untouched(ctx context.Context, id uint) (is bool, err error) {
	err = s.db.WithContext(ctx).Raw(`SELECT (SELECT COUNT(*) FROM revisions WHERE kind = 'lick' AND owner_id = @id) = 1
		AND NOT EXISTS (SELECT 1 FROM played WHERE lick_id = @id)`, sql.Named("id", id)).Row().Scan(&is)
	return is, plain(err)
}

// Begun says whether the notebook ever held a lick, be it deleted since.
func (s *Store) Begun(ctx context.Context) (bool, error) {
	var any []Lick
	err := s.db.WithContext(ctx).Unscoped().Select("id").Limit(1).Find(&any).Error
	return len(any) > 0, err
}

// Restore brings a deleted lick back.
func (s *Store) Restore(ctx context.Context, id uint) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		deleted := tx.Unscoped().Model(&Lick{}).Where("id = ? AND deleted_at IS NOT NULL", id)
		return found(deleted.Update("deleted_at", nil), "lick", id)
	})
}
