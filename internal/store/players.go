package store

import (
	"context"
	"crypto/rand"
	"encoding/hex"
	"errors"
	"fmt"
	"strings"
	"time"
	"unicode"
	"unicode/utf8"

	"ornamen/core/text"

	"gorm.io/gorm"
)

// Player is one of those who play from a notebook. Licks are shared; settings, log, judgements and fingers of one's
// own belong to a player. One that was removed is kept with all of it, and can come back.
type Player struct {
	ID        uint
	Key       string // names the player beyond this notebook, and in the hands that a lick keeps
	Name      string
	Source    string // key of the player of another notebook whose reports are read into this log; empty for none yet
	CreatedAt time.Time
	DeletedAt gorm.DeletedAt
}

// Own is the key under which licks keep this player's fingers. It is empty for the notebook's first player, whose
// fingers are those that all share.
func (p Player) Own() string {
	if p.ID <= firstPlayer {
		return ""
	}
	return p.Key
}

// The player whom every notebook has.
const (
	firstPlayer = 1
	FirstName   = "Player 1"
)

// Bounds of players, and of a name in letters.
const (
	maxPlayers = 50
	maxName    = 40
)

// Setting is a player's settings as they were set at one time; the newest row holds, and undo takes it away. Data is
// JSON that this package does not read.
type Setting struct {
	ID        uint
	PlayerID  uint
	Data      []byte
	CreatedAt time.Time
}

// severalPlayers says whether the notebook knows several; one that is only read may be older.
func (s *Store) severalPlayers() bool {
	return !s.ReadOnly || s.db.Migrator().HasTable("settings")
}

// Players lists who plays, in the order in which they came.
func (s *Store) Players(ctx context.Context) ([]Player, error) {
	if !s.severalPlayers() {
		return []Player{{ID: firstPlayer, Name: FirstName}}, nil
	}
	return all[Player](s.db.WithContext(ctx).Order("id"), "read the players")
}

// AllPlayers are the players with those who were removed.
func (s *Store) AllPlayers(ctx context.Context) ([]Player, error) {
	if !s.severalPlayers() {
		return s.Players(ctx)
	}
	return all[Player](s.db.WithContext(ctx).Unscoped().Order("id"), "read the players")
}

// PlayerNamed is the player of a name, in any case; with no name the notebook's first. The error of a name that is
// none lists those there are.
func (s *Store) PlayerNamed(ctx context.Context, name string) (Player, error) {
	list, err := s.Players(ctx)
	if err != nil {
		return Player{}, err
	}
	var names []string
	for _, p := range list {
		if name == "" || strings.EqualFold(p.Name, strings.TrimSpace(name)) {
			return p, nil
		}
		names = append(names, p.Name)
	}
	return Player{}, fmt.Errorf("the notebook has no player %q; there are %s", name, strings.Join(names, ", "))
}

// nameIn reads a player's name and refuses one that another player has.
func nameIn(tx *gorm.DB, name string, but uint) (string, error) {
	name, err := named(name)
	if err != nil {
		return name, err
	}
	var list []Player
	if err := tx.Find(&list).Error; err != nil {
		return name, err
	}
	for _, p := range list {
		if p.ID != but && strings.EqualFold(p.Name, name) {
			return name, fmt.Errorf("there is a player %s already", p.Name)
		}
	}
	if len(list) >= maxPlayers && but == 0 {
		return name, fmt.Errorf("a notebook has at most %d players", maxPlayers)
	}
	return name, nil
}

// named is a name of a player or a set without what cannot be seen of it.
func named(name string) (string, error) {
	name = strings.Join(strings.Fields(name), " ")
	switch {
	case name == "":
		return name, errors.New("a name is missing")
	case !utf8.ValidString(name) || utf8.RuneCountInString(name) > maxName:
		return name, fmt.Errorf("a name has at most %d letters", maxName)
	case strings.ContainsFunc(name, func(r rune) bool { return !unicode.IsPrint(r) }):
		return name, errors.New("a name is made of letters that can be seen")
	}
	return name, nil
}

// AddPlayer adds one who plays, with the settings of another or, where that is 0, none of their own yet.
func (s *Store) AddPlayer(ctx context.Context, name string, like uint) (Player, error) {
	p := Player{Key: newKey()}
	err := s.write(ctx, func(tx *gorm.DB) error {
		var err error
		if p.Name, err = nameIn(tx, name, 0); err != nil {
			return err
		}
		if err := tx.Create(&p).Error; err != nil || like == 0 {
			return err
		}
		var last Setting
		res := tx.Where("player_id = ?", like).Order("id DESC").Limit(1).Find(&last)
		if res.Error != nil || res.RowsAffected == 0 {
			return res.Error
		}
		return tx.Create(&Setting{PlayerID: p.ID, Data: last.Data}).Error
	})
	return p, err
}

// RenamePlayer gives a player another name.
func (s *Store) RenamePlayer(ctx context.Context, id uint, name string) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		name, err := nameIn(tx, name, id)
		if err != nil {
			return err
		}
		return one(tx.Model(&Player{}).Where("id = ?", id).Update("name", name))
	})
}

// RemovePlayer takes a player out of the notebook; ReturnPlayer brings them back with all that was theirs.
// The last one stays.
func (s *Store) RemovePlayer(ctx context.Context, id uint) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		n, err := count(tx.Model(&Player{}))
		if err != nil {
			return err
		}
		if n <= 1 {
			return errors.New("somebody has to play: add another player before this one goes")
		}
		return one(tx.Delete(&Player{}, id))
	})
}

// ReturnPlayer brings back a player who was removed. Where the name was taken meanwhile it gets a number.
func (s *Store) ReturnPlayer(ctx context.Context, id uint) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		var p Player
		if err := tx.Unscoped().Where("deleted_at IS NOT NULL").Take(&p, id).Error; err != nil {
			return err
		}
		name, err := freeName(tx, p.Name, id)
		if err != nil {
			return err
		}
		return tx.Unscoped().Model(&Player{}).Where("id = ?", id).
			Updates(map[string]any{"deleted_at": nil, "name": name}).Error
	})
}

// freeName is a name that no other player has: with a number behind it where that one is taken.
func freeName(tx *gorm.DB, name string, but uint) (string, error) {
	for k := 1; ; k++ {
		try := name
		if k > 1 {
			try = fmt.Sprintf("%s %d", text.Cut(name, maxName-4), k)
		}
		if as, err := nameIn(tx, try, but); err == nil || k > maxPlayers {
			return as, err
		}
	}
}

// Settings reads a player's newest settings and how many there were before them; data is nil when none were ever set.
func (s *Store) Settings(ctx context.Context, who uint) (data []byte, before int, err error) {
	db := s.db.WithContext(ctx)
	if s.severalPlayers() {
		db = db.Table("settings").Where("player_id = ?", who)
	} else {
		db = db.Table("players")
	}
	var rows [][]byte
	n, err := count(db.Session(&gorm.Session{}))
	if err == nil {
		err = db.Session(&gorm.Session{}).Order("id DESC").Limit(1).Pluck("data", &rows).Error
	}
	if err != nil {
		return nil, 0, fmt.Errorf("read the player: %w", plain(err))
	}
	if len(rows) == 0 {
		return nil, 0, nil
	}
	return rows[0], n - 1, nil
}

// SaveSettings makes settings a player's newest.
func (s *Store) SaveSettings(ctx context.Context, who uint, data []byte) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		if err := tx.Take(&Player{}, who).Error; err != nil {
			return err
		}
		return tx.Create(&Setting{PlayerID: who, Data: data}).Error
	})
}

// UndoSettings goes back to a player's settings before; before the first ones there are the defaults.
func (s *Store) UndoSettings(ctx context.Context, who uint) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		err := one(tx.Exec("DELETE FROM settings WHERE id = (SELECT MAX(id) FROM settings WHERE player_id = ?)", who))
		if errors.Is(err, ErrNotFound) {
			return ErrNoUndo
		}
		return err
	})
}

// BindPlayer remembers whose reports are read into a player's log.
func (s *Store) BindPlayer(ctx context.Context, id uint, source string) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		return one(tx.Model(&Player{}).Where("id = ?", id).Update("source", source))
	})
}

// newKey names a player, a lick or a set beyond this notebook.
func newKey() string {
	var b [8]byte
	rand.Read(b[:]) // it never fails
	return hex.EncodeToString(b[:])
}
