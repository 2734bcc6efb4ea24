package store

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"ornamen/core/lick"
)

// Order is how the notebook is sorted.
type Order string

// The orders.
const (
	LastTouched Order = ""
	WorstFirst  Order = "worst"
	ByTitle     Order = "title"
)

// Query asks for a part of the notebook. The zero value asks for all of it, the last touched
// first, and a Limit of 0 for no row.
type Query struct {
	Find   string // words that must all occur
	Tag    string
	Order  Order
	Who    uint   // whose judgements
	Player string // what they were judged by
	Limit  int
	Offset int
}

// Row is a lick of a list. Summary is nil while it has not been judged for the player at this revision.
type Row struct {
	ID       uint
	Revision uint
	Title    string
	Touched  time.Time
	Summary  *Summary
}

// chordsOf names the chords under a lick, each once.
func chordsOf(l lick.Lick) string {
	var names []string
	for _, c := range l.Chords {
		if !slices.Contains(names, c.Name) {
			names = append(names, c.Name)
		}
	}
	return strings.Join(names, " ")
}

// index writes what a lick is found by: title, tones in words and in signs, chords, tags. It is part of
// every write of a lick, in the same transaction, so that what is found is what is there.
func index(tx *gorm.DB, id uint, l lick.Lick) error {
	words := strings.Join(
		append([]string{l.Title, l.TonesText(), l.Key.Tonic + " " + l.Key.Scale, chordsOf(l)}, l.Tags...),
		"\n",
	)
	if err := tx.Exec("UPDATE licks SET words = ?, sorted = ? WHERE id = ?", folded(words), folded(l.Title),
		id).Error; err != nil {
		return err
	}
	if err := tx.Exec("DELETE FROM tags WHERE lick_id = ?", id).Error; err != nil {
		return err
	}
	for _, t := range l.Tags {
		if err := tx.Exec("INSERT OR IGNORE INTO tags (lick_id, tag) VALUES (?, ?)", id, t).Error; err != nil {
			return err
		}
	}
	return nil
}

// folded is text as it is compared: small letters, signs as they are typed. A player who types "b5" finds ♭5.
func folded(s string) string {
	return strings.NewReplacer("♯", "#", "♭", "b", "♮", "").Replace(strings.ToLower(s))
}

// matching is the licks that a query asks for. Every word must stand somewhere in what a lick
// is found by: a scan without an index, 5 ms for ten thousand licks, that finds the middle of
// words too, as a player who types "tern" for Lantern expects.
func (s *Store) matching(ctx context.Context, q Query) *gorm.DB {
	db := s.db.WithContext(ctx).Table("licks").Where("licks.deleted_at IS NULL")
	for _, w := range strings.Fields(folded(q.Find)) {
		db = db.Where("instr(licks.words, ?) > 0", w)
	}
	if q.Tag != "" {
		db = db.Where("licks.id IN (SELECT lick_id FROM tags WHERE tag = ?)", q.Tag)
	}
	return db
}

// joinSummaries puts what a row shows beside each lick, if it was worked out for the version that is shown.
const joinSummaries = "LEFT JOIN summaries ON summaries.lick_id = licks.id AND summaries.player_id = ? AND " +
	"summaries.revision_id = licks.head_id AND summaries.player = ?"

// List gives one page of the notebook. Rows that were not judged yet stand last in the order of the worst.
func (s *Store) List(ctx context.Context, q Query) ([]Row, error) {
	order := map[Order]string{LastTouched: "licks.updated_at DESC, licks.id DESC", ByTitle: "licks.sorted, licks.id",
		WorstFirst: "summaries.severity IS NULL, summaries.severity DESC, summaries.margin, licks.id"}[q.Order]
	if order == "" {
		order = "licks.updated_at DESC, licks.id DESC"
	}
	var found []struct {
		ID, HeadID uint
		Title      string
		UpdatedAt  time.Time
		Judged     *uint
		Severity   int
		Margin     float64
		Notes      int
	}
	err := s.matching(ctx, q).Joins(joinSummaries, q.Who, q.Player).
		Select("licks.id, licks.head_id, licks.title, licks.updated_at, summaries.revision_id AS judged, " +
			"summaries.severity, summaries.margin, summaries.notes").
		Order(order).Limit(q.Limit).Offset(q.Offset).Scan(&found).Error
	if err != nil {
		return nil, fmt.Errorf("list licks: %w", plain(err))
	}
	out := make([]Row, len(found))
	ids := make([]uint, len(found))
	for i, f := range found {
		ids[i] = f.ID
	}
	data, err := drawn(s.db.WithContext(ctx), q.Who, ids)
	if err != nil {
		return nil, err
	}
	for i, f := range found {
		out[i] = Row{ID: f.ID, Revision: f.HeadID, Title: f.Title, Touched: f.UpdatedAt}
		if f.Judged != nil {
			out[i].Summary = &Summary{LickID: f.ID, PlayerID: q.Who, RevisionID: f.HeadID, Player: q.Player,
				Severity: f.Severity, Margin: f.Margin, Notes: f.Notes, Data: data[f.ID]}
		}
	}
	return out, nil
}

// drawn reads what the rows of licks show for a player.
func drawn(db *gorm.DB, who uint, ids []uint) (map[uint][]byte, error) {
	out := map[uint][]byte{}
	for some := range slices.Chunk(ids, 1000) { // SQLite takes some thousands of values in a statement
		var found []struct {
			LickID uint
			Data   []byte
		}
		if err := db.Table("rows").Where("player_id = ? AND lick_id IN ?", who, some).Scan(&found).Error; err != nil {
			return nil, fmt.Errorf("list licks: %w", plain(err))
		}
		for _, f := range found {
			out[f.LickID] = f.Data
		}
	}
	return out, nil
}

// Counts says how many licks a query finds, how many of them are judged for the
// player, and how many of those with notes there are of each severity.
type Counts struct {
	All, Judged int
	Of          map[int]int
}

// Count counts what a query finds; its page and order do not matter.
// One statement, so that the numbers belong together.
func (s *Store) Count(ctx context.Context, q Query) (Counts, error) {
	c := Counts{Of: map[int]int{}}
	var rows []struct {
		Severity *int
		Empty    bool
		N        int
	}
	err := s.matching(ctx, q).Joins(joinSummaries, q.Who, q.Player).
		Select("summaries.severity, summaries.notes = 0 AS empty, COUNT(*) AS n").
		Group("summaries.severity, summaries.notes = 0").Scan(&rows).Error
	if err != nil {
		return c, fmt.Errorf("count licks: %w", plain(err))
	}
	for _, r := range rows {
		c.All += r.N
		if r.Severity == nil {
			continue
		}
		c.Judged += r.N
		if !r.Empty {
			c.Of[*r.Severity] += r.N
		}
	}
	return c, nil
}

// Tags lists the tags in use by name, at most so many: those of most licks.
func (s *Store) Tags(ctx context.Context, most int) ([]string, error) {
	var names []string
	err := s.db.WithContext(ctx).Raw(`SELECT tag FROM tags JOIN licks ON licks.id = tags.lick_id AND
		licks.deleted_at IS NULL GROUP BY tag ORDER BY COUNT(*) DESC, tag LIMIT ?`, most).Scan(&names).Error
	if err != nil {
		return nil, fmt.Errorf("list tags: %w", plain(err))
	}
	slices.Sort(names)
	return names, nil
}

// Unjudged lists licks that have no summary for the player at their newest revision, the last touched first.
func (s *Store) Unjudged(ctx context.Context, who uint, player string, most int) ([]Row, error) {
	var found []Lick
	err := s.matching(ctx, Query{}).Joins(joinSummaries, who, player).Where("summaries.lick_id IS NULL").
		Select("licks.id, licks.head_id, licks.title, licks.updated_at").
		Order("licks.updated_at DESC, licks.id DESC").Limit(most).Scan(&found).Error
	if err != nil {
		return nil, fmt.Errorf("list licks to judge: %w", plain(err))
	}
	out := make([]Row, len(found))
	for i, l := range found {
		out[i] = Row{ID: l.ID, Revision: l.HeadID, Title: l.Title, Touched: l.UpdatedAt}
	}
	return out, nil
}

// Summarise keeps summaries, each in place of the lick's last one. A summary of an older revision that comes late is
// kept and never shown: a row asks for its own.
func (s *Store) Summarise(ctx context.Context, list []Summary) error {
	if len(list) == 0 {
		return nil
	}
	return s.write(ctx, func(tx *gorm.DB) error {
		for _, x := range list {
			if err := tx.Exec("INSERT OR REPLACE INTO rows (lick_id, player_id, data) VALUES (?, ?, ?)", x.LickID,
				x.PlayerID, x.Data).Error; err != nil {
				return err
			}
		}
		return tx.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "lick_id"}, {Name: "player_id"}},
			UpdateAll: true}).CreateInBatches(list, 100).Error
	})
}

// Corrections are the fingers that the player has set otherwise than is usual, as the summaries of
// the licks say that stand in the notebook; those of one lick may be left out.
func (s *Store) Corrections(ctx context.Context, who uint, player string, but uint) ([]string, error) {
	var found []string
	err := s.db.WithContext(ctx).Table("summaries").
		Joins("JOIN licks ON licks.id = summaries.lick_id AND licks.head_id = summaries.revision_id").
		Where("summaries.player_id = ? AND summaries.player = ? AND summaries.corrected <> '' AND "+
			"licks.deleted_at IS NULL AND licks.id <> ?", who, player, but).
		Order("licks.id").Pluck("summaries.corrected", &found).Error
	if err != nil {
		return nil, fmt.Errorf("list corrections: %w", plain(err))
	}
	var out []string
	for _, text := range found {
		out = append(out, strings.Split(text, "\n")...)
	}
	return out, nil
}

// SummaryOf is the last summary that was kept of a lick for a player, of whatever revision and settings; ok is false
// where there is none.
func (s *Store) SummaryOf(ctx context.Context, who, id uint) (sum Summary, ok bool, err error) {
	var found []Summary
	err = s.db.WithContext(ctx).Where("lick_id = ? AND player_id = ?", id, who).Limit(1).Find(&found).Error
	if err != nil {
		return sum, false, fmt.Errorf("lick %d: %w", id, plain(err))
	}
	if len(found) == 0 {
		return sum, false, nil
	}
	data, err := drawn(s.db.WithContext(ctx), who, []uint{id})
	found[0].Data = data[id]
	return found[0], err == nil, err
}
