package main

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"os"
	"path/filepath"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/player"
	"ornamen/format"
	"ornamen/internal/handover"
)

// open opens a file to be read.
func open(name string) (*os.File, error) {
	f, err := os.Open(name)
	if err != nil {
		return nil, unreadable(name, err)
	}
	return f, nil
}

// unreadable says that a file cannot be read, and why.
func unreadable(name string, err error) error {
	return fmt.Errorf("%s cannot be read: %w", name, unwrapPath(err))
}

// fileBytes are a file's content, one byte more than so many at most.
func fileBytes(name string, most int64) ([]byte, error) {
	f, err := open(name)
	if err != nil {
		return nil, err
	}
	defer f.Close()
	data, err := io.ReadAll(io.LimitReader(f, most+1))
	if err != nil {
		return nil, unreadable(name, err)
	}
	return data, nil
}

// read reads a lick file of any format by its name, for a player's guitar and hand; what was read otherwise than it
// stands there is said beside the answer, on standard error. line chooses among several, from 1.
func read(ctx context.Context, e env, p player.Player, name string, line int) (lick.Lick, error) {
	if _, err := format.ByFile(name); err != nil {
		return lick.Lick{}, err
	}
	data, err := fileBytes(name, lick.MaxBytes)
	if err != nil {
		return lick.Lick{}, err
	}
	r, err := handover.Read(ctx, judge.NewEngine(p), name, data, line)
	if err != nil {
		return lick.Lick{}, fmt.Errorf("%s: %w", name, err)
	}
	for _, s := range r.Remarks {
		fmt.Fprintf(e.err, "%s: %s\n", name, s)
	}
	return r.Lick, nil
}

// unwrapPath is what went wrong with a file, without the operation's name.
func unwrapPath(err error) error {
	if p, ok := err.(*os.PathError); ok {
		return p.Err
	}
	return err
}

// write puts a file in place whole or not at all.
func write(name string, data []byte) error {
	tmp, err := os.CreateTemp(filepath.Dir(name), ".ornamen-*")
	if err != nil {
		return fmt.Errorf("%s cannot be written: %w", name, unwrapPath(err))
	}
	defer os.Remove(tmp.Name())
	_, err = tmp.Write(data)
	if err == nil {
		err = tmp.Sync()
	}
	if cerr := tmp.Close(); err == nil {
		err = cerr
	}
	if err == nil {
		err = os.Chmod(tmp.Name(), 0o644)
	}
	if err == nil {
		err = os.Rename(tmp.Name(), name)
	}
	if err != nil {
		return fmt.Errorf("%s cannot be written: %w", name, unwrapPath(err))
	}
	return nil
}

// convert reads one format and writes another, both told by their endings. What the other
// format does not hold is lost in it and not in the file that was read.
func convert(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	o := optionsOf(e, fs, true)
	o.line = fs.Int("line", 0, "`N` which line of a file that holds several, counted from 1")
	bare := fs.Bool("bare", false, "leave out the fingers and strokes that are only proposed")
	rest, err := parse(fs, args, 2, "the file to read and the file to write")
	if err != nil {
		return err
	}
	out, err := format.ByFile(rest[1])
	if err != nil {
		return err
	}
	p, l, err := o.playerAnd(ctx, rest[0])
	if err != nil {
		return err
	}
	var data bytes.Buffer
	if err := handover.Write(ctx, judge.NewEngine(p), &data, l, out, *bare); err != nil {
		return err
	}
	return write(rest[1], data.Bytes())
}
