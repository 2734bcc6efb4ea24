package store

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"
	"unicode/utf8"

	"gorm.io/gorm"

	"ornamen/internal/refuse"

	"ornamen/core/lick"
	"ornamen/core/text"
)

// Set is an ordered list of licks: a week's homework, or what is played at a concert. It is kept version by version,
// so that every change of it can be undone.
type Set struct {
	ID     uint
	Key    string // names the set beyond this notebook
	Name   string
	Kind   SetKind
	Target string // the day by which it is wanted, as 2006-01-02; empty for none
	Remark string
	Items  []SetItem
	// The version that is shown, which a change of it names, and whether there is one before and one after it.
	Revision uint
	CanUndo  bool
	CanRedo  bool
	Touched  time.Time
}

// SetKind says what a set is for.
type SetKind string

// The kinds: what is practised on days of a week, and what is played in one go.
const (
	Homework SetKind = "homework"
	Concert  SetKind = "concert"
)

// SetItem is a lick of a set, with what differs there from the lick itself.
type SetItem struct {
	Lick   uint    `json:"lick"`
	Tempo  float64 `json:"tempo,omitempty"` // that is wanted here; 0 for the lick's own
	Remark string  `json:"remark,omitempty"`
	Days   Days    `json:"days,omitempty"` // on which it is practised; 0 for every day
	From   uint    `json:"from,omitempty"` // the lick that this one was moved from, in another key or place
}

// Days are days of a week: bit 0 is Monday.
type Days uint8

// On is one day's bit.
func On(d time.Weekday) Days { return 1 << ((int(d) + 6) % 7) }

// Has says whether something is to be done on a day.
func (d Days) Has(day time.Weekday) bool { return d == 0 || d&On(day) != 0 }

// String names the days from Monday on, in two letters each; nothing for every day.
func (d Days) String() string {
	var out []string
	for i, w := range []string{"Mo", "Tu", "We", "Th", "Fr", "Sa", "Su"} {
		if d&(1<<i) != 0 {
			out = append(out, w)
		}
	}
	return strings.Join(out, " ")
}

// ParseDays reads days as String writes them, or by their whole names.
func ParseDays(s string) (d Days, err error) {
	between := func(r rune) bool { return strings.ContainsRune(" ,;/", r) }
	for _, w := range strings.FieldsFunc(strings.ToLower(s), between) {
		found := false
		for i, name := range []string{"monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday"} {
			if len(w) >= 2 && strings.HasPrefix(name, w) {
				d |= 1 << i
				found = true
			}
		}
		if !found {
			return 0, refuse.With("%q is no day: use Mo Tu We Th Fr Sa Su", text.Clip(w, 20))
		}
	}
	if d == 1<<7-1 {
		d = 0 // every day
	}
	return d, nil
}

// Due are the items of a set that are to be practised on a day of the week.
func (x Set) Due(day time.Weekday) []SetItem {
	return slices.DeleteFunc(slices.Clone(x.Items), func(it SetItem) bool { return !it.Days.Has(day) })
}

// Bounds of sets.
const (
	maxSets   = 500
	maxItems  = 200
	maxRemark = 500
	minTempo  = 20
	maxTempo  = 400
)

// setData is a version of a set as it is kept.
type setData struct {
	Name   string    `json:"name"`
	Kind   SetKind   `json:"kind,omitempty"`
	Target string    `json:"target,omitempty"`
	Remark string    `json:"remark,omitempty"`
	Items  []SetItem `json:"items"`
}

// SetRow is a set in the notebook's table of them; what it holds lies in its versions.
type SetRow struct {
	ID        uint
	Key       string
	Name      string
	HeadID    uint // the version that is shown
	CreatedAt time.Time
	UpdatedAt time.Time
	DeletedAt gorm.DeletedAt
}

// TableName names the table for GORM.
func (SetRow) TableName() string { return "sets" }

// Check says in one sentence what is wrong with a set, without asking whether its licks are there.
func (x Set) Check() error {
	if _, err := named(x.Name); err != nil {
		return refuse.With("the set: %w", err)
	}
	if x.Kind != "" && x.Kind != Homework && x.Kind != Concert {
		return refuse.With("a set is homework or concert, not %q", text.Clip(string(x.Kind), 20))
	}
	if x.Target != "" {
		if _, err := time.Parse(time.DateOnly, x.Target); err != nil {
			return refuse.With("%q is no day: write it as 2026-12-12", text.Clip(x.Target, 20))
		}
	}
	if len(x.Items) > maxItems {
		return refuse.With("a set holds at most %d licks", maxItems)
	}
	if utf8.RuneCountInString(x.Remark) > maxRemark {
		return refuse.With("a remark has at most %d letters", maxRemark)
	}
	for i, it := range x.Items {
		switch {
		case it.Tempo != 0 && !(it.Tempo >= minTempo && it.Tempo <= maxTempo):
			return refuse.With("number %d: a tempo is %d to %d", i+1, minTempo, maxTempo)
		case utf8.RuneCountInString(it.Remark) > maxRemark:
			return refuse.With("number %d: a remark has at most %d letters", i+1, maxRemark)
		}
	}
	return nil
}

// Sets lists the sets, the last touched first.
func (s *Store) Sets(ctx context.Context) ([]Set, error) {
	rows, err := all[SetRow](s.db.WithContext(ctx).Order("updated_at DESC, id DESC"), "list the sets")
	if err != nil {
		return nil, err
	}
	out := make([]Set, len(rows))
	for i, r := range rows {
		if out[i], err = shown(s.db.WithContext(ctx), r); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// shown is a set as the version has it that is shown.
func shown(db *gorm.DB, r SetRow) (Set, error) {
	c := chain{aSet, r.ID}
	v, err := c.revision(db, r.HeadID)
	if err != nil {
		return Set{}, err
	}
	d, err := readSet(v)
	if err != nil {
		return Set{}, fmt.Errorf("the set %s cannot be read: %w", r.Name, err)
	}
	return Set{
		ID:       r.ID,
		Key:      r.Key,
		Name:     d.Name,
		Kind:     d.Kind,
		Target:   d.Target,
		Remark:   d.Remark,
		Items:    d.Items,
		Revision: v.ID,
		CanUndo:  c.can(db, back, v.ID),
		CanRedo:  c.can(db, forward, v.ID),
		Touched:  r.UpdatedAt,
	}, nil
}

// readSet reads a version of a set.
func readSet(v Revision) (d setData, err error) {
	data, err := unpacked(v.Data)
	if err == nil {
		err = json.Unmarshal(data, &d)
	}
	return d, err
}

// SetOf finds a set by its number.
func (s *Store) SetOf(ctx context.Context, id uint) (Set, error) {
	var r SetRow
	if err := s.db.WithContext(ctx).Take(&r, id).Error; err != nil {
		return Set{}, fmt.Errorf("set %d: %w", id, plain(err))
	}
	return shown(s.db.WithContext(ctx), r)
}

// SetNamed finds a set by its name, in any case; ok is false where there is none.
func (s *Store) SetNamed(ctx context.Context, name string) (x Set, ok bool, err error) {
	list, err := s.Sets(ctx)
	for _, x := range list {
		if strings.EqualFold(x.Name, strings.TrimSpace(name)) {
			return x, true, nil
		}
	}
	return x, false, err
}

// SaveSet writes a version of a set and shows it: of a new set where it has no number. base is the version that the
// change was made on, or Newest, so that of two changes at once the later one is refused, as ErrSetStale, and not lost
// sight of.
func (s *Store) SaveSet(ctx context.Context, x Set, base uint) (Set, error) {
	var err error
	if x.Name, err = named(x.Name); err == nil {
		err = x.Check()
	}
	if err != nil {
		return x, err
	}
	err = s.write(ctx, func(tx *gorm.DB) error {
		if x.ID != 0 {
			if err := freshSet(tx, x.ID, base); err != nil {
				return err
			}
		}
		return saveSet(tx, &x)
	})
	if err != nil {
		return x, err
	}
	return s.SetOf(ctx, x.ID)
}

// ErrSetStale is a change of a set that was changed elsewhere in the meantime.
var ErrSetStale = errors.New("the set was changed elsewhere in the meantime; look at it again and repeat the change")

// freshSet refuses what was made on a version that is not shown any more.
func freshSet(tx *gorm.DB, id, base uint) error {
	head, err := chain{aSet, id}.head(tx)
	if err == nil && base != Newest && base != head {
		err = ErrSetStale
	}
	return err
}

// saveSet writes a version of a set on the one that is shown, and the set itself where it is new.
func saveSet(tx *gorm.DB, x *Set) error {
	var others []SetRow
	if err := tx.Find(&others).Error; err != nil {
		return err
	}
	for _, r := range others {
		if r.ID != x.ID && strings.EqualFold(r.Name, x.Name) {
			return refuse.With("there is a set %s already", r.Name)
		}
	}
	var r SetRow
	if x.ID == 0 {
		if len(others) >= maxSets {
			return refuse.With("a notebook has at most %d sets", maxSets)
		}
		if x.Key == "" {
			x.Key = newKey()
		}
		r = SetRow{Key: x.Key, Name: x.Name}
		if err := tx.Create(&r).Error; err != nil {
			return err
		}
		x.ID = r.ID
	} else {
		if err := tx.Take(&r, x.ID).Error; err != nil {
			return err
		}
	}
	data, err := json.Marshal(setData{
		Name:   x.Name,
		Kind:   x.Kind,
		Target: x.Target,
		Remark: x.Remark,
		Items:  append([]SetItem{}, x.Items...),
	})
	if err != nil {
		return err
	}
	v, err := chain{aSet, x.ID}.add(tx, r.HeadID, data, "", false)
	if err != nil {
		return err
	}
	r.Name, r.HeadID = x.Name, v.ID
	return tx.Save(&r).Error
}

// UndoSet goes back to the version of a set before base, RedoSet forward to the one that was undone. Both refuse, as
// ErrSetStale, when base is not the one that is shown.
func (s *Store) UndoSet(ctx context.Context, id, base uint) error {
	return s.moveSet(ctx, id, base, back)
}

// RedoSet goes forward again; see UndoSet.
func (s *Store) RedoSet(ctx context.Context, id, base uint) error {
	return s.moveSet(ctx, id, base, forward)
}

// moveSet shows another version of a set.
func (s *Store) moveSet(ctx context.Context, id, base uint, to direction) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		var r SetRow
		if err := tx.Take(&r, id).Error; err != nil {
			return err
		}
		if err := freshSet(tx, id, base); err != nil {
			return err
		}
		v, err := to(chain{aSet, id}, tx, r.HeadID)
		if err != nil {
			return err
		}
		d, err := readSet(v)
		if err != nil {
			return fmt.Errorf("version %d of the set %s: %w", v.ID, r.Name, err)
		}
		if err := freeSetName(tx, id, d.Name); err != nil {
			return err
		}
		r.Name, r.HeadID = d.Name, v.ID
		return tx.Save(&r).Error
	})
}

// freeSetName refuses a name that another set has.
func freeSetName(tx *gorm.DB, id uint, name string) error {
	var others []SetRow
	if err := tx.Where("id <> ?", id).Find(&others).Error; err != nil {
		return err
	}
	for _, o := range others {
		if strings.EqualFold(o.Name, name) {
			return refuse.With("there is another set %s now; rename that one first", o.Name)
		}
	}
	return nil
}

// DeleteSet takes a set out of the notebook, and RestoreSet brings it back; its licks stay where they are.
func (s *Store) DeleteSet(ctx context.Context, id uint) error {
	return s.write(ctx, func(tx *gorm.DB) error { return one(tx.Delete(&SetRow{}, id)) })
}

// RestoreSet brings a set back, unless another has its name now.
func (s *Store) RestoreSet(ctx context.Context, id uint) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		var r SetRow
		if err := tx.Unscoped().Where("deleted_at IS NOT NULL").Take(&r, id).Error; err != nil {
			return err
		}
		if err := freeSetName(tx, id, r.Name); err != nil {
			return err
		}
		return tx.Unscoped().Model(&SetRow{}).Where("id = ?", id).Update("deleted_at", nil).Error
	})
}

// Arriving is a lick of a set that comes from another notebook.
type Arriving struct {
	Key  string
	Lick lick.Lick
}

// Arrived is what became of a set that came from another notebook.
type Arrived struct {
	Set     Set
	New     bool // the set was not here
	Added   int  // licks
	Changed int  // licks that have a newer version now
	Beside  int  // licks that were changed here too: the version that came is kept beside the one that is shown
}

// Same says that nothing changed: all of it was here.
func (a Arrived) Same() bool { return !a.New && a.Added+a.Changed+a.Beside == 0 }

// fromSet begins what history says of a version that came with a set.
const fromSet = "from the set "

// TakeSet takes in a set with its licks, all or nothing; its items name the licks by their places in the list, from 1.
// A lick that is here, told by its key, gets the version that came if it is a new one: in front where what is shown
// came with a set too, else beside what was made of it here. So taking a set in twice changes nothing, and nothing that
// was changed here is lost.
func (s *Store) TakeSet(ctx context.Context, x Set, licks []Arriving) (Arrived, error) {
	var out Arrived
	if err := x.Check(); err != nil {
		return out, err
	}
	err := s.write(ctx, func(tx *gorm.DB) error {
		ids := make([]uint, len(licks))
		for i, a := range licks {
			id, what, err := takeLick(tx, a, fromSet+x.Name)
			if err != nil {
				return err
			}
			ids[i] = id
			switch what {
			case lickAdded:
				out.Added++
			case lickChanged:
				out.Changed++
			case lickBeside:
				out.Beside++
			}
		}
		x.Items = slices.Clone(x.Items)
		for k := range x.Items {
			it := &x.Items[k]
			if it.Lick < 1 || int(it.Lick) > len(ids) {
				return refuse.With("number %d of the set names no lick", k+1)
			}
			it.Lick = ids[it.Lick-1]
			if from := it.From; from >= 1 && int(from) <= len(ids) {
				it.From = ids[from-1]
			} else {
				it.From = 0
			}
		}
		var rows []SetRow
		if err := tx.Unscoped().Where("key = ?", x.Key).Limit(1).Find(&rows).Error; err != nil {
			return err
		}
		if len(rows) == 0 {
			out.New = true
			return saveSetBeside(tx, &x)
		}
		x.ID = rows[0].ID
		if rows[0].DeletedAt.Valid {
			out.New = true
			if err := tx.Unscoped().Model(&SetRow{}).Where("id = ?", x.ID).Update("deleted_at", nil).Error; err != nil {
				return err
			}
		}
		return takeVersion(tx, &x, &out)
	})
	if err == nil {
		out.Set, err = s.SetOf(ctx, x.ID)
	}
	return out, err
}

// takeVersion adds what came to a set that is here, unless one of its versions says the same.
func takeVersion(tx *gorm.DB, x *Set, out *Arrived) error {
	var versions []Revision
	if err := (chain{aSet, x.ID}).revisions(tx).Order("id").Find(&versions).Error; err != nil {
		return err
	}
	comes, err := json.Marshal(setData{
		Kind:   x.Kind,
		Target: x.Target,
		Remark: x.Remark,
		Items:  append([]SetItem{}, x.Items...),
	})
	if err != nil {
		return err
	}
	for _, v := range versions {
		if d, err := readSet(v); err == nil {
			d.Name = "" // it may have another one here
			if has, err := json.Marshal(d); err == nil && bytes.Equal(has, comes) {
				return nil
			}
		}
	}
	out.New = true
	var row SetRow
	if err := tx.Take(&row, x.ID).Error; err != nil {
		return err
	}
	x.Name = row.Name
	return saveSet(tx, x)
}

// What became of a lick that came.
const (
	lickSame = iota
	lickAdded
	lickChanged
	lickBeside
)

// takeLick takes in a lick by its key.
func takeLick(tx *gorm.DB, a Arriving, what string) (id uint, became int, err error) {
	var rows []Lick
	if err := tx.Unscoped().Where("key = ?", a.Key).Limit(1).Find(&rows).Error; err != nil {
		return 0, 0, err
	}
	if len(rows) == 0 {
		c := NewChain(a.Lick, what, tx.NowFunc())
		c.Key = a.Key
		row, _, err := addChain(tx, c, a.Lick)
		return row.ID, lickAdded, err
	}
	row, data := rows[0], a.Lick.Encode()
	if row.DeletedAt.Valid {
		became = lickAdded
		if err := tx.Unscoped().Model(&Lick{}).Where("id = ?", row.ID).Update("deleted_at", nil).Error; err != nil {
			return 0, 0, err
		}
	}
	c := chain{aLick, row.ID}
	var revisions []Revision
	if err := c.revisions(tx).Order("id").Find(&revisions).Error; err != nil {
		return 0, 0, err
	}
	var head Revision
	for _, r := range revisions {
		if r.ID == row.HeadID {
			head = r
		}
		has, err := unpacked(r.Data)
		if err != nil {
			continue // a version that cannot be read is not the one that came
		}
		if bytes.Equal(has, data) {
			return row.ID, became, nil
		}
		if l, err := lick.Parse(has); err == nil && bytes.Equal(l.Bare().Encode(), data) {
			return row.ID, became, nil
		}
	}
	beside := !strings.HasPrefix(head.What, fromSet)
	r, err := c.add(tx, head.ID, data, what, beside)
	if err != nil {
		return 0, 0, err
	}
	if beside {
		return row.ID, lickBeside, nil
	}
	row.DeletedAt = gorm.DeletedAt{}
	return row.ID, lickChanged, show(tx, &row, r.ID, a.Lick)
}

// LickKeys are the keys of licks by their numbers, of those that were deleted too.
func (s *Store) LickKeys(ctx context.Context) (map[uint]string, error) {
	rows, err := all[Lick](s.db.WithContext(ctx).Unscoped().Select("id", "key"), "list licks")
	if err != nil {
		return nil, err
	}
	out := make(map[uint]string, len(rows))
	for _, r := range rows {
		out[r.ID] = r.Key
	}
	return out, nil
}
