package store

import (
	"context"
	"fmt"
	"time"

	"gorm.io/gorm"
)

// PlayerRow is the player's settings as they were set at one time; the newest row holds, and
// undo takes it away. Data is JSON that this package does not read.
type PlayerRow struct {
	ID        uint
	Data      []byte
	CreatedAt time.Time
}

// TableName names the table for GORM.
func (PlayerRow) TableName() string { return "players" }

// Player reads the newest settings and how many there were before them; data is
// nil when none were ever set.
func (s *Store) Player(ctx context.Context) (data []byte, before int, err error) {
	var rows []PlayerRow
	db := s.db.WithContext(ctx)
	if err := db.Order("id DESC").Limit(1).Find(&rows).Error; err != nil {
		return nil, 0, fmt.Errorf("read the player: %w", plain(err))
	}
	var n int64
	if err := db.Model(&PlayerRow{}).Count(&n).Error; err != nil {
		return nil, 0, fmt.Errorf("read the player: %w", plain(err))
	}
	if len(rows) == 0 {
		return nil, 0, nil
	}
	return rows[0].Data, int(n) - 1, nil
}

// SavePlayer makes settings the newest.
func (s *Store) SavePlayer(ctx context.Context, data []byte) error {
	return s.write(ctx, func(tx *gorm.DB) error { return tx.Create(&PlayerRow{Data: data}).Error })
}

// UndoPlayer goes back to the settings before; before the first ones there are
// the defaults.
func (s *Store) UndoPlayer(ctx context.Context) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		res := tx.Exec("DELETE FROM players WHERE id = (SELECT MAX(id) FROM players)")
		if res.Error == nil && res.RowsAffected == 0 {
			return ErrNoUndo
		}
		return res.Error
	})
}
