package store

import (
	"os"

	"github.com/gofrs/flock"
)

// identityLock is a lock on the file itself, whatever name it was opened by. On Linux such a lock
// and those that SQLite takes do not see each other.
func identityLock(path string, _ os.FileInfo) *flock.Flock {
	return flock.New(path, flock.SetFlag(os.O_RDWR))
}

// claimed marks a file in the making as in use until it is given free, so that abandoned does not
// take it for one that a killed program has left.
func claimed(name string) (free func()) {
	l := flock.New(name, flock.SetFlag(os.O_RDWR))
	if ok, err := l.TryLock(); err != nil || !ok {
		return func() {}
	}
	return func() { l.Close() }
}

// abandoned says whether nobody is making a file any more.
func abandoned(name string, _ os.FileInfo, _ int64) bool {
	l := flock.New(name, flock.SetFlag(os.O_RDWR))
	ok, err := l.TryLock()
	l.Close()
	return ok && err == nil
}
