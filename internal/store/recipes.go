package store

import (
	"context"
	"fmt"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Recipe is a run saved by name; Line holds the arguments of the run command.
type Recipe struct {
	ID        uint
	Name      string // unique
	Line      string
	CreatedAt time.Time
}

// Recipes lists the saved recipes in the order they were saved.
func (s *Store) Recipes(ctx context.Context) ([]Recipe, error) {
	var out []Recipe
	if err := s.db.WithContext(ctx).Order("id").Find(&out).Error; err != nil {
		return nil, fmt.Errorf("list recipes: %w", plain(err))
	}
	return out, nil
}

// SaveRecipe keeps a recipe by its name; one of the same name is replaced.
func (s *Store) SaveRecipe(ctx context.Context, r Recipe) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		return tx.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "name"}},
			DoUpdates: clause.AssignmentColumns([]string{"line"})}).
			Create(&r).
			Error
	})
}

// ForgetRecipe removes a saved recipe.
func (s *Store) ForgetRecipe(ctx context.Context, id uint) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		res := tx.Delete(&Recipe{}, id)
		if res.Error == nil && res.RowsAffected == 0 {
			return fmt.Errorf("recipe %d: %w", id, ErrNotFound)
		}
		return res.Error
	})
}
