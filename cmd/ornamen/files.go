package main

import (
	"context"
	"fmt"
	"io"
	"os"
	"path/filepath"

	"ornamen/core/lick"
	"ornamen/format"
)

// read reads a lick file of any format by its name.
func read(name string) (lick.Lick, error) {
	c, err := format.ByFile(name)
	if err != nil {
		return lick.Lick{}, err
	}
	f, err := os.Open(name)
	if err != nil {
		return lick.Lick{}, fmt.Errorf("%s cannot be read: %w", name, unwrapPath(err))
	}
	defer f.Close()
	data, err := io.ReadAll(io.LimitReader(f, lick.MaxBytes+1))
	if err != nil {
		return lick.Lick{}, fmt.Errorf("%s cannot be read: %w", name, unwrapPath(err))
	}
	l, err := c.Read(data)
	if err != nil {
		return lick.Lick{}, fmt.Errorf("%s: %w", name, err)
	}
	return l, nil
}

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

func convert(_ context.Context, _ env, args []string) error {
	fs := newFlags()
	o := optionsOf(fs, true)
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
	return write(rest[1], out.Write(l))
}
