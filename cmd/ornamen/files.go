package main

import (
	"context"
	"fmt"
	"io"
	"os"
	"path/filepath"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/format"
)

// read reads a lick file of any format by its name, with remarks on what of it was read
// otherwise than it stands there.
func read(name string) (l lick.Lick, remarks []string, err error) {
	if _, err := format.ByFile(name); err != nil {
		return l, nil, err
	}
	f, err := os.Open(name)
	if err != nil {
		return l, nil, fmt.Errorf("%s cannot be read: %w", name, unwrapPath(err))
	}
	defer f.Close()
	data, err := io.ReadAll(io.LimitReader(f, lick.MaxBytes+1))
	if err != nil {
		return l, nil, fmt.Errorf("%s cannot be read: %w", name, unwrapPath(err))
	}
	if l, remarks, err = format.Import(name, data); err != nil {
		return l, nil, fmt.Errorf("%s: %w", name, err)
	}
	return l, remarks, nil
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

// convert reads one format and writes another, both told by their endings.
func convert(ctx context.Context, e env, args []string) error {
	fs := newFlags()
	o := optionsOf(e, fs, true)
	rest, err := parse(fs, args, 2, "the file to read and the file to write")
	if err != nil {
		return err
	}
	out, err := format.ByFile(rest[1])
	if err != nil {
		return err
	}
	l, err := o.read(rest[0])
	if err != nil {
		return err
	}
	if out.Read == nil { // for the eye and the ear: with the hands that are open found
		player, err := o.player()
		if err != nil {
			return err
		}
		r, err := judge.NewEngine(player).Check(ctx, l)
		if err != nil {
			return err
		}
		l = r.Lick
	}
	return write(rest[1], out.Write(l))
}
