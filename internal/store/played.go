package store

import (
	"context"
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"time"

	"gorm.io/gorm"

	"ornamen/internal/refuse"
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

	Replaces  *uint `json:"-"` // the row in whose place this one is: a correction, or the row that takes it back
	ReadingID uint  `json:"-"` // the reading that it came with; 0 for what was played here
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

// Log is a player's practice log as it holds, in the order in which it was written: a line that was corrected stands
// where its correction was written, and one that was taken back is left out.
func (s *Store) Log(ctx context.Context, who uint) ([]Played, error) {
	all, err := s.LogAfter(ctx, who, 0)
	return Holding(all), err
}

// Holding are the lines that hold of rows of the log: those that none of the others replaces, without the rows that
// take one back.
func Holding(rows []Played) []Played {
	gone := map[uint]bool{}
	for _, p := range rows {
		if p.Replaces != nil {
			gone[*p.Replaces] = true
		}
	}
	return slices.DeleteFunc(rows, func(p Played) bool { return gone[p.ID] || p.Kind == tookBack })
}

// LastPlayed is the number of the last row of a player's log, 0 for an empty one. Numbers rise and none comes twice.
func (s *Store) LastPlayed(ctx context.Context, who uint) (last uint, err error) {
	err = s.db.WithContext(ctx).Raw("SELECT COALESCE(MAX(id), 0) FROM played WHERE player_id = ?", who).Row().Scan(&last)
	return last, plain(err)
}

// LogAfter are the rows of a player's log that were written after the one with that number: lines, and those that
// replace or take back one. See Holding.
func (s *Store) LogAfter(ctx context.Context, who, id uint) ([]Played, error) {
	// Ten years of rounds are read row by row: filling models by reflection takes five times as long.
	rows, err := s.db.WithContext(ctx).
		Raw(`SELECT id, lick_id, title, revision_id, part, first, last, tempo, clean, missed,
		note, minutes, comfort, kind, picking, fretting, reach, bends, move, at, zone, replaces FROM played
		WHERE player_id = ? AND id > ? AND `+sound+` ORDER BY id`, who, id).
		Rows()
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
			&p.At, &p.Zone, &p.Replaces); err != nil {
			return nil, fmt.Errorf("read the log: %w", plain(err))
		}
		out = append(out, p.local(home))
	}
	if err := rows.Err(); err != nil {
		return nil, fmt.Errorf("read the log: %w", plain(err))
	}
	return out, nil
}

// Play adds lines to a player's log, all of them or none, and gives their numbers.
func (s *Store) Play(ctx context.Context, who uint, lines ...Played) (ids []uint, err error) {
	if len(lines) == 0 {
		return nil, nil
	}
	err = s.write(ctx, func(tx *gorm.DB) error {
		rows, err := addPlayed(tx, who, lines)
		for _, r := range rows {
			ids = append(ids, r.ID)
		}
		return err
	})
	return ids, err
}

// tookBack is the kind of a row that takes back the one that it replaces.
const tookBack = "taken back"

// Takes says whether a row of the log only takes another one back.
func Takes(p Played) bool { return p.Kind == tookBack }

// ErrReplaced is a change of a line of the log that holds no more.
var ErrReplaced = refuse.With("that line of the log was corrected or taken back elsewhere in the meantime")

// holding finds a line of a player's log that holds.
func holding(tx *gorm.DB, who, id uint) (p Played, err error) {
	if err := tx.Where("player_id = ? AND kind <> ?", who, tookBack).Take(&p, id).Error; err != nil {
		return p, fmt.Errorf("line %d of the log: %w", id, plain(err))
	}
	n, err := count(tx.Model(&Played{}).Where("replaces = ?", id))
	if err == nil && n > 0 {
		err = ErrReplaced
	}
	return p, err
}

// replace writes a row in the place of another one.
func replace(tx *gorm.DB, p Played, id uint) (uint, error) {
	p.ID, p.Replaces = 0, &id
	err := tx.Create(&p).Error
	return p.ID, err
}

// LastLine is the line of a player's log that was written last and holds; ok is false for an empty log.
func (s *Store) LastLine(ctx context.Context, who uint) (p Played, ok bool, err error) {
	var rows []Played
	err = s.db.WithContext(ctx).Where("player_id = ? AND kind <> ? AND "+sound, who, tookBack).
		Where("NOT EXISTS (SELECT 1 FROM played r WHERE r.replaces = played.id)").
		Order("id DESC").Limit(1).Find(&rows).Error
	if err != nil || len(rows) == 0 {
		return p, false, plain(err)
	}
	return rows[0].local(s.now().Location()), true, nil
}

// Correct writes a line of a player's log anew, as one row that names the one it replaces: the log only grows. It gives
// the number of the new row.
func (s *Store) Correct(ctx context.Context, who, id uint, change func(*Played)) (now uint, err error) {
	err = s.write(ctx, func(tx *gorm.DB) error {
		p, err := holding(tx, who, id)
		if err != nil {
			return err
		}
		change(&p)
		now, err = replace(tx, p, id)
		return err
	})
	return now, err
}

// TakeBack takes a line of a player's log back and returns it. It is kept, and PutBack has it hold again.
func (s *Store) TakeBack(ctx context.Context, who, id uint) (line Played, err error) {
	err = s.write(ctx, func(tx *gorm.DB) error {
		if line, err = holding(tx, who, id); err != nil {
			return err
		}
		gone := line
		gone.Kind = tookBack
		_, err = replace(tx, gone, id)
		return err
	})
	return line.local(s.now().Location()), err
}

// PutBack has a line that was taken back hold again, and gives the number of its new row.
func (s *Store) PutBack(ctx context.Context, who, id uint) (now uint, err error) {
	err = s.write(ctx, func(tx *gorm.DB) error {
		var p, gone Played
		if err := tx.Where("player_id = ?", who).Take(&p, id).Error; err != nil {
			return fmt.Errorf("line %d of the log: %w", id, plain(err))
		}
		if err := tx.Where("replaces = ? AND kind = ?", id, tookBack).Take(&gone).Error; err != nil {
			return ErrNoRedo
		}
		n, err := count(tx.Model(&Played{}).Where("replaces = ?", gone.ID))
		if err != nil {
			return err
		}
		if n > 0 {
			return ErrReplaced
		}
		now, err = replace(tx, p, gone.ID)
		return err
	})
	return now, err
}

// addPlayed writes lines to the log of a player, who may have been removed meanwhile: what was played is kept.
func addPlayed(tx *gorm.DB, who uint, lines []Played) ([]Played, error) {
	rows := make([]Played, len(lines))
	for i, x := range lines {
		rows[i] = x.placed()
		rows[i].PlayerID = who
	}
	if len(rows) == 0 {
		return nil, nil
	}
	return rows, tx.CreateInBatches(&rows, 200).Error
}

// addMissing adds those lines to a player's log that are not there yet, and says how many they were.
func addMissing(tx *gorm.DB, who, reading uint, lines []Played) (int, error) {
	missing, err := missingOf(tx, who, lines)
	if err != nil {
		return 0, err
	}
	for i := range missing {
		missing[i].ReadingID, missing[i].Replaces = reading, nil
	}
	_, err = addPlayed(tx, who, missing)
	return len(missing), err
}

// Missing counts the lines that are not in a player's log.
func (s *Store) Missing(ctx context.Context, who uint, lines []Played) (int, error) {
	missing, err := missingOf(s.db.WithContext(ctx), who, lines)
	return len(missing), plain(err)
}

// missingOf are those lines that are not in a player's log: what is read in twice stands there once. Two lines are one
// if they say the same of the same second, which is as fine as tables have it, whatever number their lick has here; of
// lines that are alike within what is read each is a round of its own.
func missingOf(tx *gorm.DB, who uint, lines []Played) (missing []Played, err error) {
	if len(lines) == 0 {
		return nil, nil
	}
	first := lines[0].At
	for _, x := range lines {
		if x.At.Before(first) {
			first = x.At
		}
	}
	var here []Played
	if err := tx.Where("player_id = ? AND at >= ? AND "+sound, who, first.UTC().Truncate(time.Second)).
		Order("id").Find(&here).Error; err != nil {
		return nil, err
	}
	if here, err = stillHolding(tx, who, here); err != nil {
		return nil, err
	}
	count := map[Played]int{}
	for _, x := range here {
		count[x.alike()]++
	}
	for _, x := range lines {
		if k := x.alike(); count[k] > 0 {
			count[k]--
			continue
		}
		missing = append(missing, x)
	}
	return missing, nil
}

// stillHolding leaves out of rows those that do not hold any more. A row that only takes one back stays: it is like no
// line that could be read in.
func stillHolding(tx *gorm.DB, who uint, rows []Played) ([]Played, error) {
	var gone []uint
	if err := tx.Model(&Played{}).Where("player_id = ? AND replaces IS NOT NULL", who).
		Pluck("replaces", &gone).Error; err != nil {
		return nil, err
	}
	is := map[uint]bool{}
	for _, id := range gone {
		is[id] = true
	}
	return slices.DeleteFunc(rows, func(p Played) bool { return is[p.ID] }), nil
}

// alike is what makes a line the same line in another notebook.
func (p Played) alike() Played {
	p.ID, p.PlayerID, p.LickID, p.RevisionID, p.ReadingID = 0, 0, 0, 0, 0
	p.Zone, p.Replaces = nil, nil
	// A spreadsheet keeps fifteen digits.
	for _, x := range []*float64{&p.Tempo, &p.Minutes, &p.Picking, &p.Fretting, &p.Reach, &p.Bends} {
		*x = math.Round(*x*1e6) / 1e6
	}
	p.At = p.At.UTC().Truncate(time.Second)
	return p
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
	err = s.db.WithContext(ctx).Raw("SELECT data FROM set_aside ORDER BY id").Scan(&lines).Error
	return lines, plain(err)
}
