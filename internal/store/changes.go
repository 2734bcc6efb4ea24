package store

import (
	"context"
	"time"

	"gorm.io/gorm"
)

// Changes are chords saved by name; Line holds them as they were typed.
type Changes struct {
	ID        uint
	Name      string // unique
	Line      string
	CreatedAt time.Time
}

// AllChanges lists the saved changes in the order they were saved.
func (s *Store) AllChanges(ctx context.Context) ([]Changes, error) {
	return all[Changes](s.db.WithContext(ctx).Order("id"), "list changes")
}

// SaveChanges keeps changes by their name; those of the same name are replaced.
func (s *Store) SaveChanges(ctx context.Context, r Changes) error {
	return s.write(ctx, func(tx *gorm.DB) error { return saveNamed(tx, &r, "line") })
}

// ForgetChanges removes saved changes.
func (s *Store) ForgetChanges(ctx context.Context, id uint) error {
	return s.write(ctx, func(tx *gorm.DB) error { return found(tx.Delete(&Changes{}, id), "changes", id) })
}
