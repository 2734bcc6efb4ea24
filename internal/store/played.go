package store

import (
	"context"
	"fmt"
	"time"

	"gorm.io/gorm"
)

// Played is a line of the practice log. It names its lick in words too, so that it can be read
// when the lick is gone.
type Played struct {
	ID         uint
	LickID     uint
	Title      string
	RevisionID uint
	Part       string
	First      int
	Last       int
	Tempo      float64
	Clean      int
	Missed     int
	Note       int
	Minutes    float64
	Comfort    string
	Picking    float64
	Fretting   float64
	Reach      float64
	Bends      float64
	Move       string
	At         time.Time
}

// TableName implements GORM's Tabler.
func (Played) TableName() string { return "played" }

// Log is the whole practice log, the oldest line first.
func (s *Store) Log(ctx context.Context) ([]Played, error) {
	var out []Played
	if s.ReadOnly && !s.db.Migrator().HasTable("played") {
		return nil, nil // an older notebook, opened to be read
	}
	if err := s.db.WithContext(ctx).Order("at, id").Find(&out).Error; err != nil {
		return nil, fmt.Errorf("read the log: %w", plain(err))
	}
	return out, nil
}

// Play adds lines to the log, all of them or none.
func (s *Store) Play(ctx context.Context, lines ...Played) error {
	if len(lines) == 0 {
		return nil
	}
	return s.write(ctx, func(tx *gorm.DB) error { return tx.CreateInBatches(&lines, 200).Error })
}

// Unplay takes the last line of the log back and returns it.
// An empty log is ErrNotFound.
func (s *Store) Unplay(ctx context.Context) (Played, error) {
	var last Played
	err := s.write(ctx, func(tx *gorm.DB) error {
		if err := tx.Order("id DESC").Take(&last).Error; err != nil {
			return fmt.Errorf("the log: %w", plain(err))
		}
		return tx.Delete(&last).Error
	})
	return last, err
}
