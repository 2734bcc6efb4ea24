package main

import (
	"bytes"
	"context"
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"time"

	"ornamen/internal/archive"
	"ornamen/internal/store"
)

// onNotebook reads the one file that a command names, and which notebook is meant.
func onNotebook(args []string, what string) (file, db string, err error) {
	fs := newFlags()
	return notebookArgs(fs, fs.String("db", "", ""), args, what)
}

// notebookArgs reads the one file that these commands name, and which notebook is meant.
func notebookArgs(fs *flag.FlagSet, named *string, args []string, what string) (file, db string, err error) {
	rest, err := parse(fs, args, 1, what)
	if err != nil {
		return "", "", err
	}
	db, err = notebookFile(*named)
	return rest[0], db, err
}

// toRead is a file's name and the notebook, opened to be read.
func toRead(args []string, what string) (file string, s *store.Store, err error) {
	file, db, err := onNotebook(args, what)
	if err != nil {
		return "", nil, err
	}
	s, err = store.OpenToRead(db)
	return file, s, err
}

// backup copies the whole notebook into one file while it may be in use.
func backup(ctx context.Context, e env, args []string) error {
	file, s, err := toRead(args, "the file to write")
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
	kept, err := store.Restore(file, db, time.Now)
	if err != nil {
		return err
	}
	fmt.Fprintln(e.out, "the notebook is", file, "now")
	if kept != "" {
		fmt.Fprintln(e.out, "what was there before is kept as", kept)
	}
	return nil
}

// exportCommand writes one lick of the notebook as a file, or the notebook as a zip of plain
// files.
func exportCommand(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	named, version := fs.String("lick", "", ""), fs.Uint("version", 0, "")
	file, db, err := notebookArgs(fs, fs.String("db", "", ""), args, "the file to write")
	if err != nil {
		return err
	}
	s, err := store.OpenToRead(db)
	if err != nil {
		return err
	}
	defer s.Close()
	if *named != "" {
		return exportLick(ctx, e, s, file, *named, *version)
	}
	var b bytes.Buffer
	n, err := archive.Write(ctx, &b, s)
	if err != nil {
		return err
	}
	if err := write(file, b.Bytes()); err != nil {
		return err
	}
	fmt.Fprintf(e.out, "%s written to %s\n", plural(n, "lick"), file)
	return nil
}

// importCommand adds a lick file to the notebook, or everything of such a zip, or nothing of
// it.
func importCommand(ctx context.Context, e env, args []string) error {
	file, db, err := onNotebook(args, "the file to read")
	if err != nil {
		return err
	}
	if !strings.EqualFold(filepath.Ext(file), ".zip") {
		return importLick(ctx, e, file, db)
	}
	f, err := os.Open(file)
	if err != nil {
		return fmt.Errorf("%s cannot be read: %w", file, unwrapPath(err))
	}
	defer f.Close()
	info, err := f.Stat()
	if err != nil {
		return fmt.Errorf("%s cannot be read: %w", file, unwrapPath(err))
	}
	s, err := store.Open(db, time.Now)
	if err != nil {
		return err
	}
	defer s.Close()
	n, err := archive.Read(ctx, f, info.Size(), s)
	if err != nil {
		return fmt.Errorf("%s: %w", file, err)
	}
	fmt.Fprintf(e.out, "%s added\n", plural(n, "lick"))
	return nil
}
