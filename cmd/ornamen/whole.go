package main

import (
	"context"
	"fmt"
	"time"

	"github.com/spf13/pflag"

	"ornamen/internal/store"
)

// onNotebook reads the one file that a command names, and which notebook is meant.
func onNotebook(args []string, what string) (file, db string, err error) {
	fs := newFlags()
	return notebookArgs(fs, fs.String("db", "", "`FILE` the notebook; the one in the player's own folder"), args, what)
}

// notebookArgs reads the one file that these commands name, and which notebook is meant.
func notebookArgs(fs *pflag.FlagSet, named *string, args []string, what string) (file, db string, err error) {
	rest, err := parse(fs, args, 1, what)
	if err != nil {
		return "", "", err
	}
	db, err = notebookFile(*named)
	return rest[0], db, err
}

// toRead is a file's name and the notebook, opened to be read.
func toRead(args []string, what string, now func() time.Time) (file string, s *store.Store, err error) {
	file, db, err := onNotebook(args, what)
	if err != nil {
		return "", nil, err
	}
	s, err = store.OpenToRead(db, now)
	return file, s, err
}

// backup copies the whole notebook into one file while it may be in use: one state of it,
// whatever is written meanwhile. A file that is there is not replaced.
func backup(ctx context.Context, e env, args []string) error {
	file, s, err := toRead(args, "the file to write", e.now)
	if err != nil {
		return err
	}
	defer s.Close()
	if err := s.Backup(ctx, file); err != nil {
		return err
	}
	fmt.Fprintln(e.out, "the notebook is backed up to", file)
	return nil
}

// restore puts a copy in the notebook's place and keeps what was there beside it.
func restore(_ context.Context, e env, args []string) error {
	file, db, err := onNotebook(args, "the backup to put back")
	if err != nil {
		return err
	}
	kept, err := store.Restore(file, db, e.now)
	if err != nil {
		return err
	}
	fmt.Fprintln(e.out, "the notebook is", file, "now")
	if kept != "" {
		fmt.Fprintln(e.out, "what was there before is kept as", kept)
	}
	return nil
}
