package store

import (
	"context"
	"encoding/json"
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
	Kind       string `json:",omitempty"` // of the entry: empty for rounds
	Picking    float64
	Fretting   float64
	Reach      float64
	Bends      float64
	Move       string
	At         time.Time // in the time zone in which it was played
	Zone       *int      `json:"-"` // that zone, in seconds east of Greenwich; nil where it is not known
}

// TableName implements GORM's Tabler.
func (Played) TableName() string { return "played" }

// placed is a line as the table has it: times in Greenwich's, so that they sort as text, and
// beside them the zone that they were written in. Greenwich's own is as good as none: logs by
// other hands are written in it wherever they were played.
func (p Played) placed() Played {
	p.Zone = nil
	if _, seconds := p.At.Zone(); seconds != 0 {
		p.Zone = &seconds
	}
	p.At = p.At.UTC()
	return p
}

// local is a line with its time in the zone in which it was played or, where none is known, in
// the player's of today.
func (p Played) local(home *time.Location) Played {
	if p.Zone != nil {
		home = time.FixedZone("", *p.Zone)
	}
	p.At = p.At.In(home)
	return p
}

// sound is what holds of a line of the log that can be read. An earlier version took numbers
// from files that its own table could not give back.
const sound = `lick_id BETWEEN 0 AND 1000000000 AND revision_id BETWEEN 0 AND 1000000000
	AND typeof(first) = 'integer' AND typeof(last) = 'integer' AND typeof(clean) = 'integer'
	AND typeof(missed) = 'integer' AND typeof(note) = 'integer' AND at GLOB '[0-9][0-9][0-9][0-9]-*'`

// Log is the whole practice log, in the order in which it was written.
func (s *Store) Log(ctx context.Context) ([]Played, error) {
	if s.ReadOnly {
		return s.olderLog(ctx)
	}
	return s.LogAfter(ctx, 0)
}

// olderLog is the log of a notebook that is only read, which may be older than this program.
func (s *Store) olderLog(ctx context.Context) (out []Played, err error) {
	if !s.db.Migrator().HasTable("played") {
		return nil, nil
	}
	if err := s.db.WithContext(ctx).Where(sound).Order("id").Find(&out).Error; err != nil {
		return nil, fmt.Errorf("read the log: %w", plain(err))
	}
	home := s.now().Location()
	for i := range out {
		out[i] = out[i].local(home)
	}
	return out, nil
}

// LastPlayed is the number of the log's last line, and of its last line up to one that was known: another one
// than that where it was taken back. Both are 0 for an empty log. Numbers rise and none comes twice.
func (s *Store) LastPlayed(ctx context.Context, known uint) (last, kept uint, err error) {
	if s.ReadOnly && !s.db.Migrator().HasTable("played") {
		return 0, 0, nil
	}
	err = s.db.WithContext(ctx).Raw(`SELECT COALESCE((SELECT MAX(id) FROM played), 0),
		COALESCE((SELECT MAX(id) FROM played WHERE id <= ?), 0)`, known).Row().Scan(&last, &kept)
	return last, kept, plain(err)
}

// LogAfter are the lines of the log that were written after the one with that number.
func (s *Store) LogAfter(ctx context.Context, id uint) ([]Played, error) {
	// Ten years of rounds are read row by row: filling models by reflection takes five times as long.
	rows, err := s.db.WithContext(
		ctx,
	).Raw(
		`SELECT id, lick_id, title, revision_id, part, first, last, tempo, clean, missed, note,
		minutes, comfort, kind, picking, fretting, reach, bends, move, at, zone FROM played
		WHERE id > ? AND `+sound+` ORDER BY id`,
		id,
	).Rows()
	if err != nil {
		return nil, fmt.Errorf("read the log: %w", plain(err))
	}
	defer rows.Close()
	var out []Played
	home := s.now().Location()
	for rows.Next() {
		var p Played
		if err := rows.Scan(&p.ID, &p.LickID, &p.Title, &p.RevisionID, &p.Part, &p.First, &p.Last, &p.Tempo, &p.Clean, &p.Missed,
			&p.Note, &p.Minutes, &p.Comfort, &p.Kind, &p.Picking, &p.Fretting, &p.Reach, &p.Bends, &p.Move, &p.At, &p.Zone); err != nil {
			return nil, fmt.Errorf("read the log: %w", plain(err))
		}
		out = append(out, p.local(home))
	}
	if err := rows.Err(); err != nil {
		return nil, fmt.Errorf("read the log: %w", plain(err))
	}
	return out, nil
}

// Play adds lines to the log, all of them or none.
func (s *Store) Play(ctx context.Context, lines ...Played) error {
	if len(lines) == 0 {
		return nil
	}
	return s.write(ctx, func(tx *gorm.DB) error { return addPlayed(tx, lines) })
}

// addPlayed writes lines to the log.
func addPlayed(tx *gorm.DB, lines []Played) error {
	rows := make([]Played, len(lines))
	for i, x := range lines {
		rows[i] = x.placed()
	}
	return tx.CreateInBatches(&rows, 200).Error
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
	return last.local(s.now().Location()), err
}

// setAside moves lines of the log that cannot be read out of its way, as they are: the rest is
// practised from again, and nothing is thrown away.
func (s *Store) setAside() error {
	var n int64
	if err := s.db.Model(&Played{}).Where("NOT (" + sound + ")").Count(&n).Error; err != nil || n == 0 {
		return plain(err)
	}
	return s.write(context.Background(), func(tx *gorm.DB) error {
		var rows []map[string]any
		if err := tx.Table("played").Where("NOT (" + sound + ")").Find(&rows).Error; err != nil {
			return err
		}
		for _, r := range rows {
			data, err := json.Marshal(r)
			if err != nil {
				data = fmt.Appendf(nil, "%v", r)
			}
			if err := tx.Exec("INSERT INTO set_aside (data, created_at) VALUES (?, ?)", string(data),
				s.now().UTC()).Error; err != nil {
				return err
			}
		}
		return tx.Exec("DELETE FROM played WHERE NOT (" + sound + ")").Error
	})
}

// SetAside are the lines of the log that could not be read and were set aside when the notebook
// was opened, each as JSON.
func (s *Store) SetAside(ctx context.Context) (lines []string, err error) {
	if s.ReadOnly && !s.db.Migrator().HasTable("set_aside") {
		return nil, nil
	}
	err = s.db.WithContext(ctx).Raw("SELECT data FROM set_aside ORDER BY id").Scan(&lines).Error
	return lines, plain(err)
}
