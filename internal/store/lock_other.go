//go:build !linux

package store

import (
	"fmt"
	"os"
	"path/filepath"
	"reflect"

	"github.com/gofrs/flock"
)

// identityLock is a lock for the file itself, whatever name it was opened by: a lock file named by device and number of
// the file, where the system gives them. Here a lock on the file would meet those of SQLite.
func identityLock(_ string, info os.FileInfo) *flock.Flock {
	sys := reflect.Indirect(reflect.ValueOf(info.Sys()))
	if sys.Kind() != reflect.Struct || !sys.FieldByName("Ino").IsValid() || !sys.FieldByName("Dev").IsValid() {
		return nil
	}
	name := fmt.Sprintf("ornamen-%v-%v.lock", sys.FieldByName("Dev"), sys.FieldByName("Ino"))
	return flock.New(filepath.Join(os.TempDir(), name))
}

// claimed marks a file in the making as in use; here its age says so.
func claimed(string) (free func()) { return func() {} }

// abandoned says whether a file in the making is so old that nobody makes it any more.
func abandoned(_ string, info os.FileInfo, now int64) bool { return now-info.ModTime().Unix() > 3600 }
