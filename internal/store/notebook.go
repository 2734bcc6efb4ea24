package store

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"os"
	"path/filepath"
	"strings"

	"gorm.io/gorm"
)

// Notebook names this notebook and no copy of it: a key that is drawn anew where the file lies in another place than
// when it was drawn, on another machine or under another name. So a student who began from a copy of the teacher's
// notebook is told from the teacher, though both have the keys of the same players.
func (s *Store) Notebook(ctx context.Context) (key string, err error) {
	err = s.db.WithContext(ctx).Raw("SELECT key FROM notebook").Row().Scan(&key)
	return key, plain(err)
}

// identify draws the notebook's key anew where its file lies in another place.
func (s *Store) identify() error {
	place := placeOf(s.path)
	var known []string
	if err := s.db.Table("notebook").Pluck("place", &known).Error; err != nil {
		return plain(err)
	}
	if len(known) == 1 && known[0] == place {
		return nil
	}
	return s.write(context.Background(), func(tx *gorm.DB) error {
		if err := tx.Exec("DELETE FROM notebook").Error; err != nil {
			return err
		}
		return tx.Exec("INSERT INTO notebook (key, place) VALUES (?, ?)", newKey(), place).Error
	})
}

// placeOf is where a file lies, as a number that tells nothing of it: the machine, as far as it names itself, and the
// path.
func placeOf(path string) string {
	if abs, err := filepath.Abs(path); err == nil {
		path = abs
	}
	host, _ := os.Hostname()
	machine, _ := os.ReadFile("/etc/machine-id")
	sum := sha256.Sum256([]byte(strings.Join([]string{host, string(machine), path}, "\x00")))
	return hex.EncodeToString(sum[:8])
}
