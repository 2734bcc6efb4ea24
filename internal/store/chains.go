package store

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"gorm.io/gorm"

	"ornamen/core/lick"
	"ornamen/core/text"
)

// Past is one revision of a chain that is carried from one notebook to another.
// Versions of a chain are numbered from 1 in the order they were made.
type Past struct {
	ID     uint // its key in the notebook that it was read from, 0 for none
	Parent int  // number of the version it was made on, 0 for the first
	Data   []byte
	What   string
	Aside  bool
	At     time.Time
}

// Chain is a lick with all its versions. Unlike rows it holds no key of a database, so that it can come from another
// notebook or go there.
type Chain struct {
	Key  string // names the lick beyond a notebook; empty for none yet
	Head int    // number of the version that is shown
	Past []Past
}

// NewChain is a lick with one version, made by what its sentence says.
func NewChain(l lick.Lick, what string, at time.Time) Chain {
	return Chain{Head: 1, Past: []Past{{Data: l.Encode(), What: what, At: at}}}
}

// Ids lists the licks of the notebook, the oldest first.
func (s *Store) Ids(ctx context.Context) ([]uint, error) {
	var ids []uint
	if err := s.matching(ctx, Query{}).Order("licks.id").Pluck("licks.id", &ids).Error; err != nil {
		return nil, fmt.Errorf("list licks: %w", plain(err))
	}
	return ids, nil
}

// ChainOf reads a lick with all its versions. A version whose bytes cannot be unpacked is an UnreadableError: a copy
// that left it out would be no copy.
func (s *Store) ChainOf(ctx context.Context, id uint) (Chain, error) {
	var c Chain
	db := s.db.WithContext(ctx)
	var l Lick
	if err := db.Take(&l, id).Error; err != nil {
		return c, fmt.Errorf("lick %d: %w", id, plain(err))
	}
	rs, err := all[Revision](db.Where("lick_id = ?", id).Order("id"), fmt.Sprintf("versions of lick %d", id))
	if err != nil {
		return c, err
	}
	number := map[uint]int{}
	for i, r := range rs {
		number[r.ID] = i + 1
		data, err := unpacked(r.Data)
		if err != nil {
			return c, &UnreadableError{id, r.ID, err}
		}
		p := Past{ID: r.ID, Data: data, What: r.What, Aside: r.Aside, At: r.CreatedAt}
		if r.ParentID != nil {
			p.Parent = number[*r.ParentID]
		}
		c.Past = append(c.Past, p)
	}
	c.Key, c.Head = l.Key, number[l.HeadID]
	return c, nil
}

// Whole is what a notebook holds beside its licks.
type Whole struct {
	Chains   []Chain
	Palettes []Palette
	Recipes  []Recipe
	Changes  []Changes
	Players  []Playing
	Sets     []Set // their licks named by their places among the chains, from 1; 0 for one that is gone
}

// Playing is a player with what is the player's own. A notebook of the time when there was only one has no key for it.
type Playing struct {
	Player
	Settings []byte // nil for none
	Log      []Played
}

// AddAll adds what another notebook held, all or nothing: its licks beside those that are here; tones, recipes and
// changes only where there are none of that name; players and sets only where they are not here already, told by their
// keys, and of a player who is here the lines of the log that are missing. Numbers of rows are made anew, so that a
// notebook can be added to itself. The log's lines name their lick by its place among the chains and their revision by
// its number in that chain, both from 1, and 0 where it is gone; they are changed in place.
func (s *Store) AddAll(ctx context.Context, w Whole) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		ids := make([][]uint, len(w.Chains)) // of the lick, then of its revisions
		for i, c := range w.Chains {
			head, err := lick.Parse(c.Past[c.Head-1].Data)
			if err != nil {
				return err
			}
			if _, ids[i], err = addChain(tx, c, head); err != nil {
				return err
			}
		}
		if err := cmp.Or(addNamed(tx, w.Palettes), addNamed(tx, w.Recipes), addNamed(tx, w.Changes)); err != nil {
			return err
		}
		for i, p := range w.Players {
			for k := range p.Log {
				x := &p.Log[k]
				x.ID, x.LickID, x.RevisionID = 0, lickAt(ids, x.LickID, 0), lickAt(ids, x.LickID, x.RevisionID)
			}
			if err := addPlaying(tx, p, i == 0); err != nil {
				return err
			}
		}
		for _, x := range w.Sets {
			here, err := count(tx.Model(&SetRow{}).Where("key = ?", x.Key))
			if err != nil {
				return err
			}
			if x.Key != "" && here > 0 {
				continue
			}
			x.ID = 0
			for k := range x.Items {
				it := &x.Items[k]
				it.Lick, it.From = lickAt(ids, it.Lick, 0), lickAt(ids, it.From, 0)
			}
			if err := saveSetBeside(tx, &x); err != nil {
				return err
			}
		}
		return nil
	})
}

// lickAt is the number of a lick by its place among chains that were added, or of one of its versions; 0 where there
// is none.
func lickAt(ids [][]uint, place, version uint) uint {
	if place < 1 || int(place) > len(ids) || int(version) >= len(ids[place-1]) {
		return 0
	}
	return ids[place-1][version]
}

// saveSetBeside saves a new set, with a number behind its name where another has it.
func saveSetBeside(tx *gorm.DB, x *Set) error {
	var others []SetRow
	if err := tx.Find(&others).Error; err != nil {
		return err
	}
	name := x.Name
	for k := 2; slices.ContainsFunc(others, func(r SetRow) bool { return strings.EqualFold(r.Name, x.Name) }); k++ {
		x.Name = fmt.Sprintf("%s %d", text.Cut(name, maxName-4), k)
	}
	return saveSet(tx, x)
}

// addPlaying adds a player with settings and log, or to one who is here what is missing. A notebook's first player
// takes the place of one who has done nothing yet.
func addPlaying(tx *gorm.DB, p Playing, first bool) error {
	var here []Player
	if err := tx.Unscoped().Order("id").Find(&here).Error; err != nil {
		return err
	}
	at := slices.IndexFunc(here, func(h Player) bool { return h.Key == p.Key || p.Key == "" && h.ID == firstPlayer })
	if at < 0 && first && len(here) == 1 {
		var done int64
		if err := tx.Raw(`SELECT (SELECT COUNT(*) FROM settings) + (SELECT COUNT(*) FROM played)`).
			Scan(&done).Error; err != nil {
			return err
		}
		if done == 0 && here[0].Name == FirstName {
			at = 0
			if err := tx.Model(&Player{}).Where("id = ?", here[0].ID).
				Updates(map[string]any{"key": p.Key, "name": p.Name, "source": p.Source}).Error; err != nil {
				return err
			}
		}
	}
	if at < 0 {
		name, err := freeName(tx, p.Name, 0)
		if err != nil {
			return err
		}
		add := Player{Key: p.Key, Name: name, Source: p.Source, CreatedAt: p.CreatedAt, DeletedAt: p.DeletedAt}
		if err := tx.Create(&add).Error; err != nil {
			return err
		}
		here, at = append(here, add), len(here)
	}
	who := here[at].ID
	set, err := count(tx.Model(&Setting{}).Where("player_id = ?", who))
	if err != nil {
		return err
	}
	if set == 0 && p.Settings != nil {
		if err := tx.Create(&Setting{PlayerID: who, Data: p.Settings}).Error; err != nil {
			return err
		}
	}
	_, err = addMissing(tx, who, p.Log)
	return err
}

// addChain writes a lick with all of its versions, of which head is shown, keys of rows made anew: its row, and the
// lick's key followed by those of its revisions.
func addChain(tx *gorm.DB, c Chain, head lick.Lick) (row Lick, ids []uint, err error) {
	row = Lick{Key: cmp.Or(c.Key, newKey()), Title: head.Title}
	if c.Key != "" {
		taken, err := count(tx.Unscoped().Model(&Lick{}).Where("key = ?", c.Key))
		if err != nil {
			return row, nil, err
		}
		if taken > 0 {
			row.Key = newKey()
		}
	}
	if err := tx.Create(&row).Error; err != nil {
		return row, nil, err
	}
	ids = []uint{row.ID}
	for _, p := range c.Past {
		r := Revision{LickID: row.ID, Data: p.Data, What: p.What, Aside: p.Aside, CreatedAt: p.At}
		if p.Parent > 0 {
			r.ParentID = &ids[p.Parent]
		}
		if err := tx.Create(&r).Error; err != nil {
			return row, nil, err
		}
		ids = append(ids, r.ID)
	}
	return row, ids, show(tx, &row, ids[c.Head], head)
}
