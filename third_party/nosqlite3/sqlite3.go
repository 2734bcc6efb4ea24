// Package sqlite3 stands for the SQLite that needs cgo. GORM's driver imports it for its name alone; the notebook is
// opened by the driver named "sqlite" of modernc.org/sqlite, so that no build, not even one for the race detector,
// links SQLite twice.
package sqlite3
