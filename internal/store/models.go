package store

import (
	"time"

	"gorm.io/gorm"
)

// Lick is a lick of the notebook: its newest revision, and nothing of its content, which lives in the revisions.
type Lick struct {
	ID        uint
	Key       string // names the lick beyond this notebook
	Title     string // of the newest revision, for sorting and finding
	HeadID    uint   // the revision that is shown
	Words     string `gorm:"->"` // what it is found by; index writes it
	Sorted    string `gorm:"->"` // the title as it is sorted
	CreatedAt time.Time
	UpdatedAt time.Time
	DeletedAt gorm.DeletedAt `gorm:"index"`
}

// Summary is a lick of the notebook as its row shows it, judged for one player.
type Summary struct {
	LickID     uint    `gorm:"primaryKey;autoIncrement:false"`
	PlayerID   uint    `gorm:"primaryKey;autoIncrement:false"`
	RevisionID uint    // that was judged
	Player     string  // what it was judged by: the player's settings and the model of the day
	Severity   int     // of the verdict, the worst highest
	Margin     float64 // ceiling over tempo, for sorting
	Notes      int
	Corrected  string // the fingers that the player set otherwise than is usual, one a line
	// What the row shows, written by the screen; in a table of its own, so that counting need not read it.
	Data []byte `gorm:"-"`
}

// Palette is a set of tones saved by name.
type Palette struct {
	ID        uint
	Name      string // unique
	Tonic     string
	Scale     string // a name or a row of degrees
	Added     string // as typed: "9, b5@down"
	Dropped   string
	CreatedAt time.Time
}
