package store

import (
	"context"
	"slices"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Palettes lists the saved palettes by name.
func (s *Store) Palettes(ctx context.Context) ([]Palette, error) {
	return all[Palette](s.db.WithContext(ctx).Order("name"), "list palettes")
}

// SavePalette keeps a palette by its name; one of the same name is replaced.
func (s *Store) SavePalette(ctx context.Context, p Palette) error {
	return s.write(ctx, func(tx *gorm.DB) error { return saveNamed(tx, &p, "tonic", "scale", "added", "dropped") })
}

// ForgetPalette removes a saved palette.
func (s *Store) ForgetPalette(ctx context.Context, id uint) error {
	return s.write(ctx, func(tx *gorm.DB) error { return found(tx.Delete(&Palette{}, id), "palette", id) })
}

// saveNamed writes a row by its name; of one that is there already the columns are replaced.
func saveNamed[T any](tx *gorm.DB, row *T, columns ...string) error {
	return tx.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "name"}},
		DoUpdates: clause.AssignmentColumns(columns)}).Create(row).Error
}

// addNamed writes rows of which there is none of that name yet, with numbers of their own.
func addNamed[T any](tx *gorm.DB, rows []T) error {
	if len(rows) == 0 {
		return nil
	}
	return tx.Clauses(clause.OnConflict{DoNothing: true}).Omit("ID").Create(slices.Clone(rows)).Error
}
