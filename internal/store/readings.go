package store

import (
	"context"
	"fmt"
	"time"

	"gorm.io/gorm"
)

// Reading is a file of what was practised that was read into a player's log. It can be taken back as a whole.
type Reading struct {
	ID        uint
	PlayerID  uint
	Name      string // of the file, or of whom it is
	Added     int    // lines that were not there yet
	Source    string // names the student of whom it is, of a report; see Player.Source
	Before    string // the player's source before it
	CreatedAt time.Time
	BackAt    *time.Time // when it was taken back; nil where it holds
}

// ReadIn adds the lines of a file to a player's log that are not there yet, and has the log take reports of the file's
// student from then on, in one write. A reading that adds nothing and binds nobody is none, with the number 0.
func (s *Store) ReadIn(ctx context.Context, r Reading, lines []Played) (Reading, error) {
	err := s.write(ctx, func(tx *gorm.DB) error {
		var p Player
		if err := tx.Take(&p, r.PlayerID).Error; err != nil {
			return err
		}
		r.Before = p.Source
		if err := tx.Create(&r).Error; err != nil {
			return err
		}
		var err error
		if r.Added, err = addMissing(tx, r.PlayerID, r.ID, lines); err != nil {
			return err
		}
		binds := r.Source != "" && r.Source != p.Source
		if binds {
			if err := tx.Model(&p).Update("source", r.Source).Error; err != nil {
				return err
			}
		}
		if r.Added == 0 && !binds {
			id := r.ID
			r.ID = 0
			return tx.Delete(&Reading{}, id).Error
		}
		return tx.Model(&Reading{}).Where("id = ?", r.ID).Update("added", r.Added).Error
	})
	return r, err
}

// Readings are the files that were read into a player's log, the newest first.
func (s *Store) Readings(ctx context.Context, who uint) ([]Reading, error) {
	return all[Reading](s.db.WithContext(ctx).Where("player_id = ?", who).Order("id DESC"), "list what was read in")
}

// TakeReadingBack takes back all that a reading added and that still holds, and whom it bound the log to, so that the
// file can be read into another one. It gives the reading and how many lines went.
func (s *Store) TakeReadingBack(ctx context.Context, id uint) (r Reading, lines int, err error) {
	err = s.write(ctx, func(tx *gorm.DB) error {
		if err := tx.Take(&r, id).Error; err != nil {
			return fmt.Errorf("file %d that was read in: %w", id, plain(err))
		}
		if r.BackAt != nil {
			return ErrReplaced
		}
		done := tx.Exec(`INSERT INTO played (player_id, lick_id, title, revision_id, part, first, last, tempo, clean, missed,
			note, minutes, comfort, picking, fretting, reach, bends, move, at, zone, reading_id, kind, replaces)
			SELECT player_id, lick_id, title, revision_id, part, first, last, tempo, clean, missed,
			note, minutes, comfort, picking, fretting, reach, bends, move, at, zone, reading_id, ?, id FROM played
			WHERE reading_id = ? AND kind <> ? AND NOT EXISTS (SELECT 1 FROM played r WHERE r.replaces = played.id)`,
			tookBack, id, tookBack)
		if done.Error != nil {
			return done.Error
		}
		lines = int(done.RowsAffected)
		now := s.now().UTC()
		r.BackAt = &now
		if err := tx.Model(&Reading{}).Where("id = ?", id).Update("back_at", now).Error; err != nil {
			return err
		}
		if r.Source == "" {
			return nil
		}
		return tx.Model(&Player{}).Where("id = ? AND source = ?", r.PlayerID, r.Source).Update("source", r.Before).Error
	})
	return r, lines, err
}
