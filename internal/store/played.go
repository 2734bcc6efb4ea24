package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"fmt"
	"time"

	"gorm.io/gorm"
)

// Played is a line of the practice log. It names its lick in words too, so that it can be read when the lick is gone.
type Played struct {
	ID         uint
	PlayerID   uint `json:"-"`
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

// local is a line with its time in the zone in which it was played or, where none is known, in the player's of today.
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

// Log is a player's whole practice log, in the order in which it was written.
func (s *Store) Log(ctx context.Context, who uint) ([]Played, error) {
	if s.ReadOnly {
		return s.olderLog(ctx, who)
	}
	return s.LogAfter(ctx, who, 0)
}

// olderLog is the log of a notebook that is only read, which may be older than this program.
func (s *Store) olderLog(ctx context.Context, who uint) (out []Played, err error) {
	if !s.db.Migrator().HasTable("played") {
		return nil, nil
	}
	db := s.db.WithContext(ctx)
	if s.severalPlayers() {
		db = db.Where("player_id = ?", who)
	}
	if out, err = all[Played](db.Where(sound).Order("id"), "read the log"); err != nil {
		return nil, err
	}
	home := s.now().Location()
	for i := range out {
		out[i] = out[i].local(home)
	}
	return out, nil
}

// LastPlayed is the number of the last line of a player's log, and of its last line up to one that was known: another
// one than that where it was taken back. Both are 0 for an empty log. Numbers rise and none comes twice.
func (s *Store) LastPlayed(ctx context.Context, who, known uint) (last, kept uint, err error) {
	if s.ReadOnly && !s.db.Migrator().HasTable("played") {
		return 0, 0, nil
	}
	err = s.db.WithContext(ctx).Raw(`SELECT COALESCE((SELECT MAX(id) FROM played WHERE player_id = @who), 0),
		COALESCE((SELECT MAX(id) FROM played WHERE player_id = @who AND id <= @known), 0)`,
		sql.Named("who", who), sql.Named("known", known)).Row().Scan(&last, &kept)
	return last, kept, plain(err)
}

// LogAfter are the lines of a player's log that were written after the one with that number.
func (s *Store) LogAfter(ctx context.Context, who, id uint) ([]Played, error) {
	// Ten years of rounds are read row by row: filling models by reflection takes five times as long.
	rows, err := s.db.WithContext(ctx).Raw(`SELECT id, lick_id, title, revision_id, part, first, last, tempo, clean, missed,
		note, minutes, comfort, kind, picking, fretting, reach, bends, move, at, zone FROM played
		WHERE player_id = ? AND id > ? AND `+sound+` ORDER BY id`, who, id).Rows()
	if err != nil {
		return nil, fmt.Errorf("read the log: %w", plain(err))
	}
	defer rows.Close()
	var out []Played
	home := s.now().Location()
	for rows.Next() {
		var p Played
		if err := rows.Scan(&p.ID, &p.LickID, &p.Title, &p.RevisionID, &p.Part, &p.First, &p.Last, &p.Tempo, &p.Clean,
			&p.Missed, &p.Note, &p.Minutes, &p.Comfort, &p.Kind, &p.Picking, &p.Fretting, &p.Reach, &p.Bends, &p.Move,
			&p.At, &p.Zone); err != nil {
			return nil, fmt.Errorf("read the log: %w", plain(err))
		}
		out = append(out, p.local(home))
	}
	if err := rows.Err(); err != nil {
		return nil, fmt.Errorf("read the log: %w", plain(err))
	}
	return out, nil
}

// Play adds lines to a player's log, all of them or none.
func (s *Store) Play(ctx context.Context, who uint, lines ...Played) error {
	if len(lines) == 0 {
		return nil
	}
	return s.write(ctx, func(tx *gorm.DB) error { return addPlayed(tx, who, lines) })
}

// addPlayed writes lines to the log of a player, who may have been removed meanwhile: what was played is kept.
func addPlayed(tx *gorm.DB, who uint, lines []Played) error {
	rows := make([]Played, len(lines))
	for i, x := range lines {
		rows[i] = x.placed()
		rows[i].PlayerID = who
	}
	return tx.CreateInBatches(&rows, 200).Error
}

// PlayMissing adds those lines to a player's log that are not there yet, and says how many they were: what is read in
// twice stands there once. Two lines are one if they say the same of the same moment, whatever number their lick has
// here; of lines that are alike within what is read each is a round of its own.
func (s *Store) PlayMissing(ctx context.Context, who uint, lines ...Played) (added int, err error) {
	err = s.write(ctx, func(tx *gorm.DB) error {
		added, err = addMissing(tx, who, lines)
		return err
	})
	return added, err
}

// addMissing is PlayMissing within a transaction.
func addMissing(tx *gorm.DB, who uint, lines []Played) (int, error) {
	if len(lines) == 0 {
		return 0, nil
	}
	first := lines[0].At
	for _, x := range lines {
		if x.At.Before(first) {
			first = x.At
		}
	}
	var here []Played
	if err := tx.Where("player_id = ? AND at >= ? AND "+sound, who, first.UTC()).Find(&here).Error; err != nil {
		return 0, err
	}
	count := map[Played]int{}
	for _, x := range here {
		count[x.alike()]++
	}
	var missing []Played
	for _, x := range lines {
		if k := x.alike(); count[k] > 0 {
			count[k]--
			continue
		}
		missing = append(missing, x)
	}
	if len(missing) == 0 {
		return 0, nil
	}
	return len(missing), addPlayed(tx, who, missing)
}

// alike is what makes a line the same line in another notebook.
func (p Played) alike() Played {
	p.ID, p.PlayerID, p.LickID, p.RevisionID, p.Zone = 0, 0, 0, 0, nil
	p.At = p.At.UTC().Round(0)
	return p
}

// Unplay takes the last line of a player's log back and returns it. An empty log is ErrNotFound.
func (s *Store) Unplay(ctx context.Context, who uint) (Played, error) {
	var last Played
	err := s.write(ctx, func(tx *gorm.DB) error {
		if err := tx.Where("player_id = ?", who).Order("id DESC").Take(&last).Error; err != nil {
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
