package store

import (
	"context"
	"crypto/rand"
	"encoding/hex"
	"fmt"
	"strings"
	"time"
	"unicode"
	"unicode/utf8"

	"ornamen/core/text"

	"gorm.io/gorm"

	"ornamen/internal/refuse"
)

// Player is one of those who play from a notebook. Licks are shared; settings, log, judgements and fingers of one's
// own belong to a player. One that was removed is kept with all of it, and can come back.
type Player struct {
	ID        uint
	Key       string // names the player beyond this notebook, and in the hands that a lick keeps
	Name      string
	Source    string // names the student of another notebook whose reports are read into this log; empty for none yet
	HeadID    uint   // the settings that hold; 0 for the defaults
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

// Settings are a player's settings as they hold. Data is JSON, an object of fields whose meaning this package does not
// know; nil are the defaults. Revision is 0 for them.
type Settings struct {
	Data     []byte
	Revision uint
	CanUndo  bool
	CanRedo  bool
}

// Players lists who plays, in the order in which they came.
func (s *Store) Players(ctx context.Context) ([]Player, error) {
	return all[Player](s.db.WithContext(ctx).Order("id"), "read the players")
}

// AllPlayers are the players with those who were removed.
func (s *Store) AllPlayers(ctx context.Context) ([]Player, error) {
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
	return Player{}, refuse.With("the notebook has no player %q; there are %s", name, strings.Join(names, ", "))
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
			return name, refuse.With("there is a player %s already", p.Name)
		}
	}
	if len(list) >= maxPlayers && but == 0 {
		return name, refuse.With("a notebook has at most %d players", maxPlayers)
	}
	return name, nil
}

// named is a name of a player or a set without what cannot be seen of it.
func named(name string) (string, error) {
	name = strings.Join(strings.Fields(name), " ")
	switch {
	case name == "":
		return name, refuse.With("a name is missing")
	case !utf8.ValidString(name) || utf8.RuneCountInString(name) > maxName:
		return name, refuse.With("a name has at most %d letters", maxName)
	case strings.ContainsFunc(name, func(r rune) bool { return !unicode.IsPrint(r) }):
		return name, refuse.With("a name is made of letters that can be seen")
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
		data, err := settingsOf(tx, like)
		if err != nil || data == nil {
			return err
		}
		return saveSettings(tx, p.ID, 0, data)
	})
	return p, err
}

// RenamePlayer gives a player another name in place of was, which is empty for whatever it is. A player who was given
// another one elsewhere meanwhile keeps that, and the error is a *SettingsStaleError.
func (s *Store) RenamePlayer(ctx context.Context, id uint, was, name string) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		name, err := nameIn(tx, name, id)
		if err != nil {
			return err
		}
		var p Player
		if err := tx.Take(&p, id).Error; err != nil {
			return err
		}
		if was != "" && p.Name != was {
			return &SettingsStaleError{Fields: []string{"name"}}
		}
		return tx.Model(&p).Update("name", name).Error
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
			return refuse.With("somebody has to play: add another player before this one goes")
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

// settingsOf is the content of the settings that hold of a player, nil for the defaults.
func settingsOf(db *gorm.DB, who uint) ([]byte, error) {
	c := chain{aPlayer, who}
	head, err := c.head(db)
	if err != nil || head == 0 {
		return nil, err
	}
	r, err := c.revision(db, head)
	if err != nil {
		return nil, err
	}
	return unpacked(r.Data)
}

// Settings reads the settings of a player that hold.
func (s *Store) Settings(ctx context.Context, who uint) (x Settings, err error) {
	db, c := s.db.WithContext(ctx), chain{aPlayer, who}
	if x.Revision, err = c.head(db); err == nil {
		x.Data, err = settingsOf(db, who)
	}
	if err != nil {
		return x, fmt.Errorf("read the player: %w", err)
	}
	x.CanUndo, x.CanRedo = c.can(db, back, x.Revision), c.can(db, forward, x.Revision)
	return x, nil
}

// saveSettings writes settings on a revision and has them hold.
func saveSettings(tx *gorm.DB, who, base uint, data []byte) error {
	c := chain{aPlayer, who}
	r, err := c.add(tx, base, data, "", false)
	if err != nil {
		return err
	}
	return c.show(tx, r.ID)
}

// NewSettings are settings that are to hold of a player.
type NewSettings struct {
	Data     []byte
	Base     uint               // the revision that they were made on; Newest for whatever holds
	Defaults []byte             // what the revision 0 stands for
	Check    func([]byte) error // refuses what cannot hold; nil for anything
}

// SaveSettings makes settings those that hold of a player. Where others hold by now than those that they were made on,
// what was changed is changed on those, field by field: of two tabs one may set the hand and the other the guitar. A
// field that both set, each to something else, is a *SettingsStaleError, and nothing changes.
func (s *Store) SaveSettings(ctx context.Context, who uint, x NewSettings) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		if err := tx.Take(&Player{}, who).Error; err != nil {
			return err
		}
		c := chain{aPlayer, who}
		head, err := c.head(tx)
		if err != nil {
			return err
		}
		if x.Base != Newest && x.Base != head {
			if err := x.rebase(tx, c, head); err != nil {
				return err
			}
		}
		return saveSettings(tx, who, head, x.Data)
	})
}

// rebase has a change be made on the settings at head.
func (x *NewSettings) rebase(tx *gorm.DB, c chain, head uint) error {
	at := func(rev uint) ([]byte, error) {
		if rev == 0 {
			return x.Defaults, nil
		}
		r, err := c.revision(tx, rev)
		if err != nil {
			return nil, err
		}
		return unpacked(r.Data)
	}
	was, err := at(x.Base)
	if err != nil {
		return err
	}
	is, err := at(head)
	if err != nil {
		return err
	}
	data, both, err := merged(was, x.Data, is)
	switch {
	case err != nil:
		return err
	case len(both) > 0:
		return &SettingsStaleError{Fields: both}
	case x.Check != nil:
		if err := x.Check(data); err != nil {
			return err
		}
	}
	x.Data = data
	return nil
}

// UndoSettings goes back to a player's settings before base, RedoSettings forward to those that were undone; before
// the first ones there are the defaults. Both refuse, as *SettingsStaleError, when base does not hold any more.
func (s *Store) UndoSettings(ctx context.Context, who, base uint) error {
	return s.moveSettings(ctx, who, base, back)
}

// RedoSettings goes forward again; see UndoSettings.
func (s *Store) RedoSettings(ctx context.Context, who, base uint) error {
	return s.moveSettings(ctx, who, base, forward)
}

// moveSettings has other settings of a player hold.
func (s *Store) moveSettings(ctx context.Context, who, base uint, to direction) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		c := chain{aPlayer, who}
		head, err := c.head(tx)
		if err != nil {
			return err
		}
		if base != Newest && base != head {
			return &SettingsStaleError{}
		}
		r, err := to(c, tx, head)
		if err != nil {
			return err
		}
		return c.show(tx, r.ID)
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
