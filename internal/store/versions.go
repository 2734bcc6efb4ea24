package store

import (
	"context"
	"fmt"
	"time"
)

// Version is one revision of a lick in its history.
type Version struct {
	ID        uint
	What      string // the edit in a few words
	CreatedAt time.Time
	Head      bool // it is the one that is shown
	Aside     bool // made on an old revision and kept beside the chain
}

// Versions lists the newest revisions of a lick, the newest first, at most so many.
func (s *Store) Versions(ctx context.Context, id uint, most int) ([]Version, error) {
	db := s.db.WithContext(ctx)
	var l Lick
	if err := db.Take(&l, id).Error; err != nil {
		return nil, fmt.Errorf("lick %d: %w", id, plain(err))
	}
	rs, err := all[Revision](chain{aLick, id}.revisions(db).Select("id", "what", "created_at", "aside").
		Order("id DESC").Limit(most), fmt.Sprintf("versions of lick %d", id))
	if err != nil {
		return nil, err
	}
	out := make([]Version, len(rs))
	for i, r := range rs {
		out[i] = Version{ID: r.ID, What: r.What, CreatedAt: r.CreatedAt, Head: r.ID == l.HeadID, Aside: r.Aside}
	}
	return out, nil
}
