package store

import (
	"context"
	"fmt"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Palettes lists the saved palettes by name.
func (s *Store) Palettes(ctx context.Context) ([]Palette, error) {
	var out []Palette
	if err := s.db.WithContext(ctx).Order("name").Find(&out).Error; err != nil {
		return nil, fmt.Errorf("list palettes: %w", plain(err))
	}
	return out, nil
}

// SavePalette keeps a palette by its name; one of the same name is replaced.
func (s *Store) SavePalette(ctx context.Context, p Palette) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		return tx.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "name"}},
			DoUpdates: clause.AssignmentColumns([]string{"tonic", "scale", "added", "dropped"})}).
			Create(&p).
			Error
	})
}

// ForgetPalette removes a saved palette.
func (s *Store) ForgetPalette(ctx context.Context, id uint) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		res := tx.Delete(&Palette{}, id)
		if res.Error == nil && res.RowsAffected == 0 {
			return fmt.Errorf("palette %d: %w", id, ErrNotFound)
		}
		return res.Error
	})
}
