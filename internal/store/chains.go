package store

import (
	"cmp"
	"context"
	"crypto/sha256"
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
	rs, err := all[Revision](chain{aLick, id}.revisions(db).Order("id"), fmt.Sprintf("versions of lick %d", id))
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

	Progress func(done, of int) // is told how many versions of licks are in, of how many; nil where nobody asks
}

// Playing is a player with what is the player's own. A notebook of the time when there was only one has no key for it.
type Playing struct {
	Player
	Settings []byte // nil for none
	Log      []Played
}

// AddAll adds what another notebook held, all or nothing, and says how many licks were not here or went on. What has a
// key is here once: of a lick that is here the versions that are missing, players and sets only where they are not here
// already, and of a player who is here the lines of the log that are missing; tones, recipes and changes only where
// there are none of that name. So a notebook that is added to itself stays as it is. Numbers of rows are made anew. The
// log's lines name their lick by its place among the chains and their revision by
// its number in that chain, both from 1, and 0 where it is gone; they are changed in place.
func (s *Store) AddAll(ctx context.Context, w Whole) (added int, err error) {
	err = s.write(ctx, func(tx *gorm.DB) error {
		ids := make([][]uint, len(w.Chains)) // of the lick, then of its revisions
		all, done := 0, 0
		for _, c := range w.Chains {
			all += len(c.Past)
		}
		for i, c := range w.Chains {
			if err := ctx.Err(); err != nil {
				return err
			}
			if w.Progress != nil {
				w.Progress(done, all)
			}
			done += len(c.Past)
			head, err := lick.Parse(c.Past[c.Head-1].Data)
			if err != nil {
				return err
			}
			var isNew bool
			if ids[i], isNew, err = addOnce(tx, c, head); err != nil {
				return err
			}
			if isNew {
				added++
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
	return added, err
}

// addOnce adds a lick with its versions, or to the lick of its key that is here the versions that are missing: ids are
// its number and those of its versions here, isNew whether anything was missing. What went on from the version that is
// shown here is shown; what was made of an older one stays beside it, as a change in another tab does.
func addOnce(tx *gorm.DB, c Chain, head lick.Lick) (ids []uint, isNew bool, err error) {
	var rows []Lick
	if c.Key != "" {
		if err := tx.Unscoped().Where("key = ?", c.Key).Limit(1).Find(&rows).Error; err != nil {
			return nil, false, err
		}
	}
	if len(rows) == 0 {
		_, ids, err := addChain(tx, c, head)
		return ids, true, err
	}
	row := rows[0]
	if row.DeletedAt.Valid {
		isNew, row.DeletedAt = true, gorm.DeletedAt{}
		if err := tx.Unscoped().Model(&Lick{}).Where("id = ?", row.ID).Update("deleted_at", nil).Error; err != nil {
			return nil, false, err
		}
	}
	at := chain{aLick, row.ID}
	here, err := versionsOf(tx, at)
	if err != nil {
		return nil, false, err
	}
	ids = []uint{row.ID}
	goesOn := false // the version that is shown here is one of those that came
	for i, p := range c.Past {
		parent := ids[p.Parent]
		if p.Parent == 0 {
			parent = 0
		}
		if same := (version{parent, p.What, sha256.Sum256(p.Data)}); len(here[same]) > 0 {
			id := here[same][0]
			here[same] = here[same][1:]
			ids = append(ids, id)
			goesOn = goesOn || id == row.HeadID && i < c.Head
			continue
		}
		isNew = true
		r := Revision{
			Kind:      aLick,
			OwnerID:   row.ID,
			Data:      p.Data,
			What:      p.What,
			Aside:     p.Aside || !goesOn,
			CreatedAt: p.At,
		}
		if parent != 0 {
			r.ParentID = &parent
		}
		if err := tx.Create(&r).Error; err != nil {
			return nil, false, err
		}
		ids = append(ids, r.ID)
	}
	if goesOn && ids[c.Head] > row.HeadID {
		return ids, isNew, show(tx, &row, ids[c.Head], head)
	}
	return ids, isNew, nil
}

// version is what makes a version the same in two notebooks: what it was made on, how it came about, what it holds.
type version struct {
	parent uint
	what   string
	holds  [sha256.Size]byte
}

// versionsOf finds the numbers of a chain's versions by what they are, the oldest first.
func versionsOf(tx *gorm.DB, c chain) (map[version][]uint, error) {
	var rs []Revision
	if err := c.revisions(tx).Order("id").Find(&rs).Error; err != nil {
		return nil, err
	}
	out := map[version][]uint{}
	for _, r := range rs {
		v := version{what: r.What}
		if r.ParentID != nil {
			v.parent = *r.ParentID
		}
		data, err := unpacked(r.Data)
		if err != nil {
			data = r.Data
		}
		v.holds = sha256.Sum256(data)
		out[v] = append(out[v], r.ID)
	}
	return out, nil
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
		if err := tx.Raw(`SELECT (SELECT COUNT(*) FROM revisions WHERE kind = 'player') + (SELECT COUNT(*) FROM played)`).
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
	if here[at].HeadID == 0 && p.Settings != nil {
		if err := saveSettings(tx, who, 0, p.Settings); err != nil {
			return err
		}
	}
	_, err := addMissing(tx, who, 0, p.Log)
	return err
}

// addChain writes a lick with all of its versions, of which head is shown, keys of rows made anew: its row, and the
// lick's key followed by those of its revisions.
func addChain(tx *gorm.DB, c Chain, head lick.Lick) (row Lick, ids []uint, err error) {
	row = Lick{Key: cmp.Or(c.Key, newKey()), Title: head.Title}
	if err := tx.Create(&row).Error; err != nil {
		return row, nil, err
	}
	next, err := nextRevision(tx)
	if err != nil {
		return row, nil, err
	}
	ids = []uint{row.ID}
	rows := make([]Revision, len(c.Past))
	for i, p := range c.Past {
		rows[i] = Revision{
			ID:        next + uint(i),
			Kind:      aLick,
			OwnerID:   row.ID,
			Data:      p.Data,
			What:      p.What,
			Aside:     p.Aside,
			CreatedAt: p.At,
		}
		if p.Parent > 0 {
			rows[i].ParentID = &rows[p.Parent-1].ID
		}
		ids = append(ids, rows[i].ID)
	}
	// Many at once: one by one, seventy thousand versions take a minute and a half.
	if err := tx.CreateInBatches(&rows, 200).Error; err != nil {
		return row, nil, err
	}
	return row, ids, show(tx, &row, ids[c.Head], head)
}

// nextRevision is the number that the next revision gets. Numbers rise and none comes twice, and a transaction that
// writes is alone, so that it may give several of them itself.
func nextRevision(tx *gorm.DB) (next uint, err error) {
	err = tx.Raw("SELECT COALESCE((SELECT seq FROM sqlite_sequence WHERE name = 'revisions'), 0) + 1").Row().Scan(&next)
	return next, err
}
