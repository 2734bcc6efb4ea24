package main

import (
	"bytes"
	"context"
	"flag"
	"fmt"
	"os"
	"time"

	"ornamen/internal/archive"
	"ornamen/internal/store"
)

// onNotebook reads the one file that a command names, and which notebook is meant.
func onNotebook(args []string, what string) (file, db string, err error) {
	fs := newFlags()
	return notebookArgs(fs, fs.String("db", "", ""), args, what)
}

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

func exportAll(ctx context.Context, e env, args []string) error {
	file, s, err := toRead(args, "the zip to write")
	if err != nil {
		return err
	}
	defer s.Close()
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

func importAll(ctx context.Context, e env, args []string) error {
	file, db, err := onNotebook(args, "the zip to read")
	if err != nil {
		return err
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
