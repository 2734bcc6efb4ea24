package store

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"github.com/go-gormigrate/gormigrate/v2"
	"gorm.io/gorm"

	"ornamen/core/lick"
)

// migrations brings a notebook up to date, step by step. A step is never changed once it has been released: a notebook
// that took it has what it said then. Steps are written in SQL and not by the models, which change with the program.
//
// A new one is a row at the end. What it changes in the data it does in Go within the same transaction, as 0005 does,
// with code that reads every row that an older program could have written.
var migrations = []*gormigrate.Migration{
	{ID: "0001-licks", Migrate: statements(
		`CREATE TABLE licks (id INTEGER PRIMARY KEY AUTOINCREMENT, title TEXT NOT NULL,
		head_id INTEGER NOT NULL DEFAULT 0,
			created_at DATETIME NOT NULL, updated_at DATETIME NOT NULL, deleted_at DATETIME)`,
		`CREATE INDEX idx_licks_deleted_at ON licks(deleted_at)`,
		`CREATE TABLE revisions (id INTEGER PRIMARY KEY AUTOINCREMENT, lick_id INTEGER NOT NULL REFERENCES licks(id),
			parent_id INTEGER REFERENCES revisions(id), data BLOB NOT NULL, what TEXT NOT NULL,
			aside BOOLEAN NOT NULL DEFAULT 0, created_at DATETIME NOT NULL)`,
		`CREATE INDEX idx_revisions_lick_id ON revisions(lick_id)`,
		`CREATE INDEX idx_revisions_parent_id ON revisions(parent_id)`,
	)},
	{ID: "0002-palettes", Migrate: statements(
		`CREATE TABLE palettes (id INTEGER PRIMARY KEY AUTOINCREMENT, name TEXT NOT NULL UNIQUE,
		tonic TEXT NOT NULL, scale TEXT NOT NULL,
			added TEXT NOT NULL, dropped TEXT NOT NULL, created_at DATETIME NOT NULL)`,
	)},
	{ID: "0003-players", Migrate: statements(
		`CREATE TABLE players (id INTEGER PRIMARY KEY AUTOINCREMENT, data BLOB NOT NULL, created_at DATETIME NOT NULL)`,
	)},
	{ID: "0004-recipes", Migrate: statements(
		`CREATE TABLE recipes (id INTEGER PRIMARY KEY AUTOINCREMENT, name TEXT NOT NULL UNIQUE, line TEXT NOT NULL, ` +
			`created_at DATETIME NOT NULL)`,
	)},
	{ID: "0005-finding", Migrate: func(tx *gorm.DB) error {
		// A lick is found by its words and tags, and its judgement is kept.
		err := statements(
			`ALTER TABLE licks ADD COLUMN words TEXT NOT NULL DEFAULT ''`,
			`ALTER TABLE licks ADD COLUMN sorted TEXT NOT NULL DEFAULT ''`,
			`CREATE INDEX idx_licks_updated ON licks(updated_at DESC, id DESC) WHERE deleted_at IS NULL`,
			`CREATE INDEX idx_licks_sorted ON licks(sorted, id) WHERE deleted_at IS NULL`,
			`CREATE TABLE tags (lick_id INTEGER NOT NULL REFERENCES licks(id), tag TEXT NOT NULL, PRIMARY KEY (tag, `+
				`lick_id)) WITHOUT ROWID`,
			`CREATE INDEX idx_tags_lick_id ON tags(lick_id)`,
			`CREATE TABLE summaries (lick_id INTEGER PRIMARY KEY REFERENCES licks(id),
			revision_id INTEGER NOT NULL, player TEXT NOT NULL,
				severity INTEGER NOT NULL, margin REAL NOT NULL, notes INTEGER NOT NULL)`,
			`CREATE TABLE rows (lick_id INTEGER PRIMARY KEY REFERENCES licks(id), data BLOB NOT NULL)`,
		)(tx)
		if err != nil {
			return err
		}
		return foundByWords(tx)
	}},
	{ID: "0006-changes", Migrate: statements(
		`CREATE TABLE changes (id INTEGER PRIMARY KEY AUTOINCREMENT, name TEXT NOT NULL UNIQUE, line TEXT NOT NULL, ` +
			`created_at DATETIME NOT NULL)`,
	)},
	{ID: "0007-played", Migrate: statements(
		`CREATE TABLE played (id INTEGER PRIMARY KEY AUTOINCREMENT, lick_id INTEGER NOT NULL, title TEXT NOT NULL,
			revision_id INTEGER NOT NULL, part TEXT NOT NULL, first INTEGER NOT NULL, last INTEGER NOT NULL,
			tempo REAL NOT NULL, clean INTEGER NOT NULL, missed INTEGER NOT NULL, note INTEGER NOT NULL,
			minutes REAL NOT NULL, comfort TEXT NOT NULL, picking REAL NOT NULL, fretting REAL NOT NULL,
			at DATETIME NOT NULL)`,
		`CREATE INDEX idx_played_at ON played(at)`,
	)},
	{ID: "0008-margins", Migrate: statements(`ALTER TABLE played ADD COLUMN reach REAL NOT NULL DEFAULT 0`,
		`ALTER TABLE played ADD COLUMN bends REAL NOT NULL DEFAULT 0`,
		`ALTER TABLE played ADD COLUMN move TEXT NOT NULL DEFAULT ''`)},
	{ID: "0009-days", Migrate: statements(
		`ALTER TABLE played ADD COLUMN zone INTEGER`,
		`CREATE TABLE set_aside (id INTEGER PRIMARY KEY AUTOINCREMENT, data TEXT NOT NULL, created_at DATETIME NOT NULL)`,
	)},
	{ID: "0010-habits", Migrate: statements(`ALTER TABLE summaries ADD COLUMN corrected TEXT NOT NULL DEFAULT ''`)},
	{ID: "0011-kinds", Migrate: statements(`ALTER TABLE played ADD COLUMN kind TEXT NOT NULL DEFAULT ''`)},
	{ID: "0012-devices", Migrate: statements(
		`CREATE TABLE devices (id INTEGER PRIMARY KEY AUTOINCREMENT, name TEXT NOT NULL, hash BLOB NOT NULL UNIQUE,
			created_at DATETIME NOT NULL, seen_at DATETIME NOT NULL)`,
	)},
	{ID: "0013-several", Migrate: statements(
		// What was the player becomes the settings of the first of several. Judgements are made anew for each.
		`ALTER TABLE players RENAME TO settings`,
		`ALTER TABLE settings ADD COLUMN player_id INTEGER NOT NULL DEFAULT 1`,
		`CREATE TABLE players (id INTEGER PRIMARY KEY AUTOINCREMENT, key TEXT NOT NULL UNIQUE, name TEXT NOT NULL,
			source TEXT NOT NULL DEFAULT '', created_at DATETIME NOT NULL, deleted_at DATETIME)`,
		`INSERT INTO players (id, key, name, created_at)
			VALUES (1, lower(hex(randomblob(8))), 'Player 1', strftime('%Y-%m-%d %H:%M:%S+00:00', 'now'))`,
		`ALTER TABLE played ADD COLUMN player_id INTEGER NOT NULL DEFAULT 1`,
		`CREATE INDEX idx_played_player ON played(player_id, id)`,
		`ALTER TABLE licks ADD COLUMN key TEXT NOT NULL DEFAULT ''`,
		`UPDATE licks SET key = lower(hex(randomblob(8)))`,
		`CREATE UNIQUE INDEX idx_licks_key ON licks(key)`,
		`DROP TABLE summaries`,
		`CREATE TABLE summaries (lick_id INTEGER NOT NULL REFERENCES licks(id), player_id INTEGER NOT NULL,
			revision_id INTEGER NOT NULL, player TEXT NOT NULL, severity INTEGER NOT NULL, margin REAL NOT NULL,
			notes INTEGER NOT NULL, corrected TEXT NOT NULL DEFAULT '', PRIMARY KEY (player_id, lick_id)) WITHOUT ROWID`,
		`DROP TABLE rows`,
		`CREATE TABLE rows (lick_id INTEGER NOT NULL REFERENCES licks(id), player_id INTEGER NOT NULL,
			data BLOB NOT NULL, PRIMARY KEY (player_id, lick_id))`,
		`CREATE TABLE sets (id INTEGER PRIMARY KEY AUTOINCREMENT, key TEXT NOT NULL UNIQUE, name TEXT NOT NULL,
			created_at DATETIME NOT NULL, updated_at DATETIME NOT NULL, deleted_at DATETIME)`,
		`CREATE TABLE set_versions (id INTEGER PRIMARY KEY AUTOINCREMENT, set_id INTEGER NOT NULL REFERENCES sets(id),
			data BLOB NOT NULL, created_at DATETIME NOT NULL)`,
		`CREATE INDEX idx_set_versions ON set_versions(set_id, id)`,
	)},
	{ID: "0014-chords", Migrate: foundByChords},
	{ID: "0015-history", Migrate: statements(
		// Licks, sets and settings have one history of one shape: a head, and revisions that name those before them.
		`ALTER TABLE revisions RENAME TO lick_revisions`,
		`CREATE TABLE revisions (id INTEGER PRIMARY KEY AUTOINCREMENT, kind TEXT NOT NULL, owner_id INTEGER NOT NULL,
			parent_id INTEGER REFERENCES revisions(id), data BLOB NOT NULL, what TEXT NOT NULL DEFAULT '',
			aside BOOLEAN NOT NULL DEFAULT 0, created_at DATETIME NOT NULL)`,
		`INSERT INTO revisions (id, kind, owner_id, parent_id, data, what, aside, created_at)
			SELECT id, 'lick', lick_id, parent_id, data, what, aside, created_at FROM lick_revisions ORDER BY id`,
		`DROP TABLE lick_revisions`,
		`INSERT INTO revisions (kind, owner_id, data, created_at)
			SELECT 'set', set_id, data, created_at FROM set_versions ORDER BY id`,
		`INSERT INTO revisions (kind, owner_id, data, created_at)
			SELECT 'player', player_id, data, created_at FROM settings ORDER BY id`,
		`CREATE INDEX idx_revisions_owner ON revisions(kind, owner_id, id)`,
		`CREATE INDEX idx_revisions_parent ON revisions(parent_id)`,
		`UPDATE revisions SET parent_id = (SELECT MAX(r.id) FROM revisions r WHERE r.kind = revisions.kind
			AND r.owner_id = revisions.owner_id AND r.id < revisions.id) WHERE kind <> 'lick'`,
		`ALTER TABLE sets ADD COLUMN head_id INTEGER NOT NULL DEFAULT 0`,
		`UPDATE sets SET head_id = COALESCE((SELECT MAX(id) FROM revisions WHERE kind = 'set' AND owner_id = sets.id), 0)`,
		`ALTER TABLE players ADD COLUMN head_id INTEGER NOT NULL DEFAULT 0`,
		`UPDATE players SET head_id =
			COALESCE((SELECT MAX(id) FROM revisions WHERE kind = 'player' AND owner_id = players.id), 0)`,
		`DROP TABLE set_versions`,
		`DROP TABLE settings`,
		// The log only grows: a correction is a row that names the one it replaces. What was read in from a file can be
		// taken back as a whole.
		`ALTER TABLE played ADD COLUMN replaces INTEGER`,
		`CREATE UNIQUE INDEX idx_played_replaces ON played(replaces) WHERE replaces IS NOT NULL`,
		`ALTER TABLE played ADD COLUMN reading_id INTEGER NOT NULL DEFAULT 0`,
		`CREATE INDEX idx_played_reading ON played(reading_id) WHERE reading_id > 0`,
		`CREATE TABLE readings (id INTEGER PRIMARY KEY AUTOINCREMENT, player_id INTEGER NOT NULL, name TEXT NOT NULL,
			added INTEGER NOT NULL, source TEXT NOT NULL, before TEXT NOT NULL, created_at DATETIME NOT NULL,
			back_at DATETIME)`,
		// What names this notebook and no copy of it; see Notebook.
		`CREATE TABLE notebook (key TEXT NOT NULL, place TEXT NOT NULL)`,
	)},
}

// foundByWords writes what licks are found by as 0005 knew it: title, tones in words and in signs, tags. It reads
// columns by name and not today's models, which go on; a lick that cannot be read is found by its title.
func foundByWords(tx *gorm.DB) error {
	type found struct {
		id    uint
		title string
		tags  []string
		words string
	}
	rows, err := tx.Raw(`SELECT licks.id, licks.title, revisions.data FROM licks
		LEFT JOIN revisions ON revisions.id = licks.head_id`).Rows()
	if err != nil {
		return err
	}
	defer rows.Close()
	var list []found
	for rows.Next() {
		var f found
		var data []byte
		if err := rows.Scan(&f.id, &f.title, &data); err != nil {
			return err
		}
		f.words = f.title
		if plainData, err := unpacked(data); err == nil {
			if l, err := lick.Parse(plainData); err == nil {
				f.title, f.tags = l.Title, l.Tags
				f.words = strings.Join(append([]string{l.Title, l.TonesText(), l.Key.Tonic + " " + l.Key.Scale}, l.Tags...), "\n")
			}
		}
		list = append(list, f)
	}
	if err := errors.Join(rows.Err(), rows.Close()); err != nil {
		return err
	}
	for _, f := range list {
		if err := tx.Exec("UPDATE licks SET words = ?, sorted = ? WHERE id = ?", folded(f.words), folded(f.title),
			f.id).Error; err != nil {
			return err
		}
		for _, tag := range f.tags {
			if err := tx.Exec("INSERT OR IGNORE INTO tags (lick_id, tag) VALUES (?, ?)", f.id, tag).Error; err != nil {
				return err
			}
		}
	}
	return nil
}

// foundByChords has the licks that are there be found by their chords as well: a line more among their words. It reads
// columns by name and not today's models, which go on.
func foundByChords(tx *gorm.DB) error {
	rows, err := tx.Raw("SELECT licks.id, revisions.data FROM licks JOIN revisions ON revisions.id = licks.head_id").Rows()
	if err != nil {
		return err
	}
	found := map[uint]string{}
	for rows.Next() {
		var id uint
		var data []byte
		if err := rows.Scan(&id, &data); err != nil {
			rows.Close()
			return err
		}
		plainData, err := unpacked(data)
		if err != nil {
			continue // what cannot be read is found as before
		}
		if l, err := lick.Parse(plainData); err == nil && len(l.Chords) > 0 {
			found[id] = chordsOf(l)
		}
	}
	if err := rows.Close(); err != nil {
		return err
	}
	for id, chords := range found {
		if err := tx.Exec("UPDATE licks SET words = words || ? WHERE id = ?", folded("\n"+chords), id).Error; err != nil {
			return err
		}
	}
	return nil
}

// statements is a migration that runs SQL one after the other.
func statements(list ...string) gormigrate.MigrateFunc {
	return func(tx *gorm.DB) error {
		for _, q := range list {
			if err := tx.Exec(q).Error; err != nil {
				return err
			}
		}
		return nil
	}
}

// done lists the steps that a file has taken.
func (s *Store) done() ([]string, error) {
	var ids []string
	if !s.db.Migrator().HasTable("migrations") {
		return nil, nil
	}
	return ids, plain(s.db.Raw("SELECT id FROM migrations").Scan(&ids).Error)
}

// known refuses a file with steps that this program does not know. A newer program may keep what this one would lose.
func (s *Store) known() error {
	ids, err := s.done()
	for _, id := range ids {
		if !slices.ContainsFunc(migrations, func(m *gormigrate.Migration) bool { return m.ID == id }) {
			return ErrNewer
		}
	}
	return err
}

// migrate takes the steps that are missing, all or none. What was in the file before is copied
// first, under a name that says when: who wants to go back has that file and the older program.
// A new file takes them all and needs no copy. An error leaves the file as it was found.
func (s *Store) migrate(existed bool) error {
	if err := s.known(); err != nil {
		return err
	}
	ids, err := s.done()
	if err != nil || len(ids) == len(migrations) {
		return err
	}
	if s.ReadOnly {
		return s.updatedCopy()
	}
	if existed && len(ids) > 0 {
		if err := s.copyTo(context.Background(), fmt.Sprintf("%s.before-upgrade-%s", s.path, s.stamp())); err != nil {
			return fmt.Errorf("copy it before the upgrade: %w", err)
		}
	}
	return s.upgrade()
}

// upgrade takes the steps that are missing.
func (s *Store) upgrade() error {
	options := *gormigrate.DefaultOptions
	options.UseTransaction = true // a kill leaves the file as it was
	return plain(gormigrate.New(s.db, &options, migrations).Migrate())
}
