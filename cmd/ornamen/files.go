package main

import (
	"context"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"

	"ornamen/core/lick"
	"ornamen/format"
)

// codec reads and writes one format.
type codec struct {
	decode func([]byte) (lick.Lick, error)
	encode func(lick.Lick) []byte
}

var codecs = map[string]codec{
	".json": {lick.Parse, lick.Lick.Encode},
	".tab":  {format.DecodeTab, format.EncodeTab},
}

func codecFor(name string) (codec, error) {
	c, ok := codecs[strings.ToLower(filepath.Ext(name))]
	if !ok {
		return c, fmt.Errorf("%s: the name must end in .json or .tab", name)
	}
	return c, nil
}

// read reads a lick file of any format by its name.
func read(name string) (lick.Lick, error) {
	c, err := codecFor(name)
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
	l, err := c.decode(data)
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
	rest, err := parse(newFlags(), args, 2, "the file to read and the file to write")
	if err != nil {
		return err
	}
	out, err := codecFor(rest[1])
	if err != nil {
		return err
	}
	l, err := read(rest[0])
	if err != nil {
		return err
	}
	return write(rest[1], out.encode(l))
}
