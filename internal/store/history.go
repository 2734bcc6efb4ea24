package store

import (
	"fmt"
	"math"
	"time"

	"gorm.io/gorm"
)

// Everything that changes is a chain of revisions: a lick, a set, the settings of a player. A write names the revision
// that it was made on, undo moves a head back along the chain, redo forward, and nothing is removed. What a chain
// holds is bytes to this file; what a stale write comes to is for each kind to say: a lick keeps it aside, a set
// refuses it, settings merge it field by field.

// Revision is a thing as it was after one edit. Revisions are never changed or removed.
type Revision struct {
	ID        uint
	Kind      kind // of what it is a revision, and of which
	OwnerID   uint
	ParentID  *uint // nil for the first
	Data      []byte
	What      string // the edit in a few words
	Aside     bool   // made on an old revision, kept beside the chain
	CreatedAt time.Time
}

// Newest stands for whatever revision is shown, where a write does not depend on what it was made on.
const Newest = math.MaxInt64

// kind is what a chain is the history of.
type kind string

// The kinds. Their rows lie in the tables that are called like them.
const (
	aLick   kind = "lick"
	aSet    kind = "set"
	aPlayer kind = "player" // the chain is of the player's settings; its head is 0 for the defaults
)

// chain names one thing's history.
type chain struct {
	kind kind
	id   uint
}

// row is the row that names the chain's head, one that was deleted too.
func (c chain) row(db *gorm.DB) *gorm.DB {
	return db.Table(string(c.kind)+"s").Where("id = ?", c.id)
}

// revisions are those of the chain.
func (c chain) revisions(db *gorm.DB) *gorm.DB {
	return db.Model(&Revision{}).Where("kind = ? AND owner_id = ?", c.kind, c.id)
}

// head is the number of the revision that is shown.
func (c chain) head(db *gorm.DB) (uint, error) {
	var heads []uint
	if err := c.row(db).Pluck("head_id", &heads).Error; err != nil {
		return 0, plain(err)
	}
	if len(heads) == 0 {
		return 0, fmt.Errorf("%s %d: %w", c.kind, c.id, ErrNotFound)
	}
	return heads[0], nil
}

// revision finds one revision. One of another chain is not found: both numbers must belong together.
func (c chain) revision(db *gorm.DB, rev uint) (Revision, error) {
	var r Revision
	if err := c.revisions(db).Take(&r, rev).Error; err != nil {
		return r, fmt.Errorf("revision %d of %s %d: %w", rev, c.kind, c.id, plain(err))
	}
	return r, nil
}

// add writes a revision made on base, which is 0 for the first.
func (c chain) add(tx *gorm.DB, base uint, data []byte, what string, aside bool) (Revision, error) {
	r := Revision{Kind: c.kind, OwnerID: c.id, Data: data, What: what, Aside: aside}
	if base != 0 {
		r.ParentID = &base
	}
	return r, tx.Create(&r).Error
}

// show makes a revision the one that is shown.
func (c chain) show(tx *gorm.DB, rev uint) error {
	return one(c.row(tx).Update("head_id", rev))
}

// child is the newest revision made on rev that is part of the chain. After an undo and a new edit a revision has two
// children; redo follows the newer one, and the older stays among the versions.
func (c chain) child(db *gorm.DB, rev uint) (Revision, error) {
	made := c.revisions(db).Where("parent_id = ?", rev)
	if rev == 0 {
		made = c.revisions(db).Where("parent_id IS NULL")
	}
	var rs []Revision
	if err := made.Where("aside = ?", false).Order("id DESC").Limit(1).Find(&rs).Error; err != nil {
		return Revision{}, plain(err)
	}
	if len(rs) == 0 {
		return Revision{}, ErrNoRedo
	}
	return rs[0], nil
}

// parent is the revision that rev was made on. Of a lick and a set there is none before the first; before the first
// settings of a player lie the defaults, which are the zero revision.
func (c chain) parent(db *gorm.DB, rev uint) (Revision, error) {
	if rev == 0 {
		return Revision{}, ErrNoUndo
	}
	r, err := c.revision(db, rev)
	switch {
	case err != nil:
		return r, err
	case r.ParentID != nil:
		return c.revision(db, *r.ParentID)
	case c.kind == aPlayer:
		return Revision{}, nil
	}
	return r, ErrNoUndo
}

// direction is which way a head moves along its chain.
type direction func(c chain, db *gorm.DB, rev uint) (Revision, error)

// The directions: undo and redo.
var (
	back    direction = chain.parent
	forward direction = chain.child
)

// can says whether there is something to go to from a revision.
func (c chain) can(db *gorm.DB, to direction, rev uint) bool {
	_, err := to(c, db, rev)
	return err == nil
}
