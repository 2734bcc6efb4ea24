package store

import (
	"context"
	"time"

	"gorm.io/gorm"
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
	return all[Recipe](s.db.WithContext(ctx).Order("id"), "list recipes")
}

// SaveRecipe keeps a recipe by its name; one of the same name is replaced.
func (s *Store) SaveRecipe(ctx context.Context, r Recipe) error {
	return s.write(ctx, func(tx *gorm.DB) error { return saveNamed(tx, &r, "line") })
}

// ForgetRecipe removes a saved recipe.
func (s *Store) ForgetRecipe(ctx context.Context, id uint) error {
	return s.write(ctx, func(tx *gorm.DB) error { return found(tx.Delete(&Recipe{}, id), "recipe", id) })
}
