package store

import (
	"context"
	"fmt"
	"time"

	"gorm.io/gorm"

	"ornamen/core/lick"
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

// Chain is a lick with all its versions.
// Unlike rows it holds no key of a database, so that it can come from another notebook or go
// there.
type Chain struct {
	Head int // number of the version that is shown
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

// ChainOf reads a lick with all its versions.
// A version whose bytes cannot be unpacked is an UnreadableError: a copy that left it out would
// be no copy.
func (s *Store) ChainOf(ctx context.Context, id uint) (Chain, error) {
	var c Chain
	db := s.db.WithContext(ctx)
	var l Lick
	if err := db.Take(&l, id).Error; err != nil {
		return c, fmt.Errorf("lick %d: %w", id, plain(err))
	}
	var rs []Revision
	if err := db.Where("lick_id = ?", id).Order("id").Find(&rs).Error; err != nil {
		return c, fmt.Errorf("versions of lick %d: %w", id, plain(err))
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
	c.Head = number[l.HeadID]
	return c, nil
}

// Whole is what a notebook holds beside its licks.
type Whole struct {
	Chains   []Chain
	Palettes []Palette
	Recipes  []Recipe
	Changes  []Changes
	Log      []Played
	Player   []byte // settings, nil for none
}

// AddAll adds what another notebook held, all or nothing: its licks beside those that are here;
// tones, recipes, changes and a player only where there are none of that name. Numbers of rows
// are made anew, so that a notebook can be added to itself. The log's lines name their lick by
// its place among the chains and their revision by its number in that chain, both from 1, and 0
// where it is gone; they are changed in place.
func (s *Store) AddAll(ctx context.Context, w Whole) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		ids := make([][]uint, len(w.Chains)) // of the lick, then of its revisions
		for i, c := range w.Chains {
			var err error
			if ids[i], err = addChain(tx, c); err != nil {
				return err
			}
		}
		for _, p := range w.Palettes {
			p.ID = 0
			if err := tx.Where(Palette{Name: p.Name}).FirstOrCreate(&p).Error; err != nil {
				return err
			}
		}
		for _, r := range w.Recipes {
			r.ID = 0
			if err := tx.Where(Recipe{Name: r.Name}).FirstOrCreate(&r).Error; err != nil {
				return err
			}
		}
		for _, c := range w.Changes {
			c.ID = 0
			if err := tx.Where(Changes{Name: c.Name}).FirstOrCreate(&c).Error; err != nil {
				return err
			}
		}
		for i := range w.Log {
			// A line names its lick by its place among the chains, and its version by its place in it.
			x := &w.Log[i]
			k, version := int(x.LickID), int(x.RevisionID)
			x.ID, x.LickID, x.RevisionID = 0, 0, 0
			if k < 1 || k > len(ids) {
				continue
			}
			x.LickID = ids[k-1][0]
			if version >= 1 && version < len(ids[k-1]) {
				x.RevisionID = ids[k-1][version]
			}
		}
		if len(w.Log) > 0 {
			if err := addPlayed(tx, w.Log); err != nil {
				return err
			}
		}
		var players int64
		if err := tx.Model(&PlayerRow{}).Count(&players).Error; err != nil || players > 0 || w.Player == nil {
			return err
		}
		return tx.Create(&PlayerRow{Data: w.Player}).Error
	})
}

// addChain writes a lick with all of its versions, keys of rows made anew.
// It returns the lick's key, then those of its revisions.
func addChain(tx *gorm.DB, c Chain) ([]uint, error) {
	head, err := lick.Parse(c.Past[c.Head-1].Data)
	if err != nil {
		return nil, err
	}
	row := Lick{Title: head.Title}
	if err := tx.Create(&row).Error; err != nil {
		return nil, err
	}
	ids := make([]uint, len(c.Past))
	for i, p := range c.Past {
		r := Revision{LickID: row.ID, Data: p.Data, What: p.What, Aside: p.Aside, CreatedAt: p.At}
		if p.Parent > 0 {
			r.ParentID = &ids[p.Parent-1]
		}
		if err := tx.Create(&r).Error; err != nil {
			return nil, err
		}
		ids[i] = r.ID
	}
	row.HeadID = ids[c.Head-1]
	if err := tx.Save(&row).Error; err != nil {
		return nil, err
	}
	return append([]uint{row.ID}, ids...), index(tx, row.ID, head)
}
