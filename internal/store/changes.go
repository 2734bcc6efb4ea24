package store

import (
	"context"
	"fmt"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
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
	var out []Changes
	if s.ReadOnly && !s.db.Migrator().HasTable("changes") {
		return nil, nil // an older notebook, opened to be read
	}
	if err := s.db.WithContext(ctx).Order("id").Find(&out).Error; err != nil {
		return nil, fmt.Errorf("list changes: %w", plain(err))
	}
	return out, nil
}

// SaveChanges keeps changes by their name; those of the same name are replaced.
func (s *Store) SaveChanges(ctx context.Context, r Changes) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		return tx.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "name"}},
			DoUpdates: clause.AssignmentColumns([]string{"line"})}).
			Create(&r).
			Error
	})
}

// ForgetChanges removes saved changes.
func (s *Store) ForgetChanges(ctx context.Context, id uint) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		res := tx.Delete(&Changes{}, id)
		if res.Error == nil && res.RowsAffected == 0 {
			return fmt.Errorf("changes %d: %w", id, ErrNotFound)
		}
		return res.Error
	})
}
